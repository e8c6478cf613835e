"""What a family says of the cover that it has drafted."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from ypsicline.core.covers.of_job import drafted_cover
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.job import JobDocument
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["check"]


def check(job: JobDocument, drafts: Sequence[DraftedPanel]) -> Iterable[Finding]:
    """The findings of every family of the job."""
    for cover in job.covers:
        try:
            yield from drafted_cover(cover.family, job.house).findings
        except Refusal as e:
            yield Finding("stop", e.message, e.place)
