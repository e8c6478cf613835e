"""Faced edges whose facing can't be drawn by itself."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from ypsicline.core.drafting.draft import without_companions
from ypsicline.core.drafting.edge_facings import FACING_WIDE_MM, missing_facings
from ypsicline.core.errors import Place
from ypsicline.core.findings import Finding
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import message
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["check"]


def check(job: JobDocument, drafts: Sequence[DraftedPanel]) -> Iterable[Finding]:
    """A look for each panel of the job that lacks one."""
    for panel in without_companions(drafts, job.panels):
        missing = missing_facings(panel)
        if missing:
            text = message("facing_not_drawn", panel=panel.name, count=missing, wide_mm=FACING_WIDE_MM)
            yield Finding("look", text, Place(panel.name))
