"""What a job's brief makes of a cover's eases and finishes before anybody has typed them, and why."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from ypsicline.core.covers.family import Family
from ypsicline.core.drafting.house import House
from ypsicline.core.job import Brief
from ypsicline.core.lengths import Unit
from ypsicline.core.looseness import clearance_mm, show_looseness
from ypsicline.core.messages import Message, message

__all__ = ["Suggestion", "suggestions"]


@dataclass(frozen=True)
class Suggestion:
    """A field of a family, by its part and name, the `value` that suits it (lengths in mm), and `why`."""

    part: Literal["measures", "choices"]
    name: str
    value: float | str | bool
    why: Message


def suggestions(kind: type[Family], brief: Brief, house: House, unit: Unit) -> tuple[Suggestion, ...]:
    """What suits a family by the brief: ease on each measure that takes it, finishes and the like, and the cloth."""
    return (*_eases(kind, brief, unit), *_choices(kind, brief), *_cloth(brief, house))


def _eases(kind: type[Family], brief: Brief, unit: Unit) -> Iterator[Suggestion]:
    clearance = clearance_mm(brief.looseness, unit)
    if not clearance:
        return
    for name, times in kind.eased_by:
        figures = {"ease_mm": times * clearance, "clearance_mm": clearance, "times": times}
        shown = show_looseness(brief.looseness, unit)
        why = message("ease_of_the_brief", looseness=shown, ease_term=name, **figures)
        yield Suggestion("measures", name, round(times * clearance, 1), why)


def _choices(kind: type[Family], brief: Brief) -> Iterator[Suggestion]:
    answers = {"against": brief.against, "near": brief.near, "goes_on": (brief.goes_on,)}
    for suits in kind.suits:
        if suits.answered in answers[suits.question]:
            yield Suggestion("choices", suits.choice, suits.value, suits.why)


def _cloth(brief: Brief, house: House) -> Iterator[Suggestion]:
    cloth = house.cloth(brief.cloth.strip())
    if cloth:
        yield Suggestion("choices", "cloth", cloth.name, message("cloth_of_the_brief", cloth=cloth.name))
