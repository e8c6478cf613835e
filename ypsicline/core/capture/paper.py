"""How paper lies that doesn't lie flat: ten shapes, of which a sheet has a little each.

With u and v from 0 to 1 across the sheet, it bows along each axis, 4u(1 - u); so that its rims lie
flat, (4u(1 - u))²; more at one end than at the other, 4u(1 - u)(2v - 1); and each corner curls up
beyond the diagonal that it faces, (u + v - 1)². Paper bends one way at a time, so that these, added
up, come close to what it does; what they miss shows in the corners' misses.

It rests on the table: a sheet that bows upwards by b lies on its rims, one that bows downwards on
its middle, its rims lifted by -b.
"""

from __future__ import annotations

import numpy as np

from ypsicline.core.geometry.edges import Array

__all__ = ["EXPECTED_MM", "SHAPES", "lift", "shapes"]

_BOWS = 2
# of each shape one standard deviation, mm: bows, corners, bows that differ from end to end, bows with level rims
EXPECTED_MM = np.repeat([0.4, 0.4, 0.3, 0.3], [_BOWS, 4, 2, 2])
SHAPES = len(EXPECTED_MM)


def shapes(u: Array, v: Array) -> Array:
    """How far each place (n,) of a sheet is lifted by each shape of size 1 (n, `SHAPES`)."""
    bow_u, bow_v = 4 * u * (1 - u), 4 * v * (1 - v)
    corners = [np.maximum(a + b - 1, 0) ** 2 for a in (u, 1 - u) for b in (v, 1 - v)]
    return np.column_stack([bow_u, bow_v, *corners, bow_u * (2 * v - 1), bow_v * (2 * u - 1), bow_u**2, bow_v**2])


def lift(of_shapes: Array, sizes_mm: Array, soft_mm: float) -> Array:
    """How high places lie over the table (…, n), mm: `of_shapes` (n, `SHAPES`) as of `shapes`, `sizes_mm` (…, n, `SHAPES`)
    those of each place's sheet. Over `soft_mm` a bow may turn from one side to the other."""
    bows = sizes_mm[..., :_BOWS]
    rims_up = ((np.sqrt(bows**2 + soft_mm**2) - bows) / 2).sum(axis=-1)
    return np.asarray((of_shapes * sizes_mm).sum(axis=-1) + rims_up)
