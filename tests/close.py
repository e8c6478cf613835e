"""The one comparison of geometry in these tests; every call says its tolerance."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely


def same_ring(found: Sequence[tuple[float, float]], wanted: Sequence[Sequence[float]], *, within_mm: float) -> bool:
    """Whether two closed rings lie on each other, wherever they start."""
    a, b = shapely.LinearRing(found), shapely.LinearRing(wanted)
    return bool(shapely.hausdorff_distance(a.segmentize(1.0), b.segmentize(1.0)) <= within_mm)


def farthest(points: object, ring: object) -> float:
    """The largest distance from points to a closed ring, mm."""
    line = shapely.LinearRing(np.asarray(ring))
    return float(shapely.distance(line, shapely.points(np.asarray(points))).max())
