"""Outlines that a family is given: as points, as an outline file has them, or as edges."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Any

from pydantic import BeforeValidator, WithJsonSchema

from ypsicline.core.covers.parts.edging import Edging
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Edge, Point
from ypsicline.core.geometry.rings import flatten_ring, is_counter_clockwise, reverse_ring, ring_length
from ypsicline.core.messages import message
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.trueing.shape import TrueEdge, letter, true_edges, true_up

__all__ = ["OutlineEdges", "ring_of_points", "size_of", "with_edging"]

# an outline of so few points is one whose corners somebody typed
FEW_POINTS = 40
MOST_POINTS = 20_000


def ring_of_points(points: Sequence[Point]) -> tuple[Edge, ...]:
    """A ring through points: straight from one to the next where they are few, trued up where they are a trace. Raises
    `Refusal` for fewer than three, for too many, and where two in a row are the same."""
    if points and points[0] == points[-1]:
        points = points[:-1]
    if not 3 <= len(points) <= MOST_POINTS:
        raise Refusal(message("outline_points_out_of_range", count=len(points), most=MOST_POINTS), "shape")
    if len(points) > FEW_POINTS:
        shape = true_up(points)
        return tuple(Edge(e.kind, e.points) for e in true_edges(shape.outline, shape.tolerance_mm))
    ends = [*points[1:], points[0]]
    if any(a == b for a, b in zip(points, ends, strict=True)):
        raise Refusal(message("outline_point_twice"), "shape")
    ring = tuple(Edge("line", (a, b)) for a, b in zip(points, ends, strict=True))
    return ring if is_counter_clockwise(ring) else reverse_ring(ring)


def _edges(value: Any) -> Any:
    if isinstance(value, dict):
        value = value.get("outline", value)
    if not isinstance(value, (list, tuple)):
        raise Refusal(message("not_an_outline"), "shape")
    if not value or not all(isinstance(p, (list, tuple)) for p in value):
        return value
    try:
        points = [(float(x), float(y)) for x, y in value]
    except (TypeError, ValueError) as e:
        raise Refusal(message("not_an_outline"), "shape") from e
    return ring_of_points(points)


OutlineEdges = Annotated[
    tuple[Edge, ...],
    BeforeValidator(_edges),
    WithJsonSchema({"anyOf": [{"type": "array", "items": {}}, {"type": "object"}]}),
]
"""A closed outline, counter-clockwise, mm: as edges, as points `[[x, y], …]`, or as the content of an outline file."""


def with_edging(outline: Sequence[Edge], edging: Edging) -> tuple[SeamEdge, ...]:
    """An outline as a seam line, all its edges finished alike; they keep their names or are lettered."""
    return tuple(
        edging.edge(e, e.name if isinstance(e, TrueEdge) and e.name else f"side {letter(k)}")
        for k, e in enumerate(outline)
    )


def size_of(outline: Sequence[Edge]) -> tuple[float, float, float]:
    """How wide and how high an outline is, and how long all round, mm."""
    points = flatten_ring(outline)
    width, height = points.max(axis=0) - points.min(axis=0)
    return float(width), float(height), ring_length(outline)
