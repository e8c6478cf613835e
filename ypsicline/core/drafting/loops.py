"""A ring of edges that crosses itself, without its loops.

What the ring winds round once or more to the left is kept (the positive fill of Vatti's clipping,
Communications of the ACM 35(7), 1992), and its boundary is taken apart into the ring's edges again.
"""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import suppress
from dataclasses import dataclass
from typing import Any

import numpy as np
import pyclipper
import shapely
from numpy.typing import NDArray

from ypsicline.core.geometry.edges import Array, Edge, Point, parameters, points_at, split_edge
from ypsicline.core.geometry.plane import as_point
from ypsicline.core.geometry.rings import flatten_ring, signed_area

__all__ = ["Cleaned", "Piece", "without_loops"]

_GRID_MM = 1e-5
_SAME_MM = 3e-5
_LEAST_PART_MM2 = 1e-3
_LEAST_POCKET_MM2 = 1.0
_ON_PIECE_MM = 0.015


@dataclass(frozen=True)
class Piece:
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
    flat = _Flat.of(pieces, body)
    count = flat.own
    grid = np.round(flat.starts / _GRID_MM).astype(np.int64).tolist()
    clipper = pyclipper.Pyclipper()
    clipper.PreserveCollinear = True
    try:
        clipper.AddPath(grid[:count], pyclipper.PT_SUBJECT, True)
        clipper.AddPath(grid[count:], pyclipper.PT_CLIP, True)
    except pyclipper.ClipperException:
        return ()
    fill = pyclipper.PFT_NEGATIVE if hole else pyclipper.PFT_POSITIVE
    how = pyclipper.CT_INTERSECTION if hole else pyclipper.CT_UNION
    made = clipper.Execute(how, fill, fill)
    if more:
        made = _with_more(made, more, taken_away=hole)
    rings = [np.array(r, dtype=float) * _GRID_MM for r in made]
    areas = [signed_area(r) if len(r) >= 3 else 0.0 for r in rings]
    outer = [k for k, a in enumerate(areas) if a > _LEAST_PART_MM2]
    if not outer:
        return ()
    pockets = [rings[k] for k, a in enumerate(areas) if a < -_LEAST_POCKET_MM2]
    if not hole:
        outer = [max(outer, key=lambda k: areas[k])]
    found = []
    for k in outer:
        ring = rings[k][::-1] if hole else rings[k]
        made = flat.taken_apart(ring)
        if not _same_region(made, ring):
            made = flat.taken_apart(_untouching(ring), as_lines=True)
        inside = shapely.Polygon(rings[k])
        middles = [shapely.Polygon(p).centroid for p in pockets]
        closed = tuple((float(p.x), float(p.y)) for p in middles if inside.contains(p))
        found.append(Cleaned(made, closed))
    return tuple(found)


def _untouching(ring: Array) -> Array:
    """The ring without the hair-thin parts where it touches itself, the same way round."""
    polygon = shapely.Polygon(ring)
    if not polygon.is_valid:
        polygon = shapely.set_precision(polygon.buffer(0), 4 * _GRID_MM)
        parts = [g for g in shapely.get_parts(polygon) if g.geom_type == "Polygon"]
        polygon = max(parts, key=lambda g: float(g.area), default=polygon)
    found = np.asarray(polygon.exterior.coords)[:-1]
    return found if (signed_area(found) > 0) == (signed_area(ring) > 0) else found[::-1]


def _with_more(made: list[Any], more: Sequence[Sequence[Point]], *, taken_away: bool) -> list[Any]:
    clipper = pyclipper.Pyclipper()
    clipper.PreserveCollinear = True
    if not made:
        return made
    clipper.AddPaths(made, pyclipper.PT_SUBJECT, True)
    for polygon in more:
        points = np.round(np.array(polygon) / _GRID_MM).astype(np.int64)
        with suppress(pyclipper.ClipperException):
            clipper.AddPath(points.tolist(), pyclipper.PT_CLIP, True)
    how = pyclipper.CT_DIFFERENCE if taken_away else pyclipper.CT_UNION
    return list(clipper.Execute(how, pyclipper.PFT_NONZERO, pyclipper.PFT_NONZERO))


def _same_region(made: Sequence[Piece], ring: Array) -> bool:
    points = flatten_ring([p.edge for p in made])
    if len(points) < 3:
        return False
    found, wanted = shapely.Polygon(points), shapely.Polygon(ring)
    if not found.is_valid:
        return False
    if abs(found.area - wanted.area) > 0.005 * wanted.length:
        return False
    if all(p.edge.kind == "line" for p in made):
        return True
    return bool(shapely.hausdorff_distance(found.exterior, wanted.exterior) <= _ON_PIECE_MM * 2)


@dataclass(frozen=True)
class _Flat:
    """Pieces flattened: segment k runs from `starts[k]` to `ends[k]` along piece `piece[k]`, t0 to t1. The first `own`
    are the ring's, the others the body's."""

    own: int
    starts: Array
    ends: Array
    piece: NDArray[np.int64]
    t0: Array
    t1: Array
    pieces: Sequence[Piece]

    @classmethod
    def of(cls, ring: Sequence[Piece], body: Sequence[Edge]) -> _Flat:
        pieces = [*ring, *(Piece(e, None) for e in body)]
        starts: list[Array] = []
        which, t0, t1 = [], [], []
        for k, p in enumerate(pieces):
            if p.edge.kind == "line":
                starts.append(np.array([p.edge.start]))
                which.append(k)
                t0.append(np.zeros(1))
                t1.append(np.ones(1))
                continue
            t = parameters(p.edge)
            flat = points_at(p.edge, t)
            flat[0] = p.edge.start
            starts.append(flat[:-1])
            which += [k] * (len(t) - 1)
            t0.append(t[:-1])
            t1.append(t[1:])
        begin = np.vstack(starts)
        finish = np.roll(begin, -1, axis=0)
        last = np.flatnonzero(np.diff(which, append=len(pieces)))
        finish[last] = [p.edge.end for p in pieces]
        own = sum(1 for k in which if k < len(ring))
        return cls(own, begin, finish, np.array(which), np.concatenate(t0), np.concatenate(t1), pieces)

    def taken_apart(self, ring: Array, *, as_lines: bool = False) -> tuple[Piece, ...]:
        """Runs of `ring` (n, 2) that follow one piece, as parts of that piece; or chord by chord, `as_lines`."""
        ends = np.roll(ring, -1, axis=0)
        ring = ring[np.hypot(*(ends - ring).T) > _SAME_MM]
        ends = np.roll(ring, -1, axis=0)
        nearest, off = self._nearest(ring, ends)
        label = np.where(off > _ON_PIECE_MM, -1, self.piece[nearest])
        n = len(ring)
        breaks = (label != np.roll(label, 1)) | (label == -1) | as_lines
        starts = np.flatnonzero(breaks).tolist() or [0]
        found = []
        for s, e in zip(starts, [*starts[1:], starts[0] + n], strict=True):
            first, last = s % n, (e - 1) % n
            start, end = as_point(ring[first]), as_point(ends[last])
            k = int(label[first])
            if k < 0:
                found.append(Piece(Edge("line", (start, end)), None))
            elif as_lines or self.pieces[k].edge.kind == "line":
                found.append(Piece(Edge("line", (start, end)), self.pieces[k].source))
            else:
                found.append(self._part(k, int(nearest[first]), int(nearest[last]), start, end))
        return tuple(found)

    def _nearest(self, ring: Array, ends: Array) -> tuple[NDArray[np.int64], Array]:
        """Of each of the ring's chords the segment that it lies on, and how far off it is; one of the body only where
        it lies on none of the ring's own."""
        nearest, off = self._nearest_of(ring, ends, 0, self.own)
        lost = off > _ON_PIECE_MM
        if lost.any() and self.own < len(self.starts):
            other, gap = self._nearest_of(ring[lost], ends[lost], self.own, len(self.starts))
            nearest[lost], off[lost] = other, gap
        return nearest, off

    def _nearest_of(self, ring: Array, ends: Array, low: int, high: int) -> tuple[NDArray[np.int64], Array]:
        starts, stops = self.starts[low:high], self.ends[low:high]
        middles = (ring + ends) / 2
        if len(ring) * len(starts) > 60_000:
            segments = shapely.linestrings(np.stack([starts, stops], axis=1))
            points = shapely.points(middles)
            _, nearest = shapely.STRtree(segments).query_nearest(points, all_matches=False)
            return nearest + low, np.asarray(shapely.distance(points, segments[nearest]))
        d = stops - starts
        length2 = np.maximum((d * d).sum(axis=1), 1e-18)
        away = middles[:, None] - starts[None]
        share = np.clip((away * d).sum(axis=2) / length2, 0, 1)
        gap = np.hypot(away[..., 0] - share * d[:, 0], away[..., 1] - share * d[:, 1])
        # where two pieces lie on one another, the one that runs the same way
        gap = gap + 1e-6 * (((ends - ring) @ d.T) < 0)
        nearest = gap.argmin(axis=1)
        return nearest + low, gap[np.arange(len(ring)), nearest]

    def _part(self, k: int, first: int, last: int, start: Point, end: Point) -> Piece:
        piece = self.pieces[k]
        a, b = self._parameter(first, start), self._parameter(last, end)
        part = split_edge(piece.edge, min(a, b), max(a, b))
        points = part.points if a <= b else tuple(reversed(part.points))
        return Piece(Edge(part.kind, (start, *points[1:-1], end)), piece.source)

    def _parameter(self, segment: int, at: Point) -> float:
        (ax, ay), (bx, by) = self.starts[segment], self.ends[segment]
        d2 = (bx - ax) ** 2 + (by - ay) ** 2
        share = min(max(((at[0] - ax) * (bx - ax) + (at[1] - ay) * (by - ay)) / max(d2, 1e-18), 0.0), 1.0)
        return float(self.t0[segment] + share * (self.t1[segment] - self.t0[segment]))
