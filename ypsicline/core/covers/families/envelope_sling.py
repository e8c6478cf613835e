"""Two plies over a frame's rails, from measures on the frame and off it (rule 12)."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, ValidationInfo, WithJsonSchema

from ypsicline.core.covers.cover import Cover, Paired, put_together
from ypsicline.core.covers.family import Choices, Family, NoShapes
from ypsicline.core.covers.notion import Notion
from ypsicline.core.covers.parts.edging import Edging, panel, rectangle
from ypsicline.core.covers.parts.goods import binding
from ypsicline.core.covers.suits import Suits
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.edge_changes import mirrored
from ypsicline.core.pattern.features.aperture import Aperture
from ypsicline.core.pattern.join import Along, Join
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.trueing.on_off import on_off
from ypsicline.core.typed import Length, LengthIfTyped, LengthOrNone, ShareIfTyped
from ypsicline.core.typed_lengths import parse_length

__all__ = ["EnvelopeSling", "EnvelopeSlingChoices", "EnvelopeSlingMeasures"]


def _stations(value: Any, info: ValidationInfo) -> Any:
    unit = (info.context or {}).get("unit", "mm")
    if isinstance(value, str):
        value = [t for t in value.split(";") if t.strip()]
    if not isinstance(value, (list, tuple)):
        return value
    return tuple(parse_length(t, unit) if isinstance(t, str) else t for t in value)


Stations = Annotated[
    tuple[float, ...],
    BeforeValidator(_stations),
    WithJsonSchema(
        {"anyOf": [{"type": "string"}, {"type": "array", "items": {"anyOf": [{"type": "string"}, {"type": "number"}]}}]}
    ),
]
"""Places along a side, mm; as text with semicolons between."""


@dataclass(frozen=True)
class EnvelopeSlingMeasures:
    """Width and length of the old cover on the frame and off it; where slots stand along each side, on the frame, from its
    lower end; how long a slot is, how far in; the girth of the rail that a pocket goes round."""

    width_on: Length
    length_on: Length
    width_off: LengthIfTyped = None
    length_off: LengthIfTyped = None
    stations_left: Stations = ()
    stations_right: Stations = ()
    slot_length: LengthOrNone = 0.0
    slot_inset: LengthOrNone = 0.0
    rail_girth: LengthOrNone = 0.0

    def __post_init__(self) -> None:
        within(message("figure_width_on_the_frame"), self.width_on, 50, 10_000)
        within(message("figure_length_on_the_frame"), self.length_on, 50, 10_000)
        for side, places in (
            (message("side_left"), self.stations_left),
            (message("side_right"), self.stations_right),
        ):
            if len(places) > 40:
                raise Refusal(message("too_many_stations", most=40), "measure")
            if any(b <= a for a, b in zip(places, places[1:], strict=False)):
                raise Refusal(message("stations_out_of_order", side=side), "measure")
            for at in places:
                within(message("figure_station_on_the", side=side), at, 0, self.length_on)


@dataclass(frozen=True)
class EnvelopeSlingChoices(Choices):
    """By what share the new cloth stretches at the same tension, across and along; which end is open; binding."""

    stretch_width: ShareIfTyped = None
    stretch_length: ShareIfTyped = None
    opening: Literal["bottom", "top", "none"] = "bottom"
    finish: Literal["plain", "felled", "bound"] = "plain"
    binding_width: Length = 25.0
    carries_a_person: bool = False


@dataclass(frozen=True)
class EnvelopeSling(Family):
    """A front and a back with slots at the frame's stations."""

    measures: EnvelopeSlingMeasures
    choices: EnvelopeSlingChoices = EnvelopeSlingChoices()
    shapes: NoShapes = NoShapes()
    family: Literal["envelope_sling"] = "envelope_sling"

    suits = (
        Suits("near", "weight", "carries_a_person", True, message("suits_person")),
        Suits("against", "wear", "finish", "felled", message("suits_felled")),
    )

    def cover(self, house: House) -> Cover:
        m, c = self.measures, self.choices
        across = on_off("width", m.width_on, m.width_off, c.stretch_width)
        along_it = on_off("length", m.length_on, m.length_off, c.stretch_length)
        pocket = m.rail_girth / 2
        width, length = across.cut_mm + 2 * pocket, along_it.cut_mm
        workings: list[Message] = [*across.workings, *along_it.workings]
        if pocket:
            workings.append(message("rail_pocket", girth_mm=m.rail_girth, each_mm=pocket, width_mm=width))
        hem = Edging("hem")
        sides = Edging("bound") if c.finish == "bound" else Edging("plain", c.allowance)
        seam_at_foot = Edging("plain", c.allowance)
        bottom, top = (hem if c.opening == end else seam_at_foot for end in ("bottom", "top"))
        front = panel("front", "front", rectangle(width, length, [bottom, sides, top, sides]), cloth=c.cloth)
        front, findings = self._slotted(front, length / m.length_on, pocket)
        back = replace(mirrored(front), id="back", name="back")
        if c.finish == "felled":
            front, back = _felled(front, "felled_wide"), _felled(back, "felled_narrow")
        seam: Literal["plain", "felled", "bound"] = c.finish
        joins = []
        for k, name in enumerate(("bottom", "right", "top", "left")):
            if name == c.opening:
                continue
            edge = front.seam_line[k].id
            own = seam if name in ("left", "right") else "plain"
            joins.append(Paired(Join((Along("front", edge),), (Along("back", edge, backward=True),), own), (0.5,)))
        notions: list[Notion] = []
        if c.finish == "bound":
            notions.append(binding(2 * length, 0, c.binding_width))
        if c.carries_a_person:
            findings.append(Finding("look", message("carries_weight")))
        return put_together([front, back], joins, house, notions=notions, workings=workings, findings=findings)

    def _slotted(self, front: Panel, along_it: float, pocket: float) -> tuple[Panel, list[Finding]]:
        """The front with its slots, their places shortened as the cloth along that side is."""
        m = self.measures
        if not (m.stations_left or m.stations_right):
            return front, []
        if not m.slot_length:
            raise Refusal(message("type_in_too", field_term="slot_length"), "measure")
        width = front.seam_line[0].end[0]
        inset = pocket + (m.slot_inset or m.slot_length)
        findings: list[Finding] = []
        slots = []
        for side, places, x in (("left", m.stations_left, inset), ("right", m.stations_right, width - inset)):
            for k, on in enumerate(places):
                y = on * along_it
                slots.append(
                    Aperture("slot", (x, y), (m.slot_length, 6.0), "bound", f"{side} slot {k + 1}", turn_deg=90.0)
                )
            near = [b - a for a, b in zip(places, places[1:], strict=False) if (b - a) * along_it < 1.5 * m.slot_length]
            if near:
                findings.append(Finding("look", message("slots_close", apart_mm=min(near), slot_mm=m.slot_length)))
        if m.stations_left != m.stations_right:
            findings.append(Finding("fine", message("slots_differ_by_side")))
        return replace(front, features=(*front.features, *slots)), findings


def _felled(sling: Panel, finish: Literal["felled_wide", "felled_narrow"]) -> Panel:
    sides = {"left", "right"}
    seam = tuple(replace(e, finish=finish, by_rule=True) if e.name in sides else e for e in sling.seam_line)
    return replace(sling, seam_line=seam)
