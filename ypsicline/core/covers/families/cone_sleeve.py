"""A sleeve round a body that tapers: sectors of a ring (rule 5)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ypsicline.core.covers.cover import Cover, Paired, put_together
from ypsicline.core.covers.family import Choices, Family
from ypsicline.core.covers.parts.edging import Edging, circle, line, panel, rectangle
from ypsicline.core.covers.parts.goods import binding
from ypsicline.core.covers.parts.sums import summed
from ypsicline.core.covers.suits import Suits
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import Edge, Point, edge_length
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.features.mark_at import MarkAt
from ypsicline.core.pattern.finish import FinishName
from ypsicline.core.pattern.join import SEAM_FINISHES, Along, Join, SeamType
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.solids.assembled import Standing
from ypsicline.core.solids.placement import AlongRun, RoundCone
from ypsicline.core.trueing.rolled import rolled
from ypsicline.core.typed import Length, LengthIfTyped, Places, SignedLength

__all__ = ["ConeSleeve", "ConeSleeveChoices", "ConeSleeveMeasures", "ConeSleeveShapes"]

STRAIGHT_BELOW = 0.002
SLIP_MM, SLIP_SHARE = 2.0, 0.005
MOST_PANELS = 24


@dataclass(frozen=True)
class ConeSleeveMeasures:
    """Girths at the top and the bottom, the slant between them or the upright height, and ease on both girths."""

    girth_top: LengthIfTyped = None
    girth_bottom: LengthIfTyped = None
    slant: LengthIfTyped = None
    height: LengthIfTyped = None
    girth_ease: SignedLength = 0.0

    def __post_init__(self) -> None:
        for what, value in (
            (message("figure_girth_at_the_top"), self.girth_top),
            (message("figure_girth_at_the_bottom"), self.girth_bottom),
        ):
            if value is not None:
                within(what, value, 30, 20_000)
        for what, value in ((message("figure_slant"), self.slant), (message("figure_height"), self.height)):
            if value is not None:
                within(what, value, 5, 5000)
        if self.slant is not None and self.height is not None:
            raise Refusal(message("slant_or_height"), "measure")
        within(message("figure_girth_ease"), self.girth_ease, -500, 2000)


@dataclass(frozen=True)
class ConeSleeveChoices(Choices):
    """Of how many alike panels it is made, by which seam they close, and how its ends are finished."""

    panels: int = 1
    closing_seam: SeamType = "plain"
    top: FinishName = "bound"
    bottom: FinishName = "bound"
    top_hem: LengthIfTyped = None
    bottom_hem: LengthIfTyped = None
    trim_width: Length = 25.0

    def __post_init__(self) -> None:
        super().__post_init__()
        within(message("figure_number_of_panels"), self.panels, 1, MOST_PANELS, "")
        if self.closing_seam in ("zip", "by_hand", "any"):
            raise Refusal(message("seam_doesnt_close_sleeve"), "seam")


@dataclass(frozen=True)
class ConeSleeveShapes:
    """A `rolled` trace: the marks that the body's two edges left, rolled over one full turn, mm."""

    rolled: Places = ()


@dataclass(frozen=True)
class _Frustum:
    """Girths and slant of the seam line, mm, and what was worked out for them."""

    top: float
    bottom: float
    slant: float
    workings: tuple[Message, ...] = ()
    findings: tuple[Finding, ...] = ()


@dataclass(frozen=True)
class ConeSleeve(Family):
    """Panels that are sectors of a ring, their top marked."""

    measures: ConeSleeveMeasures
    choices: ConeSleeveChoices = ConeSleeveChoices()
    shapes: ConeSleeveShapes = ConeSleeveShapes()
    family: Literal["cone_sleeve"] = "cone_sleeve"

    eased_by = (("girth_ease", 2 * math.pi),)
    suits = (Suits("against", "weather", "closing_seam", "felled", message("suits_felled")),)

    def cover(self, house: House) -> Cover:
        m, c = self.measures, self.choices
        body = self._frustum_of_trace() if self.shapes.rolled else self._frustum_of_measures()
        top, bottom = body.top + m.girth_ease, body.bottom + m.girth_ease
        if min(top, bottom) <= 10:
            raise Refusal(
                message("ease_takes_girth", ease_mm=m.girth_ease, girth_mm=min(body.top, body.bottom)), "measure"
            )
        ring = _Ring.of(top, bottom, body.slant, c.panels)
        if ring is not None and ring.angle / c.panels > 1.95 * math.pi:
            raise Refusal(message("sector_overlaps", least=math.ceil(ring.angle / (1.95 * math.pi))), "measure")
        ends = [Edging(f, c.allowance) for f in SEAM_FINISHES[c.closing_seam]]
        edges = self._edges(ring, bottom / c.panels, body.slant, ends)
        sleeve = replace(
            panel("sleeve", "sleeve", edges, cloth=c.cloth, count=c.panels),
            way_up=message("top_at_top") if top != bottom else "",
        )
        sleeve = _topped(sleeve, body.slant, abs(top - bottom))
        left = next(e.id for e in sleeve.seam_line if e.name == "left")
        right = next(e.id for e in sleeve.seam_line if e.name == "right")
        joins = [
            Paired(
                Join(
                    (Along("sleeve", right, piece=k + 1),),
                    (Along("sleeve", left, True, (k + 1) % c.panels + 1),),
                    c.closing_seam,
                ),
                (0.5,),
            )
            for k in range(c.panels)
        ]
        workings = [*body.workings, *self._sums(ring, top, bottom, body.slant)]
        findings = [*body.findings, *_upside_down(top, bottom, ring)]
        trims = ((top, c.top), (bottom, c.bottom))
        notions = [binding(girth, 0, c.trim_width) for girth, finish in trims if finish == "bound"]
        return put_together(
            [sleeve], joins, house, notions=notions, workings=workings, findings=findings,
            standing=[self._stands(ring, k, bottom / c.panels) for k in range(c.panels)],
        )  # fmt: skip

    def _stands(self, ring: _Ring | None, k: int, width: float) -> Standing:
        """Where one of the panels stands, counted from 0."""
        count = self.choices.panels
        if ring is None:
            plain = Edging()
            run = circle(width * count / (2 * math.pi), [(0.0, "one half", plain), (0.5, "other half", plain)])
            return Standing("sleeve", AlongRun(run, (k + 0.5) * width), k + 1)
        centre = (0.0, -ring.inner) if ring.is_wide_at_top else (0.0, ring.outer)
        angle = 2 * math.pi * k / count
        return Standing(
            "sleeve", RoundCone(centre, ring.angle, ring.inner, ring.outer, angle, not ring.is_wide_at_top), k + 1
        )

    def _frustum_of_measures(self) -> _Frustum:
        m = self.measures
        if m.girth_top is None or m.girth_bottom is None:
            raise Refusal(message("girths_or_rolled"), "measure")
        if m.slant is None and m.height is None:
            raise Refusal(message("slant_or_height"), "measure")
        if m.slant is not None:
            if abs(m.girth_top - m.girth_bottom) / (2 * math.pi) >= m.slant:
                text = message(
                    "slant_too_short", slant_mm=m.slant, least_mm=abs(m.girth_top - m.girth_bottom) / (2 * math.pi)
                )
                raise Refusal(text, "measure")
            return _Frustum(m.girth_top, m.girth_bottom, m.slant)
        height = m.height or 0.0
        inward = abs(m.girth_top - m.girth_bottom) / (2 * math.pi)
        slant = math.hypot(height, inward)
        return _Frustum(
            m.girth_top, m.girth_bottom, slant,
            (message("slant_of_height", height_mm=height, inward_mm=inward, slant_mm=slant),),
        )  # fmt: skip

    def _frustum_of_trace(self) -> _Frustum:
        """Girths and slant of a rolled trace, held against the taped girths where there are some."""
        m = self.measures
        taped = [g for g in (m.girth_top, m.girth_bottom) if g is not None]
        small, large = (min(taped), max(taped)) if len(taped) == 2 else (None, None)
        trace = rolled(np.asarray(self.shapes.rolled, dtype=float), small, large)
        is_small_top = m.girth_top is None or m.girth_bottom is None or m.girth_top <= m.girth_bottom
        top, bottom = trace.girths_mm if is_small_top else trace.girths_mm[::-1]
        findings = []
        for taped_mm, girth in ((m.girth_top, top), (m.girth_bottom, bottom)):
            if taped_mm is not None and abs(taped_mm - girth) > max(SLIP_MM, SLIP_SHARE * taped_mm):
                text = message("rolled_off_tape", rolled_mm=girth, taped_mm=taped_mm, off_mm=girth - taped_mm)
                findings.append(Finding("look", text))
        return _Frustum(top, bottom, edge_length(trace.outline.edges[1]), trace.outline.workings, tuple(findings))

    def _edges(self, ring: _Ring | None, bottom: float, slant: float, ends: Sequence[Edging]) -> tuple[SeamEdge, ...]:
        """Bottom, right, top and left edge of one panel, upright, the middle of its bottom at the origin."""
        c = self.choices
        low, high = Edging(c.bottom, c.bottom_hem), Edging(c.top, c.top_hem)
        if ring is None:
            outline = rectangle(bottom, slant, [low, ends[0], high, ends[1]])
            return tuple(replace(e, points=tuple((x - bottom / 2, y) for x, y in e.points)) for e in outline)
        corners = ring.corners()
        return (
            low.edge(Edge("arc", (corners[0], ring.low, corners[1])), "bottom"),
            ends[0].edge(line(corners[1], corners[2]), "right"),
            high.edge(Edge("arc", (corners[2], ring.high, corners[3])), "top"),
            ends[1].edge(line(corners[3], corners[0]), "left"),
        )

    def _sums(self, ring: _Ring | None, top: float, bottom: float, slant: float) -> list[Message]:
        m = self.measures
        sums = []
        if m.girth_ease:
            sums.append(summed("top", top, {"girth": top - m.girth_ease, "ease": m.girth_ease}))
            sums.append(summed("bottom", bottom, {"girth": bottom - m.girth_ease, "ease": m.girth_ease}))
        if ring is None:
            return [
                *sums,
                message("sleeve_straight", girth_mm=bottom, percent=100 * abs(top - bottom) / max(top, bottom)),
            ]
        sums.append(
            message(
                "cone_ring", large_mm=max(top, bottom), small_mm=min(top, bottom), slant_mm=slant, angle=ring.angle,
                degrees=math.degrees(ring.angle), outer_mm=ring.outer, inner_mm=ring.inner,
            )
        )  # fmt: skip
        half = ring.one / 2
        for is_outer, radius in ((True, ring.outer), (False, ring.inner)):
            figures = {"chord_mm": 2 * radius * math.sin(half), "sagitta_mm": radius * (1 - math.cos(half))}
            sums.append(message("cone_arc_outer" if is_outer else "cone_arc_inner", **figures))
        return sums


@dataclass(frozen=True)
class _Ring:
    """A sector: its radii, mm, the `angle` of all panels together and of one, and whether it widens towards the top."""

    outer: float
    inner: float
    angle: float
    one: float
    is_wide_at_top: bool

    @classmethod
    def of(cls, top: float, bottom: float, slant: float, panels: int) -> _Ring | None:
        """None where the girths are so alike that it is straight."""
        small, large = sorted((top, bottom))
        if large - small < STRAIGHT_BELOW * large:
            return None
        angle = (large - small) / slant
        return cls(large / angle, small / angle, angle, angle / panels, top > bottom)

    def corners(self) -> tuple[Point, Point, Point, Point]:
        """Lower left, lower right, upper right, upper left."""
        half = self.one / 2
        low, high = (self.inner, self.outer) if self.is_wide_at_top else (self.outer, self.inner)
        up = 1.0 if self.is_wide_at_top else -1.0
        base = -up * low
        at = [
            (r * math.sin(a), base + up * r * math.cos(a))
            for r, a in ((low, -half), (low, half), (high, half), (high, -half))
        ]
        return at[0], at[1], at[2], at[3]

    @property
    def low(self) -> Point:
        return 0.0, 0.0

    @property
    def high(self) -> Point:
        return 0.0, self.outer - self.inner


def _topped(sleeve: Panel, height: float, apart: float) -> Panel:
    """With TOP marked, where the two ends differ."""
    if not apart:
        return sleeve
    mark = MarkAt("top", (0.0, 0.85 * height), text="TOP")
    return replace(sleeve, features=(*sleeve.features, mark))


def _upside_down(top: float, bottom: float, ring: _Ring | None) -> list[Finding]:
    apart = abs(top - bottom)
    if ring is None:
        return [Finding("look", message("taper_taken_as_straight", apart_mm=apart))] if apart else []
    return [Finding("fine", message("binds_upside_down", apart_mm=apart, percent=100 * apart / max(top, bottom)))]
