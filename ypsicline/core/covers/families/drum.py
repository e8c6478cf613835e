"""A drum: two discs and the wall between them (rule 4)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from ypsicline.core.covers.cover import Cover, Paired, put_together
from ypsicline.core.covers.family import Family, NoShapes
from ypsicline.core.covers.notion import Notion
from ypsicline.core.covers.parts.discs import disc, disc_sums, round_run, shortcuts
from ypsicline.core.covers.parts.edging import Edging
from ypsicline.core.covers.parts.goods import FILLING_PASSES_MM, filling, opening_finding, zip_for
from ypsicline.core.covers.parts.reckoned import RoundReckoned, reckoned_findings
from ypsicline.core.covers.parts.runs import closed_joins
from ypsicline.core.covers.parts.strips import StripLengths, bent_strip, ends_joined, strip_lengths, strip_panels
from ypsicline.core.covers.parts.sums import summed
from ypsicline.core.covers.suits import Suits
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.features.aperture import Stocked
from ypsicline.core.pattern.join import Join, SeamType
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.solids.assembled import Standing
from ypsicline.core.solids.placement import Flat
from ypsicline.core.typed import Length, LengthIfTyped, Number, NumberOrNone, SignedLength, WholeChoice

__all__ = ["Drum", "DrumChoices", "DrumMeasures"]

JOIN_FROM_ZIP_MM = 60.0


@dataclass(frozen=True)
class DrumMeasures:
    """`girth` or `diameter` of what it goes over or is to be, its `height`, and ease on the girth."""

    height: Length
    girth: LengthIfTyped = None
    diameter: LengthIfTyped = None
    wall_ease: SignedLength = 0.0

    def __post_init__(self) -> None:
        if (self.girth is None) == (self.diameter is None):
            raise Refusal(message("girth_or_diameter"), "measure")
        within(message("figure_girth"), self.round, 30, 20_000)
        within(message("figure_height"), self.height, 5, 5000)
        within(message("figure_wall_ease"), self.wall_ease, -self.round / 2, self.round)

    @property
    def round(self) -> float:
        """Its girth, mm."""
        return self.girth if self.girth is not None else math.pi * (self.diameter or 0.0)


@dataclass(frozen=True)
class DrumChoices(RoundReckoned):
    """How it closes in the seam of the bottom; what is notched round each circle; whether an inner bag holds the filling."""

    closure: Literal["zip", "gap", "none"] = "zip"
    opening: LengthIfTyped = None
    stocked_zips: Stocked = ()
    notches: Annotated[Literal[4, 8], WholeChoice] = 4
    strip_joins: Literal["even", "full_widths"] = "even"
    filled: bool = True
    inner_bag: bool = False
    firmness: Number = 1.0
    bag_litres: NumberOrNone = 0.0


@dataclass(frozen=True)
class Drum(Family):
    """Two discs with a wall of strips, closed by a zip or a gap in the lower circle's seam."""

    measures: DrumMeasures
    choices: DrumChoices = DrumChoices()
    shapes: NoShapes = NoShapes()
    family: Literal["drum"] = "drum"

    suits = (
        Suits("near", "filling", "inner_bag", True, message("suits_inner_bag")),
        Suits("goes_on", "zipped", "closure", "zip", message("suits_zipped")),
    )

    def cover(self, house: House) -> Cover:
        m, c = self.measures, self.choices
        seam, join = c.seam(house), c.strip_join(house)
        whole = m.round + m.wall_ease
        if whole <= 2 * math.pi:
            raise Refusal(message("ease_takes_girth", ease_mm=m.wall_ease, girth_mm=m.round), "measure")
        pieces = strip_lengths("wall", whole, c.usable_width, join, is_closed=True, even=c.strip_joins == "even")
        opening = self._opening(whole)
        opens_at = self._opens_at(whole, opening, pieces.joins_at)
        panels, joins = _body(self, whole, pieces, opens_at, "", c.cloth)
        workings: list[Message] = [
            *disc_sums(m.round, m.wall_ease, seam),
            summed("wall", whole + 2 * join, {"girth": m.round, "ease": m.wall_ease, "joins": 2 * join}),
            summed("wall_height", m.height + 2 * seam, {"height": m.height, "allowances": 2 * seam}),
            pieces.working,
        ]
        findings = [*shortcuts(m.wall_ease, seam), *reckoned_findings(c, m.round, m.wall_ease, seam, join)]
        notions: list[Notion] = []
        if opening:
            if c.filled:
                findings += opening_finding("choices.opening", opening, FILLING_PASSES_MM, "filling")
            if c.closure == "zip":
                notions.append(zip_for(opening, c.stocked_zips))
            findings += _joins_near(opens_at, pieces.joins_at, whole)
        if c.filled:
            volume = whole**2 / (4 * math.pi) * m.height
            how = message("volume_of_drum", across_mm=whole / math.pi, height_mm=m.height)
            notions.append(filling(volume, how, c.firmness, c.bag_litres))
            if c.inner_bag:
                more, more_joins = _body(self, whole, pieces, opens_at, "inner ", "inner")
                panels, joins = [*panels, *more], [*joins, *more_joins]
            findings.append(Finding("fine", message("loose_filling" if not c.inner_bag else "inner_bag_closed")))
        return put_together(
            panels,
            joins,
            house,
            notions=notions,
            workings=workings,
            findings=findings,
            standing=_standing(panels, m.height),
        )

    def _opening(self, whole: float) -> float:
        """How long the opening in the lower seam is, mm; 0 for none."""
        c = self.choices
        if c.closure == "none":
            return 0.0
        opening = c.opening if c.opening is not None else min(max(FILLING_PASSES_MM, 0.4 * whole), 0.8 * whole)
        within(message("figure_opening"), opening, 10, 0.9 * whole)
        return opening

    def _opens_at(self, whole: float, opening: float, joins: Sequence[float]) -> tuple[float, float]:
        """From where to where along the wall it opens: as far from the wall's joins as can be."""
        stops = [0.0, *joins, whole]
        middle = max(zip(stops, stops[1:], strict=False), key=lambda s: s[1] - s[0])
        start = min(max(sum(middle) / 2 - opening / 2, 0.01 * whole), 0.99 * whole - opening)
        return start, start + opening


def _body(
    drum: Drum, whole: float, pieces: StripLengths, opens: tuple[float, float], prefix: str, cloth: str
) -> tuple[list[Panel], list[Paired]]:
    m, c = drum.measures, drum.choices
    plain = Edging("plain", c.allowance)
    ends = Edging("plain", c.join_allowance if c.join_allowance is not None else c.allowance)
    how: SeamType = "zip" if c.closure == "zip" and not prefix else "by_hand"
    opening = Edging("zip") if how == "zip" else plain
    parts = [(*opens, opening)] if opens[1] > opens[0] else []
    tag = prefix.strip()[:2]
    wall = strip_panels(
        f"{tag}wall",
        f"{prefix}wall",
        pieces,
        m.height,
        bottom=plain,
        top=plain,
        ends=ends,
        bottom_parts=parts,
        cloth=cloth,
    )
    shares = [(a / whole, b / whole, e) for a, b, e in parts]
    top = disc(f"{tag}top", f"{prefix}top", whole, plain, cloth=cloth)
    # seen from below the lower disc runs round the other way than the wall
    bottom = disc(
        f"{tag}bottom", f"{prefix}bottom", whole, plain, [(1 - b, 1 - a, e) for a, b, e in shares], cloth=cloth
    )
    notch_shares = tuple(k / c.notches for k in range(1, c.notches))
    joins = [Paired(j, (0.5,)) for j in ends_joined(wall, is_closed=True)]
    joins.append(Paired(Join(round_run(top), wall.top), notch_shares, (0.0,)))
    panels = [top, bottom, *wall.panels]
    by_id = {p.id: p for p in panels}
    joins += closed_joins(round_run(bottom, backward=True), wall.bottom, by_id, opens, notch_shares, how)
    return panels, joins


def _standing(panels: Sequence[Panel], height: float) -> list[Standing]:
    """The wall round both discs; an inner bag isn't shown, since it lies in the drum."""
    top = next(p for p in panels if p.id == "top")
    return [
        Standing("top", Flat((0, 0, height), (1, 0, 0), (0, 1, 0))),
        Standing("bottom", Flat((0, 0, 0), (-1, 0, 0), (0, 1, 0))),
        *bent_strip([p for p in panels if p.id.startswith("wall")], top.seam_line),
    ]


def _joins_near(opens: tuple[float, float], joins: Sequence[float], whole: float) -> list[Finding]:
    """Joins of the wall that come to lie at an end of the opening, where they would be torn open."""
    away = min(abs((end - at + whole / 2) % whole - whole / 2) for end in opens for at in (0.0, *joins))
    if away >= JOIN_FROM_ZIP_MM:
        return []
    return [Finding("look", message("join_at_opening_end", away_mm=away, wanted_mm=JOIN_FROM_ZIP_MM))]
