"""A message in words."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from string import Formatter
from typing import Any

from ypsicline.core.lengths import MM_PER, Unit, show_error, show_length, show_roughly, show_set_length
from ypsicline.core.messages import Message
from ypsicline.core.wording.english import WORDS
from ypsicline.core.wording.english.terms import TERMS

__all__ = ["render", "render_all", "term"]

_LENGTH = re.compile(r"(?P<sign>\+?)(?P<bare>0?)(?P<digits>g|~|\.\d|\^|)")


def render(message: str | Message, unit: Unit = "mm") -> str:
    """A message in words, its lengths in `unit`; what is words already, such as a name that people gave, as it is.

    In a template `{allowance_mm}` is a length with its unit to one decimal (inches in fractions); `0` before the rest
    leaves the unit out, `+` shows the sign, `g` writes a length that somebody has set, or a limit of one, in no more
    digits than there are (in inches exactly or with the sign that it is rounded), `.2` two decimals, `^` rounds a possible error up,
    `~` gives whole centimetres or inches.
    `{count:place/places}` is a number of things: "1 place", "3 places". `{field_term}` is what a field or something to buy is
    called, by its name in the code; of one within others by the way there, parted by `/`.
    """
    if isinstance(message, str):
        return message
    return _Words(unit).vformat(WORDS[message.code], (), dict(message.values))


def render_all(lines: Iterable[str | Message], unit: Unit = "mm") -> tuple[str, ...]:
    """Several, as `render` has them."""
    return tuple(render(line, unit) for line in lines)


def term(name: str) -> str:
    """What a field or something to buy is called, by its name in the code."""
    return TERMS.get(name) or name.removesuffix("_mm").replace("_", " ")


class _Words(Formatter):
    def __init__(self, unit: Unit) -> None:
        self.unit = unit

    def get_field(self, field_name: str, args: Sequence[Any], kwargs: Any) -> tuple[Any, str]:  # noqa: ARG002
        value = kwargs[field_name]
        if field_name.endswith("_mm"):
            value = _Length(value, self.unit)
        elif field_name.endswith("_term"):
            value = " → ".join(map(term, value.split("/")))
        elif isinstance(value, Message):
            value = render(value, self.unit)
        elif isinstance(value, tuple):
            value = "".join(render(v, self.unit) for v in value)
        return value, field_name

    def format_field(self, value: Any, format_spec: str) -> str:
        if "/" not in format_spec:
            return str(super().format_field(value, format_spec))
        one, several = format_spec.split("/")
        return f"{value} {one if value == 1 else several}"


class _Length:
    def __init__(self, mm: float, unit: Unit) -> None:
        self.mm, self.unit = mm, unit

    def __format__(self, spec: str) -> str:
        how = _LENGTH.fullmatch(spec)
        if how is None:
            raise ValueError(f"“{spec}” is no way to write a length")
        if how["digits"] == "^":
            return show_error(self.mm, self.unit)
        if how["digits"] == "~":
            return show_roughly(self.mm, self.unit)
        text = self._figure(how["digits"])
        sign = "+" if how["sign"] and not text.startswith("-") else ""
        return sign + text + ("" if how["bare"] else f" {self.unit}")

    def _figure(self, digits: str) -> str:
        if self.unit == "in":
            if digits == "g":
                return show_set_length(self.mm, self.unit)
            # what would be nothing in sixteenths is something in finer parts
            fine = digits.startswith(".") or abs(self.mm) < MM_PER["in"] / 16
            return show_length(self.mm, "in", denominator=64 if fine else 16)
        if not digits:
            return show_length(self.mm, self.unit)
        value = self.mm / MM_PER[self.unit]
        return f"{round(value, 2 if self.unit == 'mm' else 3):g}" if digits == "g" else f"{value:{digits}f}"
