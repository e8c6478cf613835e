"""A cover that drops over a plan and tucks under it, in one sheet (rules 6 and 8)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import shapely

from ypsicline.core.covers.cover import Cover, put_together
from ypsicline.core.covers.family import Choices, Family
from ypsicline.core.covers.notion import Notion
from ypsicline.core.covers.parts.casing import Casing, cord_casing, elastic_casing
from ypsicline.core.covers.parts.edging import Edging, panel
from ypsicline.core.covers.parts.goods import cord, elastic
from ypsicline.core.covers.parts.needed import needed
from ypsicline.core.covers.parts.outline import OutlineEdges, with_edging
from ypsicline.core.covers.suits import Suits
from ypsicline.core.drafting.draft import seam_runs
from ypsicline.core.drafting.drop import drop_corner, with_drop
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import Edge, circle_of, edge_length, place_at_length
from ypsicline.core.geometry.plane import along
from ypsicline.core.geometry.rings import flatten_ring, ring_length
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.features.dart import Dart
from ypsicline.core.pattern.features.mark_at import MarkAt
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.trueing.measured import corner_radius, rectangle
from ypsicline.core.typed import Length, LengthIfTyped, LengthOrNone, Share

__all__ = ["DropCover", "DropCoverChoices", "DropCoverMeasures", "DropCoverShapes"]

LEAST_TUCK_MM, LEAST_TUCK_SHARE = 30.0, 0.1
# what is told to take instead is a whole number of these, mm
STEP_MM = 5.0


@dataclass(frozen=True)
class DropCoverMeasures:
    """The plan's width and length, the `diagonal` through its rounded corners or their radius; how far it drops, and how far
    its edge tucks under."""

    drop: Length
    width: LengthIfTyped = None
    length: LengthIfTyped = None
    diagonal: LengthIfTyped = None
    corner_radius: LengthIfTyped = None
    tuck_under: LengthOrNone = 0.0
    dart_intake: LengthIfTyped = None

    def __post_init__(self) -> None:
        within(message("figure_drop"), self.drop, 5, 3000)
        within(message("figure_tuck_under"), self.tuck_under, 0, 1000)
        if self.diagonal is not None and self.corner_radius is not None:
            raise Refusal(message("diagonal_or_radius"), "measure")


@dataclass(frozen=True)
class DropCoverShapes:
    """The `plan`'s outline, in the place of its measures."""

    plan: OutlineEdges = ()


@dataclass(frozen=True)
class DropCoverChoices(Choices):
    """How the corners are taken in; what runs in the hem and where it comes out; how wide the hinges are that the edge
    keeps clear of, along the back."""

    corners: Literal["dart", "pleats"] = "dart"
    pleats: int = 2
    casing: Literal["cord", "elastic", "none"] = "cord"
    cord: Length = 5.0
    cord_tails: Length = 300.0
    lock: Literal["outside", "inside"] = "outside"
    elastic_width: Length = 10.0
    elastic_reduction: Share = 0.1
    exits_from_corner: LengthOrNone = 60.0
    hinge_clearance: LengthOrNone = 0.0

    def __post_init__(self) -> None:
        super().__post_init__()
        within(message("figure_number_of_pleats"), self.pleats, 1, 12, "")
        within(message("figure_cord_exits_from_the_corner"), self.exits_from_corner, 0, 2000)


@dataclass(frozen=True)
class DropCover(Family):
    """One sheet with darts or pleats at its corners, drawn in round its edge."""

    measures: DropCoverMeasures
    choices: DropCoverChoices = DropCoverChoices()
    shapes: DropCoverShapes = DropCoverShapes()
    family: Literal["drop_cover"] = "drop_cover"

    suits = (
        Suits("goes_on", "cord under", "casing", "cord", message("suits_cord_under")),
        Suits("goes_on", "pulled over", "casing", "elastic", message("suits_pulled_over")),
    )

    def cover(self, house: House) -> Cover:
        m, c = self.measures, self.choices
        plan, workings = self._plan()
        casing = self._casing(house)
        edging = casing.edging if casing else Edging("hem")
        flat = panel("sheet", "sheet", with_edging(plan, edging), cloth=c.cloth)
        sheet = with_drop(flat, m.drop, m.tuck_under, how=c.corners, pleats=c.pleats)
        sheet, more = self._darts_as_pinned(sheet)
        findings = [*more, *self._hooks_under(plan), *self._marks_clear(sheet)]
        workings += self._corner_sums(plan)
        if casing:
            workings.append(casing.working)
        under = self._closed_line(plan)
        notions: list[Notion] = []
        if c.casing == "cord":
            notions += [
                cord(under, c.cord_tails, c.cord),
                Notion("cord_lock", message("locks_for_exits", count=1), 1, size_mm=c.cord),
            ]
            workings.append(message("lock_inside" if c.lock == "inside" else "lock_outside"))
            sheet = self._with_exits(sheet)
        elif c.casing == "elastic":
            notions.append(elastic(under, c.elastic_reduction, c.elastic_width))
        workings.append(message("closed_line", under_mm=under, plan_mm=ring_length(plan)))
        if c.casing != "none" and under >= ring_length(plan) - 1:
            findings.append(Finding("stop", message("closed_line_too_long", under_mm=under, plan_mm=ring_length(plan))))
        return put_together([sheet], [], house, notions=notions, workings=workings, findings=findings)

    def _plan(self) -> tuple[tuple[Edge, ...], list[Message]]:
        m = self.measures
        if self.shapes.plan:
            return self.shapes.plan, []
        width, length = needed(width=m.width, length=m.length)
        if m.diagonal is None:
            return rectangle(width, length, radius=m.corner_radius).edges, []
        plan = rectangle(width, length, diagonal=m.diagonal)
        names = {"width_mm": width, "length_mm": length, "radius_mm": corner_radius(width, length, m.diagonal)}
        return plan.edges, [message("radius_of_diagonal", diagonal_mm=m.diagonal, **names)]

    def _casing(self, house: House) -> Casing | None:
        c = self.choices
        rules = house.rules_for(c.cloth)
        if c.casing == "none":
            return None
        return cord_casing(rules, c.cord) if c.casing == "cord" else elastic_casing(rules, c.elastic_width)

    def _darts_as_pinned(self, sheet: Panel) -> tuple[Panel, list[Finding]]:
        """A dart that was pinned on the object overrules the sum at all corners that agree with it, and is held against it."""
        pinned = self.measures.dart_intake
        darts = sheet.of(Dart)
        if pinned is None or not darts:
            return sheet, []
        within(message("figure_dart_intake"), pinned, 1, 4000)
        first = darts[0].intake
        alike = [d for d in darts if abs(d.intake - first) < 0.01 * first]
        features = (*sheet.without(Dart), *(replace(d, intake=pinned) if d in alike else d for d in darts))
        figures = {"pinned_mm": pinned, "reckoned_mm": first, "apart_mm": pinned - first}
        severity: Literal["look", "fine"] = "look" if abs(pinned - first) > 0.05 * first else "fine"
        return replace(sheet, features=features), [
            Finding(severity, message("dart_as_pinned", count=len(alike), **figures))
        ]

    def _hooks_under(self, plan: Sequence[Edge]) -> list[Finding]:
        """Whether it tucks under far enough to hold: more than 30 mm and a tenth of the drop; and, where the bare cord spans
        a corner between its exits, whether the cord does."""
        m, c = self.measures, self.choices
        needed = max(LEAST_TUCK_MM, LEAST_TUCK_SHARE * m.drop)
        findings = []
        if m.tuck_under and m.tuck_under <= needed:
            text = message("hooks_under_too_little", tuck_mm=m.tuck_under, needed_mm=needed)
            findings.append(Finding("stop", text, instead=(("measures.tuck_under", _next_above(needed)),)))
        if not m.tuck_under:
            deep_enough = (("measures.tuck_under", _next_above(needed)),)
            findings.append(Finding("look", message("hooks_under_nothing"), instead=deep_enough))
        x = c.exits_from_corner
        if c.casing == "cord" and x:
            radius = min((circle.radius for e in plan if e.kind == "arc" and (circle := circle_of(e))), default=0.0)
            holds = max(x / math.sqrt(2) - radius * (math.sqrt(2) - 1), 0.0)
            if holds <= needed:
                text = message("cord_holds_too_little", exit_mm=x, holds_mm=holds, needed_mm=needed)
                farther = _next_above((needed + radius * (math.sqrt(2) - 1)) * math.sqrt(2))
                findings.append(Finding("look", text, instead=(("choices.exits_from_corner", farther),)))
        return findings

    def _corner_sums(self, plan: Sequence[Edge]) -> list[Message]:
        m = self.measures
        sums: dict[tuple[float, float], int] = {}
        for edge in plan:
            circle = circle_of(edge) if edge.kind == "arc" else None
            if circle and circle.sweep > 0:
                key = round(circle.radius, 3), round(circle.sweep, 6)
                sums[key] = sums.get(key, 0) + 1
        if not sums:
            corner = drop_corner(0.0, math.pi / 2, m.drop, m.tuck_under)
            return [
                message("corner_taken_square", drop_mm=m.drop, tuck_mm=m.tuck_under, intake_mm=corner.intake_at_edge)
            ]
        workings = []
        for (radius, sweep), count in sums.items():
            corner = drop_corner(radius, sweep, m.drop, m.tuck_under)
            workings.append(
                message(
                    "corner_taken_in", count=count, radius_mm=radius, degrees=math.degrees(sweep), drop_mm=m.drop, tuck_mm=m.tuck_under,
                    at_drop_mm=corner.intake_at_drop, at_edge_mm=corner.intake_at_edge, gathered_mm=corner.gathered_by_cord,
                )
            )  # fmt: skip
        return workings

    def _closed_line(self, plan: Sequence[Edge]) -> float:
        """How long the edge is once it is drawn in under the plan, mm."""
        shape = shapely.Polygon(flatten_ring(plan))
        line = shape.buffer(-self.measures.tuck_under, join_style="mitre", quad_segs=64)
        if line.is_empty:
            raise Refusal(message("tuck_beyond_middle", tuck_mm=self.measures.tuck_under), "measure")
        return float(line.exterior.length if line.geom_type == "Polygon" else line.length)

    def _marks_clear(self, sheet: Panel) -> list[Finding]:
        """Darts run through the casing to the sheet's edge: they are sewn first."""
        if self.choices.casing == "none" or not sheet.of(Dart):
            return []
        return [Finding("fine", message("darts_before_casing", count=len(sheet.of(Dart))))]

    def _with_exits(self, sheet: Panel) -> Panel:
        """Cord exits either side of every corner, and the stretch at the back that hinges keep free."""
        c = self.choices
        runs = seam_runs(replace(sheet, features=sheet.without(Dart)))
        straight = [
            r.edge for r in runs if r.edge.kind == "line" and edge_length(r.edge) > 2 * c.exits_from_corner + 20
        ]
        marks = []
        if c.exits_from_corner:
            for edge in straight:
                for at in (c.exits_from_corner, edge_length(edge) - c.exits_from_corner):
                    point, (dx, dy) = place_at_length(edge, at)
                    marks.append(
                        MarkAt(
                            "exit",
                            along(point, (-dy, dx), 8.0),
                            text="cord exit, inside" if c.lock == "inside" else "cord exit",
                        )
                    )
        if c.hinge_clearance and straight:
            back = max(straight, key=lambda e: e.start[1] + e.end[1])
            half = edge_length(back) / 2
            ends = [
                along(p, (-d[1], d[0]), 8.0)
                for p, d in (place_at_length(back, half + s * c.hinge_clearance / 2) for s in (-1, 1))
            ]
            marks.append(MarkAt("note", ends[0], ends[1], "hinges: leave the casing open"))
        return replace(sheet, features=(*sheet.features, *marks))


def _next_above(length_mm: float) -> float:
    """The next length in round steps that is longer."""
    return STEP_MM * (math.floor(length_mm / STEP_MM + 1e-9) + 1)
