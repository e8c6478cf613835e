"""How alike a ring is to itself turned round, or to its mirror image."""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import lru_cache

import numpy as np
import scipy
import shapely

from ypsicline.core.geometry.edges import Array, Point

__all__ = ["SAME_MM", "apart_about", "apart_mirrored", "apart_upside_down"]

# nearer than this to its own mirror image, either hand will do, mm
SAME_MM = 1.0

_FLAT_MM = 0.1
_MOST_POINTS = 240
# moments so alike leave every direction open as an axis
_ROUND = 0.02
_AXES = 36


def apart_upside_down(points: Sequence[Point]) -> float:
    """How far a closed polyline (n, 2) and itself turned by 180° about the middle of its box are apart at most, mm."""
    ring = _plain(points)
    middle = (ring.min(axis=0) + ring.max(axis=0)) / 2
    return _apart(ring, 2 * middle - ring)


@lru_cache(maxsize=256)
def apart_mirrored(points: Sequence[Point]) -> float:
    """How far a closed polyline (n, 2) and its mirror image, turned as suits best about its centroid, are apart at most, mm."""
    ring = _plain(points)
    body = shapely.Polygon(ring)
    ring = ring - np.asarray(body.centroid.coords[0])
    spread = np.cov(_even(ring).T)
    values, ways = np.linalg.eigh(spread)
    is_round = values[0] > (1 - _ROUND) * values[1]
    axes = np.arange(_AXES) * math.pi / _AXES if is_round else np.arctan2(ways[1], ways[0])

    def apart(axis: float) -> float:
        return apart_about(ring, axis)

    best = min(axes, key=apart)
    width = math.pi / _AXES
    refined = scipy.optimize.minimize_scalar(
        apart, bounds=(best - width, best + width), method="bounded", options={"maxiter": 20}
    )
    return float(min(refined.fun, apart(best)))


def apart_about(ring: Array, axis: float) -> float:
    """How far a closed polyline (n, 2) and its mirror image about the line through the origin in this direction, radians, are
    apart at most, mm."""
    c, s = math.cos(2 * axis), math.sin(2 * axis)
    return _apart(ring, ring @ np.array([[c, s], [s, -c]]))


def _plain(points: Sequence[Point]) -> Array:
    ring = shapely.LinearRing(points).simplify(_FLAT_MM)
    return np.asarray(ring.coords)[:-1]


def _even(ring: Array) -> Array:
    line = shapely.LinearRing(ring)
    at = np.linspace(0, line.length, _MOST_POINTS, endpoint=False)
    return np.asarray(shapely.get_coordinates(shapely.line_interpolate_point(line, at)))


def _apart(one: Array, other: Array) -> float:
    a, b = shapely.LinearRing(one), shapely.LinearRing(other)
    return float(shapely.hausdorff_distance(a, b))
