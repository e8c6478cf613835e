"""Outlines out of drawings: runs of edges chained into rings, and holes put into the outlines round them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import shapely

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Edge, Point, circle_of, flatten
from ypsicline.core.geometry.rings import check_ring, is_counter_clockwise, reverse_ring
from ypsicline.core.messages import message

__all__ = ["HiddenLayers", "ReadOutline", "check_size", "outlines_of", "plainer", "raised"]

MAX_FILE_BYTES = 20_000_000
MOST_EDGES = 20_000
MOST_LOOSE = 2_000
CLOSES_WITHIN_MM = 0.5
_SAME_MM = 0.001

HiddenLayers = Literal["ask", "leave", "read"]
"""What is to become of a drawing's layers that are switched off."""
EdgeRing = tuple[Edge, ...]


@dataclass(frozen=True)
class ReadOutline:
    """An outline counter-clockwise and the holes in it clockwise."""

    outline: EdgeRing
    holes: tuple[EdgeRing, ...]


def check_size(data: bytes, what: str) -> None:
    """Raise `Refusal` where a file is empty or too large to be read."""
    if not data:
        raise Refusal(message("file_empty", what=what), "file")
    if len(data) > MAX_FILE_BYTES:
        raise Refusal(
            message("file_too_large", what=what, megabytes=len(data) / 1000000.0, most=MAX_FILE_BYTES / 1000000.0),
            "file",
        )


def outlines_of(runs: Sequence[Sequence[Edge]], what: str) -> tuple[ReadOutline, ...]:
    """Every closed outline that runs of edges, in mm, make, largest first, with the holes inside it.

    Open runs are chained end to end. Raises `Refusal` (reason `file`) where nothing closes, lines branch or
    a ring crosses itself.
    """
    if sum(len(r) for r in runs) > MOST_EDGES:
        raise Refusal(message("outline_too_many_edges", what=what, most_edges=MOST_EDGES), "file")
    rings = []
    for ring in _chained([r for r in runs if r], what):
        if len(ring) >= 2:
            check_ring(ring, [str(k + 1) for k in range(len(ring))], message("ring_in_file", file=what))
            rings.append(ring if is_counter_clockwise(ring) else tuple(reverse_ring(ring)))
    if not rings:
        raise Refusal(message("no_closed_outline", what=what), "file")
    return _nested(rings)


def _nested(rings: Sequence[EdgeRing]) -> tuple[ReadOutline, ...]:
    shapes = np.array([shapely.Polygon(np.vstack([flatten(e)[:-1] for e in r])) for r in rings], dtype=object)
    order = np.argsort(-shapely.area(shapes), kind="stable")
    rank = np.empty(len(rings), dtype=int)
    rank[order] = np.arange(len(rings))
    around: dict[int, list[int]] = {}
    for inner, outer in shapely.STRtree(shapes).query(shapes, predicate="within").T.tolist():
        if rank[outer] < rank[inner]:
            around.setdefault(inner, []).append(outer)
    inside: dict[int, list[int]] = {k: [] for k in order.tolist() if k not in around}
    for k in (k for k in order.tolist() if k in around):
        inside[min(around[k], key=lambda outer: rank[outer])].append(k)
    return tuple(ReadOutline(rings[t], tuple(tuple(reverse_ring(rings[h])) for h in own)) for t, own in inside.items())


def _chained(runs: Sequence[Sequence[Edge]], what: str) -> list[EdgeRing]:
    """Closed rings, each of one run or of several that meet end to end: exactly, or else within half a millimetre. Raises
    `Refusal` where lines branch, so that there is more than one way round, and where too many lie about loose."""
    exact = _Chains.of(runs, _SAME_MM, what)
    near = _Chains.of(exact.still_open, CLOSES_WITHIN_MM, what)
    if near.branches_at is not None:
        x, y = near.branches_at
        raise Refusal(message("outline_branches", what=what, x_mm=x, y_mm=y), "file")
    return [*exact.rings, *near.rings]


@dataclass(frozen=True)
class _Chains:
    """Runs of edges joined wherever just two of them meet: rings, what is `still_open`, and a place where a run that is
    both begins and ends among several others, if there is one."""

    rings: list[EdgeRing]
    still_open: list[Sequence[Edge]]
    branches_at: Point | None

    @classmethod
    def of(cls, runs: Sequence[Sequence[Edge]], within_mm: float, what: str) -> _Chains:
        rings = [_shut(r) for r in runs if len(r) > 1 and _gap(r) <= within_mm]
        loose = [r for r in runs if _gap(r) > within_mm]
        if not loose:
            return cls(rings, [], None)
        # it takes long to load, and most drawings have no loose lines
        from ezdxf import edgeminer

        edges = [edgeminer.make_edge(r[0].start, r[-1].end, payload=r) for r in loose]
        deposit = edgeminer.Deposit(edges, gap_tol=within_mm)
        still_open: list[Sequence[Edge]] = []
        ids_done: set[int] = set()
        for edge in edges:
            if edge.id in ids_done:
                continue
            chain = edgeminer.find_simple_chain(deposit, edge)
            ids_done.update(e.id for e in chain)
            run = [e for c in chain for e in (reverse_ring(c.payload) if c.is_reverse else c.payload)]
            if _gap(run) > within_mm:
                still_open.append(run)
            elif len(run) > 1:
                rings.append(_shut(run))
            if len(still_open) > MOST_LOOSE:
                raise Refusal(message("outline_too_loose", what=what, most=MOST_LOOSE), "file")
        ends = ((r[0].start, r[-1].end) for r in still_open)
        branches_at = next((a for a, b in ends if min(deposit.degree(a), deposit.degree(b)) > 2), None)
        return cls(rings, still_open, branches_at)


def _gap(run: Sequence[Edge]) -> float:
    return math.dist(run[0].start, run[-1].end)


def _shut(run: Sequence[Edge]) -> EdgeRing:
    """Each edge's end moved onto the next one's start, over gaps of half a millimetre at most."""
    count = len(run)
    return tuple(Edge(e.kind, (*e.points[:-1], run[(k + 1) % count].start)) for k, e in enumerate(run))


def plainer(edge: Edge) -> Edge:
    """A curve that is an arc or a line to within 2 µm, as that."""
    points = flatten(edge)
    a, m, b = edge.start, points[len(points) // 2], edge.end
    arc = Edge("arc", (a, (float(m[0]), float(m[1])), b))
    if circle := circle_of(arc):
        off = np.abs(np.hypot(*(points - np.asarray(circle.centre)).T) - circle.radius).max()
        return arc if off < 0.002 and circle.radius < 1e5 else edge
    return Edge("line", (a, b))


def raised(a: Point, b: Point, c: Point) -> Edge:
    """A quadratic Bézier as a cubic one."""
    first = (a[0] + 2 / 3 * (b[0] - a[0]), a[1] + 2 / 3 * (b[1] - a[1]))
    second = (c[0] + 2 / 3 * (b[0] - c[0]), c[1] + 2 / 3 * (b[1] - c[1]))
    return Edge("curve", (a, first, second, c))
