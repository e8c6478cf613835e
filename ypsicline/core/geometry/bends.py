"""How tightly an edge bends."""

from __future__ import annotations

from ypsicline.core.geometry.beziers import bends_along
from ypsicline.core.geometry.edges import Edge, circle_of

__all__ = ["tightest", "tightest_concave", "tightest_convex"]

_STRAIGHT = 1e-6


def tightest(edge: Edge) -> float | None:
    """The least radius in mm with which the edge bends to either side; None for a straight one."""
    least, greatest = _bends(edge)
    return _radius(max(-least, greatest))


def tightest_concave(edge: Edge) -> float | None:
    """The least radius in mm where the edge bends to its right (inward on an outline); None where it doesn't."""
    return _radius(-_bends(edge)[0])


def tightest_convex(edge: Edge) -> float | None:
    """The least radius in mm where the edge bends to its left (outward on an outline); None where it doesn't."""
    return _radius(_bends(edge)[1])


def _bends(edge: Edge) -> tuple[float, float]:
    """The least and the greatest curvature, 1/mm, positive to the left."""
    if edge.kind == "curve":
        bend = bends_along(edge.points)[2]
        return float(bend.min()), float(bend.max())
    circle = circle_of(edge) if edge.kind == "arc" else None
    if circle is None:
        return 0.0, 0.0
    bend_one = (1 if circle.sweep > 0 else -1) / circle.radius
    return bend_one, bend_one


def _radius(bend: float) -> float | None:
    return 1 / bend if bend > _STRAIGHT else None
