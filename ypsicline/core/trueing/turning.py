"""An outline turned over: a piece pinned wrong side out swaps hands."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ypsicline.core.geometry.edges import Point
from ypsicline.core.geometry.rings import lengths_along
from ypsicline.core.trueing.shape import Shape, TracedRing

__all__ = ["turned_over", "walked_back"]


def turned_over(shape: Shape) -> Shape:
    """The shape mirrored about the upright through its middle; outline and holes keep their sense."""
    xs = [x for x, _ in shape.outline.points]
    axis = min(xs) + max(xs)

    def over(p: Point) -> Point:
        return axis - p[0], p[1]

    def ring(r: TracedRing) -> TracedRing:
        joints = tuple(replace(j, point=over(j.point)) for j in r.joints)
        return walked_back(TracedRing(tuple(over(p) for p in r.points), joints))

    division = shape.division and replace(shape.division, start=over(shape.division.start))
    return replace(shape, outline=ring(shape.outline), holes=tuple(map(ring, shape.holes)), division=division)


def walked_back(ring: TracedRing) -> TracedRing:
    """The same ring walked the other way; each joint then leads to the edge that came before it."""
    length = float(lengths_along(np.asarray((*ring.points, ring.points[0])))[-1])
    steps_back = [
        replace(j, along_mm=(length - j.along_mm) % length, next_kind=ring.joints[k - 1].next_kind)
        for k, j in enumerate(ring.joints)
    ]
    return TracedRing(ring.points[:1] + ring.points[:0:-1], tuple(sorted(steps_back, key=lambda j: j.along_mm)))
