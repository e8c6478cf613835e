"""What a closed polyline winds round: the plane is parted along it into faces, and each is asked how often.

Parting and joining are GEOS's, on a grid, so that lines which lie on one another are one; a place's
winding number is Sunday's sum over crossings (D. Sunday, Journal of Graphics Tools 6(1), 2001).
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely
from numpy.typing import NDArray

from ypsicline.core.geometry.edges import Array
from ypsicline.core.geometry.rings import onward

__all__ = ["GRID_MM", "parted", "winding_numbers"]

GRID_MM = 1e-5
_CLEAR_MM = 1e-3


def parted(rings: Sequence[Array]) -> tuple[NDArray[np.object_], list[NDArray[np.int64]]]:
    """The faces (m,) into which closed polylines (n, 2), mm, part the plane, without the outermost; and of each polyline
    how often it winds round each face, positive to the left (m,)."""
    lines = shapely.unary_union([shapely.LinearRing(r) for r in rings], grid_size=GRID_MM)
    faces = shapely.get_parts(shapely.polygonize(shapely.get_parts(lines)))
    places = _places_inside(faces)
    return faces, [winding_numbers(r, places) for r in rings]


def _places_inside(faces: NDArray[np.object_]) -> Array:
    """A place (m, 2) inside each face that is clear of its border wherever the face is wide enough."""
    inside = shapely.point_on_surface(faces)
    # that takes the middle of the height, where a face may have a neck
    close = np.flatnonzero(shapely.distance(inside, shapely.boundary(faces)) < _CLEAR_MM)
    if len(close):
        widest = shapely.maximum_inscribed_circle(faces[close], tolerance=_CLEAR_MM)
        inside[close] = shapely.get_point(widest, 0)
    return np.column_stack([shapely.get_x(inside), shapely.get_y(inside)])


def winding_numbers(ring: Array, places: Array) -> NDArray[np.int64]:
    """How often a closed polyline (n, 2) goes round each of `places` (m, 2), positive to the left; (m,)."""
    after = onward(ring)
    way = after - ring
    x, y = (places[:, k, None] for k in (0, 1))
    side = way[:, 0] * (y - ring[:, 1]) - way[:, 1] * (x - ring[:, 0])
    up = (ring[:, 1] <= y) & (after[:, 1] > y) & (side > 0)
    down = (ring[:, 1] > y) & (after[:, 1] <= y) & (side < 0)
    return np.asarray(up.sum(axis=1) - down.sum(axis=1), dtype=np.int64)
