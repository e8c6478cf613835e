"""Panels that look the same upside down and aren't, with nothing on them that says which way up."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

import shapely

from ypsicline.core.drafting.draft import without_companions
from ypsicline.core.errors import Place
from ypsicline.core.findings import Finding
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import message
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["check"]

# less does no harm, mm; what differs by more than this share of the panel's size is seen
LEAST_MM = 0.5
SEEN_SHARE = 0.04
NOTCHES_APART_MM = 10.0
_TELLS = frozenset({"top", "tie", "exit", "button", "patch", "note", "dart", "pleat", "slit", "on_fold"})


def check(job: JobDocument, drafts: Sequence[DraftedPanel]) -> Iterable[Finding]:
    """A look for each panel of the job that is cut whole and that differs by little when it is turned by 180°."""
    for panel in without_companions(drafts, job.panels):
        is_marked = panel.way_up or panel.on_fold or any(m.kind in _TELLS for m in panel.marks)
        if is_marked or not LEAST_MM < panel.upside_down_mm <= SEEN_SHARE * panel.size_mm:
            continue
        if not _notches_tell(panel):
            text = message("upside_down_alike", panel=panel.name, apart_mm=panel.upside_down_mm)
            yield Finding("look", text, Place(panel.name))


def _notches_tell(panel: DraftedPanel) -> bool:
    """Whether its notches, turned with it, come to lie where there are none, or others."""
    low_x, low_y, high_x, high_y = shapely.MultiPoint(panel.cutting_points).bounds
    half_turn = [(low_x + high_x - x, low_y + high_y - y, n.double) for n in panel.notches for x, y in (n.on_cut,)]
    there = [(*n.on_cut, n.double) for n in panel.notches]
    return not all(any(math.dist(t[:2], o[:2]) < NOTCHES_APART_MM and t[2] == o[2] for o in there) for t in half_turn)
