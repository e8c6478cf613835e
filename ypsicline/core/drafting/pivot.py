"""A dart moved about its point: closed where it is, wholly or in part, and opened elsewhere on the seam line."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import shapely

from ypsicline.core.drafting.eased import ease_drawn_in
from ypsicline.core.errors import Place, Refusal
from ypsicline.core.geometry.edges import (
    Point,
    edge_length,
    flatten,
    parameter_at_length,
    point_at,
)
from ypsicline.core.geometry.plane import dot, minus, turn_between, unit
from ypsicline.core.geometry.rings import check_ring
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.carried import OutlineChange, carried
from ypsicline.core.pattern.edge_map import EdgeMap, Part, lengths_of
from ypsicline.core.pattern.features.dart import Dart, apex_of
from ypsicline.core.pattern.ids import once_each
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.run import Run, cut_run, runs_of
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["pivot_dart"]

_LEAST_MM = 1.0
_SAME_MM = 1e-6
_MOVE_ONE = message("else_move_one")


@dataclass(frozen=True)
class _Part:
    """A part of an edge of the panel, `low` to `high` mm along it; a dart's mouth where there is no `run`."""

    run: Run | None
    low: float
    high: float
    edge: SeamEdge


@dataclass(frozen=True)
class _Paper:
    """The paper cut from `slit` on the outline to the `apex` of a dart with these `feet`, and the side between them turned
    about the apex by `turn` radians; `side` runs along the outline before, from the dart to the slit."""

    side: tuple[Point, ...]
    feet: tuple[Point, Point]
    slit: Point
    apex: Point
    turn: float

    @cached_property
    def sector(self) -> shapely.Geometry:
        return shapely.make_valid(shapely.Polygon([self.apex, *self.side]))

    @cached_property
    def lines(self) -> shapely.Geometry:
        """Along which the paper parts: the slit, and the dart with what it takes out; not their common point, which
        another dart may have too."""
        lines = shapely.union(shapely.LineString([self.slit, self.apex]), shapely.Polygon([*self.feet, self.apex]))
        return lines - shapely.Point(self.apex).buffer(1.0)

    scale = 1.0
    is_mirrored = False

    def of(self, shape: shapely.Geometry, what: Message, at: Point) -> Transform:
        """A turn for what lies on the side that is turned. Raises `Refusal` for what lies across the cut."""
        if self.lines.intersects(shape):
            raise Refusal(
                message("feature_crosses_pivot", what=what, else_do=_MOVE_ONE),
                "dart", Place(point=at),
            )  # fmt: skip
        return Transform.turn(self.turn, self.apex) if self.sector.intersects(shape) else Transform()


def pivot_dart(panel: Panel, dart_id: str, edge: str, along_mm: float, share: float = 1.0) -> OutlineChange:
    """The panel with a dart closed by `share` of its angle, and that angle opened from the same point to
    `along_mm` on `edge`: as if the paper were slit from there to the dart's point and turned about it.

    Lengths along the seam line stay, but for the mouths of the two darts, and what else the panel
    has goes with its side. The new dart keeps the id. Ease is drawn into the outline first, for it is the line with ease in
    it that is sewn. Raises `Refusal` where the dart is at a corner or cut away, where nothing can be opened there,
    or something lies across the cut.
    """
    if (dart := _dart_of(panel, dart_id)).corner or dart.cut:
        raise Refusal(
            message("dart_cant_be_pivoted"),
            "dart", Place(panel=panel.name),
        )  # fmt: skip
    if not 0 < share <= 1:
        raise Refusal(message("dart_share_out_of_range"), "dart")
    if all(e.id != edge for e in panel.seam_line):
        raise Refusal(message("choose_edge_for_dart"), "dart")
    panel, runs = ease_drawn_in(panel)
    dart, names = _dart_of(panel, dart_id), [e.id for e in panel.seam_line]
    k, along_mm, _ = cut_run(runs, edge, along_mm, along_mm, message("thing_dart"))
    edge = names[k]
    old, new = (panel.seam_line[names.index(name)] for name in (dart.edge, edge))
    low, high = dart.along - dart.intake / 2, dart.along + dart.intake / 2
    inside = low - _LEAST_MM < along_mm < high + _LEAST_MM if edge == dart.edge else False
    if (
        inside
        or not _LEAST_MM < along_mm < edge_length(new) - _LEAST_MM
        or low < -_SAME_MM
        or high > edge_length(old) + _SAME_MM
    ):
        text = message("dart_cant_open_there", along_mm=along_mm, edge=new.name)
        raise Refusal(text, "dart", Place(panel=panel.name, edge=new.name))
    foot1, foot2 = (point_at(old, parameter_at_length(old, s)) for s in (low, high))
    apex = apex_of(foot1, foot2, dart)
    turn = share * turn_between(minus(foot2, apex), minus(foot1, apex))
    parts = _parts(panel, dart.edge, low, high, edge, along_mm)
    # a dart that was opened here by an earlier turn takes up its edge: the next one follows
    next_edge = names[(names.index(dart.edge) + 1) % len(names)]
    after = (dart.edge, high) if high < edge_length(old) - _SAME_MM else (next_edge, 0.0)
    start = next(
        k for k, p in enumerate(parts) if p.run and p.run.source == after[0] and abs(p.low - after[1]) < _SAME_MM
    )
    ring = [*parts[start:], *parts[:start]]
    to = next(k for k, p in enumerate(ring) if p.run and p.run.source == edge and abs(p.high - along_mm) < 1e-9)
    turning = Transform.turn(turn, apex)
    turning_runs = [replace(p, edge=turning.edge(p.edge)) for p in ring[: to + 1]]
    rest = ring[to + 1 :]
    opening = _mouth(turning_runs[-1].edge, rest[0].edge, new)
    closing = _mouth(rest[-1].edge, turning_runs[0].edge, old) if share < 1 - 1e-9 else None
    whole = [*turning_runs, _Part(None, 0, 0, opening), *rest, *([_Part(None, 0, 0, closing)] if closing else [])]
    if closing is None:
        last = whole[-1].edge
        whole[-1] = replace(whole[-1], edge=replace(last, points=(*last.points[:-1], turning_runs[0].edge.start)))
    seam = once_each("edge", [p.edge for p in whole], (e.id for h in panel.holes for e in h))
    check_ring(seam, [e.name for e in seam], message("ring_seam_line"))
    slit = point_at(new, parameter_at_length(new, along_mm))
    paper = _Paper(_flat([p.edge for p in ring[: to + 1]]), (foot1, foot2), slit, apex, turn)
    lie = tuple(
        Part(p.run.source, p.low, p.high, e.id, 0.0, p.high - p.low)
        for p, e in zip(whole, seam, strict=True)
        if p.run is not None
    )
    edges = EdgeMap(lie, lengths_of(panel.seam_line), lengths_of(seam), _MOVE_ONE)
    others = replace(panel, features=tuple(f for f in panel.features if f.id != dart_id))
    carried_panel = carried(others, seam, edges, paper)
    mouths = [e for p, e in zip(whole, seam, strict=True) if p.run is None]
    own = [replace(_dart(mouth, apex, dart), id="" if k else dart_id) for k, mouth in enumerate(mouths)]
    return OutlineChange(replace(carried_panel, features=(*carried_panel.features, *own)), edges)


def _dart_of(panel: Panel, dart_id: str) -> Dart:
    dart = next((d for d in panel.of(Dart) if d.id == dart_id), None)
    if dart is None:
        raise Refusal(message("dart_gone"), "dart", Place(panel=panel.name))
    return dart


def _flat(edges: Sequence[SeamEdge]) -> tuple[Point, ...]:
    """An open run of edges as points, its end too."""
    points = [(float(x), float(y)) for e in edges for x, y in flatten(e)[:-1]]
    return (*points, edges[-1].end)


def _parts(panel: Panel, dart_edge: str, low: float, high: float, edge: str, along_mm: float) -> list[_Part]:
    """The outline in parts: without what lies in the dart's mouth, and slit where the new one opens."""
    parts = []
    for run in runs_of(panel.seam_line):
        length = edge_length(run.edge)
        stops = [0.0, length]
        if run.source == dart_edge:
            stops += [low, high]
        if run.source == edge:
            stops.append(along_mm)
        stops.sort()
        for a, b in zip(stops[:-1], stops[1:], strict=True):
            mouth = run.source == dart_edge and a >= low - _SAME_MM and b <= high + _SAME_MM
            if not mouth and b - a > _SAME_MM:
                parts.append(_Part(run, a, b, run.part(a, b).edge))
    return parts


def _mouth(before: SeamEdge, after: SeamEdge, like: SeamEdge) -> SeamEdge:
    """The straight mouth of a dart between two edges, finished like the edge that it opens on."""
    return replace(
        like, kind="line", points=(before.end, after.start), name=f"{like.name} mouth", corner="mitre", id=""
    )


def _dart(mouth: SeamEdge, apex: Point, like: Dart) -> Dart:
    """The dart whose legs run from the ends of its mouth to its point."""
    width = math.dist(mouth.start, mouth.end)
    d = unit(minus(mouth.end, mouth.start))
    away = minus(apex, mouth.start)
    return replace(
        like, edge=mouth.id, along=width / 2, intake=width, length=dot(away, (-d[1], d[0])), lean=dot(away, d) - width / 2,
    )  # fmt: skip
