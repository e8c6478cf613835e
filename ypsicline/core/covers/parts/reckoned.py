"""A maker's own sums for a disc and its wall, held against the seam line (rule 4)."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from ypsicline.core.covers.family import Choices
from ypsicline.core.findings import Finding
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.limits import within
from ypsicline.core.typed import LengthOrNone

__all__ = ["RoundReckoned", "reckoned_findings"]

# sums done by hand are rounded
SAME_MM = 1.0


@dataclass(frozen=True)
class RoundReckoned(Choices):
    """What a maker has reckoned by hand, to be held against the sums here: across the cut disc, and the length of the cut wall
    in one piece."""

    reckoned_disc: LengthOrNone = 0.0
    reckoned_wall: LengthOrNone = 0.0

    def __post_init__(self) -> None:
        super().__post_init__()
        within(message("figure_disc_as_you_reckoned_it"), self.reckoned_disc, 0, 20_000)
        within(message("figure_wall_as_you_reckoned_it"), self.reckoned_wall, 0, 60_000)


def reckoned_findings(
    choices: RoundReckoned, girth: float, ease: float, allowance: float, join: float
) -> list[Finding]:
    """What a maker's own disc and wall are out by, and which shortcut comes to just that; that they are right, where they are.

    `allowance` is of the seam round the disc, `join` of either end of the wall, mm.
    """
    whole = girth + ease
    across, long = whole / math.pi + 2 * allowance, whole + 2 * join
    disc: dict[str, float] = {
        "ease_on_diameter": girth / math.pi + ease + 2 * allowance,
        "allowance_once": across - allowance,
        "allowance_forgotten": across - 2 * allowance,
        "ease_forgotten": girth / math.pi + 2 * allowance,
    }
    wall: dict[str, float] = {
        "cut_circle": math.pi * across + 2 * join,
        "cut_circle_without_joins": math.pi * across,
        "eased_diameter": math.pi * (girth / math.pi + ease) + 2 * join,
        "joins_forgotten": whole,
        "ease_forgotten": girth + 2 * join,
    }
    findings = []
    if choices.reckoned_disc:
        findings.append(_contradiction("disc", choices.reckoned_disc, across, disc))
    if choices.reckoned_wall:
        findings.append(_contradiction("wall", choices.reckoned_wall, long, wall))
    return findings


def _contradiction(what: str, own: float, right: float, shortcuts: Mapping[str, float]) -> Finding:
    what_is_off = message("reckoned_disc" if what == "disc" else "reckoned_wall")
    figures = {"own_mm": own, "right_mm": right, "off_mm": abs(own - right)}
    if abs(own - right) <= SAME_MM:
        return Finding("fine", message("reckoned_right", what=what_is_off, **figures))
    nearest = min(shortcuts, key=lambda name: abs(own - shortcuts[name]))
    is_known = abs(own - shortcuts[nearest]) <= SAME_MM
    why = _WHY[nearest] if is_known else message("reckoned_otherwise")
    return Finding(
        "look", message("reckoned_long" if own > right else "reckoned_short", what=what_is_off, why=why, **figures)
    )


_WHY: dict[str, Message] = {
    "ease_on_diameter": message("reckoned_ease_on_diameter"),
    "allowance_once": message("reckoned_allowance_once"),
    "allowance_forgotten": message("reckoned_allowance_forgotten"),
    "ease_forgotten": message("reckoned_ease_forgotten"),
    "cut_circle": message("reckoned_cut_circle"),
    "cut_circle_without_joins": message("reckoned_cut_circle_without_joins"),
    "eased_diameter": message("reckoned_eased_diameter"),
    "joins_forgotten": message("reckoned_joins_forgotten"),
}
