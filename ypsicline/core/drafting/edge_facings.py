"""Facings of a panel's edges: strips in its own shape that are sewn on and turned to the inside (rule 2)."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import pairwise

import numpy as np
import shapely

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array, Edge, flatten, point_at
from ypsicline.core.geometry.plane import as_point
from ypsicline.core.geometry.rings import check_ring
from ypsicline.core.messages import message
from ypsicline.core.pattern.edge_changes import mirrored
from ypsicline.core.pattern.panel import DraftedPanel, Panel
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.trueing.fitting import fit_curve

__all__ = ["FACING_WIDE_MM", "edge_facings", "missing_facings"]

FACING_WIDE_MM = 40.0
_ON_IT_MM = 1e-6
_FINE_MM = 0.05
_FEW_POINTS = 4
_CORNER_RAD = math.radians(12)


def edge_facings(panel: DraftedPanel) -> Iterator[Panel]:
    """A facing for each run of edges that are faced: as wide as facings are, its outer edge the panel's, sewn into the seams at
    either end, its inner edge left to be neatened. Cut face to face with the panel, it is its mirror image. One whose inside
    would touch itself is left out, see `missing_facings`."""
    ring = panel.seam_line
    faced = [e.finishing.has_facing for e in ring]
    if not any(faced):
        return
    body = shapely.Polygon(panel.seam_points)
    if all(faced):
        inner = body.buffer(-FACING_WIDE_MM, join_style="mitre")
        holes = [] if inner.is_empty or inner.geom_type != "Polygon" else [_inner_ring(inner)]
        yield _facing(panel, ring, holes, "")
        return
    runs = _runs(faced)
    for number, run in enumerate(runs, start=1):
        own = [ring[k] for k in run]
        edges = [*own, *_rest(own, body, ring)]
        if _is_sound(edges):
            yield _facing(panel, edges, [], f" {number}" if len(runs) > 1 else "")


def missing_facings(panel: DraftedPanel) -> int:
    """How many runs of faced edges have no facing."""
    faced = [e.finishing.has_facing for e in panel.seam_line]
    runs = 0 if not any(faced) else 1 if all(faced) else len(_runs(faced))
    return runs - sum(1 for _ in edge_facings(panel))


def _is_sound(edges: Sequence[SeamEdge]) -> bool:
    try:
        check_ring(edges, [e.name for e in edges])
    except Refusal:
        return False
    return True


def _facing(
    panel: DraftedPanel, edges: Sequence[SeamEdge], holes: Sequence[tuple[SeamEdge, ...]], number: str
) -> Panel:
    facing = Panel(
        f"{panel.name[:66]} edge facing{number}", tuple(replace(e, id="") for e in edges), tuple(holes), cloth=panel.cloth,
        count=panel.count, hand=panel.hand, grain_deg=panel.grain_deg, way_up=message("neaten_inner_edge"), middle_notches=False,
    )  # fmt: skip
    return mirrored(facing)


def _runs(faced: Sequence[bool]) -> list[list[int]]:
    """The runs of edges that are faced, by their indices, one over the ring's start as a whole."""
    start = next(k for k, is_faced in enumerate(faced) if not is_faced)
    runs: list[list[int]] = []
    for k in range(len(faced)):
        at = (start + k) % len(faced)
        if faced[at]:
            if faced[at - 1] and runs:
                runs[-1].append(at)
            else:
                runs.append([at])
    return runs


def _rest(own: Sequence[SeamEdge], body: shapely.Polygon, ring: Sequence[SeamEdge]) -> list[SeamEdge]:
    """The edges that close a facing behind its run: along the panel's next edges, along its inside, and along those before."""
    run = np.vstack([own[0].points[:1], *(flatten(e)[1:] for e in own)])
    region = body.intersection(shapely.LineString(run).buffer(FACING_WIDE_MM, quad_segs=32))
    part = max(shapely.get_parts(region), key=lambda p: p.area)
    around = np.asarray(shapely.orient_polygons(part).exterior.coords)[:-1]
    ends = [int(np.hypot(*(around - p).T).argmin()) for p in (run[-1], run[0])]
    way = np.roll(around, -ends[0], axis=0)[: (ends[1] - ends[0]) % len(around) + 1]
    # its sides along the panel's own edges, by their middles
    on_rim = shapely.distance(body.exterior, shapely.points((way[:-1] + way[1:]) / 2)) < _ON_IT_MM
    inside = np.flatnonzero(~on_rim)
    # a facing that is the whole panel has no inside
    leaves, returns = (int(inside[0]), int(inside[-1]) + 1) if len(inside) else (len(way) - 1, len(way) - 1)
    along = [shapely.LineString(flatten(e)) for e in ring]

    def sewn(edge: Edge) -> SeamEdge:
        """The panel's edge that one of the facing's lies on."""
        return ring[int(shapely.distance(along, shapely.Point(point_at(edge, 0.5))).argmin())]

    parts = (way[: leaves + 1], "end"), (way[leaves : returns + 1], "inside"), (way[returns:], "start")
    return [
        _edge(e, None if name == "inside" else sewn(e), name)
        for points, name in parts
        if len(points) > 1
        for e in _edges_through(points)
    ]


def _edges_through(points: Array) -> list[Edge]:
    """From corner to corner straight lines through few points, else a curve along them."""
    plain = np.asarray(shapely.LineString(points).simplify(_FINE_MM / 10).coords)
    steps = np.diff(plain, axis=0)
    ways = np.arctan2(steps[:, 1], steps[:, 0])
    turns = np.abs((np.diff(ways) + math.pi) % (2 * math.pi) - math.pi)
    stops = [0, *(np.flatnonzero(turns > _CORNER_RAD) + 1).tolist(), len(plain) - 1]
    edges: list[Edge] = []
    for a, b in pairwise(stops):
        run = plain[a : b + 1]
        if len(run) <= _FEW_POINTS:
            edges += _lines(run)
        else:
            edges.append(fit_curve(np.asarray(shapely.LineString(run).segmentize(1.0).coords), _FINE_MM))
    return edges


def _edge(edge: Edge, like: SeamEdge | None, name: str) -> SeamEdge:
    """An edge that is sewn into the panel's seam `like` it, or left raw."""
    if like is None or like.is_folded_back or like.is_cut_on_seam or not like.allowance:
        return SeamEdge(edge.kind, edge.points, name, 0.0, "raw")
    return SeamEdge(edge.kind, edge.points, name, like.allowance, "plain", "by_rule")


def _inner_ring(inner: shapely.Polygon) -> tuple[SeamEdge, ...]:
    ring = np.asarray(inner.exterior.coords)
    half = len(ring) // 2
    parts = [ring] if len(ring) <= 9 else [ring[: half + 1], ring[half:]]
    edges = [e for p in parts for e in (_lines(p) if len(ring) <= 9 else _edges_through(p))]
    return tuple(SeamEdge(e.kind, e.points, f"inside {k + 1}", 0.0, "raw") for k, e in enumerate(edges))


def _lines(points: Array) -> list[Edge]:
    return [Edge("line", (as_point(a), as_point(b))) for a, b in zip(points[:-1], points[1:], strict=True)]
