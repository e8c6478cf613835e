"""Pieces cut alike that are likely to be a left and a right one."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from ypsicline.core.drafting.draft import without_companions
from ypsicline.core.errors import Place
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.likeness import SAME_MM, apart_mirrored
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import message
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["check"]


def check(job: JobDocument, drafts: Sequence[DraftedPanel]) -> Iterable[Finding]:
    """A look for each panel of the job of which an even number is cut, all of one hand, that isn't its own mirror image."""
    for panel in without_companions(drafts, job.panels):
        if panel.hand != "single" or panel.on_fold or panel.count % 2:
            continue
        apart = apart_mirrored(panel.seam_points)
        if apart > SAME_MM:
            text = message("hands_alike", panel=panel.name, count=panel.count, apart_mm=apart)
            yield Finding("look", text, Place(panel.name))
