"""A new trace of the same piece, with a maker's corrections kept."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
import scipy
import shapely

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array, Point
from ypsicline.core.geometry.rings import even_ring
from ypsicline.core.messages import message
from ypsicline.core.trueing.shape import Joint, Shape, TracedRing, trace_ring

__all__ = ["changed_ways", "nearest_ring", "renew", "splice"]

KEPT_WITHIN_MM = 1.0
_PITCH_MM = 0.5
_APART_MM = 6.0
_PARTS_MM = 3.0
_SAME_HOLE_MM = 15.0
_ENDS_WITHIN_MM = 30.0


def renew(
    shape: Shape, outline: Sequence[Point], holes: Sequence[Sequence[Point]], *, near_mm: float = KEPT_WITHIN_MM
) -> Shape:
    """The shape with a new trace in the same frame.

    Where the new trace runs within `near_mm` of the old one, the joints are the old ones with all
    that was done to them, carried along with the trace; elsewhere they are found afresh.
    """
    tolerance = shape.tolerance_mm
    ring = trace_ring(outline, tolerance, counter_clockwise=True, known_corners=shape.outline.points, near_mm=near_mm)
    traces = [trace_ring(h, tolerance, counter_clockwise=False) for h in holes]
    renewed = _renewed(shape.outline, ring, near_mm)
    return replace(
        shape,
        outline=renewed or trace_ring(outline, tolerance, counter_clockwise=True),
        holes=tuple(_renewed_hole(shape.holes, h, near_mm) for h in traces),
    )


def _renewed_hole(before: Sequence[TracedRing], hole: TracedRing, near_mm: float) -> TracedRing:
    middle = np.mean(hole.points, axis=0)
    near = [h for h in before if float(np.hypot(*(np.mean(h.points, axis=0) - middle))) < _SAME_HOLE_MM]
    return (_renewed(near[0], hole, near_mm) if near else None) or hole


def _renewed(before: TracedRing, after: TracedRing, near_mm: float) -> TracedRing | None:
    """The ring after with the joints before where it runs as before; None where hardly any are left."""
    old, old_pitch = even_ring(np.asarray(before.points), _PITCH_MM)
    new, pitch = even_ring(np.asarray(after.points), _PITCH_MM)
    on_new, on_old = scipy.spatial.cKDTree(new), scipy.spatial.cKDTree(old)
    joints: list[Joint] = []
    for j in before.joints:
        place = old[round(j.along_mm / old_pitch) % len(old)]
        apart, k = on_new.query(place)
        if apart <= near_mm:
            x, y = np.asarray(j.point) + new[k] - place
            joints.append(replace(j, along_mm=float(k * pitch), point=(float(x), float(y))))
    # where the new trace parts from the old one, corners belong to what is new
    elsewhere = scipy.ndimage.maximum_filter1d(
        on_old.query(new)[0] > near_mm, 2 * round(_PARTS_MM / pitch) + 1, mode="wrap"
    )
    for j in after.joints:
        crowded = any(float(np.hypot(*np.subtract(j.point, k.point))) < _APART_MM for k in joints)
        if not crowded and elsewhere[round(j.along_mm / pitch) % len(new)]:
            joints.append(j)
    if len(joints) < 2:
        return None
    return TracedRing(after.points, tuple(sorted(joints, key=lambda j: j.along_mm)))


def nearest_ring(rings: Sequence[Sequence[Point]], path: Sequence[Point]) -> int:
    """Which of some rings the ends of a path (m, 2) lie nearest to, the first of those that are as near.

    Raises `Refusal` where the path has no two ends.
    """
    if len(path) < 2:
        raise Refusal(message("way_needs_two_points"), "walk")
    ends = shapely.points(np.asarray(path, dtype=float)[[0, -1]])
    return int(np.argmin([shapely.distance(shapely.LinearRing(ring), ends).max() for ring in rings]))


def splice(ring: Sequence[Point], path: Sequence[Point]) -> Array:
    """The ring (n, 2) with the stretch between the ends of `path` (m, 2), two points or more, replaced by it.

    Of the two stretches, the one that lies nearer to the path is replaced. Raises `Refusal`
    where the path doesn't start and end near the ring.
    """
    points, way = even_ring(np.asarray(ring, dtype=float), _PITCH_MM)[0], np.asarray(path, dtype=float)
    apart, ends = scipy.spatial.cKDTree(points).query(way[[0, -1]])
    if float(apart.max()) > _ENDS_WITHIN_MM:
        raise Refusal(message("way_ends_off_outline"), "walk")
    a, b = (int(k) for k in ends)
    n = len(points)
    if a == b:
        raise Refusal(message("way_ends_at_one_place"), "walk")
    forward = points[np.arange(a, (b if b > a else b + n) + 1) % n]
    back = points[np.arange(b, (a if a > b else a + n) + 1) % n]
    to_way = scipy.spatial.cKDTree(_dense(way))
    if float(to_way.query(forward)[0].mean()) <= float(to_way.query(back)[0].mean()):
        return np.vstack([way, back[1:-1]])
    return np.vstack([way[::-1], forward[1:-1]])


def changed_ways(
    before: Sequence[Point], after: Sequence[Point], *, near_mm: float = 0.5
) -> tuple[tuple[Point, ...], ...]:
    """The stretches of ring `after` that don't run within `near_mm` of ring `before`, each from and to where they part.

    Spliced into the ring before, one after the other, they make the ring after.
    """
    old = even_ring(np.asarray(before, dtype=float), _PITCH_MM)[0]
    new = even_ring(np.asarray(after, dtype=float), _PITCH_MM)[0]
    off = scipy.spatial.cKDTree(old).query(new)[0] > near_mm
    if not off.any():
        return ()
    if off.all():
        return (tuple((float(x), float(y)) for x, y in new),)
    start = int(np.flatnonzero(~off)[0])
    off, new = np.roll(off, -start), np.roll(new, -start, axis=0)
    edges = np.flatnonzero(np.diff(np.concatenate([[False], off, [False]]).astype(int)))
    ways = []
    for a, b in zip(edges[::2], edges[1::2], strict=True):
        run = new[np.arange(a - 2, b + 2) % len(new)]
        if b - a > 2:
            ways.append(tuple((float(x), float(y)) for x, y in run))
    return tuple(ways)


def _dense(way: Array) -> Array:
    steps = [np.linspace(p, q, 2 + int(np.hypot(*(q - p)) / 2)) for p, q in zip(way[:-1], way[1:], strict=True)]
    return np.vstack(steps)
