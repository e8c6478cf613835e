"""Marks only: separate dots or ticks on paper, and a smooth outline through a ring of them."""

from __future__ import annotations

import cv2
import numpy as np
import scipy
from numpy.typing import NDArray

from ypsicline.core.capture.rectify import FlatPicture
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.geometry.rings import lengths_along, signed_area
from ypsicline.core.messages import message

__all__ = ["find_marks", "ring_through"]

Mask = NDArray[np.bool_]
LARGEST_MARK_MM = 9.0
SMALLEST_MM2, LARGEST_MM2 = 0.4, 40.0
LEAST_INK = 18.0
INK_SHARE = 0.4
LEAST_MARKS, MOST_MARKS = 6, 400
ROUND_IT_MM, PAPER_SHARE = 2.5, 0.93
STRAY_SIGMA_MM = 0.35
_RING_STEP_MM = 0.5


def find_marks(picture: FlatPicture, sheets_mask: Mask) -> Array:
    """The middles (n, 2) of dots and short ticks on the table, mm; `sheets_mask` (rows, columns) is where sheets lie.

    The ink is what a closing wider than a mark takes away; each spot's middle is the centre of its
    ink's weight. Raises `Refusal` (reason `no_marks`) for fewer than six or more than 400.
    """
    window = picture.window
    size = 2 * int(np.ceil(LARGEST_MARK_MM / 2 / window.mm_per_px)) + 1
    grey = cv2.GaussianBlur(cv2.cvtColor(picture.pixels, cv2.COLOR_RGB2GRAY), (0, 0), 0.7)
    ink = cv2.morphologyEx(grey, cv2.MORPH_BLACKHAT, np.ones((size, size), np.uint8)).astype(np.float32)
    ink[sheets_mask | ~picture.in_view] = 0
    strong = float(np.percentile(ink[ink > LEAST_INK], 95)) if (ink > LEAST_INK).any() else 0.0
    inked = (ink > max(LEAST_INK, INK_SHARE * strong)).astype(np.uint8)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(inked, connectivity=8)
    area = stats[:, cv2.CC_STAT_AREA] * window.mm_per_px**2
    longest = stats[:, [cv2.CC_STAT_WIDTH, cv2.CC_STAT_HEIGHT]].max(axis=1) * window.mm_per_px
    spots = [k for k in range(1, count) if SMALLEST_MM2 <= area[k] <= LARGEST_MM2 and longest[k] <= LARGEST_MARK_MM]
    spots = [k for k in spots if _stands_alone(grey, labels, stats[k], k, round(ROUND_IT_MM / window.mm_per_px))]
    if not LEAST_MARKS <= len(spots) <= MOST_MARKS:
        counts = {"count": len(spots), "least": LEAST_MARKS, "most": MOST_MARKS}
        text = message("marks_not_of_an_outline", **counts, small_mm=1, large_mm=6)
        raise Refusal(text, "no_marks", numbers={"marks": float(len(spots))})
    middles = []
    for k in spots:
        x, y, w, h = stats[k, :4]
        part = np.where(labels[y : y + h, x : x + w] == k, ink[y : y + h, x : x + w], 0)
        rows, columns = np.mgrid[y : y + h, x : x + w]
        middles.append([(part * columns).sum() / part.sum(), (part * rows).sum() / part.sum()])
    return window.to_mm(np.array(middles))


def _stands_alone(
    grey: NDArray[np.uint8], labels: NDArray[np.int32], stats: NDArray[np.int32], k: int, reach: int
) -> bool:
    """Whether a spot has paper all round it, and isn't where something else ends."""
    x, y, w, h = (int(v) for v in stats[:4])
    part = np.s_[max(y - reach, 0) : y + h + reach, max(x - reach, 0) : x + w + reach]
    own = (labels[part] == k).astype(np.uint8)
    near = cv2.dilate(own, np.ones((2 * reach + 1,) * 2, np.uint8)) > cv2.dilate(own, np.ones((5, 5), np.uint8))
    around, spot = grey[part][near].astype(float), float(grey[part][own > 0].mean())
    if not len(around):
        return False
    paper = float(np.median(around))
    return bool(paper > spot and (around > (paper + spot) / 2).mean() >= PAPER_SHARE)


def ring_through(marks: Array) -> tuple[Array, float]:
    """A smooth closed curve (m, 2) along marks (n, 2) in any order, counter-clockwise, and how far they stray from it.

    The marks are put in the order of the shortest way round (by turns of two, 2-opt, from the order
    of their bearings), then a periodic cubic smoothing spline is laid along them that strays from
    them as a hand-made mark does (Dierckx, "Curve and surface fitting with splines", 1993).
    """
    order = _shortest_way(marks)
    loop = np.vstack([marks[order], marks[order[:1]]])
    spline, _ = scipy.interpolate.splprep(loop.T, per=True, s=len(marks) * STRAY_SIGMA_MM**2)
    length = float(lengths_along(loop)[-1])
    ring = np.column_stack(
        scipy.interpolate.splev(np.linspace(0, 1, max(60, int(length / _RING_STEP_MM)), endpoint=False), spline)
    )
    apart = np.hypot(*np.moveaxis(marks[:, None] - ring[None], -1, 0)).min(axis=1)
    return ring if signed_area(ring) > 0 else ring[::-1], float(apart.max())


def _shortest_way(marks: Array) -> list[int]:
    middle = marks.mean(axis=0)
    order = list(np.argsort(np.arctan2(*(marks - middle).T[::-1])))
    n = len(order)
    far = np.hypot(*np.moveaxis(marks[:, None] - marks[None], -1, 0))
    for _ in range(20):
        better = False
        for i in range(n - 1):
            a, b = order[i], order[i + 1]
            ends = np.array(order[i + 2 :] + order[:1])
            starts = np.array(order[i + 2 :])
            if not len(starts):
                continue
            gain = far[a, b] + far[starts, ends[1:]] - far[a, starts] - far[b, ends[1:]]
            k = int(gain.argmax())
            if gain[k] > 1e-9:
                order[i + 1 : i + 3 + k] = order[i + 1 : i + 3 + k][::-1]
                better = True
        if not better:
            break
    return [int(k) for k in order]
