"""Edges split and merged, panels turned into others: what a maker does to a panel as a whole."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any, Literal, TypeVar

import numpy as np

from ypsicline.core.drafting.features import Aperture, Dart, Gather, Layer, MarkAt, Pleats, Taper
from ypsicline.core.drafting.panel import Notch, Panel, SeamEdge
from ypsicline.core.errors import Place, Refused
from ypsicline.core.geometry.edges import (
    Array,
    Edge,
    as_curve,
    circle_of,
    edge_length,
    parameter_at_length,
    point_at,
    split_edge,
    tangent_at,
    transformed,
)
from ypsicline.core.geometry.rings import reverse_ring

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
F = TypeVar("F", Taper, Dart, Pleats, Gather, Notch)


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
    panel = _with_ring(panel, ring, tuple(made))
    if ring:
        return panel

    def moved(kept: F, place: str | None) -> F:
        if kept.edge > edge:
            return replace(kept, edge=kept.edge + 1)
        stands = getattr(kept, place) if place else math.inf
        if kept.edge == edge and stands > along_mm:
            return _put(kept, edge + 1, place, stands - along_mm)
        return kept

    return _renumbered(panel, moved)


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
    length = edge_length(first)
    count = len(edges)
    panel = _with_ring(panel, ring, tuple(made))
    if ring:
        return panel
    gone, at = (edge + 1) % count, made.index(one)

    def moved(kept: F, place: str | None) -> F:
        if kept.edge == gone:
            return _put(kept, at, place, (getattr(kept, place) if place else 0.0) + length)
        return replace(kept, edge=kept.edge - 1) if kept.edge > gone else kept

    return _renumbered(panel, moved)


def _put(kept: F, edge: int, place: str | None, along_mm: float) -> F:
    """The same on another edge, `along_mm` from its start where it has a `place` there."""
    changes: dict[str, Any] = {"edge": edge}
    if place:
        changes[place] = along_mm
    return replace(kept, **changes)


def _joined(first: Edge, second: Edge) -> tuple[Any, Any]:
    if first.kind == second.kind == "line":
        return "line", (first.start, second.end)
    one, two = (circle_of(e) if e.kind == "arc" else None for e in (first, second))
    if one and two and math.dist(one.centre, two.centre) < 0.01 and abs(one.radius - two.radius) < 0.01:
        return "arc", (first.start, first.end, second.end)
    return "curve", (*as_curve(first).points, *as_curve(second).points[1:])


def _renumbered(panel: Panel, moved: Any) -> Panel:
    """The panel with everything that stands on an edge of its outline moved."""
    return replace(
        panel,
        notches=None if panel.notches is None else tuple(moved(n, "along_mm") for n in panel.notches),
        tapers=tuple(moved(t, None) for t in panel.tapers),
        darts=tuple(moved(d, None if d.corner else "along") for d in panel.darts),
        pleats=tuple(moved(p, "along") for p in panel.pleats),
        gathers=tuple(moved(g, None) for g in panel.gathers),
    )


def mirrored(panel: Panel) -> Panel:
    """The panel's mirror image, left for right, with everything on it."""
    flip = np.diag([-1.0, 1.0])
    count = len(panel.seam_line)
    lengths = [edge_length(e) for e in panel.seam_line]

    def other(kept: F, place: str | None, *, at_corner: bool = False) -> F:
        # walked the other way round, edge k is edge n − 1 − k, and the corner at its end is the one before's
        k = count - 1 - kept.edge
        if at_corner:
            return replace(kept, edge=(k - 1) % count)
        return _put(kept, k, place, lengths[kept.edge] - (getattr(kept, place) if place else 0.0))

    return replace(
        panel,
        seam_line=_turned(panel.seam_line, flip),
        holes=tuple(_turned(h, flip) for h in panel.holes),
        grain_deg=(180 - panel.grain_deg) % 360,
        hand={"left": "right", "right": "left"}.get(panel.hand, panel.hand),  # type: ignore[arg-type]
        notches=None if panel.notches is None else tuple(other(n, "along_mm") for n in panel.notches),
        tapers=tuple(
            replace(other(t, None, at_corner=True), reach=t.reach_after, reach_after=t.reach) for t in panel.tapers
        ),
        darts=tuple(
            replace(
                other(d, None if d.corner else "along", at_corner=d.corner),
                lean=-d.lean,
                towards="end" if d.towards == "start" else "start",
            )
            for d in panel.darts
        ),
        pleats=tuple(_pleats_back(p, lengths[p.edge], count) for p in panel.pleats),
        gathers=tuple(other(g, None) for g in panel.gathers),
        apertures=tuple(
            replace(
                a,
                at=(-a.at[0], a.at[1]),
                turn_deg=-a.turn_deg,
                ring=tuple((-x, y) for x, y in a.ring),
                slit_deg=None if a.slit_deg is None else 180 - a.slit_deg,
            )
            for a in panel.apertures
        ),
        placed=tuple(replace(m, at=(-m.at[0], m.at[1]), to=m.to and (-m.to[0], m.to[1])) for m in panel.placed),
    )


def _pleats_back(p: Pleats, length: float, count: int) -> Pleats:
    each = p.intake / p.count
    reach = p.along + (p.count - 1) * (p.pitch or each * 1.5) + each
    towards = {"start": "end", "end": "start"}.get(p.towards, p.towards)
    return replace(p, edge=count - 1 - p.edge, along=max(length - reach, 0.0), towards=towards)  # type: ignore[arg-type]


def _turned(ring: tuple[SeamEdge, ...], matrix: Array) -> tuple[SeamEdge, ...]:
    back = reverse_ring(tuple(transformed(e, matrix) for e in ring))
    # the corner belongs to the end of an edge: walked back, it is the next one's
    return tuple(replace(e, corner=back[(k + 1) % len(back)].corner) for k, e in enumerate(back))


def changed_size(panel: Panel, factor: float) -> Panel:
    """A copy `factor` times as large; its allowances and hems stay as they are."""
    if not 0.02 <= factor <= 50:
        raise Refused("A copy can be 1/50 to 50 times as large.", "scale", Place(panel=panel.name))
    matrix = np.eye(2) * factor

    def ring(edges: tuple[SeamEdge, ...]) -> tuple[SeamEdge, ...]:
        return tuple(transformed(e, matrix) for e in edges)

    return replace(
        panel,
        seam_line=ring(panel.seam_line),
        holes=tuple(ring(h) for h in panel.holes),
        notches=None if panel.notches is None else tuple(replace(n, along_mm=n.along_mm * factor) for n in panel.notches),
        tapers=tuple(replace(t, reach=t.reach * factor, reach_after=t.reach_after * factor, inset=t.inset * factor) for t in panel.tapers),
        darts=tuple(replace(d, along=d.along * factor, intake=d.intake * factor, length=d.length * factor, lean=d.lean * factor) for d in panel.darts),
        pleats=tuple(replace(p, along=p.along * factor, intake=p.intake * factor, pitch=p.pitch * factor) for p in panel.pleats),
        apertures=tuple(
            replace(
                a, at=(a.at[0] * factor, a.at[1] * factor), size=(a.size[0] * factor, a.size[1] * factor),
                ring=tuple((x * factor, y * factor) for x, y in a.ring),
            )
            for a in panel.apertures
        ),
        placed=tuple(
            replace(m, at=(m.at[0] * factor, m.at[1] * factor), to=m.to and (m.to[0] * factor, m.to[1] * factor))
            for m in panel.placed
        ),
    )  # fmt: skip


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
