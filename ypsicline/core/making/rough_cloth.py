"""How much cloth a job takes, roughly: by the boxes of its panels, before any lay plan."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ypsicline.core.job import JobDocument
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["rough_cloth"]

USUAL_WIDTH_MM = 1400.0
# what is lost between the pieces
_MORE = 1.15


def rough_cloth(job: JobDocument, drafted: Sequence[DraftedPanel]) -> tuple[Message, ...]:
    """Of each cloth the length to buy, as wide as a cover of it says or as cloth mostly is: its panels' boxes, as often as
    they are cut, and 15 % for what lies between."""
    widths = {c.family.choices.cloth: c.family.choices.usable_width for c in reversed(job.covers)}
    areas: dict[str, float] = {}
    for panel in drafted:
        wide, high = np.ptp(np.asarray(panel.cutting_points), axis=0).tolist()
        pieces = panel.count * (2 if panel.hand == "pair" else 1) * (2 if panel.on_fold else 1)
        areas[panel.cloth] = areas.get(panel.cloth, 0.0) + pieces * wide * high
    lines = []
    for cloth, area in areas.items():
        width = widths.get(cloth, USUAL_WIDTH_MM)
        length = _MORE * area / width
        lines.append(message("cloth_roughly", cloth=cloth, width_mm=width, length_mm=length))
    return tuple(lines)
