"""Whether the mouth of a cover passes the widest that is on its way (rule 11)."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from ypsicline.core.covers.family import Choices
from ypsicline.core.findings import Finding
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.limits import within
from ypsicline.core.typed import LengthOrNone, Share

__all__ = ["GoesOver", "passing"]

# a stiff object wants so much more than its own girth
MORE_SHARE = 0.02


@dataclass(frozen=True)
class GoesOver(Choices):
    """The largest girth that a cover has to be pulled over, and by how much its mouth stretches."""

    widest_girth_on_the_way: LengthOrNone = 0.0
    mouth_stretches: Share = 0.0

    def __post_init__(self) -> None:
        super().__post_init__()
        within(message("figure_widest_girth_on_the_way"), self.widest_girth_on_the_way, 0, 60_000)
        within(message("figure_stretch_of_the_mouth"), self.mouth_stretches, 0, 2, "")


def passing(
    choices: GoesOver, mouth_mm: float, eases: Mapping[str, tuple[float, float]]
) -> tuple[list[Message], list[Finding]]:
    """The sum and the finding of a mouth so long round, mm; nothing where nothing has to be passed.

    `eases` are the measures that widen it, by part and name, each with what it is and how much of what the mouth lacks it has
    to take.
    """
    widest, stretch = choices.widest_girth_on_the_way, choices.mouth_stretches
    if not widest:
        return [], []
    needed = widest * (1 + MORE_SHARE)
    opens = mouth_mm * (1 + stretch)
    figures = {
        "mouth_mm": mouth_mm,
        "percent": 100 * stretch,
        "opens_mm": opens,
        "widest_mm": widest,
        "needed_mm": needed,
    }
    sums = [message("mouth_stretched" if stretch else "mouth_opens", **figures)]
    if opens >= needed - 1e-6:
        return sums, [Finding("fine", message("mouth_passes", **figures))]
    lacks = needed / (1 + stretch) - mouth_mm
    instead = tuple((name, math.ceil(now + share * lacks)) for name, (now, share) in eases.items())
    return sums, [Finding("stop", message("mouth_too_narrow", **figures), instead=instead)]
