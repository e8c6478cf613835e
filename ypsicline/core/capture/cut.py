"""A second opinion on what is piece and what is table, for patterned cloth and for shadows.

Colours of piece and table are each learnt as a mixture of Gaussians, and the cut between them
follows strong edges rather than soft ones (GrabCut: Rother, Kolmogorov & Blake, ACM Transactions
on Graphics 23(3), 2004). It sees less finely than comparing with the table's colour, and isn't
misled by a shadow across the piece or by a pattern that has the table's colour in it.
"""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np
import shapely
from numpy.typing import NDArray

from ypsicline.core.capture.rectify import FlatPicture
from ypsicline.core.geometry.edges import Array

__all__ = ["cut_out", "edge_strength", "resized"]

Mask = NDArray[np.bool_]
ROUNDS, ROUNDS_TO_REFINE = 4, 2


def cut_out(picture: FlatPicture, table: Mask, papers: Sequence[Array], coarse: Mask | None = None) -> Mask:
    """What inside the ring of sheets is not table. `table` is known to be table or sheet.

    `coarse` is what a cut found on fewer pixels (of any size, same window): this one starts from there.
    """
    window = picture.window
    ring = np.asarray(shapely.MultiPoint(np.vstack(papers)).convex_hull.exterior.coords)
    inside = np.zeros((window.rows, window.columns), dtype=np.uint8)
    cv2.fillConvexPoly(inside, np.rint(window.to_px(ring)).astype(np.int32), 1)
    labels = np.where((inside > 0) & ~table & picture.seen, cv2.GC_PR_FGD, cv2.GC_BGD).astype(np.uint8)
    if not (labels == cv2.GC_PR_FGD).any():
        return np.zeros(labels.shape, dtype=bool)
    if coarse is not None and coarse.any():
        outside = ~resized(coarse, labels.shape)
        labels[outside & (labels == cv2.GC_PR_FGD)] = cv2.GC_PR_BGD
    models = np.zeros((1, 65)), np.zeros((1, 65))
    cv2.setRNGSeed(1)
    rounds = ROUNDS if coarse is None else ROUNDS_TO_REFINE
    cv2.grabCut(picture.pixels, labels, None, *models, rounds, cv2.GC_INIT_WITH_MASK)
    return np.asarray((labels == cv2.GC_FGD) | (labels == cv2.GC_PR_FGD))


def resized(mask: Mask, shape: tuple[int, ...]) -> Mask:
    """A mask on another number of pixels (rows, columns)."""
    return np.asarray(cv2.resize(mask.astype(np.uint8), (shape[1], shape[0]), interpolation=cv2.INTER_NEAREST) > 0)


def edge_strength(picture: FlatPicture, mask: Mask) -> float:
    """How steep the picture is along the rim of a mask, in grey levels a pixel: what nine tenths of the rim exceed."""
    steep = np.zeros(mask.shape, dtype=np.float32)
    for channel in cv2.split(picture.pixels):
        across, down = (cv2.Sobel(channel, cv2.CV_32F, x, y, scale=1 / 8) for x, y in ((1, 0), (0, 1)))
        steep = np.maximum(steep, np.hypot(across, down))
    steep = cv2.dilate(steep, np.ones((3, 3), np.uint8))
    m = mask.astype(np.uint8)
    rim = (m - cv2.erode(m, np.ones((3, 3), np.uint8))) > 0
    return float(np.percentile(steep[rim], 10)) if rim.any() else 0.0
