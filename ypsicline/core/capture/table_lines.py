"""What looks like ink on a table and isn't drawn by anybody: its grain, and the joints of its tiles or squares."""

from __future__ import annotations

import cv2
import numpy as np

from ypsicline.core.capture.pieces import Mask

__all__ = ["grain_of", "lattice_of"]

# a table's own grain: so much ink within so many mm, over more than what is written covers
GRAIN_SHARE, GRAIN_MM, WIDEST_WRITING_MM = 0.25, 25.0, 90.0
# lines that hang together round so many places, each larger than a letter's, are no drawing
LATTICE_PLACES, LETTER_MM2 = 24, 400.0


def grain_of(inked: Mask, mm_per_px: float) -> Mask:
    """Where the table itself is as if scribbled all over, as concrete is: far more widely than anybody writes."""
    down = max(1, round(2.0 / mm_per_px))
    size = (max(1, inked.shape[1] // down), max(1, inked.shape[0] // down))
    small = cv2.resize(inked.astype(np.float32), size, interpolation=cv2.INTER_AREA)
    px = down * mm_per_px
    dense = (cv2.blur(small, (round(GRAIN_MM / px) | 1,) * 2) > GRAIN_SHARE).astype(np.uint8)
    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (round(WIDEST_WRITING_MM / px) | 1,) * 2)
    wide = cv2.morphologyEx(dense, cv2.MORPH_OPEN, disc)
    surroundings = cv2.dilate(wide, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (round(GRAIN_MM / px) | 1,) * 2))
    return np.asarray(cv2.resize(surroundings, inked.shape[::-1], interpolation=cv2.INTER_NEAREST) > 0)


def lattice_of(inked: Mask, mm_per_px: float) -> Mask:
    """The lines that hang together round more places than a drawing has: joints of tiles, squared paper, checks."""
    _, lines = cv2.connectedComponents(inked.astype(np.uint8), connectivity=8)
    _, places, stats, _ = cv2.connectedComponentsWithStats((~inked).astype(np.uint8), connectivity=4)
    large = stats[:, cv2.CC_STAT_AREA] * mm_per_px**2 >= LETTER_MM2
    large[0] = False
    # each place touches the lines to its right and below it
    touching = [
        np.column_stack([places[:, :-1].ravel(), lines[:, 1:].ravel()]),
        np.column_stack([places[:-1].ravel(), lines[1:].ravel()]),
    ]
    pairs = np.unique(np.vstack([t[large[t[:, 0]] & (t[:, 1] > 0)] for t in touching]), axis=0)
    counts = np.bincount(pairs[:, 1], minlength=int(lines.max()) + 1)
    return np.asarray(counts[lines] >= LATTICE_PLACES)
