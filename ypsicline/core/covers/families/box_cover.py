"""A cover of a box: top and walls, or one sheet with its corners cut out (rules 3 and 10)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import accumulate
from typing import Literal

from ypsicline.core.covers.cover import Cover, Paired, put_together
from ypsicline.core.covers.family import Family
from ypsicline.core.covers.notion import Notion
from ypsicline.core.covers.parts.casing import cord_casing
from ypsicline.core.covers.parts.edging import Edging, panel, polygon, rectangle
from ypsicline.core.covers.parts.goods import cord, zip_for
from ypsicline.core.covers.parts.grown import grown, parted_at
from ypsicline.core.covers.parts.mouth import GoesOver, passing
from ypsicline.core.covers.parts.needed import needed
from ypsicline.core.covers.parts.outline import OutlineEdges, with_edging
from ypsicline.core.covers.parts.strips import bent_strip, ends_joined, strip_lengths, strip_panels
from ypsicline.core.covers.parts.sums import summed
from ypsicline.core.covers.suits import Suits
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import Edge, Point, edge_length, place_at_length
from ypsicline.core.geometry.plane import minus, unit
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.features.aperture import Aperture, Stocked
from ypsicline.core.pattern.join import Along, Join
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.solids.assembled import Standing
from ypsicline.core.solids.placement import Flat, FoldedDown
from ypsicline.core.trueing.measured import rectangle as measured_rectangle
from ypsicline.core.typed import Length, LengthIfTyped, LengthOrNone, SignedLength

__all__ = ["BoxCover", "BoxCoverChoices", "BoxCoverMeasures", "BoxCoverShapes"]

JOIN_FROM_CORNER_MM = 40.0
VENT_FROM_TOP_MM = 60.0
_STEPS = 200


@dataclass(frozen=True)
class BoxCoverMeasures:
    """Width, depth and height of the box, ease on each, the radius of its plan's corners, and the thickness of what the cover
    lies over."""

    height: Length
    width: LengthIfTyped = None
    depth: LengthIfTyped = None
    corner_radius: LengthOrNone = 0.0
    ease_width: SignedLength = 0.0
    ease_depth: SignedLength = 0.0
    ease_height: SignedLength = 0.0
    cloth_thickness: LengthOrNone = 0.0

    def __post_init__(self) -> None:
        within(message("figure_height"), self.height, 5, 10_000)
        for what, value in ((message("figure_width"), self.width), (message("figure_depth"), self.depth)):
            if value is not None:
                within(what, value, 10, 20_000)
        within(message("figure_ease_on_the_width"), self.ease_width, -500, 2000)
        within(message("figure_ease_on_the_depth"), self.ease_depth, -500, 2000)
        within(message("figure_ease_on_the_height"), self.ease_height, -500, 2000)
        within(message("figure_thickness_of_what_it_lies_over"), self.cloth_thickness, 0, 200)


@dataclass(frozen=True)
class BoxCoverShapes:
    """The `plan`'s outline, in the place of width and depth."""

    plan: OutlineEdges = ()


@dataclass(frozen=True)
class BoxCoverChoices(GoesOver):
    """Of what the walls are made, how they end at the foot, and what is cut into them."""

    walls: Literal["one_strip", "by_side", "cross"] = "one_strip"
    foot: Literal["hem", "casing"] = "hem"
    hem: LengthIfTyped = None
    cord: Length = 5.0
    cord_tails: Length = 300.0
    zip_at_corner: bool = False
    stocked_zips: Stocked = ()
    vent_width: LengthOrNone = 0.0
    vent_height: LengthOrNone = 0.0
    handle_width: LengthOrNone = 0.0
    handle_height: Length = 30.0
    handle_from_top: Length = 100.0


@dataclass(frozen=True)
class BoxCover(Family):
    """A top and walls round it."""

    measures: BoxCoverMeasures
    choices: BoxCoverChoices = BoxCoverChoices()
    shapes: BoxCoverShapes = BoxCoverShapes()
    family: Literal["box_cover"] = "box_cover"

    eased_by = (("ease_width", 2.0), ("ease_depth", 2.0), ("ease_height", 1.0))
    suits = (
        Suits("goes_on", "cord under", "foot", "casing", message("suits_cord_under")),
        Suits("against", "weather", "foot", "casing", message("suits_wind")),
        Suits("goes_on", "zipped", "zip_at_corner", True, message("suits_zipped")),
    )

    def cover(self, house: House) -> Cover:
        m, c = self.measures, self.choices
        plan = self._plan()
        height = m.height + m.ease_height + m.cloth_thickness
        if height <= 1:
            raise Refusal(message("ease_takes_all"), "measure")
        foot, notions, workings = self._foot(house, sum(map(edge_length, plan)))
        sums, passes = self._passes(plan, height)
        workings = [*self._sums(plan, height), *workings, *sums]
        if c.walls == "cross":
            panels, joins, findings = self._cross(plan, height, foot)
        elif c.walls == "by_side":
            panels, joins, findings = self._by_side(plan, height, foot)
        else:
            panels, joins, findings, sums = self._in_one_strip(plan, height, foot, house)
            workings += sums
        if c.zip_at_corner:
            joins, more = self._zipped(joins, height)
            notions = [*notions, *more]
            panels = _with_zip_edges(panels, joins)
        standing = self._standing(panels, height)
        panels, cut = self._cut_into(panels, plan, height)
        return put_together(
            panels,
            joins,
            house,
            notions=notions,
            workings=workings,
            findings=[*findings, *passes, *cut],
            standing=standing,
        )

    def _passes(self, plan: Sequence[Edge], height: float) -> tuple[list[Message], list[Finding]]:
        """Whether the foot, with a zip both sides of the open corner, passes the widest on the way."""
        m = self.measures
        mouth = sum(map(edge_length, plan)) + (2 * height if self.choices.zip_at_corner else 0)
        # either ease lengthens a traced plan by half of its circle's share, two sides of a measured one
        share = 1 / math.pi if self.shapes.plan else 1 / 4
        eases = {"measures.ease_width": (m.ease_width, share), "measures.ease_depth": (m.ease_depth, share)}
        return passing(self.choices, mouth, eases)

    def _standing(self, panels: Sequence[Panel], height: float) -> list[Standing]:
        """The top over its walls, or the sheet folded down over its sides."""
        if self.choices.walls == "cross":
            xs, ys = zip(*(e.start for e in panels[0].seam_line), strict=True)
            size = (max(xs) - min(xs) - 2 * height, max(ys) - min(ys) - 2 * height)
            return [Standing("sheet", FoldedDown(size, height))]
        top, *walls = panels
        return [Standing("top", Flat((0, 0, height), (1, 0, 0), (0, 1, 0))), *bent_strip(walls, top.seam_line)]

    def _plan(self) -> tuple[Edge, ...]:
        """The top's seam line: the plan with ease and the thickness that it lies over."""
        m = self.measures
        if self.shapes.plan:
            out = (m.ease_width + m.ease_depth) / 4 + m.cloth_thickness
            return grown(self.shapes.plan, [out] * len(self.shapes.plan))
        width, depth = needed(width=m.width, depth=m.depth)
        width += m.ease_width + 2 * m.cloth_thickness
        depth += m.ease_depth + 2 * m.cloth_thickness
        if min(width, depth) <= 1:
            raise Refusal(message("ease_takes_all"), "measure")
        return measured_rectangle(width, depth, radius=m.corner_radius).edges

    def _sums(self, plan: Sequence[Edge], height: float) -> list[Message]:
        m = self.measures
        t = m.cloth_thickness
        sums = []
        if not self.shapes.plan:
            width, depth = m.width or 0.0, m.depth or 0.0
            sums.append(
                summed(
                    "width", width + m.ease_width + 2 * t, {"width": width, "ease": m.ease_width, "thickness": 2 * t}
                )
            )
            sums.append(
                summed(
                    "depth", depth + m.ease_depth + 2 * t, {"depth": depth, "ease": m.ease_depth, "thickness": 2 * t}
                )
            )
        sums.append(summed("height", height, {"height": m.height, "ease": m.ease_height, "thickness": t}))
        around = sum(map(edge_length, plan))
        return [*sums, message("wall_round_plan", round_mm=around)]

    def _foot(self, house: House, around: float) -> tuple[Edging, list[Notion], list[Message]]:
        c = self.choices
        if c.foot == "hem":
            return Edging("hem", c.hem), [], []
        casing = cord_casing(house.rules_for(c.cloth), c.cord, c.hem)
        lock = Notion("cord_lock", message("locks_for_exits", count=1), 1, size_mm=c.cord)
        return casing.edging, [cord(around, c.cord_tails, c.cord), lock], [casing.working]

    def _in_one_strip(
        self, plan: Sequence[Edge], height: float, foot: Edging, house: House
    ) -> tuple[list[Panel], list[Paired], list[Finding], list[Message]]:
        """Walls in one strip, its joins as far from the corners as they can be."""
        c = self.choices
        plain = Edging("plain", c.allowance)
        around = sum(map(edge_length, plan))
        pieces = strip_lengths("wall", around, c.usable_width, c.strip_join(house), is_closed=True)
        corners = [s for s, e in zip(accumulate((edge_length(e) for e in plan), initial=0.0), plan, strict=False)]
        places = [(s, 0.0) for s in corners] + self._openings_at(plan)
        start, away = _best_start(around, (0.0, *pieces.joins_at), places)
        ring = _begun_at(plan, start)
        top = panel("top", "top", with_edging(ring, plain), cloth=c.cloth)
        ends = Edging("plain", c.join_allowance if c.join_allowance is not None else c.allowance)
        wall = strip_panels("wall", "wall", pieces, height, bottom=foot, top=plain, ends=ends, cloth=c.cloth)
        at = [s / around for s in accumulate(map(edge_length, ring))][:-1]
        joins = [Paired(j, (0.5,)) for j in ends_joined(wall, is_closed=True)]
        joins.append(Paired(Join(tuple(Along("top", e.id) for e in top.seam_line), wall.top), tuple(at), (0.0,)))
        findings = []
        if away < JOIN_FROM_CORNER_MM:
            findings.append(Finding("look", message("join_near_corner", away_mm=away, wanted_mm=JOIN_FROM_CORNER_MM)))
        return [top, *wall.panels], joins, findings, [pieces.working]

    def _by_side(
        self, plan: Sequence[Edge], height: float, foot: Edging
    ) -> tuple[list[Panel], list[Paired], list[Finding]]:
        """A wall for every side of the plan, joined at its corners."""
        c = self.choices
        plain = Edging("plain", c.allowance)
        top = panel("top", "top", with_edging(plan, plain), cloth=c.cloth)
        names = (
            ("front", "right", "back", "left") if len(plan) == 4 else tuple(f"side {k + 1}" for k in range(len(plan)))
        )
        walls = [
            panel(
                f"wall{k + 1}",
                f"{names[k]} wall",
                rectangle(edge_length(e), height, [foot, plain, plain, plain]),
                cloth=c.cloth,
            )
            for k, e in enumerate(plan)
        ]
        joins = [
            Paired(Join((Along("top", e.id),), (Along(w.id, w.seam_line[2].id, backward=True),)), (0.5,))
            for e, w in zip(top.seam_line, walls, strict=True)
        ]
        for one, other in zip(walls, [*walls[1:], walls[0]], strict=True):
            joins.append(
                Paired(
                    Join(
                        (Along(one.id, one.seam_line[1].id),), (Along(other.id, other.seam_line[3].id, backward=True),)
                    ),
                    (0.5,),
                )
            )
        return [top, *walls], joins, []

    def _cross(
        self, plan: Sequence[Edge], height: float, foot: Edging
    ) -> tuple[list[Panel], list[Paired], list[Finding]]:
        """One sheet: the plan with a wall at each side, a square cut out at each corner."""
        c = self.choices
        if len(plan) != 4 or any(e.kind != "line" for e in plan):
            raise Refusal(message("cross_needs_rectangle"), "shape")
        width, depth, h = edge_length(plan[0]), edge_length(plan[1]), height
        plain = Edging("plain", c.allowance)
        corners = [
            (0.0, -h), (width, -h), (width, 0.0), (width + h, 0.0), (width + h, depth), (width, depth), (width, depth + h),
            (0.0, depth + h), (0.0, depth), (-h, depth), (-h, 0.0), (0.0, 0.0),
        ]  # fmt: skip
        sides = ("front", "right", "back", "left")
        names = [n for side in sides for n in (side, f"{side} end", f"{side} start")]
        edgings = [foot, plain, plain] * 4
        sheet = panel("sheet", "sheet", polygon(corners, names, edgings), cloth=c.cloth)
        ids = [e.id for e in sheet.seam_line]
        joins = [
            Paired(Join((Along("sheet", ids[3 * k + 1]),), (Along("sheet", ids[3 * k + 2], backward=True),)), (0.5,))
            for k in range(4)
        ]
        return [sheet], joins, [Finding("fine", message("cross_saves_seams", square_mm=h))]

    def _zipped(self, joins: list[Paired], height: float) -> tuple[list[Paired], list[Notion]]:
        """The last upright seam with a zip."""
        c = self.choices
        upright = [k for k, p in enumerate(joins) if "top" not in {a.panel for a in (*p.join.first, *p.join.second)}]
        k = upright[-1]
        with_zip = [replace(p, join=replace(p.join, seam="zip")) if i == k else p for i, p in enumerate(joins)]
        return with_zip, [zip_for(height, c.stocked_zips)]

    def _openings(self) -> list[_Opening]:
        """A handle's slot in the walls at the right and the left, a vent in the back one."""
        c = self.choices
        openings = []
        if c.handle_width:
            size = (c.handle_width, c.handle_height)
            openings += [_Opening(f"{w} handle", k, c.handle_from_top, size) for k, w in ((1, "right"), (3, "left"))]
        if c.vent_width:
            tall = c.vent_height or c.vent_width / 2
            openings.append(_Opening("vent", 2, VENT_FROM_TOP_MM + tall / 2, (c.vent_width, tall)))
        return openings

    def _cut_into(self, panels: list[Panel], plan: Sequence[Edge], height: float) -> tuple[list[Panel], list[Finding]]:
        """The panels with an opening in the middle of each wall that has one. Raises `Refusal` where the plan has other than four
        straight sides."""
        parts = list(panels)
        openings = self._openings()
        if openings and len(_straight(plan)) != 4:
            raise Refusal(message("openings_need_four_walls"), "choice")
        for opening in openings:
            k, at = self._middle_of_wall(parts, plan, opening.side, height, opening.down)
            size = opening.size[::-1] if self.choices.walls == "cross" and opening.side != 2 else opening.size
            form: Literal["rectangle", "slot"] = "rectangle" if opening.name == "vent" else "slot"
            hole = Aperture(form, at, size, "faced", opening.name)
            parts[k] = replace(parts[k], features=(*parts[k].features, hole))
        vented = any(o.name == "vent" for o in openings)
        return parts, [Finding("fine", message("vent_under_flap"))] if vented else []

    def _middle_of_wall(
        self, panels: Sequence[Panel], plan: Sequence[Edge], side: int, height: float, down: float
    ) -> tuple[int, Point]:
        """The panel with the middle of a side's wall, so far down from the top, and where on it that lies."""
        own = _straight(plan)[side]
        if self.choices.walls == "cross":
            width, depth = edge_length(plan[0]), edge_length(plan[1])
            return 0, ((width + down, depth / 2), (width / 2, depth + down), (-down, depth / 2))[side - 1]
        if self.choices.walls == "by_side":
            return plan.index(own) + 1, (edge_length(own) / 2, height - down)
        # the top's edges begin where the strip does
        middle = ((own.start[0] + own.end[0]) / 2, (own.start[1] + own.end[1]) / 2)
        reached = list(accumulate(map(edge_length, panels[0].seam_line), initial=0.0))
        on = next(k for k, e in enumerate(panels[0].seam_line) if _is_between(middle, e))
        way = reached[on] + math.dist(panels[0].seam_line[on].start, middle)
        ends = list(accumulate(p.seam_line[0].end[0] for p in panels[1:]))
        piece = next(k for k, end in enumerate(ends) if way <= end + 1e-6)
        return piece + 1, (way - (ends[piece - 1] if piece else 0.0), height - down)

    def _openings_at(self, plan: Sequence[Edge]) -> list[tuple[float, float]]:
        """Where along the plan the middle of each opening of the walls lies, and half its width, mm."""
        walls = _straight(plan)
        if len(walls) != 4:
            return []
        starts = dict(zip(map(id, plan), accumulate(map(edge_length, plan), initial=0.0), strict=False))
        return [(starts[id(w)] + edge_length(w) / 2, o.size[0] / 2) for o in self._openings() for w in (walls[o.side],)]


@dataclass(frozen=True)
class _Opening:
    """An opening in the middle of a side's wall, so far `down` from the top; `size` across and up, mm."""

    name: str
    side: int
    down: float
    size: tuple[float, float]


def _straight(plan: Sequence[Edge]) -> list[Edge]:
    """The straight sides of a plan, from the front one round."""
    sides = [e for e in plan if e.kind == "line"]
    # the front runs to the right, as the plan is seen from above
    front = max(range(len(sides)), key=lambda k: unit(minus(sides[k].end, sides[k].start))[0], default=0)
    return [*sides[front:], *sides[:front]]


def _is_between(point: Point, edge: Edge) -> bool:
    """Whether a point lies on a straight edge."""
    way = math.dist(edge.start, point) + math.dist(point, edge.end)
    return edge.kind == "line" and abs(way - math.dist(edge.start, edge.end)) < 1e-6


def _best_start(around: float, joins: Sequence[float], places: Sequence[tuple[float, float]]) -> tuple[float, float]:
    """Where on the ring a strip begins so that its joins lie farthest from every corner and opening, each with half its width,
    and how far that is, mm."""

    def away(start: float) -> float:
        return min(abs((start + j - c + around / 2) % around - around / 2) - half for j in joins for c, half in places)

    starts = [around * k / _STEPS for k in range(_STEPS)]
    best = max(starts, key=away)
    return best, away(best)


def _begun_at(plan: Sequence[Edge], start: float) -> tuple[Edge, ...]:
    """The ring begun so far along it."""
    at = 0.0
    for edge in plan:
        if start < at + edge_length(edge):
            point, _ = place_at_length(edge, start - at)
            break
        at += edge_length(edge)
    parts = parted_at(plan, [point])
    k = min(range(len(parts)), key=lambda i: math.dist(parts[i].start, point))
    return (*parts[k:], *parts[:k])


def _with_zip_edges(panels: Sequence[Panel], joins: Sequence[Paired]) -> list[Panel]:
    """The edges of zipped seams finished for a zip."""
    zipped = {(a.panel, a.edge) for p in joins if p.join.seam == "zip" for a in (*p.join.first, *p.join.second)}
    edged = []
    for p in panels:
        seam = tuple(replace(e, finish="zip", by_rule=True) if (p.id, e.id) in zipped else e for e in p.seam_line)
        edged.append(replace(p, seam_line=seam) if seam != p.seam_line else p)
    return edged
