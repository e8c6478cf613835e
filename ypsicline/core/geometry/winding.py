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


def parted(rings: Sequence[Array]) -> tuple[NDArray[np.object_], list[NDArray[np.int64]]]:
    """The faces (m,) into which closed polylines (n, 2), mm, part the plane, without the outermost; and of each polyline
    how often it winds round each face, positive to the left (m,)."""
    lines = shapely.unary_union([shapely.LinearRing(r) for r in rings], grid_size=GRID_MM)
    faces = shapely.get_parts(shapely.polygonize(shapely.get_parts(lines)))
    inside = shapely.point_on_surface(faces)
    places = np.column_stack([shapely.get_x(inside), shapely.get_y(inside)])
    return faces, [winding_numbers(r, places) for r in rings]


def winding_numbers(ring: Array, places: Array) -> NDArray[np.int64]:
    """How often a closed polyline (n, 2) goes round each of `places` (m, 2), positive to the left; (m,)."""
    after = onward(ring)
    way = after - ring
    x, y = (places[:, k, None] for k in (0, 1))
    left = way[:, 0] * (y - ring[:, 1]) - way[:, 1] * (x - ring[:, 0])
    up = (ring[:, 1] <= y) & (after[:, 1] > y) & (left > 0)
    down = (ring[:, 1] > y) & (after[:, 1] <= y) & (left < 0)
    return np.asarray(up.sum(axis=1) - down.sum(axis=1), dtype=np.int64)
