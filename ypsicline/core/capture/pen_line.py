"""A drawn line measured in profile along the rim of the shape that it encloses, to a fraction of a pixel."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

import cv2
import numpy as np
import scipy
from numpy.typing import NDArray

from ypsicline.core.capture.contour import FoundOutline
from ypsicline.core.capture.drawn_shapes import DrawnShape, ink_of, no_line, rim_of
from ypsicline.core.capture.line_tangles import STEP_MM, smooth, tangle_doubts
from ypsicline.core.capture.pieces import Mask
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.capture.snapping import normals
from ypsicline.core.geometry.edges import Array
from ypsicline.core.geometry.rings import even_ring, signed_area
from ypsicline.core.messages import message

__all__ = ["PenSide", "follow_line"]

PenSide = Literal["centre", "inner", "outer"]

# of the distance to where a line is clear again, by how much a bridge may stray
BRIDGE_SHARE = 0.3
_PROFILE_STEP_MM = 0.08


def follow_line(
    picture: FlatPicture, mask: Mask, shape: DrawnShape, side: PenSide = "centre"
) -> tuple[FoundOutline, float, Array]:
    """The line of `drawn` along the rim of `mask` (rows, columns of the picture), measured in profile.

    Returns the outline (n, 2) in the table's mm, counter-clockwise, the share of its length that
    had no clear line and was bridged, and how far each of its points may be off for that, mm (n,).

    Raises `Refusal` where over half of it has no clear line.
    """
    pen_mm = shape.pen_mm
    ring = even_ring(rim_of(mask, picture.window), STEP_MM)[0]
    if signed_area(ring) < 0:
        ring = ring[::-1]
    ring = smooth(ring, 2.0) - normals(smooth(ring, 2.0)) * pen_mm / 2
    ink = ink_of(picture, darker=shape.darker)
    for softness in (1.5, 0.6):
        ring = smooth(even_ring(ring, STEP_MM)[0], softness)
        normal = normals(ring)
        offset, width, clear = _measure(ink, picture.window, ring, normal, pen_mm)
        ring = ring + offset[:, None] * normal
        pen_mm = float(np.median(width[clear])) if clear.any() else pen_mm
    if clear.mean() < 0.5:
        raise no_line(message("line_hardly_followed"))
    shift = {"centre": 0.0, "inner": -0.5, "outer": 0.5}[side] * pen_mm
    spread = float(np.std((offset - scipy.ndimage.median_filter(offset, 9, mode="wrap"))[clear]))
    # both sides of a line blur alike, so its middle is surer than either
    smear = max(spread, (0.1 if side == "centre" else 0.15) * pen_mm)
    sides = 2 if side == "centre" else 1
    outline = FoundOutline(ring + shift * normal, (), smear, float(np.percentile(ink, 99.5)), sides=sides)
    doubts = np.max([_bridge_doubts(clear), tangle_doubts(ring), *_disagreements(ring, shape)], axis=0)
    return outline, float(1 - clear.mean()), doubts


def _disagreements(ring: Array, shape: DrawnShape) -> Iterator[Array]:
    """How far off each point would be if the gaps were joined otherwise; nothing where that is about the same."""
    same_mm = 2 * shape.window.mm_per_px + shape.pen_mm
    for mask in shape.otherwise:
        away, _ = scipy.spatial.cKDTree(rim_of(mask, shape.window)).query(ring)
        yield np.where(away > same_mm, away, 0.0)


def _bridge_doubts(clear: Mask) -> Array:
    """How far a bridge may stray from a line that bends: the more, the farther from where the line is clear."""
    if clear.all() or not clear.any():
        return np.zeros(len(clear))
    at, clear_at = np.arange(len(clear)), np.flatnonzero(clear)
    around = np.concatenate([clear_at - len(clear), clear_at, clear_at + len(clear)])
    k = np.searchsorted(around, at)
    away = np.minimum(around[np.minimum(k, len(around) - 1)] - at, at - around[k - 1]).clip(0) * STEP_MM
    return BRIDGE_SHARE * away


def _measure(
    ink: NDArray[np.float32], window: Window, ring: Array, normal: Array, pen_mm: float
) -> tuple[Array, Array, Mask]:
    """Per point of the ring: the line's offset outward and its width, mm, and whether it was clear there."""
    reach = 2.2 + pen_mm
    u = np.arange(-reach, reach + 1e-9, _PROFILE_STEP_MM)
    at = window.to_px((ring[:, None] + u[None, :, None] * normal[:, None]).reshape(-1, 2)).astype(np.float32)
    x, y = at[:, 0].reshape(len(ring), -1), at[:, 1].reshape(len(ring), -1)
    rows = [
        cv2.remap(ink, x[k : k + 30000], y[k : k + 30000], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
        for k in range(0, len(x), 30000)
    ]
    profile = np.vstack(rows)
    favoured = profile * np.exp(-(u**2) / (2 * (0.6 * reach) ** 2))
    peak_at = favoured.argmax(axis=1)
    index = np.arange(len(ring))
    peak = profile[index, peak_at]
    low = profile < 0.5 * peak[:, None]
    right = np.where(low & (np.arange(len(u)) > peak_at[:, None]), np.arange(len(u)), len(u)).min(axis=1)
    pixels_before = np.where(low & (np.arange(len(u)) < peak_at[:, None]), np.arange(len(u)), -1).max(axis=1)
    inside = (right < len(u)) & (pixels_before >= 0)
    right, pixels_before = np.minimum(right, len(u) - 1), np.maximum(pixels_before, 0)
    half = 0.5 * peak
    outer = u[right] - _PROFILE_STEP_MM * _share(profile, index, right, right - 1, half)
    inner = u[pixels_before] + _PROFILE_STEP_MM * _share(profile, index, pixels_before, pixels_before + 1, half)
    width = outer - inner
    usual_peak, usual_width = np.median(peak), np.median(width[inside]) if inside.any() else pen_mm
    clear = inside & (peak > 0.4 * usual_peak) & (np.abs(width - usual_width) < max(0.35 * usual_width, 0.3))
    offset = (outer + inner) / 2
    near = scipy.ndimage.median_filter(np.where(clear, offset, 0), int(9 / STEP_MM), mode="wrap")
    clear &= np.abs(offset - near) < 1.2
    if not clear.any():
        return np.zeros(len(ring)), width, clear
    offset_all_round = np.interp(index, index[clear], offset[clear], period=len(ring))
    return scipy.ndimage.gaussian_filter1d(offset_all_round, 0.5 / STEP_MM, mode="wrap"), width, np.asarray(clear)


def _share(
    profile: Array, index: NDArray[np.intp], low: NDArray[np.intp], high: NDArray[np.intp], half: Array
) -> Array:
    """How far from `low` towards `high`, of one step, the profile crosses `half`."""
    a, b = profile[index, low], profile[index, high]
    return np.asarray(np.clip((half - a) / np.maximum(b - a, 1e-6), 0, 1))
