"""A cover put together in space from its drafted panels, and whether its joins close there."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise, product

import numpy as np
import shapely

from ypsicline.core.drafting.draft import seam_runs
from ypsicline.core.geometry.edges import Array, point_at
from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.pattern.join import Along, Join
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.run import by_source
from ypsicline.core.solids.placement import FoldedDown, Placement, Vector

__all__ = ["AssembledPanel", "JoinGap", "Standing", "assembled", "join_gaps"]

# how finely seams are drawn and joins are walked in space
_FLAT_MM, _STATIONS = 0.1, 33


@dataclass(frozen=True)
class Standing:
    """Where one piece of a panel stands, told by the panel's id; of one that is cut several times, each `piece`. A piece of the
    other hand is mirrored first."""

    panel: str
    placement: Placement
    piece: int = 1
    is_mirrored: bool = False

    def points(self, flat: Array) -> Array:
        """Where points (n, 2) of the panel come to lie, (n, 3)."""
        return self.placement.points(flat * [-1, 1] if self.is_mirrored else flat)


@dataclass(frozen=True)
class AssembledPanel:
    """A piece in space: `points`, three of them a triangle by their places in `triangles`, and its seam line."""

    standing: Standing
    points: tuple[Vector, ...]
    triangles: tuple[tuple[int, int, int], ...]
    rim: tuple[Vector, ...]

    def moved(self, by: Vector) -> AssembledPanel:
        """The piece moved, mm."""
        points, rim = (_vectors(np.asarray(of) + by) for of in (self.points, self.rim))
        return replace(self, points=points, rim=rim)


@dataclass(frozen=True)
class JoinGap:
    """How far apart the two sides of a join lie in space at most, mm, and where; and the `middle` of its first side."""

    join: Join
    gap_mm: float
    at: Vector
    middle: Vector


def assembled(standing: Sequence[Standing], panels: Mapping[str, Panel]) -> tuple[AssembledPanel, ...]:
    """Every piece in space, by its seam line as it is drafted; stretch and shrinkage of the cloth don't count.

    Raises `Refusal` where a panel can't be drafted.
    """
    return tuple(_place_panel(s, panels[s.panel]) for s in standing if s.panel in panels)


def join_gaps(joins: Sequence[Join], standing: Sequence[Standing], panels: Mapping[str, Panel]) -> tuple[JoinGap, ...]:
    """How well each join closes whose pieces all stand somewhere; gathered ones aren't held to it."""
    at = {(s.panel, s.piece): s for s in standing}
    gaps = []
    for join in joins:
        along = (*join.first, *join.second)
        if join.meant == "gathered" or any((a.panel, a.piece) not in at or a.panel not in panels for a in along):
            continue
        one, other = (_points_along(run, at, panels) for run in (join.first, join.second))
        apart = np.linalg.norm(one - other, axis=1)
        k = int(apart.argmax())
        at_worst, middle = _vectors(one[[k, _STATIONS // 2]])
        gaps.append(JoinGap(join, float(apart[k]), at_worst, middle))
    return tuple(gaps)


def _finished_panel(panel: Panel) -> Panel:
    return replace(
        panel,
        fit=panel.fit and panel.fit.of_ease,
        features=tuple(f for f in panel.features if not f.takes_in),
    )


def _place_panel(standing: Standing, panel: Panel) -> AssembledPanel:
    ring = flatten_ring([r.edge for r in seam_runs(_finished_panel(panel))], _FLAT_MM)
    if standing.is_mirrored:
        ring = (ring * [-1, 1])[::-1]
    (low, bottom), (high, top) = ring.min(axis=0).tolist(), ring.max(axis=0).tolist()
    cuts = [low - 1, *standing.placement.bends(low, high), high + 1]
    # a sheet that is folded both ways is parted both ways
    level = [0.0, standing.placement.size[1]] if isinstance(standing.placement, FoldedDown) else []
    rows = [bottom - 1, *level, top + 1]
    body = shapely.Polygon(ring)
    points: list[Array] = []
    triangles: list[tuple[int, int, int]] = []
    count = 0
    for (a, b), (c, d) in product(pairwise(cuts), pairwise(rows)):
        for triangle in _triangles(shapely.clip_by_rect(body, a, c, b, d)):
            points.append(triangle)
            triangles.append((count, count + 1, count + 2))
            count += 3
    flat = np.vstack(points)
    rim = shapely.get_coordinates(shapely.segmentize(shapely.LinearRing(ring), 15.0))
    return AssembledPanel(
        standing, _vectors(standing.placement.points(flat)), tuple(triangles), _vectors(standing.placement.points(rim))
    )


def _triangles(part: shapely.Geometry) -> Iterable[Array]:
    for piece in shapely.get_parts(part):
        if piece.geom_type != "Polygon" or piece.area < 1e-6:
            continue
        for triangle in shapely.get_parts(shapely.constrained_delaunay_triangles(piece)):
            yield shapely.get_coordinates(triangle)[:3]


def _points_along(run: Sequence[Along], at: Mapping[tuple[str, int], Standing], panels: Mapping[str, Panel]) -> Array:
    """A run in space at even stations of its length, (n, 3)."""
    parts: list[Array] = []
    lengths: list[Array] = []
    for along in run:
        panel = panels[along.panel]
        runs = seam_runs(_finished_panel(panel))
        own = sorted((runs[k] for k in by_source(runs).get(along.edge, ())), key=lambda r: r.s0)
        flat = np.array([point_at(r.edge, t) for r in own for t in np.linspace(0, 1, 129)])
        step = np.concatenate([[0.0], np.hypot(*np.diff(flat, axis=0).T)])
        flat, step = (flat[::-1], np.concatenate([[0.0], step[1:][::-1]])) if along.backward else (flat, step)
        parts.append(at[along.panel, along.piece].points(flat))
        lengths.append(step)
    reached = np.cumsum(np.concatenate(lengths))
    space = np.vstack(parts)
    stations = np.linspace(0, reached[-1], _STATIONS)
    return np.column_stack([np.interp(stations, reached, space[:, c]) for c in range(3)])


def _vectors(points: Array) -> tuple[Vector, ...]:
    return tuple((float(x), float(y), float(z)) for x, y, z in points)
