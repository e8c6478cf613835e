"""The numbers for marking a panel straight on the cloth with ruler, trammel and chalk (rule 15)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ypsicline.core.geometry.edges import Array, Edge, Point, circle_of, derivatives_at, points_at
from ypsicline.core.geometry.plane import cross, dot, minus, unit
from ypsicline.core.lengths import MM_PER, Unit
from ypsicline.core.pattern.panel import DraftedPanel
from ypsicline.core.pattern.seam_edge import CutEdge

__all__ = ["Diagonal", "MarkedCurve", "MarkedPoint", "MarkingOut", "RoundHole", "Swing", "mark_out", "rounded_mm"]

CHORD_ERROR_MM = 0.5
ROUNDING_SAID_MM = 1.0
_PITCHES: dict[Unit, tuple[float, ...]] = {
    "mm": (100, 50, 25, 20, 10, 5, 2), "cm": (100, 50, 20, 10, 5, 2), "in": tuple(25.4 * s for s in (4, 2, 1, 0.5, 0.25, 0.125)),
}  # fmt: skip
_MOST_DIAGONALS = 4
_SAME_MM = 0.05
_LEAST_IN_ARC = 4


@dataclass(frozen=True)
class MarkedPoint:
    """A corner of the cutting line: its number, where it is, and how far `across` and `up` it lies from the datum."""

    number: int
    at: Point
    across: float
    up: float


@dataclass(frozen=True)
class Swing:
    """An arc to swing: between two corners, its radius and where its centre lies from the datum."""

    first: int
    second: int
    radius: float
    centre: Point
    across: float
    up: float


@dataclass(frozen=True)
class Diagonal:
    first: int
    second: int
    length: float


@dataclass(frozen=True)
class MarkedCurve:
    """A curve as ordinates: at every `pitch` along the straight line between two corners, how far the curve stands off
    it, positive to the left on the way; the last step is what is left."""

    first: int
    second: int
    chord: float
    pitch: float
    ordinates: tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class RoundHole:
    """A round hole to cut: its radius and where its centre lies from the datum."""

    radius: float
    centre: Point
    across: float
    up: float


@dataclass(frozen=True)
class MarkingOut:
    """All numbers of a panel, mm. The datum is point 1, the corner lowest on the left; corners of holes that aren't
    round are numbered on after the outline's."""

    points: tuple[MarkedPoint, ...]
    swings: tuple[Swing, ...]
    diagonals: tuple[Diagonal, ...]
    curves: tuple[MarkedCurve, ...]
    round_holes: tuple[RoundHole, ...] = ()


def rounded_mm(mm: float, unit: Unit, denominator: int = 16) -> float:
    """The length that a maker reads off as the nearest mark: 1 mm, or 1/`denominator` in."""
    step = MM_PER["in"] / denominator if unit == "in" else 1.0
    return round(mm / step) * step


def mark_out(panel: DraftedPanel, unit: Unit) -> MarkingOut:
    """The cutting line by running dimensions from one datum corner, check diagonals, radii with their centres, and
    ordinates along its curves at a pitch whose chord error stays under 0.5 mm."""
    edges = _without_specks(panel.cutting_line)
    corners = [e.start for e in edges]
    low = np.asarray(corners).min(axis=0)
    first = min(range(len(corners)), key=lambda k: math.dist(corners[k], (float(low[0]), float(low[1]))))
    edges = [*edges[first:], *edges[:first]]
    datum = edges[0].start
    points: list[MarkedPoint] = []
    swings: list[Swing] = []
    curves: list[MarkedCurve] = []
    holes: list[RoundHole] = []
    outline = 0
    for ring in (edges, *(_without_specks(h) for h in panel.hole_cutting_lines)):
        circles = [circle_of(e) if e.kind == "arc" else None for e in ring]
        if points and (one := circles[0]) and all(c and math.dist(c.centre, one.centre) < _SAME_MM for c in circles):
            holes.append(RoundHole(one.radius, one.centre, one.centre[0] - datum[0], one.centre[1] - datum[1]))
            continue
        before = len(points)
        for k, (e, circle) in enumerate(zip(ring, circles, strict=True)):
            number, after = before + k + 1, before + (k + 1) % len(ring) + 1
            points.append(MarkedPoint(number, e.start, e.start[0] - datum[0], e.start[1] - datum[1]))
            if circle:
                x, y = circle.centre
                swings.append(Swing(number, after, circle.radius, circle.centre, x - datum[0], y - datum[1]))
            elif e.kind == "curve":
                curves.append(_ordinates(e, number, after, unit))
        outline = outline or len(points)
    return MarkingOut(tuple(points), tuple(swings), _diagonals(points[:outline]), tuple(curves), tuple(holes))


def _without_specks(edges: Sequence[CutEdge]) -> list[CutEdge]:
    """The ring without edges of no length, and what a corner draws in many short lines as arcs to swing."""
    long = [e for e in edges if e.kind != "line" or math.dist(e.start, e.end) > _SAME_MM] or list(edges)
    without: list[CutEdge] = []
    k = 0
    while k < len(long):
        end = k
        while end < len(long) and long[end].kind == "line" and long[end].seam_edge is None:
            end += 1
        without += _as_arcs(long[k:end]) if end > k else [long[k]]
        k = max(end, k + 1)
    return without


def _as_arcs(run: Sequence[CutEdge]) -> list[CutEdge]:
    """Short lines that follow one another along a circle as one arc; those that don't, as they are."""
    for count in range(len(run), _LEAST_IN_ARC - 1, -1):
        points = np.array([run[0].start, *(e.end for e in run[:count])])
        a, m, b = (tuple(map(float, points[i])) for i in (0, count // 2, count))
        arc = CutEdge("arc", (a, m, b))  # type: ignore[arg-type]
        line = CutEdge("line", (arc.start, arc.end))
        if _off_line(points) <= CHORD_ERROR_MM / 2:
            return [line, *_as_arcs(run[count:])]
        circle = circle_of(arc)
        if circle is None or abs(circle.sweep) > math.pi:
            continue
        steps = np.hypot(*np.diff(points, axis=0).T)
        # the lines' corners lie on it, and no line strays from it
        off = np.abs(np.hypot(*(points - circle.centre).T) - circle.radius)
        sag = steps.max() ** 2 / (8 * circle.radius)
        if max(float(off.max()), float(sag)) <= CHORD_ERROR_MM:
            return [arc, *_as_arcs(run[count:])]
    return [run[0], *_as_arcs(run[1:])] if run else []


def _off_line(points: Array) -> float:
    """How far points (n, 2) stray from the straight line between the first and the last, mm."""
    way = points[-1] - points[0]
    across = (points - points[0]) @ np.array([-way[1], way[0]])
    return float(np.abs(across).max() / max(np.hypot(*way), 1e-9))


def _diagonals(points: Sequence[MarkedPoint]) -> tuple[Diagonal, ...]:
    """The longest lines between corners that aren't neighbours, each corner used twice at most."""
    count = len(points)
    pairs = [
        Diagonal(a.number, b.number, math.dist(a.at, b.at))
        for i, a in enumerate(points)
        for j, b in enumerate(points)
        if j > i + 1 and not (i == 0 and j == count - 1)
    ]
    uses = dict.fromkeys(range(1, count + 1), 0)
    diagonals: list[Diagonal] = []
    for d in sorted(pairs, key=lambda d: -d.length):
        if len(diagonals) < _MOST_DIAGONALS and uses[d.first] < 2 and uses[d.second] < 2:
            uses[d.first] += 1
            uses[d.second] += 1
            diagonals.append(d)
    return tuple(diagonals)


def _ordinates(edge: Edge, first: int, second: int, unit: Unit) -> MarkedCurve:
    direction = _direction(minus(edge.end, edge.start))
    chord = math.dist(edge.start, edge.end)
    t = np.linspace(0, 1, 2001)
    points = points_at(edge, t) - np.asarray(edge.start)
    along = points @ np.asarray(direction)
    off = np.asarray([cross(direction, (float(x), float(y))) for x, y in points])
    d1, d2 = derivatives_at(edge, np.clip(t, 1e-4, 1 - 1e-4))
    bend = np.abs(d1[:, 0] * d2[:, 1] - d1[:, 1] * d2[:, 0]) / np.maximum(np.hypot(*d1.T), 1e-9) ** 3
    # over a step p the ordinates' chord is off by p²y″ ÷ 8 at most, with y″ = κ ÷ cos³ of the angle to the straight line
    steep = np.abs(d1 @ np.asarray(direction)) / np.maximum(np.hypot(*d1.T), 1e-9)
    most = float(np.min(np.sqrt(8 * CHORD_ERROR_MM * steep**3 / np.maximum(bend, 1e-9))))
    pitch = next((p for p in _PITCHES[unit] if p <= most), _PITCHES[unit][-1])
    order = np.argsort(along, kind="stable")
    stops = np.arange(pitch, chord - 0.01 * pitch, pitch).tolist()
    readings = np.interp(stops, along[order], off[order])
    return MarkedCurve(
        first, second, chord, pitch, tuple((float(s), float(o)) for s, o in zip(stops, readings, strict=True))
    )


def _direction(d: Point) -> Point:
    return unit(d) if dot(d, d) else (1.0, 0.0)
