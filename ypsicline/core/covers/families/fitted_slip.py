"""A slip of many panels that are pinned on: a rough cut list first, the chalked seam lines later (rules 10 and 11)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.covers.cover import Cover, put_together
from ypsicline.core.covers.family import Choices, Family
from ypsicline.core.covers.notion import Notion
from ypsicline.core.covers.parts.edging import Edging, panel, rectangle
from ypsicline.core.covers.parts.goods import elastic, piping, zip_for
from ypsicline.core.covers.parts.grown import grown
from ypsicline.core.covers.parts.outline import OutlineEdges, with_edging
from ypsicline.core.covers.parts.sums import summed
from ypsicline.core.covers.suits import Suits
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import edge_length
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.edge_changes import mirrored
from ypsicline.core.pattern.features.aperture import Stocked
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.panel import Hand, Panel
from ypsicline.core.typed import Length, LengthOrNone, Share, Words

__all__ = ["Area", "ChalkedPiece", "FittedSlip", "FittedSlipChoices", "FittedSlipMeasures", "FittedSlipShapes"]

MOST_AREAS = 60


@dataclass(frozen=True)
class Area:
    """A part of the object to be covered, as large as the tape says, `count` alike; on how many of its sides, across and up, cloth
    is tucked into a crevice."""

    name: Words
    width: Length
    height: Length
    count: int = 1
    tucks_across: int = 0
    tucks_up: int = 0

    def __post_init__(self) -> None:
        if not self.name or len(self.name) > 40:
            raise Refusal(message("area_needs_name"), "measure")
        within(message("figure_width_of", name=self.name), self.width, 5, 10_000)
        within(message("figure_height_of", name=self.name), self.height, 5, 10_000)
        within(message("figure_number_of", name=self.name), self.count, 1, 100, "")
        within(message("figure_tucks_of", name=self.name), self.tucks_across, 0, 2, "")
        within(message("figure_tucks_of", name=self.name), self.tucks_up, 0, 2, "")


@dataclass(frozen=True)
class ChalkedPiece:
    """A piece as it was chalked on the object and laid flat. Pinned wrong side out (`face` inward), an object that isn't
    symmetric swaps its hands: the piece is mirrored."""

    name: Words
    outline: OutlineEdges = ()
    face: Literal["outward", "inward"] = "inward"
    chalk: Literal["seam", "piping_foot"] = "seam"
    hand: Hand = "single"


@dataclass(frozen=True)
class FittedSlipMeasures:
    """The areas of the object, the margin all round each piece, and how deep cloth is tucked in."""

    areas: tuple[Area, ...] = ()
    margin: LengthOrNone = 80.0
    tuck_in: LengthOrNone = 120.0

    def __post_init__(self) -> None:
        within(message("figure_margin"), self.margin, 0, 400)
        within(message("figure_tuck_in"), self.tuck_in, 0, 400)
        if len(self.areas) > MOST_AREAS:
            raise Refusal(message("too_many_areas", most=MOST_AREAS), "measure")
        names = [a.name for a in self.areas]
        twice = next((n for n in names if names.count(n) > 1), None)
        if twice:
            raise Refusal(message("area_named_twice", area=twice), "measure")


@dataclass(frozen=True)
class FittedSlipShapes:
    """Each captured piece; once there are some, panels are made of them and not of the rough areas."""

    pieces: tuple[ChalkedPiece, ...] = ()


@dataclass(frozen=True)
class FittedSlipChoices(Choices):
    """How its seams are sewn; piping in them, how thick its core is; an opening, by a zip or by flaps that overlap; the run of hem that elastic draws
    in; tabs between the feet."""

    seam_type: Literal["plain", "french"] = "plain"
    piping: bool = False
    piping_core: Length = 5.0
    opening: Literal["none", "zip", "flaps"] = "none"
    opening_length: LengthOrNone = 0.0
    flap_overlap: Length = 40.0
    stocked_zips: Stocked = ()
    elastic_hem: LengthOrNone = 0.0
    elastic_width: Length = 10.0
    elastic_reduction: Share = 0.1
    tabs: int = 0
    tab_width: Length = 60.0
    tab_length: Length = 120.0


@dataclass(frozen=True)
class FittedSlip(Family):
    """Rough rectangles with their margin, or the pieces as they were chalked."""

    measures: FittedSlipMeasures = FittedSlipMeasures()
    choices: FittedSlipChoices = FittedSlipChoices()
    shapes: FittedSlipShapes = FittedSlipShapes()
    family: Literal["fitted_slip"] = "fitted_slip"

    suits = (Suits("against", "wear", "piping", True, message("suits_piping")),)

    def cover(self, house: House) -> Cover:
        m, c, s = self.measures, self.choices, self.shapes
        if not m.areas and not s.pieces:
            raise Refusal(message("slip_needs_areas"), "measure")
        workings: list[Message] = []
        findings: list[Finding] = []
        notions: list[Notion] = []
        if s.pieces:
            panels = [self._chalked(k, p) for k, p in enumerate(s.pieces)]
            findings += self._forgotten([p.name for p in s.pieces])
            findings.append(Finding("look", message("slip_not_joined_yet", count=len(panels))))
            run = sum(edge_length(e) for p in panels for e in p.seam_line) / 2
            if c.piping:
                notions.append(piping(run, c.piping_core))
        else:
            panels = [self._rough(k, a) for k, a in enumerate(m.areas)]
            workings += [line for a in m.areas for line in self._sums(a)]
            findings.append(Finding("look", message("rough_only", margin_mm=m.margin)))
        if c.tabs:
            tab = rectangle(c.tab_width, 2 * c.tab_length, [Edging("plain", c.allowance)] * 4)
            panels.append(panel("tab", "tab", tab, cloth=c.cloth, count=c.tabs))
        flaps, sums, goods = self._opening()
        panels += flaps
        workings += sums
        notions += goods
        if c.elastic_hem:
            within(message("figure_hem_that_elastic_draws_in"), c.elastic_hem, 50, 50_000)
            notions.append(elastic(c.elastic_hem, c.elastic_reduction, c.elastic_width))
        findings.append(Finding("fine", message("furnishing_flammability")))
        return put_together(panels, [], house, notions=notions, workings=workings, findings=findings)

    def _opening(self) -> tuple[list[Panel], list[Message], list[Notion]]:
        """What closes it: a zip, or a flap of doubled cloth on either side."""
        c = self.choices
        if c.opening == "none":
            return [], [], []
        within(message("figure_opening_length"), c.opening_length, 50, 5000)
        if c.opening == "zip":
            return [], [], [zip_for(c.opening_length, c.stocked_zips)]
        within(message("figure_flaps_overlap"), c.flap_overlap, 15, 200)
        edges = rectangle(c.opening_length, 2 * c.flap_overlap, [Edging("plain", c.allowance)] * 4)
        workings = message("flaps_overlap", opening_mm=c.opening_length, overlap_mm=c.flap_overlap)
        return [panel("flap", "flap", edges, cloth=c.cloth, count=2)], [workings], []

    def _size(self, area: Area) -> tuple[float, float]:
        """What is cut for an area, mm: margin on sides that are pinned, the tuck where cloth goes into a crevice."""
        m = self.measures
        across = area.width + (2 - area.tucks_across) * m.margin + area.tucks_across * (m.tuck_in + m.margin)
        up = area.height + (2 - area.tucks_up) * m.margin + area.tucks_up * (m.tuck_in + m.margin)
        return across, up

    def _rough(self, k: int, area: Area) -> Panel:
        raw = Edging("raw")
        return panel(
            f"area{k + 1}",
            area.name,
            rectangle(*self._size(area), [raw] * 4),
            cloth=self.choices.cloth,
            count=area.count,
        )

    def _sums(self, area: Area) -> list[Message]:
        m = self.measures
        across, up = self._size(area)
        area_name = message("area_called", area=area.name, count=area.count)
        return [
            area_name,
            summed(
                "width", across, {"width": area.width, "margin": 2 * m.margin, "tuck": area.tucks_across * m.tuck_in}
            ),
            summed("height", up, {"height": area.height, "margin": 2 * m.margin, "tuck": area.tucks_up * m.tuck_in}),
        ]

    def _chalked(self, k: int, piece: ChalkedPiece) -> Panel:
        """A captured piece with its allowances, mirrored where it was pinned wrong side out, its seam line moved to the
        middle of the piping where the chalk ran along its foot."""
        c = self.choices
        out = c.piping_core / 2 if piece.chalk == "piping_foot" else 0.0
        if not piece.outline:
            raise Refusal(message("piece_has_no_outline", piece=piece.name), "shape")
        outline = grown(piece.outline, [out] * len(piece.outline))
        chalked = panel(
            f"piece{k + 1}", piece.name, with_edging(outline, Edging("piped" if c.piping else c.seam_type, c.allowance)),
            cloth=c.cloth, hand=piece.hand,
        )  # fmt: skip
        return (
            replace(mirrored(chalked), id=chalked.id, name=chalked.name, hand=piece.hand)
            if piece.face == "inward"
            else chalked
        )

    def _forgotten(self, names: Sequence[str]) -> list[Finding]:
        """Areas of the list of which no piece was captured."""
        missing = [a.name for a in self.measures.areas if a.name not in names]
        return [Finding("stop", message("area_not_captured", areas=", ".join(missing)))] if missing else []
