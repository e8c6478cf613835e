"""Things that lie against a piece or beside it, a pencil or a tape, told by colours that the piece has nowhere."""

from __future__ import annotations

import cv2
import numpy as np
import scipy
from numpy.typing import NDArray

from ypsicline.core.capture.looks import Look, Taps, lab_of, tidy, unlikely
from ypsicline.core.capture.pieces import Mask

__all__ = ["is_thing_beside", "without_things_at_rim"]

# things are no wider, nor smaller, and so much of them, beside their shadows, has colours that no more than the second share of
# the piece has, in steps of Lab
WIDEST_MM, LEAST_MM2 = 70.0, 150.0
LEAST_FOREIGN, NOWHERE, COLOUR_STEP = 0.33, 0.005, 8.0
# things beside a piece are narrower than this share of it
NARROW = 0.3


def without_things_at_rim(look: Look, taps: Taps) -> Look:
    """A look without narrow parts at a piece's rim of colours that its midst has nowhere, nor what goes on from them in such
    colours; itself where there are none, or where one was pointed at as piece."""
    window = look.picture.window
    piece = tidy(look)
    reach = WIDEST_MM / 2 / window.mm_per_px
    midst = _depth(piece) > reach
    if not midst.any():
        return look
    narrow = piece & (_depth(~midst) > reach)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(narrow.astype(np.uint8), connectivity=4)
    is_large = stats[1:, cv2.CC_STAT_AREA] * window.mm_per_px**2 >= LEAST_MM2
    if not is_large.any():
        return look
    foreign = (_foreign(look, midst) & piece).astype(np.uint8)
    is_thing = [large and _is_foreign(foreign, labels == k) for k, large in zip(range(1, count), is_large, strict=True)]
    if not any(is_thing):
        return look
    things = np.array([False, *is_thing])[labels]
    # at the very rim the piece's colours are mixed with the table's
    wide_foreign = cv2.morphologyEx(foreign, cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    _, parts = cv2.connectedComponents(things.astype(np.uint8) | wide_foreign, connectivity=4)
    things = np.isin(parts, parts[things])
    column_row = np.rint(window.to_px(taps.piece)).astype(int)
    inside = ((column_row >= 0) & (column_row < [window.columns, window.rows])).all(axis=1)
    if things[column_row[inside, 1], column_row[inside, 0]].any():
        return look
    return unlikely(look, things)


def is_thing_beside(part: Mask, piece: Mask, look: Look) -> bool:
    """Whether a part is no part of a piece but a thing beside it: narrow, and of colours that the piece has nowhere."""
    widths = [2 * float(_depth(m).max()) for m in (part, piece)]
    if widths[0] > min(NARROW * widths[1], WIDEST_MM / look.picture.window.mm_per_px):
        return False
    return _is_foreign(_foreign(look, piece), part)


def _depth(mask: Mask) -> NDArray[np.float32]:
    """How deep within a mask each place lies, px."""
    return cv2.distanceTransform(mask.astype(np.uint8), cv2.DIST_L2, 5)


def _foreign(look: Look, piece: Mask) -> Mask:
    """Where a look's picture has colours that hardly any of a piece has."""
    levels = ((lab_of(look.picture.pixels) + np.array([0, 128, 128])) / COLOUR_STEP).astype(np.int32)
    steps = 1 + levels.reshape(-1, 3).max(axis=0)
    kinds = np.ravel_multi_index(tuple(levels.reshape(-1, 3).T), tuple(steps)).reshape(piece.shape)
    counts = np.bincount(kinds[piece], minlength=int(steps.prod())).reshape(steps)
    nearly = scipy.ndimage.convolve(counts, np.ones((3, 3, 3), dtype=int), mode="constant")
    return np.asarray(nearly.ravel()[kinds] < NOWHERE * piece.sum())


def _is_foreign(foreign: NDArray[np.uint8] | Mask, part: Mask) -> bool:
    return float(foreign[part].mean()) > LEAST_FOREIGN
