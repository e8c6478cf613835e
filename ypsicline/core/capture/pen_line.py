"""A closed line drawn on paper, among construction lines and writing, with gaps.

The ink is what a morphological closing wider than any pen takes away (a black top-hat; a white
one for chalk on dark cloth). Its skeleton is split at the crossings into branches; branches much
fainter or thinner than the main line are construction lines and left aside, and ends that face
each other across a gap are joined. What cannot be reached from outside is the drawn shape. Along
its rim the line is then measured in profile, to a fraction of a pixel.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import cv2
import numpy as np
import scipy
import skimage
from numpy.typing import NDArray

from ypsicline.core.capture.contour import FoundOutline
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.errors import Refused
from ypsicline.core.geometry.edges import Array
from ypsicline.core.geometry.rings import even_ring, signed_area
from ypsicline.core.messages import Message, message

__all__ = ["DrawnShape", "PenSide", "find_drawn", "follow_line"]

PenSide = Literal["centre", "inner", "outer"]
Mask = NDArray[np.bool_]

WIDEST_PEN_MM = 3.5
LEAST_INK = 14.0
INK_SHARE = 0.22
LONGEST_GAP_MM = 30.0
MOST_ENDS = 6000
# of the distance to where a line is clear again, by how much a bridge may stray
BRIDGE_SHARE = 0.3
# a line that turns to and fro by so much more than it turns away, within so many mm, was led astray by writing
TANGLE_DEG, TANGLE_MM = 250.0, 40.0
NEAR_ENDS_MM = 8.0
# what is drawn in one go and shorter than this may be a letter
LETTER_MM = 60.0
FACING = np.cos(np.radians(38))
MEETING, WIDEST_CORNER_MM = np.cos(np.radians(75)), 15.0
BRANCH_TELLS_MM = 12.0
# what runs on outside a shape from its rim, from so near, of the way round it: more and it isn't all of the line
MOST_LOOSE, NEAR_RIM_MM = 0.5, 3.0
# what is closed and goes round less than this of what the widest line does is a letter beside a line that isn't closed
LEAST_OF_LINES = 0.1
# gaps joined otherwise give another reading of a shape when they have so much of it in common, else another shape
SAME_SHARE = 0.5
MAIN_TO_FAINT = 1.7
# a table's own grain: so much ink within so many mm, over more than what is written covers
GRAIN_SHARE, GRAIN_MM, WIDEST_WRITING_MM = 0.25, 25.0, 90.0
SMALLEST_MM2, SMALLEST_HOLE_MM2 = 1500.0, 110.0
_STEP_MM = 0.25
_PROFILE_STEP_MM = 0.08


@dataclass(frozen=True)
class DrawnShape:
    """A drawn shape at low resolution: the mask (rows, columns) of line and inside, its area, the pen's width, whether the
    line is darker than what it is drawn on, closed lines drawn inside it, which are its holes, and how else its gaps may be
    joined: masks that are much the same."""

    window: Window
    mask: Mask
    area_mm2: float
    pen_mm: float
    darker: bool = True
    holes: tuple[DrawnShape, ...] = ()
    otherwise: tuple[Mask, ...] = ()


def _ink(picture: FlatPicture, *, darker: bool) -> NDArray[np.float32]:
    """How much darker, or else lighter, each pixel is than the paper or cloth beside it, 0 to 255."""
    size = 2 * int(np.ceil(WIDEST_PEN_MM / picture.window.mm_per_px)) + 1
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))
    grey = cv2.transform(picture.pixels, np.full((1, 3), 1 / 3, dtype=np.float32))
    soft = cv2.GaussianBlur(grey, (0, 0), 0.7)
    return cv2.morphologyEx(soft, cv2.MORPH_BLACKHAT if darker else cv2.MORPH_TOPHAT, kernel).astype(np.float32)


def find_drawn(picture: FlatPicture, covered: Mask) -> tuple[DrawnShape, ...]:
    """The closed lines on a flat picture of about half a millimetre a pixel, largest first.

    `covered` (rows, columns) is where sheets lie. Raises `Refused` (reason `no_line`) where no
    closed line is found.
    """
    mm_per_px = picture.window.mm_per_px
    ink, inked, darker = _inked(picture, picture.seen & ~covered)
    grain = _grain(inked, mm_per_px)
    if grain.any():
        ink, inked, darker = _inked(picture, picture.seen & ~covered & ~grain)
    if not inked.any():
        raise _no_line(message("line_doesnt_stand_out"))
    skeleton = skimage.morphology.skeletonize(inked)  # type: ignore[attr-defined]
    main = _main_branches(skeleton, ink, mm_per_px)
    pen_mm = 2 * mm_per_px * float(np.median(cv2.distanceTransform(inked.astype(np.uint8), cv2.DIST_L2, 5)[main]))
    for branches in (main, skeleton) if (skeleton & ~main).any() else (skeleton,):
        ways = [_enclosed(picture, inked, branches, skeleton, pen_mm, facing_first=f) for f in (True, False)]
        largest = max((w[0].area_mm2 for w in ways if w), default=0.0)
        sound = [w for w in ways if w and w[0].area_mm2 > SAME_SHARE * largest]
        if shapes := min(sound, key=lambda w: (len(w), _tangle(w)), default=()):
            others = [s.mask for way in ways for s in way]
            return tuple(
                replace(
                    s,
                    darker=darker,
                    holes=tuple(replace(h, darker=darker) for h in s.holes),
                    otherwise=tuple(m for m in others if _overlap(m, s.mask) > SAME_SHARE and m is not s.mask),
                )
                for s in shapes
            )
    raise _no_line(message("line_not_closed"))


def _inked(picture: FlatPicture, looked_at: Mask) -> tuple[NDArray[np.float32], Mask, bool]:
    """How much ink there is at each pixel that is looked at, where there is enough of it for a line, and whether the ink is
    darker than what it is on, rather than lighter."""
    dark, light = (np.where(looked_at, _ink(picture, darker=d), 0) for d in (True, False))
    darker = bool(np.percentile(dark[::3, ::3], 99.95) >= 0.8 * np.percentile(light[::3, ::3], 99.95))
    ink = dark if darker else light
    strong = float(np.percentile(ink[ink > LEAST_INK], 90)) if (ink > LEAST_INK).any() else 0.0
    inked = ink > max(LEAST_INK, INK_SHARE * strong)
    return ink, _without_specks(inked, round(20 / picture.window.mm_per_px)), darker


def _grain(inked: Mask, mm_per_px: float) -> Mask:
    """Where the table itself is as if scribbled all over, as concrete is: far more widely than anybody writes."""
    down = max(1, round(2.0 / mm_per_px))
    size = (max(1, inked.shape[1] // down), max(1, inked.shape[0] // down))
    small = cv2.resize(inked.astype(np.float32), size, interpolation=cv2.INTER_AREA)
    px = down * mm_per_px
    dense = (cv2.blur(small, (round(GRAIN_MM / px) | 1,) * 2) > GRAIN_SHARE).astype(np.uint8)
    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (round(WIDEST_WRITING_MM / px) | 1,) * 2)
    wide = cv2.morphologyEx(dense, cv2.MORPH_OPEN, disc)
    grown = cv2.dilate(wide, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (round(GRAIN_MM / px) | 1,) * 2))
    return np.asarray(cv2.resize(grown, inked.shape[::-1], interpolation=cv2.INTER_NEAREST) > 0)


def _no_line(why: Message) -> Refused:
    return Refused(message("no_closed_line", why=why, gap_mm=LONGEST_GAP_MM), "no_line")


def _without_specks(mask: Mask, least_px: int) -> Mask:
    _, labels, stats, _ = cv2.connectedComponentsWithStats(mask.astype(np.uint8), connectivity=8)
    large = stats[:, cv2.CC_STAT_AREA] >= least_px
    large[0] = False
    return np.asarray(large[labels])


def _neighbours(skeleton: Mask) -> NDArray[np.uint8]:
    """Of each pixel of a skeleton, how many of its eight neighbours belong to it; 0 elsewhere."""
    ring = np.array([[1, 1, 1], [1, 0, 1], [1, 1, 1]], dtype=np.float32)
    own = skeleton.astype(np.uint8)
    return np.asarray(cv2.filter2D(own, -1, ring, borderType=cv2.BORDER_CONSTANT) * own)


def _main_branches(skeleton: Mask, ink: NDArray[np.float32], mm_per_px: float) -> Mask:
    """The skeleton without the branches that carry far less ink per length than the main line."""
    crossings = _grown(_neighbours(skeleton) >= 3) & skeleton
    count, labels = cv2.connectedComponents((skeleton & ~crossings).astype(np.uint8), connectivity=8)
    if count < 3:
        return skeleton
    # ink summed across the line: over a disc, divided by the disc's width
    radius = WIDEST_PEN_MM / 2 / mm_per_px
    own = labels[skeleton]
    across = cv2.GaussianBlur(ink, (0, 0), radius / 2)[skeleton]
    length = np.bincount(own, minlength=count)[1:]
    weight = (np.bincount(own, across, minlength=count) / np.maximum(np.bincount(own, minlength=count), 1))[1:]
    telling = length * mm_per_px >= BRANCH_TELLS_MM
    if telling.sum() < 2:
        return skeleton
    each = np.repeat(weight[telling], np.maximum(length[telling], 1).astype(int))
    if each.max() < MAIN_TO_FAINT * each.min():
        return skeleton
    limit = float(skimage.filters.threshold_otsu(each))
    heavy, faint = each[each > limit], each[each <= limit]
    if not len(heavy) or np.median(heavy) < MAIN_TO_FAINT * np.median(faint):
        return skeleton
    keep = np.concatenate([[False], (weight > limit) | (~telling & (weight > 0.8 * limit))])
    main = keep[labels]
    # crossings belong to the main line where it passes through them
    return np.asarray(main | (crossings & _grown(main, 4)))


def _grown(mask: Mask, times: int = 1) -> Mask:
    return np.asarray(cv2.dilate(mask.astype(np.uint8), np.ones((3, 3), np.uint8), iterations=times) > 0)


def _enclosed(
    picture: FlatPicture, inked: Mask, branches: Mask, skeleton: Mask, pen_mm: float, *, facing_first: bool
) -> tuple[DrawnShape, ...]:
    """What `branches`, with gaps joined, shut off from the outside, see `_gaps`."""
    window = picture.window
    mm_per_px = window.mm_per_px
    wall = inked.copy()
    if (skeleton & ~branches).any():
        _, nearest = cv2.distanceTransformWithLabels(
            (~skeleton).astype(np.uint8), cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL
        )
        on_main = np.zeros(int(nearest.max()) + 1, dtype=bool)
        on_main[nearest[branches]] = True
        wall &= on_main[nearest]
    barrier = (wall | branches).astype(np.uint8)
    for a, b in _gaps(branches, mm_per_px, facing_first=facing_first):
        cv2.line(barrier, a, b, 1, max(1, round(pen_mm / mm_per_px)))
    framed = cv2.copyMakeBorder(barrier, 1, 1, 1, 1, cv2.BORDER_CONSTANT, value=0)
    _, labels = cv2.connectedComponents(1 - framed, connectivity=4)
    outside = labels[1:-1, 1:-1] == labels[0, 0]
    shape = ~outside
    size = 2 * round((pen_mm + 1.0) / mm_per_px) + 1
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))
    opened = cv2.morphologyEx(shape.astype(np.uint8), cv2.MORPH_OPEN, kernel)
    _, labels, stats, _ = cv2.connectedComponentsWithStats(opened, connectivity=4)
    within = _loops_within(barrier > 0, outside, branches, mm_per_px)
    areas = stats[:, cv2.CC_STAT_AREA] * mm_per_px**2
    reach = _widest_line_mm2(branches, mm_per_px)
    rings = []
    for k in 1 + np.flatnonzero(areas[1:] >= SMALLEST_MM2):
        mask = np.asarray(labels == k)
        if _loose_share(mask, branches, mm_per_px) > MOST_LOOSE or areas[k] < LEAST_OF_LINES * reach:
            continue
        holes = tuple(
            DrawnShape(window, loop, float(loop.sum()) * mm_per_px**2, pen_mm) for loop in within if mask[loop].all()
        )
        rings.append(DrawnShape(window, mask, float(areas[k]), pen_mm, holes=holes))
    rings.sort(key=lambda s: -s.area_mm2)
    return tuple(s for s in rings if s.area_mm2 >= 0.06 * rings[0].area_mm2)


def _overlap(one: Mask, other: Mask) -> float:
    return float((one & other).sum() / max((one | other).sum(), 1))


def _widest_line_mm2(branches: Mask, mm_per_px: float) -> float:
    """The area of the convex hull of the line that goes round most, closed or not."""
    _, lines, stats, _ = cv2.connectedComponentsWithStats(branches.astype(np.uint8), connectivity=8)
    longest = 1 + np.argsort(-stats[1:, cv2.CC_STAT_AREA])[:3]
    hulls = [cv2.convexHull(np.argwhere(lines == k).astype(np.float32)) for k in longest]
    return max((cv2.contourArea(h) for h in hulls), default=0.0) * mm_per_px**2


def _tangle(shapes: Sequence[DrawnShape]) -> float:
    """How far the largest of drawn shapes may be led astray by writing, mm, summed along its rim."""
    ring = even_ring(_rim(shapes[0].mask, shapes[0].window), _STEP_MM)[0]
    return float(_tangle_doubts(_smooth(ring, 2.0)).sum())


def _rim(mask: Mask, window: Window) -> Array:
    contours, _ = cv2.findContours(mask.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    return window.to_mm(max(contours, key=cv2.contourArea).reshape(-1, 2).astype(float))


def _loose_share(shape: Mask, branches: Mask, mm_per_px: float) -> float:
    """How much of the line runs on outside a shape from its rim, as a share of the way round it: of a closed line next to
    nothing, of a part of one that another line cuts off more than it has round it."""
    near = _grown(shape, max(2, round(NEAR_RIM_MM / mm_per_px)))
    _, lines = cv2.connectedComponents(branches.astype(np.uint8), connectivity=8)
    on_rim = np.unique(lines[near & branches])
    outside = np.isin(lines, on_rim[on_rim > 0]) & ~near
    contours, _ = cv2.findContours(shape.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    return float(outside.sum()) / max(cv2.arcLength(max(contours, key=cv2.contourArea), True), 1.0)


def _loops_within(barrier: Mask, outside: Mask, branches: Mask, mm_per_px: float) -> list[Mask]:
    """Closed lines, with what they enclose, that touch nothing else that is drawn: drawn holes, not letters or crossings."""
    count, lines = cv2.connectedComponents(barrier.astype(np.uint8), connectivity=8)
    ends = np.bincount(lines[(_neighbours(branches) == 1) & branches], minlength=count)
    _, regions, stats, _ = cv2.connectedComponentsWithStats((~barrier).astype(np.uint8), connectivity=4)
    outer = set(np.unique(lines[_grown(outside, 2)]))
    loops = []
    for k in np.flatnonzero(stats[:, cv2.CC_STAT_AREA] * mm_per_px**2 >= SMALLEST_HOLE_MM2):
        region = regions == k
        if k == 0 or outside[region].any():
            continue
        beside = set(np.unique(lines[_grown(region, 2)])) - {0}
        line = next(iter(beside)) if len(beside) == 1 else 0
        if line and line not in outer and ends[line] == 0:
            loops.append(np.asarray(region | (lines == line)))
    return loops


def _gaps(branches: Mask, mm_per_px: float, *, facing_first: bool) -> list[tuple[tuple[int, int], tuple[int, int]]]:
    """Pairs of line ends (x, y in px) that face each other across a gap, meet at a corner where both are led on, or lie close
    together: of long lines and what faces each other first, or simply the nearest, which only writing tells apart."""
    ends = np.argwhere(_neighbours(branches) == 1)
    if not 2 <= len(ends) <= MOST_ENDS:
        return []
    away = np.array([_direction(branches, end, round(6 / mm_per_px)) for end in ends])
    i, j = scipy.spatial.cKDTree(ends).query_pairs(LONGEST_GAP_MM / mm_per_px, output_type="ndarray").T
    step = (ends[j] - ends[i]).astype(float)
    length = np.hypot(*step.T)
    unit = step / np.maximum(length, 1)[:, None]
    towards, back = (unit * away[i]).sum(axis=1), (-unit * away[j]).sum(axis=1)
    facing = (towards > FACING) & (back > FACING)
    corner = (towards > MEETING) & (back > MEETING) & (length * mm_per_px < WIDEST_CORNER_MM)
    candidates = np.flatnonzero(facing | corner | (length * mm_per_px < NEAR_ENDS_MM))
    # letters beside a gap would take one of its ends
    _, lines = cv2.connectedComponents(branches.astype(np.uint8), connectivity=8)
    is_long = np.bincount(lines.ravel())[lines[tuple(ends.T)]] * mm_per_px >= LETTER_MM
    later = ~(is_long[i] & is_long[j]) * 2 + ~facing if facing_first else np.zeros(len(i))
    used_ends: set[int] = set()
    pairs = []
    for k in candidates[np.lexsort((length[candidates], later[candidates]))]:
        a, b = ends[i[k]], ends[j[k]]
        if i[k] in used_ends or j[k] in used_ends or (facing_first and _joined_nearby(branches, a, b)):
            continue
        used_ends |= {int(i[k]), int(j[k])}
        pairs.append(((int(a[1]), int(a[0])), (int(b[1]), int(b[0]))))
    return pairs


def _joined_nearby(branches: Mask, a: NDArray[np.intp], b: NDArray[np.intp]) -> bool:
    """Whether a line leads from one end to the other close by, as at a tick across a line: there is no gap then."""
    reach = int(np.ceil(np.hypot(*(a - b)))) + 2
    low = np.maximum(np.minimum(a, b) - reach, 0)
    high = np.maximum(a, b) + reach + 1
    part = branches[low[0] : high[0], low[1] : high[1]].astype(np.uint8)
    _, lines = cv2.connectedComponents(part, connectivity=8)
    return bool(lines[tuple(a - low)] == lines[tuple(b - low)])


def _direction(branches: Mask, end: NDArray[np.intp], reach: int) -> Array:
    """The direction (row, column) in which a line would run on beyond its end."""
    r, c = end
    r0, c0 = max(r - reach, 0), max(c - reach, 0)
    part = branches[r0 : r + reach + 1, c0 : c + reach + 1]
    labels, _ = scipy.ndimage.label(part, np.ones((3, 3)))
    own = np.argwhere(labels == labels[r - r0, c - c0]) + [r0, c0]
    back = end - own.mean(axis=0)
    return np.asarray(back / max(float(np.hypot(*back)), 1e-9))


def follow_line(
    picture: FlatPicture, mask: Mask, shape: DrawnShape, side: PenSide = "centre"
) -> tuple[FoundOutline, float, Array]:
    """The line of `drawn` along the rim of `mask` (rows, columns of the picture), measured in profile.

    Returns the outline (n, 2) in the table's mm, counter-clockwise, the share of its length that
    had no clear line and was bridged, and how far each of its points may be off for that, mm (n,).

    Raises `Refused` where over half of it has no clear line.
    """
    pen_mm = shape.pen_mm
    ring = even_ring(_rim(mask, picture.window), _STEP_MM)[0]
    if signed_area(ring) < 0:
        ring = ring[::-1]
    ring = _smooth(ring, 2.0) - _normals(_smooth(ring, 2.0)) * pen_mm / 2
    ink = _ink(picture, darker=shape.darker)
    for softness in (1.5, 0.6):
        ring = _smooth(even_ring(ring, _STEP_MM)[0], softness)
        normals = _normals(ring)
        offset, width, clear = _measured(ink, picture.window, ring, normals, pen_mm)
        ring = ring + offset[:, None] * normals
        pen_mm = float(np.median(width[clear])) if clear.any() else pen_mm
    if clear.mean() < 0.5:
        raise _no_line(message("line_hardly_followed"))
    shift = {"centre": 0.0, "inner": -0.5, "outer": 0.5}[side] * pen_mm
    spread = float(np.std((offset - scipy.ndimage.median_filter(offset, 9, mode="wrap"))[clear]))
    # both sides of a line blur alike, so its middle is surer than either
    smear = max(spread, (0.1 if side == "centre" else 0.15) * pen_mm)
    sides = 2 if side == "centre" else 1
    outline = FoundOutline(ring + shift * normals, (), smear, float(np.percentile(ink, 99.5)), sides=sides)
    doubts = np.max([_bridge_doubts(clear), _tangle_doubts(ring), *_disagreements(ring, shape)], axis=0)
    return outline, float(1 - clear.mean()), doubts


def _disagreements(ring: Array, shape: DrawnShape) -> Iterator[Array]:
    """How far off each point would be if the gaps were joined otherwise; nothing where that is about the same."""
    same_mm = 2 * shape.window.mm_per_px + shape.pen_mm
    for mask in shape.otherwise:
        away, _ = scipy.spatial.cKDTree(_rim(mask, shape.window)).query(ring)
        yield np.where(away > same_mm, away, 0.0)


def _bridge_doubts(clear: Mask) -> Array:
    """How far a bridge may stray from a line that bends: the more, the farther from where the line is clear."""
    if clear.all() or not clear.any():
        return np.zeros(len(clear))
    at, clear_at = np.arange(len(clear)), np.flatnonzero(clear)
    around = np.concatenate([clear_at - len(clear), clear_at, clear_at + len(clear)])
    k = np.searchsorted(around, at)
    away = np.minimum(around[np.minimum(k, len(around) - 1)] - at, at - around[k - 1]).clip(0) * _STEP_MM
    return BRIDGE_SHARE * away


def _tangle_doubts(ring: Array) -> Array:
    """How far a line may be off where it turns to and fro as no drawn shape does: it strays from straight, and what was drawn
    may lie as far on the other side."""
    line = _smooth(ring, 1.5)
    steps = np.roll(line, -1, axis=0) - line
    heading = np.arctan2(steps[:, 1], steps[:, 0])
    turn = (np.diff(heading, append=heading[0]) + np.pi) % (2 * np.pi) - np.pi
    window = np.ones(min(int(TANGLE_MM / _STEP_MM), len(ring)))
    to_and_fro, away = (scipy.ndimage.convolve1d(t, window, mode="wrap") for t in (np.abs(turn), turn))
    doubts = np.zeros(len(ring))
    tangled = scipy.ndimage.binary_dilation(
        np.tile(to_and_fro - np.abs(away) > np.radians(TANGLE_DEG), 3), iterations=len(window) // 2
    )
    labels, count = scipy.ndimage.label(tangled)
    for k in range(1, count + 1):
        at = np.flatnonzero(labels == k) % len(ring)
        first, chord = ring[at[0]], ring[at[-1]] - ring[at[0]]
        away_from = ring[at] - first
        strays = np.abs(away_from[:, 0] * chord[1] - away_from[:, 1] * chord[0]) / max(float(np.hypot(*chord)), 1e-9)
        doubts[at] = np.maximum(doubts[at], 2 * strays.max())
    return doubts


def _measured(
    ink: NDArray[np.float32], window: Window, ring: Array, normals: Array, pen_mm: float
) -> tuple[Array, Array, Mask]:
    """Per point of the ring: the line's offset outward and its width, mm, and whether it was clear there."""
    reach = 2.2 + pen_mm
    u = np.arange(-reach, reach + 1e-9, _PROFILE_STEP_MM)
    at = window.to_px((ring[:, None] + u[None, :, None] * normals[:, None]).reshape(-1, 2)).astype(np.float32)
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
    left = np.where(low & (np.arange(len(u)) < peak_at[:, None]), np.arange(len(u)), -1).max(axis=1)
    inside = (right < len(u)) & (left >= 0)
    right, left = np.minimum(right, len(u) - 1), np.maximum(left, 0)
    half = 0.5 * peak
    outer = u[right] - _PROFILE_STEP_MM * _share(profile, index, right, right - 1, half)
    inner = u[left] + _PROFILE_STEP_MM * _share(profile, index, left, left + 1, half)
    width = outer - inner
    usual_peak, usual_width = np.median(peak), np.median(width[inside]) if inside.any() else pen_mm
    clear = inside & (peak > 0.4 * usual_peak) & (np.abs(width - usual_width) < max(0.35 * usual_width, 0.3))
    offset = (outer + inner) / 2
    near = scipy.ndimage.median_filter(np.where(clear, offset, 0), int(9 / _STEP_MM), mode="wrap")
    clear &= np.abs(offset - near) < 1.2
    if not clear.any():
        return np.zeros(len(ring)), width, clear
    filled = np.interp(index, index[clear], offset[clear], period=len(ring))
    return scipy.ndimage.gaussian_filter1d(filled, 0.5 / _STEP_MM, mode="wrap"), width, np.asarray(clear)


def _share(
    profile: Array, index: NDArray[np.intp], low: NDArray[np.intp], high: NDArray[np.intp], half: Array
) -> Array:
    """How far from `low` towards `high`, of one step, the profile crosses `half`."""
    a, b = profile[index, low], profile[index, high]
    return np.asarray(np.clip((half - a) / np.maximum(b - a, 1e-6), 0, 1))


def _smooth(ring: Array, sigma_mm: float) -> Array:
    return np.asarray(scipy.ndimage.gaussian_filter1d(ring, sigma_mm / _STEP_MM, axis=0, mode="wrap"))


def _normals(ring: Array) -> Array:
    along = np.roll(ring, -1, axis=0) - np.roll(ring, 1, axis=0)
    return np.asarray(np.column_stack([along[:, 1], -along[:, 0]]) / np.maximum(np.hypot(*along.T), 1e-9)[:, None])
