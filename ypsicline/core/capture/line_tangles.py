"""Lines that turn to and fro as no drawn shape does: led astray by writing."""

from __future__ import annotations

import numpy as np
import scipy

from ypsicline.core.geometry.edges import Array

__all__ = ["STEP_MM", "smooth", "tangle_doubts"]

STEP_MM = 0.25
# a line that turns to and fro by so much more than it turns away, within so many mm, was led astray by writing
TANGLE_DEG, TANGLE_MM = 250.0, 40.0


def tangle_doubts(ring: Array) -> Array:
    """How far a line may be off where it turns to and fro as no drawn shape does: it strays from straight, and what was drawn
    may lie as far on the other side."""
    line = smooth(ring, 1.5)
    steps = np.roll(line, -1, axis=0) - line
    heading = np.arctan2(steps[:, 1], steps[:, 0])
    turn = (np.diff(heading, append=heading[0]) + np.pi) % (2 * np.pi) - np.pi
    window = np.ones(min(int(TANGLE_MM / STEP_MM), len(ring)))
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


def smooth(ring: Array, sigma_mm: float) -> Array:
    """A closed line (n, 2), its points `STEP_MM` apart, smoothed by a Gaussian."""
    return np.asarray(scipy.ndimage.gaussian_filter1d(ring, sigma_mm / STEP_MM, axis=0, mode="wrap"))
