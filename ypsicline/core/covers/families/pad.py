"""A filled pad of two plies, often a trapezoid (rules 4, 6, 7)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Annotated, Literal

import shapely

from ypsicline.core.covers.cover import Cover, Paired, put_together
from ypsicline.core.covers.family import Choices, Family
from ypsicline.core.covers.notion import Notion
from ypsicline.core.covers.parts.edging import Edging, panel, rectangle
from ypsicline.core.covers.parts.goods import FILLING_PASSES_MM, HAND_MM, filling, opening_finding, piping, zip_for
from ypsicline.core.covers.parts.needed import needed
from ypsicline.core.covers.parts.outline import OutlineEdges, with_edging
from ypsicline.core.covers.parts.strips import ends_joined, strip_lengths, strip_panels
from ypsicline.core.covers.suits import Suits
from ypsicline.core.drafting.draft import seam_runs
from ypsicline.core.drafting.house import House
from ypsicline.core.drafting.inflated import bag_volume
from ypsicline.core.drafting.pad import with_tapers
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import edge_length
from ypsicline.core.geometry.plane import along, unit
from ypsicline.core.geometry.rings import corner_turns, flatten_ring
from ypsicline.core.joins.lengths import sewn_edges
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.edge_changes import mirrored
from ypsicline.core.pattern.features.aperture import Stocked
from ypsicline.core.pattern.features.mark_at import MarkAt
from ypsicline.core.pattern.features.taper import Taper
from ypsicline.core.pattern.fit import Fit
from ypsicline.core.pattern.join import Along, Join
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.trueing.measured import four_sided
from ypsicline.core.typed import Length, LengthIfTyped, LengthOrNone, Number, NumberOrNone, WholeChoice

__all__ = ["Pad", "PadChoices", "PadMeasures", "PadShapes"]

_CORNER_RAD = math.radians(15)
TIE_TURNED_MM, TIE_FROM_CORNER_MM = 6.0, 40.0
CALLED = {
    "AB": message("side_front"), "BC": message("side_right"), "CD": message("side_back"), "DA": message("side_left"),
    "AC": message("side_diagonal"), "BD": message("side_other_diagonal"),
}  # fmt: skip


@dataclass(frozen=True)
class PadMeasures:
    """Four sides in their order and the diagonal from the front's left to the back's right corner; how thick it is to be
    filled, and what is added all round because a filling draws the plan in."""

    front: LengthIfTyped = None
    right: LengthIfTyped = None
    back: LengthIfTyped = None
    left: LengthIfTyped = None
    diagonal: LengthIfTyped = None
    loft: LengthIfTyped = None
    drawn_in: LengthOrNone = 0.0

    def __post_init__(self) -> None:
        if self.loft is not None:
            within(message("figure_loft"), self.loft, 2, 1000)
        within(message("figure_drawn_in_allowance"), self.drawn_in, 0, 200)


@dataclass(frozen=True)
class PadShapes:
    """The `outline` of the pad as it is to be, in the place of sides and diagonal."""

    outline: OutlineEdges = ()


@dataclass(frozen=True)
class PadChoices(Choices):
    """Its corners, its edge, its closing, its filling, and buttons that draw both plies together."""

    symmetric: bool = False
    taper: Literal["none", "straight", "curved"] = "straight"
    taper_reach: LengthIfTyped = None
    taper_inset: LengthIfTyped = None
    piping: bool = False
    frill: bool = False
    frill_fullness: Number = 2.0
    frill_width: Length = 60.0
    ties: Annotated[Literal[0, 2, 4], WholeChoice] = 0
    tie_length: Length = 300.0
    tie_width: Length = 20.0
    closing: Literal["by_hand", "zip"] = "by_hand"
    closing_gap: Length = 200.0
    stocked_zips: Stocked = ()
    firmness: Number = 1.0
    bag_litres: NumberOrNone = 0.0
    buttons: Annotated[Literal[0, 1, 2, 4, 5], WholeChoice] = 0

    def __post_init__(self) -> None:
        super().__post_init__()
        within(message("figure_frill_fullness"), self.frill_fullness, 1.1, 4, "")
        within(message("figure_frill_width"), self.frill_width, 5, 500)
        within(message("figure_length_of_a_tie"), self.tie_length, 50, 1000)
        within(message("figure_width_of_a_tie"), self.tie_width, 4, 100)


@dataclass(frozen=True)
class Pad(Family):
    """Top and bottom, with a frill and ties where they are asked for."""

    measures: PadMeasures
    choices: PadChoices = PadChoices()
    shapes: PadShapes = PadShapes()
    family: Literal["pad"] = "pad"

    suits = (
        Suits("goes_on", "zipped", "closing", "zip", message("suits_zipped")),
        Suits("against", "wear", "piping", True, message("suits_piping")),
    )

    def cover(self, house: House) -> Cover:
        c = self.choices
        top, workings = self._top()
        top = self._buttoned(top)
        bottom = replace(mirrored(top), id="bottom", name="bottom")
        sides = [e.id for e in top.seam_line]
        closing = self._closing_side(top)
        run = sum(sewn_edges(top)[s].sewn for s in sides)
        joins = [
            Paired(
                Join((Along("top", s),), (Along("bottom", s, backward=True),), "piped" if c.piping else "plain"), (0.5,)
            )
            for s in sides
            if s != closing
        ]
        gap, findings = self._gap(top, closing)
        joins.append(gap)
        notions: list[Notion] = []
        panels = [top, bottom]
        if c.piping:
            notions.append(piping(run))
        if c.closing == "zip":
            notions.append(zip_for(c.closing_gap, c.stocked_zips))
        if c.frill:
            frill, more, sums = self._frill(house, sides, run)
            panels += frill
            joins += more
            workings += sums
        if c.buttons:
            notions.append(Notion("button", message("buttons_both_sides", count=c.buttons), 2 * c.buttons))
        if c.ties:
            panels[0] = self._with_tie_places(top)
            panels.append(self._tie())
            workings.append(message("ties_at_back", count=c.ties, length_mm=c.tie_length, width_mm=c.tie_width))
        stuffed, how, more_findings = self._filling(top)
        notions.append(filling(stuffed, how, c.firmness, c.bag_litres))
        findings += more_findings
        if c.taper == "none":
            findings.append(Finding("look", message("corners_will_stand_out")))
        return put_together(panels, joins, house, notions=notions, workings=workings, findings=findings)

    def _top(self) -> tuple[Panel, list[Message]]:
        """The upper ply with its corners tapered, and how its shape was found."""
        m, c = self.measures, self.choices
        edging = Edging("piped" if c.piping else "plain", c.allowance)
        if self.shapes.outline:
            top, workings = panel("top", "top", with_edging(self.shapes.outline, edging), cloth=c.cloth), []
        else:
            sides = ("front", "right", "back", "left")
            front, right, back, left = needed(front=m.front, right=m.right, back=m.back, left=m.left)
            plan = four_sided(front, right, back, left, m.diagonal, symmetric=c.symmetric, called=CALLED)
            seam = tuple(edging.edge(e, n) for e, n in zip(plan.edges, sides, strict=True))
            top, workings = panel("top", "top", seam, cloth=c.cloth), list(plan.workings)
        if m.drawn_in:
            top = replace(top, fit=Fit(clearance=m.drawn_in))
            workings.append(message("drawn_in_added", by_mm=m.drawn_in))
        return self._tapered(top), workings

    def _tapered(self, top: Panel) -> Panel:
        c = self.choices
        turns = corner_turns(top.seam_line)
        corners = [e.id for e, (_, _, turn) in zip(top.seam_line, turns, strict=True) if turn > _CORNER_RAD]
        if c.taper == "none" or not corners:
            return top
        curved = c.taper == "curved"
        tapered = with_tapers(top, corners, curved=curved)
        if c.taper_reach is None and c.taper_inset is None:
            return tapered
        tapers = [
            replace(
                t,
                reach=t.reach if c.taper_reach is None else c.taper_reach,
                reach_after=t.reach_after if c.taper_reach is None else c.taper_reach,
                inset=t.inset if c.taper_inset is None else c.taper_inset,
            )
            for t in tapered.of(Taper)
        ]
        return replace(tapered, features=(*tapered.without(Taper), *tapers))

    def _buttoned(self, top: Panel) -> Panel:
        """With the places of its buttons, half-way from its middle to the sides of its box."""
        points = flatten_ring(top.seam_line)
        (x0, y0), (x1, y1) = points.min(axis=0).tolist(), points.max(axis=0).tolist()
        middle, (dx, dy) = ((x0 + x1) / 2, (y0 + y1) / 2), ((x1 - x0) / 4, (y1 - y0) / 4)
        around = [(-dx, -dy), (dx, -dy), (dx, dy), (-dx, dy)]
        ways = {0: [], 1: [(0.0, 0.0)], 2: [(-dx, 0.0), (dx, 0.0)], 4: around, 5: [*around, (0.0, 0.0)]}[
            self.choices.buttons
        ]
        places = tuple(MarkAt("button", (middle[0] + x, middle[1] + y)) for x, y in ways)
        return replace(top, features=(*top.features, *places))

    def _closing_side(self, top: Panel) -> str:
        """The edge that is left open: the back, or the longest."""
        back = next((e.id for e in top.seam_line if e.name == "back"), None)
        return back or max(top.seam_line, key=edge_length).id

    def _gap(self, top: Panel, side: str) -> tuple[Paired, list[Finding]]:
        """The join of the side that is closed last, notched twice at both ends of its gap."""
        c = self.choices
        length = sewn_edges(top)[side].sewn
        within(message("figure_closing_gap"), c.closing_gap, 20, 0.95 * length)
        half = c.closing_gap / length / 2
        seam: Literal["piped", "plain"] = "piped" if c.piping else "plain"
        join = Join((Along("top", side),), (Along("bottom", side, backward=True),), seam)
        passes: Literal["hand", "filling"] = "filling" if c.closing == "zip" else "hand"
        least = FILLING_PASSES_MM if c.closing == "zip" else HAND_MM
        findings = opening_finding("choices.closing_gap", c.closing_gap, least, passes)
        return Paired(join, double_at=(0.5 - half, 0.5 + half)), findings

    def _frill(self, house: House, sides: Sequence[str], run: float) -> tuple[list[Panel], list[Paired], list[Message]]:
        c = self.choices
        seam, join = c.seam(house), c.strip_join(house)
        length = c.frill_fullness * run
        pieces = strip_lengths("strip", length, c.usable_width, join, is_closed=True)
        plain = Edging("piped" if c.piping else "plain", c.allowance)
        frill = strip_panels(
            "frill", "frill", pieces, c.frill_width, bottom=Edging("double_hem"), top=plain,
            ends=Edging("plain", c.join_allowance if c.join_allowance is not None else c.allowance), cloth=c.cloth,
        )  # fmt: skip
        gathering = Join(
            tuple(Along("top", s) for s in sides),
            frill.top,
            "piped" if c.piping else "plain",
            "gathered",
            c.frill_fullness,
        )
        workings = [
            message("frill_length", fullness=c.frill_fullness, run_mm=run, length_mm=length),
            message("frill_depth", width_mm=c.frill_width, seam_mm=seam),
            pieces.working,
        ]
        joins = [Paired(j) for j in ends_joined(frill, is_closed=True)]
        return list(frill.panels), [*joins, Paired(gathering, (0.25, 0.5, 0.75), (0.0,))], workings

    def _with_tie_places(self, top: Panel) -> Panel:
        """Ties marked at the back's corners, or at all four."""
        sides = [e for e in top.seam_line if e.name == "back"] or list(top.seam_line[:1])
        if self.choices.ties == 4:
            sides = list(top.seam_line)
        points = list(dict.fromkeys(p for e in sides for p in (e.start, e.end)))
        middle = shapely.Polygon(flatten_ring(top.seam_line)).centroid
        places = [along(p, unit((middle.x - p[0], middle.y - p[1])), TIE_FROM_CORNER_MM) for p in points]
        marks = tuple(MarkAt("tie", p, text="tie") for p in places[: self.choices.ties])
        return replace(top, features=(*top.features, *marks))

    def _tie(self) -> Panel:
        """A strip that is folded into four and stitched."""
        c = self.choices
        raw = Edging("raw")
        seam = rectangle(c.tie_length + 2 * TIE_TURNED_MM, 4 * c.tie_width, [raw] * 4)
        return panel("tie", "tie", seam, cloth=c.cloth, count=c.ties)

    def _filling(self, top: Panel) -> tuple[float, Message, list[Finding]]:
        """The volume in mm³: of an ellipsoid as thick as the loft, two thirds of plan × loft; else of a bag as full as it
        goes. A loft that the bag can't take is said."""
        m = self.measures
        plan = shapely.Polygon(flatten_ring([r.edge for r in seam_runs(top)]))
        box = plan.minimum_rotated_rectangle
        a, b = sorted(math.dist(p, q) for p, q in zip(box.exterior.coords[:2], box.exterior.coords[1:3], strict=True))
        most = bag_volume(a, b) * plan.area / (a * b)
        if m.loft is None:
            return most, message("volume_of_bag", width_mm=a, length_mm=b), []
        volume = 2 / 3 * plan.area * m.loft
        how = message("volume_of_loft", loft_mm=m.loft)
        if volume <= most:
            return volume, how, []
        text = message("loft_beyond_bag", loft_mm=m.loft, litres=most / 1e6)
        return most, message("volume_of_bag", width_mm=a, length_mm=b), [Finding("look", text)]
