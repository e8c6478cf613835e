"""Lengths as makers read them. Inside, everything is in millimetres."""

from __future__ import annotations

import math
from fractions import Fraction
from typing import Literal

__all__ = [
    "ABOUT",
    "MM_PER",
    "Unit",
    "is_rounded",
    "show_error",
    "show_length",
    "show_roughly",
    "show_set_length",
    "show_signed",
]

Unit = Literal["mm", "cm", "in"]

ABOUT = "≈"
"""Stands before a length that is shown rounded although it was set."""
_SAME_MM = 0.002
_DECIMALS: dict[Unit, tuple[int, ...]] = {"mm": (1, 2), "cm": (1, 2, 3)}
MM_PER: dict[str, float] = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4, "ft": 304.8, "yd": 914.4}


def show_length(mm: float, unit: Unit, *, denominator: int = 16, with_unit: bool = False) -> str:
    """`mm` as a maker reads it: one decimal of mm or cm, or the nearest 1/`denominator` inch.

    Only for showing: nothing that was rounded is computed with.

    Raises `ValueError` for what isn't finite.
    """
    if not math.isfinite(mm):
        raise ValueError("a length to show must be finite")
    if unit == "in":
        text = _inches(mm / MM_PER["in"], denominator)
    else:
        text = f"{mm / MM_PER[unit]:.1f}"
        text = "0.0" if text == "-0.0" else text
    return f"{text} {unit}" if with_unit else text


def show_set_length(mm: float, unit: Unit) -> str:
    """A length that somebody has set, as exactly as it may be typed: to 1/100 mm or 1/64 in, in as few decimals as say it.

    One that this rounds has `ABOUT` before it. Raises `ValueError` for what isn't finite.
    """
    return f"{ABOUT} {_finely(mm, unit)[0]}" if is_rounded(mm, unit) else _finely(mm, unit)[0]


def is_rounded(mm: float, unit: Unit) -> bool:
    """Whether `show_set_length` shows it rounded. Raises `ValueError` for what isn't finite."""
    return abs(_finely(mm, unit)[1] - mm) >= _SAME_MM


def _finely(mm: float, unit: Unit) -> tuple[str, float]:
    """A length as exactly as it may be typed, and what that is in mm."""
    if unit == "in":
        text = show_length(mm, unit, denominator=64)
        return text, round(mm / MM_PER["in"] * 64) / 64 * MM_PER["in"]
    if not math.isfinite(mm):
        raise ValueError("a length to show must be finite")
    for decimals in _DECIMALS[unit]:
        text = f"{mm / MM_PER[unit]:.{decimals}f}"
        shown_mm = float(text) * MM_PER[unit]
        if abs(shown_mm - mm) < _SAME_MM:
            break
    return text.removeprefix("-") if shown_mm == 0 else text, shown_mm


def show_roughly(mm: float, unit: Unit) -> str:
    """A length that is only an estimate, with its unit: whole inches, or centimetres rounded up."""
    step = MM_PER["in"] if unit == "in" else MM_PER["cm"]
    rounded = math.ceil(mm / step - 1e-9) * step
    return show_length(rounded, "in", with_unit=True) if unit == "in" else f"{rounded / MM_PER[unit]:.0f} {unit}"


def show_error(mm: float, unit: Unit) -> str:
    """A possible error with its unit, rounded up so that it never looks smaller: to 0.1 mm, or to 1/64 in."""
    if unit == "in":
        step = MM_PER["in"] / 64
        return show_length(math.ceil(mm / step - 1e-9) * step, "in", denominator=64, with_unit=True)
    return show_length(math.ceil(10 * mm - 1e-9) / 10, "mm", with_unit=True)


def _inches(inches: float, denominator: int) -> str:
    parts = round(abs(inches) * denominator)
    whole, rest = divmod(parts, denominator)
    sign = "-" if inches < 0 and parts else ""
    if not rest:
        return f"{sign}{whole}"
    fraction = Fraction(rest, denominator)
    return f"{sign}{whole} {fraction}" if whole else f"{sign}{fraction}"


def show_signed(mm: float, unit: Unit) -> str:
    """`mm` as a maker reads it, with a plus before what is more than nothing."""
    text = show_length(mm, unit)
    return text if text.strip("0.") == "" or text.startswith("-") else f"+ {text}"
