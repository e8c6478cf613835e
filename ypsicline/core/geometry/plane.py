"""Points and directions in the plane, as pairs of floats: what numpy is too slow for, one at a time."""

from __future__ import annotations

import math

from ypsicline.core.geometry.edges import Array, Point

__all__ = ["along", "as_point", "cross", "dot", "meet", "minus", "turn_between", "unit"]


def as_point(p: Array | Point) -> Point:
    """The first two coordinates of an array, as floats."""
    return float(p[0]), float(p[1])


def minus(p: Point, q: Point) -> Point:
    """The vector from `q` to `p`."""
    return p[0] - q[0], p[1] - q[1]


def dot(p: Point, q: Point) -> float:
    """The scalar product."""
    return p[0] * q[0] + p[1] * q[1]


def cross(p: Point, q: Point) -> float:
    """The area that two vectors span, positive where the second lies to the left."""
    return p[0] * q[1] - p[1] * q[0]


def along(p: Point, direction: Point, distance: float) -> Point:
    """`p` moved by `distance` along `direction`."""
    return p[0] + distance * direction[0], p[1] + distance * direction[1]


def unit(p: Point) -> Point:
    """`p` at length 1; (0, 0) stays."""
    length = math.hypot(*p)
    return (p[0] / length, p[1] / length) if length else (0.0, 0.0)


def meet(p: Point, u: Point, q: Point, v: Point) -> Point | None:
    """Where the line through `p` along `u` meets the one through `q` along `v`; None where they are parallel."""
    across = u[0] * v[1] - u[1] * v[0]
    if abs(across) < 1e-9:
        return None
    s = ((q[0] - p[0]) * v[1] - (q[1] - p[1]) * v[0]) / across
    return p[0] + s * u[0], p[1] + s * u[1]


def turn_between(u: Point, v: Point) -> float:
    """The angle from `u` to `v` in radians, positive to the left, within ±π."""
    return math.atan2(u[0] * v[1] - u[1] * v[0], u[0] * v[0] + u[1] * v[1])
