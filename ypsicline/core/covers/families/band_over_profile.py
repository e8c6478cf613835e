"""Two mirrored ends and one band over them (rule 9)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.covers.cover import Cover, Paired, put_together
from ypsicline.core.covers.family import Family
from ypsicline.core.covers.parts.edging import Edging, panel, rounded_corners
from ypsicline.core.covers.parts.goods import binding
from ypsicline.core.covers.parts.grown import grown, parted_at
from ypsicline.core.covers.parts.mouth import GoesOver, passing
from ypsicline.core.covers.parts.needed import needed
from ypsicline.core.covers.parts.outline import OutlineEdges
from ypsicline.core.covers.parts.strips import StripLengths, ends_joined, strip_lengths, strip_panels
from ypsicline.core.covers.parts.sums import summed
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.bends import tightest_convex
from ypsicline.core.geometry.edges import Edge, Point, edge_length
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.join import Along, Join
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.solids.assembled import Standing
from ypsicline.core.solids.placement import AlongRun, Flat
from ypsicline.core.typed import Length, LengthIfTyped, LengthOrNone, Number, Places, SignedLength

__all__ = ["BandOverProfile", "BandOverProfileChoices", "BandOverProfileMeasures", "BandOverProfileShapes"]

_SOLVED_MM, _MOST_STEPS = 1e-7, 12


@dataclass(frozen=True)
class BandOverProfileMeasures:
    """The object from the side: its height in front and at the back, its depth, the radii of its upper edges; its width; ease
    on the girth from foot over to foot and on the width. `pencil` is how far the traced line stands off the object."""

    width: Length
    height_front: LengthIfTyped = None
    height_back: LengthIfTyped = None
    depth: LengthIfTyped = None
    radius_front: LengthOrNone = 0.0
    radius_back: LengthOrNone = 0.0
    ease_girth: SignedLength = 0.0
    ease_width: SignedLength = 0.0
    pencil: LengthOrNone = 0.0

    def __post_init__(self) -> None:
        within(message("figure_width"), self.width, 10, 20_000)
        within(message("figure_ease_on_the_girth"), self.ease_girth, -200, 2000)
        within(message("figure_ease_on_the_width"), self.ease_width, -200, 2000)
        within(message("figure_pencil_stand_off"), self.pencil, 0, 20)


@dataclass(frozen=True)
class BandOverProfileShapes:
    """The `profile` from the side with its two `feet`, where the band begins and ends."""

    profile: OutlineEdges = ()
    feet: Places = ()


@dataclass(frozen=True)
class BandOverProfileChoices(GoesOver):
    """The hem at the feet of ends and band; a strip let in, as a contrast or because the girth was measured short; how far
    apart notches stand."""

    hem: LengthIfTyped = None
    let_in: Literal["none", "contrast", "repair"] = "none"
    let_in_width: LengthOrNone = 0.0
    let_in_at: Number = 0.5
    let_in_cloth: str = "contrast"
    notch_pitch: LengthOrNone = 0.0
    edging: bool = False

    def __post_init__(self) -> None:
        super().__post_init__()
        within(message("figure_place_of_the_strip_let_in"), self.let_in_at, 0.02, 0.98, "")
        if self.let_in != "none":
            within(message("figure_width_of_the_strip_let_in"), self.let_in_width, 5, 2000)


@dataclass(frozen=True)
class BandOverProfile(Family):
    """A pair of ends, and a band as long as their seam line from foot to foot."""

    measures: BandOverProfileMeasures
    choices: BandOverProfileChoices = BandOverProfileChoices()
    shapes: BandOverProfileShapes = BandOverProfileShapes()
    family: Literal["band_over_profile"] = "band_over_profile"

    eased_by = (("ease_girth", math.pi), ("ease_width", 2.0))

    def cover(self, house: House) -> Cover:
        m, c = self.measures, self.choices
        over, base = self._profile()
        taped = sum(map(edge_length, over))
        out = self._clearance(over, base, taped)
        over, base = _moved(over, base, out)
        girth = sum(map(edge_length, over))
        plain, hem = Edging("plain", c.allowance), Edging("hem", c.hem)
        names = [f"over {k + 1}" for k in range(len(over))] + [f"foot {k + 1}" for k in range(len(base))]
        edges = [
            (plain if k < len(over) else hem).edge(e, n)
            for k, (e, n) in enumerate(zip([*over, *base], names, strict=True))
        ]
        end = panel("end", "end", edges, cloth=c.cloth, hand="pair")
        width = m.width + m.ease_width
        pieces, workings = self._pieces(girth, house)
        ends = Edging("plain", c.join_allowance if c.join_allowance is not None else c.allowance)
        band = strip_panels(
            "band", "band", pieces, width, bottom=plain, top=plain, ends=ends, outer_ends=hem, cloth=c.cloth
        )
        panels = [end, *self._name_panels(band.panels)]
        shares = self._notches(over, girth)
        run = [e.id for e in end.seam_line[: len(over)]]
        joins = [Paired(j) for j in ends_joined(band, is_closed=False)]
        for piece, side in ((1, band.bottom), (2, band.top)):
            joins.append(Paired(Join(tuple(Along("end", e, piece=piece) for e in run), side), shares, (0.5,)))
        seam = c.seam(house)
        workings = [
            summed("girth", girth, {"over_two": taped, "ease": m.ease_girth}),
            summed("width", width + 2 * seam, {"width": m.width, "ease": m.ease_width, "allowances": 2 * seam}),
            *workings,
        ]
        feet = sum(map(edge_length, base))
        sums, passes = passing(c, 2 * (width + feet), {"measures.ease_width": (m.ease_width, 0.5)})
        workings += sums
        notions = [binding(girth, 0, 0, kind="edging"), binding(girth, 0, 0, kind="edging")] if c.edging else []
        return put_together(
            panels, joins, house, notions=notions, workings=workings,
            findings=[Finding("fine", message("ends_are_a_pair")), *self._turns(over, seam), *passes],
            standing=_standing(band.panels, tuple(end.seam_line[: len(over)]), width),
        )  # fmt: skip

    def _profile(self) -> tuple[tuple[Edge, ...], tuple[Edge, ...]]:
        """The edges from the back foot over to the front one, and those between the feet on the ground."""
        m = self.measures
        if self.shapes.profile:
            ring = grown(self.shapes.profile, [-m.pencil] * len(self.shapes.profile))
            return _from_foot_to_foot(ring, self.shapes.feet)
        front, back, depth = needed(height_front=m.height_front, height_back=m.height_back, depth=m.depth)
        for what, value in (
            (message("figure_height_in_front"), front),
            (message("figure_height_at_the_back"), back),
            (message("figure_depth"), depth),
        ):
            within(what, value, 10, 10_000)
        corners = [(0.0, 0.0), (depth, 0.0), (depth, back), (0.0, front)]
        ring = rounded_corners(corners, [0.0, 0.0, m.radius_back, m.radius_front])
        return ring[1:], ring[:1]

    def _clearance(self, over: Sequence[Edge], base: Sequence[Edge], taped: float) -> float:
        """How far the profile moves out for the girth to grow by its ease, mm: nearly in proportion, so by secants."""
        ease = self.measures.ease_girth

        def over_ease(out: float) -> float:
            return sum(map(edge_length, _moved(over, base, out)[0])) - taped - ease

        before, out = 0.0, ease / math.pi
        missed_before, missed = -ease, over_ease(out) if ease else 0.0
        for _ in range(_MOST_STEPS):
            if abs(missed) < _SOLVED_MM or missed == missed_before:
                break
            before, out = out, out - missed * (out - before) / (missed - missed_before)
            missed_before, missed = missed, over_ease(out)
        return out

    def _pieces(self, girth: float, house: House) -> tuple[StripLengths, list[Message]]:
        """The lengths of the band's pieces, with the strip that is let in."""
        c = self.choices
        hem = house.rules_for(c.cloth).hem if c.hem is None else c.hem
        join = c.strip_join(house)
        if c.let_in == "none":
            pieces = strip_lengths("band", girth, c.usable_width, join, is_closed=False, ends=2 * hem)
            return pieces, [pieces.working]
        x = c.let_in_width
        if x >= girth:
            raise Refusal(message("let_in_too_wide", width_mm=x, girth_mm=girth), "measure")
        first = c.let_in_at * (girth - x)
        parts = [
            strip_lengths("band", length, c.usable_width, join, is_closed=False, ends=hem + join)
            for length in (first, girth - x - first)
        ]
        lengths = (*parts[0].lengths, x, *parts[1].lengths)
        text = message(
            "let_in_repair" if c.let_in == "repair" else "let_in_contrast",
            width_mm=x,
            join_mm=join,
            cut_mm=x + 2 * join,
            at_mm=first,
        )
        return StripLengths(lengths, text), [*(p.working for p in parts), text]

    def _name_panels(self, panels: Sequence[Panel]) -> list[Panel]:
        """The band's pieces, the one that is let in called so and of its own cloth."""
        c = self.choices
        if c.let_in == "none":
            return list(panels)
        let_in = [abs(p.seam_line[0].end[0] - c.let_in_width) < 1e-6 for p in panels].index(True)
        return [
            replace(p, name="let-in strip", cloth=c.let_in_cloth if c.let_in == "contrast" else p.cloth)
            if k == let_in
            else p
            for k, p in enumerate(panels)
        ]

    def _notches(self, over: Sequence[Edge], girth: float) -> tuple[float, ...]:
        """Every corner and quarter of the run, and where a pitch is asked for, so far apart."""
        at, stops = 0.0, {0.25, 0.75}
        for edge in over[:-1]:
            at += edge_length(edge)
            stops.add(at / girth)
        pitch = self.choices.notch_pitch
        if pitch:
            within(message("figure_notches_pitch"), pitch, 20, 5000)
            stops |= {k * pitch / girth for k in range(1, int(girth / pitch) + 1)}
        return tuple(sorted(s for s in stops if 0.001 < s < 0.999 and abs(s - 0.5) > 1e-6))

    def _turns(self, over: Sequence[Edge], seam: float) -> list[Finding]:
        """Curves on which the band's allowance has to be snipped."""
        tight = [r for e in over if (r := tightest_convex(e)) is not None and r < 8 * seam]
        if not tight:
            return []
        return [Finding("fine", message("band_snipped", radius_mm=min(tight), allowance_mm=seam))]


def _standing(band: Sequence[Panel], over: tuple[Edge, ...], width: float) -> list[Standing]:
    """Both ends upright, the band bent over them from foot to foot."""
    standing = [
        Standing("end", Flat((0, 0, 0), (1, 0, 0), (0, 0, 1))),
        Standing("end", Flat((0, width, 0), (-1, 0, 0), (0, 0, 1)), piece=2, is_mirrored=True),
    ]
    start = 0.0
    for piece in band:
        upright = AlongRun(over, start, along=(0, 0, 1), up=(0, 1, 0), is_closed=False)
        standing.append(Standing(piece.id, upright))
        start += piece.seam_line[0].end[0]
    return standing


def _moved(over: Sequence[Edge], base: Sequence[Edge], out: float) -> tuple[tuple[Edge, ...], tuple[Edge, ...]]:
    """The profile moved out by so much, its foot left on the ground."""
    if not out:
        return tuple(over), tuple(base)
    ring = grown([*over, *base], [out] * len(over) + [0.0] * len(base))
    return ring[: len(over)], ring[len(over) :]


def _from_foot_to_foot(ring: Sequence[Edge], feet: Sequence[Point]) -> tuple[tuple[Edge, ...], tuple[Edge, ...]]:
    """The ring parted at its feet: over, and on the ground. Where none are given, at the ends of its lowest straight edge."""
    if len(feet) not in (0, 2):
        raise Refusal(message("profile_has_two_feet", count=len(feet)), "shape")
    if not feet:
        straight = [e for e in ring if e.kind == "line"]
        if not straight:
            raise Refusal(message("profile_needs_feet"), "shape")
        lowest = min(straight, key=lambda e: e.start[1] + e.end[1])
        feet = (lowest.start, lowest.end)
    edges = parted_at(ring, feet)
    front, back = sorted(feet)
    start = min(range(len(edges)), key=lambda k: math.dist(edges[k].start, back))
    from_start = [*edges[start:], *edges[:start]]
    stop = min(range(len(from_start)), key=lambda k: math.dist(from_start[k].end, front))
    return tuple(from_start[: stop + 1]), tuple(from_start[stop + 1 :])
