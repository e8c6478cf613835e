"""Drafting a panel: cutting line, notches, marks, the worked lines, and what to look at."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields, replace
from functools import lru_cache

import shapely

from ypsicline.core.drafting.bent_hems import bent_hem_findings
from ypsicline.core.drafting.companions import companions
from ypsicline.core.drafting.corners import THINNEST_RAD, corner_by_rule
from ypsicline.core.drafting.cutting_line import CutRing, cut_ring
from ypsicline.core.drafting.fit import fit_ring
from ypsicline.core.drafting.folding import fold_hems, folding_findings
from ypsicline.core.drafting.house import House
from ypsicline.core.drafting.inside import with_inside_fitted
from ypsicline.core.drafting.intakes import intake_findings, sewn_lengths
from ypsicline.core.drafting.marks import fold_line_marks, label_and_grain, on_fold_marks, strengthened
from ypsicline.core.drafting.relief import relief_marks
from ypsicline.core.drafting.workings import alike_together, length_lines
from ypsicline.core.errors import Place, Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.bends import tightest_concave
from ypsicline.core.geometry.edges import Array, Point, edge_length, place_at_length, point_at
from ypsicline.core.geometry.rings import check_ring, corner_turns, flatten_ring, reverse_ring, signed_area
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.features.feature import DrawnOnSeam, Intake
from ypsicline.core.pattern.features.notch import Notch, notches_of
from ypsicline.core.pattern.finish import CutOnSeam
from ypsicline.core.pattern.ids import once_each
from ypsicline.core.pattern.mark import DraftedNotch
from ypsicline.core.pattern.panel import DraftedPanel, Panel
from ypsicline.core.pattern.run import Run, by_source, placed_on, runs_of
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["cached_draft", "draft_panel", "draft_panels", "intakes_of", "seam_runs", "without_companions"]

NOTCH_AT_MOST_MM = 6.0
LEAST_NOTCHED_ALLOWANCE_MM = 4.0


def draft_panels(panels: Sequence[Panel], house: House | None = None) -> tuple[DraftedPanel, ...]:
    """Each panel drafted, and after it what goes with it: its layers (in the cloths of the `house`) and facings; the
    last few hundred are remembered. Two panels may not share a name. Raises `Refusal` where they do, and where a
    panel can't be drafted."""
    _named_apart(panels)
    every: list[DraftedPanel] = []
    for panel in panels:
        draft = cached_draft(panel)
        every += (draft, *(cached_draft(c) for c in companions(panel, draft, house)))
    _named_apart(every)
    return tuple(every)


def _named_apart(panels: Sequence[Panel]) -> None:
    names: set[str] = set()
    for p in panels:
        if p.name in names:
            raise Refusal(message("panel_name_twice", panel=p.name), "name", Place(panel=p.name))
        names.add(p.name)


def without_companions(drafts: Sequence[DraftedPanel], panels: Sequence[Panel]) -> list[DraftedPanel]:
    """Of all that was drafted of `panels` only they themselves; layers and facings have their panel's id, but not its name."""
    names = {p.name for p in panels}
    return [p for p in drafts if p.name in names]


def draft_panel(panel: Panel) -> DraftedPanel:
    """The panel with its cutting line and marks.

    Holes may run either way round and come back clockwise. Raises `Refusal` with the place: a
    seam line that is open, clockwise, or touches itself; a hole that isn't inside; a hole that
    its allowance fills; a notch beyond its edge.
    """
    try:
        return _draft(panel)
    except Refusal as e:
        e.place = replace(e.place, panel=panel.name)
        e.message = message("in_panel", panel=panel.name, refusal=e.message)
        raise


cached_draft = lru_cache(maxsize=256)(draft_panel)
"""`draft_panel`, remembered for as long as a panel stays the same."""


def seam_runs(panel: Panel) -> list[Run]:
    """The edges of the drafted seam line and which edges of the panel they come from: fit, darts and tapers are in."""
    base = _name_edges(panel.seam_line)
    _sound(base)
    return _seam(panel, base).runs


def intakes_of(panel: Panel) -> list[Intake]:
    """What darts and pleats take out of the edges of a panel. Raises `Refusal` where one of them doesn't fit."""
    return _seam(panel, _name_edges(panel.seam_line)).intakes


def _sound(seam: tuple[SeamEdge, ...]) -> Array:
    """The flattened seam line, once it is known to be one."""
    points = check_ring(seam, [e.name for e in seam], message("ring_seam_line"))
    if signed_area(points) <= 0:
        raise Refusal(message("seam_line_clockwise"), "outline")
    return points


@dataclass(frozen=True)
class _Seam:
    """The seam line that fit and features make of the panel's; the `panel` with what lies inside fitted; what the cloth's
    stretch and shrinkage do to an opening (2, 2); and what is taken out of the edges."""

    runs: list[Run]
    drawings: list[DrawnOnSeam]
    workings: list[Message]
    findings: list[Finding]
    panel: Panel
    cloth: Transform | None

    @property
    def intakes(self) -> list[Intake]:
        return [d.intake for d in self.drawings if d.intake]


def _seam(panel: Panel, base: tuple[SeamEdge, ...]) -> _Seam:
    runs = runs_of(base)
    workings: list[Message] = []
    cloth = None
    if panel.fit:
        ring = fit_ring(runs, panel.fit, panel.grain_deg)
        runs, workings = ring.runs, list(ring.workings)
        panel = with_inside_fitted(panel, ring)
        cloth = None if ring.is_cloth_still else ring.cloth
    before, on_drawing = runs, []
    for feature in sorted(panel.features, key=lambda f: f.stage):
        if on_seam := feature.on_seam(runs):
            runs = on_seam.runs
            on_drawing.append(on_seam)
    lines, findings = sewn_lengths(before, [d.intake for d in on_drawing if d.intake])
    workings += [*(d.working for d in on_drawing if d.working), *lines]
    return _Seam(runs, on_drawing, workings, [*(f for d in on_drawing for f in d.findings), *findings], panel, cloth)


def _draft(panel: Panel) -> DraftedPanel:
    base = _name_edges(panel.seam_line)
    seam_points = _sound(base)
    on_seam = _seam(panel, base)
    runs, findings, panel = on_seam.runs, on_seam.findings, on_seam.panel
    seam = _with_corners(once_each("edge", [r.edge for r in runs], (e.id for h in panel.holes for e in h)))
    if len(runs) != len(base) or any(r.edge is not e for r, e in zip(runs, base, strict=True)):
        seam_points = check_ring(seam, [e.name for e in seam], message("ring_seam_line"))
    holes = tuple(_hole(h, k, seam_points) for k, h in enumerate(panel.holes))
    own_rings = 1 + len(holes)
    inside = [part for f in panel.features if (part := f.inside(seam, seam_points, on_seam.cloth))]
    named_holes = [(message("hole_number", number=k + 1), flatten_ring(h)) for k, h in enumerate(holes)]
    named_holes += [(message("opening_called", opening=d.name), flatten_ring(d.opening)) for d in inside if d.opening]
    findings += intake_findings(runs, on_seam.intakes, seam_points, named_holes)
    holes += tuple(_with_corners(d.ring) for d in inside if d.ring)
    _apart(holes)
    (cut,) = cut_ring(seam, mitre_limit=panel.mitre_limit)
    hole_cuts = [ring for h in holes for ring in cut_ring(h, hole=True, mitre_limit=panel.mitre_limit)]
    cutting_points = flatten_ring(cut.edges)
    findings += [*_cut_findings(seam, cut), *bent_hem_findings(seam), *_bare_findings(seam)]
    marks = [m for d in on_seam.drawings for m in d.marks]
    marks += [*fold_line_marks(seam), *relief_marks(seam)]
    for h in holes:
        findings += [*bent_hem_findings(h), *_bare_findings(h)]
        marks += [*fold_line_marks(h), *relief_marks(h, hole=True)]
    for d in inside:
        findings += d.findings
        marks += d.marks
    on_fold, fold_findings = on_fold_marks(panel, seam)
    hems = fold_hems(seam, cutting_points)
    notches, notch_findings = _notches(panel, runs, base)
    findings += [*fold_findings, *folding_findings(seam, hems), *notch_findings]
    of_panel = {f.name: getattr(panel, f.name) for f in fields(Panel)}
    # what was asked for is in the seam line now: drafted again, it stays the same
    of_panel.update(seam_line=seam, holes=holes, middle_notches=False, features=(), fit=None)
    return DraftedPanel(
        **of_panel,
        cutting_line=cut.edges,
        cutting_points=_points(cutting_points),
        seam_points=_points(seam_points),
        hole_cutting_lines=tuple(r.edges for r in hole_cuts),
        hole_cutting_points=tuple(_points(flatten_ring(r.edges)) for r in hole_cuts),
        hole_seam_points=tuple(_points(flatten_ring(h)) for h in holes),
        notches=notches,
        marks=(*label_and_grain(panel, seam_points, holes), *strengthened(seam, [*marks, *on_fold])),
        workings=(
            *on_seam.workings,
            *alike_together(line for d in inside for line in d.workings),
            *length_lines(runs, seam, holes, seam_points, cutting_points),
        ),
        findings=tuple(replace(f, place=replace(f.place, panel=panel.name)) for f in _once(findings)),
        seam_of=tuple(r.source for r in runs),
        own_rings=own_rings,
        folded=tuple(h.outline for h in hems),
        hem_cloth=tuple(h.cloth for h in hems),
    )


def _once(findings: Sequence[Finding]) -> tuple[Finding, ...]:
    """Each said once, with the largest of its first figures: an edge in several parts would say the same of each."""
    worst: dict[str, Finding] = {}
    for f in findings:
        before = worst.setdefault(f.id, f)
        if _first_figure(f) > _first_figure(before):
            worst[f.id] = f
    return tuple(worst.values())


def _first_figure(finding: Finding) -> float:
    return next(iter(finding.message.numbers.values()), 0.0)


def _with_corners(ring: Sequence[SeamEdge]) -> tuple[SeamEdge, ...]:
    """The ring with every corner that was left to the rule decided."""
    count = len(ring)
    return tuple(
        replace(e, corner=corner_by_rule(e, ring[(k + 1) % count])) if e.corner == "by_rule" else e
        for k, e in enumerate(ring)
    )


def _name_edges(edges: Sequence[SeamEdge], before: str = "") -> tuple[SeamEdge, ...]:
    return tuple(e if e.name else replace(e, name=f"{before}{k + 1}") for k, e in enumerate(edges))


def _hole(edges: Sequence[SeamEdge], k: int, seam_points: Array) -> tuple[SeamEdge, ...]:
    hole = _name_edges(edges, f"hole {k + 1}.")
    points = check_ring(hole, [e.name for e in hole], message("ring_of_hole", number=k + 1))
    if not shapely.contains_properly(shapely.Polygon(seam_points), shapely.Polygon(points)):
        raise Refusal(message("hole_outside_panel", hole=k + 1), "hole", Place(edge=hole[0].name, point=hole[0].start))
    if signed_area(points) < 0:
        return hole
    ring = reverse_ring(hole)
    # the corner belongs to the end of an edge: turned round, it is the one before's
    return tuple(replace(e, corner=ring[(i + 1) % len(ring)].corner) for i, e in enumerate(ring))


def _apart(holes: Sequence[Sequence[SeamEdge]]) -> None:
    shapes = [shapely.Polygon(flatten_ring(h)) for h in holes]
    for i, a in enumerate(shapes):
        for j in range(i + 1, len(shapes)):
            if shapely.intersects(a, shapes[j]):
                raise Refusal(message("holes_overlap", hole=i + 1, other=j + 1), "hole")


def _cut_findings(seam: Sequence[SeamEdge], cut: CutRing) -> list[Finding]:
    findings = []
    for i in cut.cut_short:
        edge = seam[i]
        radius = tightest_concave(edge)
        place = Place(edge=edge.name, point=point_at(edge, 0.5))
        if radius is not None and radius < edge.allowance:
            text = message("allowance_loses_loop", edge=edge.name, radius_mm=radius, allowance_mm=edge.allowance)
        else:
            text = message("allowance_cut_short", edge=edge.name)
        findings.append(Finding("look", text, place))
    for i in sorted({*cut.cut_across, *cut.flares}):
        first, second = seam[i], seam[(i + 1) % len(seam)]
        text = message("corner_flares" if i in cut.flares else "corner_cut_across", edge=first.name, other=second.name)
        findings.append(Finding("look", text, Place(edge=first.name, point=first.end)))
    for i, (_, _, turn) in enumerate(corner_turns(seam)):
        if abs(turn) > math.pi - THINNEST_RAD:
            first, second = seam[i], seam[(i + 1) % len(seam)]
            text = message("point_too_thin", edge=first.name, other=second.name)
            findings.append(Finding("look", text, Place(edge=first.name, point=first.end)))
    findings += [Finding("look", message("inlet_closes"), Place(point=at)) for at in cut.closed_at]
    return findings


def _bare_findings(ring: Sequence[SeamEdge]) -> list[Finding]:
    """Edges that are cut on the seam line and have an allowance."""
    findings = []
    for edge in ring:
        if isinstance(how := edge.finishing, CutOnSeam) and edge.allowance > 0:
            text = how.stray_allowance(edge.name, edge.allowance)
            findings.append(Finding("look", text, Place(edge=edge.name)))
    return findings


def _notches(
    panel: Panel, runs: Sequence[Run], base: Sequence[SeamEdge]
) -> tuple[tuple[DraftedNotch, ...], list[Finding]]:
    """The panel's notches where its edges `base` ended up."""
    notches: list[DraftedNotch] = []
    findings: list[Finding] = []
    of, edges = by_source(runs), {e.id: e for e in base}
    for n in notches_of(replace(panel, seam_line=tuple(base))):
        edge, own = _edge_notched(n, edges), of.get(n.edge, [])
        whole = len(own) == 1 and runs[own[0]].edge is edge
        place = (own[0], n.along) if whole else placed_on(runs, own, n.along / edge_length(edge))
        if place is None:
            text = message("notch_cut_away", edge=edge.name)
            findings.append(Finding("look", text, Place(edge=edge.name)))
            continue
        k, along_mm = place
        edge = runs[k].edge
        on_seam, (dx, dy) = place_at_length(edge, along_mm)
        on_cut = (on_seam[0] + edge.allowance * dy, on_seam[1] - edge.allowance * dx)
        depth = min(edge.allowance / 2, NOTCH_AT_MOST_MM)
        if 0 < edge.allowance < LEAST_NOTCHED_ALLOWANCE_MM:
            text = message("allowance_too_narrow_to_notch", edge=edge.name, allowance_mm=edge.allowance)
            findings.append(Finding("look", text, Place(edge=edge.name, point=on_seam)))
        notches.append(DraftedNotch(k, along_mm, n.double, on_seam, on_cut, depth, n.id))
    return tuple(notches), findings


def _edge_notched(notch: Notch, edges: Mapping[str, SeamEdge]) -> SeamEdge:
    """The edge that a notch stands on, once it is known to stand on it."""
    edge = edges.get(notch.edge)
    if edge is None:
        raise Refusal(message("notch_on_no_edge"), "notch")
    length = edge_length(edge)
    if not 0 <= notch.along <= length + 1e-6:
        text = message("notch_off_its_edge", along_mm=notch.along, edge=edge.name, length_mm=length)
        raise Refusal(text, "notch", Place(edge=edge.name))
    return edge


def _points(a: Array) -> tuple[Point, ...]:
    return tuple(map(tuple, a.tolist()))
