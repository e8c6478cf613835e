"""One edge of an outline: a line, an arc, or a smooth curve of cubic Béziers.

A position on an edge is a parameter t from 0 (start) to 1 (end). On a line and an arc it is
in proportion to length; on a curve of n Béziers, t·n counts Béziers and the fraction is the
Bézier's own parameter.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal, TypeVar

import numpy as np
from numpy.typing import NDArray

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.beziers import as_pairs, cubic_at, cubics_at, flat_points, power_form, steps_along
from ypsicline.core.messages import message

__all__ = [
    "Array", "Circle", "Edge", "EdgeKind", "Point", "as_curve", "circle_of", "edge_length", "flatten", "parameters",
    "point_at", "points_at", "reverse_edge", "split_edge", "tangent_at", "transformed",
]  # fmt: skip

Point = tuple[float, float]
EdgeKind = Literal["line", "arc", "curve"]
Array = NDArray[np.float64]

FARTHEST_MM = 1e6
FLATTEN_MM = 0.01
MAX_CURVE_POINTS = 3 * 2000 + 1
# a curve's length is kept at 32 steps of each Bézier, which a hairpin needs; within one of those six nodes from 0 to 1 are enough
_SPANS = 32
_STEP_NODES, _STEP_WEIGHTS = (
    (v / 2 + k) / _SPANS for v, k in zip(np.polynomial.legendre.leggauss(12), (0.5, 0), strict=True)
)
_STEPS = (np.arange(_SPANS)[:, None] / _SPANS + _STEP_NODES).ravel()
_FEW_NODES, _FEW_WEIGHTS = (
    (v / 2 + shift).tolist() for v, shift in zip(np.polynomial.legendre.leggauss(6), (0.5, 0), strict=True)
)


@dataclass(frozen=True)
class Edge:
    """An edge, start to end.

    `points` in mm: a line has its two ends; an arc has start, any point on it, end; a curve
    has 1 + 3n points, n cubic Béziers end to end. Raises `Refusal` for another count, for
    numbers that aren't finite, and for an edge of no length.
    """

    kind: EdgeKind
    points: tuple[Point, ...]

    def __post_init__(self) -> None:
        kind, points = self.kind, self.points
        count = len(points)
        if not (kind == "line" and count == 2) and not _is_right(kind, count):
            raise Refusal(message("edge_points_dont_fit", kind=kind, count=count), "edge")
        if count > MAX_CURVE_POINTS:
            raise Refusal(message("curve_too_many_points", max_curve_points=MAX_CURVE_POINTS, count=count), "edge")
        for x, y in points:
            # a number that isn't one compares as false
            if not (-FARTHEST_MM <= x <= FARTHEST_MM and -FARTHEST_MM <= y <= FARTHEST_MM):
                raise Refusal(message("coordinate_out_of_range"), "edge")

    @property
    def start(self) -> Point:
        return self.points[0]

    @property
    def end(self) -> Point:
        return self.points[-1]


def _is_right(kind: str, count: int) -> bool:
    """Whether an edge of this kind has so many points."""
    if kind == "line":
        return count == 2
    if kind == "arc":
        return count == 3
    return kind == "curve" and count >= 4 and count % 3 == 1


EdgeT = TypeVar("EdgeT", bound=Edge)


@dataclass(frozen=True)
class Circle:
    """The circle of an arc edge: `sweep` in radians from `start_angle`, positive counter-clockwise."""

    centre: Point
    radius: float
    start_angle: float
    sweep: float


def circle_of(edge: Edge) -> Circle | None:
    """The circle that an arc lies on; None where its three points lie on one line (within 1 nm of sagitta)."""
    (ax, ay), (bx, by), (cx, cy) = edge.points
    ux, uy, vx, vy = bx - ax, by - ay, cx - ax, cy - ay
    cross = ux * vy - uy * vx
    chord = math.hypot(vx, vy)
    if chord == 0 or abs(cross) <= 1e-6 * chord:
        return None
    uu, vv = ux * ux + uy * uy, vx * vx + vy * vy
    ox, oy = (vy * uu - uy * vv) / (2 * cross), (ux * vv - vx * uu) / (2 * cross)
    start = math.atan2(-oy, -ox)
    end = math.atan2(vy - oy, vx - ox)
    turn = (end - start) % (2 * math.pi)
    # the middle point lies to the right of the chord exactly when the arc runs counter-clockwise
    sweep = turn if cross > 0 else turn - 2 * math.pi
    return Circle((ax + ox, ay + oy), math.hypot(ox, oy), start, sweep)


def points_at(edge: Edge, t: Array) -> Array:
    """Points (n, 2) at the parameters `t` (n,)."""
    p = np.asarray(edge.points, dtype=float)
    if edge.kind == "arc":
        circle = circle_of(edge)
        if circle:
            angle = circle.start_angle + circle.sweep * t
            return np.asarray(circle.centre) + circle.radius * np.column_stack([np.cos(angle), np.sin(angle)])
    if edge.kind == "curve":
        (c0, c1, c2, c3), s = cubics_at(edge.points, t)
        return as_pairs(c0 + s * (c1 + s * (c2 + s * c3)))
    tt = np.asarray(t)[:, None]
    return p[0] * (1 - tt) + p[-1] * tt


def derivatives_at(edge: Edge, t: Array) -> tuple[Array, Array]:
    """First and second derivative (n, 2) by the parameter `t`."""
    p = np.asarray(edge.points, dtype=float)
    t = np.asarray(t, dtype=float)
    if edge.kind == "arc":
        circle = circle_of(edge)
        if circle:
            angle = circle.start_angle + circle.sweep * t
            outward = circle.radius * np.column_stack([np.cos(angle), np.sin(angle)])
            along = np.column_stack([-outward[:, 1], outward[:, 0]])
            return circle.sweep * along, -(circle.sweep**2) * outward
    if edge.kind == "curve":
        (_, c1, c2, c3), s = cubics_at(edge.points, t)
        n = (len(p) - 1) // 3
        return as_pairs(n * (c1 + s * (2 * c2 + 3 * s * c3))), as_pairs(n * n * (2 * c2 + 6 * s * c3))
    first = np.broadcast_to(p[-1] - p[0], (len(t), 2))
    return first.astype(float), np.zeros((len(t), 2))


def point_at(edge: Edge, t: float) -> Point:
    """The point at `t`, from 0 at the start to 1 at the end; beyond them, the ends."""
    if t <= 0:
        return edge.start
    if t >= 1:
        return edge.end
    if edge.kind == "line":
        (ax, ay), (bx, by) = edge.points
        return ax * (1 - t) + bx * t, ay * (1 - t) + by * t
    if edge.kind == "curve":
        (c0, c1, c2, c3), s = cubic_at(edge.points, t)
        at = c0 + s * (c1 + s * (c2 + s * c3))
        return at.real, at.imag
    x, y = points_at(edge, np.array([t]))[0]
    return float(x), float(y)


def tangent_at(edge: Edge, t: float) -> Point:
    """Unit direction of travel at `t`; at a handle of no length, the direction a hair further in."""
    if edge.kind == "line":
        (ax, ay), (bx, by) = edge.points
        length = math.hypot(bx - ax, by - ay) or 1.0
        return (bx - ax) / length, (by - ay) / length
    if edge.kind == "arc" and (circle := circle_of(edge)):
        angle = circle.start_angle + circle.sweep * t
        way = math.copysign(1.0, circle.sweep)
        return -way * math.sin(angle), way * math.cos(angle)
    if edge.kind == "curve" and t in (0.0, 1.0):
        (ax, ay), (bx, by) = edge.points[:2] if t == 0 else edge.points[-2:]
        length = math.hypot(bx - ax, by - ay)
        if length > 1e-9:
            return (bx - ax) / length, (by - ay) / length
    if edge.kind == "curve":
        (_, c1, c2, c3), s = cubic_at(edge.points, t)
        first = c1 + s * (2 * c2 + 3 * s * c3)
        x, y = first.real, first.imag
    else:
        (x, y), _ = (d[0].tolist() for d in derivatives_at(edge, np.array([t])))
    norm = math.hypot(x, y)
    if norm < 1e-9:
        inner = points_at(edge, np.array([max(t - 1e-4, 0.0), min(t + 1e-4, 1.0)]))
        x, y = inner[1] - inner[0]
        norm = math.hypot(x, y) or 1.0
    return float(x / norm), float(y / norm)


def parameters(edge: Edge, tolerance_mm: float = FLATTEN_MM) -> Array:
    """Parameters, 0 and 1 included, whose polyline keeps within `tolerance_mm` of the edge."""
    if edge.kind == "arc" and (circle := circle_of(edge)):
        return np.linspace(0, 1, _steps_along(circle, tolerance_mm) + 1)
    if edge.kind == "curve":
        k, s = steps_along(edge.points, tolerance_mm)
        return np.concatenate([[0.0], (k + s) / ((len(edge.points) - 1) // 3)])
    return np.array([0.0, 1.0])


def flatten(edge: Edge, tolerance_mm: float = FLATTEN_MM) -> Array:
    """Points (n, 2) along the edge, both ends included, within `tolerance_mm` of it; not to be written to."""
    if edge.kind == "curve":
        return flat_points(edge.points, tolerance_mm)
    if edge.kind == "arc":
        return _flat_arc(edge.points, tolerance_mm)
    return np.array([edge.start, edge.end], dtype=float)


@lru_cache(maxsize=4096)
def _flat_arc(points: tuple[Point, ...], tolerance_mm: float) -> Array:
    circle = circle_of(Edge("arc", points))
    steps = _steps_along(circle, tolerance_mm) if circle else 1
    flat = np.empty((steps + 1, 2))
    if circle:
        angles = circle.start_angle + circle.sweep / steps * np.arange(steps + 1)
        flat[:, 0] = circle.centre[0] + circle.radius * np.cos(angles)
        flat[:, 1] = circle.centre[1] + circle.radius * np.sin(angles)
    flat[0], flat[-1] = points[0], points[-1]
    flat.flags.writeable = False
    return flat


def _steps_along(circle: Circle, tolerance_mm: float) -> int:
    """How many even steps of a polyline keep within `tolerance_mm` of an arc; two at least."""
    step = 2 * math.acos(max(1 - tolerance_mm / circle.radius, 0.0)) or 1e-3
    return max(2, math.ceil(abs(circle.sweep) / step))


def edge_length(edge: Edge) -> float:
    """Length along the edge in mm."""
    if edge.kind == "curve":
        return float(_lengths(edge.points)[-1])
    if edge.kind == "arc" and (circle := circle_of(edge)):
        return abs(circle.sweep) * circle.radius
    return math.dist(edge.points[0], edge.points[-1])


@lru_cache(maxsize=4096)
def _lengths(points: tuple[Point, ...]) -> Array:
    """The length of a curve up to each of 32 equal steps of each of its Béziers, 0 first."""
    c1, c2, c3 = power_form(points).T[1:, :, None]
    speed = np.abs(c1 + _STEPS * (2 * c2 + 3 * _STEPS * c3)).reshape(-1, len(_STEP_WEIGHTS))
    return np.concatenate([[0.0], np.cumsum(speed @ _STEP_WEIGHTS)])


def parameter_at_length(edge: Edge, along_mm: float) -> float:
    """The parameter `along_mm` from the start along the edge, held to 0..1."""
    if edge.kind != "curve":
        whole = edge_length(edge)
        return min(max(along_mm / whole, 0.0), 1.0) if whole > 0 else 0.0
    reached = _lengths(edge.points)
    k = int(np.clip(np.searchsorted(reached, along_mm) - 1, 0, len(reached) - 2))
    bezier, span_at = divmod(k, _SPANS)
    _, c1, c2, c3 = power_form(edge.points)[bezier].tolist()
    short, whole = along_mm - float(reached[k]), float(reached[k + 1] - reached[k])
    start = low = span_at / _SPANS
    high = low + 1 / _SPANS
    s = low + (high - low) * short / max(whole, 1e-12)
    for _ in range(30):
        # Newton's step, or a half where it would leave the span
        span = s - start
        nodes = (start + span * u for u in _FEW_NODES)
        over = (
            sum(w * abs(c1 + v * (2 * c2 + 3 * v * c3)) for v, w in zip(nodes, _FEW_WEIGHTS, strict=True)) * span
            - short
        )
        if abs(over) < 1e-7:
            break
        low, high = (low, s) if over > 0 else (s, high)
        speed = abs(c1 + s * (2 * c2 + 3 * s * c3))
        s = s - over / speed if speed > 1e-9 else s
        if not low < s < high:
            s = (low + high) / 2
    return (bezier + s) * _SPANS / (len(reached) - 1)


def place_at_length(edge: Edge, along_mm: float) -> tuple[Point, Point]:
    """The point `along_mm` from the start along the edge, and the unit direction of travel there."""
    if edge.kind != "line":
        t = parameter_at_length(edge, along_mm)
        return point_at(edge, t), tangent_at(edge, t)
    (ax, ay), (bx, by) = edge.points
    length = math.hypot(bx - ax, by - ay) or 1.0
    dx, dy = (bx - ax) / length, (by - ay) / length
    return (ax + along_mm * dx, ay + along_mm * dy), (dx, dy)


def split_edge(edge: EdgeT, t0: float, t1: float) -> EdgeT:
    """The part of the edge from `t0` to `t1`, of the same kind."""
    if edge.kind == "line":
        return replace(edge, points=(point_at(edge, t0), point_at(edge, t1)))
    if edge.kind == "arc":
        return replace(edge, points=tuple(point_at(edge, t) for t in (t0, (t0 + t1) / 2, t1)))
    n = (len(edge.points) - 1) // 3
    p = np.asarray(edge.points, dtype=float)
    points: list[Point] = []
    first, last = min(int(t0 * n), n - 1), min(math.ceil(t1 * n) - 1, n - 1)
    for k in range(first, max(last, first) + 1):
        part = _bezier_part(p[3 * k : 3 * k + 4], max(t0 * n - k, 0.0), min(t1 * n - k, 1.0))
        points += [(float(x), float(y)) for x, y in (part if not points else part[1:])]
    return replace(edge, points=tuple(points))


def reverse_edge(edge: EdgeT) -> EdgeT:
    """The same edge, walked the other way."""
    return replace(edge, points=tuple(reversed(edge.points)))


def _bezier_part(b: Array, u0: float, u1: float) -> Array:
    """The control points of a cubic Bézier between `u0` and `u1` (blossoming)."""

    def blossom(r: float, s: float, q: float) -> Array:
        c = b
        for u in (r, s, q):
            c = c[:-1] * (1 - u) + c[1:] * u
        return np.asarray(c[0])

    return np.array([blossom(u0, u0, u0), blossom(u0, u0, u1), blossom(u0, u1, u1), blossom(u1, u1, u1)])


def as_curve(edge: Edge) -> Edge:
    """The edge as cubic Béziers; of an arc, one for each 30 degrees at most, within 1e-6 of its radius."""
    if edge.kind == "curve":
        return Edge("curve", edge.points)
    circle = circle_of(edge) if edge.kind == "arc" else None
    if circle is None:
        (ax, ay), (bx, by) = edge.start, edge.end
        inner = ((ax + (bx - ax) * s, ay + (by - ay) * s) for s in (1 / 3, 2 / 3))
        return Edge("curve", (edge.start, *inner, edge.end))
    count = max(1, math.ceil(abs(circle.sweep) / math.radians(30) - 1e-9))
    step = circle.sweep / count
    handle = 4 / 3 * math.tan(step / 4) * circle.radius
    points: list[Point] = [edge.start]
    for k in range(count):
        a, b = circle.start_angle + k * step, circle.start_angle + (k + 1) * step
        (px, py), (qx, qy) = (
            (circle.centre[0] + circle.radius * math.cos(v), circle.centre[1] + circle.radius * math.sin(v))
            for v in (a, b)
        )
        points += [
            (px - handle * math.sin(a), py + handle * math.cos(a)),
            (qx + handle * math.sin(b), qy - handle * math.cos(b)),
            (qx, qy),
        ]
    return Edge("curve", (*points[:-1], edge.end))


def transformed(edge: EdgeT, matrix: Array, shift: Point = (0.0, 0.0)) -> EdgeT:
    """The edge under x ↦ `matrix` (2, 2) · x + `shift`; an arc that doesn't stay one becomes a curve."""
    similar = math.isclose(float(matrix[:, 0] @ matrix[:, 1]), 0.0, abs_tol=1e-12) and math.isclose(
        float(np.hypot(*matrix[:, 0])), float(np.hypot(*matrix[:, 1])), rel_tol=1e-12
    )
    own = edge if similar or edge.kind != "arc" else replace(edge, kind="curve", points=as_curve(edge).points)
    images = np.asarray(own.points, dtype=float) @ matrix.T + np.asarray(shift)
    return replace(own, points=tuple((float(x), float(y)) for x, y in images))
