"""The middle and the quarters of an outline, as the points that are notched and met."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Point, edge_length, parameter_at_length, point_at
from ypsicline.core.messages import message
from ypsicline.core.trueing.shape import Division, Shape, TrueEdge, known_joint

__all__ = ["PartMark", "Parts", "divide", "part_marks"]

Parts = Literal[0, 2, 4, 8]
_ON_CORNER_MM = 0.5


@dataclass(frozen=True)
class PartMark:
    """A place `along_mm` the edge of this number, the `share` of the way round from the start."""

    edge: int
    along_mm: float
    point: Point
    share: float


def divide(shape: Shape, joint: int, parts: Parts) -> Shape:
    """Mark the halves, quarters or eighths of the way round the outline from a joint; 0 parts: none."""
    known_joint(shape.outline, joint)
    division = Division(shape.outline.joints[joint].point, parts) if parts else None
    return replace(shape, division=division)


def part_marks(shape: Shape, edges: Sequence[TrueEdge]) -> tuple[PartMark, ...]:
    """Where the marks stand along the trued outline's `edges`; raises `Refusal` once the start's joint is gone."""
    if shape.division is None:
        return ()
    start = min(
        range(len(edges)), key=lambda k: _far(edges[k].start, shape.division.start if shape.division else (0, 0))
    )
    if _far(edges[start].start, shape.division.start) > 25:
        raise Refusal(message("quarter_corner_gone"), "divide")
    lengths = [edge_length(e) for e in edges]
    girth = sum(lengths)
    marks = []
    for part in range(shape.division.parts):
        share = part / shape.division.parts
        rest, k = share * girth, start
        while rest > lengths[k] - _ON_CORNER_MM and rest > _ON_CORNER_MM:
            rest -= lengths[k]
            k = (k + 1) % len(edges)
        rest = min(max(rest, 0.0), lengths[k])
        marks.append(PartMark(k, rest, point_at(edges[k], parameter_at_length(edges[k], rest)), share))
    return tuple(marks)


def _far(a: Point, b: Point) -> float:
    return float(((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2) ** 0.5)
