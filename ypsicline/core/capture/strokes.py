"""Strokes for piece and table, painted by hand where a picture is hard, on the picture laid flat, in its own mm."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import scipy
import shapely
from numpy.typing import NDArray
from shapely.geometry.polygon import orient

from ypsicline.core.capture.contour import find_region
from ypsicline.core.capture.flat_parts import fill_rings, part_of, pixels_between, resampled, shrunk, window_near
from ypsicline.core.capture.pieces import SMALLEST_HOLE_MM2
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array, Point
from ypsicline.core.messages import message

__all__ = ["Brush", "paint_over"]

Mask = NDArray[np.bool_]
FINEST_MM, ACROSS_PX = 0.8, 220
LEAST_REACH_MM, REACH_SHARE = 40.0, 0.25
ROUNDS = 2
MOST_PX = 1_200_000
_BESIDE_MM = 8.0
_COLOUR_MARGIN_MM = 22.0
_SPECK_MM2 = 60.0
_SHADE_BITS, _ENOUGH_PX = 3, 500


@dataclass(frozen=True)
class Brush:
    """A stroke `width_mm` wide through `points`, mm, over what is piece, or else over what is table."""

    points: tuple[Point, ...]
    width_mm: float
    piece: bool

    def __post_init__(self) -> None:
        if not 1 <= len(self.points) <= 5000 or not 0.5 <= self.width_mm <= 200:
            raise Refusal(message("stroke_out_of_range", least_mm=0.5, most_mm=200), "stroke")


def paint_over(
    picture: FlatPicture, rings: Sequence[Array], strokes: Sequence[Brush]
) -> tuple[Array, tuple[Array, ...]]:
    """The outline and holes (n, 2) once strokes say what is piece and what is table.

    `rings` are outline and holes as they were found. Near the strokes the cut between piece and
    table is made again with what the strokes say; where it comes out otherwise, and a stroke
    touches that, the edge is found anew, and elsewhere it stays. Raises `Refusal` (reason
    `stroke`) where nothing of a piece would be left.
    """
    reach = max(LEAST_REACH_MM, REACH_SHARE * float(np.ptp(rings[0], axis=0).max()))
    points = np.vstack([np.asarray(s.points) for s in strokes])
    fineness = max(FINEST_MM, float(np.ptp(points, axis=0).max() + 2 * reach) / ACROSS_PX)
    window = window_near(picture.window, points, reach + 20, fineness)
    difference = _told_otherwise(resampled(picture, window), window, fill_rings(window, rings), strokes, reach)
    piece = shapely.make_valid(shapely.Polygon(rings[0], rings[1:]))
    for low, high in _boxes(difference, window):
        part = part_of(picture, np.array([low, high]), _COLOUR_MARGIN_MM)
        w = part.window
        part = shrunk(part, w.mm_per_px * max(1.0, float(np.sqrt(w.columns * w.rows / MOST_PX))))
        mask = _laid_over(fill_rings(part.window, rings), difference, part.window, window)
        box = shapely.box(*low, *high)
        piece = shapely.union(piece - box, find_region(part, mask) & box, grid_size=1e-6)
    return _largest(piece)


def _told_otherwise(
    pixels: NDArray[np.uint8], window: Window, inside: Mask, strokes: Sequence[Brush], reach_mm: float
) -> Mask:
    """Where a cut that knows the strokes (GrabCut, see `cut`, from the colours on either side) differs from what was
    found `inside`: only the parts that a stroke touches."""
    yes, no = (_painted(window, [t for t in strokes if t.piece == piece]) for piece in (True, False))
    stroke_mask = (yes | no).astype(np.uint8)
    away = cv2.distanceTransform(1 - stroke_mask, cv2.DIST_L2, 3) * window.mm_per_px
    reached = away <= reach_mm
    likely = np.where(reached, _more_like_piece(pixels, inside & ~no, ~inside & ~yes, yes, no, reached), inside)
    labels = np.where(likely, cv2.GC_PR_FGD, cv2.GC_PR_BGD).astype(np.uint8)
    labels[~reached] = np.where(inside, cv2.GC_FGD, cv2.GC_BGD)[~reached]
    labels[yes], labels[no] = cv2.GC_FGD, cv2.GC_BGD
    cut = _cut(pixels, labels)
    count, parts = cv2.connectedComponents((cut ^ inside).astype(np.uint8), connectivity=4)
    otherwise = np.zeros(count, dtype=bool)
    otherwise[np.unique(parts[stroke_mask > 0])] = True
    otherwise[0] = False
    return _without_specks(otherwise[parts], round(_SPECK_MM2 / window.mm_per_px**2))


def _boxes(difference: Mask, window: Window) -> list[tuple[Array, Array]]:
    """Lower left and upper right, mm, of boxes round what changed; what lies close together shares one."""
    beside = 2 * int(np.ceil(_BESIDE_MM / window.mm_per_px)) + 1
    surroundings = cv2.dilate(difference.astype(np.uint8), np.ones((beside, beside), np.uint8))
    boxes = []
    for rows, columns in scipy.ndimage.find_objects(cv2.connectedComponents(surroundings)[1]):
        ends = np.array([[columns.start, rows.stop], [columns.stop, rows.start]], dtype=float)
        low, high = window.to_mm(ends)
        boxes.append((low, high))
    return boxes


def _painted(window: Window, strokes: Sequence[Brush]) -> Mask:
    mask = np.zeros((window.rows, window.columns), dtype=np.uint8)
    for s in strokes:
        way = np.rint(window.to_px(np.asarray(s.points))).astype(np.int32)
        cv2.polylines(mask, [way], False, 1, max(1, round(s.width_mm / window.mm_per_px)))
    return mask > 0


def _more_like_piece(
    pixels: NDArray[np.uint8], inside: Mask, outside: Mask, yes: Mask, no: Mask, reached: Mask
) -> Mask:
    """Which pixels have a colour of the piece rather than of the table.

    Colours are counted where a hand left things as they are, far from its strokes if there is
    enough of that, and where it painted, which counts as much as all the rest.
    """
    lab = cv2.cvtColor(cv2.GaussianBlur(pixels, (0, 0), 1.0), cv2.COLOR_RGB2LAB)
    counts = []
    for side, painted in ((inside, yes), (outside, no)):
        far = side & ~reached
        own = _colours(lab, far if far.sum() > _ENOUGH_PX else side)
        counts.append((own + _colours(lab, painted)) / 2 if painted.any() else own)
    at = tuple((lab >> _SHADE_BITS).reshape(-1, 3).T)
    return np.asarray((counts[0][at] > counts[1][at]).reshape(inside.shape))


def _colours(lab: NDArray[np.uint8], where: Mask) -> NDArray[np.float64]:
    """How often each shade occurs (bins of 8 in all three of Lab), softened over its neighbours."""
    size = 256 >> _SHADE_BITS
    count = np.zeros((size,) * 3)
    np.add.at(count, tuple((lab[where] >> _SHADE_BITS).T), 1.0)
    return np.asarray(scipy.ndimage.gaussian_filter(count, 1.0, mode="constant") / max(float(where.sum()), 1.0))


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


def _laid_over(before: Mask, difference: Mask, whole: Window, window: Window) -> Mask:
    """The mask of a picture with what changed in a coarser window turned over."""
    size = (whole.columns, whole.rows)
    soft = cv2.warpAffine(
        difference.astype(np.uint8) * 255,
        pixels_between(window, whole),
        size,
        flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
    )
    after = (before ^ (soft > 127)).astype(np.uint8)
    # where the coarse part meets the fine one, a seam a pixel of the coarse one wide may be left between them
    seam = 2 * int(np.ceil(window.mm_per_px / whole.mm_per_px)) + 1
    kernel = np.ones((seam, seam), np.uint8)
    tidied = cv2.morphologyEx(cv2.morphologyEx(after, cv2.MORPH_CLOSE, kernel), cv2.MORPH_OPEN, kernel)
    return np.asarray(np.where(cv2.dilate(soft, kernel) > 0, tidied, after) > 0)


def _largest(piece: shapely.Geometry) -> tuple[Array, tuple[Array, ...]]:
    largest = max(shapely.get_parts(piece), key=lambda g: float(g.area), default=shapely.Polygon())
    if largest.area < SMALLEST_HOLE_MM2:
        raise Refusal(message("strokes_leave_nothing"), "stroke")
    own = orient(largest)
    holes = [np.asarray(h.coords)[:-1] for h in own.interiors if shapely.Polygon(h).area > SMALLEST_HOLE_MM2]
    return np.asarray(own.exterior.coords)[:-1], tuple(holes)
