"""Closed rings of edges."""

from __future__ import annotations

import re
from collections.abc import Sequence

import numpy as np
import shapely

from ypsicline.core.errors import Place, Refusal
from ypsicline.core.geometry.edges import (
    FLATTEN_MM,
    Array,
    Edge,
    EdgeT,
    Point,
    edge_length,
    flatten,
    reverse_edge,
    tangent_at,
)
from ypsicline.core.geometry.plane import turn_between
from ypsicline.core.messages import Message, message

__all__ = [
    "check_ring",
    "corner_turns",
    "even_ring",
    "flatten_ring",
    "is_counter_clockwise",
    "onward",
    "reverse_ring",
    "ring_length",
    "signed_area",
]

CLOSES_WITHIN_MM = 0.01
_OUTLINE = message("ring_outline")


def flatten_ring(edges: Sequence[Edge], tolerance_mm: float = FLATTEN_MM) -> Array:
    """Points (n, 2) round the ring, the first not repeated."""
    parts: list[Array] = []
    straight: list[Point] = []
    for e in edges:
        if e.kind == "line":
            straight.append(e.start)
            continue
        if straight:
            parts.append(np.array(straight))
            straight = []
        parts.append(flatten(e, tolerance_mm)[:-1])
    if straight:
        parts.append(np.array(straight))
    return parts[0] if len(parts) == 1 else np.vstack(parts)


def ring_length(edges: Sequence[Edge]) -> float:
    """How long all edges are together, mm."""
    return sum(edge_length(e) for e in edges)


def corner_turns(edges: Sequence[Edge]) -> list[tuple[Point, Point, float]]:
    """At the end of each edge of a ring the unit directions of travel into the corner and out of it, and the turn between
    them in radians, positive to the left."""
    ways = []
    for e in edges:
        first = tangent_at(e, 0.0)
        ways.append((first, first if e.kind == "line" else tangent_at(e, 1.0)))
    leaving = [first for first, _ in ways]
    return [(t1, t2, turn_between(t1, t2)) for (_, t1), t2 in zip(ways, [*leaving[1:], *leaving[:1]], strict=True)]


def onward(values: Array) -> Array:
    """Of each of a ring's points (n, ...) the one after it."""
    return np.concatenate([values[1:], values[:1]])


def signed_area(points: Array) -> float:
    """Area in mm² inside a closed polyline, positive counter-clockwise."""
    # seen from the first point, the sides that meet there add nothing
    x, y = points[:, 0] - points[0, 0], points[:, 1] - points[0, 1]
    return float(x[:-1] @ y[1:] - x[1:] @ y[:-1]) / 2


def is_counter_clockwise(edges: Sequence[Edge]) -> bool:
    """Whether the inside lies to the left, x right and y up."""
    return signed_area(flatten_ring(edges)) > 0


def reverse_ring(edges: Sequence[EdgeT]) -> tuple[EdgeT, ...]:
    """The same ring, walked the other way."""
    return tuple(reverse_edge(e) for e in reversed(edges))


def lengths_along(points: Array) -> Array:
    """Of each point (n, 2) of a polyline, the length from the first one, mm (n,)."""
    return np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])


def even_ring(points: Array, pitch_mm: float | None = None) -> tuple[Array, float]:
    """The ring (n, 2) walked at an even pitch (default 1 mm, coarser over 3 m), and the pitch in mm."""
    loop = np.vstack([points, points[:1]])
    along = lengths_along(loop)
    length = float(along[-1])
    pitch = pitch_mm or max(min(1.0, length / 60), length / 3000)
    count = max(16, round(length / pitch))
    at = np.arange(count) * (length / count)
    return np.column_stack([np.interp(at, along, loop[:, 0]), np.interp(at, along, loop[:, 1])]), length / count


def check_ring(edges: Sequence[Edge], names: Sequence[str], what: Message = _OUTLINE) -> Array:
    """The flattened ring, once it is known to be sound.

    Raises `Refusal` with the place: an edge of no length, edges that don't meet end to
    start (within 0.01 mm), a ring with no inside, a ring that crosses or touches itself.
    """
    if not edges:
        raise Refusal(message("ring_without_edges", what=what), "outline")
    ends = np.array([(e.points[0], e.points[-1]) for e in edges], dtype=float)
    across = ends[:, 1] - ends[:, 0]
    short = np.hypot(across[:, 0], across[:, 1]) < CLOSES_WITHIN_MM
    for k in np.flatnonzero(short).tolist():
        if edge_length(edges[k]) < CLOSES_WITHIN_MM:
            raise Refusal(
                message("edge_without_length", edge=names[k], what=what),
                "outline",
                Place(edge=names[k], point=edges[k].start),
            )
    apart = onward(ends[:, 0]) - ends[:, 1]
    gaps = np.hypot(apart[:, 0], apart[:, 1])
    for k in np.flatnonzero(gaps > CLOSES_WITHIN_MM).tolist():
        after = (k + 1) % len(edges)
        text = message("ring_is_open", what=what, edge=names[after], gap_mm=gaps[k], other=names[k])
        raise Refusal(text, "outline", Place(edge=names[k], point=edges[k].end))
    points = flatten_ring(edges)
    if len(points) < 3 or _lie_on_a_line(points):
        raise Refusal(message("ring_without_inside", what=what), "outline", Place(point=edges[0].start))
    polygon = shapely.polygons(points)
    if not bool(shapely.is_valid(polygon)):
        where = _invalid_at(polygon, points)
        names_there = sorted({names[k] for k, e in enumerate(edges) if _passes(e, where)})
        text = message("ring_crosses_itself", what=what, x_mm=where[0], y_mm=where[1], edges=_names(names_there))
        raise Refusal(text, "outline", Place(edge=names_there[0] if names_there else None, point=where))
    return points


def _names(edges: Sequence[str]) -> Message:
    if len(edges) < 2:
        return message("edge_called", edge=edges[0]) if edges else message("two_edges")
    return message("edges_called", edge=edges[0], other=edges[1])


def _lie_on_a_line(points: Array) -> bool:
    """Whether the points' spread across their main direction is next to nothing."""
    off = points - points.mean(axis=0)
    (a, b), (_, c) = off.T @ off / len(points)
    return bool(a * c - b * b < 1e-8 * max(float(a + c), 1e-6))


def _invalid_at(polygon: shapely.Polygon, points: Array) -> tuple[float, float]:
    place = re.search(r"\[([-\d.e+]+) ([-\d.e+]+)\]", shapely.is_valid_reason(polygon))
    if place:
        return float(place.group(1)), float(place.group(2))
    return float(points[0, 0]), float(points[0, 1])


def _passes(edge: Edge, where: tuple[float, float]) -> bool:
    line = shapely.LineString(flatten(edge))
    return bool(line.distance(shapely.Point(where)) < 0.05)
