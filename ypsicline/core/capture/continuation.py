"""Where what was read as piece ends though nothing is seen to end there, it goes on.

The network reads a long or bent piece from windows of which each shows a part, and may end it where it saw no more of
it. Such an end is no edge: the picture is alike on both its sides.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from ypsicline.core.capture.appearance import colour_kinds
from ypsicline.core.capture.looks import PIECE, Look
from ypsicline.core.capture.pieces import Mask

__all__ = ["with_continuation"]

# a part that goes on is at least and at most so large beside the piece, and joins it along so many px
LEAST_SHARE, MOST_SHARE, LEAST_JOIN_PX = 0.01, 1.5, 4
# where the picture, blurred by so many px, is so many times as steep as most of the piece's midst, and at least so steep,
# something ends; in Lab per 2 px
BLUR, STEEPER, LEAST_STEEP = 1.2, 1.6, 3.0
# a kind of colour is the table's own if it is at least this many times as frequent on the rest of it as in the part; how much
# of a part may be of such kinds
OWN, MOST_OWN = 0.2, 0.15
# a piece's colours are plain that spread no more than this in Lab; a part's are within so many times that spread, and so
# many more
PLAIN, SPREADS, MORE = 7.0, 3.0, 8.0
SURELY = 0.95
MOST_ROUNDS = 3
# the piece's midst is so many px from its rim, and no less than this
MIDST_PX, LEAST_MIDST = 5, 50


@dataclass(frozen=True)
class _Sight:
    """What is looked at for where a piece goes on: each pixel's colour (Lab) and its kind, of so many, how steeply the colour
    changes there, and which pixels show the table or what lies on it."""

    lab: NDArray[np.float32]
    kinds: NDArray[np.intp]
    count: int
    steepness: NDArray[np.float32]
    pixels_counted: Mask


def with_continuation(look: Look, pixels_counted: Mask) -> Look:
    """A look with the parts that its piece goes on into: joined to it without an edge between, of its colours, and of colours
    that are hardly seen elsewhere on the table, among `pixels_counted`, those that are seen and no sheet. The same look where
    there are none, or the piece isn't plain."""
    picture = look.picture
    soft = cv2.GaussianBlur(picture.pixels, (0, 0), BLUR).astype(np.float32)
    lab = cv2.cvtColor(soft / 255, cv2.COLOR_RGB2LAB)
    sight = _Sight(lab, *colour_kinds(picture.pixels.astype(np.float32)), _steepness(lab), pixels_counted)
    share = look.piece
    for _ in range(MOST_ROUNDS):
        parts = _parts(share > PIECE, sight)
        if not parts.any():
            break
        share = np.where(parts, np.maximum(share, SURELY), share).astype(np.float32)
    return look if share is look.piece else replace(look, piece=share)


def _parts(piece: Mask, sight: _Sight) -> Mask:
    """The pixels that a piece goes on into."""
    nothing, counted = np.zeros_like(piece), sight.pixels_counted
    midst = cv2.erode((piece & counted).astype(np.uint8), np.ones((MIDST_PX, MIDST_PX), np.uint8)) > 0
    if midst.sum() < LEAST_MIDST:
        return nothing
    middle, spread = np.median(sight.lab[midst], axis=0), sight.lab[midst].std(axis=0)
    if spread.max() > PLAIN:
        return nothing
    unlike = SPREADS * spread + MORE
    level = max(LEAST_STEEP, STEEPER * float(np.percentile(sight.steepness[midst], 90)))
    _, evens = cv2.connectedComponents(((sight.steepness < level) & counted).astype(np.uint8), connectivity=4)
    joined = np.bincount(evens[midst], minlength=evens.max() + 1) > LEAST_SHARE * midst.sum()
    joined[0] = False
    beyond = cv2.morphologyEx((joined[evens] & ~piece).astype(np.uint8), cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    count, labels, stats, _ = cv2.connectedComponentsWithStats(beyond, connectivity=4)
    beside = _grown(piece, 3)
    parts = nothing.copy()
    for k in range(1, count):
        if not LEAST_SHARE < stats[k, cv2.CC_STAT_AREA] / piece.sum() < MOST_SHARE:
            continue
        own = labels == k
        is_alike = bool((np.abs(np.median(sight.lab[own], axis=0) - middle) < unlike).all())
        if is_alike and (own & beside).sum() >= LEAST_JOIN_PX and not _is_tables(own, piece, sight):
            parts |= own
    if not parts.any():
        return nothing
    # up to its rim, where it is steep
    alike = (np.abs(sight.lab - middle) < unlike).all(axis=2)
    parts |= _grown(parts, 5) & alike & counted
    whole = cv2.morphologyEx((parts | piece).astype(np.uint8), cv2.MORPH_CLOSE, np.ones((3, 3), np.uint8)) > 0
    return np.asarray(whole & ~piece & counted)


def _is_tables(part: Mask, piece: Mask, sight: _Sight) -> bool:
    """Whether a part has colours that the rest of the table has too."""
    rest = sight.pixels_counted & ~piece & ~_grown(part, 5)
    here, there = (np.bincount(sight.kinds[m], minlength=sight.count) / max(int(m.sum()), 1) for m in (part, rest))
    return float(here[there > OWN * here].sum()) > MOST_OWN


def _grown(mask: Mask, px: int) -> Mask:
    return cv2.dilate(mask.astype(np.uint8), np.ones((px, px), np.uint8)) > 0


def _steepness(lab: NDArray[np.float32]) -> NDArray[np.float32]:
    """How much the colour changes at each pixel, in Lab per 2 px."""
    dx, dy = cv2.Sobel(lab, cv2.CV_32F, 1, 0, scale=0.25), cv2.Sobel(lab, cv2.CV_32F, 0, 1, scale=0.25)
    return np.asarray(np.sqrt((dx**2 + dy**2).sum(axis=2)))
