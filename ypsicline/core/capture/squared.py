"""How a captured outline is laid: square to its longest straight edge, else to its symmetry axis."""

from __future__ import annotations

import math

import numpy as np
import shapely

from ypsicline.core.geometry.edges import Array
from ypsicline.core.geometry.likeness import apart_about
from ypsicline.core.geometry.rings import even_ring

__all__ = ["squaring_turn"]

# what strays by less from a line is straight, mm
_STRAIGHT_MM = 0.5
# a straight edge speaks for the whole from this share of the way round on
LEAST_SHARE = 0.12
# corners are rounded off by the photograph: so much of either end doesn't count
_ENDS = 0.06
# an axis is one where both halves lie so near to one another, as a share of the size, and the shape is so much longer than wide
_ALIKE, _LONGER = 0.02, 1.04
# its direction is sought among points no farther apart than this, and whether it is one with so many
_EVEN_MM, _MOST_POINTS = 2.0, 600


def squaring_turn(outline: Array) -> float:
    """By how much to turn an outline (n, 2), radians, at most 45° either way, so that its longest straight edge lies level or
    upright; one without, so that its symmetry axis does; 0 where it has neither."""
    way = _longest_edge(outline)
    if way is None:
        way = _axis(outline)
    if way is None:
        return 0.0
    quarter = math.pi / 2
    return -((way + quarter / 2) % quarter - quarter / 2)


def _longest_edge(outline: Array) -> float | None:
    """The direction of the longest straight run, radians; None where none is long."""
    ring = shapely.LinearRing(outline)
    corners = np.asarray(ring.simplify(_STRAIGHT_MM).coords)
    # a ring is simplified from its first point on, which may lie in the middle of its longest edge
    start = int(np.hypot(*np.diff(corners, axis=0).T).argmin())
    from_corner = np.roll(outline, -int(np.hypot(*(outline - corners[start]).T).argmin()), axis=0)
    corners = np.asarray(shapely.LinearRing(from_corner).simplify(_STRAIGHT_MM).coords)
    steps = np.diff(corners, axis=0)
    lengths = np.hypot(*steps.T)
    k = int(lengths.argmax())
    if lengths[k] < LEAST_SHARE * ring.length:
        return None
    along = (from_corner - corners[k]) @ steps[k] / lengths[k] ** 2
    aside = np.abs((from_corner - corners[k]) @ np.array([-steps[k][1], steps[k][0]]) / lengths[k])
    own = from_corner[(along > _ENDS) & (along < 1 - _ENDS) & (aside <= _STRAIGHT_MM)]
    return _direction(own) if len(own) >= 3 else float(np.arctan2(*steps[k][::-1]))


def _axis(outline: Array) -> float | None:
    """The direction of the symmetry axis, radians; None where there is none, or one can't tell which."""
    ring = shapely.LinearRing(outline)
    even = np.asarray(ring.segmentize(_EVEN_MM).coords)[:-1]
    body = shapely.Polygon(outline)
    centred = even - np.asarray(body.centroid.coords[0])
    values = np.linalg.eigvalsh(np.cov(centred.T))
    if values[1] < _LONGER**2 * values[0]:
        return None
    way = _direction(centred)
    fewer = even_ring(centred, max(_EVEN_MM, ring.length / _MOST_POINTS))[0]
    nearest = min(apart_about(fewer, way), apart_about(fewer, way + math.pi / 2))
    return way if nearest <= _ALIKE * math.sqrt(body.area) else None


def _direction(points: Array) -> float:
    """The direction in which points spread most, radians."""
    _, ways = np.linalg.eigh(np.cov(points.T))
    return float(np.arctan2(ways[1, -1], ways[0, -1]))
