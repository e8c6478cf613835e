"""Corners where three panels or more meet: at which angles, and whether so many have room there (rule 10)."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Sequence

from ypsicline.core.findings import Finding
from ypsicline.core.job import JobDocument
from ypsicline.core.joins.corners import meeting_corners
from ypsicline.core.messages import message
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["check"]

_ALL_ROUND_DEG = 360
_SAME_DEG = 1.0


def check(job: JobDocument, drafts: Sequence[DraftedPanel]) -> Iterable[Finding]:
    """The corners with the same angles together, and which panels meet there; a look where they make more than all round."""
    names = {p.id: p.name for p in job.panels}
    alike: dict[tuple[int, ...], list[set[str]]] = defaultdict(list)
    for meeting in meeting_corners(job.joins, job.panels):
        angles = tuple(sorted(round(math.degrees(c.angle)) for c in meeting))
        alike[angles].append({names[c.panel] for c in meeting})
    for angles, sets in alike.items():
        panels, count = ", ".join(sorted(set().union(*sets))), len(sets)
        whole = sum(angles)
        each = " + ".join(f"{a}°" for a in angles)
        if whole > _ALL_ROUND_DEG + _SAME_DEG * len(angles):
            yield Finding("look", message("corners_over_all_round", panels=panels, each=each, whole=whole))
        else:
            yield Finding("fine", message("corners_meet", panels=panels, each=each, whole=whole, count=count))
