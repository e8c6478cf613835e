"""Edges split and merged, panels turned into others: what a maker does to a panel as a whole."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any, Literal

from ypsicline.core.drafting.carried import Everywhere, carried, ring_carried
from ypsicline.core.drafting.edge_map import EdgeMap, Part
from ypsicline.core.drafting.features import Aperture, Dart, Gather, Layer, MarkAt, Pleats, Taper
from ypsicline.core.drafting.panel import Hand, Notch, Panel, SeamEdge
from ypsicline.core.errors import Place, Refused
from ypsicline.core.geometry.edges import (
    Edge,
    as_curve,
    circle_of,
    edge_length,
    parameter_at_length,
    point_at,
    split_edge,
    tangent_at,
)
from ypsicline.core.geometry.transform import Transform

__all__ = [
    "Feature", "FeatureList", "changed_size", "merge_edges", "mirrored", "quarter_notches", "split_panel_edge", "with_feature",
    "without_feature",
]  # fmt: skip

LEAST_PART_MM = 1.0
_RUNS_ON = math.cos(math.radians(5))
Feature = Taper | Dart | Pleats | Gather | Aperture | MarkAt | Layer
FeatureList = Literal["tapers", "darts", "pleats", "gathers", "apertures", "placed", "layers"]
"""What a panel calls its features of each kind."""
_LISTS: dict[type, FeatureList] = {
    Taper: "tapers", Dart: "darts", Pleats: "pleats", Gather: "gathers", Aperture: "apertures", MarkAt: "placed",
    Layer: "layers",
}  # fmt: skip
FEATURES: dict[FeatureList, type] = {name: kind for kind, name in _LISTS.items()}
_SPLIT_ELSEWHERE = "split the edge elsewhere, or move it"
_MERGE_OTHERS = "take it off first"


def split_panel_edge(panel: Panel, ring: int, edge: int, along_mm: float) -> Panel:
    """An edge parted at `along_mm` from its start; both parts keep its finish, and what stands on it stays in place."""
    whole = _edge(panel, ring, edge)
    length = edge_length(whole)
    if not LEAST_PART_MM <= along_mm <= length - LEAST_PART_MM:
        raise Refused(
            f"Edge “{whole.name}” is {length:.1f} mm long; split it between {LEAST_PART_MM:g} and {length - LEAST_PART_MM:.1f} mm.",
            "split", Place(panel=panel.name, edge=whole.name),
        )  # fmt: skip
    t = parameter_at_length(whole, along_mm)
    at = point_at(whole, t)
    first, second = split_edge(whole, 0.0, t), split_edge(whole, t, 1.0)
    first = replace(first, points=(*first.points[:-1], at), corner="mitre")
    second = replace(second, points=(at, *second.points[1:]), name=_free_name(panel, whole.name))
    made = list(panel.rings()[ring])
    made[edge : edge + 1] = [first, second]
    if ring:
        return _with_ring(panel, ring, tuple(made))
    same = EdgeMap.same(panel.seam_line, _SPLIT_ELSEWHERE)
    behind = length - along_mm
    parts = [
        part
        for p in same.parts
        for part in (
            (Part(edge, 0.0, along_mm, edge, 0.0, along_mm), Part(edge, along_mm, length, edge + 1, 0.0, behind))
            if p.of == edge
            else (replace(p, on=p.on + (p.of > edge)),)
        )
    ]
    lengths = (*same.after[:edge], along_mm, behind, *same.after[edge + 1 :])
    return carried(panel, tuple(made), replace(same, parts=tuple(parts), after=lengths))


def merge_edges(panel: Panel, ring: int, edge: int) -> Panel:
    """An edge made one with the next, where they run on into each other: lines stay a line, arcs of one circle an arc,
    anything else becomes a curve. Raises `Refused` where there is a corner between them."""
    edges = panel.rings()[ring] if 0 <= ring < len(panel.rings()) else ()
    if len(edges) < 3:
        raise Refused("A ring needs two edges at least; these can't be merged.", "merge", Place(panel=panel.name))
    first, second = _edge(panel, ring, edge), edges[(edge + 1) % len(edges)]
    (ux, uy), (vx, vy) = tangent_at(first, 1.0), tangent_at(second, 0.0)
    if ux * vx + uy * vy < _RUNS_ON:
        raise Refused(
            f"There is a corner between “{first.name}” and “{second.name}”; only edges that run on into each other can be merged.",
            "merge", Place(panel=panel.name, edge=first.name, point=first.end),
        )  # fmt: skip
    kind, points = _joined(first, second)
    one = replace(first, kind=kind, points=points, corner=second.corner)
    made = [e for k, e in enumerate(edges) if k != (edge + 1) % len(edges)]
    made[made.index(first)] = one
    if ring:
        return _with_ring(panel, ring, tuple(made))
    same = EdgeMap.same(edges, _MERGE_OTHERS)
    gone, at, length = (edge + 1) % len(edges), made.index(one), edge_length(first)
    behind = same.after[gone]
    parts = [
        Part(p.of, 0.0, p.high, at, length, length + behind) if p.of == gone else replace(p, on=p.on - (p.of > gone))
        for p in same.parts
    ]
    lengths = [s for k, s in enumerate(same.after) if k != gone]
    lengths[at] = length + behind
    return carried(panel, tuple(made), replace(same, parts=tuple(parts), after=tuple(lengths)))


def _joined(first: Edge, second: Edge) -> tuple[Any, Any]:
    if first.kind == second.kind == "line":
        return "line", (first.start, second.end)
    one, two = (circle_of(e) if e.kind == "arc" else None for e in (first, second))
    if one and two and math.dist(one.centre, two.centre) < 0.01 and abs(one.radius - two.radius) < 0.01:
        return "arc", (first.start, first.end, second.end)
    return "curve", (*as_curve(first).points, *as_curve(second).points[1:])


def mirrored(panel: Panel) -> Panel:
    """The panel's mirror image, left for right, with everything on it."""
    same = EdgeMap.same(panel.seam_line)
    last = len(panel.seam_line) - 1
    # walked the other way round, edge k is edge n − 1 − k
    back = tuple(Part(p.of, p.low, p.high, last - p.on, p.end, p.start) for p in same.parts)
    flip = Transform.mirror()
    made = carried(
        panel, ring_carried(panel.seam_line, flip), replace(same, parts=back, after=same.after[::-1]), Everywhere(flip)
    )
    other: dict[Hand, Hand] = {"left": "right", "right": "left"}
    return replace(made, grain_deg=(180 - panel.grain_deg) % 360, hand=other.get(panel.hand, panel.hand))


def changed_size(panel: Panel, factor: float) -> Panel:
    """A copy `factor` times as large; its allowances and hems stay as they are."""
    if not 0.02 <= factor <= 50:
        raise Refused("A copy can be 1/50 to 50 times as large.", "scale", Place(panel=panel.name))
    same, larger = EdgeMap.same(panel.seam_line), Transform.scaling(factor)
    parts = tuple(replace(p, start=factor * p.start, end=factor * p.end) for p in same.parts)
    edges = replace(same, parts=parts, after=tuple(factor * s for s in same.after))
    return carried(panel, ring_carried(panel.seam_line, larger), edges, Everywhere(larger))


def quarter_notches(panel: Panel, parts: int = 4, *, from_edge: int = 0) -> Panel:
    """Notches at every `parts`-th of the whole seam line, by length, from the start of an edge, which gets a double one."""
    if not 2 <= parts <= 16 or not 0 <= from_edge < len(panel.seam_line):
        raise Refused(
            "Divide the seam line into 2 to 16 parts, from an edge that is there.", "notch", Place(panel=panel.name)
        )
    lengths = [edge_length(e) for e in panel.seam_line]
    whole = sum(lengths)
    made = []
    for part in range(parts):
        left = whole * part / parts
        k = from_edge
        while left > lengths[k] - 1e-9:
            left -= lengths[k]
            k = (k + 1) % len(lengths)
        made.append(Notch(k, max(left, 0.0), part == 0))
    return replace(panel, notches=tuple(made))


def with_feature(panel: Panel, feature: Feature, at: int | None = None) -> Panel:
    """The panel with one more taper, dart, pleat, gather, aperture, mark or layer, or with number `at` replaced.

    A corner has one taper at most: a new one takes its place.
    """
    name = _LISTS[type(feature)]
    kept = list(getattr(panel, name))
    if isinstance(feature, Taper):
        kept = [t for t in kept if t.edge != feature.edge]
        at = None
    if at is None:
        kept.append(feature)
    elif 0 <= at < len(kept):
        kept[at] = feature
    else:
        raise Refused("What you are changing is no longer there.", "feature", Place(panel=panel.name))
    changes: dict[str, Any] = {name: tuple(kept)}
    return replace(panel, **changes)


def without_feature(panel: Panel, name: FeatureList, at: int) -> Panel:
    """The panel without number `at` of its tapers, darts, pleats, gathers, apertures, marks (`placed`) or layers."""
    if not 0 <= at < len(getattr(panel, name)):
        raise Refused("What you are removing is no longer there.", "feature", Place(panel=panel.name))
    changes: dict[str, Any] = {name: tuple(f for k, f in enumerate(getattr(panel, name)) if k != at)}
    return replace(panel, **changes)


def _edge(panel: Panel, ring: int, edge: int) -> SeamEdge:
    rings = panel.rings()
    if not 0 <= ring < len(rings) or not 0 <= edge < len(rings[ring]):
        raise Refused(f"Panel “{panel.name}” has no such edge; choose one that is there.", "edge")
    return rings[ring][edge]


def _with_ring(panel: Panel, ring: int, edges: tuple[SeamEdge, ...]) -> Panel:
    if ring == 0:
        return replace(panel, seam_line=edges)
    return replace(panel, holes=tuple(edges if k == ring - 1 else h for k, h in enumerate(panel.holes)))


def _free_name(panel: Panel, name: str) -> str:
    taken = {e.name for ring in panel.rings() for e in ring}
    return next(n for n in (f"{name[:36]} {k}" for k in range(2, 500)) if n not in taken)
