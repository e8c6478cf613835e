"""Gaps of drawn lines: which ends of a skeleton belong together."""

from __future__ import annotations

import cv2
import numpy as np
import scipy
from numpy.typing import NDArray

from ypsicline.core.capture.pieces import Mask
from ypsicline.core.geometry.edges import Array

__all__ = ["LONGEST_GAP_MM", "gaps", "neighbours"]

LONGEST_GAP_MM = 30.0
MOST_ENDS = 6000
NEAR_ENDS_MM = 8.0
# what is drawn in one go and shorter than this may be a letter
LETTER_MM = 60.0
FACING = np.cos(np.radians(38))
MEETING, WIDEST_CORNER_MM = np.cos(np.radians(75)), 15.0


def neighbours(skeleton: Mask) -> NDArray[np.uint8]:
    """Of each pixel of a skeleton, how many of its eight neighbours belong to it; 0 elsewhere."""
    ring = np.array([[1, 1, 1], [1, 0, 1], [1, 1, 1]], dtype=np.float32)
    own = skeleton.astype(np.uint8)
    return np.asarray(cv2.filter2D(own, -1, ring, borderType=cv2.BORDER_CONSTANT) * own)


def gaps(branches: Mask, mm_per_px: float, *, facing_first: bool) -> list[tuple[tuple[int, int], tuple[int, int]]]:
    """Pairs of line ends (x, y in px) that face each other across a gap, meet at a corner where both are led on, or lie close
    together: of long lines and what faces each other first, or simply the nearest, which only writing tells apart."""
    ends = np.argwhere(neighbours(branches) == 1)
    if not 2 <= len(ends) <= MOST_ENDS:
        return []
    away = np.array([_direction(branches, end, round(6 / mm_per_px)) for end in ends])
    i, j = scipy.spatial.cKDTree(ends).query_pairs(LONGEST_GAP_MM / mm_per_px, output_type="ndarray").T
    step = (ends[j] - ends[i]).astype(float)
    length = np.hypot(*step.T)
    unit = step / np.maximum(length, 1)[:, None]
    towards, back = (unit * away[i]).sum(axis=1), (-unit * away[j]).sum(axis=1)
    facing = (towards > FACING) & (back > FACING)
    corner = (towards > MEETING) & (back > MEETING) & (length * mm_per_px < WIDEST_CORNER_MM)
    candidates = np.flatnonzero(facing | corner | (length * mm_per_px < NEAR_ENDS_MM))
    # letters beside a gap would take one of its ends
    _, lines = cv2.connectedComponents(branches.astype(np.uint8), connectivity=8)
    is_long = np.bincount(lines.ravel())[lines[tuple(ends.T)]] * mm_per_px >= LETTER_MM
    later = ~(is_long[i] & is_long[j]) * 2 + ~facing if facing_first else np.zeros(len(i))
    used_ends: set[int] = set()
    pairs = []
    for k in candidates[np.lexsort((length[candidates], later[candidates]))]:
        a, b = ends[i[k]], ends[j[k]]
        if i[k] in used_ends or j[k] in used_ends or (facing_first and _joined_nearby(branches, a, b)):
            continue
        used_ends |= {int(i[k]), int(j[k])}
        pairs.append(((int(a[1]), int(a[0])), (int(b[1]), int(b[0]))))
    return pairs


def _joined_nearby(branches: Mask, a: NDArray[np.intp], b: NDArray[np.intp]) -> bool:
    """Whether a line leads from one end to the other close by, as at a tick across a line: there is no gap then."""
    reach = int(np.ceil(np.hypot(*(a - b)))) + 2
    low = np.maximum(np.minimum(a, b) - reach, 0)
    high = np.maximum(a, b) + reach + 1
    part = branches[low[0] : high[0], low[1] : high[1]].astype(np.uint8)
    _, lines = cv2.connectedComponents(part, connectivity=8)
    return bool(lines[tuple(a - low)] == lines[tuple(b - low)])


def _direction(branches: Mask, end: NDArray[np.intp], reach: int) -> Array:
    """The direction (row, column) in which a line would run on beyond its end."""
    r, c = end
    r0, c0 = max(r - reach, 0), max(c - reach, 0)
    part = branches[r0 : r + reach + 1, c0 : c + reach + 1]
    labels, _ = scipy.ndimage.label(part, np.ones((3, 3)))
    own = np.argwhere(labels == labels[r - r0, c - c0]) + [r0, c0]
    back = end - own.mean(axis=0)
    return np.asarray(back / max(float(np.hypot(*back)), 1e-9))
