"""From a seam line to its cutting line: rule 2 of drafting.

Every edge is moved outward by its own allowance and neighbours are joined by the corner that
the maker chose. Where that ring crosses itself (a concave corner, a curve tighter than its
allowance, a narrow inlet) what it winds round counts, see `loops`.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import shapely
from numpy.typing import NDArray

from ypsicline.core.drafting.corners import MITRE_LIMIT, Meeting, corner_by_rule, drawn_corner
from ypsicline.core.drafting.loops import Piece, turns_back, without_loops
from ypsicline.core.errors import Place, Refusal
from ypsicline.core.geometry.edges import (
    Array,
    Edge,
    Point,
    circle_of,
    derivatives_at,
    edge_length,
    parameter_at_length,
    parameters,
    points_at,
    reverse_edge,
    split_edge,
)
from ypsicline.core.geometry.parallel import Parallel, parallel, parallels
from ypsicline.core.geometry.plane import cross, dot, minus
from ypsicline.core.geometry.rings import corner_turns, flatten_ring, onward, signed_area
from ypsicline.core.messages import message
from ypsicline.core.pattern.seam_edge import CutEdge, SeamEdge

__all__ = ["MITRE_LIMIT", "CutRing", "cut_ring"]

_SAME_MM = 1e-4
_LEAST_TURN = 1e-6
_STANDS_OUT_MM = 0.03
# a crossing of two curves shows only when they are flattened finely
_FLAT_MM = 0.002
_BEHIND_MM = 1e-6
_AT_THE_CENTRE = 1e-6


@dataclass(frozen=True)
class CutRing:
    """A cutting line. `cut_short` are the seam edges that lost a loop or were cut back by a neighbour that isn't
    next to them, `closed_at` the places where an inlet closed up, `cut_across` the seam edges at whose end the corner
    that was asked for can't be drawn and is cut straight across, `flares` those where a turned corner would stand out too
    far and a plain one is drawn."""

    edges: tuple[CutEdge, ...]
    cut_short: tuple[int, ...] = ()
    closed_at: tuple[Point, ...] = ()
    cut_across: tuple[int, ...] = ()
    flares: tuple[int, ...] = ()


def cut_ring(seam: Sequence[SeamEdge], *, hole: bool = False, mitre_limit: float = MITRE_LIMIT) -> tuple[CutRing, ...]:
    """The cutting line of a sound ring: counter-clockwise for an outline, clockwise for a `hole`.

    The allowance lies to the right of the direction of travel: outside an outline, inside a
    hole. A hole may fall into several. A mitre longer than `mitre_limit` times the wider
    allowance is bevelled. Raises `Refusal` where a hole's allowance leaves nothing of it.
    """
    mitred = _mitred_polygon(seam, hole, mitre_limit)
    if isinstance(mitred, CutRing):
        return (mitred,)
    if mitred is not None:
        return _untangled(seam, mitred, (), hole)
    offsets = parallels(seam, [e.allowance for e in seam])
    offset_edges = [p.edge for p in offsets]
    meetings = [
        Meeting(seam[k], seam[k + 1 - len(seam)], offset_edges[k], offset_edges[k + 1 - len(seam)], *turn)
        for k, turn in enumerate(corner_turns(seam))
    ]
    corner_points = [drawn_corner(m, mitre_limit) for m in meetings]
    corners = [c.points for c in corner_points]
    flares = tuple(i for i, c in enumerate(corner_points) if c.flares)
    if not any(p.turns_back for p in offsets):
        pieces, across = _trimmed_ring(seam, offset_edges, meetings, corners)
        if pieces and _is_sound([p.edge for p in pieces], seam, hole):
            return (CutRing(tuple(_cut_edge(seam, p) for p in pieces), cut_across=across, flares=flares),)
    raw, across = _raw_ring(seam, offsets, meetings, corners)
    return _untangled(seam, raw, _led_on(meetings, mitre_limit), hole, cut_across=across, flares=flares)


def _untangled(
    seam: Sequence[SeamEdge],
    raw: Sequence[Piece],
    led_on: Sequence[Sequence[Point]],
    hole: bool,
    *,
    cut_across: tuple[int, ...] = (),
    flares: tuple[int, ...] = (),
) -> tuple[CutRing, ...]:
    """The cutting lines that are left of a ring with loops; `led_on` as for `_led_on`, the last two as in `CutRing`."""
    outer = without_loops(raw, seam, led_on, hole=hole)
    if not outer:
        size = math.sqrt(abs(signed_area(flatten_ring(seam))))
        place = Place(edge=seam[0].name, point=seam[0].start)
        raise Refusal(message("hole_is_filled", across_mm=size), "hole_filled", place)
    rings = []
    for ring in outer:
        edges = tuple(_cut_edge(seam, p) for p in ring.pieces)
        alive = {e.seam_edge for e in edges}
        trimmed_edges = tuple(i for i in range(len(seam)) if i not in alive or _is_cut_back(seam[i], edges, i))
        rings.append(CutRing(edges, trimmed_edges, ring.closed_at, cut_across, flares))
    return tuple(rings)


def _is_sound(ring: Sequence[Edge], seam: Sequence[SeamEdge], hole: bool) -> bool:
    """Whether the ring runs the right way round, doesn't cross itself, and no turned corner of it cuts into the panel."""
    points = flatten_ring(ring, _FLAT_MM)
    if len(points) < 3 or (signed_area(points) > 0) == hole:
        return False
    cut = shapely.polygons(points)
    if not bool(shapely.is_valid(cut)) or turns_back(points).any():
        return False
    if not any(corner_by_rule(e, seam[k + 1 - len(seam)]) in ("mirror", "hem_mitre") for k, e in enumerate(seam)):
        return True
    inner, outer = (cut, shapely.polygons(flatten_ring(seam))) if hole else (shapely.polygons(flatten_ring(seam)), cut)
    out = shapely.distance(outer, shapely.points(shapely.get_coordinates(inner)))
    return bool(out.max() <= _STANDS_OUT_MM)


def _mitred_polygon(seam: Sequence[SeamEdge], hole: bool, mitre_limit: float) -> CutRing | list[Piece] | None:
    """The same for straight edges with nothing but mitres and concave corners, all at once; the ring with its loops where
    it crosses itself, and None for any other ring."""
    if any(e.kind != "line" for e in seam):
        return None
    if any(corner_by_rule(e, seam[k - len(seam) + 1]) != "mitre" for k, e in enumerate(seam)):
        return None
    starts = np.array([e.points[0] for e in seam], dtype=float)
    allowance = np.array([e.allowance for e in seam], dtype=float)
    d = onward(starts) - starts
    d /= np.maximum(np.hypot(d[:, 0], d[:, 1]), 1e-12)[:, None]
    before = np.concatenate([d[-1:], d[:-1]])
    across = before[:, 0] * d[:, 1] - before[:, 1] * d[:, 0]
    if (np.abs(across) < _LEAST_TURN).any():
        return None
    own, its = allowance[:, None], np.concatenate([allowance[-1:], allowance[:-1]])[:, None]
    # where the parallels at a1 and a2 of unit directions d1 and d2 meet: (a2·d1 − a1·d2) ÷ (d1 × d2) from the vertex
    points = starts + (own * before - its * d) / across[:, None]
    reach = np.hypot(*(points - starts).T)
    far = reach > mitre_limit * np.maximum(own, its)[:, 0] * (1 + 1e-9)
    if far[(across > 0) | (own != its)[:, 0]].any():
        return None
    ends = [(x, y) for x, y in points.tolist()]
    runs_on = ((onward(points) - points) * d).sum(axis=1).min() > 0 and (signed_area(points) > 0) != hole
    if runs_on and bool(shapely.is_valid(shapely.polygons(points))):
        return CutRing(
            tuple(CutEdge("line", (ends[k], ends[k + 1 - len(seam)]), e.name, k) for k, e in enumerate(seam))
        )
    concave = across < 0
    if (own != its)[concave].any():
        return None
    # at a concave corner through the vertex, see `_raw_ring`
    arrives, leaves = (starts + own * np.column_stack([u[:, 1], -u[:, 0]]) for u in (before, d))
    stops = zip(*(map(tuple, p.tolist()) for p in (arrives, starts, leaves)), strict=True)
    corners = [by if c else (q,) for q, by, c in zip(ends, stops, concave.tolist(), strict=True)]
    pieces = []
    for k, way in enumerate(d.tolist()):
        after = corners[k + 1 - len(seam)]
        if dot(minus(after[0], corners[k][-1]), way) <= 0:
            return None
        pieces.append(Piece(Edge("line", (corners[k][-1], after[0])), k))
        pieces += [Piece(Edge("line", pair), None) for pair in pairwise(after) if math.dist(*pair) > _SAME_MM]
    return pieces


def _cut_edge(seam: Sequence[SeamEdge], piece: Piece) -> CutEdge:
    name = "" if piece.source is None else seam[piece.source].name
    return CutEdge(piece.edge.kind, piece.edge.points, name, piece.source)


def _trimmed_ring(
    seam: Sequence[SeamEdge],
    offset_edges: Sequence[Edge],
    meetings: Sequence[Meeting],
    corner_points: Sequence[list[Point]],
) -> tuple[list[Piece], tuple[int, ...]]:
    """The ring with neighbours trimmed to the `corner_points` after each, none where a line would be trimmed away; and
    the edges after which no corner could be drawn."""
    edges, corners, across = _all_trimmed(offset_edges, meetings, corner_points)
    for edge, own in zip(edges, seam, strict=True):
        if edge.kind == "line" and dot(minus(edge.end, edge.start), minus(own.end, own.start)) <= 0:
            return [], across
    return _join_chains([[Piece(e, i)] for i, e in enumerate(edges)], corners), across


def _all_trimmed(
    offset_edges: Sequence[Edge], meetings: Sequence[Meeting], corner_points: Sequence[Sequence[Point]]
) -> tuple[list[Edge], list[list[Point]], tuple[int, ...]]:
    """The parallels trimmed to the `corner_points` after each, those corners, and the edges after which none could be
    drawn: each end on its own, so that it makes no difference where the ring begins."""
    count = len(offset_edges)
    corners = [list(c) for c in corner_points]
    ends, starts = list(offset_edges), list(offset_edges)
    for i, m in enumerate(meetings):
        j = (i + 1) % count
        ends[i], corners[i], starts[j] = _trimmed_to(m, offset_edges[i], corners[i], offset_edges[j])
    while True:
        edges = [_between(*e) for e in zip(offset_edges, starts, ends, strict=True)]
        missing = [i for i, e in enumerate(edges) if e is None]
        if not missing:
            break
        # both corners want more of a curve than there is: neither is drawn
        for i in missing:
            for k in (i - 1, i):
                corners[k] = []
                ends[k], starts[(k + 1) % count] = offset_edges[k], offset_edges[(k + 1) % count]
    across = tuple(i for i, (before, c) in enumerate(zip(corner_points, corners, strict=True)) if before and not c)
    return [e for e in edges if e is not None], corners, across


def _between(edge: Edge, from_start: Edge, to_end: Edge) -> Edge | None:
    """A parallel that is trimmed `from_start` and `to_end`; None where a curve has nothing left between."""
    if edge.kind == "line":
        return Edge("line", (from_start.start, to_end.end))
    if from_start == edge or to_end == edge:
        return to_end if from_start == edge else from_start
    first = parameter_at_length(edge, edge_length(edge) - edge_length(from_start))
    last = parameter_at_length(edge, edge_length(to_end))
    if first >= last:
        return None
    part = split_edge(edge, first, last)
    return Edge(part.kind, (from_start.start, *part.points[1:-1], to_end.end))


def _trimmed_to(m: Meeting, out: Edge, corner: list[Point], into: Edge) -> tuple[Edge, list[Point], Edge]:
    """Two neighbours' parallels shortened or prolonged to the corner drawn between them, and that corner's points: none
    where a curve bends away before it would meet the corner."""
    if not corner:
        return out, corner, into
    corner = list(corner)
    own = (out, into)
    first = corner[0]
    if out.kind != "line":
        second = corner[1] if len(corner) > 1 else (first[0] + m.t2[0], first[1] + m.t2[1])
        meeting_point = _cut_to_corner(out, m.t1, first, second)
        if meeting_point is None:
            return own[0], [], own[1]
        out, corner[0] = meeting_point
    elif _on_line(out, first):
        out = Edge("line", (out.start, first))
    last = corner[-1]
    if into.kind != "line":
        before = corner[-2] if len(corner) > 1 else (last[0] - m.t1[0], last[1] - m.t1[1])
        meeting_point = _cut_to_corner(reverse_edge(into), (-m.t2[0], -m.t2[1]), last, before)
        if meeting_point is None:
            return own[0], [], own[1]
        into, corner[-1] = reverse_edge(meeting_point[0]), meeting_point[1]
        if out.kind == "line" and len(corner) == 1 and _on_line(out, corner[0]):
            out = Edge("line", (out.start, corner[0]))
    elif _on_line(into, last):
        into = Edge("line", (last, into.end))
    return out, corner, into


def _raw_ring(
    seam: Sequence[SeamEdge],
    parallels: Sequence[Parallel],
    meetings: Sequence[Meeting],
    corners: Sequence[Sequence[Point]],
) -> tuple[list[Piece], tuple[int, ...]]:
    """The ring with its loops: through the vertex at a concave corner, and beside a curve that is too tight no
    farther out than the curve's centre; and the edges after which no corner could be drawn."""
    offset_edges = [p.edge for p in parallels]
    corners = [
        [m.vertex] if m.turn < 0 and not m.is_smooth else list(c) for m, c in zip(meetings, corners, strict=True)
    ]
    is_bent = [p.turns_back for p in parallels]
    # a corner through the vertex, or beside a parallel that turns back, trims nothing
    trims = [
        not (m.turn < 0 and not m.is_smooth) and not is_bent[i] and not is_bent[(i + 1) % len(seam)]
        for i, m in enumerate(meetings)
    ]
    offset_edges, corner_points, across = _all_trimmed(
        offset_edges, meetings, [c if t else [] for c, t in zip(corners, trims, strict=True)]
    )
    corners = [d if t else c for c, d, t in zip(corners, corner_points, trims, strict=True)]
    chains = [
        _held_back(own, i) if p.turns_back else [Piece(e, i)]
        for i, (own, p, e) in enumerate(zip(seam, parallels, offset_edges, strict=True))
    ]
    return _join_chains(chains, corners), across


def _led_on(meetings: Sequence[Meeting], mitre_limit: float) -> list[list[Point]]:
    """What is added at concave corners of two lines: the wide allowance's end that stands out is led on to the
    neighbour's line."""
    ways = []
    for m in meetings:
        # of two equal allowances neither stands out
        if m.turn >= 0 or m.is_smooth or m.first.allowance == m.second.allowance:
            continue
        at = m.crossing()
        if at is None or m.first.kind != "line" or m.second.kind != "line":
            continue
        near = math.dist(at, m.vertex) <= mitre_limit * max(m.first.allowance, m.second.allowance)
        if near and (dot(minus(at, m.out.end), m.t1) > 0 or dot(minus(at, m.into.start), m.t2) < 0):
            ways += [[m.vertex, m.out.end, at], [m.vertex, at, m.into.start]]
    return ways


def _held_back(edge: SeamEdge, index: int) -> list[Piece]:
    """The parallel where it runs on, and the curve's centres where the allowance would pass beyond them."""
    circle = circle_of(edge) if edge.kind == "arc" else None
    out, into = (parallel(edge, edge.allowance).points[k] for k in (0, -1))
    if circle:
        ends = (out, circle.centre), (circle.centre, into)
        return [Piece(Edge("line", p), None) for p in ends]
    t = np.unique(np.concatenate([np.linspace(0, 1, 61), parameters(edge)]))
    is_turned = _pull(edge, t)[1] * edge.allowance >= 1
    turns = np.flatnonzero(is_turned[1:] != is_turned[:-1])
    t = np.unique(np.concatenate([t, _where_it_turns(edge, t[turns], t[turns + 1], is_turned[turns])]))
    normal, bend = _pull(edge, t)
    back = bend * edge.allowance >= 1 - _AT_THE_CENTRE
    reach = np.where(back, 1 / np.maximum(bend, 1e-9), edge.allowance)
    points = points_at(edge, t) + reach[:, None] * normal
    if not back[0]:
        points[0] = out
    if not back[-1]:
        points[-1] = into
    pieces: list[Piece] = []
    changes = [0, *(np.flatnonzero(back[1:] != back[:-1]) + 1).tolist(), len(t) - 1]
    for a, b in zip(changes[:-1], changes[1:], strict=True):
        if a == b:
            continue
        if not back[a] and not back[a:b].any():
            last = b - 1 if back[b] else b
            if last > a:
                own = parallel(split_edge(edge, float(t[a]), float(t[last])), edge.allowance)
                pieces.append(Piece(Edge(own.kind, own.points), index))
            a = last
        stops = [(float(x), float(y)) for x, y in points[a : b + 1]]
        pieces += [Piece(Edge("line", pair), None) for pair in pairwise(stops) if math.dist(*pair) > _SAME_MM]
    return pieces


def _pull(edge: Edge, t: Array) -> tuple[Array, Array]:
    """The outward normals (n, 2) of an edge and how tightly it curves to that side, 1/mm, positive where inward (n,)."""
    first, second = derivatives_at(edge, np.clip(t, 1e-6, 1 - 1e-6))
    speed = np.maximum(np.hypot(*first.T), 1e-12)
    bend = (second[:, 0] * first[:, 1] - second[:, 1] * first[:, 0]) / speed**3
    return np.column_stack([first[:, 1], -first[:, 0]]) / speed[:, None], bend


def _where_it_turns(edge: SeamEdge, low: Array, high: Array, is_turned: NDArray[np.bool_]) -> Array:
    """Between each pair of parameters the place where the parallel begins or ends to run back, by bisection."""
    for _ in range(40):
        middle = (low + high) / 2
        same = (_pull(edge, middle)[1] * edge.allowance >= 1) == is_turned
        low, high = np.where(same, middle, low), np.where(same, high, middle)
    return (low + high) / 2


def _join_chains(chains: Sequence[Sequence[Piece]], corners: Sequence[Sequence[Point]]) -> list[Piece]:
    """Parallels and the straight bits of the corners after each, without those that have no length."""
    pieces: list[Piece] = []
    for i, chain in enumerate(chains):
        pieces += [p for p in chain if p.edge.kind != "line" or math.dist(p.edge.start, p.edge.end) > _SAME_MM]
        stops = [chain[-1].edge.end, *corners[i], chains[(i + 1) % len(chains)][0].edge.start]
        for a, b in zip(stops[:-1], stops[1:], strict=True):
            if math.dist(a, b) > _SAME_MM:
                pieces.append(Piece(Edge("line", (a, b)), None))
    return pieces


def _cut_to_corner(edge: Edge, onward: Point, corner: Point, after: Point) -> tuple[Edge, Point] | None:
    """A curved parallel shortened to where the line from `after` through `corner` crosses it, when the corner lies
    behind its end; with the corner moved there. None where that line doesn't cross it."""
    behind = dot(minus(corner, edge.end), onward)
    if behind > -_BEHIND_MM:
        return edge, corner
    reach = minus(corner, after)
    norm = math.hypot(*reach) or 1.0
    far = (corner[0] - behind * reach[0] / norm, corner[1] - behind * reach[1] / norm)
    t = parameters(edge)
    line = shapely.LineString(points_at(edge, t))
    crossings = shapely.get_coordinates(shapely.intersection(line, shapely.LineString([after, far])))
    if not len(crossings):
        return None
    at = crossings[np.hypot(*(crossings - np.asarray(corner)).T).argmin()]
    share = shapely.line_locate_point(line, shapely.Point(at))
    lengths = np.concatenate([[0], np.cumsum(np.hypot(*np.diff(np.asarray(line.coords), axis=0).T))])
    cut = split_edge(edge, 0.0, float(np.interp(share, lengths, t)))
    end = (float(at[0]), float(at[1]))
    return Edge(cut.kind, (*cut.points[:-1], end)), end


def _is_cut_back(edge: SeamEdge, cut: Sequence[CutEdge], index: int) -> bool:
    """Whether a curved edge's parallel lost a part (lines are cut back at any concave corner)."""
    if edge.kind == "line":
        return False
    whole = edge_length(parallel(edge, edge.allowance))
    return sum(edge_length(e) for e in cut if e.seam_edge == index) < whole - max(0.5, 2 * edge.allowance)


def _on_line(edge: Edge, p: Point) -> bool:
    d = minus(edge.end, edge.start)
    length = math.hypot(*d)
    if length < _SAME_MM:
        return False
    return abs(cross(d, minus(p, edge.start))) <= 1e-7 * length
