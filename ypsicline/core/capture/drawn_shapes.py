"""Closed lines drawn on paper, among construction lines and writing, with gaps: where they are.

The ink is what a morphological closing wider than any pen takes away (a black top-hat; a white
one for chalk on dark cloth). Its skeleton is split at the crossings into branches; branches much
fainter or thinner than the main line are construction lines and left aside, and ends that face
each other across a gap are joined. What cannot be reached from outside is the drawn shape.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import partial

import cv2
import numpy as np
import skimage
from numpy.typing import NDArray

from ypsicline.core.capture.at_once import at_once
from ypsicline.core.capture.line_gaps import LONGEST_GAP_MM, gaps, neighbours
from ypsicline.core.capture.line_tangles import STEP_MM, smooth, tangle_doubts
from ypsicline.core.capture.pieces import Mask
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.capture.table_lines import grain_of, lattice_of
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.geometry.rings import even_ring
from ypsicline.core.messages import Message, message

__all__ = ["DrawnShape", "find_drawn", "ink_of", "no_line", "rim_of"]

WIDEST_PEN_MM = 3.5
LEAST_INK = 14.0
INK_SHARE = 0.22
BRANCH_TELLS_MM = 12.0
# lines that run on outside a shape from its rim, from so near, for more than this of the way round it: it isn't all of the
# drawing, unless all is written over: nothing else is closed, and with them it reaches round less than so many times what it does
MOST_LOOSE, NEAR_RIM_MM, REACHES_ROUND = 0.2, 3.0, 1.4
# what is closed and goes round less than this of what the widest line does is a letter beside a line that isn't closed
LEAST_OF_LINES = 0.1
# gaps joined otherwise give another reading of a shape when they have so much of it in common, else another shape
SAME_SHARE = 0.5
MAIN_TO_FAINT = 1.7
# a place that a line shuts off at a shape's rim may lie outside it when it is no larger than this share of it, no speck, and
# has so much of the rim; where there are more such places than this, only the largest are looked at one by one
MOST_SHUT_OFF, LEAST_SHUT_OFF_MM2, LEAST_AT_RIM_MM, MOST_PLACES = 0.12, 20.0, 3.0, 12
# a shape is whole while its largest part is more than this share of it: writing across it shuts off no place at its rim
STAYS_WHOLE = 0.9
SMALLEST_MM2, SMALLEST_HOLE_MM2 = 1500.0, 110.0
# a hole's line has no more than this beside it; what one that others touch encloses may be a hole where it is so large, no letter,
# and fills so much of its convex hull
MOST_SPURS_MM = 4.0
LIKELY_HOLE_MM2, LIKELY_HOLE_FILLS = 300.0, 0.9


@dataclass(frozen=True)
class DrawnShape:
    """A drawn shape at low resolution: the mask (rows, columns) of line and inside, its area, the pen's width, whether the
    line is darker than what it is drawn on, closed lines drawn inside it, which are its holes, how else its gaps may be
    joined or the line run: masks that are much the same, and whether a line that goes round more runs out of the window.
    `has_touched_loops`: other closed lines inside may be holes, but that something else drawn touches them."""

    window: Window
    mask: Mask
    area_mm2: float
    pen_mm: float
    darker: bool = True
    holes: tuple[DrawnShape, ...] = ()
    otherwise: tuple[Mask, ...] = ()
    beside_larger: bool = False
    has_touched_loops: bool = False


def ink_of(picture: FlatPicture, *, darker: bool) -> NDArray[np.float32]:
    """How much darker, or else lighter, each pixel is than the paper or cloth beside it, 0 to 255."""
    size = 2 * int(np.ceil(WIDEST_PEN_MM / picture.window.mm_per_px)) + 1
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))
    grey = cv2.transform(picture.pixels, np.full((1, 3), 1 / 3, dtype=np.float32))
    soft = cv2.GaussianBlur(grey, (0, 0), 0.7)
    return cv2.morphologyEx(soft, cv2.MORPH_BLACKHAT if darker else cv2.MORPH_TOPHAT, kernel).astype(np.float32)


def find_drawn(picture: FlatPicture, sheets_mask: Mask) -> tuple[DrawnShape, ...]:
    """The closed lines on a flat picture of about half a millimetre a pixel, largest first.

    `sheets_mask` (rows, columns) is where sheets lie. Raises `Refusal` (reason `no_line`) where no
    closed line is found.
    """
    mm_per_px = picture.window.mm_per_px
    ink, inked, darker = _inked(picture, picture.in_view & ~sheets_mask)
    tables = grain_of(inked, mm_per_px) | lattice_of(inked, mm_per_px)
    if tables.any():
        ink, inked, darker = _inked(picture, picture.in_view & ~sheets_mask & ~_grown(tables, 2))
    if not inked.any():
        raise no_line(message("line_doesnt_stand_out"))
    skeleton = skimage.morphology.skeletonize(inked)  # type: ignore[attr-defined]
    main = _main_branches(skeleton, ink, mm_per_px)
    pen_mm = 2 * mm_per_px * float(np.median(cv2.distanceTransform(inked.astype(np.uint8), cv2.DIST_L2, 5)[main]))
    lines = (main, skeleton) if (skeleton & ~main).any() else (skeleton,)
    for branches, over in [(b, w) for w in (False, True) for b in lines]:
        ways = at_once(partial(_enclosed, picture, inked, branches, skeleton, pen_mm, over), (True, False))
        largest = max((w[0].area_mm2 for w in ways if w), default=0.0)
        sound = [w for w in ways if w and w[0].area_mm2 > SAME_SHARE * largest]
        if shapes := min(sound, key=lambda w: (len(w), _tangle(w)), default=()):
            others = [s.mask for way in ways for s in way]
            return tuple(
                replace(
                    s,
                    darker=darker,
                    holes=tuple(replace(h, darker=darker) for h in s.holes),
                    otherwise=(
                        *s.otherwise,
                        *(m for m in others if _overlap(m, s.mask) > SAME_SHARE and m is not s.mask),
                    ),
                )
                for s in shapes
            )
    raise no_line(message("line_not_closed"))


def _inked(picture: FlatPicture, looked_at: Mask) -> tuple[NDArray[np.float32], Mask, bool]:
    """How much ink there is at each pixel that is looked at, where there is enough of it for a line, and whether the ink is
    darker than what it is on, rather than lighter."""
    dark, light = (np.where(looked_at, ink_of(picture, darker=d), 0) for d in (True, False))
    darker = bool(np.percentile(dark[::3, ::3], 99.95) >= 0.8 * np.percentile(light[::3, ::3], 99.95))
    ink = dark if darker else light
    strong = float(np.percentile(ink[ink > LEAST_INK], 90)) if (ink > LEAST_INK).any() else 0.0
    inked = ink > max(LEAST_INK, INK_SHARE * strong)
    return ink, _without_specks(inked, round(20 / picture.window.mm_per_px)), darker


def no_line(why: Message) -> Refusal:
    """What is said where no closed line is found, and why (reason `no_line`)."""
    return Refusal(message("no_closed_line", why=why, gap_mm=LONGEST_GAP_MM), "no_line")


def _without_specks(mask: Mask, least_px: int) -> Mask:
    _, labels, stats, _ = cv2.connectedComponentsWithStats(mask.astype(np.uint8), connectivity=8)
    large = stats[:, cv2.CC_STAT_AREA] >= least_px
    large[0] = False
    return np.asarray(large[labels])


def _main_branches(skeleton: Mask, ink: NDArray[np.float32], mm_per_px: float) -> Mask:
    """The skeleton without the branches that carry far less ink per length than the main line."""
    crossings = _grown(neighbours(skeleton) >= 3) & skeleton
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
    picture: FlatPicture,
    inked: Mask,
    branches: Mask,
    skeleton: Mask,
    pen_mm: float,
    is_written_over: bool,
    facing_first: bool,
) -> tuple[DrawnShape, ...]:
    """What `branches`, with gaps joined, shut off from the outside, see `gaps`; with `is_written_over` what much is written over
    too."""
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
    for a, b in gaps(branches, mm_per_px, facing_first=facing_first):
        cv2.line(barrier, a, b, 1, max(1, round(pen_mm / mm_per_px)))
    framed = cv2.copyMakeBorder(barrier, 1, 1, 1, 1, cv2.BORDER_CONSTANT, value=0)
    _, labels = cv2.connectedComponents(1 - framed, connectivity=4)
    outside = labels[1:-1, 1:-1] == labels[0, 0]
    shape = ~outside
    size = 2 * round((pen_mm + 1.0) / mm_per_px) + 1
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))
    body = cv2.morphologyEx(shape.astype(np.uint8), cv2.MORPH_OPEN, kernel)
    _, labels, stats, _ = cv2.connectedComponentsWithStats(body, connectivity=4)
    within, touched = _loops_within(barrier > 0, outside, branches, pen_mm, mm_per_px)
    areas = stats[:, cv2.CC_STAT_AREA] * mm_per_px**2
    _, lines, line_stats, _ = cv2.connectedComponentsWithStats(branches.astype(np.uint8), connectivity=8)
    longest = 1 + np.argsort(-line_stats[1:, cv2.CC_STAT_AREA])[:3]
    reaches = {k: _hull_mm2(lines == k, mm_per_px) for k in longest}
    reach = max(reaches.values(), default=0.0)
    beyond = max((reaches[k] for k in longest if _at_rim_of_window(lines == k)), default=0.0)
    rings = []
    for k in 1 + np.flatnonzero(areas[1:] >= SMALLEST_MM2):
        mask = np.asarray(labels == k)
        is_part = _reaches_far if is_written_over else _is_run_on
        if areas[k] < LEAST_OF_LINES * reach or is_part(mask, lines, mm_per_px):
            continue
        holes = tuple(
            DrawnShape(window, loop, float(loop.sum()) * mm_per_px**2, pen_mm) for loop in within if mask[loop].all()
        )
        shut_off = _without_places_at_rim(mask, barrier > 0, outside, pen_mm / mm_per_px, mm_per_px)
        rings.append(
            DrawnShape(
                window,
                mask,
                float(areas[k]),
                pen_mm,
                holes=holes,
                otherwise=shut_off,
                beside_larger=bool(beyond > areas[k]),
                has_touched_loops=any(mask[loop].all() for loop in touched),
            )
        )
    rings.sort(key=lambda s: -s.area_mm2)
    return tuple(s for s in rings if s.area_mm2 >= 0.06 * rings[0].area_mm2)


def _without_places_at_rim(
    shape: Mask, barrier: Mask, outside: Mask, pen_px: float, mm_per_px: float
) -> tuple[Mask, ...]:
    """The shape as it is if the line runs along the inner side of places at its rim that other lines shut off, an arrow across
    a notch for instance: of all of them, or of each where it would fall apart without all; nothing where there are none that
    leave it whole."""
    pen = max(2, round(pen_px)) + 1
    whole, box = shape, _box_round(shape, 2 * pen + 2)
    shape, barrier, outside = whole[box], barrier[box], outside[box]
    _, places, stats, _ = cv2.connectedComponentsWithStats((shape & ~barrier).astype(np.uint8), connectivity=4)
    size = stats[:, cv2.CC_STAT_AREA]
    small = (size * mm_per_px**2 > LEAST_SHUT_OFF_MM2) & (size < MOST_SHUT_OFF * shape.sum())
    small[0] = False
    near_outside = _grown(outside, 2 * pen)
    contacts = np.bincount(places[near_outside], minlength=len(size)) * mm_per_px
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * pen + 1, 2 * pen + 1))

    def without(numbers: Sequence[int]) -> Mask | None:
        rest = cv2.morphologyEx(
            (shape & ~_grown(np.isin(places, numbers), pen)).astype(np.uint8), cv2.MORPH_OPEN, kernel
        )
        _, _, parts, _ = cv2.connectedComponentsWithStats(rest, connectivity=4)
        sizes = parts[1:, cv2.CC_STAT_AREA]
        return rest > 0 if len(sizes) and sizes.max() > STAYS_WHOLE * sizes.sum() else None

    at_rim = [int(k) for k in np.flatnonzero(small & (contacts > LEAST_AT_RIM_MM))]
    together = without(at_rim) if at_rim else None
    largest = sorted(at_rim, key=lambda k: -int(size[k]))[:MOST_PLACES]
    each = [together] if together is not None else map(without, ([k] for k in largest))
    masks = []
    for part in each:
        if part is not None:
            masks.append(np.zeros_like(whole))
            masks[-1][box] = part
    return tuple(masks)


def _box_round(mask: Mask, beyond: int) -> tuple[slice, slice]:
    """The rows and columns of a mask, and as many beyond as there are up to `beyond`."""
    left, top, wide, high = cv2.boundingRect(mask.astype(np.uint8))
    return slice(max(0, top - beyond), top + high + beyond), slice(max(0, left - beyond), left + wide + beyond)


def _overlap(one: Mask, other: Mask) -> float:
    return float((one & other).sum() / max((one | other).sum(), 1))


def _at_rim_of_window(line: Mask) -> bool:
    rim = np.ones_like(line)
    rim[2:-2, 2:-2] = False
    return bool((line & rim).any())


def _hull_mm2(line: Mask, mm_per_px: float) -> float:
    """How much a line goes round, closed or not: the area of its convex hull."""
    return float(cv2.contourArea(cv2.convexHull(np.argwhere(line).astype(np.float32)))) * mm_per_px**2


def _tangle(shapes: Sequence[DrawnShape]) -> float:
    """How far the largest of drawn shapes may be led astray by writing, mm, summed along its rim."""
    ring = even_ring(rim_of(shapes[0].mask, shapes[0].window), STEP_MM)[0]
    return float(tangle_doubts(smooth(ring, 2.0)).sum())


def rim_of(mask: Mask, window: Window) -> Array:
    """The border (n, 2), mm, of the largest part of a mask."""
    contours, _ = cv2.findContours(mask.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    return window.to_mm(max(contours, key=cv2.contourArea).reshape(-1, 2).astype(float))


def _is_run_on(shape: Mask, lines: NDArray[np.int32], mm_per_px: float) -> bool:
    """Whether `lines` (numbered from 1, 0 elsewhere) run on outside a shape from its rim: of a closed line next to nothing, of a
    part of one that another line cuts off more than it has round it."""
    near = _near(shape, mm_per_px)
    contours, _ = cv2.findContours(shape.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    around = cv2.arcLength(max(contours, key=cv2.contourArea), True)
    return float((_lines_at(near, lines) & ~near).sum()) > MOST_LOOSE * around


def _reaches_far(shape: Mask, lines: NDArray[np.int32], mm_per_px: float) -> bool:
    """Whether lines that come near a shape reach far beyond it: of a part of a drawing they do, writing over a line doesn't."""
    whole = shape | _lines_at(_near(shape, mm_per_px), lines)
    return _hull_mm2(whole, mm_per_px) > REACHES_ROUND * _hull_mm2(shape, mm_per_px)


def _near(shape: Mask, mm_per_px: float) -> Mask:
    return _grown(shape, max(2, round(NEAR_RIM_MM / mm_per_px)))


def _lines_at(place: Mask, lines: NDArray[np.int32]) -> Mask:
    """The whole of each line that is seen at a place."""
    own = np.bincount(lines[place], minlength=int(lines.max()) + 1) > 0
    own[0] = False
    return np.asarray(own[lines])


def _numbers_at(place: Mask, lines: NDArray[np.int32]) -> set[int]:
    return set(np.flatnonzero(np.bincount(lines[place])).tolist())


def _loops_within(
    barrier: Mask, outside: Mask, branches: Mask, pen_mm: float, mm_per_px: float
) -> tuple[list[Mask], list[Mask]]:
    """Closed lines, as wide as the pen, with what they enclose, that touch nothing else that is drawn: drawn holes, not letters or crossings. And what
    may be holes too, other lines touching theirs."""
    _, lines = cv2.connectedComponents(barrier.astype(np.uint8), connectivity=8)
    _, regions, stats, _ = cv2.connectedComponentsWithStats((~barrier).astype(np.uint8), connectivity=4)
    outer = _numbers_at(_grown(outside, 2), lines)
    loops, touched = [], []
    for k in np.flatnonzero(stats[:, cv2.CC_STAT_AREA] * mm_per_px**2 >= SMALLEST_HOLE_MM2):
        region = regions == k
        if k == 0 or outside[region].any():
            continue
        beside = _numbers_at(_grown(region, 2), lines) - {0}
        line = next(iter(beside)) if len(beside) == 1 else 0
        if not line or line in outer:
            continue
        contours, _ = cv2.findContours(region.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
        rim = max(contours, key=cv2.contourArea)
        area_px = float(stats[k, cv2.CC_STAT_AREA])
        # a line's thinned middle has short ends where nothing is drawn
        loose = branches & (lines == line) & ~_grown(region, 2 + round(pen_mm / 2 / mm_per_px))
        if loose.sum() * mm_per_px <= MOST_SPURS_MM:
            loops.append(np.asarray(region | ((lines == line) & _grown(region, 1 + round(pen_mm / mm_per_px)))))
        elif area_px * mm_per_px**2 >= LIKELY_HOLE_MM2 and area_px > LIKELY_HOLE_FILLS * cv2.contourArea(
            cv2.convexHull(rim)
        ):
            touched.append(region)
    return loops, touched
