"""Lengths as makers type them, read into millimetres."""

from __future__ import annotations

import re
from typing import cast

from ypsicline.core.errors import Refusal
from ypsicline.core.lengths import ABOUT, MM_PER, Unit
from ypsicline.core.messages import Message, message

__all__ = ["parse_length"]

LONGEST_MM = 100_000.0
_UNIT_WORDS = {
    "mm": "mm", "millimetre": "mm", "millimetres": "mm", "millimeter": "mm", "millimeters": "mm",
    "cm": "cm", "centimetre": "cm", "centimetres": "cm", "centimeter": "cm", "centimeters": "cm",
    "m": "m", "metre": "m", "metres": "m", "meter": "m", "meters": "m",
    "in": "in", "in.": "in", "inch": "in", "inches": "in", '"': "in", "″": "in", "”": "in", "''": "in",
    "ft": "ft", "ft.": "ft", "foot": "ft", "feet": "ft", "'": "ft", "′": "ft", "’": "ft",
    "yd": "yd", "yd.": "yd", "yds": "yd", "yard": "yd", "yards": "yd",
}  # fmt: skip
# what may follow a number of these: yards, feet and inches
_SMALLER = {"yd": ("ft", "in"), "ft": ("in",)}
_VULGAR = {
    "½": "1/2", "¼": "1/4", "¾": "3/4", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8",
    "⅓": "1/3", "⅔": "2/3", "⅕": "1/5", "⅖": "2/5", "⅗": "3/5", "⅘": "4/5", "⅙": "1/6", "⅚": "5/6",
}  # fmt: skip
_NUMBER = re.compile(r"(?:(\d+)(?:\s*-\s*|\s+))?(\d+)\s*/\s*(\d+)|(\d+(?:[.,]\d+)?|[.,]\d+)")
_UNIT = re.compile("|".join(re.escape(w) for w in sorted(_UNIT_WORDS, key=len, reverse=True)), re.IGNORECASE)


def parse_length(text: str, unit: Unit, *, signed: bool = False) -> float:
    """The length that `text` says, in mm; a bare number is in `unit`.

    Reads what `show_set_length` shows, and `12 3/8`, `12-3/8"`, `12½`, `3' 2 1/2"`, `2 1/2 yards`, `31.4cm`, `1.2 m`, decimal commas.
    Raises `Refusal` (reason `length`) for what can't be read, can be read two ways, is
    negative (unless `signed`) or is over 100 m.
    """
    rest = text.strip().removeprefix(ABOUT).strip()
    sign = 1.0
    if signed and rest[:1] in {"-", "−", "+"}:
        sign, rest = (1.0 if rest[0] == "+" else -1.0), rest[1:].strip()
    if rest[:1] in {"-", "−"}:
        raise _refusal(message("length_below_zero", typed=_shortened(text)))
    for sign_char, plain in _VULGAR.items():
        rest = rest.replace(sign_char, f" {plain}")
    rest = rest.replace("⁄", "/").strip()
    total, terms, previous = 0.0, 0, ""
    while rest:
        number = _NUMBER.match(rest)
        if not number:
            raise _refusal(message("length_unreadable", typed=_shortened(text), how=_HOW_TO_TYPE[unit]))
        value = _value(number, text, unit)
        rest = rest[number.end() :].lstrip()
        word = _UNIT.match(rest)
        if word:
            term_unit = _UNIT_WORDS[word.group().lower()]
            rest = rest[word.end() :].lstrip(" ,") if word.group() != "in" else rest[word.end() :].lstrip(" ,.")
        else:
            term_unit = "in" if previous == "ft" else unit
        if terms and term_unit not in _SMALLER.get(previous, ()):
            raise _refusal(message("length_unreadable", typed=_shortened(text), how=_HOW_TO_TYPE[unit]))
        total += value * MM_PER[term_unit]
        terms, previous = terms + 1, term_unit
    if not terms:
        raise _refusal(message("no_length_typed", how=_HOW_TO_TYPE[unit]))
    if total > LONGEST_MM:
        raise _refusal(message("length_over_100_m", typed=_shortened(text)))
    return sign * total


def _value(number: re.Match[str], text: str, unit: Unit) -> float:
    whole, upper, lower, decimal = number.groups()
    if decimal is not None:
        if re.fullmatch(r"[1-9]\d{0,2},\d{3}", cast(str, decimal)) and unit != "in" and "m" not in _metres(text):
            ways = {"thousands": decimal.replace(",", ""), "point": decimal.replace(",", ".")}
            raise _refusal(message("length_read_two_ways", typed=_shortened(text), **ways))
        return float(decimal.replace(",", "."))
    if int(lower) == 0:
        raise _refusal(message("length_divides_by_zero", typed=_shortened(text)))
    return float(whole or 0) + int(upper) / int(lower)


def _metres(text: str) -> set[str]:
    return {_UNIT_WORDS[w.lower()] for w in _UNIT.findall(text)}


def _refusal(why: Message) -> Refusal:
    return Refusal(why, "length")


def _shortened(text: str) -> str:
    return text.strip()[:40]


_HOW_TO_TYPE: dict[Unit, Message] = {
    "in": message("length_typed_in_inches"),
    "cm": message("length_typed_in_cm"),
    "mm": message("length_typed_in_mm"),
}
