"""The tape list: what the outline measures beside what a maker's tape says."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ypsicline.core.errors import Refused
from ypsicline.core.trueing.shape import Shape, TrueEdge, letter, true_edges

__all__ = ["TapeMeasure", "TapeReading", "read_tape"]


@dataclass(frozen=True)
class TapeMeasure:
    """A control measure: straight between two joints (`between`), or along the edge after a joint (`edge`).

    `tape_mm` is what the maker's tape says; None while it hasn't been typed.
    """

    between: tuple[int, int] | None = None
    edge: int | None = None
    tape_mm: float | None = None


@dataclass(frozen=True)
class TapeReading:
    """A measure's name, what the outline says, and outline − tape (positive: the outline is larger), mm."""

    name: str
    outline_mm: float
    tape_mm: float | None
    apart_mm: float | None
    within_error: bool | None


def read_tape(
    shape: Shape, measures: Sequence[TapeMeasure], edges: Sequence[TrueEdge] | None = None
) -> tuple[TapeReading, ...]:
    """The list of measures, read off the shape; raises `Refused` for a corner or an edge that isn't there."""
    joints = shape.outline.joints
    edges = edges or true_edges(shape.outline, shape.tolerance_mm)
    readings = []
    for m in measures:
        if m.between is not None:
            a, b = m.between
            _known(max(a, b), min(a, b), len(joints))
            name, outline = f"{letter(a)} – {letter(b)}", math.dist(joints[a].point, joints[b].point)
        elif m.edge is not None:
            _known(m.edge, m.edge, len(joints))
            name, outline = f"along {edges[m.edge].name}", edges[m.edge].length_mm
        else:
            raise Refused("A tape measure runs between two corners or along an edge; name one.", "tape")
        apart = None if m.tape_mm is None else outline - m.tape_mm
        # a tape is read to about a millimetre, and both ends of the outline may be off
        close = None if apart is None else abs(apart) <= 1.0 + 2 * (shape.error_mm or 0.5)
        readings.append(TapeReading(name, outline, m.tape_mm, apart, close))
    return tuple(readings)


def _known(high: int, low: int, count: int) -> None:
    if low < 0 or high >= count:
        raise Refused("This measure's corner has been removed; take the measure off the list.", "tape")
