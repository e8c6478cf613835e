"""The exact parallel of an edge."""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import lru_cache
from itertools import pairwise
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ypsicline.core.geometry.beziers import Complex, as_pairs, power_form
from ypsicline.core.geometry.edges import Array, Edge, Point, circle_of

__all__ = ["Parallel", "parallel", "parallels"]

Ints = NDArray[np.int64]
CURVE_TOLERANCE_MM = 0.003
MAX_PIECES = 256
_TURN_RAD = 0.45
_AT = np.linspace(0, 1, 9)
_BERNSTEIN = np.stack([(1 - _AT) ** 3, 3 * _AT * (1 - _AT) ** 2, 3 * _AT**2 * (1 - _AT), _AT**3]).astype(complex)


@lru_cache(maxsize=2048)
def parallel(edge: Edge, distance_mm: float) -> Edge:
    """The edge moved `distance_mm` to its right, which is outward on a counter-clockwise outline.

    A line stays a line and an arc stays an arc with the same centre. A curve becomes cubic
    Béziers within 0.003 mm of the exact parallel (Hermite interpolation of the parallel curve
    P(t) + d·n(t), whose derivative is P'(t)(1 + d·κ(t)) with κ positive for a left turn).
    On a concave edge tighter than the distance the parallel turns back on itself; the loop is
    the caller's to remove.
    """
    return parallels([edge], [distance_mm])[0].edge


class Parallel(NamedTuple):
    """The parallel of an edge; `turns_back` where it runs backward somewhere, the edge bending more tightly than its
    distance there."""

    edge: Edge
    turns_back: bool = False


def parallels(edges: Sequence[Edge], distances_mm: Sequence[float]) -> list[Parallel]:
    """The `parallel` of each edge at its own distance; all curves among them are worked out together."""
    offsets = [_simple(e, d) for e, d in zip(edges, distances_mm, strict=True)]
    curved = [k for k, e in enumerate(offsets) if e is None]
    if curved:
        curves = _parallel_curves([edges[k].points for k in curved], [distances_mm[k] for k in curved])
        for k, (points, turns_back) in zip(curved, curves, strict=True):
            offsets[k] = Parallel(Edge("curve", points), turns_back)
    return [p for p in offsets if p is not None]


def _simple(edge: Edge, d: float) -> Parallel | None:
    """The parallel of a line, of an arc, and at no distance; None for another curve."""
    if d == 0:
        return Parallel(Edge(edge.kind, edge.points))
    if edge.kind == "curve":
        return None
    if edge.kind == "arc" and (circle := circle_of(edge)):
        reach = circle.radius + (d if circle.sweep > 0 else -d)
        (x, y), a, s = circle.centre, circle.start_angle, circle.sweep
        angles = (a, a + s / 2, a + s)
        points = tuple((x + reach * math.cos(v), y + reach * math.sin(v)) for v in angles)
        return Parallel(Edge("arc", points), reach <= 0)
    (ax, ay), (bx, by) = edge.start, edge.end
    length = math.hypot(bx - ax, by - ay) or 1.0
    dx, dy = d * (by - ay) / length, d * (ax - bx) / length
    return Parallel(Edge("line", ((ax + dx, ay + dy), (bx + dx, by + dy))))


def _parallel_curves(
    curves: Sequence[tuple[Point, ...]], distances: Sequence[float]
) -> list[tuple[tuple[Point, ...], bool]]:
    """Every Bézier of every curve in as many even spans as its error asks for: a Hermite cubic's grows with the fourth
    power of its span; and whether it runs backward somewhere. Points are complex numbers, x + iy."""
    counts = [(len(p) - 1) // 3 for p in curves]
    power = np.concatenate([power_form(p) for p in curves])
    d = np.repeat(np.array(distances, dtype=float), counts)
    # to begin with, a span for so much of a turn of each Bézier's control polygon
    c1, c2, c3 = power[:, 1], power[:, 2], power[:, 3]
    legs = np.stack([c1, c1 + c2, c1 + 2 * c2 + 3 * c3])
    turns = np.abs(np.angle(legs[1:] * legs[:-1].conj())).sum(axis=0)
    of, low, span = _divided(np.arange(len(power)), np.zeros(len(power)), np.ones(len(power)), 1 + turns / _TURN_RAD)
    places, lows, pieces, backward = [], [], [], set[int]()
    while len(of):
        cubics, errors, runs_on = _hermite(power[of], d[of], low, span)
        backward.update(of[~runs_on].tolist())
        fits = (errors <= CURVE_TOLERANCE_MM) | (span <= 1 / MAX_PIECES)
        places.append(of[fits])
        lows.append(low[fits])
        pieces.append(cubics[fits])
        rest = ~fits
        of, low, span, errors = of[rest], low[rest], span[rest], errors[rest]
        parts = np.ceil(1.15 * (errors / CURVE_TOLERANCE_MM) ** 0.25)
        of, low, span = _divided(of, low, span, np.minimum(np.maximum(parts, 2), np.maximum(MAX_PIECES * span, 2)))
    which, start = np.concatenate(places), np.concatenate(lows)
    order = np.argsort(which + start)
    in_order = np.concatenate(pieces)[order]
    first = np.cumsum([0, *counts])
    ends = np.searchsorted(which[order], first)
    offsets = []
    for k, (a, b) in enumerate(pairwise(ends.tolist())):
        points = np.concatenate([in_order[a, :1], in_order[a:b, 1:].ravel()])
        turns_back = any(first[k] <= bezier < first[k + 1] for bezier in backward)
        offsets.append((tuple(map(tuple, as_pairs(points).tolist())), turns_back))
    return offsets


def _divided(of: Ints, low: Array, span: Array, parts: Array) -> tuple[Ints, Array, Array]:
    """Each span in so many even parts (rounded down)."""
    count = parts.astype(int)
    place = np.arange(count.sum()) - np.repeat(np.cumsum(count) - count, count)
    each = np.repeat(span / count, count)
    return np.repeat(of, count), np.repeat(low, count) + place * each, each


def _hermite(power: Complex, d: Array, low: Array, span: Array) -> tuple[Complex, Array, NDArray[np.bool_]]:
    """Along the parallels at `d` (m,) of cubics `power` (m, 4), from their parameter `low` over `span` (m,): cubic
    Béziers (m, 4), how far each strays, mm (m,), and whether its parallel runs on all along (m,)."""
    s = low[:, None] + span[:, None] * _AT
    c0, c1, c2, c3 = (power[:, k, None] for k in range(4))
    first, second = c1 + s * (2 * c2 + 3 * s * c3), 2 * c2 + 6 * s * c3
    speed = np.abs(first)
    if (flat := speed < 1e-9).any():
        # at a handle of no length, the direction a hair further in
        t = np.where(flat, s + np.where(_AT < 0.5, 1e-3, -1e-3) * span[:, None], s)
        first, second = c1 + t * (2 * c2 + 3 * t * c3), 2 * c2 + 6 * t * c3
        speed = np.maximum(np.abs(first), 1e-12)
    normal = -1j * first / speed
    exact = c0 + s * (c1 + s * (c2 + s * c3)) + d[:, None] * normal
    onward = 1 + d[:, None] * (first.conj() * second).imag / speed**3
    slope = first[:, ::8] * onward[:, ::8] * (span / 3)[:, None]
    p, q = exact[:, 0], exact[:, -1]
    cubics = np.stack([p, p + slope[:, 0], q - slope[:, 1], q], axis=1)
    # only the distance across the exact parallel counts, not along it
    across = ((cubics @ _BERNSTEIN - exact) * normal.conj()).real
    return cubics, np.abs(across).max(axis=1), onward.min(axis=1) > 0
