"""What drafting each panel has found."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from ypsicline.core.findings import Finding
from ypsicline.core.job import JobDocument
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["check"]


def check(job: JobDocument, drafts: Sequence[DraftedPanel]) -> Iterable[Finding]:
    """The panels' own findings."""
    return (f for p in drafts for f in p.findings)
