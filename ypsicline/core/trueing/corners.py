"""Corners of a traced ring, and the joints between lines, arcs and curves that run smoothly on.

Traced rings are walked at an even pitch; a position on a ring is the length from its first point.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import scipy

from ypsicline.core.geometry.edges import Array
from ypsicline.core.trueing.fitting import strays_from_arc, strays_from_line

__all__ = ["find_corners", "split_smooth_run"]

CORNER_DEG = 28.0
ARM_MM = 7.0
MAX_PRIMITIVES = 9
_SETTLE_SHARE = 72


def find_corners(ring: Array, pitch_mm: float) -> list[int]:
    """Indices of the sharp corners of an even ring: where it turns by over 28° within a few millimetres."""
    n = len(ring)
    arm = int(np.clip(round(ARM_MM / pitch_mm), 2, max(2, n // 8)))
    near = max(1, arm // 4)
    index = np.arange(n)
    before = ring[(index - near) % n] - ring[(index - arm) % n]
    after = ring[(index + arm) % n] - ring[(index + near) % n]
    turn = np.abs(np.arctan2(before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0], (before * after).sum(axis=1)))
    # a round corner also turns over twice the arm; a sharp one has turned already
    wide = min(2 * arm, n // 4)
    b2 = ring[(index - near) % n] - ring[(index - wide) % n]
    a2 = ring[(index + wide) % n] - ring[(index + near) % n]
    wider = np.abs(np.arctan2(b2[:, 0] * a2[:, 1] - b2[:, 1] * a2[:, 0], (b2 * a2).sum(axis=1)))
    sharp = (turn > np.radians(CORNER_DEG)) & (turn > 0.72 * wider)
    peak = turn == scipy.ndimage.maximum_filter1d(turn, 2 * arm + 1, mode="wrap")
    candidates = [int(k) for k in np.flatnonzero(sharp & peak)]
    corners: list[int] = []
    for k in candidates:
        if not corners or (k - corners[-1]) >= arm:
            corners.append(k)
    if len(corners) > 1 and (corners[0] + n - corners[-1]) < arm:
        corners.pop()
    return corners


def split_smooth_run(run: Array, tolerance_mm: float) -> list[int] | None:
    """Where a smooth run (n, 2) changes between lines and arcs: indices inside it, few as can be.

    Empty when one line or arc does for all; None when it takes more than nine, which is better
    drawn as a smooth curve. Each takes as much of the run as fits, then the cuts settle between them.
    """
    cuts = [0]
    while cuts[-1] < len(run) - 1:
        if len(cuts) > MAX_PRIMITIVES:
            return None
        cuts.append(_furthest(run, cuts[-1], tolerance_mm))
    return _settle(run, cuts)


def _furthest(run: Array, start: int, tolerance_mm: float) -> int:
    """The last index to which one line or arc from `start` fits: doubled steps, then halved."""
    last = len(run) - 1
    good, step = min(start + 2, last), 4
    while good < last and _one(run[start : min(good + step, last) + 1], tolerance_mm):
        good, step = min(good + step, last), 2 * step
    while step > 1 and good < last:
        step //= 2
        if good + step <= last and _one(run[start : good + step + 1], tolerance_mm):
            good += step
    return good


def _one(run: Array, tolerance_mm: float) -> bool:
    """Whether one line or one arc fits this run."""
    return len(run) < 3 or strays_from_line(run) <= tolerance_mm or strays_from_arc(run) <= tolerance_mm


def _settle(run: Array, cuts: Sequence[int]) -> list[int]:
    """Move each inner cut to where its two neighbours fit best together."""
    places = list(cuts)
    for _ in range(2):
        for k in range(1, len(places) - 1):
            a, b = places[k - 1], places[k + 1]
            reach = max(2, min(places[k] - a, b - places[k], len(run) // _SETTLE_SHARE + 12) - 1)
            step = max(1, reach // 8)
            choices = range(max(a + 2, places[k] - reach), min(b - 2, places[k] + reach) + 1, step)
            costs = {c: _misfit(run[a : c + 1]) + _misfit(run[c : b + 1]) for c in choices}
            places[k] = min(costs, key=costs.__getitem__, default=places[k])
    return places[1:-1]


def _misfit(run: Array) -> float:
    return min(strays_from_line(run), strays_from_arc(run))
