"""Smoothing a trace by how much it may move."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import scipy

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.geometry.rings import even_ring
from ypsicline.core.messages import message
from ypsicline.core.trueing.reshaping import reshaped
from ypsicline.core.trueing.shape import Shape, TracedRing

__all__ = ["smooth_shape"]

MOST_MM = 10.0
_ROUNDS = 12


def smooth_shape(shape: Shape, by_mm: float) -> Shape:
    """The trace smoothed as far as no point of it moves by more than `by_mm`; sharp corners stay where they are.

    Each run between sharp corners is blurred along its length (a Gaussian), as widely as that
    allows. Raises `Refusal` for an amount below 0.01 or over 10 mm.
    """
    if not 0.01 <= by_mm <= MOST_MM:
        figures = {"least_mm": 0.01, "most_mm": MOST_MM, "given_mm": by_mm}
        raise Refusal(message("smoothing_out_of_range", **figures), "smooth")
    return replace(
        shape, outline=_smoothed(shape.outline, by_mm), holes=tuple(_smoothed(h, by_mm) for h in shape.holes)
    )


def _smoothed(ring: TracedRing, by_mm: float) -> TracedRing:
    even, pitch = even_ring(np.asarray(ring.points))
    n = len(even)
    fixed = sorted({round(j.along_mm / pitch) % n for j in ring.joints if not j.smooth})
    if not fixed:
        return reshaped(ring, even, _as_far_as(even, by_mm, is_closed=True))
    points = even.copy()
    for k, start in enumerate(fixed):
        end = fixed[(k + 1) % len(fixed)]
        run = np.arange(start, (end if end > start else end + n) + 1) % n
        if len(run) > 4:
            points[run] = _as_far_as(even[run], by_mm, is_closed=False)
    return reshaped(ring, even, points)


def _as_far_as(run: Array, by_mm: float, *, is_closed: bool) -> Array:
    """The widest blur of `run` (n, 2) under which no point moves further than `by_mm`: found by halving."""
    low, high = 0.0, len(run) / 4
    best = run
    for _ in range(_ROUNDS):
        sigma = (low + high) / 2
        blurred = _blurred(run, sigma, is_closed=is_closed)
        if float(np.hypot(*(blurred - run).T).max()) <= by_mm:
            low, best = sigma, blurred
        else:
            high = sigma
    return best


def _blurred(run: Array, sigma: float, *, is_closed: bool) -> Array:
    if is_closed:
        return np.asarray(scipy.ndimage.gaussian_filter1d(run, sigma, axis=0, mode="wrap"))
    # turned about its ends, so that they stay and the direction runs on through them
    before, after = 2 * run[0] - run[:0:-1], 2 * run[-1] - run[-2::-1]
    whole = scipy.ndimage.gaussian_filter1d(np.vstack([before, run, after]), sigma, axis=0, mode="nearest")
    points = np.asarray(whole[len(before) : len(before) + len(run)])
    points[0], points[-1] = run[0], run[-1]
    return points
