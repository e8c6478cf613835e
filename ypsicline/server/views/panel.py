"""A panel as the Draft station shows it: drafted, with its figures ready to be read and its features to be changed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from functools import lru_cache
from typing import Any

from ypsicline.core.drafting.companions import companions
from ypsicline.core.drafting.house import House
from ypsicline.core.drafting.inside import as_set
from ypsicline.core.errors import Place
from ypsicline.core.findings import Severity
from ypsicline.core.formats.svg import path_data
from ypsicline.core.geometry.edges import (
    Edge,
    Point,
    circle_of,
    edge_length,
    parameter_at_length,
    point_at,
    reverse_edge,
    tangent_at,
)
from ypsicline.core.geometry.parallel import parallel
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.lengths import Unit, is_rounded, show_length, show_set_length
from ypsicline.core.pattern.anchors import place_of
from ypsicline.core.pattern.features.feature import Feature
from ypsicline.core.pattern.fit import Fit, Lies
from ypsicline.core.pattern.mark import DraftedNotch, Mark, letters_mm
from ypsicline.core.pattern.panel import DraftedPanel, Panel, instruction
from ypsicline.core.pattern.run import called_alike
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.wording import render, render_all
from ypsicline.server.jobs.worked_out import KEPT, draft_of
from ypsicline.server.views.drawn import box_of, polyline, ways_of

__all__ = ["PanelView", "panel_view"]

_BEAD_MM = 14
_NO_LENGTHS = frozenset({"count", "ratio", "turn_deg", "slit_deg"})
_NOT_ASKED = frozenset({"id", "kind", "ring"})
_PAIRS = frozenset({"at", "size", "to"})


@dataclass(frozen=True)
class SeamEdgeView:
    """An edge on the table, which leaves its start and arrives at its end in the directions `ways`. `band` is its allowance as
    a closed path between seam line and parallel, `folds` the lines at which it is folded. `of` is the id of the edge that
    the maker sets, None for an aperture's; of parts of it that run on into one another `main_part` is the longest, and `length`
    that of all of them; `corner_set` what is set there, `corner` what it comes to; `rule` the sum of its allowance. It
    `folds_back` on its seam line, is cut `on_seam`, or is `bare`: to be sewn, with nothing to do it with."""

    of: str | None
    name: str
    own_name: str
    main_part: bool
    kind: str
    path: str
    band: str
    folds: list[str]
    start: tuple[float, float]
    middle: tuple[float, float]
    outward: tuple[float, float]
    ways: tuple[tuple[float, float], tuple[float, float]]
    length: str
    allowance: str
    finish: str
    folds_back: bool
    on_seam: bool
    bare: bool
    corner: str
    corner_set: str
    by_rule: bool
    rule: str
    turn_under: str
    cord: str
    elastic: str
    radius: str | None
    beads: list[tuple[float, float]]


@dataclass(frozen=True)
class FeatureView:
    """A feature: its kind, what it is in words, the id of the `edge` that it stands on, where it lies on the drafted panel
    (None for what is everywhere), and its `values` as they are typed into the form that changes it; of a pair, each by itself
    (`at_0`, `at_1`). `exact` are the lengths among them that are shown rounded, in mm."""

    id: str
    kind: str
    words: str
    edge: str | None
    lies_at: Point | None
    values: dict[str, str]
    exact: dict[str, float]


@dataclass(frozen=True)
class MarkView:
    """A mark drawn on the panel, see `Mark`; its words are ready to be read."""

    kind: str
    points: list[tuple[float, float]]
    lines: list[str]
    size_mm: float
    dashed: bool


@dataclass(frozen=True)
class FindingView:
    id: str
    severity: Severity
    sentence: str
    place: Place


@dataclass(frozen=True)
class DraftView:
    """What of drafting is drawn and read beside the rings: `fit` is the sum of the ease, `workings` all sums; `corners` are
    those of the cutting line."""

    notches: list[DraftedNotch]
    marks: list[MarkView]
    fit: list[str]
    workings: list[str]
    findings: list[FindingView]
    corners: list[tuple[float, float]]


@dataclass(frozen=True)
class PanelView:
    """A panel; `refusal` says why where it can't be drafted. `hems` are the hems as they lie folded, `as_set` leads from a
    place on it back to the outline as it was set, see `inside.as_set`. `companions` are layers and facings that follow
    from it."""

    id: str
    name: str
    cloth: str
    count: int
    hand: str
    on_fold: bool
    grain_deg: float
    way_up: str
    mitre_limit: float
    instruction: str
    rings: list[list[SeamEdgeView]]
    cutting_lines: list[str]
    draft: DraftView | None
    refusal: str | None
    box: tuple[float, float, float, float]
    width: str
    height: str
    notch_texts: list[str]
    hems: list[str]
    hem_cloth: list[str]
    fit: dict[str, str]
    has_ease: bool
    features: list[FeatureView]
    lies: Lies | None
    as_set: Transform | None
    companions: list[PanelView]


@lru_cache(maxsize=KEPT)
def panel_view(panel: Panel, unit: Unit, house: House) -> PanelView:
    """The panel as it is shown, with what follows from it."""
    draft, _ = draft_of(panel)
    following = [_alone(c, unit, house) for c in companions(panel, draft, house)] if draft else []
    return replace(_alone(panel, unit, house), companions=following)


def _alone(panel: Panel, unit: Unit, house: House) -> PanelView:
    draft, refusal = draft_of(panel)
    as_drawn = draft or panel
    rules = house.rules_for(panel.cloth)
    set_as = {e.id: e for ring in panel.rings() for e in ring}

    def set_ids(edges: Sequence[SeamEdge], ring: int) -> list[str]:
        if draft and ring >= draft.own_rings:
            return [""] * len(edges)
        return list(draft.seam_of) if draft and ring == 0 else [e.id for e in edges]

    def views(edges: Sequence[SeamEdge], ring: int) -> list[SeamEdgeView]:
        ids = set_ids(edges, ring)
        lengths = [edge_length(e) for e in edges]
        parts_of = {k: parts for parts in called_alike(edges, ids) for k in parts}
        result = []
        for k, (edge, of) in enumerate(zip(edges, ids, strict=True)):
            rule = render(edge.allowance_by_rule(rules).working, unit)
            is_main = k == max(parts_of[k], key=lengths.__getitem__)
            length = sum(lengths[part] for part in parts_of[k])
            result.append(_seam_edge(edge, of or None, set_as[of] if of else edge, rule, unit, is_main, length))
        return result

    rings = [views(ring, r) for r, ring in enumerate(as_drawn.rings())]
    cutting_lines = [path_data(draft.cutting_line), *(path_data(h) for h in draft.hole_cutting_lines)] if draft else []
    points = draft.cutting_points if draft else [p for e in panel.seam_line for p in e.points]
    way_back = as_set(panel) if draft else None
    seam = box_of(draft.seam_points if draft else points)
    return PanelView(
        panel.id, panel.name, panel.cloth, panel.count, panel.hand, panel.on_fold, panel.grain_deg, render(panel.way_up, unit), panel.mitre_limit,
        render(instruction(panel), unit), rings, cutting_lines, _draft(draft, unit) if draft else None,
        refusal.render(unit) if refusal else None, box_of(points), show_length(seam[2], unit), show_length(seam[3], unit),
        [show_length(n.along_mm, unit) for n in (draft.notches if draft else ())],
        [polyline(f) for f in draft.folded if f] if draft else [],
        [polyline(h) for h in draft.hem_cloth if h] if draft else [],
        _fit_values(panel.fit or Fit(), unit), (panel.fit or Fit()).has_ease, _features(panel, unit, way_back), panel.lies,
        way_back, [],
    )  # fmt: skip


def _draft(draft: DraftedPanel, unit: Unit) -> DraftView:
    findings = [FindingView(f.id, f.severity, render(f.message, unit), f.place) for f in draft.findings]
    marks = [_mark_view(m, unit) for m in draft.marks]
    fit = [render(line, unit) for line in draft.workings if line.code.startswith("fit_")]
    return DraftView(
        list(draft.notches), marks, fit, [render(line, unit) for line in draft.workings], findings,
        [e.points[0] for e in draft.cutting_line],
    )  # fmt: skip


def _seam_edge(
    edge: SeamEdge, of: str | None, own: SeamEdge, rule: str, unit: Unit, is_main: bool, length_mm: float
) -> SeamEdgeView:
    band, folds = "", []
    if edge.allowance > 0:
        outer = parallel(edge, edge.allowance)
        band = path_data([edge, Edge("line", (edge.end, outer.end)), reverse_edge(outer)])
        if edge.is_folded_back and edge.turn_under > 0:
            folds = [path_data([parallel(edge, edge.depth)]).removesuffix(" Z")]
    circle = circle_of(edge) if edge.kind == "arc" else None
    dx, dy = tangent_at(edge, 0.5)
    length = edge_length(edge)
    beads = []
    if edge.finishing.is_bound:
        count = max(2, round(length / _BEAD_MM))
        beads = [point_at(edge, parameter_at_length(edge, (k + 0.5) * length / count)) for k in range(count)]
    return SeamEdgeView(
        of, edge.name, own.name, is_main, edge.kind, path_data([edge]).removesuffix(" Z"), band, folds, edge.start, point_at(edge, 0.5),
        (dy, -dx), ways_of(edge), show_length(length_mm, unit), show_set_length(edge.allowance, unit), edge.finish,
        edge.is_folded_back, edge.is_cut_on_seam, edge.is_bare, edge.corner,
        own.corner, edge.by_rule, rule, show_set_length(edge.turn_under, unit), _length_text(edge.cord_mm, unit), _length_text(edge.elastic_mm, unit),
        show_length(circle.radius, unit) if circle else None, beads,
    )  # fmt: skip


def _length_text(mm: float, unit: Unit) -> str:
    return show_set_length(mm, unit) if mm else ""


def _fit_values(fit: Fit, unit: Unit) -> dict[str, str]:
    values = {f.name: _length_text(getattr(fit, f.name), unit) for f in fields(fit)[1:6]}
    return {
        "percent": f"{fit.percent:g}" if fit.percent else "",
        **values,
        "warp_stretched": f"{100 * fit.stretched[0]:g}" if fit.stretched[0] else "",
        "weft_stretched": f"{100 * fit.stretched[1]:g}" if fit.stretched[1] else "",
    }


def _mark_view(mark: Mark, unit: Unit) -> MarkView:
    lines = list(render_all(mark.lines, unit))
    return MarkView(mark.kind, list(mark.points), lines, letters_mm(mark, lines), mark.is_dashed)


def _features(panel: Panel, unit: Unit, way_back: Transform | None) -> list[FeatureView]:
    names = {e.id: e.name for e in panel.seam_line}
    return [
        FeatureView(
            f.id,
            f.kind,
            render(f.words(names), unit),
            getattr(f.anchor, "edge", None),
            _drafted_at(panel, f, way_back),
            *_values(f, unit),
        )
        for f in panel.features
        if f.is_listed
    ]


def _drafted_at(panel: Panel, feature: Feature, way_back: Transform | None) -> Point | None:
    at = place_of(feature.anchor, panel.seam_line) if feature.anchor else None
    return way_back.inverse().point(at) if at and way_back else at


def _values(feature: Any, unit: Unit) -> tuple[dict[str, str], dict[str, float]]:
    """The fields of a feature as a maker types them, lengths in the job's unit; and those that this rounds, in mm."""
    parts: dict[str, Any] = {}
    for name in (f.name for f in fields(feature) if f.name not in _NOT_ASKED):
        value = getattr(feature, name)
        if name in _PAIRS:
            parts |= {f"{name}_{k}": part for k, part in enumerate(value or (None, None))}
        else:
            parts[name] = value
    values = {name: _value_text(name, value, unit) for name, value in parts.items()}
    lengths = {n: v for n, v in parts.items() if isinstance(v, float) and n not in _NO_LENGTHS}
    return values, {n: mm for n, mm in lengths.items() if is_rounded(mm, unit)}


def _value_text(name: str, value: Any, unit: Unit) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else ""
    if isinstance(value, tuple):
        return "; ".join(_value_text(name, v, unit) for v in value)
    if isinstance(value, (int, float)):
        return f"{value:g}" if name in _NO_LENGTHS else show_set_length(value, unit)
    return str(value)
