"""A flat panel, bound or hemmed, alone or on an underlay that is trimmed back (rules 2 and 11)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.covers.cover import Cover, put_together
from ypsicline.core.covers.family import Choices, Family
from ypsicline.core.covers.parts.edging import Edging, panel
from ypsicline.core.covers.parts.goods import binding
from ypsicline.core.covers.parts.needed import needed
from ypsicline.core.covers.parts.outline import OutlineEdges, size_of, with_edging
from ypsicline.core.covers.suits import Suits
from ypsicline.core.drafting.house import House
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.bends import tightest_concave, tightest_convex
from ypsicline.core.geometry.edges import Edge, edge_length
from ypsicline.core.geometry.rings import corner_turns
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.features.layer import Layer, LayerRole
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.trueing.measured import rectangle
from ypsicline.core.typed import Length, LengthIfTyped, LengthOrNone

__all__ = ["FlatPanel", "FlatPanelChoices", "FlatPanelMeasures", "FlatPanelShapes"]

_CORNER_RAD = math.radians(20)
# how much longer the fold of a binding may be than the line on which it is stitched: a bias strip is steamed round so much
BIAS_GIVES = 1 / 3
# how much larger a soft underlay is cut, mm: quilting draws it in
UNDERLAY_MARGIN_MM = 25.0


@dataclass(frozen=True)
class FlatPanelMeasures:
    """Width and length, and the radius of the corners."""

    width: LengthIfTyped = None
    length: LengthIfTyped = None
    corner_radius: LengthOrNone = 0.0


@dataclass(frozen=True)
class FlatPanelShapes:
    """An `outline` in the place of width and length."""

    outline: OutlineEdges = ()


EdgeFinish = Literal["bound", "hem", "double_hem", "plain"]


@dataclass(frozen=True)
class FinishedOtherwise:
    """An edge, counted from 1 as the outline runs (of width and length: bottom, right, top, left), and its own finish."""

    edge: int
    finish: EdgeFinish = "hem"


@dataclass(frozen=True)
class FlatPanelChoices(Choices):
    """The edges' finish, and those of edges finished otherwise; what lies under it and by how much that is cut larger; the
    binding and how it is sold."""

    finish: EdgeFinish = "bound"
    finished_otherwise: tuple[FinishedOtherwise, ...] = ()
    underlay: Literal["none", "wadding", "foam", "lining", "interlining"] = "none"
    underlay_margin: LengthOrNone = 0.0
    binding_width: Length = 12.0
    binding_pack: LengthOrNone = 0.0

    def __post_init__(self) -> None:
        super().__post_init__()
        within(message("figure_underlay_margin"), self.underlay_margin, 0, 200)
        within(message("figure_binding_width"), self.binding_width, 3, 100)
        within(message("figure_pack_of_binding"), self.binding_pack, 0, 100_000)


@dataclass(frozen=True)
class FlatPanel(Family):
    """A face, and an underlay cut larger than it."""

    measures: FlatPanelMeasures = FlatPanelMeasures()
    choices: FlatPanelChoices = FlatPanelChoices()
    shapes: FlatPanelShapes = FlatPanelShapes()
    family: Literal["flat_panel"] = "flat_panel"

    suits = (
        Suits("against", "wear", "finish", "bound", message("suits_bound")),
        Suits("against", "dust", "finish", "hem", message("suits_hemmed")),
        Suits("against", "padding", "underlay", "wadding", message("suits_padding")),
    )

    def cover(self, house: House) -> Cover:
        c = self.choices
        outline = self._outline()
        finishes = self._finishes(len(outline))
        width, length, round_mm = size_of(outline)
        edges = (
            with_edging([e], Edging(f, c.allowance if f == "plain" else None))[0]
            for e, f in zip(outline, finishes, strict=True)
        )
        names = [e.name for e in with_edging(outline, Edging())]
        face = panel("face", "face", [replace(e, name=n) for e, n in zip(edges, names, strict=True)], cloth=c.cloth)
        workings: list[Message] = [message("face_size", width_mm=width, length_mm=length, round_mm=round_mm)]
        findings: list[Finding] = []
        if c.underlay != "none":
            face = self._on_underlay(face, c.underlay)
            if c.underlay_margin < 10 and c.underlay in ("wadding", "foam"):
                text = message("underlay_draws_in", margin_mm=c.underlay_margin, wanted_mm=UNDERLAY_MARGIN_MM)
                findings.append(Finding("look", text, instead=(("choices.underlay_margin", UNDERLAY_MARGIN_MM),)))
            workings.append(message("underlay_trimmed", margin_mm=c.underlay_margin))
        notions = []
        bound = [k for k, f in enumerate(finishes) if f == "bound"]
        if bound:
            turns = [turn for _, _, turn in corner_turns(face.seam_line)]
            corners = sum(turns[k] > _CORNER_RAD and (k + 1) % len(outline) in bound for k in bound)
            run = sum(edge_length(outline[k]) for k in bound)
            notions.append(binding(run, corners, c.binding_width, c.binding_pack))
            findings += self._round_corners([outline[k] for k in bound])
        return put_together([face], [], house, notions=notions, workings=workings, findings=findings)

    def _finishes(self, count: int) -> list[EdgeFinish]:
        """The finish of each edge. Raises `Refusal` where one that there isn't is finished otherwise."""
        finishes = [self.choices.finish] * count
        for own in self.choices.finished_otherwise:
            within(message("figure_number_of_an_edge_finished_otherwise"), own.edge, 1, count, "")
            finishes[own.edge - 1] = own.finish
        return finishes

    def _outline(self) -> tuple[Edge, ...]:
        m = self.measures
        if self.shapes.outline:
            return self.shapes.outline
        return rectangle(*needed(width=m.width, length=m.length), radius=m.corner_radius).edges

    def _on_underlay(self, face: Panel, role: LayerRole) -> Panel:
        return replace(face, features=(*face.features, Layer(role, cut_larger=self.choices.underlay_margin)))

    def _round_corners(self, outline: Sequence[Edge]) -> list[Finding]:
        """Curves that are tighter than the binding gives: its fold is r/(r − b) as long as the line that it is stitched on."""
        b = self.choices.binding_width
        radii = [r for e in outline for r in (tightest_convex(e), tightest_concave(e)) if r is not None]
        if not radii:
            return []
        r = min(radii)
        over = math.inf if r <= b else r / (r - b) - 1
        if over <= BIAS_GIVES:
            return []
        least = b * (1 + BIAS_GIVES) / BIAS_GIVES
        text = message("binding_too_wide", binding_mm=b, radius_mm=r, least_mm=least)
        rounder = () if self.shapes.outline else (("measures.corner_radius", float(math.ceil(least))),)
        return [Finding("look", text, instead=rounder)]
