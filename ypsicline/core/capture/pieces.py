"""Pieces as they are placed at low resolution, before their edges are measured."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.geometry.edges import Array

__all__ = [
    "MAIN_SHARE",
    "SMALLEST_HOLE_MM2",
    "SMALLEST_PIECE_MM2",
    "CoarsePiece",
    "Mask",
    "Reading",
    "Share",
    "paint",
    "pieces_of",
]

SMALLEST_PIECE_MM2 = 400.0
SMALLEST_HOLE_MM2 = 12.0
# a part as large as this share of the largest may be a piece of its own
MAIN_SHARE = 0.06
# what comes so near to the rim of what the photo shows runs out of it
FRAME_MM = 4.0

Mask = NDArray[np.bool_]
Share = NDArray[np.float32]


@dataclass(frozen=True)
class Reading:
    """What else may be piece on a `CoarsePiece`'s window (rows, columns), seen no more finely than `fineness_mm`.

    `against_colours`: that the rim's colours say otherwise is no reason not to believe it.
    """

    mask: Mask
    fineness_mm: float
    against_colours: bool = False


@dataclass(frozen=True, eq=False)
class CoarsePiece:
    """A piece on `window`: its mask and area, and whether it runs out of what the photo shows; each is like no other.

    `share` (rows, columns) is how sure each pixel is of being piece, 0 to 1, where that is known;
    `sure` its mean over the piece. `readings` are other ways to read the picture there. `shadows` are
    rings (n, 2), mm, round what was taken for shadow.
    """

    window: Window
    mask: Mask
    area_mm2: float
    middle: tuple[float, float]
    leaves_picture: bool
    share: Share | None = None
    sure: float = 1.0
    readings: tuple[Reading, ...] = ()
    shadows: tuple[Array, ...] = ()


def paint(papers: Sequence[Array], window: Window, *, grow_mm: float = 0.0) -> Mask:
    """Where sheets of these corners lie in a window, and `grow_mm` beyond."""
    mask = np.zeros((window.rows, window.columns), dtype=np.uint8)
    for corners in papers:
        cv2.fillConvexPoly(mask, np.rint(window.to_px(corners)).astype(np.int32), 1)
    size = 2 * int(np.ceil(grow_mm / window.mm_per_px)) + 1
    return cv2.dilate(mask, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))) > 0


def pieces_of(mask: Mask, picture: FlatPicture, share: Share | None = None) -> list[CoarsePiece]:
    """The connected parts of a mask that are large enough for a piece, largest first, without specks of holes."""
    window = picture.window
    count, labels, stats, centres = cv2.connectedComponentsWithStats(mask.astype(np.uint8), connectivity=4)
    near = 2 * max(2, round(FRAME_MM / window.mm_per_px)) + 1
    unseen = cv2.dilate((~picture.in_view).astype(np.uint8), np.ones((near, near), np.uint8)) > 0
    unseen[[0, 1, -2, -1], :] = True
    unseen[:, [0, 1, -2, -1]] = True
    pieces = []
    for k in range(1, count):
        area = float(stats[k, cv2.CC_STAT_AREA]) * window.mm_per_px**2
        if area < SMALLEST_PIECE_MM2:
            continue
        own = labels == k
        middle = window.to_mm(centres[k : k + 1])[0]
        pieces.append(
            CoarsePiece(
                window, _without_specks(own, stats[k], window.mm_per_px), area, (float(middle[0]), float(middle[1])),
                bool((own & unseen).any()), share, 1.0 if share is None else float(share[own].mean()),
            )
        )  # fmt: skip
    return sorted(pieces, key=lambda p: -p.area_mm2)


def _without_specks(own: Mask, box: NDArray[np.int32], mm_per_px: float) -> Mask:
    """Holes too small to be meant are filled; `box` (left, top, width, height, ...) holds the piece."""
    left, top, width, height = (int(v) for v in box[:4])
    part = own[top : top + height, left : left + width]
    # a rim of table, so that a bay that opens outward isn't taken for a hole
    outside = np.pad(~part, 1, constant_values=True).astype(np.uint8)
    _, labels, stats, _ = cv2.connectedComponentsWithStats(outside, connectivity=4)
    small = stats[:, cv2.CC_STAT_AREA] * mm_per_px**2 < SMALLEST_HOLE_MM2
    small[0] = False
    body = own.copy()
    body[top : top + height, left : left + width] |= small[labels[1:-1, 1:-1]]
    return body
