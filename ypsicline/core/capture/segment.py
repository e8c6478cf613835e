"""Telling the piece from the table, roughly: a coarse mask of each piece on the flattened picture.

The table is learnt beside the sheets, where nothing else lies. Its colour is taken as a smooth
surface over the picture (uneven light); a pixel belongs to a piece when it differs from that
by more than the table differs from itself.
"""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy import ndimage
from skimage.filters import threshold_otsu

from ypsicline.core.capture.cut import cut_out, edge_strength, resized
from ypsicline.core.capture.flat_parts import shrunk
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.errors import Refused
from ypsicline.core.geometry.edges import Array

__all__ = ["CoarsePiece", "find_pieces", "paint"]

SMALLEST_PIECE_MM2 = 400.0
SMALLEST_SHARE = 0.06
LEAST_CONTRAST = 5.0
SMALLEST_HOLE_MM2 = 12.0
TABLE_SPREAD, TABLE_SAMPLES = 3.2, 6000
TOUCHES_MM = 6.0
CHECK_MM_PER_PX, CUT_MM_PER_PX = 4.0, 2.5
RIM_MM = 4.0
LEAST_EDGE = 4.0
MOST_PIECES = 8
LEAST_ISLANDS = 6

Mask = NDArray[np.bool_]


@dataclass(frozen=True)
class CoarsePiece:
    """A piece as found at low resolution: its mask on `window`, its area, how far it stands out (ΔE of CIE Lab).

    `doubtful`: its colour alone doesn't tell it from the table, for a pattern or a shadow.
    `islands_mm` is how wide the parts of a pattern are that have the table's colour.
    """

    window: Window
    mask: Mask
    area_mm2: float
    middle: tuple[float, float]
    contrast: float
    leaves_picture: bool
    touches_sheet: bool
    doubtful: bool = False
    islands_mm: float = 0.0


def find_pieces(picture: FlatPicture, papers: Sequence[Array]) -> tuple[CoarsePiece, ...]:
    """The pieces on the table, largest first, none much smaller than the largest.

    `papers` are the sheets' corners (4, 2) on the table. Told by the table's colour; where a cut
    along the strongest edges says otherwise, its pieces are taken, and are `doubtful`. Raises
    `Refused` (reason `low_contrast`) where nothing stands out from the table.
    """
    # the cut asks nothing of the colours' answer, so that both are worked out at once
    with ThreadPoolExecutor(1) as beside:
        coarse = beside.submit(_cut, picture, papers, CHECK_MM_PER_PX)
        refused: Refused | None = None
        by_colour: tuple[CoarsePiece, ...] = ()
        try:
            by_colour = _by_colour(picture, papers)
        except Refused as e:
            refused = e
    small, cut = coarse.result()
    patterned = bool(by_colour) and _holes_in(by_colour[0].mask) >= LEAST_ISLANDS
    if by_colour and not patterned:
        mine = _together(by_colour, cut.shape)
        if _agree(mine, cut & ~_holes(mine, small.window.mm_per_px), small.window.mm_per_px):
            return by_colour
    small, cut = _cut(picture, papers, CUT_MM_PER_PX, coarse=cut)
    mine = _together(by_colour, cut.shape)
    cut &= ~_holes(mine, small.window.mm_per_px)
    strength = edge_strength(small, cut)
    if by_colour:
        clearer = len(by_colour) <= MOST_PIECES and strength < 0.7 * edge_strength(small, mine)
        if clearer or _agree(mine, cut, small.window.mm_per_px):
            return by_colour
    elif strength < LEAST_EDGE:
        raise refused or _hardly_differs(0.0)
    islands_mm = _island_width(cut & ~mine, small.window.mm_per_px) if by_colour else 0.0
    whole = cv2.resize(cut.astype(np.uint8) * 255, picture.seen.shape[::-1], interpolation=cv2.INTER_LINEAR) > 127
    covered = paint(papers, picture.window, grow_mm=3.0)
    found = _components(whole & ~covered, picture, np.full(whole.shape, LEAST_CONTRAST, np.float32), covered)
    if not found:
        raise refused or _hardly_differs(0.0)
    return tuple(
        replace(p, doubtful=True, islands_mm=islands_mm)
        for p in found
        if p.area_mm2 >= SMALLEST_SHARE * found[0].area_mm2
    )


def _cut(
    picture: FlatPicture, papers: Sequence[Array], mm_per_px: float, coarse: Mask | None = None
) -> tuple[FlatPicture, Mask]:
    """The picture at fewer pixels and the cut on it; `coarse` as for `cut_out`."""
    small = shrunk(picture, mm_per_px)
    table = paint(papers, small.window, grow_mm=16.0)
    cut = cut_out(small, table, papers, coarse)
    return small, _large(_tidy(cut, small.window.mm_per_px), small.window.mm_per_px)


def _together(pieces: Sequence[CoarsePiece], shape: tuple[int, ...]) -> Mask:
    """All pieces as one mask on another number of pixels."""
    if not pieces:
        return np.zeros(shape, dtype=bool)
    return resized(np.any([p.mask for p in pieces], axis=0), shape)


def _holes(mask: Mask, mm_per_px: float) -> Mask:
    """The holes of a mask that are large enough to be told from a pattern."""
    count, labels, stats, _ = cv2.connectedComponentsWithStats((~mask).astype(np.uint8), connectivity=4)
    rim = np.concatenate([labels[0], labels[-1], labels[:, 0], labels[:, -1]])
    large = stats[:, cv2.CC_STAT_AREA] * mm_per_px**2 >= SMALLEST_PIECE_MM2
    closed = np.array([k > 0 and bool(large[k]) for k in range(count)]) & ~np.isin(np.arange(count), rim)
    return np.asarray(closed[labels] & ~mask)


def _holes_in(mask: Mask) -> int:
    """How many parts the rest of the picture falls into, beyond one."""
    return int(cv2.connectedComponents((~mask).astype(np.uint8), connectivity=4)[0]) - 2


def _island_width(islands: Mask, mm_per_px: float) -> float:
    """How wide most of several islands are; 0 for a few, which a shadow makes too."""
    opened = cv2.morphologyEx(islands.astype(np.uint8), cv2.MORPH_OPEN, np.ones((2, 2), np.uint8))
    depth = cv2.distanceTransform(opened, cv2.DIST_L2, 3)
    count, labels = cv2.connectedComponents(opened, connectivity=4)
    if count - 1 < LEAST_ISLANDS:
        return 0.0
    deepest = ndimage.maximum(depth, labels, np.arange(1, count))
    return (2 * float(np.percentile(deepest, 75)) + 1) * mm_per_px


def _large(mask: Mask, mm_per_px: float) -> Mask:
    """Without crumbs, and with only such holes as could be meant."""
    for invert in (False, True):
        m = (mask ^ invert).astype(np.uint8)
        _, labels, stats, _ = cv2.connectedComponentsWithStats(m, connectivity=4)
        small = np.flatnonzero(stats[:, cv2.CC_STAT_AREA] * mm_per_px**2 < SMALLEST_PIECE_MM2)
        mask = mask ^ (np.isin(labels, small) & (m > 0))
    return mask


def _agree(a: Mask, b: Mask, mm_per_px: float) -> bool:
    """Whether two masks differ only along their rims."""
    size = 2 * max(1, int(RIM_MM / mm_per_px)) + 1
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))
    apart = cv2.morphologyEx((a ^ b).astype(np.uint8), cv2.MORPH_OPEN, kernel)
    return float(apart.sum()) <= 0.003 * float((a | b).sum())


def _by_colour(picture: FlatPicture, papers: Sequence[Array]) -> tuple[CoarsePiece, ...]:
    window = picture.window
    lab = _lab(picture)
    covered = paint(papers, window, grow_mm=3.0)
    beside = paint(papers, window, grow_mm=16.0) & ~covered & picture.seen
    table = _table_surface(lab, beside)
    away = np.linalg.norm(lab - table, axis=-1)
    usual = float(np.median(away[beside]))
    looked_at = picture.seen & ~covered
    limit = max(float(threshold_otsu(away[looked_at][::7])), TABLE_SPREAD * usual, LEAST_CONTRAST)
    mask = (away > limit) & looked_at
    mask = _tidy(mask, window.mm_per_px)
    found = _components(mask, picture, away - usual, covered)
    if not found:
        raise _hardly_differs(float(np.percentile(away[looked_at], 99)) - usual)
    largest = found[0].area_mm2
    pieces = tuple(p for p in found if p.area_mm2 >= SMALLEST_SHARE * largest)
    if pieces[0].contrast < LEAST_CONTRAST:
        raise _hardly_differs(pieces[0].contrast)
    return pieces


def _hardly_differs(contrast: float) -> Refused:
    return Refused(
        "No piece stands out from the table: its colour is too near the table's. Lay a plain sheet, light under a dark "
        "piece or dark under a light one, below the piece and the reference sheets, and avoid shadows.",
        "low_contrast", numbers={"contrast": contrast},
    )  # fmt: skip


def _lab(picture: FlatPicture) -> NDArray[np.float32]:
    soft = cv2.GaussianBlur(picture.pixels, (0, 0), max(0.8 / picture.window.mm_per_px, 0.8))
    return np.asarray(cv2.cvtColor(soft.astype(np.float32) / 255, cv2.COLOR_RGB2LAB))


def _table_surface(lab: NDArray[np.float32], known: Mask) -> NDArray[np.float32]:
    """A quadratic surface per channel through the known table, refitted once without its outliers."""
    rows, columns = known.shape
    r, c = np.nonzero(known)
    step = max(1, len(r) // TABLE_SAMPLES)
    r, c = r[::step], c[::step]
    if len(r) < 200:
        raise Refused(
            "Too little of the table shows beside the sheets to know its colour. Leave a hand's breadth free round them.",
            "low_contrast",
        )
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


def paint(papers: Sequence[Array], window: Window, *, grow_mm: float) -> Mask:
    """Where sheets of these corners lie in a window, and `grow_mm` beyond."""
    mask = np.zeros((window.rows, window.columns), dtype=np.uint8)
    for corners in papers:
        cv2.fillConvexPoly(mask, np.rint(window.to_px(corners)).astype(np.int32), 1)
    size = 2 * int(np.ceil(grow_mm / window.mm_per_px)) + 1
    return cv2.dilate(mask, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))) > 0


def _tidy(mask: Mask, mm_per_px: float) -> Mask:
    size = 2 * max(1, round(1.2 / mm_per_px)) + 1
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))
    opened = cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_OPEN, kernel)
    return cv2.morphologyEx(opened, cv2.MORPH_CLOSE, kernel) > 0


def _components(mask: Mask, picture: FlatPicture, away: NDArray[np.float32], covered: Mask) -> list[CoarsePiece]:
    window = picture.window
    count, labels, stats, centres = cv2.connectedComponentsWithStats(mask.astype(np.uint8), connectivity=4)
    found = []
    unseen = cv2.dilate((~picture.seen).astype(np.uint8), np.ones((5, 5), np.uint8)) > 0
    unseen[[0, 1, -2, -1], :] = True
    unseen[:, [0, 1, -2, -1]] = True
    near_sheet = cv2.dilate(covered.astype(np.uint8), np.ones((3, 3), np.uint8)) > 0
    for k in range(1, count):
        area = float(stats[k, cv2.CC_STAT_AREA]) * window.mm_per_px**2
        if area < SMALLEST_PIECE_MM2:
            continue
        own = labels == k
        filled = _fill_specks(own, stats[k], window.mm_per_px)
        middle = window.to_mm(centres[k : k + 1])[0]
        found.append(
            CoarsePiece(
                window, filled, area, (float(middle[0]), float(middle[1])),
                float(np.median(away[own])), bool((own & unseen).any()),
                float((own & near_sheet).sum()) * window.mm_per_px > TOUCHES_MM,
            )
        )  # fmt: skip
    return sorted(found, key=lambda p: -p.area_mm2)


def _fill_specks(own: Mask, box: NDArray[np.int32], mm_per_px: float) -> Mask:
    """Holes too small to be meant are filled; `box` (left, top, width, height, ...) holds the piece."""
    left, top, width, height = (int(v) for v in box[:4])
    part = own[top : top + height, left : left + width]
    # a rim of table, so that a bay that opens outward isn't taken for a hole
    outside = np.pad(~part, 1, constant_values=True).astype(np.uint8)
    _, labels, stats, _ = cv2.connectedComponentsWithStats(outside, connectivity=4)
    small = stats[:, cv2.CC_STAT_AREA] * mm_per_px**2 < SMALLEST_HOLE_MM2
    small[0] = False
    filled = own.copy()
    filled[top : top + height, left : left + width] |= small[labels[1:-1, 1:-1]]
    return filled
