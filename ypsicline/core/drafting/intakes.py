"""What darts and pleats leave of each edge, and which of them can't be sewn as they stand."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import combinations, pairwise

import shapely

from ypsicline.core.errors import Place
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import Array, edge_length
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.features.feature import Intake
from ypsicline.core.pattern.run import Run, by_source

__all__ = ["intake_findings", "sewn_lengths"]

_TOUCH_MM = 0.01


def sewn_lengths(runs: Sequence[Run], intakes: Sequence[Intake]) -> tuple[list[Message], list[Finding]]:
    """Of each edge that something is taken out of, the sum that says how long it is sewn; a finding where nothing is left.

    `runs` are the edges before anything was taken out of them.
    """
    lines: list[Message] = []
    findings: list[Finding] = []
    for source, own in by_source(runs).items():
        of_darts = [
            (i.what, mm)
            for i in intakes
            for (edge, _, _), mm in zip(i.spans, i.mm, strict=True)
            if edge == source
        ]  # fmt: skip
        if not of_darts:
            continue
        name = runs[own[0]].edge.name
        whole = sum(edge_length(runs[k].edge) for k in own)
        rest = whole - sum(mm for _, mm in of_darts)
        minus = tuple(message("dart_taken" if what == "dart" else "pleat_taken", taken_mm=mm) for what, mm in of_darts)
        lines.append(message("edge_sewn", edge=name, length_mm=whole, taken=minus, left_mm=rest))
        if rest <= _TOUCH_MM:
            text = message("edge_taken_in_whole", edge=name, taken_mm=whole - rest, length_mm=whole)
            findings.append(Finding("stop", text, Place(edge=name)))
    return lines, findings


def intake_findings(
    runs: Sequence[Run], intakes: Sequence[Intake], seam_points: Array, openings: Sequence[tuple[Message, Array]]
) -> list[Finding]:
    """Darts whose point lies outside the panel (its flattened seam line), that cross one another or one of the named
    `openings`; and what lies on another along its edge."""
    body = shapely.Polygon(seam_points).buffer(_TOUCH_MM)
    names = {r.source: r.edge.name for r in reversed(runs)}
    holes = [(what, shapely.Polygon(ring)) for what, ring in openings]
    wedges = [(i, shapely.Polygon(i.wedge), names.get(i.spans[0][0], "")) for i in intakes if i.wedge]
    findings = []
    for intake, wedge, name in wedges:
        _, point, _ = intake.wedge
        if not shapely.contains_xy(body, *point):
            text = message("dart_point_outside", edge=name)
            findings.append(Finding("stop", text, Place(edge=name, point=point)))
        for what, hole in holes:
            if wedge.intersects(hole):
                text = message("dart_through_opening", edge=name, opening=what)
                findings.append(Finding("stop", text, Place(edge=name, point=point)))
    for (_, one, name), (other_intake, other, other_name) in combinations(wedges, 2):
        if one.intersection(other).area > _TOUCH_MM:
            text = message("darts_cross", edge=name, other=other_name)
            text = text if name != other_name else message("darts_of_edge_cross", edge=name)
            point = other_intake.wedge[1]
            findings.append(Finding("stop", text, Place(edge=name, point=point)))
    return findings + _overlaps(intakes, names)


def _overlaps(intakes: Sequence[Intake], names: dict[str, str]) -> list[Finding]:
    findings = []
    for source, name in names.items():
        spans = sorted((low, high, i.what) for i in intakes for edge, low, high in i.spans if edge == source)
        for (_, high, what), (low, _, other) in pairwise(spans):
            if high > low + _TOUCH_MM:
                which = message("dart_and_pleat" if what != other else "two_darts" if what == "dart" else "two_pleats")
                text = message("intakes_overlap", which=which, edge=name, over_mm=high - low)
                findings.append(Finding("stop", text, Place(edge=name)))
    return findings
