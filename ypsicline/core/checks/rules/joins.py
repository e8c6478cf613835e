"""Joins walked: whether both sides match, and whether their edges are finished as the seam asks (rule 10)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.job import JobDocument
from ypsicline.core.joins.walk import seam_findings, walk, walk_findings
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["check"]


def check(job: JobDocument, drafts: Sequence[DraftedPanel]) -> Iterable[Finding]:
    """What walking each join finds; a join whose edges are gone is a stop."""
    panels = {p.id: p for p in job.panels}
    for join in job.joins:
        try:
            yield from walk_findings(walk(join, panels))
            yield from seam_findings(join, panels)
        except Refusal as e:
            yield Finding("stop", e.message, e.place)
