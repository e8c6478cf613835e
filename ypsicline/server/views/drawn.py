"""Small shared ways to put geometry into a view."""

from __future__ import annotations

from collections.abc import Sequence

from ypsicline.core.geometry.edges import Edge, Point, tangent_at

__all__ = ["box_of", "polyline", "ways_of"]


def polyline(points: Sequence[Point]) -> str:
    """A closed path with y turned down."""
    return "M" + " ".join(f"{x:.2f} {-y:.2f}" for x, y in points) + " Z"


def box_of(points: Sequence[Point]) -> tuple[float, float, float, float]:
    """x, y of the lower left corner, width and height."""
    if not points:
        return 0.0, 0.0, 100.0, 100.0
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    return min(xs), min(ys), max(xs) - min(xs), max(ys) - min(ys)


def ways_of(edge: Edge) -> tuple[tuple[float, float], tuple[float, float]]:
    """The unit vectors in which an edge leaves its start and arrives at its end, to three decimals: they are only drawn."""
    (ax, ay), (bx, by) = tangent_at(edge, 0.0), tangent_at(edge, 1.0)
    return (round(ax, 3), round(ay, 3)), (round(bx, 3), round(by, 3))
