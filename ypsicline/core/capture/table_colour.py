"""Telling pieces by colour from a ground that is known along its rim, as on a scan.

The ground's colour is taken as a smooth surface over the picture (uneven light); a pixel belongs
to a piece when it differs from that by more than the ground differs from itself.
"""

from __future__ import annotations

import cv2
import numpy as np
import skimage
from numpy.typing import NDArray

from ypsicline.core.capture.pieces import CoarsePiece, Mask, pieces_of
from ypsicline.core.capture.rectify import FlatPicture
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.messages import message

__all__ = ["find_by_colour"]

SMALLEST_SHARE = 0.06
LEAST_CONTRAST = 5.0
TABLE_SPREAD, TABLE_SAMPLES = 3.2, 6000
# over how many px a rim told by colour is taken to be unsure
SHARE_PX = 1.5


def find_by_colour(picture: FlatPicture, ground: Mask) -> tuple[CoarsePiece, ...]:
    """The pieces, largest first, none much smaller than the largest; `ground` (rows, columns) is known to be none.

    Raises `Refusal` (reason `low_contrast`) where nothing stands out.
    """
    window = picture.window
    lab = _lab(picture)
    table = _table_surface(lab, ground)
    away = np.linalg.norm(lab - table, axis=-1)
    usual = float(np.median(away[ground]))
    looked_at = picture.in_view
    limit = max(float(skimage.filters.threshold_otsu(away[looked_at][::7])), TABLE_SPREAD * usual, LEAST_CONTRAST)
    mask = _tidy((away > limit) & looked_at, window.mm_per_px)
    share = cv2.GaussianBlur(mask.astype(np.float32), (0, 0), SHARE_PX)
    pieces = pieces_of(mask, picture, share)
    if not pieces:
        raise _hardly_differs(float(np.percentile(away[looked_at], 99)) - usual)
    if float(np.median((away - usual)[pieces[0].mask])) < LEAST_CONTRAST:
        raise _hardly_differs(float(np.median((away - usual)[pieces[0].mask])))
    return tuple(p for p in pieces if p.area_mm2 >= SMALLEST_SHARE * pieces[0].area_mm2)


def _hardly_differs(contrast: float) -> Refusal:
    return Refusal(
        message("colour_near_the_table"),
        "low_contrast", numbers={"contrast": contrast},
    )  # fmt: skip


def _lab(picture: FlatPicture) -> NDArray[np.float32]:
    soft = cv2.GaussianBlur(picture.pixels, (0, 0), max(0.8 / picture.window.mm_per_px, 0.8))
    return np.asarray(cv2.cvtColor(soft.astype(np.float32) / 255, cv2.COLOR_RGB2LAB))


def _table_surface(lab: NDArray[np.float32], table: Mask) -> NDArray[np.float32]:
    """A quadratic surface per channel through the known table, refitted once without its outliers."""
    rows, columns = table.shape
    r, c = np.nonzero(table)
    step = max(1, len(r) // TABLE_SAMPLES)
    r, c = r[::step], c[::step]
    if len(r) < 200:
        raise Refusal(message("table_hardly_shows"), "low_contrast")
    values = lab[r, c].astype(float)
    terms = _quadratic(c / columns - 0.5, r / rows - 0.5)
    keep = np.ones(len(r), dtype=bool)
    for _ in range(3):
        fit, *_ = np.linalg.lstsq(terms[keep], values[keep], rcond=None)
        miss = np.linalg.norm(values - terms @ fit, axis=1)
        keep = miss <= max(2.5 * float(np.median(miss)), 1.0)
    x = (np.arange(columns, dtype=np.float32) / columns - 0.5)[None, :, None]
    y = (np.arange(rows, dtype=np.float32) / rows - 0.5)[:, None, None]
    a, b, c, d, e, f = fit.astype(np.float32)
    return np.asarray((a + b * x + d * x * x) + (c * y + f * y * y) + e * x * y)


def _quadratic(x: Array, y: Array) -> Array:
    return np.column_stack([np.ones_like(x), x, y, x * x, x * y, y * y])


def _tidy(mask: Mask, mm_per_px: float) -> Mask:
    size = 2 * max(1, round(1.2 / mm_per_px)) + 1
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))
    body = cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_OPEN, kernel)
    return cv2.morphologyEx(body, cv2.MORPH_CLOSE, kernel) > 0
