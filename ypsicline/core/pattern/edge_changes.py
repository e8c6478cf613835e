"""Edges split and merged, panels turned into others: what a maker does to a panel as a whole."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

from ypsicline.core.errors import Place, Refusal
from ypsicline.core.geometry.edges import (
    Edge,
    Point,
    as_curve,
    circle_of,
    edge_length,
    parameter_at_length,
    point_at,
    split_edge,
    tangent_at,
)
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.messages import message
from ypsicline.core.pattern.carried import OutlineChange, carried
from ypsicline.core.pattern.edge_map import EdgeMap, Part, lengths_of
from ypsicline.core.pattern.features.feature import Feature
from ypsicline.core.pattern.features.notch import Notch
from ypsicline.core.pattern.ids import free_ids
from ypsicline.core.pattern.panel import Hand, Panel
from ypsicline.core.pattern.plane import Everywhere, ring_carried
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = [
    "changed_size", "merge_edges", "mirrored", "quarter_notches", "split_panel_edge", "with_edge_length",
    "with_feature", "without_feature",
]  # fmt: skip

LEAST_PART_MM = 1.0
# how far from square an edge may be, as a share of its length
_SQUARE = 1e-6
_RUNS_ON = math.cos(math.radians(5))
_SPLIT_ELSEWHERE = message("else_split_elsewhere")
_MERGE_OTHERS = message("else_take_off")


def split_panel_edge(panel: Panel, edge: str, along_mm: float) -> OutlineChange:
    """An edge parted at `along_mm` from its start; both parts keep its finish, and what stands on it stays in place. The
    first part keeps its id. Raises `Refusal` where that is too near an end."""
    ring, at = _edge_of(panel, edge)
    whole = panel.rings()[ring][at]
    length = edge_length(whole)
    if not LEAST_PART_MM <= along_mm <= length - LEAST_PART_MM:
        figures = {"length_mm": length, "least_mm": LEAST_PART_MM, "most_mm": length - LEAST_PART_MM}
        text = message("split_too_near_an_end", edge=whole.name, **figures)
        raise Refusal(text, "split", Place(panel=panel.name, edge=whole.name))
    t = parameter_at_length(whole, along_mm)
    point = point_at(whole, t)
    first, second = split_edge(whole, 0.0, t), split_edge(whole, t, 1.0)
    first = replace(first, points=(*first.points[:-1], point), corner="mitre")
    fresh = next(free_ids("edge", (e.id for r in panel.rings() for e in r)))
    second = replace(second, points=(point, *second.points[1:]), name=_free_name(panel, whole.name), id=fresh)
    edges = list(panel.rings()[ring])
    edges[at : at + 1] = [first, second]
    same = EdgeMap.same(panel.seam_line, _SPLIT_ELSEWHERE)
    if ring:
        return OutlineChange(_with_hole(panel, ring, tuple(edges)), same)
    behind = length - along_mm
    halves = (Part(edge, 0.0, along_mm, edge, 0.0, along_mm), Part(edge, along_mm, length, fresh, 0.0, behind))
    parts = [part for p in same.parts for part in (halves if p.of == edge else (p,))]
    lengths: dict[str, float] = {}
    for name, whole_mm in same.after.items():
        lengths |= {edge: along_mm, fresh: behind} if name == edge else {name: whole_mm}
    to = replace(same, parts=tuple(parts), after=lengths)
    return OutlineChange(carried(panel, tuple(edges), to), to)


def merge_edges(panel: Panel, edge: str) -> OutlineChange:
    """An edge made one with the next, where they run on into each other: lines stay a line, arcs of one circle an arc,
    anything else becomes a curve. It keeps its id, the next one's is gone. Raises `Refusal` where there is a corner between
    them."""
    ring, at = _edge_of(panel, edge)
    edges = panel.rings()[ring]
    if len(edges) < 3:
        raise Refusal(message("ring_needs_two_edges"), "merge", Place(panel=panel.name))
    first, second = edges[at], edges[(at + 1) % len(edges)]
    (ux, uy), (vx, vy) = tangent_at(first, 1.0), tangent_at(second, 0.0)
    if ux * vx + uy * vy < _RUNS_ON:
        raise Refusal(
            message("corner_between_edges", edge=first.name, other=second.name),
            "merge", Place(panel=panel.name, edge=first.name, point=first.end),
        )  # fmt: skip
    kind, points = _join_edges(first, second)
    one = replace(first, kind=kind, points=points, corner=second.corner)
    ring_after = tuple(one if e is first else e for e in edges if e is not second)
    if ring:
        return OutlineChange(_with_hole(panel, ring, ring_after), EdgeMap.same(panel.seam_line, _MERGE_OTHERS))
    same = EdgeMap.same(edges, _MERGE_OTHERS)
    length, behind = same.after[edge], same.after[second.id]
    parts = [
        Part(p.of, 0.0, p.high, edge, length, length + behind) if p.of == second.id else p
        for p in same.parts
    ]  # fmt: skip
    lengths = {k: length + behind if k == edge else s for k, s in same.after.items() if k != second.id}
    to = replace(same, parts=tuple(parts), after=lengths)
    return OutlineChange(carried(panel, ring_after, to), to)


def _join_edges(first: Edge, second: Edge) -> tuple[Any, Any]:
    if first.kind == second.kind == "line":
        return "line", (first.start, second.end)
    one, two = (circle_of(e) if e.kind == "arc" else None for e in (first, second))
    if one and two and math.dist(one.centre, two.centre) < 0.01 and abs(one.radius - two.radius) < 0.01:
        return "arc", (first.start, first.end, second.end)
    return "curve", (*as_curve(first).points, *as_curve(second).points[1:])


def mirrored(panel: Panel) -> Panel:
    """The panel's mirror image, left for right, with everything on it."""
    same = EdgeMap.same(panel.seam_line)
    back = tuple(Part(p.of, p.low, p.high, p.on, p.end, p.start) for p in same.parts)
    flip = Transform.mirror()
    edges = replace(same, parts=back, after=dict(reversed(list(same.after.items()))))
    flipped = carried(panel, ring_carried(panel.seam_line, flip), edges, Everywhere(flip))
    other: dict[Hand, Hand] = {"left": "right", "right": "left"}
    return replace(flipped, grain_deg=(180 - panel.grain_deg) % 360, hand=other.get(panel.hand, panel.hand))


def changed_size(panel: Panel, factor: float) -> Panel:
    """A copy `factor` times as large; its allowances and hems stay as they are. Raises `Refusal` beyond 1/50 to 50
    times."""
    if not 0.02 <= factor <= 50:
        raise Refusal(message("copy_size_out_of_range"), "scale", Place(panel=panel.name))
    same, larger = EdgeMap.same(panel.seam_line), Transform.scaling(factor)
    parts = tuple(replace(p, start=factor * p.start, end=factor * p.end) for p in same.parts)
    edges = replace(same, parts=parts, after={k: factor * s for k, s in same.after.items()})
    return carried(panel, ring_carried(panel.seam_line, larger), edges, Everywhere(larger))


def with_edge_length(panel: Panel, edge: str, length_mm: float) -> OutlineChange:
    """A panel of straight edges square to one another, drawn out or shortened along one of them until that is as long as
    asked; what stands on its edges stays in proportion, what lies inside stays where it is.

    Raises `Refusal` for any other panel, and for a length under a millimetre.
    """
    ring, at = _edge_of(panel, edge)
    (ax, ay), (bx, by) = panel.rings()[ring][at].start, panel.rings()[ring][at].end
    now = math.hypot(bx - ax, by - ay)
    if ring or not _is_square_to(panel, ((bx - ax) / now, (by - ay) / now)):
        raise Refusal(message("only_squared_panels_drawn_out", panel=panel.name), "length", Place(panel=panel.name))
    if length_mm < LEAST_PART_MM:
        raise Refusal(message("edge_length_too_short", least_mm=LEAST_PART_MM), "length", Place(panel=panel.name))
    ux, uy, more = (bx - ax) / now, (by - ay) / now, length_mm / now - 1

    def drawn(p: Point) -> Point:
        along = more * ((p[0] - ax) * ux + (p[1] - ay) * uy)
        return p[0] + along * ux, p[1] + along * uy

    line = tuple(replace(e, points=tuple(map(drawn, e.points))) for e in panel.seam_line)
    same, after = EdgeMap.same(panel.seam_line), lengths_of(line)
    parts = tuple(replace(p, end=after[p.on]) for p in same.parts)
    to = replace(same, parts=parts, after=after)
    return OutlineChange(carried(panel, line, to), to)


def _is_square_to(panel: Panel, direction: Point) -> bool:
    """Whether all edges are straight and lie along a direction or across it."""
    for e in panel.seam_line:
        x, y = e.end[0] - e.start[0], e.end[1] - e.start[1]
        along, across = abs(x * direction[0] + y * direction[1]), abs(x * direction[1] - y * direction[0])
        if e.kind != "line" or min(along, across) > _SQUARE * max(along, across):
            return False
    return True


def quarter_notches(panel: Panel, parts: int = 4, *, from_edge: str = "") -> Panel:
    """Notches at every `parts`-th of the whole seam line, by length, from the start of an edge (the first, where none is
    named), which gets a double one; they take the place of all others. Raises `Refusal` but for 2 to 16 parts from
    an edge that is there."""
    names = [e.id for e in panel.seam_line]
    if not 2 <= parts <= 16 or (from_edge and from_edge not in names):
        raise Refusal(message("seam_line_parts_out_of_range"), "notch", Place(panel=panel.name))
    lengths = [edge_length(e) for e in panel.seam_line]
    whole, first = sum(lengths), names.index(from_edge) if from_edge else 0
    notches = []
    for part in range(parts):
        rest = whole * part / parts
        k = first
        while rest > lengths[k] - 1e-9:
            rest -= lengths[k]
            k = (k + 1) % len(lengths)
        notches.append(Notch(names[k], max(rest, 0.0), part == 0))
    return replace(panel, middle_notches=False, features=(*panel.without(Notch), *notches))


def with_feature(panel: Panel, feature: Feature) -> Panel:
    """The panel with one more feature, or with the one of its id replaced; and what it stands in for taken off.

    Raises `Refusal` where the one of its id is no longer there, or it can't be put on.
    """
    before = next((f for f in panel.features if feature.id and f.id == feature.id), None)
    if feature.id and (before is None or before.kind != feature.kind):
        raise Refusal(message("feature_to_change_gone"), "feature", Place(panel=panel.name))
    after = feature.put_on(panel, before)
    replaced = [f for f in panel.features if f is not before and after.stands_in_for(f)]
    features = [after if f is before else f for f in panel.features if f not in replaced]
    return replace(panel, features=(*features, *(() if before else (after,))))


def without_feature(panel: Panel, feature: str) -> Panel:
    """The panel without the feature of this id. Raises `Refusal` where it is no longer there."""
    rest = tuple(f for f in panel.features if f.id != feature)
    if len(rest) == len(panel.features):
        raise Refusal(message("feature_to_remove_gone"), "feature", Place(panel=panel.name))
    return replace(panel, features=rest)


def _edge_of(panel: Panel, edge: str) -> tuple[int, int]:
    """The ring, 0 the outline and 1.. the holes, and the place there of the edge of this id."""
    for ring, edges in enumerate(panel.rings()):
        for k, e in enumerate(edges):
            if e.id == edge:
                return ring, k
    raise Refusal(message("no_such_edge_of_panel", panel=panel.name), "edge")


def _with_hole(panel: Panel, ring: int, edges: tuple[SeamEdge, ...]) -> Panel:
    return replace(panel, holes=tuple(edges if k == ring - 1 else h for k, h in enumerate(panel.holes)))


def _free_name(panel: Panel, name: str) -> str:
    names = {e.name for ring in panel.rings() for e in ring}
    return next(n for n in (f"{name[:36]} {k}" for k in range(2, 500)) if n not in names)
