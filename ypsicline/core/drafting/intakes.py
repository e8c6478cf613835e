"""What darts and pleats leave of each edge, and which of them can't be sewn as they stand."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import combinations, pairwise

import shapely

from ypsicline.core.errors import Place
from ypsicline.core.findings import Finding, numbers
from ypsicline.core.geometry.edges import Array, edge_length
from ypsicline.core.pattern.features.feature import Intake
from ypsicline.core.pattern.run import Run, by_source

__all__ = ["intake_findings", "sewn_lengths"]

_TOUCH_MM = 0.01


def sewn_lengths(runs: Sequence[Run], intakes: Sequence[Intake]) -> tuple[list[str], list[Finding]]:
    """Of each edge that something is taken out of, the sum that says how long it is sewn; a finding where nothing is left.

    `runs` are the edges before anything was taken out of them.
    """
    lines, findings = [], []
    for source, own in by_source(runs).items():
        taken = [
            (i.what, mm)
            for i in intakes
            for (edge, _, _), mm in zip(i.spans, i.mm, strict=True)
            if edge == source
        ]  # fmt: skip
        if not taken:
            continue
        name = runs[own[0]].edge.name
        whole = sum(edge_length(runs[k].edge) for k in own)
        left = whole - sum(mm for _, mm in taken)
        minus = "".join(f" − {mm:.1f} {what}" for what, mm in taken)
        lines.append(f"{name} sewn: {whole:.1f}{minus} = {left:.1f}")
        if left <= _TOUCH_MM:
            text = f"The darts and pleats on “{name}” take in all of its length and more; take in less."
            findings.append(Finding("stop", text, Place(edge=name), numbers(taken_mm=whole - left, length_mm=whole)))
    return lines, findings


def intake_findings(
    runs: Sequence[Run], intakes: Sequence[Intake], seam_points: Array, openings: Sequence[tuple[str, Array]]
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
            text = f"The point of the dart on “{name}” lies outside the panel; make the dart shorter."
            findings.append(Finding("stop", text, Place(edge=name, point=point)))
        for what, hole in holes:
            if wedge.intersects(hole):
                text = f"The dart on “{name}” runs through {what}; move one of them or make the dart shorter."
                findings.append(Finding("stop", text, Place(edge=name, point=point)))
    for (_, one, name), (other_intake, other, other_name) in combinations(wedges, 2):
        if one.intersection(other).area > _TOUCH_MM:
            where = (
                f"The darts on “{name}” and “{other_name}” cross"
                if name != other_name
                else f"Two darts on “{name}” cross"
            )
            point = other_intake.wedge[1]
            findings.append(
                Finding("stop", f"{where}; make them shorter or move them apart.", Place(edge=name, point=point))
            )
    return findings + _overlaps(intakes, names)


def _overlaps(intakes: Sequence[Intake], names: dict[str, str]) -> list[Finding]:
    findings = []
    for source, name in names.items():
        spans = sorted((low, high, i.what) for i in intakes for edge, low, high in i.spans if edge == source)
        for (_, high, what), (low, _, other) in pairwise(spans):
            if high > low + _TOUCH_MM:
                which = f"Two {what}s" if what == other else f"A {what} and a {other}"
                text = f"{which} on “{name}” lie on one another; set them farther apart or take in less."
                findings.append(Finding("stop", text, Place(edge=name), numbers(over_mm=high - low)))
    return findings
