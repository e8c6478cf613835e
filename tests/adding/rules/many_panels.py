"""A rule of checking that the project doesn't have: too many panels to be told apart."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from ypsicline.core.findings import Finding
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import message
from ypsicline.core.pattern.panel import DraftedPanel


def check(job: JobDocument, drafted: Sequence[DraftedPanel]) -> Iterable[Finding]:
    """A look at more than one panel."""
    if len(job.panels) > 1:
        yield Finding("look", message("panels", count=len(job.panels)))
