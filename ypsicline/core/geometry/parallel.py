"""The exact parallel of an edge."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from ypsicline.core.geometry.edges import Array, Edge, Point, circle_of, derivatives_at, points_at

__all__ = ["parallel"]

CURVE_TOLERANCE_MM = 0.002
MAX_PIECES = 256


@lru_cache(maxsize=2048)
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
    (ax, ay), (bx, by) = edge.start, edge.end
    length = math.hypot(bx - ax, by - ay) or 1.0
    dx, dy = distance_mm * (by - ay) / length, distance_mm * (ax - bx) / length
    return Edge("line", ((ax + dx, ay + dy), (bx + dx, by + dy)))


def _parallel_curve(edge: Edge, distance_mm: float) -> tuple[Point, ...]:
    """Every Bézier halved until its piece fits; all pieces of one size are worked out together."""
    n = (len(edge.points) - 1) // 3
    a = np.arange(n) / n
    b = (np.arange(n) + 1) / n
    starts: list[Array] = []
    fitted: list[Array] = []
    while len(a):
        pieces, errors = _hermite(edge, distance_mm, a, b)
        fits = (errors <= CURVE_TOLERANCE_MM) | ((b - a) * n <= 1 / MAX_PIECES)
        starts.append(a[fits])
        fitted.append(pieces[fits])
        a, b = a[~fits], b[~fits]
        middle = (a + b) / 2
        a, b = np.concatenate([a, middle]), np.concatenate([middle, b])
    pieces = np.concatenate(fitted)[np.argsort(np.concatenate(starts))]
    return _points(np.vstack([pieces[0, :1], pieces[:, 1:].reshape(-1, 2)]))


def _hermite(edge: Edge, d: float, a: Array, b: Array) -> tuple[Array, Array]:
    """For the spans `a` to `b` (m,), cubic Béziers (m, 4, 2) along the parallel, and how far each strays from it."""
    # a hair inside each Bézier's ends, so that a joint's derivative is taken on the right side
    inset = (b - a) * 1e-7
    u = np.linspace(0, 1, 9)
    t = ((a + inset)[:, None] * (1 - u) + (b - inset)[:, None] * u).ravel()
    first, second = derivatives_at(edge, t)
    speed = np.hypot(*first.T)
    flat = speed < 1e-9
    if flat.any():
        away = np.repeat(b - a, 9) * 1e-3 * np.where(np.tile(u, len(a)) < 0.5, 1, -1)
        first, second = derivatives_at(edge, np.where(flat, t + away, t))
        speed = np.maximum(np.hypot(*first.T), 1e-12)
    normal = np.column_stack([first[:, 1], -first[:, 0]]) / speed[:, None]
    bend = (first[:, 0] * second[:, 1] - first[:, 1] * second[:, 0]) / speed**3
    exact = (points_at(edge, t) + d * normal).reshape(-1, 9, 2)
    slope = (first * (1 + d * bend)[:, None]).reshape(-1, 9, 2) * ((b - a) / 3)[:, None, None]
    ends = exact[:, 0], exact[:, -1]
    c = np.stack([ends[0], ends[0] + slope[:, 0], ends[1] - slope[:, -1], ends[1]], axis=1)
    v = 1 - u
    weights = np.stack([v**3, 3 * v * v * u, 3 * v * u * u, u**3], axis=1)
    approx = np.einsum("uk,mkx->mux", weights, c)
    # only the distance across the exact parallel counts, not along it
    across = ((approx - exact) * normal.reshape(-1, 9, 2)).sum(axis=2)
    return c, np.abs(across).max(axis=1)


def _points(a: Array) -> tuple[Point, ...]:
    return tuple((float(x), float(y)) for x, y in a)
