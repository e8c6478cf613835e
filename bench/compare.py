"""Holding an outline against the truth."""

from __future__ import annotations

import numpy as np
import shapely
from numpy.typing import NDArray

Array = NDArray[np.float64]
# outlines that lie on the truth are nearer than this on average; what isn't may be turned otherwise
CLOSE_MM = 0.6


def signed_errors(found: Array, truth: Array, rounds: int = 12) -> Array:
    """How far points of `found` (n, 2) lie outside (+) or inside (−) of `truth` (m, 2), mm.

    The two frames differ by a shift and a turn, which are taken out by iterated closest points
    with normals (Chen & Medioni, Image and Vision Computing 10(3), 1992); size is not. The turn is sought from where
    `found` lies and, where that leads nowhere, from 15° steps to either side.
    """
    best = _from_here(found, truth, rounds)
    for turn in (15, -15, 30, -30, 45, -45):
        if np.abs(best).mean() < CLOSE_MM:
            break
        c, s = np.cos(np.radians(turn)), np.sin(np.radians(turn))
        errors = _from_here(found @ np.array([[c, s], [-s, c]]), truth, rounds)
        best = min(best, errors, key=lambda e: float(np.abs(e).mean()))
    return best


def _from_here(found: Array, truth: Array, rounds: int) -> Array:
    ring = _dense(truth)
    polygon = shapely.Polygon(ring)
    segments = shapely.linestrings(np.stack([ring, np.roll(ring, -1, axis=0)], axis=1))
    tree = shapely.STRtree(segments)
    along = np.roll(ring, -1, axis=0) - ring
    normal = np.column_stack([along[:, 1], -along[:, 0]]) / np.hypot(*along.T)[:, None]
    p = found[:: max(1, len(found) // 1200)]
    p = p - p.mean(axis=0) + np.asarray(polygon.centroid.coords[0])
    p = p + np.asarray(polygon.centroid.coords[0]) - np.asarray(shapely.Polygon(p).centroid.coords[0])
    for turn in range(rounds):
        k = tree.nearest(shapely.points(p))
        n, gap = normal[k], ((ring[k] - p) * normal[k]).sum(axis=1)
        middle = p.mean(axis=0)
        q = p - middle
        terms = np.column_stack([n, q[:, 0] * n[:, 1] - q[:, 1] * n[:, 0]])
        # outliers are left out only once the rings lie on each other
        keep = (
            np.abs(gap) <= max(4 * float(np.median(np.abs(gap))), 0.1)
            if turn > rounds // 2
            else np.ones(len(gap), dtype=bool)
        )
        (dx, dy, angle), *_ = np.linalg.lstsq(terms[keep], gap[keep], rcond=None)
        c, s = np.cos(angle), np.sin(angle)
        p = q @ np.array([[c, -s], [s, c]]).T + middle + [dx, dy]
    distance = shapely.distance(segments[tree.nearest(shapely.points(p))], shapely.points(p))
    inside = shapely.contains_xy(polygon, p[:, 0], p[:, 1])
    return np.where(inside, -distance, distance)


def _dense(ring: Array, pitch: float = 1.0) -> Array:
    closed = np.vstack([ring, ring[:1]])
    parts = []
    for a, b in zip(closed[:-1], closed[1:], strict=True):
        n = max(1, int(np.hypot(*(b - a)) / pitch))
        parts.append(a + (b - a) * (np.arange(n) / n)[:, None])
    return np.vstack(parts)
