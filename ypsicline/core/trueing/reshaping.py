"""A traced ring whose points have moved a little: its joints go along."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ypsicline.core.geometry.edges import Array
from ypsicline.core.geometry.rings import lengths_along
from ypsicline.core.trueing.shape import TracedRing

__all__ = ["reshaped"]


def reshaped(ring: TracedRing, before: Array, after: Array) -> TracedRing:
    """The ring with its points `before` (n, 2), walked from its first point, now at `after` (n, 2)."""
    old, new = (lengths_along(np.vstack([points, points[:1]])) for points in (before, after))
    shift = np.vstack([after - before, (after - before)[:1]])
    joints = []
    for j in ring.joints:
        dx, dy = (float(np.interp(j.along_mm, old, shift[:, k])) for k in (0, 1))
        along = float(np.interp(j.along_mm, old, new))
        joints.append(replace(j, along_mm=along, point=(j.point[0] + dx, j.point[1] + dy)))
    return TracedRing(tuple((float(x), float(y)) for x, y in after), tuple(joints))
