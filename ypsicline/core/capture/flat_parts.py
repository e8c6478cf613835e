"""Parts of a flat picture, and the same place at fewer pixels."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.messages import message

__all__ = ["fill_rings", "part_of", "pixels_between", "resampled", "shrunk", "window_near"]

Mask = NDArray[np.bool_]


def shrunk(picture: FlatPicture, mm_per_px: float) -> FlatPicture:
    """The same picture at fewer pixels."""
    w = picture.window
    factor = mm_per_px / w.mm_per_px
    columns, rows = max(8, round(w.columns / factor)), max(8, round(w.rows / factor))
    pixels = cv2.resize(picture.pixels, (columns, rows), interpolation=cv2.INTER_AREA)
    visible = cv2.resize(picture.in_view.astype(np.uint8), (columns, rows), interpolation=cv2.INTER_NEAREST) > 0
    each = w.mm_per_px * w.columns / columns
    edge = (each - w.mm_per_px) / 2
    return FlatPicture(Window(w.left + edge, w.top - edge, columns, rows, each), pixels, visible)


def part_of(picture: FlatPicture, points: Array, margin: float) -> FlatPicture:
    """The part of a picture round some points. Raises `Refusal` where one lies outside it."""
    w = picture.window
    low, high = points.min(axis=0) - margin, points.max(axis=0) + margin
    ends = w.to_px(np.array([[low[0], high[1]], [high[0], low[1]]]))
    (x0, y0), (x1, y1) = np.clip(np.rint(ends), 0, [w.columns, w.rows]).astype(int)
    if x1 - x0 < 8 or y1 - y0 < 8:
        raise Refusal(message("point_outside_picture"), "stroke")
    left, top = w.to_mm(np.array([[x0, y0]], dtype=float))[0]
    part = np.s_[y0:y1, x0:x1]
    window = Window(float(left), float(top), int(x1 - x0), int(y1 - y0), w.mm_per_px)
    return FlatPicture(window, picture.pixels[part], picture.in_view[part])


def window_near(whole: Window, points: Array, margin: float, mm_per_px: float) -> Window:
    """A window of `whole` round some points. Raises `Refusal` where one lies outside it."""
    low = np.maximum(points.min(axis=0) - margin, whole.to_mm(np.array([[0, whole.rows - 1]]))[0])
    high = np.minimum(points.max(axis=0) + margin, whole.to_mm(np.array([[whole.columns - 1, 0]]))[0])
    if (high - low < 4 * mm_per_px).any():
        raise Refusal(message("point_outside_picture"), "stroke")
    return Window.around(low, high, mm_per_px)


def resampled(picture: FlatPicture, window: Window) -> NDArray[np.uint8]:
    """The picture over another window, coarser or as fine."""
    ratio = window.mm_per_px / picture.window.mm_per_px
    ends = window.to_mm(np.array([[0, 0], [window.columns, window.rows]]))
    own = part_of(picture, ends, 4 * window.mm_per_px)
    pixels = cv2.GaussianBlur(own.pixels, (0, 0), 0.4 * ratio) if ratio > 1.5 else own.pixels
    size = (window.columns, window.rows)
    how = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    to_own = pixels_between(own.window, window)
    return np.asarray(cv2.warpAffine(pixels, to_own, size, flags=how, borderMode=cv2.BORDER_REPLICATE))


def pixels_between(source: Window, target: Window) -> NDArray[np.float32]:
    """From the target's pixels to the source's."""
    ratio = target.mm_per_px / source.mm_per_px
    x, y = source.to_px(np.array([[target.left, target.top]]))[0]
    return np.array([[ratio, 0, x], [0, ratio, y]], dtype=np.float32)


def fill_rings(window: Window, rings: Sequence[Array]) -> Mask:
    """Which pixels of a window lie within rings in mm, holes left out."""
    mask = np.zeros((window.rows, window.columns), dtype=np.uint8)
    whole = [np.rint(window.to_px(np.asarray(r)) * 16).astype(np.int32) for r in rings]
    if whole:
        cv2.fillPoly(mask, whole, 1, shift=4)
    return mask > 0
