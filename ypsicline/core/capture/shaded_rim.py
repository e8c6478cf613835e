"""Whether the table is shaded beside a piece, by its colours.

Between a piece and a table that is darkened towards it the middle of the step in brightness lies outside the piece. A shaded
table has its own colour still, only less of it: of a pixel's colour as some of the piece's and some of the table's, by least
squares, a shadow leaves the piece's share alone. Where that share is one half the edge is. This is looked at where a shadow can
make the table look like the piece: where the piece is not so much darker that it would take nearly all light. Stripes and
checks hide it; beside them a shadow is told place by place, where it is as wide as to be seen by itself.
"""

from __future__ import annotations

import numpy as np
import scipy
from numpy.typing import NDArray

from ypsicline.core.capture.detect import GAMMA
from ypsicline.core.capture.rectify import FlatPicture
from ypsicline.core.capture.snapping import normals, sampled
from ypsicline.core.geometry.edges import Array

__all__ = ["outside_if_shaded", "shadow_within"]

# a piece of whose colour so many grey levels aren't the table's in another light is told from a shaded table
LEAST_OWN_COLOUR = 20.0
# a side whose colours spread by more of the way from one side's to the other's (between quartiles) is patterned
PATTERNED = 0.2
# a rim's shadow takes at most so much of the light
MOST_SHADED = 0.55
# fewer points than this aren't looked at; and how far to either side of a ring
LEAST_POINTS, REACH_PX, STEP_PX = 20, 8.0, 0.25
# a shadow seen by itself is the table's colour within so many grey levels, and so lit (of its levels); of what follows within
# so many mm more than a share is another colour; how far it is followed inward, and how far out the table is bare
SAME_HUE_LEVELS, SO_LIT, FOLLOWS_MM, MOSTLY_OTHER = 14.0, (0.45, 1.1), 2.4, 0.8
STEP_MM, FOLLOWED_MM, BARE_MM = 0.25, 5.0, (1.6, 3.2)
# along so many mm of the rim it is for the most part as wide as in the middle, to so many mm; colours are evened along fewer
ALONG_MM, MOSTLY_STEADY, STEADY_MM, EVENED_MM = 16.0, 0.8, 0.6, 0.9


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


def shadow_within(picture: FlatPicture, ring: Array) -> Array:
    """How far inside a measured `ring` (n, 2), counter-clockwise, mm, its points evenly apart, all is the table's colour still,
    only darker, mm (n,): the shadow that it may go round with the piece. 0 where nothing that is clearly another colour follows,
    or here nearer and there farther in, as with a mottled piece."""
    apart_mm = float(np.hypot(*(ring[1] - ring[0])))
    inward = np.arange(-BARE_MM[1], FOLLOWED_MM, STEP_MM)
    colours = sampled(picture.pixels, picture.window, ring[:, None] - inward[None, :, None] * normals(ring)[:, None])
    colours = scipy.ndimage.gaussian_filter1d(colours, EVENED_MM / apart_mm, axis=0, mode="wrap")
    table = np.median(colours[:, inward <= -BARE_MM[0]], axis=1)
    table = scipy.ndimage.gaussian_filter1d(table, ALONG_MM / apart_mm, axis=0, mode="wrap")
    lit = (colours * table[:, None]).sum(axis=2) / np.maximum((table**2).sum(axis=1), 1.0)[:, None]
    off = np.linalg.norm(colours - lit[..., None] * table[:, None], axis=2)
    is_other = ((off > SAME_HUE_LEVELS) | (lit < SO_LIT[0]) | (lit > SO_LIT[1]))[:, inward >= 0]
    following = np.lib.stride_tricks.sliding_window_view(is_other, round(FOLLOWS_MM / STEP_MM), axis=1).mean(axis=2)
    is_piece = is_other[:, : following.shape[1]] & (following > MOSTLY_OTHER)
    wide = np.where(is_piece.any(axis=1), is_piece.argmax(axis=1), 0) * STEP_MM
    return _steady(wide, max(1, round(ALONG_MM / apart_mm)))


def _steady(wide: Array, count: int) -> Array:
    """Widths (n,) as they are in the middle of `count` neighbours, 0 where these aren't mostly much the same."""
    usual = scipy.ndimage.median_filter(wide, count, mode="wrap")
    is_usual = (np.abs(wide - usual) < STEADY_MM).astype(float)
    return np.where(scipy.ndimage.uniform_filter1d(is_usual, count, mode="wrap") > MOSTLY_STEADY, usual, 0.0)


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
