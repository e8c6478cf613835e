"""Several photographs laid flat as one picture.

Each pixel of the table is taken from the photos that show it, those that show it nearest their
middle counting most. Photos differ in exposure: before they are mixed, each is scaled per colour
so that overlapping photos agree (least squares on the logarithms).
"""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from ypsicline.core.capture.camera import View
from ypsicline.core.capture.rectify import SIDE_OF_PIXEL, FlatPicture, Window, lay_flat
from ypsicline.core.geometry.edges import Array

__all__ = ["best_photo", "exposures", "flat_preview", "lay_flat_together"]

_SHARPNESS = 6
_LEAST_OVERLAP_PX = 400


def lay_flat_together(
    photos: Sequence[NDArray[np.uint8]],
    views: Sequence[View],
    window: Window,
    *,
    height_mm: float = 0.0,
    gains: Array | None = None,
) -> FlatPicture:
    """The table at `height_mm` over the sheets, from all photos; `gains` (photos, 3) as `exposures` gives them."""
    if len(photos) == 1:
        return lay_flat(photos[0], views[0], window, height_mm)
    shape = (window.rows, window.columns)
    total = np.zeros(shape, dtype=np.float32)
    mixed = [np.zeros(shape, dtype=np.float32) for _ in range(3)]
    for k, (photo, view) in enumerate(zip(photos, views, strict=True)):
        part = lay_flat(photo, view, window, height_mm)
        weight = _weight(photo.shape, view, window, height_mm)
        weight *= part.in_view
        total += weight
        for channel, plane in enumerate(cv2.split(part.pixels)):
            gain = 1.0 if gains is None else float(gains[k, channel])
            levels = np.minimum(np.arange(256, dtype=np.float32) * np.float32(gain), 255)
            mixed[channel] += weight * cv2.LUT(plane, levels)
    total_weight = np.maximum(total, 1e-12)
    planes = [np.rint(plane / total_weight).astype(np.uint8) for plane in mixed]
    return FlatPicture(window, cv2.merge(planes), total > 0)


def exposures(photos: Sequence[NDArray[np.uint8]], views: Sequence[View], window: Window, height_mm: float) -> Array:
    """The factor (photos, 3) per photo and colour that makes overlapping photos agree; their mean logarithm is 0."""
    count = len(photos)
    if count == 1:
        return np.ones((1, 3))
    parts = [lay_flat(photo, view, window, height_mm) for photo, view in zip(photos, views, strict=True)]
    rows, sides = [np.ones(count) / count], [np.zeros(3)]
    for i in range(count):
        for j in range(i):
            both = parts[i].in_view & parts[j].in_view
            if both.sum() < _LEAST_OVERLAP_PX:
                continue
            a, b = (np.log(np.maximum(p.pixels[both].astype(np.float32), 8)) for p in (parts[i], parts[j]))
            row = np.zeros(count)
            row[i], row[j] = 1, -1
            rows.append(row)
            sides.append(np.median(b - a, axis=0))
    logs, *_ = np.linalg.lstsq(np.array(rows), np.array(sides), rcond=None)
    return np.asarray(np.exp(np.clip(logs, -0.7, 0.7)))


def flat_preview(
    photos: Sequence[NDArray[np.uint8]], views: Sequence[View], ring: Array, height_mm: float, side_px: int
) -> FlatPicture:
    """All photos laid flat round `ring` (n, 2), to be looked at: the longer side at most about `side_px` pixels, fewer where
    the photos show no more."""
    low, high = ring.min(axis=0), ring.max(axis=0)
    reach = 0.06 * float(np.max(high - low))
    size = float(np.max(high - low)) + 2 * reach
    rough = Window.around(low - reach, high + reach, size / 300)
    gains = exposures(photos, views, rough, height_mm)
    as_fine = SIDE_OF_PIXEL / max(view.px_per_mm((low + high) / 2) for view in views)
    window = Window.around(low - reach, high + reach, max(size / side_px, as_fine))
    return lay_flat_together(photos, views, window, height_mm=height_mm, gains=gains)


def best_photo(shapes: Sequence[tuple[int, ...]], views: Sequence[View], points: Array, height_mm: float) -> Array:
    """For each table point (n, 2) the photo (n,) that shows it nearest to its middle."""
    deep = np.column_stack([points, np.full(len(points), height_mm)])
    return np.argmax([_inward(v, s, deep) for s, v in zip(shapes, views, strict=True)], axis=0)


def _inward(view: View, shape: tuple[int, ...], points: Array) -> Array:
    """How deep inside a picture points (n, 3) are seen: 1 in its middle, 0 on its rim, negative outside."""
    size = np.array([shape[1] - 1, shape[0] - 1])
    inward = 1 - np.abs(2 * view.to_pixels(points) / size - 1).max(axis=1)
    return np.where(view.ideal_radius(points) < view.camera.widest(shape[1], shape[0]), inward, -1)


def _weight(shape: tuple[int, ...], view: View, window: Window, height_mm: float) -> NDArray[np.float32]:
    columns, rows = np.linspace(0, window.columns - 1, 65), np.linspace(0, window.rows - 1, 65)
    grid = np.stack(np.meshgrid(columns, rows), axis=-1).reshape(-1, 2)
    deep = np.column_stack([window.to_mm(grid), np.full(len(grid), height_mm)])
    inward = np.clip(_inward(view, shape, deep), 1e-3, 1).reshape(65, 65).astype(np.float32)
    return cv2.resize(inward**_SHARPNESS, (window.columns, window.rows), interpolation=cv2.INTER_LINEAR)
