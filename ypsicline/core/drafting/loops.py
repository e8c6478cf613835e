"""A ring of edges that crosses itself, without its loops.

What the ring winds round once or more to the left is kept, and its boundary is taken apart into the
ring's edges again.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray

from ypsicline.core.geometry.edges import Array, Edge, Point, flatten, parameters, split_edge
from ypsicline.core.geometry.regions import faces_of
from ypsicline.core.geometry.rings import flatten_ring, onward, signed_area
from ypsicline.core.geometry.winding import GRID_MM, parted

__all__ = ["Cleaned", "Piece", "turns_back", "without_loops"]

_SAME_MM = 3e-5
_LEAST_PART_MM2 = 1e-3
_LEAST_POCKET_MM2 = 1.0
# where two curves cross is known about as well as they are flattened, or better
_FLAT_MM = 0.002
_ON_PIECE_MM = 0.003
# narrower, a way out and back is a whisker
_WHISKER_MM = 0.002
# a point that is a millimetre long before it is so wide can't be cut
_NEEDLE_MM = 0.03
_NEEDLE_SINE = 0.03


class Piece(NamedTuple):
    """A piece of a ring: parallel to a seam edge, or a straight bit of a corner (`source` None)."""

    edge: Edge
    source: int | None


@dataclass(frozen=True)
class Cleaned:
    """A ring without loops; `closed_at` the middles of pockets that it closed in on."""

    pieces: tuple[Piece, ...]
    closed_at: tuple[Point, ...]


def without_loops(
    pieces: Sequence[Piece], body: Sequence[Edge], more: Sequence[Sequence[Point]] = (), *, hole: bool = False
) -> tuple[Cleaned, ...]:
    """The outline that the ring winds round together with the `body` inside it and `more` polygons: its largest part.

    Of a `hole`, walked clockwise, what it winds round within the body and not in `more`: all parts.
    """
    own = _Flat.of(pieces)
    around = flatten_ring(body, _FLAT_MM)
    faces, (windings, within, *windings_of_more) = parted([own.starts, around, *(np.array(m) for m in more)])
    is_touched = (
        np.any([a != 0 for a in windings_of_more], axis=0) if windings_of_more else np.zeros(len(faces), dtype=bool)
    )
    is_outer = (windings < 0) & (within < 0) & ~is_touched if hole else (windings > 0) | (within > 0) | is_touched
    region = shapely.union_all(faces[is_outer], grid_size=GRID_MM)
    parts = [g for g in faces_of(region).geoms if g.area > _LEAST_PART_MM2]
    if not hole:
        parts = sorted(parts, key=lambda g: float(g.area))[-1:]
    rings = []
    for part in parts:
        clockwise = shapely.get_coordinates(part.normalize().exterior)[1:]
        ring = _without_whiskers(clockwise if hole else clockwise[::-1], None if hole else shapely.Polygon(around))
        if len(ring) < 3:
            continue
        places = _in_mm(ring)
        runs = _taken_apart(ring, places, own, body)
        if not _same_region(runs, places):
            untouching = _untouching(places)
            runs = _taken_apart(untouching, _in_mm(untouching), own, body, as_lines=True)
        pockets = [p for r in part.interiors if (p := shapely.Polygon(r)).area > _LEAST_POCKET_MM2]
        middles = [p.centroid for p in pockets]
        rings.append(Cleaned(tuple(r.piece for r in runs), tuple((m.x, m.y) for m in middles)))
    return tuple(rings)


def _without_whiskers(ring: Array, body: shapely.Polygon | None) -> list[list[int]]:
    """The ring on the grid without the places where it runs out and back on a way that has no width; those of the `body`
    itself stay."""
    own = None if body is None else body.buffer(10 * GRID_MM)
    points = ring
    while len(points) > 2 and (tips := np.flatnonzero(turns_back(points))).size:
        if own is not None:
            legs = shapely.linestrings(
                np.stack([points[tips - 1], points[tips], points[(tips + 1) % len(points)]], axis=1)
            )
            tips = tips[~shapely.covers(own, legs)]
        # of neighbours one at a time: without it the other may be none
        alone = tips[np.diff(tips, prepend=-2) > 1]
        if len(alone) > 1 and alone[0] == 0 and alone[-1] == len(points) - 1:
            alone = alone[1:]
        if not len(alone):
            break
        points = np.delete(points, alone, axis=0)
    return _on_grid(_without_needles(points, own))


def _without_needles(ring: Array, own: shapely.Geometry | None) -> Array:
    """The ring (n, 2) with each point that is thinner than it could be cut taken back to where it has some width; of the
    ring's `own` none."""
    points, left = ring, signed_area(ring) > 0
    for _ in range(len(ring)):
        back, out = np.roll(points, 1, axis=0) - points, onward(points) - points
        lengths = np.column_stack([np.hypot(*back.T), np.hypot(*out.T)])
        across = (out[:, 0] * back[:, 1] - out[:, 1] * back[:, 0]) / np.maximum(lengths.prod(axis=1), 1e-12)
        is_thin = ((back * out).sum(axis=1) > 0) & ((across if left else -across) > 0) & (np.abs(across) < _NEEDLE_SINE)
        for k in np.flatnonzero(is_thin).tolist():
            corner = points[[k - 1, k, (k + 1) % len(points)]]
            if own is None or not shapely.covers(own, shapely.linestrings(corner)):
                break
        else:
            return points
        far = _NEEDLE_MM / max(abs(float(across[k])), 1e-9)
        ways = np.array([back[k], out[k]]) / lengths[k][:, None]
        ends = points[k] + far * ways if far < lengths[k].min() else np.empty((0, 2))
        points = np.vstack([points[:k], ends, points[k + 1 :]])
    return points


def turns_back(ring: Array) -> NDArray[np.bool_]:
    """At which points of a ring (n, 2), mm, the way out is the way in: the nearer neighbour lies on the other's line."""
    into, out = np.roll(ring, 1, axis=0) - ring, onward(ring) - ring
    long = np.maximum(np.hypot(*into.T), np.hypot(*out.T))
    across = np.abs(into[:, 0] * out[:, 1] - into[:, 1] * out[:, 0])
    same = (long == 0) | (across <= _WHISKER_MM * long)
    return np.asarray(same & ((into * out).sum(axis=1) >= 0))


def _in_mm(ring: Sequence[Sequence[int]]) -> Array:
    return np.array(ring, dtype=float) * GRID_MM


def _untouching(ring: Array) -> list[list[int]]:
    """The ring on the grid without the hair-thin parts where it touches itself, the same way round."""
    polygon = shapely.Polygon(ring)
    if not polygon.is_valid:
        polygon = shapely.set_precision(polygon.buffer(0), 4 * GRID_MM)
        polygon = max(faces_of(polygon).geoms, key=lambda g: float(g.area), default=polygon)
    border = np.asarray(polygon.exterior.coords)[:-1]
    border = border if (signed_area(border) > 0) == (signed_area(ring) > 0) else border[::-1]
    return _on_grid(border)


def _on_grid(points: Array) -> list[list[int]]:
    grid: list[list[int]] = np.round(points / GRID_MM).astype(np.int64).tolist()
    return grid


class _Run(NamedTuple):
    """A run of a ring that follows one piece; `along` (n, 2) is it, where that is only a part of a curve."""

    piece: Piece
    along: Array | None = None


def _same_region(runs: Sequence[_Run], ring: Array) -> bool:
    """Whether the runs make a sound ring that keeps to this one."""
    points = flatten_ring([r.piece.edge for r in runs], _FLAT_MM)
    if len(points) < 3:
        return False
    around = float(np.abs((onward(ring) - ring).view(complex)).sum())
    if abs(signed_area(points) - signed_area(ring)) > 0.2 * _FLAT_MM * around:
        return False
    if not bool(shapely.is_valid(shapely.polygons(points))):
        return False
    parts = [r for r in runs if r.along is not None]
    return all(
        float(shapely.distance(shapely.linestrings(r.along), shapely.points(flatten(r.piece.edge, _FLAT_MM))).max())
        <= 2 * _ON_PIECE_MM
        for r in parts
    )


@dataclass(frozen=True, eq=False)
class _Flat:
    """A ring of pieces flattened: segment k starts at `starts[k]`, on the `grid`; those of piece i begin with
    `first[i]`, and `piece[k]` is the piece of segment k."""

    pieces: Sequence[Piece]
    starts: Array
    first: list[int]
    piece: list[int]
    grid: list[list[int]]

    @classmethod
    def of(cls, pieces: Sequence[Piece]) -> _Flat:
        first, piece = [0], []
        for k, p in enumerate(pieces):
            piece += [k] * (1 if p.edge.kind == "line" else len(flatten(p.edge, _FLAT_MM)) - 1)
            first.append(len(piece))
        starts = flatten_ring([p.edge for p in pieces], _FLAT_MM)
        return cls(pieces, starts, first, piece, _on_grid(starts))

    def between(self, ring: Sequence[Sequence[int]]) -> list[int | None]:
        """Of each chord of a ring on the grid the segment that runs between the same places, the same way."""
        starts = {(x, y): k for k, (x, y) in enumerate(self.grid)}
        ends = [*self.grid[1:], self.grid[0]]
        places = [starts.get((x, y)) for x, y in ring]
        after = [*ring[1:], ring[0]]
        return [k if k is not None and ends[k] == list(b) else None for k, b in zip(places, after, strict=True)]

    def nearest(self, starts: Array, ends: Array) -> tuple[list[int], list[float]]:
        """Of each chord the segment that it lies on, and how far off it is."""
        stops = onward(self.starts)
        middles = (starts + ends) / 2
        if len(starts) * len(stops) > 60_000:
            segments = shapely.linestrings(np.stack([self.starts, stops], axis=1))
            points = shapely.points(middles)
            _, index = shapely.STRtree(segments).query_nearest(points, all_matches=False)
            return index.tolist(), shapely.distance(points, segments[index]).tolist()
        d = stops - self.starts
        length2 = np.maximum((d * d).sum(axis=1), 1e-18)
        away = middles[:, None] - self.starts[None]
        share = np.clip((away * d).sum(axis=2) / length2, 0, 1)
        gap = np.hypot(away[..., 0] - share * d[:, 0], away[..., 1] - share * d[:, 1])
        # where two pieces lie on one another, the one that runs the same way
        gap = gap + 1e-6 * (((ends - starts) @ d.T) < 0)
        index = gap.argmin(axis=1)
        return index.tolist(), gap[np.arange(len(starts)), index].tolist()

    def part(self, first: int, last: int, start: Point, end: Point) -> Piece:
        """The part of a piece from `start`, on its segment `first`, to `end`, on its segment `last`."""
        piece = self.pieces[self.piece[first]]
        a, b = self._parameter(first, start), self._parameter(last, end)
        part = split_edge(piece.edge, min(a, b), max(a, b))
        points = part.points if a <= b else tuple(reversed(part.points))
        return Piece(Edge(part.kind, (start, *points[1:-1], end)), piece.source)

    def _parameter(self, segment: int, at: Point) -> float:
        k = self.piece[segment]
        edge, step = self.pieces[k].edge, segment - self.first[k]
        t = parameters(edge, _FLAT_MM)
        (ax, ay), (bx, by) = flatten(edge, _FLAT_MM)[step : step + 2].tolist()
        d2 = (bx - ax) ** 2 + (by - ay) ** 2
        share = min(max(((at[0] - ax) * (bx - ax) + (at[1] - ay) * (by - ay)) / max(d2, 1e-18), 0.0), 1.0)
        return float(t[step] + share * (t[step + 1] - t[step]))


def _taken_apart(
    ring: Sequence[Sequence[int]], places: Array, own: _Flat, body: Sequence[Edge], *, as_lines: bool = False
) -> list[_Run]:
    """Runs of `ring` (n on the grid, at `places` in mm) that follow one piece, as parts of that piece; or chord by chord,
    `as_lines`."""
    d = onward(places) - places
    if len(short := np.flatnonzero(np.hypot(d[:, 0], d[:, 1]) <= _SAME_MM)):
        places = np.delete(places, short, axis=0)
        ring = _on_grid(places)
    corners = [(x, y) for x, y in places.tolist()]
    follows = _followed(ring, places, own, body)
    n = len(ring)
    label = [None if f is None else (f[0], f[0].piece[f[1]]) for f in follows]
    breaks = [k for k in range(n) if as_lines or label[k] is None or label[k] != label[k - 1]] or [0]
    parts = []
    for s, e in zip(breaks, [*breaks[1:], breaks[0] + n], strict=True):
        start, end, there, last = corners[s], corners[e % n], follows[s], follows[(e - 1) % n]
        if there is None or last is None:
            parts.append(_Run(Piece(Edge("line", (start, end)), None)))
            continue
        flat, first = there
        k = flat.piece[first]
        piece = flat.pieces[k]
        if as_lines or piece.edge.kind == "line":
            parts.append(_Run(Piece(Edge("line", (start, end)), piece.source)))
        elif (first, last[1]) == (flat.first[k], flat.first[k + 1] - 1) and _same_ends(piece.edge, start, end):
            parts.append(_Run(Piece(Edge(piece.edge.kind, (start, *piece.edge.points[1:-1], end)), piece.source)))
        else:
            parts.append(_Run(flat.part(first, last[1], start, end), places[np.arange(s, e + 1) % n]))
    return parts


def _same_ends(edge: Edge, start: Point, end: Point) -> bool:
    return max(math.dist(start, edge.start), math.dist(end, edge.end)) < _SAME_MM


def _followed(
    ring: Sequence[Sequence[int]], places: Array, own: _Flat, body: Sequence[Edge]
) -> list[tuple[_Flat, int] | None]:
    """Of each chord of a ring on the grid the segment that it follows, of the ring's own or else of the body's."""
    steps: list[tuple[_Flat, int] | None] = [None if k is None else (own, k) for k in own.between(ring)]
    for of_body in (False, True):
        gaps = [k for k, f in enumerate(steps) if f is None]
        if not gaps:
            break
        flat = _Flat.of([Piece(e, None) for e in body]) if of_body else own
        at = np.array(gaps)
        segments, off = flat.nearest(places[at], places[(at + 1) % len(places)])
        for i, k, gap in zip(gaps, segments, off, strict=True):
            if gap <= _ON_PIECE_MM:
                steps[i] = (flat, k)
    return steps
