"""How loose a cover is to lie, as its brief says it: in a word, or by how much."""

from __future__ import annotations

import re

from ypsicline.core.errors import Refusal
from ypsicline.core.lengths import Unit, show_set_length
from ypsicline.core.typed_lengths import parse_length

__all__ = ["CLEARANCES_MM", "clearance_mm", "read_looseness", "show_looseness"]

CLEARANCES_MM = {"close": 3.0, "easy": 10.0, "loose": 25.0}
"""How far off what it covers a cover lies that is to be so loose: general practice, the maker's to overrule."""


def read_looseness(typed: str, unit: Unit) -> str:
    """What was typed, as it is to be kept: words as they are, a length with its unit, so that it means the same in another.

    Raises `Refusal` (reason `length`) for figures that are no length, or can be read two ways.
    """
    return f"{parse_length(typed, unit)} mm" if _has_figures(typed) else typed


def show_looseness(looseness: str, unit: Unit) -> str:
    """The same as a maker who works in `unit` reads it, without the unit."""
    mm = clearance_mm(looseness, unit) if _has_figures(looseness) else None
    return looseness if mm is None else show_set_length(mm, unit)


def clearance_mm(looseness: str, unit: Unit) -> float | None:
    """How far off a cover is to lie all round, mm, a bare figure in `unit`; None where the words don't say."""
    if looseness in CLEARANCES_MM:
        return CLEARANCES_MM[looseness]
    try:
        return parse_length(looseness, unit)
    except Refusal:
        return None


def _has_figures(text: str) -> bool:
    return bool(re.search(r"[\d½¼¾⅛⅜⅝⅞⅓⅔⅕⅖⅗⅘⅙⅚]", text))
