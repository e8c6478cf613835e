"""Bought goods by the lengths that they have to hold (rule 11)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

from ypsicline.core.covers.notion import Notion, NotionKind
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.limits import within

__all__ = [
    "FILLING_PASSES_MM",
    "HAND_MM",
    "binding",
    "cord",
    "elastic",
    "filling",
    "opening_finding",
    "piping",
    "zip_for",
]

OVERLAP_MM = 25.0
PIPING_END_MM = 40.0
ZIP_END_MM = 20.0
ELASTIC_OVERLAP_MM = 25.0
_PASSES = {"hand": message("passes_hand"), "filling": message("passes_filling")}
HAND_MM, FILLING_PASSES_MM = 110.0, 250.0


def binding(run: float, corners: int, width: float, pack: float = 0.0, kind: NotionKind = "binding") -> Notion:
    """Binding round a run: an overlap, and its width for the mitre at each corner; in whole packs where it is sold so."""
    length = run + OVERLAP_MM + corners * width
    figures = {"run_mm": run, "overlap_mm": OVERLAP_MM, "length_mm": length}
    at_corners = message("binding_corners", corners=corners, width_mm=width) if corners else message("nothing")
    if not pack:
        return Notion(kind, message("binding_length", at_corners=at_corners, **figures), 1, length, width)
    packs = math.ceil(length / pack - 1e-9)
    rest = packs * pack - length
    working = message("binding_in_packs", at_corners=at_corners, packs=packs, pack_mm=pack, left_mm=rest, **figures)
    return Notion(kind, working, packs, pack, width)


def piping(run: float, thickness: float = 0.0) -> Notion:
    """Piping along a run, with something over at both ends."""
    length = run + 2 * PIPING_END_MM
    return Notion(
        "piping", message("piping_length", run_mm=run, end_mm=PIPING_END_MM, length_mm=length), 1, length, thickness
    )


def cord(run: float, tails: float, thickness: float) -> Notion:
    """A cord round a closed line and two tails."""
    length = run + 2 * tails
    return Notion("cord", message("cord_length", run_mm=run, tail_mm=tails, length_mm=length), 1, length, thickness)


def elastic(run: float, reduction: float, width: float, overlap: float = ELASTIC_OVERLAP_MM) -> Notion:
    """Elastic for the line that it must hold, shorter by a share `reduction`, and an overlap. Raises `Refusal` for a
    share that can't be."""
    within(message("figure_elastic_reduction"), 100 * reduction, 0, 60, "%")
    length = run * (1 - reduction) + overlap
    working = message("elastic_length", run_mm=run, percent=100 * reduction, overlap_mm=overlap, length_mm=length)
    return Notion("elastic", working, 1, length, width)


def zip_for(opening: float, stocked: Sequence[float], count: int = 1) -> Notion:
    """The next zip in stock that is as long as the opening; cut from the length where none is stocked. Raises `Refusal`
    where the opening is longer than any."""
    if not stocked:
        length = opening + 2 * ZIP_END_MM
        working = message("zip_cut", opening_mm=opening, end_mm=ZIP_END_MM, length_mm=length)
        return Notion("zip", working, count, length)
    longer = [z for z in sorted(stocked) if z >= opening - 1e-6]
    if not longer:
        raise Refusal(message("no_zip_as_long", opening_mm=opening, longest_mm=max(stocked)), "measure")
    return Notion("zip", message("zip_stocked", opening_mm=opening, length_mm=longer[0]), count, longer[0])


def filling(volume_mm3: float, how: Message, firmness: float = 1.0, bag_litres: float = 0.0) -> Notion:
    """Filling for a volume, more of it the firmer it is to be; in whole bags where it is sold so."""
    within(message("figure_firmness"), firmness, 0.2, 2.5, "")
    litres = volume_mm3 * firmness / 1e6
    bags = math.ceil(litres / bag_litres - 1e-9) if bag_litres else 1
    working = message(
        "filling_in_bags" if bag_litres else "filling_litres",
        how=how,
        volume=volume_mm3 / 1e6,
        firmness=firmness,
        litres=litres,
        bags=bags,
        bag=bag_litres,
    )
    return Notion("filling", working, bags, litres=litres)


def opening_finding(field: str, opening: float, needed: float, passes: Literal["hand", "filling"]) -> list[Finding]:
    """A stop where an opening is shorter than what must pass; `field` is what makes it longer."""
    if opening >= needed - 1e-6:
        return []
    text = message("opening_too_small", opening_mm=opening, needed_mm=needed, passes=_PASSES[passes])
    return [Finding("stop", text, instead=((field, needed),))]
