"""The edge of a drawn shape: its line, and those of the holes that are drawn within."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from dataclasses import replace

import numpy as np

from ypsicline.core.capture.drawn_shapes import DrawnShape
from ypsicline.core.capture.pen_line import PenSide, follow_line
from ypsicline.core.capture.pieces import Mask
from ypsicline.core.capture.placed_edge import MeasuredEdge
from ypsicline.core.capture.rectify import FlatPicture
from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message

__all__ = ["drawn_edge"]

BRIDGED_WARNING = 0.04
# what is outside a hole's line is inside the piece
_OF_HOLES: dict[PenSide, PenSide] = {"centre": "centre", "inner": "outer", "outer": "inner"}


def drawn_edge(
    shape: DrawnShape, picture_of: Callable[[DrawnShape], tuple[FlatPicture, Mask]], side: PenSide
) -> MeasuredEdge:
    """The outline that a shape's line draws, by one `side` of it, with holes, clockwise.

    `picture_of` gives the fine picture of a shape, and where on it (rows, columns) it lies. Raises what `follow_line` raises of
    the outline's own line.
    """
    outline, bridged, doubts = follow_line(*picture_of(shape), shape, side)
    warnings = [message("line_bridged", percent=100 * bridged)] if bridged > BRIDGED_WARNING else []
    holes = []
    for hole in shape.holes:
        with suppress(Refusal):
            line, _, hole_doubts = follow_line(*picture_of(hole), hole, _OF_HOLES[side])
            holes.append((line.outline[::-1], hole_doubts[::-1]))
    if len(holes) < len(shape.holes) or shape.has_touched_loops:
        warnings.append(message("drawn_hole_left_out"))
    rings, doubts_of_holes = (tuple(v) for v in zip(*holes, strict=True)) if holes else ((), ())
    return MeasuredEdge(
        replace(outline, holes=rings), doubts, np.zeros_like(doubts), tuple(warnings), hole_doubts=doubts_of_holes
    )
