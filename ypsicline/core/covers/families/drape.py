"""One length laid over an object from hem to hem (rules 13 and 16)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal

from ypsicline.core.covers.cover import Cover, Paired, put_together
from ypsicline.core.covers.family import Choices, Family, NoShapes
from ypsicline.core.covers.notion import Notion
from ypsicline.core.covers.parts.edging import Edging, panel, polygon, rectangle
from ypsicline.core.covers.parts.goods import binding
from ypsicline.core.covers.parts.sums import summed
from ypsicline.core.covers.suits import Suits
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.features.aperture import Aperture
from ypsicline.core.pattern.features.layer import Layer, LayerRole
from ypsicline.core.pattern.features.mark_at import MarkAt
from ypsicline.core.pattern.features.notch import Notch
from ypsicline.core.pattern.join import Along, Join
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.typed import Length, LengthIfTyped, LengthOrNone, NumberOrNone

__all__ = ["Drape", "DrapeChoices", "DrapeMeasures"]

LEAST_DIVISION_MM = 60.0
TIE_FROM_EDGE_MM = 12.0


@dataclass(frozen=True)
class DrapeMeasures:
    """The girth from the floor or table over the object and down again, the width, and how far both hems stay off the floor.

    `aperture_x` and `aperture_y` are where an opening's middle lies, from the left edge and along the girth from the finished
    front hem; `pocket_above_hem` where a pocket's lower edge lies.
    """

    girth_over: Length
    width: Length
    drop_margin: LengthOrNone = 0.0
    aperture_x: LengthIfTyped = None
    aperture_y: LengthIfTyped = None
    aperture_width: LengthOrNone = 0.0
    aperture_height: LengthOrNone = 0.0
    pocket_height: LengthOrNone = 0.0
    pocket_above_hem: LengthOrNone = 0.0
    ties_height: LengthOrNone = 0.0

    def __post_init__(self) -> None:
        within(message("figure_girth_over"), self.girth_over, 50, 20_000)
        within(message("figure_width"), self.width, 20, 10_000)
        within(message("figure_margin_above_the_floor"), self.drop_margin, 0, self.girth_over / 3)

    @property
    def length(self) -> float:
        """From finished hem to finished hem, mm."""
        return self.girth_over - 2 * self.drop_margin


@dataclass(frozen=True)
class DrapeChoices(Choices):
    """Hems and sides, which are open or sewn front to back so far up from the hem; what is on it, and whether a print has to
    stand upright on both sides."""

    sides: Literal["bound", "hem"] = "bound"
    hem: LengthIfTyped = None
    aperture: Literal["none", "faced", "bound"] = "none"
    pocket_divisions: int = 1
    sides_sewn_up_to: LengthOrNone = 0.0
    ties: bool = False
    tie_length: Length = 250.0
    lining: bool = False
    interlining: bool = False
    directional: bool = False
    joined_at_back: bool = False
    join_at: NumberOrNone = 0.5
    binding_width: Length = 12.0

    def __post_init__(self) -> None:
        super().__post_init__()
        within(message("figure_pocket_divisions"), self.pocket_divisions, 1, 12, "")
        within(message("figure_place_of_the_join"), self.join_at, 0.1, 0.9, "")


@dataclass(frozen=True)
class Drape(Family):
    """One length, or a front and a back joined where they meet; with opening, pocket and ties."""

    measures: DrapeMeasures
    choices: DrapeChoices = DrapeChoices()
    shapes: NoShapes = NoShapes()
    family: Literal["drape"] = "drape"

    suits = (
        Suits("goes_on", "tied under", "ties", True, message("suits_tied")),
        Suits("against", "padding", "interlining", True, message("suits_padding")),
    )

    def cover(self, house: House) -> Cover:
        m, c = self.measures, self.choices
        hem = house.rules_for(c.cloth).hem if c.hem is None else c.hem
        seam = c.seam(house)
        findings: list[Finding] = []
        joins: list[Paired] = []
        workings: list[Message] = [
            summed("length", m.length + 2 * hem, {"girth": m.girth_over, "margin": -2 * m.drop_margin, "hems": 2 * hem})
        ]
        if c.joined_at_back:
            front, back = c.join_at * m.length, (1 - c.join_at) * m.length
            panels = [self._length("front", front, is_joined=True), self._length("back", back, is_joined=True)]
            joins.append(
                Paired(
                    Join((Along("front", panels[0].seam_line[2].id),), (Along("back", panels[1].seam_line[2].id, backward=True),)),
                    (0.25, 0.75), (0.5,),
                )
            )  # fmt: skip
            workings.append(message("drape_parted", front_mm=front, back_mm=back, seam_mm=seam))
        else:
            panels = [self._length("outer", m.length, is_joined=False)]
            if c.directional:
                findings.append(Finding("stop", message("print_upside_down")))
        joins += self._sides_sewn(panels)
        panels = self._with_aperture(panels)
        panels = self._with_ties(panels)
        pocket, more = self._pocket(panels[0])
        findings += more
        linings: tuple[tuple[LayerRole, bool], ...] = (("lining", c.lining), ("interlining", c.interlining))
        layers = [Layer(role) for role, is_asked in linings if is_asked]
        panels = [replace(p, features=(*p.features, *layers)) for p in panels]
        notions: list[Notion] = []
        if c.sides == "bound":
            notions.append(replace(binding(m.length, 0, c.binding_width), count=2))
        if c.ties:
            workings.append(message("ties_level", height_mm=m.ties_height, from_back_mm=m.length - m.ties_height))
            notions.append(
                Notion("ribbon", message("ties_of_ribbon", count=4, length_mm=c.tie_length), 4, c.tie_length)
            )
            findings.append(Finding("fine", message("ties_near_children")))
        return put_together([*panels, *pocket], joins, house, notions=notions, workings=workings, findings=findings)

    def _length(self, id: str, length: float, *, is_joined: bool) -> Panel:
        c = self.choices
        hem = Edging("hem", c.hem)
        side = Edging(c.sides) if c.sides == "bound" else Edging("hem")
        top = Edging("plain", c.allowance) if is_joined else hem
        width, up = self.measures.width, c.sides_sewn_up_to
        if not up:
            return panel(
                id, id, rectangle(width, length, [hem, side, top, side], ("hem", "right", "top", "left")), cloth=c.cloth
            )
        seam = Edging("plain", c.allowance)
        # what hangs at the back is sewn to what hangs in front of it, on one piece or on two
        stops = [up] if is_joined else [up, length - up]
        right = list(pairwise([0.0, *stops, length]))
        corners = [
            (0.0, 0.0),
            *((width, a) for a, _ in right),
            (width, length),
            *((0.0, b) for _, b in reversed(right)),
        ]
        side_names = [f"side {k + 1}" for k in range(len(right))]
        kinds = [seam if k in (0, 2) else side for k in range(len(right))]
        names = ["hem", *(f"right {n}" for n in side_names), "top", *(f"left {n}" for n in reversed(side_names))]
        edges = polygon(
            corners[:-1] if corners[-1] == corners[0] else corners, names, [hem, *kinds, top, *reversed(kinds)]
        )
        return panel(id, id, edges, cloth=c.cloth)

    def _sides_sewn(self, panels: Sequence[Panel]) -> list[Paired]:
        """Both sides, front to back, from the hem up."""
        m, c = self.measures, self.choices
        if not c.sides_sewn_up_to:
            return []
        within(message("figure_how_far_up_the_sides_are_sewn"), c.sides_sewn_up_to, 20, 0.9 * m.length / 2)
        if c.ties:
            raise Refusal(message("sewn_sides_need_no_ties"), "choice")
        edges = [{e.name: e.id for e in p.seam_line} for p in panels]
        joins = []
        for way in ("right", "left"):
            # seen from behind the back lies the other way round
            other = {"right": "left", "left": "right"}[way] if len(panels) == 2 else way
            last = edges[-1][f"{other} side {1 if len(panels) == 2 else 3}"]
            pairs = (Along(panels[0].id, edges[0][f"{way} side 1"]),), (Along(panels[-1].id, last, backward=True),)
            joins.append(Paired(Join(*pairs), (0.5,)))
        return joins

    def _on(self, panels: list[Panel], x: float, y: float) -> tuple[int, tuple[float, float]]:
        """The panel on which a place along the girth lies, and where on it."""
        m = self.measures
        front = _length_of(panels[0])
        if len(panels) == 1 or y <= front:
            return 0, (x, y)
        # seen from behind the back lies the other way round
        return 1, (m.width - x, m.length - y)

    def _with_aperture(self, panels: list[Panel]) -> list[Panel]:
        """With the opening, on the panel on which it lies. Raises `Refusal` where it lies over the join."""
        m, c = self.measures, self.choices
        if c.aperture == "none":
            return panels
        for name, value in (("aperture x", m.aperture_x), ("aperture y", m.aperture_y)):
            if value is None:
                raise Refusal(message("type_in_too", field_term=name), "measure")
        x, y = m.aperture_x or 0.0, m.aperture_y or 0.0
        k, at = self._on(panels, x, y)
        size = (m.aperture_width or m.aperture_height, m.aperture_height or m.aperture_width)
        join_y = _length_of(panels[0])
        if len(panels) == 2 and abs(y - join_y) <= size[1] / 2:
            raise Refusal(message("join_under_aperture", at_mm=y, join_mm=join_y), "aperture")
        opening = Aperture("rectangle", at, size, c.aperture, "opening")
        return [replace(p, features=(*p.features, opening)) if i == k else p for i, p in enumerate(panels)]

    def _with_ties(self, panels: list[Panel]) -> list[Panel]:
        """Ties at one height in front and at the back, so that they meet level when it is worn."""
        m, c = self.measures, self.choices
        if not c.ties:
            return panels
        within(message("figure_ties_height"), m.ties_height, 10, m.length / 2)
        panels_with_ties = list(panels)
        for y in (m.ties_height, m.length - m.ties_height):
            for x in (TIE_FROM_EDGE_MM, m.width - TIE_FROM_EDGE_MM):
                k, at = self._on(panels_with_ties, x, y)
                along = at[1]
                right = at[0] > m.width / 2
                edge = panels_with_ties[k].seam_line[1 if right else 3]
                place = along if right else edge.start[1] - along
                tie = MarkAt("tie", at, text="tie")
                panels_with_ties[k] = replace(
                    panels_with_ties[k], features=(*panels_with_ties[k].features, tie, Notch(edge.id, place))
                )
        return panels_with_ties

    def _pocket(self, front: Panel) -> tuple[list[Panel], list[Finding]]:
        m, c = self.measures, self.choices
        if not m.pocket_height:
            return [], []
        within(message("figure_pocket_height"), m.pocket_height, 40, m.length / 2)
        each = m.width / c.pocket_divisions
        plain = Edging("plain", c.allowance)
        side = Edging("bound") if c.sides == "bound" else plain
        pocket = panel(
            "pocket", "pocket", rectangle(m.width, m.pocket_height, [plain, side, Edging("hem"), side]), cloth=c.cloth
        )
        lines = tuple(
            MarkAt("centre", (k * each, 0.0), (k * each, m.pocket_height), "division")
            for k in range(1, c.pocket_divisions)
        )
        findings = []
        if each < LEAST_DIVISION_MM:
            findings.append(Finding("look", message("division_too_narrow", each_mm=each, least_mm=LEAST_DIVISION_MM)))
        if m.pocket_above_hem + m.pocket_height > front.seam_line[1].end[1]:
            findings.append(Finding("stop", message("pocket_over_join", top_mm=m.pocket_above_hem + m.pocket_height)))
        return [replace(pocket, features=lines)], findings


def _length_of(strip: Panel) -> float:
    return max(e.end[1] for e in strip.seam_line)
