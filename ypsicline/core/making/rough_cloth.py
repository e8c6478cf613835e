"""How much cloth a job takes, roughly: the boxes of its panels in rows, before any lay plan."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from ypsicline.core.job import JobDocument
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["rough_cloth"]

USUAL_WIDTH_MM = 1400.0
# what is lost between the pieces
_MORE = 1.15


def rough_cloth(job: JobDocument, drafts: Sequence[DraftedPanel]) -> tuple[Message, ...]:
    """Of each cloth the length to buy, as wide as a cover of it says or as cloth mostly is: its panels' boxes along their
    grain, as often as they are cut, in rows across the cloth, and 15 % for what lies between."""
    cloth_of = {p.id: p.cloth for p in job.panels}
    widths: dict[str, float] = {}
    for cover in job.covers:
        for _, panel_id in cover.panels:
            if panel_id in cloth_of:
                widths.setdefault(cloth_of[panel_id], cover.family.choices.usable_width)
    boxes: dict[str, list[tuple[float, float]]] = {}
    for panel in drafts:
        halves = 2 if panel.on_fold else 1
        boxes.setdefault(panel.cloth, []).extend([_box(panel)] * (panel.pieces * halves))
    lines = []
    for cloth, own in boxes.items():
        width = widths.get(cloth, USUAL_WIDTH_MM)
        lines.append(message("cloth_roughly", cloth=cloth, width_mm=width, length_mm=_MORE * _rows(own, width)))
    return tuple(lines)


def _box(panel: DraftedPanel) -> tuple[float, float]:
    """How long a panel is along its grain and across it, mm."""
    grain = next((m.points for m in panel.marks if m.kind == "grain"), ((0.0, 0.0), (0.0, 1.0)))
    (ax, ay), (bx, by) = grain[0], grain[-1]
    along = np.array([bx - ax, by - ay]) / math.dist(grain[0], grain[-1])
    points = np.asarray(panel.cutting_points)
    return float(np.ptp(points @ along)), float(np.ptp(points @ [-along[1], along[0]]))


def _rows(boxes: Sequence[tuple[float, float]], width: float) -> float:
    """The length of the rows that boxes (along, across) fill, the longest first, each in the first row with room for it. One
    wider than the cloth lies across it where that helps, and else takes as many widths as it needs."""
    length = 0.0
    room: list[float] = []
    for along, across in sorted((_turned(box, width) for box in boxes), reverse=True):
        row = next((k for k, space in enumerate(room) if across <= space), None)
        if row is not None:
            room[row] -= across
            continue
        widths = math.ceil(across / width - 1e-9)
        length += widths * along
        room.append(widths * width - across)
    return length


def _turned(box: tuple[float, float], width: float) -> tuple[float, float]:
    along, across = box
    return (across, along) if across > width >= along else box
