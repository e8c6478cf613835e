"""Making corners square, edges parallel, edges equally long: each by the least move of the joints concerned."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array, Point
from ypsicline.core.messages import message
from ypsicline.core.trueing.shape import TracedRing, known_joint, letter, move_joint, set_edge_kind

__all__ = ["equal_edges", "parallel_edges", "square_corner"]


def square_corner(ring: TracedRing, index: int) -> TracedRing:
    """Corner `index` moved to the nearest place where the straight edges beside it meet at a right angle.

    Such places lie on the circle over the line between its neighbours (Thales). Raises `Refusal`
    where the corner is its neighbour's opposite or lies midway between them.
    """
    count = len(ring.joints)
    known_joint(ring, index)
    if count < 3:
        raise Refusal(message("square_corner_needs_neighbours"), "joint")
    before, corner, after = (np.asarray(ring.joints[(index + k) % count].point) for k in (-1, 0, 1))
    middle, radius = (before + after) / 2, math.dist(before, after) / 2
    away = corner - middle
    reach = float(np.hypot(*away))
    if radius < 1 or reach < 1e-6:
        raise Refusal(message("corner_midway"), "joint")
    result = move_joint(ring, index, _point(middle + away * radius / reach))
    return set_edge_kind(set_edge_kind(result, index, "line"), (index - 1) % count, "line")


def parallel_edges(ring: TracedRing, edge: int, to: int) -> TracedRing:
    """Edge `edge` straightened and turned about its middle until it is parallel with edge `to`. Raises `Refusal` for
    the edge itself, and for edges over 45° apart."""
    a, b = _ends(ring, edge)
    c, d = _ends(ring, to)
    if edge == to:
        raise Refusal(message("choose_edge_for_parallel"), "edge")
    direction = (d - c) / max(float(np.hypot(*(d - c))), 1e-9)
    if (b - a) @ direction < 0:
        direction = -direction
    if (b - a) @ direction < 0.7 * np.hypot(*(b - a)):
        names = [f"{letter(k)}{letter((k + 1) % len(ring.joints))}" for k in (edge, to)]
        raise Refusal(message("edges_far_from_parallel", edge=names[0], other=names[1]), "edge")
    return _lay_edge(ring, edge, (a + b) / 2, direction, float((b - a) @ direction))


def equal_edges(ring: TracedRing, edge: int, to: int) -> TracedRing:
    """Both edges straightened and lengthened or shortened about their middles to the mean of their lengths. Raises
    `Refusal` for the edge itself."""
    if edge == to:
        raise Refusal(message("choose_edge_for_length"), "edge")
    length = sum(math.dist(*_ends(ring, k)) for k in (edge, to)) / 2
    for k in (edge, to):
        a, b = _ends(ring, k)
        ring = _lay_edge(ring, k, (a + b) / 2, (b - a) / max(math.dist(a, b), 1e-9), length)
    return ring


def _lay_edge(ring: TracedRing, edge: int, middle: Array, along: Array, length: float) -> TracedRing:
    """The edge as a line through `middle`, `length` long."""
    count = len(ring.joints)
    for k, way in ((edge, -0.5), ((edge + 1) % count, 0.5)):
        ring = replace(
            ring,
            joints=tuple(
                replace(j, point=_point(middle + way * length * along)) if i == k else j
                for i, j in enumerate(ring.joints)
            ),
        )
    return set_edge_kind(ring, edge, "line")


def _ends(ring: TracedRing, edge: int) -> tuple[Array, Array]:
    known_joint(ring, edge)
    count = len(ring.joints)
    return np.asarray(ring.joints[edge].point), np.asarray(ring.joints[(edge + 1) % count].point)


def _point(p: Array) -> Point:
    return float(p[0]), float(p[1])
