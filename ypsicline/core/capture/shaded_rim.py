"""Whether the table is shaded beside a piece, by its colours.

Between a piece and a table that is darkened towards it the middle of the step in brightness lies outside the piece. A shaded
table has its own colour still, only less of it: of a pixel's colour as some of the piece's and some of the table's, by least
squares, a shadow leaves the piece's share alone. Where that share is one half the edge is. This is looked at where a shadow can
make the table look like the piece: where the piece is not so much darker that it would take nearly all light.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ypsicline.core.capture.detect import GAMMA
from ypsicline.core.capture.rectify import FlatPicture
from ypsicline.core.capture.snapping import normals, sampled
from ypsicline.core.geometry.edges import Array

__all__ = ["outside_if_shaded"]

# a piece of whose colour so many grey levels aren't the table's in another light is told from a shaded table
LEAST_OWN_COLOUR = 20.0
# a rim's shadow takes at most so much of the light
MOST_SHADED = 0.55
# fewer points than this aren't looked at; and how far to either side of a ring
LEAST_POINTS, REACH_PX, STEP_PX = 20, 8.0, 0.25


def outside_if_shaded(
    picture: FlatPicture, ring: Array, inside: NDArray[np.float32], outside: NDArray[np.float32]
) -> float | None:
    """How far outside the edge a measured `ring` (n, 2), counter-clockwise, mm, lies if the table beside it is shaded, mm, in
    the middle of all its points; 0 where no shadow could do that, None where the colours don't tell: `inside` and `outside`
    (n, 3) are those of piece and table near each."""
    of_table = (inside * outside).sum(axis=-1) / np.maximum((outside**2).sum(axis=-1), 1.0)
    own = inside - of_table[:, None] * outside
    own2 = (own**2).sum(axis=-1)
    step = outside - inside
    darkened = (1 - (1 - MOST_SHADED) ** (1 / GAMMA)) * (outside * step).sum(axis=-1)
    alike = darkened > 0.5 * (step**2).sum(axis=-1)
    if not len(ring) or alike.mean() < 0.5:
        return 0.0
    told = alike & (own2 > LEAST_OWN_COLOUR**2)
    if told.sum() < max(LEAST_POINTS, alike.sum() / 2):
        return None
    off_px = np.arange(-REACH_PX, REACH_PX + STEP_PX, STEP_PX)
    away = (off_px * picture.window.mm_per_px)[None, :, None] * normals(ring)[told][:, None]
    colours = sampled(picture.pixels, picture.window, ring[told][:, None] + away)
    shares = (colours * own[told][:, None]).sum(axis=-1) / own2[told][:, None]
    share = np.median(shares, axis=0)
    crossings = np.flatnonzero((share[:-1] > 0.5) & (share[1:] <= 0.5))
    if not len(crossings):
        return None
    before, after = share[crossings], share[crossings + 1]
    at_px = off_px[crossings] + STEP_PX * (before - 0.5) / (before - after)
    nearest_px = float(at_px[np.argmin(np.abs(at_px))])
    return max(0.0, -nearest_px) * picture.window.mm_per_px
