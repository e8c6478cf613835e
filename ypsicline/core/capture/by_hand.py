"""Helping by hand where a picture is hard: strokes for piece and table, and a walk along the edge.

Both work on the picture laid flat, in its own mm, and change nothing that the hand didn't touch.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter, gaussian_filter1d, median_filter
from skimage.graph import route_through_array

from ypsicline.core.capture.contour import find_outline
from ypsicline.core.capture.cut import shrunk
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.errors import Refused
from ypsicline.core.geometry.edges import Array, Point
from ypsicline.core.geometry.rings import walked

__all__ = ["Brush", "paint_over", "walk_edge"]

Mask = NDArray[np.bool_]
FINEST_MM, ACROSS_PX = 0.8, 270
LEAST_REACH_MM, REACH_SHARE = 40.0, 0.25
ROUNDS = 2
MOST_PX = 1_200_000
MOST_POINTS = 400
SNAP_MM = 4.0
WALK_MM_PER_PX = 0.5
_MARGIN_MM = 30.0
_RIM_MM = 14.0
_SPECK_MM2 = 60.0
_SHADE_BITS, _ENOUGH_PX = 3, 500
_PROFILE_MM = 2.0
_PROFILE_STEP_MM = 0.1
_STEP_MM = 0.5
_EDGE_SIGMA_MM = 0.45


@dataclass(frozen=True)
class Brush:
    """A stroke `width_mm` wide through `points`, mm, over what is piece, or else over what is table."""

    points: tuple[Point, ...]
    width_mm: float
    piece: bool

    def __post_init__(self) -> None:
        if not 1 <= len(self.points) <= 5000 or not 0.5 <= self.width_mm <= 200:
            raise Refused("A stroke has 1 to 5000 points and is 0.5 to 200 mm wide.", "stroke")


def paint_over(
    picture: FlatPicture, rings: Sequence[Array], strokes: Sequence[Brush]
) -> tuple[Array, tuple[Array, ...]]:
    """The outline and holes (n, 2) once strokes say what is piece and what is table.

    `rings` are outline and holes as they were found. Near the strokes the cut between piece and
    table is made again with what the strokes say (GrabCut, see `cut`, from the colours on either
    side); of what comes out otherwise than before only the parts that a stroke touches count. Raises `Refused` (reason `stroke`)
    where nothing of a piece would be left.
    """
    seen = [*rings, *(np.asarray(s.points) for s in strokes)]
    picture = _part(picture, np.vstack(seen), _RIM_MM + max(s.width_mm for s in strokes))
    w = picture.window
    picture = shrunk(picture, w.mm_per_px * max(1.0, float(np.sqrt(w.columns * w.rows / MOST_PX))))
    before = _filled(picture.window, rings)
    reach = max(LEAST_REACH_MM, REACH_SHARE * float(np.ptp(rings[0], axis=0).max()))
    drawn = np.vstack([np.asarray(s.points) for s in strokes])
    fineness = max(FINEST_MM, float(np.ptp(drawn, axis=0).max() + 2 * reach) / ACROSS_PX)
    window = _near(picture.window, drawn, reach + 20, fineness)
    small = _looked_at(picture, window)
    inside = _filled(window, rings)
    yes, no = (_painted(window, [t for t in strokes if t.piece == piece]) for piece in (True, False))
    touched = (yes | no).astype(np.uint8)
    away = cv2.distanceTransform(1 - touched, cv2.DIST_L2, 3) * window.mm_per_px
    near = away <= reach
    likely = np.where(near, _more_like_piece(small, inside & ~no, ~inside & ~yes, yes, no, near), inside)
    labels = np.where(likely, cv2.GC_PR_FGD, cv2.GC_PR_BGD).astype(np.uint8)
    labels[~near] = np.where(inside, cv2.GC_FGD, cv2.GC_BGD)[~near]
    labels[yes], labels[no] = cv2.GC_FGD, cv2.GC_BGD
    cut = _cut(small, labels)
    count, parts = cv2.connectedComponents((cut ^ inside).astype(np.uint8), connectivity=4)
    told = np.zeros(count, dtype=bool)
    told[np.unique(parts[touched > 0])] = True
    told[0] = False
    changed = _without_specks(told[parts], round(_SPECK_MM2 / window.mm_per_px**2))
    after = _largest(_laid_back(before, changed, picture.window, window))
    found = find_outline(picture, after)
    return found.outline, found.holes


def walk_edge(picture: FlatPicture, points: Sequence[Point], *, closed: bool = False) -> Array:
    """The way (n, 2), mm, along the strongest edge through points near it, each first moved onto it.

    Between two points the way is the cheapest on a map where strong edges cost little (minimal
    cost path; Mortensen & Barrett, "Interactive segmentation with intelligent scissors", Graphical
    Models and Image Processing 60(5), 1998); then every point is moved, across the way, to where
    the edge is steepest. `closed` leads back to the first point.
    """
    given = np.asarray(points, dtype=float).reshape(-1, 2)
    if not 2 + closed <= len(given) <= MOST_POINTS or not np.isfinite(given).all():
        raise Refused(f"A way along the edge has {2 + closed} to {MOST_POINTS} points.", "walk")
    window = _near(picture.window, given, _MARGIN_MM, max(WALK_MM_PER_PX, picture.window.mm_per_px))
    at = window.to_px(given)
    if (at < 1).any() or (at > [window.columns - 2, window.rows - 2]).any():
        raise Refused("A point lies outside the picture; the edge can only be followed where it is seen.", "walk")
    steep = _steepness(_looked_at(picture, window), _EDGE_SIGMA_MM)
    onto = _onto_edge(steep, at, SNAP_MM / window.mm_per_px)
    cost = 1.0 / (0.03 + steep / max(float(np.percentile(steep, 99.5)), 1e-6))
    stops = [*onto, onto[0]] if closed else list(onto)
    way: list[tuple[int, int]] = []
    for a, b in zip(stops[:-1], stops[1:], strict=True):
        part, _ = route_through_array(cost, tuple(a[::-1]), tuple(b[::-1]), geometric=True)
        way += part[:-1] if len(way) or len(part) > 1 else part
    if not closed:
        way.append((int(stops[-1][1]), int(stops[-1][0])))
    line = window.to_mm(np.array(way, dtype=float)[:, ::-1])
    return _refined(picture, _even(line, closed=closed), closed=closed)


def _near(whole: Window, points: Array, margin: float, mm_per_px: float) -> Window:
    """A window of `whole` round some points."""
    low = np.maximum(points.min(axis=0) - margin, whole.to_mm(np.array([[0, whole.rows - 1]]))[0])
    high = np.minimum(points.max(axis=0) + margin, whole.to_mm(np.array([[whole.columns - 1, 0]]))[0])
    if (high - low < 4 * mm_per_px).any():
        raise Refused("That lies outside the picture.", "stroke")
    return Window.around(low, high, mm_per_px)


def _looked_at(picture: FlatPicture, window: Window) -> NDArray[np.uint8]:
    """The picture over another window, coarser or as fine."""
    ratio = window.mm_per_px / picture.window.mm_per_px
    pixels = picture.pixels
    if ratio > 1.5:
        pixels = cv2.GaussianBlur(pixels, (0, 0), 0.4 * ratio)
    return np.asarray(cv2.warpAffine(pixels, _between(picture.window, window), (window.columns, window.rows), flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP, borderMode=cv2.BORDER_REPLICATE))  # fmt: skip


def _between(source: Window, target: Window) -> NDArray[np.float32]:
    """From the target's pixels to the source's."""
    ratio = target.mm_per_px / source.mm_per_px
    x, y = source.to_px(np.array([[target.left, target.top]]))[0]
    return np.array([[ratio, 0, x], [0, ratio, y]], dtype=np.float32)


def _filled(window: Window, rings: Sequence[Array]) -> Mask:
    mask = np.zeros((window.rows, window.columns), dtype=np.uint8)
    whole = [np.rint(window.to_px(np.asarray(r)) * 16).astype(np.int32) for r in rings]
    if whole:
        cv2.fillPoly(mask, whole, 1, shift=4)
    return mask > 0


def _painted(window: Window, strokes: Sequence[Brush]) -> Mask:
    mask = np.zeros((window.rows, window.columns), dtype=np.uint8)
    for s in strokes:
        way = np.rint(window.to_px(np.asarray(s.points))).astype(np.int32)
        cv2.polylines(mask, [way], False, 1, max(1, round(s.width_mm / window.mm_per_px)))
    return mask > 0


def _more_like_piece(pixels: NDArray[np.uint8], inside: Mask, outside: Mask, yes: Mask, no: Mask, near: Mask) -> Mask:
    """Which pixels have a colour of the piece rather than of the table.

    Colours are counted where a hand left things as they are, far from its strokes if there is
    enough of that, and where it painted, which counts as much as all the rest.
    """
    lab = cv2.cvtColor(cv2.GaussianBlur(pixels, (0, 0), 1.0), cv2.COLOR_RGB2LAB)
    counted = []
    for known, painted in ((inside, yes), (outside, no)):
        far = known & ~near
        own = _colours(lab, far if far.sum() > _ENOUGH_PX else known)
        counted.append((own + _colours(lab, painted)) / 2 if painted.any() else own)
    at = tuple((lab >> _SHADE_BITS).reshape(-1, 3).T)
    return np.asarray((counted[0][at] > counted[1][at]).reshape(inside.shape))


def _colours(lab: NDArray[np.uint8], where: Mask) -> NDArray[np.float64]:
    """How often each shade occurs (bins of 8 in all three of Lab), softened over its neighbours."""
    size = 256 >> _SHADE_BITS
    count = np.zeros((size,) * 3)
    np.add.at(count, tuple((lab[where] >> _SHADE_BITS).T), 1.0)
    return np.asarray(gaussian_filter(count, 1.0, mode="constant") / max(float(where.sum()), 1.0))


def _cut(pixels: NDArray[np.uint8], labels: NDArray[np.uint8]) -> Mask:
    sure = (labels == cv2.GC_BGD) | (labels == cv2.GC_PR_BGD)
    if sure.all() or not sure.any():
        return np.asarray(~sure)
    models = np.zeros((1, 65)), np.zeros((1, 65))
    cv2.setRNGSeed(1)
    cv2.grabCut(pixels, labels, None, *models, ROUNDS, cv2.GC_INIT_WITH_MASK)
    return np.asarray((labels == cv2.GC_FGD) | (labels == cv2.GC_PR_FGD))


def _without_specks(mask: Mask, least_px: int) -> Mask:
    """Holes of a mask that are too small to be meant are filled."""
    _, labels, stats, _ = cv2.connectedComponentsWithStats((~mask).astype(np.uint8), connectivity=4)
    small = np.flatnonzero(stats[:, cv2.CC_STAT_AREA] < least_px)
    return np.asarray(mask | (np.isin(labels, small) & ~mask))


def _laid_back(before: Mask, changed: Mask, whole: Window, window: Window) -> Mask:
    """The mask of the whole picture with the changed part of a window of it turned over."""
    size = (whole.columns, whole.rows)
    soft = cv2.warpAffine(
        changed.astype(np.uint8) * 255, _between(window, whole), size, flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    )
    after = (before ^ (soft > 127)).astype(np.uint8)
    # where the coarse part meets the fine one, a seam a pixel of the coarse one wide may be left between them
    seam = 2 * int(np.ceil(window.mm_per_px / whole.mm_per_px)) + 1
    kernel = np.ones((seam, seam), np.uint8)
    tidied = cv2.morphologyEx(cv2.morphologyEx(after, cv2.MORPH_CLOSE, kernel), cv2.MORPH_OPEN, kernel)
    return np.asarray(np.where(cv2.dilate(soft, kernel) > 0, tidied, after) > 0)


def _part(picture: FlatPicture, points: Array, margin: float) -> FlatPicture:
    """The part of a picture round some points."""
    w = picture.window
    low, high = points.min(axis=0) - margin, points.max(axis=0) + margin
    ends = w.to_px(np.array([[low[0], high[1]], [high[0], low[1]]]))
    (x0, y0), (x1, y1) = np.clip(np.rint(ends), 0, [w.columns, w.rows]).astype(int)
    if x1 - x0 < 8 or y1 - y0 < 8:
        raise Refused("That lies outside the picture.", "stroke")
    left, top = w.to_mm(np.array([[x0, y0]], dtype=float))[0]
    part = np.s_[y0:y1, x0:x1]
    window = Window(float(left), float(top), int(x1 - x0), int(y1 - y0), w.mm_per_px)
    return FlatPicture(window, picture.pixels[part], picture.seen[part])


def _largest(mask: Mask) -> Mask:
    count, labels, stats, _ = cv2.connectedComponentsWithStats(mask.astype(np.uint8), connectivity=4)
    if count < 2:
        raise Refused("With these strokes nothing of the piece would be left; take one back.", "stroke")
    return np.asarray(labels == 1 + int(stats[1:, cv2.CC_STAT_AREA].argmax()))


def _steepness(pixels: NDArray[np.uint8], sigma_mm: float) -> NDArray[np.float32]:
    soft = cv2.GaussianBlur(pixels, (0, 0), max(sigma_mm / WALK_MM_PER_PX, 0.8))
    steep = np.zeros(pixels.shape[:2], dtype=np.float32)
    for channel in cv2.split(soft):
        across, down = (cv2.Scharr(channel, cv2.CV_32F, x, y) for x, y in ((1, 0), (0, 1)))
        steep = np.maximum(steep, np.hypot(across, down))
    return steep


def _onto_edge(steep: NDArray[np.float32], at: Array, reach: float) -> NDArray[np.intp]:
    """The steepest pixel (x, y) near each place, nearer ones favoured."""
    found = []
    for x, y in at:
        x0, x1 = max(int(x - reach), 0), min(int(x + reach) + 1, steep.shape[1] - 1)
        y0, y1 = max(int(y - reach), 0), min(int(y + reach) + 1, steep.shape[0] - 1)
        rows, columns = np.mgrid[y0 : y1 + 1, x0 : x1 + 1]
        favour = np.exp(-((rows - y) ** 2 + (columns - x) ** 2) / (2 * (0.5 * reach) ** 2))
        best = int((steep[y0 : y1 + 1, x0 : x1 + 1] * favour).argmax())
        found.append([columns.ravel()[best], rows.ravel()[best]])
    return np.array(found)


def _even(line: Array, *, closed: bool) -> Array:
    line = np.vstack([line, line[:1]]) if closed else line
    along = walked(line)
    at = np.linspace(0, along[-1], max(3, round(along[-1] / _STEP_MM) + 1))
    at = at[:-1] if closed else at
    return np.column_stack([np.interp(at, along, line[:, k]) for k in (0, 1)])


def _refined(picture: FlatPicture, line: Array, *, closed: bool) -> Array:
    """Each point moved across the line to where the picture is steepest, to a fraction of a pixel."""
    mode = "wrap" if closed else "nearest"
    line = gaussian_filter1d(line, 2.0, axis=0, mode=mode)
    along = np.gradient(line, axis=0)
    if closed:
        along = (np.roll(line, -1, axis=0) - np.roll(line, 1, axis=0)) / 2
    normal = np.column_stack([along[:, 1], -along[:, 0]]) / np.maximum(np.hypot(*along.T), 1e-9)[:, None]
    u = np.arange(-_PROFILE_MM, _PROFILE_MM + 1e-9, _PROFILE_STEP_MM)
    at = picture.window.to_px((line[:, None] + u[None, :, None] * normal[:, None]).reshape(-1, 2)).astype(np.float32)
    x, y = (at[:, k].reshape(len(line), -1) for k in (0, 1))
    rows = [
        cv2.remap(picture.pixels, x[k : k + 30000], y[k : k + 30000], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
        for k in range(0, len(x), 30000)
    ]
    profile = gaussian_filter1d(np.vstack(rows).astype(np.float32), 3.0, axis=1)
    slope = np.hypot.reduce(np.gradient(profile, axis=1), axis=2) * np.exp(-(u**2) / (2 * 1.2**2))
    best = np.clip(slope.argmax(axis=1), 1, len(u) - 2)
    index = np.arange(len(line))
    a, b, c = (slope[index, best + k] for k in (-1, 0, 1))
    offset = u[best] + _PROFILE_STEP_MM * 0.5 * (a - c) / np.minimum(a - 2 * b + c, -1e-9)
    offset = gaussian_filter1d(median_filter(offset, 9, mode=mode), 1.0, mode=mode)
    return np.asarray(line + offset[:, None] * normal)
