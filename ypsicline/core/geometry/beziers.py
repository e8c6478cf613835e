"""Cubic Béziers worked on all at once: as polynomials, flattened, and how they bend. Points are complex numbers, x + iy."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

__all__ = ["Complex", "as_pairs", "bends_along", "cubic_at", "cubics_at", "flat_points", "power_form", "steps_along"]

Complex = NDArray[np.complex128]
Points = tuple[tuple[float, float], ...]
_TO_POWERS = np.array([[1, -3, 3, -1], [0, 3, -6, 3], [0, 0, 3, -3], [0, 0, 0, 1]], dtype=complex)
_FOUR = np.arange(4)
_EACH = 24
# a hair inside, for a handle of no length has no direction at its end
_INSIDE = np.clip(np.arange(_EACH) / _EACH, 1e-4, None)


@lru_cache(maxsize=4096)
def power_form(points: Points) -> Complex:
    """The polynomials c0 + c1·s + c2·s² + c3·s³ (n, 4) of a curve's n Béziers, 0 ≤ s ≤ 1 on each."""
    p = np.array(points, dtype=float).view(complex)[:, 0]
    powers = p[3 * np.arange((len(p) - 1) // 3)[:, None] + _FOUR] @ _TO_POWERS
    powers.flags.writeable = False
    return powers


def cubics_at(points: Points, t: NDArray[np.float64]) -> tuple[Complex, NDArray[np.float64]]:
    """The coefficients (4, n) of the Béziers at a curve's parameters `t` (n,), and the Béziers' own parameters (n,)."""
    power = power_form(points)
    place = np.clip(np.asarray(t, dtype=float), 0, 1) * len(power)
    k = np.minimum(place.astype(int), len(power) - 1)
    return power[k].T, place - k


def cubic_at(points: Points, t: float) -> tuple[list[complex], float]:
    """The same of one parameter, as plain numbers."""
    power = power_form(points)
    place = min(max(t, 0.0), 1.0) * len(power)
    k = min(int(place), len(power) - 1)
    cubic: list[complex] = power[k].tolist()
    return cubic, place - k


def as_pairs(points: Complex) -> NDArray[np.float64]:
    """Complex numbers (n,) as points (n, 2)."""
    return np.ascontiguousarray(points).view(float).reshape(-1, 2)


def steps_along(points: Points, tolerance_mm: float) -> tuple[NDArray[np.int64], NDArray[np.float64]]:
    """The Bézier and its own parameter, above 0 and up to 1, of each step (m,) of a polyline that keeps within
    `tolerance_mm` of the curve."""
    c = power_form(points)
    # chord error of a cubic in m equal steps is at most |P''| / (8 m²), and P'' is largest at an end
    first = 2 * c[:, 2]
    bend = np.maximum(np.abs(first), np.abs(first + 6 * c[:, 3]))
    steps = np.minimum(np.maximum(np.ceil(np.sqrt(bend / (8 * tolerance_mm))), 1), 4000).astype(int)
    k = np.repeat(np.arange(len(c)), steps)
    place = np.arange(1, len(k) + 1) - np.repeat(np.cumsum(steps) - steps, steps)
    return k, place / steps[k]


@lru_cache(maxsize=4096)
def flat_points(points: Points, tolerance_mm: float) -> NDArray[np.float64]:
    """Points (m + 1, 2) of that polyline, not to be written to."""
    k, s = steps_along(points, tolerance_mm)
    c = power_form(points)[k]
    flat = np.empty((len(k) + 1, 2))
    flat[1:] = as_pairs(c[:, 0] + s * (c[:, 1] + s * (c[:, 2] + s * c[:, 3])))
    flat[0], flat[-1] = points[0], points[-1]
    flat.flags.writeable = False
    return flat


@lru_cache(maxsize=4096)
def bends_along(points: Points) -> tuple[NDArray[np.float64], ...]:
    """At 24 places along each Bézier and at the end: the curve's parameter, the length up to there, mm, as the chords
    have it, and the curvature, 1/mm, positive where it turns left."""
    c = power_form(points)
    c0, c1, c2, c3 = (c[:, k, None] for k in range(4))
    s = _INSIDE
    at = (c0 + s * (c1 + s * (c2 + s * c3))).ravel()
    first, second = (c1 + s * (2 * c2 + 3 * s * c3)).ravel(), (2 * c2 + 6 * s * c3).ravel()
    last, ends = c[-1], 1 - 1e-4
    first = np.append(first, last[1] + ends * (2 * last[2] + 3 * ends * last[3]))
    second = np.append(second, 2 * last[2] + 6 * ends * last[3])
    speed = np.maximum(np.abs(first), 1e-9)
    along = np.concatenate([[0.0], np.cumsum(np.abs(np.diff(np.append(at, last.sum()))))])
    return np.arange(len(first)) / (_EACH * len(c)), along, (first.conj() * second).imag / speed**3
