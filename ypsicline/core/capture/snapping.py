"""Moving a roughly placed outline onto the edge that the photo shows, and telling how sure its place is.

Across the outline, what lies just within and just without is compared at every distance, against
how much each varies in itself; the way round along the places where they differ most, not far from
where the piece was placed, is the cheapest closed path (dynamic programming as in Amini, Weymouth &
Jain, IEEE PAMI 12(9), 1990).
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
import scipy
from numpy.typing import NDArray

from ypsicline.core.capture.appearance import odds_by_colour
from ypsicline.core.capture.at_once import at_once
from ypsicline.core.capture.pieces import Share
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.geometry.edges import Array
from ypsicline.core.geometry.rings import even_ring

__all__ = [
    "CLEAR",
    "STEP_MM",
    "Snapped",
    "across",
    "clearness",
    "nearest_rival_mm",
    "normals",
    "sampled",
    "settle",
    "snapped",
]

STEP_MM, ACROSS_MM = 0.6, 0.25
SIDE_MM, GAP_MM = 1.6, 0.2
ALONG_MM = 0.9
LEAST_LEVELS = 5.0
# an edge as clear as this is where it is seen to be
CLEAR = 0.45
STEEPEST = 2
LEAST_PRIOR = 0.02
# what a millimetre of colours on their wrong side costs, and a step to the side
SIDES_WEIGHT, TURN_COST = 2.0, 0.4
# odds beyond which a place has the colours of a side, and how far to each side that is asked
LEAST_ODDS, SIDES_MM = 0.7, 4.0
# so near an edge both sides' colours are mixed: so many px, at least so many mm
BLUR_PX, LEAST_BLUR_MM = 1.5, 0.5
# a rival costs hardly more than this, lies no nearer, as one edge has a width (at least so many px), and no farther
HARDLY_MORE, NEAREST_RIVAL_MM, NEAREST_RIVAL_PX, FARTHEST_RIVAL_MM = 3.0, 0.75, 2.0, 5.0
# a ring is looked at in so many parts, each with its neighbours
NEARBY_PARTS = 9
_SMOOTH_MM = 1.2
# colours are compared between so far from an edge, which is sought within so far
NEAR_MM, FAR_MM, WITHIN_MM, FINE_MM = 0.6, 1.4, 1.0, 0.1


@dataclass(frozen=True)
class Snapped:
    """A ring (n, 2), mm, its points `STEP_MM` apart or so; how clear the edge is at each, 0 to 1; how far what lies within
    and without has the colours of piece and of table, 0 to 1; and how far off another edge is that is nearly as likely, mm,
    0 where there is none."""

    ring: Array
    clear: Array
    separation: Array
    rival: Array


def snapped(picture: FlatPicture, ring: Array, share: Share, window: Window, reach_mm: float) -> Snapped:
    """`ring` (n, 2), mm, moved by at most `reach_mm` onto the strongest edge of `picture` near it.

    `share` is how sure each pixel of `window` is of being piece.
    """
    ring = even_ring(ring, STEP_MM)[0]
    ring = scipy.ndimage.gaussian_filter1d(ring, _SMOOTH_MM / STEP_MM, axis=0, mode="wrap")
    normal = normals(ring)
    margin = SIDE_MM + GAP_MM
    u = np.arange(-reach_mm - margin, reach_mm + margin + 1e-9, ACROSS_MM)
    places = ring[:, None] + u[None, :, None] * normal[:, None]
    softened = cv2.GaussianBlur(picture.pixels, (0, 0), max(0.4 * ACROSS_MM / picture.window.mm_per_px, 0.4))
    colours = sampled(softened, picture.window, places)
    evidence = _differs(colours)
    skip = round(margin / ACROSS_MM)
    inner = slice(skip, len(u) - skip)
    sure = sampled(share, window, places)[..., 0]
    piece_first = np.sign(sure[:, : len(u) // 2].sum() - sure[:, len(u) // 2 :].sum())
    odds = piece_first * odds_by_colour(colours, sure)
    within = np.cumsum(odds, axis=1)[:, inner] * ACROSS_MM
    prior = np.maximum(4 * sure * (1 - sure), LEAST_PRIOR)[:, inner]
    cost = -np.log(evidence) - 0.7 * np.log(prior) + 0.15 * (u[inner] / reach_mm) ** 2 - SIDES_WEIGHT * within
    way = _cheapest_way_round(cost)
    at = np.arange(len(ring))
    offset = scipy.ndimage.gaussian_filter1d(u[inner][way], 0.5, mode="wrap")
    clear = evidence[at, way].astype(float)
    blur = max(LEAST_BLUR_MM, BLUR_PX * picture.window.mm_per_px)
    separation = np.maximum(
        _separation(odds, way + skip, blur), _separation(piece_first * _odds_nearby(colours, sure), way + skip, blur)
    )
    return Snapped(
        ring + offset[:, None] * normal, clear, separation, _rivals(cost, way, nearest_rival_mm(picture.window))
    )


def nearest_rival_mm(window: Window) -> float:
    """How far off another edge is at least, mm, in a picture over a window: as far as an edge is wide."""
    return max(NEAREST_RIVAL_MM, NEAREST_RIVAL_PX * window.mm_per_px)


def clearness(picture: FlatPicture, line: Array, *, is_closed: bool) -> Array:
    """How clear an edge is within `WITHIN_MM` of each point of a line (n, 2), mm, its points `STEP_MM` apart or so, 0 to 1."""
    along = np.roll(line, -1, axis=0) - np.roll(line, 1, axis=0) if is_closed else np.gradient(line, axis=0)
    margin = SIDE_MM + GAP_MM
    u = np.arange(-WITHIN_MM - margin, WITHIN_MM + margin + 1e-9, ACROSS_MM)
    places = line[:, None] + u[None, :, None] * across(along)[:, None]
    evidence = _differs(sampled(picture.pixels, picture.window, places), is_closed=is_closed)
    return evidence.max(axis=1).astype(float)


def _rivals(cost: Array, way: NDArray[np.intp], nearest_mm: float) -> Array:
    """How far from `way` along each row of `cost` (n, m) another place lies that costs hardly more, mm (n,), 0 where there is
    none farther than `nearest_mm`: a rim and its shadow's."""
    away = np.abs(np.arange(cost.shape[1]) - way[:, None]) * ACROSS_MM
    middle = cost[:, 1:-1]
    valleys = np.pad((middle < cost[:, :-2]) & (middle <= cost[:, 2:]), ((0, 0), (1, 1)))
    hardly_more = cost - cost[np.arange(len(way)), way][:, None] < HARDLY_MORE
    return np.where(valleys & hardly_more & (away > nearest_mm) & (away < FARTHEST_RIVAL_MM), away, 0).max(axis=1)


def _odds_nearby(colours: NDArray[np.float32], sure: Share) -> Share:
    """Odds by the colours of each part of the ring and what is next to it, (n, m): light may vary round a piece."""
    parts = np.array_split(np.arange(len(colours)), NEARBY_PARTS)

    def odds_of(k: int) -> Share:
        before, own, behind = parts[k - 1], parts[k], parts[(k + 1) % NEARBY_PARTS]
        around = np.concatenate([before, own, behind])
        return odds_by_colour(colours[around], sure[around])[len(before) : len(before) + len(own)]

    return np.concatenate(at_once(odds_of, range(NEARBY_PARTS)))


def _separation(odds: NDArray[np.float32], at: NDArray[np.intp], blur_mm: float) -> Array:
    """How far the colours before and behind the place `at` of each profile, beyond its blur, tell piece from table, 0 to 1,
    (n,)."""
    count, gap = round(SIDES_MM / ACROSS_MM), round(blur_mm / ACROSS_MM)
    rows = np.arange(len(at))

    def share(looks: NDArray[np.bool_], low: NDArray[np.intp], high: NDArray[np.intp]) -> Array:
        sums = np.cumsum(np.pad(looks, ((0, 0), (1, 0))), axis=1, dtype=float)
        low, high = np.clip(low, 0, odds.shape[1]), np.clip(high, 0, odds.shape[1])
        return (sums[rows, high] - sums[rows, low]) / np.maximum(high - low, 1)

    before = share(odds > LEAST_ODDS, at - gap - count, at - gap)
    behind = share(odds < -LEAST_ODDS, at + gap + 1, at + gap + 1 + count)
    along = scipy.ndimage.gaussian_filter1d(before * behind, SIDES_MM / STEP_MM, mode="wrap")
    return np.asarray(np.clip(along, 0, 1))


def settle(picture: FlatPicture, ring: Array) -> Array:
    """An even ring (n, 2), mm, already within a millimetre of its edge, moved to where the picture passes the middle between
    the colours just within and just without, place by place: on a print or stripes they change along the edge."""
    u = np.arange(-FAR_MM - WITHIN_MM, FAR_MM + WITHIN_MM + 1e-9, FINE_MM)
    for _ in range(2):
        ring = scipy.ndimage.gaussian_filter1d(ring, 1.0, axis=0, mode="wrap")
        normal = normals(ring)
        colours = sampled(picture.pixels, picture.window, ring[:, None] + u[None, :, None] * normal[:, None])
        colours = scipy.ndimage.gaussian_filter1d(colours, ALONG_MM / STEP_MM, axis=0, mode="wrap")
        inside, outside = (
            colours[:, at].mean(axis=1) for at in ((u <= -NEAR_MM) & (u >= -FAR_MM), (u >= NEAR_MM) & (u <= FAR_MM))
        )
        step = inside - outside
        length2 = np.maximum((step**2).sum(axis=1), LEAST_LEVELS**2)
        share = ((colours - outside[:, None]) * step[:, None]).sum(axis=2) / length2[:, None]
        falls = (share[:, :-1] >= 0.5) & (share[:, 1:] < 0.5)
        where = u[:-1] + FINE_MM * (share[:, :-1] - 0.5) / np.maximum(share[:, :-1] - share[:, 1:], 1e-6)
        away = np.where(falls, np.abs(where), np.inf)
        nearest = away.argmin(axis=1)
        at = np.arange(len(ring))
        offset = np.where(away[at, nearest] < WITHIN_MM, where[at, nearest], 0.0)
        ring = (
            ring
            + scipy.ndimage.gaussian_filter1d(scipy.ndimage.median_filter(offset, 9, mode="wrap"), 1.0, mode="wrap")[
                :, None
            ]
            * normal
        )
    return ring


def normals(ring: Array) -> Array:
    """The unit normals, to the right, of a closed ring at each of its points (n, 2)."""
    return across(np.roll(ring, -1, axis=0) - np.roll(ring, 1, axis=0))


def across(along: Array) -> Array:
    """The unit normals, to the right, of a line that leads `along` at each of its points (n, 2)."""
    return np.column_stack([along[:, 1], -along[:, 0]]) / np.maximum(np.hypot(*along.T), 1e-9)[:, None]


def sampled(picture: NDArray[np.generic], window: Window, places: Array) -> NDArray[np.float32]:
    """The picture's values at places (n, m, 2), (n, m, channels)."""
    at = window.to_px(places.reshape(-1, 2)).astype(np.float32)
    x, y = (at[:, k].reshape(places.shape[:2]) for k in (0, 1))
    rows = [
        cv2.remap(picture, x[k : k + 30000], y[k : k + 30000], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
        for k in range(0, len(x), 30000)
    ]
    values = np.concatenate(rows).astype(np.float32)
    return values if values.ndim == 3 else values[..., None]


def _differs(colours: NDArray[np.float32], *, is_closed: bool = True) -> NDArray[np.float32]:
    """How clearly what lies before and behind each place of a profile (n, m, channels) differ, 0 to 1, (n, k): at the places
    with all of both sides on it."""
    mode = "wrap" if is_closed else "nearest"
    colours = scipy.ndimage.gaussian_filter1d(colours, ALONG_MM / STEP_MM, axis=0, mode=mode)
    side, gap = round(SIDE_MM / ACROSS_MM), round(GAP_MM / ACROSS_MM)
    count = colours.shape[1] - 2 * (side + gap)
    sums, squares = (
        np.cumsum(np.pad(v, ((0, 0), (1, 0), (0, 0))), axis=1, dtype=np.float64) for v in (colours, colours**2)
    )

    def mean(table: Array, start: int) -> Array:
        return np.asarray((table[:, start + side :][:, :count] - table[:, start:][:, :count]) / side)

    before, behind = 0, side + 2 * gap + 1
    means = [mean(sums, s) for s in (before, behind)]
    spreads = [mean(squares, s) - m**2 for s, m in zip((before, behind), means, strict=True)]
    spread = (spreads[0] + spreads[1]).sum(axis=2)
    step = ((means[0] - means[1]) ** 2).sum(axis=2)
    return np.asarray(step / (step + 3 * np.maximum(spread, 0) + LEAST_LEVELS**2) + 0.02, dtype=np.float32)


def _cheapest_way_round(cost: Array) -> NDArray[np.intp]:
    """Of each row of `cost` (n, m) one column, neighbours at most `STEEPEST` apart and the last beside the first, so that
    the sum is least: walked one and a half times round, of which the settled middle is taken."""
    n, m = cost.shape
    order = np.concatenate([np.arange(n // 2, n), np.arange(n), np.arange(n // 2)])
    walked, way = cost[order].astype(float), np.zeros(len(order), dtype=np.intp)
    came = np.zeros((len(order), m), dtype=np.int8)
    shifts = np.arange(-STEEPEST, STEEPEST + 1)
    turn_cost = TURN_COST * np.abs(shifts)[:, None]
    padded = np.full(m + 2 * STEEPEST, np.inf)
    total = padded[STEEPEST:-STEEPEST]
    before = np.lib.stride_tricks.sliding_window_view(padded, m)
    total[:] = walked[0]
    for k in range(1, len(order)):
        options = before + turn_cost
        options.argmin(axis=0, out=came[k])
        total[:] = options.min(axis=0) + walked[k]
    way[-1] = total.argmin()
    for k in range(len(order) - 1, 0, -1):
        way[k - 1] = way[k] + came[k, way[k]] - STEEPEST
    return way[n - n // 2 : 2 * n - n // 2]
