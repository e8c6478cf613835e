"""The photograph laid flat: a picture of the table in millimetres. Here alone pixels become mm."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from ypsicline.core.capture.camera import View
from ypsicline.core.geometry.edges import Array

__all__ = ["SIDE_OF_PIXEL", "FlatPicture", "Window", "lay_flat"]

# a flat picture's pixels beside the photo's, where it is to show all that the photo does
SIDE_OF_PIXEL = 0.8
_GRID, _LEAST_CELLS = 16, 40
_NOWHERE = -1e5


@dataclass(frozen=True)
class Window:
    """A rectangle of the table: `left`, `top` in mm is the middle of its upper left pixel."""

    left: float
    top: float
    columns: int
    rows: int
    mm_per_px: float

    @classmethod
    def around(cls, low: Array, high: Array, mm_per_px: float) -> Window:
        columns, rows = (int(np.ceil((b - a) / mm_per_px)) + 1 for a, b in zip(low, high, strict=True))
        return cls(float(low[0]), float(high[1]), columns, rows, mm_per_px)

    def to_mm(self, column_row: Array) -> Array:
        return np.column_stack(
            [self.left + column_row[:, 0] * self.mm_per_px, self.top - column_row[:, 1] * self.mm_per_px]
        )

    def to_px(self, mm: Array) -> Array:
        return np.column_stack([(mm[:, 0] - self.left) / self.mm_per_px, (self.top - mm[:, 1]) / self.mm_per_px])


@dataclass(frozen=True)
class FlatPicture:
    """A rectified picture (rows, columns, 3) and, for each pixel, whether the photo shows it."""

    window: Window
    pixels: NDArray[np.uint8]
    in_view: NDArray[np.bool_]


def lay_flat(photo: NDArray[np.uint8], view: View, window: Window, height_mm: float = 0.0) -> FlatPicture:
    """Resample `photo` over `window`, `height_mm` over the table; where a pixel of the window spans several of the
    photo, they are averaged."""
    step = max(1, min(_GRID, max(window.columns, window.rows) // _LEAST_CELLS))
    columns = np.arange(0, window.columns + step, step)
    rows = np.arange(0, window.rows + step, step)
    grid = np.stack(np.meshgrid(columns, rows), axis=-1).reshape(-1, 2).astype(float)
    deep = np.column_stack([window.to_mm(grid), np.full(len(grid), height_mm)])
    coarse = np.where(
        (view.ideal_radius(deep) < view.camera.widest(photo.shape[1], photo.shape[0]))[:, None],
        view.to_pixels(deep), _NOWHERE,
    ).reshape(len(rows), len(columns), 2)  # fmt: skip
    spread = np.median(np.hypot(*np.moveaxis(np.diff(coarse, axis=1), -1, 0))) / step
    source, scale = photo, 1.0
    while spread * scale >= 2:
        source, scale = cv2.resize(source, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA), scale / 2
    at = ((coarse + 0.5) * scale - 0.5).astype(np.float32)
    matrix = np.array([[1 / step, 0, 0], [0, 1 / step, 0]], dtype=np.float32)
    size = (window.columns, window.rows)
    full = cv2.warpAffine(
        at, matrix, size, flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP, borderMode=cv2.BORDER_REPLICATE
    )
    x, y = full[..., 0], full[..., 1]
    pixels = cv2.remap(source, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    height, width = source.shape[:2]
    visible = (x >= 0) & (y >= 0) & (x <= width - 1) & (y <= height - 1)
    return FlatPicture(window, pixels, visible)
