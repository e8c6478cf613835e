"""Folding an outline about its centre line: are its halves alike, and made alike."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array, Point
from ypsicline.core.geometry.rings import even_ring, lengths_along
from ypsicline.core.messages import message
from ypsicline.core.trueing.shape import Joint, Shape, TracedRing

__all__ = ["FoldedShape", "Keep", "fold"]

Keep = Literal["average", "left", "right"]

_STEP_MM = 0.5
_ON_LINE_MM = 1.0


@dataclass(frozen=True)
class FoldedShape:
    """The shape with alike halves, how far they lay apart at most, mm, and where (on the left half)."""

    shape: Shape
    apart_mm: float
    at: Point


def fold(shape: Shape, first: int, second: int, keep: Keep = "average") -> FoldedShape:
    """Fold the outline about the line from joint `first` to joint `second` and make its halves alike.

    `keep` says what of: the average of both, or one of them, left or right of the way from first to
    second. Corners of the half that is kept (of the left one for an average) are kept and mirrored.
    Holes stay as they are. Raises `Refusal` (reason `fold`) for joints that aren't there or are the
    same, and where the line cuts the outline into more than two parts.
    """
    ring = shape.outline
    count = len(ring.joints)
    if not (0 <= first < count and 0 <= second < count) or first == second:
        raise Refusal(message("fold_needs_two_corners"), "fold")
    p, q = (np.asarray(ring.joints[k].point) for k in (first, second))
    along = (q - p) / math.dist(p, q)
    aside = np.array([-along[1], along[0]])
    points, pitch = even_ring(np.asarray(ring.points), _STEP_MM)
    # the outline runs counter-clockwise: from first to second lies the right half, and back the left one
    right = _half(points, pitch, ring.joints[first], ring.joints[second], p, q)
    left = _half(points, pitch, ring.joints[second], ring.joints[first], q, p)[::-1]
    for half, sign in ((right, -1), (left, 1)):
        if (sign * ((half - p) @ aside)).min() < -_ON_LINE_MM - 0.01 * math.dist(p, q):
            raise Refusal(message("fold_cuts_more_than_once"), "fold")
        if (sign * ((half - p) @ aside)).max() < 3 * _ON_LINE_MM:
            raise Refusal(message("fold_runs_along_edge"), "fold")
    share = np.linspace(0, 1, max(len(left), len(right)))
    there = _matched(share, left, _half_joints(ring, second, first)[::-1], right, _half_joints(ring, first, second))
    a, b = _points_at(left, share), _mirrored(_points_at(right, there), p, along)
    gaps = _apart(a, b)
    worst = int(gaps.argmax())
    half = {"average": (a + b) / 2, "left": a, "right": _mirrored(_points_at(right, share), p, along)}[keep]
    half[0], half[-1] = p, q
    joints = _half_joints(ring, second, first) if keep != "right" else _half_joints(ring, first, second)
    outline = _rebuilt(
        half, _mirrored(half, p, along), joints, ring, (first, second), left if keep != "right" else right, keep
    )
    at = (float(a[worst, 0]), float(a[worst, 1]))
    return FoldedShape(replace(shape, outline=outline), float(gaps[worst]), at)


def _half(points: Array, pitch: float, start: Joint, end: Joint, first: Array, last: Array) -> Array:
    n = len(points)
    a, b = start.along_mm / pitch, end.along_mm / pitch
    inner = np.arange(math.floor(a) + 1, math.ceil(b if b > a else b + n))
    run = points[inner % n]
    run = run[(np.hypot(*(run - first).T) > _ON_LINE_MM) & (np.hypot(*(run - last).T) > _ON_LINE_MM)]
    if len(run) < 3:
        raise Refusal(message("fold_corners_are_neighbours"), "fold")
    return np.vstack([first, run, last])


def _shares(half: Array) -> Array:
    length = lengths_along(half)
    return np.asarray(length / length[-1])


def _points_at(half: Array, share: Array) -> Array:
    at = _shares(half)
    return np.column_stack([np.interp(share, at, half[:, k]) for k in (0, 1)])


def _matched(share: Array, left: Array, on_left: list[Joint], right: Array, on_right: list[Joint]) -> Array:
    """Where on the right half the places of the left one answer: corner by corner where both have as many."""
    if len(on_left) != len(on_right):
        return share
    from_left, from_right = (
        [0.0, *(float(_shares(half)[np.hypot(*(half - np.asarray(j.point)).T).argmin()]) for j in joints), 1.0]
        for half, joints in ((left, on_left), (right, on_right))
    )
    return np.asarray(np.interp(share, from_left, from_right))


def _mirrored(points: Array, through: Array, along: Array) -> Array:
    d = points - through
    return np.asarray(through + 2 * (d @ along)[:, None] * along - d)


def _apart(a: Array, b: Array) -> Array:
    """How far each point of `a` lies from the line through `b` near it."""
    near = np.clip(np.arange(len(a))[:, None] + np.arange(-20, 21)[None], 0, len(b) - 1)
    return np.asarray(np.hypot(*np.moveaxis(a[:, None] - b[near], -1, 0)).min(axis=1))


def _half_joints(ring: TracedRing, start: int, end: int) -> list[Joint]:
    """The joints strictly between two, in the ring's order."""
    count = len(ring.joints)
    joints, k = [], (start + 1) % count
    while k != end:
        joints.append(ring.joints[k])
        k = (k + 1) % count
    return joints


def _rebuilt(
    left: Array, right: Array, joints: list[Joint], ring: TracedRing, ends: tuple[int, int], source: Array, keep: Keep
) -> TracedRing:
    """A ring of two halves, both from the fold's first end to its second, with a half's joints on both."""
    first, second = (ring.joints[k] for k in ends)
    loop = np.vstack([right, left[::-1][1:-1]])
    length = float(np.hypot(*np.diff(np.vstack([loop, loop[:1]]), axis=0).T).sum())
    # both halves have a point for each even step along the half that they were made of
    steps = np.arange(len(left))
    lengths = lengths_along(left)
    shares = _shares(source)
    on_right: list[Joint] = [replace(first, along_mm=0.0, point=_point(left[0]))]
    on_left: list[Joint] = [replace(second, along_mm=float(lengths[-1]), point=_point(left[-1]))]
    forward = joints if keep == "right" else joints[::-1]
    # the kinds of the half's edges, from the fold's first end to its second
    kinds = [j.next_kind for j in ([first, *forward] if keep == "right" else [*forward, second])]
    for k, joint in enumerate(forward):
        share = float(shares[np.hypot(*(source - np.asarray(joint.point)).T).argmin()])
        step = share * (len(left) - 1)
        along, here, there = (float(np.interp(step, steps, v)) for v in (lengths, left[:, 0], left[:, 1]))
        mirror = _point(np.array([np.interp(step, steps, right[:, c]) for c in (0, 1)]))
        on_right.append(replace(joint, along_mm=along, point=mirror, next_kind=kinds[k + 1]))
        on_left.append(replace(joint, along_mm=length - along, point=(here, there), next_kind=kinds[k]))
    on_right[0] = replace(on_right[0], next_kind=kinds[0])
    on_left[0] = replace(on_left[0], next_kind=kinds[-1])
    all_joints = sorted([*on_right, *on_left], key=lambda j: j.along_mm)
    return TracedRing(tuple(_point(p) for p in loop), tuple(all_joints))


def _point(p: Array) -> Point:
    return float(p[0]), float(p[1])
