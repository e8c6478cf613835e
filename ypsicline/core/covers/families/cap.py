"""A cap: a disc and a body round a cylinder, drawn in by a cord at the foot (rules 4 and 8)."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from ypsicline.core.covers.cover import Cover, Paired, put_together
from ypsicline.core.covers.family import Family, NoShapes
from ypsicline.core.covers.notion import Notion
from ypsicline.core.covers.parts.casing import cord_casing
from ypsicline.core.covers.parts.discs import disc, disc_sums, round_run, shortcuts
from ypsicline.core.covers.parts.edging import Edging
from ypsicline.core.covers.parts.goods import cord
from ypsicline.core.covers.parts.mouth import GoesOver, passing
from ypsicline.core.covers.parts.reckoned import RoundReckoned, reckoned_findings
from ypsicline.core.covers.parts.strips import bent_strip, ends_joined, strip_lengths, strip_panels
from ypsicline.core.covers.parts.sums import summed
from ypsicline.core.drafting.house import House
from ypsicline.core.findings import Finding
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.features.aperture import Aperture
from ypsicline.core.pattern.features.mark_at import MarkAt
from ypsicline.core.pattern.join import Join
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.solids.assembled import Standing
from ypsicline.core.solids.placement import Flat
from ypsicline.core.typed import Length, LengthIfTyped, LengthOrNone, SignedLength, WholeChoice

__all__ = ["Cap", "CapChoices", "CapMeasures"]


# a sleeve is the body and two turns of it
SLEEVE_LAYERS = 3
# what of the ease has to be left, mm, to slide it over
SLIDES_MM = 2.0
# how much wider than its rope a hole is, mm
ROPE_RUNS_MM = 2.0


@dataclass(frozen=True)
class CapMeasures:
    """The `girth` of what it covers and its `height`, ease on the girth, how deep the sleeve for the cord is, and by how much
    the foot goes on to tuck under."""

    girth: Length
    height: Length
    girth_ease: SignedLength = 0.0
    sleeve_depth: LengthIfTyped = None
    foot_tuck: LengthOrNone = 0.0

    def __post_init__(self) -> None:
        within(message("figure_girth"), self.girth, 60, 20_000)
        within(message("figure_height"), self.height, 10, 5000)
        within(message("figure_girth_ease"), self.girth_ease, -self.girth / 2, self.girth)
        within(message("figure_foot_tuck"), self.foot_tuck, 0, 500)
        if self.sleeve_depth is not None:
            within(message("figure_sleeve_depth"), self.sleeve_depth, 5, 200)


@dataclass(frozen=True)
class CapChoices(GoesOver, RoundReckoned):
    """The cord and where it comes out; a hole in the disc for a rope, and how it is finished. `body_ends_at` is how far the
    closing seam may be moved once the body has been walked round the disc."""

    cord: Length = 4.0
    cord_tails: Length = 250.0
    cord_exits: Annotated[Literal[1, 2], WholeChoice] = 2
    disc_hole: Literal["none", "eyelet", "overstitched"] = "none"
    rope: LengthOrNone = 0.0
    bore: LengthOrNone = 0.0
    delicate_finish: bool = False
    closing_seam_moves: LengthOrNone = 4.0
    gas: bool = False


@dataclass(frozen=True)
class Cap(Family):
    """A disc, a body, and a cord in a sleeve at its foot."""

    measures: CapMeasures
    choices: CapChoices = CapChoices()
    shapes: NoShapes = NoShapes()
    family: Literal["cap"] = "cap"

    eased_by = (("girth_ease", 2 * math.pi),)

    def cover(self, house: House) -> Cover:
        m, c = self.measures, self.choices
        seam, join = c.seam(house), c.strip_join(house)
        whole = m.girth + m.girth_ease
        rules = house.rules_for(c.cloth)
        sleeve = cord_casing(rules, c.cord, m.sleeve_depth)
        drop = m.height + m.foot_tuck
        pieces = strip_lengths("body", whole, c.usable_width, join, is_closed=True)
        plain = Edging("plain", c.allowance)
        body = strip_panels(
            "body", "body", pieces, drop, bottom=sleeve.edging, top=plain,
            ends=Edging("plain", c.join_allowance if c.join_allowance is not None else c.allowance), cloth=c.cloth,
        )  # fmt: skip
        top, hole_findings, hole_notions = self._top(whole, plain)
        workings: list[Message] = [
            *disc_sums(m.girth, m.girth_ease, seam),
            summed("body", whole + 2 * join, {"girth": m.girth, "ease": m.girth_ease, "joins": 2 * join}),
            summed(
                "body_height", drop + seam + sleeve.allowance,
                {"height": m.height, "tuck": m.foot_tuck, "allowance": seam, "sleeve": sleeve.allowance},
            ),
            pieces.working,
            sleeve.working,
            message("closing_seam_walked", limit_mm=c.closing_seam_moves),
        ]  # fmt: skip
        of_sleeve = 2 * math.pi * SLEEVE_LAYERS * c.thickness(house)
        sums, narrow = passing(c, whole - of_sleeve, {"measures.girth_ease": (m.girth_ease, 1.0)})
        workings += sums
        own = reckoned_findings(c, m.girth, m.girth_ease, seam, join)
        findings = [*shortcuts(m.girth_ease, seam), *own, *self._slides_over(of_sleeve), *narrow, *hole_findings]
        if c.gas:
            findings.append(Finding("look", message("gas_needs_air")))
        notions: list[Notion] = [
            cord(whole, c.cord_tails, c.cord),
            Notion("cord_lock", message("locks_for_exits", count=c.cord_exits), c.cord_exits, size_mm=c.cord),
            *hole_notions,
        ]
        joins = [Paired(j, (0.5,)) for j in ends_joined(body, is_closed=True)]
        joins.append(Paired(Join(round_run(top), body.top), (0.25, 0.5, 0.75), (0.0,)))
        first, *rest = body.panels
        exits = self._exits(first, sleeve.depth)
        standing = [
            Standing("top", Flat((0, 0, drop), (1, 0, 0), (0, 1, 0))),
            *bent_strip(body.panels, top.seam_line),
        ]
        return put_together(
            [top, exits, *rest], joins, house, notions=notions, workings=workings, findings=findings, standing=standing
        )

    def _top(self, whole: float, plain: Edging) -> tuple[Panel, list[Finding], list[Notion]]:
        """The disc, with its hole."""
        c = self.choices
        top = disc("top", "top", whole, plain, cloth=c.cloth)
        if c.disc_hole == "none":
            return top, [], []
        bore = c.bore or c.rope + ROPE_RUNS_MM
        findings = []
        if c.rope and bore <= c.rope:
            text = message("bore_too_small", bore_mm=bore, rope_mm=c.rope)
            findings.append(Finding("stop", text, instead=(("choices.bore", c.rope + ROPE_RUNS_MM),)))
        if c.disc_hole == "eyelet" and c.delicate_finish:
            findings.append(Finding("look", message("no_metal_here")))
        within(message("figure_bore"), bore, 3, whole / math.pi / 2)
        finish: Literal["eyelet", "raw"] = "eyelet" if c.disc_hole == "eyelet" else "raw"
        hole = Aperture("round", (0.0, 0.0), (bore, bore), finish, "rope")
        notions = []
        if c.disc_hole == "eyelet":
            notions.append(Notion("eyelet", message("eyelet_for_rope", bore_mm=bore, rope_mm=c.rope), 1, size_mm=bore))
        return replace(top, features=(*top.features, hole)), findings, notions

    def _slides_over(self, sleeve: float) -> list[Finding]:
        """Whether it still goes on once its foot is hemmed: what the sleeve's turned cloth has `taken` off the ease, mm."""
        m = self.measures
        rest = m.girth_ease - sleeve
        figures = {"ease_mm": m.girth_ease, "taken_mm": sleeve, "left_mm": rest}
        if rest <= 0:
            wide_enough = (("measures.girth_ease", math.ceil(sleeve) + SLIDES_MM),)
            return [Finding("stop", message("foot_too_tight", **figures), instead=wide_enough)]
        return [Finding("fine", message("foot_slides_over", **figures))]

    def _exits(self, body: Panel, depth: float) -> Panel:
        """The body's first piece with the cord's exits in the middle of its sleeve's outer face."""
        length = body.seam_line[0].end[0]
        middle = length / 2
        apart = 30.0 if self.choices.cord_exits == 2 else 0.0
        places = {middle - apart / 2, middle + apart / 2}
        marks = tuple(MarkAt("exit", (x, depth / 2), text="cord exit") for x in sorted(places))
        return replace(body, features=(*body.features, *marks))
