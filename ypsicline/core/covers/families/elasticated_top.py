"""A cover that wraps under a board's edge and is drawn in by elastic (rules 11 and 16)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import shapely

from ypsicline.core.covers.cover import Cover, put_together
from ypsicline.core.covers.family import Choices, Family
from ypsicline.core.covers.notion import Notion
from ypsicline.core.covers.parts.casing import Casing, elastic_casing
from ypsicline.core.covers.parts.edging import Edging, panel, rectangle
from ypsicline.core.covers.parts.goods import elastic
from ypsicline.core.covers.parts.grown import grown
from ypsicline.core.covers.parts.needed import needed
from ypsicline.core.covers.parts.outline import OutlineEdges
from ypsicline.core.covers.parts.sums import summed
from ypsicline.core.covers.suits import Suits
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import Edge, circle_of, edge_length
from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.limits import within
from ypsicline.core.trueing.measured import rectangle as measured_rectangle
from ypsicline.core.typed import Length, LengthIfTyped, LengthOrNone, Share

__all__ = ["ElasticatedTop", "ElasticatedTopChoices", "ElasticatedTopMeasures", "ElasticatedTopShapes"]

MOST_GATHER = 2.5
LEAST_WRAP_MM = 30.0


@dataclass(frozen=True)
class ElasticatedTopMeasures:
    """How thick the board and its loose layers are together, and how far the cover wraps under; the board's width and length
    where it isn't traced. `cut_away` is what was cut off the old cover's edge before it was traced."""

    thickness: LengthOrNone
    wrap_under: Length
    width: LengthIfTyped = None
    length: LengthIfTyped = None
    corner_radius: LengthOrNone = 0.0
    cut_away: LengthOrNone = 0.0
    strap_at: LengthIfTyped = None

    def __post_init__(self) -> None:
        within(message("figure_thickness"), self.thickness, 0, 500)
        within(message("figure_wrap_under"), self.wrap_under, 5, 1000)
        within(message("figure_was_cut_away"), self.cut_away, 0, 300)


@dataclass(frozen=True)
class ElasticatedTopShapes:
    """The `outline` of the board, or of the old cover's edge."""

    outline: OutlineEdges = ()


@dataclass(frozen=True)
class ElasticatedTopChoices(Choices):
    """What was traced, an old cover with its edge whole (or cut away, by what the measures say) or unpicked and opened flat; how
    the elastic is held, and by how much it is shorter than the line that it holds."""

    traced: Literal["board", "old_cover", "old_cover_unpicked"] = "board"
    on_fold: bool = False
    elastic: Literal["casing", "stitched"] = "casing"
    elastic_width: Length = 10.0
    elastic_reduction: Share = 0.3
    strap: bool = False
    strap_width: Length = 25.0


@dataclass(frozen=True)
class ElasticatedTop(Family):
    """The top with what goes over the edge and under, whole or half on the fold; a strap across its waist."""

    measures: ElasticatedTopMeasures
    choices: ElasticatedTopChoices = ElasticatedTopChoices()
    shapes: ElasticatedTopShapes = ElasticatedTopShapes()
    family: Literal["elasticated_top"] = "elasticated_top"

    suits = (Suits("goes_on", "pulled over", "elastic", "casing", message("suits_pulled_over")),)

    def cover(self, house: House) -> Cover:
        m, c = self.measures, self.choices
        outline = self._outline()
        is_fold = [c.on_fold and e is _fold_of(outline) for e in outline]
        casing = self._casing(house)
        unpicked = casing.allowance if casing and c.traced == "old_cover_unpicked" else 0.0
        wrap = m.thickness + m.wrap_under if c.traced == "board" else m.cut_away - unpicked
        seam = grown(outline, [0.0 if fold else wrap for fold in is_fold])
        edging = casing.edging if casing else Edging("raw")
        edges = [
            (Edging("fold") if fold else edging).edge(e, "fold" if fold else f"edge {k + 1}")
            for k, (e, fold) in enumerate(zip(seam, is_fold, strict=True))
        ]
        top = replace(panel("top", "top", edges, cloth=c.cloth), on_fold=c.on_fold)
        under = self._underside(seam, is_fold)
        workings: list[Message] = [
            summed("over_two", wrap, {"thickness": m.thickness, "wrap": m.wrap_under})
            if c.traced == "board"
            else message("unpicked_edge", casing_mm=unpicked, added_mm=m.cut_away)
            if c.traced == "old_cover_unpicked"
            else message("cut_away_restored", added_mm=wrap),
            message("underside_line", line_mm=under, wrap_mm=m.wrap_under),
        ]
        if casing:
            workings.append(casing.working)
        findings = [*self._gathers(outline, is_fold), *self._holds()]
        notions: list[Notion] = [elastic(under, c.elastic_reduction, c.elastic_width)]
        panels = [top]
        if c.strap:
            at, length = self._across(seam, is_fold)
            strap = rectangle(length, 2 * c.strap_width, [Edging("plain", c.allowance)] * 4)
            panels.append(panel("strap", "strap", strap, cloth=c.cloth))
            workings.append(message("strap_across", at_mm=at, length_mm=length))
            notions.append(Notion("fastener_tape", message("tape_for_strap", length_mm=60), 1, 60.0, c.strap_width))
        return put_together(panels, [], house, notions=notions, workings=workings, findings=findings)

    def _outline(self) -> tuple[Edge, ...]:
        m = self.measures
        if self.shapes.outline:
            return self.shapes.outline
        return measured_rectangle(*needed(width=m.width, length=m.length), radius=m.corner_radius).edges

    def _casing(self, house: House) -> Casing | None:
        c = self.choices
        return elastic_casing(house.rules_for(c.cloth), c.elastic_width) if c.elastic == "casing" else None

    def _underside(self, seam: Sequence[Edge], is_fold: Sequence[bool]) -> float:
        """The line on the underside that the elastic has to hold, mm: the board's outline, in by the wrap."""
        m = self.measures
        back_mm = 2 * m.wrap_under + m.thickness
        ring = shapely.Polygon(flatten_ring(seam))
        if any(is_fold):
            fold = seam[is_fold.index(True)]
            ring = ring.union(_mirrored_about(ring, fold))
        under = ring.buffer(-back_mm, join_style="mitre", quad_segs=64)
        if under.is_empty or under.geom_type != "Polygon":
            raise Refusal(message("wraps_meet", wrap_mm=m.wrap_under), "measure")
        return float(under.exterior.length)

    def _gathers(self, outline: Sequence[Edge], is_fold: Sequence[bool]) -> list[Finding]:
        """How much each rounded corner gathers: from φ(r + T) to φ(r − w)."""
        m, c = self.measures, self.choices
        worst: tuple[float, float] | None = None
        for edge, fold in zip(outline, is_fold, strict=True):
            circle = circle_of(edge) if edge.kind == "arc" and not fold else None
            if circle and circle.sweep > 0:
                wrap = m.thickness + m.wrap_under if c.traced == "board" else m.cut_away
                out, inner = circle.radius + wrap, circle.radius - m.wrap_under
                ratio = out / inner if inner > 0 else math.inf
                if worst is None or ratio > worst[0]:
                    worst = (ratio, circle.radius)
        if worst is None:
            return [Finding("look", message("square_corners_fold"))]
        ratio, radius = worst
        if ratio > MOST_GATHER:
            return [Finding("look", message("corner_gathers_much", radius_mm=radius, wrap_mm=m.wrap_under))]
        return [Finding("fine", message("corner_gathers", ratio=ratio, radius_mm=radius))]

    def _holds(self) -> list[Finding]:
        m = self.measures
        if m.wrap_under < LEAST_WRAP_MM:
            return [Finding("stop", message("wrap_too_small", wrap_mm=m.wrap_under, least_mm=LEAST_WRAP_MM))]
        return []

    def _across(self, seam: Sequence[Edge], is_fold: Sequence[bool]) -> tuple[float, float]:
        """How far up a strap lies, and how long it is to span the underside from edge to edge of the drawn-in line, mm."""
        m = self.measures
        ring = shapely.Polygon(flatten_ring(seam))
        if any(is_fold):
            ring = ring.union(_mirrored_about(ring, seam[is_fold.index(True)]))
        x0, y0, x1, y1 = ring.bounds
        at = m.strap_at if m.strap_at is not None else (y1 - y0) / 2
        line = shapely.LineString([(x0 - 1, y0 + at), (x1 + 1, y0 + at)]).intersection(ring)
        if line.is_empty:
            raise Refusal(message("strap_beside_board"), "measure")
        return at, float(line.length) - 2 * (2 * m.wrap_under + m.thickness)


def _fold_of(outline: Sequence[Edge]) -> Edge:
    """The straight edge on which a half lies on the fold: the longest."""
    straight = [e for e in outline if e.kind == "line"]
    if not straight:
        raise Refusal(message("half_needs_straight_edge"), "shape")
    return max(straight, key=edge_length)


def _mirrored_about(shape: shapely.Polygon, fold: Edge) -> shapely.Polygon:
    """A shape reflected in the line of a straight edge."""
    (ax, ay), (bx, by) = fold.start, fold.end
    turn = 2 * math.atan2(by - ay, bx - ax)
    c, s = math.cos(turn), math.sin(turn)
    return shapely.affinity.affine_transform(shape, [c, s, s, -c, ax - c * ax - s * ay, ay - s * ax + c * ay])
