"""The exact parallel of an edge."""

from __future__ import annotations

import numpy as np

from ypsicline.core.geometry.edges import Array, Edge, Point, circle_of, derivatives_at, points_at

__all__ = ["parallel"]

CURVE_TOLERANCE_MM = 0.002
MAX_PIECES = 256


def parallel(edge: Edge, distance_mm: float) -> Edge:
    """The edge moved `distance_mm` to its right, which is outward on a counter-clockwise outline.

    A line stays a line and an arc stays an arc with the same centre. A curve becomes cubic
    Béziers within 0.002 mm of the exact parallel (Hermite interpolation of the parallel curve
    P(t) + d·n(t), whose derivative is P'(t)(1 + d·κ(t)) with κ positive for a left turn).
    On a concave edge tighter than the distance the parallel turns back on itself; the loop is
    the caller's to remove.
    """
    if distance_mm == 0:
        return Edge(edge.kind, edge.points)
    if edge.kind == "curve":
        return Edge("curve", _parallel_curve(edge, distance_mm))
    if edge.kind == "arc" and (circle := circle_of(edge)):
        reach = circle.radius + (distance_mm if circle.sweep > 0 else -distance_mm)
        angles = circle.start_angle + circle.sweep * np.array([0.0, 0.5, 1.0])
        moved = np.asarray(circle.centre) + reach * np.column_stack([np.cos(angles), np.sin(angles)])
        return Edge("arc", _points(moved))
    ends = np.asarray([edge.start, edge.end])
    along = ends[1] - ends[0]
    length = float(np.hypot(*along))
    normal = np.array([along[1], -along[0]]) / (length or 1.0)
    return Edge("line", _points(ends + distance_mm * normal))


def _parallel_curve(edge: Edge, distance_mm: float) -> tuple[Point, ...]:
    n = (len(edge.points) - 1) // 3
    # a hair inside each Bézier's ends, so that a joint's derivative is taken on the right side
    spans = [(k / n, (k + 1) / n) for k in range(n)]
    points: list[Array] = []
    while spans:
        a, b = spans.pop(0)
        piece, error = _hermite(edge, distance_mm, a, b)
        if error > CURVE_TOLERANCE_MM and (b - a) * n > 1 / MAX_PIECES:
            middle = (a + b) / 2
            spans[:0] = [(a, middle), (middle, b)]
            continue
        points.extend(piece if not points else piece[1:])
    return _points(np.array(points))


def _hermite(edge: Edge, d: float, a: float, b: float) -> tuple[Array, float]:
    inset = (b - a) * 1e-7
    t = np.linspace(a + inset, b - inset, 9)
    first, second = derivatives_at(edge, t)
    speed = np.hypot(*first.T)
    flat = speed < 1e-9
    if flat.any():
        nudged = np.where(flat, t + (b - a) * 1e-3 * np.where(t < (a + b) / 2, 1, -1), t)
        first, second = derivatives_at(edge, nudged)
        speed = np.maximum(np.hypot(*first.T), 1e-12)
    normal = np.column_stack([first[:, 1], -first[:, 0]]) / speed[:, None]
    bend = (first[:, 0] * second[:, 1] - first[:, 1] * second[:, 0]) / speed**3
    exact = points_at(edge, t) + d * normal
    slope = first * (1 + d * bend)[:, None] * (b - a) / 3
    c = np.array([exact[0], exact[0] + slope[0], exact[-1] - slope[-1], exact[-1]])
    u = np.linspace(0, 1, 9)[:, None]
    v = 1 - u
    approx = v**3 * c[0] + 3 * v * v * u * c[1] + 3 * v * u * u * c[2] + u**3 * c[3]
    # only the distance across the exact parallel counts, not along it
    error = float(np.abs(((approx - exact) * normal).sum(axis=1)).max())
    return c, error


def _points(a: Array) -> tuple[Point, ...]:
    return tuple((float(x), float(y)) for x, y in a)
