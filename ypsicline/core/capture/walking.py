"""Walking along the edge of a piece by hand, on the picture laid flat, in its own mm."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import scipy
import shapely
import skimage
from numpy.typing import NDArray

from ypsicline.core.capture.flat_parts import fill_rings, resampled, window_near
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.capture.snapping import CLEAR, across, clearness
from ypsicline.core.capture.stretches import doubts_where_vague
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array, Point
from ypsicline.core.geometry.rings import lengths_along
from ypsicline.core.messages import message

__all__ = ["Walk", "walk_edge"]

MOST_POINTS = 400
SNAP_MM = 4.0
WALK_MM_PER_PX = 0.5
_MARGIN_MM = 30.0
_PROFILE_MM = 2.0
_PROFILE_STEP_MM = 0.1
_STEP_MM = 0.5
_EDGE_SIGMA_MM = 0.45
# what is no steeper than so many times the median is noise; a weak edge is as steep as this, by the kernel that is used
_NOISE, _WEAK_EDGE = 2.0, 40.0
# so much dearer is a way that is a mm off the straight one, by that squared: of ways that show no edge the straight one is taken
_OFF_CHORD = 1e-3
# a sheet's own edge is seen so far from it
_PAPER_EDGE_MM = 2.0
# an edge is seen where all but this share of so much of it is clear: streaks of wood are so here and there
_UNCLEAR_PERCENT, _CLEAR_ALONG_MM = 25, 15.0


@dataclass(frozen=True)
class Walk:
    """A way (n, 2), mm, along an edge, and how far off each of its points may be, mm (n,), because no edge is seen there; 0
    where one is."""

    way: Array
    doubts: Array


def walk_edge(
    picture: FlatPicture, points: Sequence[Point], papers: Sequence[Array] = (), *, is_closed: bool = False
) -> Walk:
    """The way along the strongest edge through points near it, each first moved onto it; straight where none is seen.

    `papers` are the sheets (4, 2), mm, whose own edges don't count.

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
    steep = np.maximum(steep - _NOISE * np.median(steep), 0)
    steep[_on_papers(window, papers)] = 0
    onto = _onto_edge(steep, at, SNAP_MM / window.mm_per_px)
    cost = 1.0 / (0.03 + steep / max(float(np.percentile(steep, 99.5)), _WEAK_EDGE))
    stops = [*onto, onto[0]] if is_closed else list(onto)
    way: list[tuple[int, int]] = []
    for a, b in zip(stops[:-1], stops[1:], strict=True):
        dearer = cost * (1 + _OFF_CHORD * (_from_chord(cost.shape, a, b) * window.mm_per_px) ** 2)
        part, _ = skimage.graph.route_through_array(dearer, tuple(a[::-1]), tuple(b[::-1]), geometric=True)
        way += part[:-1] if len(way) or len(part) > 1 else part
    if not is_closed:
        way.append((int(stops[-1][1]), int(stops[-1][0])))
    line = window.to_mm(np.array(way, dtype=float)[:, ::-1])
    line = _refined(picture, _even(line, is_closed=is_closed), is_closed=is_closed)
    return Walk(line, _doubts(picture, line, window.to_mm(np.array(stops, dtype=float)), is_closed=is_closed))


def _from_chord(shape: tuple[int, ...], a: NDArray[np.intp], b: NDArray[np.intp]) -> Array:
    """How far each pixel lies from the straight line through two of them (x, y), px."""
    rows, columns = np.indices(shape, sparse=True)
    x, y = (b - a) / max(float(np.hypot(*(b - a))), 1.0)
    return np.abs((columns - a[0]) * y - (rows - a[1]) * x)


def _doubts(picture: FlatPicture, line: Array, stops: Array, *, is_closed: bool) -> Array:
    """How far off a way may be where no edge is seen, from each of the `stops` (m, 2) that a hand pointed at to the next."""
    mode = "wrap" if is_closed else "nearest"
    clear = clearness(picture, line, is_closed=is_closed)
    mostly = scipy.ndimage.percentile_filter(clear, _UNCLEAR_PERCENT, round(_CLEAR_ALONG_MM / _STEP_MM), mode=mode)
    vague = mostly < CLEAR / 2
    nearest = np.maximum.accumulate(scipy.spatial.cKDTree(line).query(stops[1 : len(stops) - 1])[1])
    legs = np.split(np.arange(len(line)), nearest)
    return np.concatenate([doubts_where_vague(vague[leg], line[leg], is_closed=False) for leg in legs if len(leg)])


def _on_papers(window: Window, papers: Sequence[Array]) -> NDArray[np.bool_]:
    rings = [np.asarray(shapely.Polygon(p).buffer(_PAPER_EDGE_MM).exterior.coords)[:-1] for p in papers]
    mask = np.zeros((window.rows, window.columns), dtype=bool)
    for ring in rings:
        mask |= fill_rings(window, [ring])
    return mask


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
    normal = across(along)
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
