"""The tape list: what the outline measures beside what a maker's tape says."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message
from ypsicline.core.trueing.shape import Shape, TrueEdge, letter, true_edges

__all__ = ["TapeMeasure", "TapeReading", "follow", "read_tape"]

SAME_CORNER_MM = 5.0


@dataclass(frozen=True)
class TapeMeasure:
    """A control measure: straight between two joints (`between`), or along the edge after a joint (`edge`).

    `tape_mm` is what the maker's tape says; None while it hasn't been typed.
    """

    between: tuple[int, int] | None = None
    edge: int | None = None
    tape_mm: float | None = None
    id: str = ""


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
    """The list of measures, read off the shape; raises `Refusal` for a corner or an edge that isn't there."""
    joints = shape.outline.joints
    edges = edges or true_edges(shape.outline, shape.tolerance_mm)
    readings = []
    for m in measures:
        if m.between is not None:
            a, b = m.between
            _check_corners(max(a, b), min(a, b), len(joints))
            name, outline = f"{letter(a)} – {letter(b)}", math.dist(joints[a].point, joints[b].point)
        elif m.edge is not None:
            _check_corners(m.edge, m.edge, len(joints))
            name, outline = f"along {edges[m.edge].name}", edges[m.edge].length_mm
        else:
            raise Refusal(message("tape_measure_without_ends"), "tape")
        apart = None if m.tape_mm is None else outline - m.tape_mm
        # a tape is read to about a millimetre, and both ends of the outline may be off
        close = None if apart is None else abs(apart) <= 1.0 + 2 * (shape.error_mm or 0.5)
        readings.append(TapeReading(name, outline, m.tape_mm, apart, close))
    return tuple(readings)


def _check_corners(high: int, low: int, count: int) -> None:
    if low < 0 or high >= count:
        raise Refusal(message("measure_corner_removed"), "tape")


def follow(before: Shape, after: Shape, measures: Sequence[TapeMeasure]) -> tuple[TapeMeasure, ...]:
    """The list of measures on `before` as it stands on `after`, whose corners may be numbered anew.

    A corner is the same where one stands in its place; what is left over is matched in order where
    there are as many on both. Measures to a corner that is gone are dropped.
    """
    same = _same_corners(before, after)
    followed = []
    for m in measures:
        if m.between and all(k in same for k in m.between):
            followed.append(replace(m, between=(same[m.between[0]], same[m.between[1]])))
        elif m.edge is not None and m.edge in same:
            followed.append(replace(m, edge=same[m.edge]))
    return tuple(followed)


def _same_corners(before: Shape, after: Shape) -> dict[int, int]:
    old, new = before.outline.joints, after.outline.joints
    pairs = sorted((math.dist(a.point, b.point), i, k) for i, a in enumerate(old) for k, b in enumerate(new))
    same: dict[int, int] = {}
    corners: set[int] = set()
    for apart, i, k in pairs:
        if apart <= SAME_CORNER_MM and i not in same and k not in corners:
            same[i] = k
            corners.add(k)
    rest = [i for i in range(len(old)) if i not in same]
    free = [k for k in range(len(new)) if k not in corners]
    if len(rest) == len(free):
        same.update(zip(rest, free, strict=True))
    return same
