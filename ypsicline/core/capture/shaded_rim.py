"""Whether the table is shaded beside a piece, by its colours.

Between a piece and a table that is darkened towards it the middle of the step in brightness lies outside the piece. A shaded
table has its own colour still, only less of it: of a pixel's colour as some of the piece's and some of the table's, by least
squares, a shadow leaves the piece's share alone. Where that share is one half the edge is. This is looked at where a shadow can
make the table look like the piece: where the piece is not so much darker that it would take nearly all light. Stripes and
checks hide it.
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
# a side whose colours spread by more of the way from one side's to the other's (between quartiles) is patterned
PATTERNED = 0.2
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
    if len(ring) < LEAST_POINTS:
        return None
    off_px = np.arange(-REACH_PX, REACH_PX + STEP_PX, STEP_PX)
    away = (off_px * picture.window.mm_per_px)[None, :, None] * normals(ring)[:, None]
    colours = sampled(picture.pixels, picture.window, ring[:, None] + away)
    if _is_patterned(colours[:, [0, -1]], inside, outside):
        return None
    step = outside - inside
    darkened = (1 - (1 - MOST_SHADED) ** (1 / GAMMA)) * (outside * step).sum(axis=-1)
    alike = darkened > 0.5 * (step**2).sum(axis=-1)
    if alike.mean() < 0.5:
        return 0.0
    of_table = (inside * outside).sum(axis=-1) / np.maximum((outside**2).sum(axis=-1), 1.0)
    own = inside - of_table[:, None] * outside
    own2 = (own**2).sum(axis=-1)
    told = alike & (own2 > LEAST_OWN_COLOUR**2)
    if told.sum() < max(LEAST_POINTS, alike.sum() / 2):
        return None
    shares = (colours[told] * own[told][:, None]).sum(axis=-1) / own2[told][:, None]
    edge_px = _half_at(np.median(shares, axis=0), off_px)
    return None if edge_px is None else max(0.0, -edge_px) * picture.window.mm_per_px


def _is_patterned(colours: NDArray[np.float32], inside: NDArray[np.float32], outside: NDArray[np.float32]) -> bool:
    """Whether the colours (n, sides, 3) of a side aren't much the same all along the edge."""
    step = (outside - inside)[:, None]
    shares = ((colours - inside[:, None]) * step).sum(axis=-1) / np.maximum((step**2).sum(axis=-1), 1.0)
    return float(np.subtract(*np.percentile(shares, [75, 25], axis=0)).max()) > PATTERNED


def _half_at(share: NDArray[np.float32], at: Array) -> float | None:
    """Where a share (n,) told `at` places falls below one half, nearest to 0; None where it doesn't."""
    k = np.flatnonzero((share[:-1] > 0.5) & (share[1:] <= 0.5))
    if not len(k):
        return None
    places = at[k] + (at[k + 1] - at[k]) * (share[k] - 0.5) / (share[k] - share[k + 1])
    return float(places[np.argmin(np.abs(places))])
