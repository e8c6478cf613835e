"""Walking along the edge of a piece by hand, on the picture laid flat, in its own mm."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np
import scipy
import skimage
from numpy.typing import NDArray

from ypsicline.core.capture.flat_parts import resampled, window_near
from ypsicline.core.capture.rectify import FlatPicture
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array, Point
from ypsicline.core.geometry.rings import lengths_along
from ypsicline.core.messages import message

__all__ = ["walk_edge"]

MOST_POINTS = 400
SNAP_MM = 4.0
WALK_MM_PER_PX = 0.5
_MARGIN_MM = 30.0
_PROFILE_MM = 2.0
_PROFILE_STEP_MM = 0.1
_STEP_MM = 0.5
_EDGE_SIGMA_MM = 0.45


def walk_edge(picture: FlatPicture, points: Sequence[Point], *, is_closed: bool = False) -> Array:
    """The way (n, 2), mm, along the strongest edge through points near it, each first moved onto it.

    Between two points the way is the cheapest on a map where strong edges cost little (minimal
    cost path; Mortensen & Barrett, "Interactive segmentation with intelligent scissors", Graphical
    Models and Image Processing 60(5), 1998); then every point is moved, across the way, to where
    the edge is steepest. `is_closed` leads back to the first point.

    Raises `Refusal` for too few or too many points, and for one outside the picture.
    """
    clicks = np.asarray(points, dtype=float).reshape(-1, 2)
    if not 2 + is_closed <= len(clicks) <= MOST_POINTS or not np.isfinite(clicks).all():
        raise Refusal(message("way_points_out_of_range", least=2 + is_closed, most_points=MOST_POINTS), "walk")
    window = window_near(picture.window, clicks, _MARGIN_MM, max(WALK_MM_PER_PX, picture.window.mm_per_px))
    at = window.to_px(clicks)
    if (at < 1).any() or (at > [window.columns - 2, window.rows - 2]).any():
        raise Refusal(message("way_outside_picture"), "walk")
    steep = _steepness(resampled(picture, window), _EDGE_SIGMA_MM)
    onto = _onto_edge(steep, at, SNAP_MM / window.mm_per_px)
    cost = 1.0 / (0.03 + steep / max(float(np.percentile(steep, 99.5)), 1e-6))
    stops = [*onto, onto[0]] if is_closed else list(onto)
    way: list[tuple[int, int]] = []
    for a, b in zip(stops[:-1], stops[1:], strict=True):
        part, _ = skimage.graph.route_through_array(cost, tuple(a[::-1]), tuple(b[::-1]), geometric=True)
        way += part[:-1] if len(way) or len(part) > 1 else part
    if not is_closed:
        way.append((int(stops[-1][1]), int(stops[-1][0])))
    line = window.to_mm(np.array(way, dtype=float)[:, ::-1])
    return _refined(picture, _even(line, is_closed=is_closed), is_closed=is_closed)


def _steepness(pixels: NDArray[np.uint8], sigma_mm: float) -> NDArray[np.float32]:
    soft = cv2.GaussianBlur(pixels, (0, 0), max(sigma_mm / WALK_MM_PER_PX, 0.8))
    steep = np.zeros(pixels.shape[:2], dtype=np.float32)
    for channel in cv2.split(soft):
        across, down = (cv2.Scharr(channel, cv2.CV_32F, x, y) for x, y in ((1, 0), (0, 1)))
        steep = np.maximum(steep, np.hypot(across, down))
    return steep


def _onto_edge(steep: NDArray[np.float32], at: Array, reach: float) -> NDArray[np.intp]:
    """The steepest pixel (x, y) near each place, nearer ones favoured."""
    points = []
    for x, y in at:
        x0, x1 = max(int(x - reach), 0), min(int(x + reach) + 1, steep.shape[1] - 1)
        y0, y1 = max(int(y - reach), 0), min(int(y + reach) + 1, steep.shape[0] - 1)
        rows, columns = np.mgrid[y0 : y1 + 1, x0 : x1 + 1]
        favour = np.exp(-((rows - y) ** 2 + (columns - x) ** 2) / (2 * (0.5 * reach) ** 2))
        best = int((steep[y0 : y1 + 1, x0 : x1 + 1] * favour).argmax())
        points.append([columns.ravel()[best], rows.ravel()[best]])
    return np.array(points)


def _even(line: Array, *, is_closed: bool) -> Array:
    line = np.vstack([line, line[:1]]) if is_closed else line
    along = lengths_along(line)
    at = np.linspace(0, along[-1], max(3, round(along[-1] / _STEP_MM) + 1))
    at = at[:-1] if is_closed else at
    return np.column_stack([np.interp(at, along, line[:, k]) for k in (0, 1)])


def _refined(picture: FlatPicture, line: Array, *, is_closed: bool) -> Array:
    """Each point moved across the line to where the picture is steepest, to a fraction of a pixel."""
    mode = "wrap" if is_closed else "nearest"
    line = scipy.ndimage.gaussian_filter1d(line, 2.0, axis=0, mode=mode)
    along = np.gradient(line, axis=0)
    if is_closed:
        along = (np.roll(line, -1, axis=0) - np.roll(line, 1, axis=0)) / 2
    normal = np.column_stack([along[:, 1], -along[:, 0]]) / np.maximum(np.hypot(*along.T), 1e-9)[:, None]
    u = np.arange(-_PROFILE_MM, _PROFILE_MM + 1e-9, _PROFILE_STEP_MM)
    at = picture.window.to_px((line[:, None] + u[None, :, None] * normal[:, None]).reshape(-1, 2)).astype(np.float32)
    x, y = (at[:, k].reshape(len(line), -1) for k in (0, 1))
    rows = [
        cv2.remap(picture.pixels, x[k : k + 30000], y[k : k + 30000], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
        for k in range(0, len(x), 30000)
    ]
    profile = scipy.ndimage.gaussian_filter1d(np.vstack(rows).astype(np.float32), 3.0, axis=1)
    slope = np.hypot.reduce(np.gradient(profile, axis=1), axis=2) * np.exp(-(u**2) / (2 * 1.2**2))
    best = np.clip(slope.argmax(axis=1), 1, len(u) - 2)
    index = np.arange(len(line))
    a, b, c = (slope[index, best + k] for k in (-1, 0, 1))
    offset = u[best] + _PROFILE_STEP_MM * 0.5 * (a - c) / np.minimum(a - 2 * b + c, -1e-9)
    offset = scipy.ndimage.gaussian_filter1d(scipy.ndimage.median_filter(offset, 9, mode=mode), 1.0, mode=mode)
    return np.asarray(line + offset[:, None] * normal)
