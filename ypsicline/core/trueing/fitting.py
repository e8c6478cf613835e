"""A run of traced points as one line, one arc, or a smooth curve, and how far it keeps from them."""

from __future__ import annotations

import math

import numpy as np
import shapely

from ypsicline.core.geometry.edges import Array, Edge, Point, circle_of, flatten

__all__ = ["deviation", "fit_arc", "fit_curve", "fit_line", "strays_from_arc", "strays_from_line"]

_ROUNDS = 6
MAX_BEZIERS = 60


def fit_line(run: Array) -> Edge:
    """The line from the first to the last point of `run` (n, 2)."""
    return Edge("line", (_point(run[0]), _point(run[-1])))


def fit_arc(run: Array) -> Edge | None:
    """The arc through both ends of `run` (n, 2) that keeps nearest to the rest; None where they lie straight."""
    circle = _nearest_circle(run)
    if circle is None:
        return None
    edge = Edge("arc", (_point(run[0]), _point(circle[2]), _point(run[-1])))
    return edge if circle_of(edge) else None


def strays_from_line(run: Array) -> float:
    """How far `run` (n, 2) strays at most from the line between its ends, mm."""
    return float(_to_segment(run, run[0], run[-1]).max())


def strays_from_arc(run: Array) -> float:
    """How far `run` (n, 2) strays at most from the arc of `fit_arc`, mm; infinite where there is none."""
    circle = _nearest_circle(run)
    if circle is None:
        return math.inf
    centre, radius, _ = circle
    d = run - centre
    return float(np.abs(np.hypot(d[:, 0], d[:, 1]) - radius).max())


def _nearest_circle(run: Array) -> tuple[Array, float, Array] | None:
    """Centre, radius, and the middle of the arc on the points' side, of the circle through both ends of `run`.

    In the chord's frame a circle through both ends is x² + y² − c·x − 2k·y = 0; k is found by
    least squares of that expression.
    """
    chord = run[-1] - run[0]
    c = math.hypot(chord[0], chord[1])
    if c < 1e-6 or len(run) < 3:
        return None
    along = chord / c
    across = np.array([-along[1], along[0]])
    d = run - run[0]
    x, y = d @ along, d @ across
    weight = float(y @ y)
    if weight < 1e-12:
        return None
    k = float(y @ (x * x + y * y - c * x)) / (2 * weight)
    radius = math.hypot(c / 2, k)
    # the arc runs on the side where the points lie
    height = k + (radius if float(y.sum()) > 0 else -radius)
    if abs(height) <= 1e-6:
        return None
    half = run[0] + along * (c / 2)
    return half + across * k, radius, half + across * height


def fit_curve(run: Array, tolerance_mm: float, start: Array | None = None, end: Array | None = None) -> Edge:
    """Cubic Béziers along `run` (n, 2) within `tolerance_mm` where the points allow it.

    `start` and `end` are unit directions of travel at the ends, taken from the points where
    not given. After Schneider, "An algorithm for automatically fitting digitized curves",
    Graphics Gems, 1990: least squares of the handles' lengths, with the points' parameters
    improved in between; split where it is worst, with one direction for both sides.
    """
    start = _direction(run, 0) if start is None else start
    end = _direction(run, len(run) - 1) if end is None else end
    points = [run[0]]
    stack = [(0, len(run) - 1, start, end)]
    while stack:
        a, b, t0, t1 = stack.pop()
        control, error, worst = _bezier(run[a : b + 1], t0, t1)
        if error > tolerance_mm and b - a >= 8 and len(points) // 3 + len(stack) < MAX_BEZIERS:
            cut = min(max(a + worst, a + 3), b - 3)
            direction = _direction(run, cut)
            stack += [(cut, b, direction, t1), (a, cut, t0, direction)]
            continue
        points += list(control[1:])
    return Edge("curve", tuple(_point(p) for p in points))


def deviation(edge: Edge, run: Array) -> float:
    """The largest distance in mm from points `run` (n, 2) to the edge."""
    if edge.kind == "arc" and (circle := circle_of(edge)):
        return float(np.abs(np.hypot(*(run - np.asarray(circle.centre)).T) - circle.radius).max())
    if edge.kind == "line":
        return float(_to_segment(run, np.asarray(edge.start), np.asarray(edge.end)).max())
    return float(shapely.distance(shapely.LineString(flatten(edge)), shapely.points(run)).max())


def _to_segment(points: Array, a: Array, b: Array) -> Array:
    d = b - a
    t = np.clip((points - a) @ d / max(float(d @ d), 1e-12), 0, 1)
    off = points - a - t[:, None] * d
    return np.asarray(np.hypot(off[:, 0], off[:, 1]))


def _bezier(run: Array, t0: Array, t1: Array) -> tuple[Array, float, int]:
    p0, p3 = run[0], run[-1]
    steps = np.concatenate([[0], np.cumsum(np.hypot(*np.diff(run, axis=0).T))])
    whole = float(steps[-1]) or 1.0
    u = steps / whole
    control = np.array([p0, p0 + t0 * whole / 3, p3 - t1 * whole / 3, p3])
    if len(run) < 4:
        return control, 0.0, 0
    error, worst = np.inf, 0
    for _ in range(_ROUNDS):
        b0, b1, b2, b3 = (1 - u) ** 3, 3 * u * (1 - u) ** 2, 3 * u * u * (1 - u), u**3
        a1, a2 = b1[:, None] * t0, b2[:, None] * -t1
        rest = run - (b0 + b1)[:, None] * p0 - (b2 + b3)[:, None] * p3
        c = np.array([[(a1 * a1).sum(), (a1 * a2).sum()], [(a1 * a2).sum(), (a2 * a2).sum()]])
        x = np.array([(a1 * rest).sum(), (a2 * rest).sum()])
        det = float(np.linalg.det(c))
        handles = np.linalg.solve(c, x) if abs(det) > 1e-12 else np.array([whole / 3, whole / 3])
        if (handles < whole * 0.02).any() or (handles > whole * 1.5).any():
            handles = np.array([whole / 3, whole / 3])
        control = np.array([p0, p0 + t0 * handles[0], p3 - t1 * handles[1], p3])
        v = (1 - u)[:, None]
        w = u[:, None]
        at = v**3 * p0 + 3 * v * v * w * control[1] + 3 * v * w * w * control[2] + w**3 * p3
        miss = np.hypot(*(run - at).T)
        worst, error = int(miss.argmax()), float(miss.max())
        d = np.diff(control, axis=0)
        first = 3 * (v * v * d[0] + 2 * v * w * d[1] + w * w * d[2])
        second = 6 * (v * (d[1] - d[0]) + w * (d[2] - d[1]))
        gap = at - run
        slope = (first * first).sum(axis=1) + (gap * second).sum(axis=1)
        step = (gap * first).sum(axis=1) / np.where(np.abs(slope) < 1e-9, 1e-9, slope)
        u = np.maximum.accumulate(np.clip(u - np.clip(step, -0.1, 0.1), 0, 1))
    return control, error, worst


def _direction(run: Array, k: int, reach: int = 6) -> Array:
    """The unit direction of travel at point `k`, from the points up to `reach` away (a local parabola)."""
    a, b = max(k - reach, 0), min(k + reach, len(run) - 1)
    if b - a < 2:
        d = run[b] - run[a]
    else:
        s = np.arange(a, b + 1) - k
        fit = np.polynomial.polynomial.polyfit(s, run[a : b + 1], 2 if b - a >= 4 else 1)
        d = fit[1]
    return np.asarray(d / (np.hypot(*d) or 1.0))


def _point(p: Array) -> Point:
    return float(p[0]), float(p[1])
