"""From a seam line to its cutting line: rule 2 of drafting.

Every edge is moved outward by its own allowance and neighbours are joined by the corner that
the maker chose. Where that ring crosses itself (a concave corner, a curve tighter than its
allowance, a narrow inlet) the region counts: the cloth to cut is the panel together with the
band of every edge and the wedge of every corner, and the cutting line is its boundary.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from ypsicline.core.drafting.panel import CutEdge, SeamEdge
from ypsicline.core.errors import Place, Refused
from ypsicline.core.geometry.edges import (
    Array,
    Edge,
    Point,
    circle_of,
    derivatives_at,
    edge_length,
    parameters,
    points_at,
    reverse_edge,
    split_edge,
    tangent_at,
)
from ypsicline.core.geometry.parallel import parallel
from ypsicline.core.geometry.rings import flatten_ring, signed_area

__all__ = ["MITRE_LIMIT", "CutRing", "cut_ring"]

MITRE_LIMIT = 3.0
_SAME_MM = 1e-7
_SMOOTH_RAD = math.radians(0.5)
_LEAST_POCKET_MM2 = 1.0
_LEAST_PART_MM2 = 1e-3
_GRID_MM = 1e-6
_ON_PIECE_MM = 0.015


@dataclass(frozen=True)
class CutRing:
    """A cutting line. `trimmed` are the seam edges that lost a loop or were cut back by a neighbour that isn't
    next to them, `closed_at` the places where an inlet closed up."""

    edges: tuple[CutEdge, ...]
    trimmed: tuple[int, ...] = ()
    closed_at: tuple[Point, ...] = ()


@dataclass(frozen=True)
class _Piece:
    """A piece of the raw ring: parallel to a seam edge, or a straight bit of a corner (`source` None)."""

    edge: Edge
    source: int | None


def cut_ring(seam: Sequence[SeamEdge], *, hole: bool = False, mitre_limit: float = MITRE_LIMIT) -> tuple[CutRing, ...]:
    """The cutting line of a sound ring: counter-clockwise for an outline, clockwise for a `hole`.

    The allowance lies to the right of the direction of travel: outside an outline, inside a
    hole. A hole may fall into several. A mitre longer than `mitre_limit` times the wider
    allowance is bevelled. Raises `Refused` where a hole's allowance leaves nothing of it.
    """
    pieces = None if any(map(_turns_back, seam)) else _trimmed_ring(seam, mitre_limit)
    if pieces:
        points = flatten_ring([p.edge for p in pieces])
        turn = -1 if hole else 1
        if len(points) >= 3 and signed_area(points) * turn > 0 and shapely.Polygon(points).is_valid:
            return (CutRing(tuple(CutEdge(p.edge.kind, p.edge.points, _name(seam, p), p.source) for p in pieces)),)
    return _cleaned(seam, mitre_limit, hole)


def _turns_back(edge: SeamEdge) -> bool:
    """Whether the edge bends outward-in more tightly than its allowance, so that its parallel turns back."""
    radius = tightest_concave(edge)
    return radius is not None and radius <= edge.allowance


def tightest_concave(edge: Edge) -> float | None:
    """The least radius in mm where the edge bends to its right (inward on an outline); None where it doesn't."""
    if edge.kind == "line":
        return None
    if edge.kind == "arc":
        circle = circle_of(edge)
        return circle.radius if circle and circle.sweep < 0 else None
    first, second = derivatives_at(edge, np.linspace(0.001, 0.999, 101))
    speed = np.maximum(np.hypot(*first.T), 1e-9)
    bend = (first[:, 0] * second[:, 1] - first[:, 1] * second[:, 0]) / speed**3
    most = float(-bend.min())
    return 1 / most if most > 1e-6 else None


def _name(seam: Sequence[SeamEdge], piece: _Piece) -> str:
    return "" if piece.source is None else seam[piece.source].name


def _trimmed_ring(seam: Sequence[SeamEdge], mitre_limit: float) -> list[_Piece] | None:
    """The ring with neighbours trimmed to their corner; None where a line would be trimmed away."""
    moved = [parallel(e, e.allowance) for e in seam]
    count = len(seam)
    corners: list[list[Point]] = []
    for i in range(count):
        j = (i + 1) % count
        corners.append(_corner(seam[i], seam[j], moved[i], moved[j], mitre_limit))
    for i in range(count):
        j = (i + 1) % count
        if not corners[i]:
            continue
        t1, t2 = tangent_at(seam[i], 1.0), tangent_at(seam[j], 0.0)
        first = corners[i][0]
        if moved[i].kind != "line":
            second = corners[i][1] if len(corners[i]) > 1 else (first[0] + t2[0], first[1] + t2[1])
            moved[i], corners[i][0] = _cut_to_corner(moved[i], t1, first, second)
        elif _on_line(moved[i], first):
            moved[i] = Edge("line", (moved[i].start, first))
        last = corners[i][-1]
        if moved[j].kind != "line":
            before = corners[i][-2] if len(corners[i]) > 1 else (last[0] - t1[0], last[1] - t1[1])
            turned, corners[i][-1] = _cut_to_corner(reverse_edge(moved[j]), (-t2[0], -t2[1]), last, before)
            moved[j] = reverse_edge(turned)
            if moved[i].kind == "line" and len(corners[i]) == 1 and _on_line(moved[i], corners[i][0]):
                moved[i] = Edge("line", (moved[i].start, corners[i][0]))
        elif _on_line(moved[j], last):
            moved[j] = Edge("line", (last, moved[j].end))
    for i, edge in enumerate(moved):
        if edge.kind == "line" and _dot(_minus(edge.end, edge.start), _minus(seam[i].end, seam[i].start)) <= 0:
            return None
    pieces: list[_Piece] = []
    for i in range(count):
        j = (i + 1) % count
        if math.dist(moved[i].start, moved[i].end) > _SAME_MM or moved[i].kind != "line":
            pieces.append(_Piece(moved[i], i))
        stops = [moved[i].end, *corners[i], moved[j].start]
        for a, b in zip(stops[:-1], stops[1:], strict=True):
            if math.dist(a, b) > _SAME_MM:
                pieces.append(_Piece(Edge("line", (a, b)), None))
    return pieces


def _cut_to_corner(edge: Edge, onward: Point, corner: Point, after: Point) -> tuple[Edge, Point]:
    """A curved parallel shortened to where the line from `after` through `corner` crosses it, when the corner lies
    behind its end; with the corner moved there."""
    behind = _dot(_minus(corner, edge.end), onward)
    if behind > -1e-6:
        return edge, corner
    reach = _minus(corner, after)
    norm = math.hypot(*reach) or 1.0
    far = (corner[0] - behind * reach[0] / norm, corner[1] - behind * reach[1] / norm)
    t = parameters(edge)
    line = shapely.LineString(points_at(edge, t))
    met = shapely.get_coordinates(shapely.intersection(line, shapely.LineString([after, far])))
    if not len(met):
        return edge, corner
    at = met[np.hypot(*(met - np.asarray(corner)).T).argmin()]
    share = shapely.line_locate_point(line, shapely.Point(at))
    lengths = np.concatenate([[0], np.cumsum(np.hypot(*np.diff(np.asarray(line.coords), axis=0).T))])
    cut = split_edge(edge, 0.0, float(np.interp(share, lengths, t)))
    end = _point(at)
    return Edge(cut.kind, (*cut.points[:-1], end)), end


def _corner(first: SeamEdge, second: SeamEdge, out: Edge, into: Edge, mitre_limit: float) -> list[Point]:
    """The points between the end of one parallel and the start of the next."""
    vertex = first.end
    t1, t2 = tangent_at(first, 1.0), tangent_at(second, 0.0)
    turn = math.atan2(t1[0] * t2[1] - t1[1] * t2[0], t1[0] * t2[0] + t1[1] * t2[1])
    if abs(turn) < _SMOOTH_RAD:
        return []
    meet = _meet(out.end, t1, into.start, t2)
    if turn < 0:
        both_lines = first.kind == "line" and second.kind == "line"
        return [meet] if both_lines and meet else [vertex]
    widest = max(first.allowance, second.allowance)
    if widest == 0 or first.corner == "bevel" or meet is None:
        return []
    if first.corner == "square":
        return [vertex]
    if first.corner == "mirror" and (turned := _mirror(first, second, vertex, t1, t2, out, into)):
        return turned
    return [meet] if math.dist(meet, vertex) <= mitre_limit * widest * (1 + 1e-9) else []


def _mirror(
    first: SeamEdge, second: SeamEdge, vertex: Point, t1: Point, t2: Point, out: Edge, into: Edge
) -> list[Point] | None:
    """A turned corner: the neighbour's cutting line is reflected in the fold, the hemmed edge's seam line.

    Folded back, the raw end then lies on the neighbour's cutting line.
    """
    if first.finish == "hem" or second.finish != "hem":
        on_fold = _meet(vertex, t1, into.start, t2)
        at_rim = _meet(out.end, t1, _reflect(into.start, vertex, t1), _reflect_direction(t2, t1))
        return [at_rim, on_fold] if on_fold and at_rim else None
    on_fold = _meet(vertex, t2, out.end, t1)
    at_rim = _meet(into.start, t2, _reflect(out.end, vertex, t2), _reflect_direction(t1, t2))
    return [on_fold, at_rim] if on_fold and at_rim else None


def _cleaned(seam: Sequence[SeamEdge], mitre_limit: float, hole: bool) -> tuple[CutRing, ...]:
    """The boundary of panel, bands and corners together, taken apart into edges again."""
    moved = [parallel(e, e.allowance) for e in seam]
    panel = shapely.Polygon(flatten_ring(seam))
    cloth, pieces = _bands(seam, moved), [_Piece(e, i) for i, e in enumerate(moved)]
    for i in range(len(seam)):
        j = (i + 1) % len(seam)
        wedge, bits = _wedge(seam[i], seam[j], moved[i], moved[j], mitre_limit)
        cloth += wedge
        pieces += bits
    if hole:
        region = shapely.difference(panel, shapely.union_all(cloth, grid_size=_GRID_MM), grid_size=_GRID_MM)
    else:
        region = shapely.union_all([panel, *cloth], grid_size=_GRID_MM)
    parts = [g for g in shapely.get_parts(region) if g.geom_type == "Polygon" and g.area > _LEAST_PART_MM2]
    if not parts:
        size = math.sqrt(panel.area)
        raise Refused(
            f"The allowance inside the hole leaves nothing of it to cut: the hole is only about {size:.0f} mm across. "
            "Give it a smaller allowance, or face or bind it.",
            "hole_filled", Place(edge=seam[0].name, point=seam[0].start), {"across_mm": size},
        )  # fmt: skip
    if not hole:
        parts = [max(parts, key=lambda g: float(g.area))]
    raw = _Flat.of([p for p in pieces if math.dist(p.edge.start, p.edge.end) > _SAME_MM or p.edge.kind != "line"])
    rings = []
    for part in parts:
        exterior = np.asarray(part.exterior.coords)[:-1]
        if (signed_area(exterior) > 0) == hole:
            exterior = exterior[::-1]
        pockets = [i for i in part.interiors if shapely.Polygon(i).area > _LEAST_POCKET_MM2]
        edges = raw.taken_apart(exterior, seam)
        if not _same_region(edges, exterior):
            edges = raw.taken_apart(exterior, seam, as_lines=True)
        alive = {e.seam_edge for e in edges}
        trimmed = tuple(i for i in range(len(seam)) if i not in alive or _is_cut_back(seam[i], edges, i))
        closed = tuple((float(p.centroid.x), float(p.centroid.y)) for p in pockets)
        rings.append(CutRing(edges, trimmed, closed))
    return tuple(rings)


def _bands(seam: Sequence[SeamEdge], moved: Sequence[Edge]) -> list[shapely.Geometry]:
    """What each edge's allowance covers; of an edge that turns back, chord by chord."""
    found: list[shapely.Geometry] = []
    for edge, out in zip(seam, moved, strict=True):
        if edge.allowance == 0:
            continue
        if edge.kind == "line":
            found.append(shapely.Polygon([edge.start, edge.end, out.end, out.start]))
            continue
        t = np.linspace(0, 1, max(len(parameters(edge)), len(parameters(out))))
        first, _ = derivatives_at(edge, np.clip(t, 1e-9, 1 - 1e-9))
        speed = np.maximum(np.hypot(*first.T), 1e-12)[:, None]
        inner = points_at(edge, t)
        outer = inner + edge.allowance * np.column_stack([first[:, 1], -first[:, 0]]) / speed
        outer[0], outer[-1] = out.start, out.end
        band = shapely.Polygon(np.vstack([inner, outer[::-1]]))
        if band.is_valid and not _turns_back(edge):
            found.append(band)
        else:
            corners = np.stack([inner[:-1], inner[1:], outer[1:], outer[:-1]], axis=1)
            hulls = shapely.convex_hull(shapely.multipoints(corners))
            found += [h for h in hulls if h.geom_type == "Polygon"]
    return found


def _wedge(
    first: SeamEdge, second: SeamEdge, out: Edge, into: Edge, mitre_limit: float
) -> tuple[list[shapely.Geometry], list[_Piece]]:
    """What a corner covers between two bands, and the straight bits of its rim."""
    vertex = first.end
    t1, t2 = tangent_at(first, 1.0), tangent_at(second, 0.0)
    points = _corner(first, second, out, into, mitre_limit)
    if t1[0] * t2[1] - t1[1] * t2[0] < 0:
        # the bands overlap; a wide one's end that stands out is led on to the neighbour's line
        meet = _meet(out.end, t1, into.start, t2)
        near = meet is not None and math.dist(meet, vertex) <= mitre_limit * max(first.allowance, second.allowance)
        ahead = near and meet is not None and _dot(_minus(meet, out.end), t1) > 0
        behind = near and meet is not None and _dot(_minus(meet, into.start), t2) < 0
        points = [meet] if meet and (ahead or behind) else [vertex]
    rim = [out.end, *points, into.start]
    bits = [_Piece(Edge("line", (a, b)), None) for a, b in zip(rim[:-1], rim[1:], strict=True)]
    bits += [_Piece(Edge("line", (out.end, vertex)), None), _Piece(Edge("line", (vertex, into.start)), None)]
    ring = shapely.Polygon([vertex, *rim])
    if ring.is_valid:
        return [ring], bits
    parts = [shapely.MultiPoint([vertex, a, b]).convex_hull for a, b in zip(rim[:-1], rim[1:], strict=True)]
    return [p for p in parts if p.geom_type == "Polygon"], bits


def _same_region(edges: Sequence[CutEdge], exterior: Array) -> bool:
    found = shapely.Polygon(flatten_ring(edges))
    if not found.is_valid:
        return False
    wanted = shapely.Polygon(exterior)
    return bool(found.symmetric_difference(wanted, grid_size=_GRID_MM).area <= 0.005 * wanted.length)


def _is_cut_back(edge: SeamEdge, cut: Sequence[CutEdge], index: int) -> bool:
    """Whether a curved edge's parallel lost a part (lines are cut back at any concave corner)."""
    if edge.kind == "line":
        return False
    whole = edge_length(parallel(edge, edge.allowance))
    return sum(edge_length(e) for e in cut if e.seam_edge == index) < whole - max(0.5, 2 * edge.allowance)


@dataclass(frozen=True)
class _Flat:
    """Pieces flattened: segment k runs from `starts[k]` to `ends[k]` along piece `piece[k]`, t0 to t1."""

    starts: Array
    ends: Array
    piece: Array
    t0: Array
    t1: Array
    pieces: list[_Piece]

    @classmethod
    def of(cls, pieces: list[_Piece]) -> _Flat:
        starts, ends, which, t0, t1 = [], [], [], [], []
        for k, p in enumerate(pieces):
            t = parameters(p.edge)
            flat = points_at(p.edge, t)
            flat[0], flat[-1] = p.edge.start, p.edge.end
            starts.append(flat[:-1])
            ends.append(flat[1:])
            which.append(np.full(len(t) - 1, k))
            t0.append(t[:-1])
            t1.append(t[1:])
        joined = np.concatenate
        return cls(np.vstack(starts), np.vstack(ends), joined(which), joined(t0), joined(t1), pieces)

    def taken_apart(self, ring: Array, seam: Sequence[SeamEdge], *, as_lines: bool = False) -> tuple[CutEdge, ...]:
        """Runs of `ring` (n, 2) that follow one piece, as parts of that piece; or chord by chord, `as_lines`."""
        ends = np.roll(ring, -1, axis=0)
        long_enough = np.hypot(*(ends - ring).T) > _SAME_MM
        ring = ring[long_enough]
        ends = np.roll(ring, -1, axis=0)
        segments = shapely.linestrings(np.stack([self.starts, self.ends], axis=1))
        tree = shapely.STRtree(segments)
        middles = shapely.points((ring + ends) / 2)
        _, nearest = tree.query_nearest(middles, all_matches=False)
        off = shapely.distance(middles, segments[nearest]) > _ON_PIECE_MM
        label = np.where(off, -1, self.piece[nearest])
        n = len(ring)
        starts = [k for k in range(n) if label[k] != label[k - 1] or label[k] == -1 or as_lines]
        starts = starts or [0]
        found = []
        for s, e in zip(starts, [*starts[1:], starts[0] + n], strict=True):
            first, last = s % n, (e - 1) % n
            start, end = _point(ring[first]), _point(ends[last])
            k = int(label[first])
            if as_lines and k >= 0:
                piece = self.pieces[k]
                found.append(CutEdge("line", (start, end), _name(seam, piece), piece.source))
                continue
            found.append(self._part(k, int(nearest[first]), int(nearest[last]), start, end, seam))
        return tuple(found)

    def _part(self, k: int, first: int, last: int, start: Point, end: Point, seam: Sequence[SeamEdge]) -> CutEdge:
        if k < 0:
            return CutEdge("line", (start, end))
        piece = self.pieces[k]
        name = _name(seam, piece)
        if piece.edge.kind == "line":
            return CutEdge("line", (start, end), name, piece.source)
        a, b = self._parameter(first, start), self._parameter(last, end)
        part = split_edge(piece.edge, min(a, b), max(a, b))
        points = part.points if a <= b else tuple(reversed(part.points))
        return CutEdge(part.kind, (start, *points[1:-1], end), name, piece.source)

    def _parameter(self, segment: int, at: Point) -> float:
        a, b = self.starts[segment], self.ends[segment]
        d = b - a
        share = float(np.clip((np.asarray(at) - a) @ d / max(float(d @ d), 1e-18), 0, 1))
        return float(self.t0[segment] + share * (self.t1[segment] - self.t0[segment]))


def _meet(p: Point, u: Point, q: Point, v: Point) -> Point | None:
    cross = u[0] * v[1] - u[1] * v[0]
    if abs(cross) < 1e-9:
        return None
    s = ((q[0] - p[0]) * v[1] - (q[1] - p[1]) * v[0]) / cross
    return p[0] + s * u[0], p[1] + s * u[1]


def _reflect(p: Point, through: Point, along: Point) -> Point:
    d = _minus(p, through)
    r = _reflect_direction(d, along)
    return through[0] + r[0], through[1] + r[1]


def _reflect_direction(d: Point, along: Point) -> Point:
    k = 2 * (d[0] * along[0] + d[1] * along[1])
    return k * along[0] - d[0], k * along[1] - d[1]


def _on_line(edge: Edge, p: Point) -> bool:
    d = _minus(edge.end, edge.start)
    length = math.hypot(*d)
    if length < _SAME_MM:
        return False
    e = _minus(p, edge.start)
    return abs(d[0] * e[1] - d[1] * e[0]) <= 1e-7 * length


def _minus(p: Point, q: Point) -> Point:
    return p[0] - q[0], p[1] - q[1]


def _dot(p: Point, q: Point) -> float:
    return p[0] * q[0] + p[1] * q[1]


def _point(p: Array) -> Point:
    return float(p[0]), float(p[1])
