"""Values as people type them, read where a change comes in: lengths in the job's unit, shares in percent, numbers.

The unit comes with the reading, as pydantic's context `{"unit": unit}`; a number is in mm and is taken as it is.
"""

from __future__ import annotations

import math
import re
from typing import Annotated, Any

from pydantic import BeforeValidator, Field, ValidationInfo, WithJsonSchema
from pydantic.json_schema import JsonSchemaValue

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message
from ypsicline.core.typed_lengths import parse_length

__all__ = [
    "Length",
    "LengthIfGiven",
    "LengthIfTyped",
    "LengthOrNone",
    "Number",
    "NumberIfTyped",
    "NumberOrNone",
    "Places",
    "PrintedLength",
    "Share",
    "ShareIfTyped",
    "SignedLength",
    "SignedLengthIfTyped",
    "WholeChoice",
    "Words",
    "not_typed",
]  # fmt: skip

_TEXT_OR_NUMBER: JsonSchemaValue = {"anyOf": [{"type": "string"}, {"type": "number"}]}
_TEXT_NUMBER_OR_NULL: JsonSchemaValue = {"anyOf": [{"type": "string"}, {"type": "number"}, {"type": "null"}]}


def not_typed(name: str) -> Refusal:
    """What is said where a field that is needed was left empty."""
    return Refusal(message("type_in_too", field_term=name), "measure")


def _length(value: Any, info: ValidationInfo, *, signed: bool = False) -> Any:
    if isinstance(value, (int, float)) and not signed and value < 0:
        raise Refusal(message("measure_below_zero", measure_term=info.field_name or "length"), "length")
    if not isinstance(value, str):
        return value
    unit = (info.context or {}).get("unit")
    if _is_empty(value) and info.field_name:
        raise not_typed(info.field_name)
    if unit is None:
        raise ValueError("a length in mm was expected, not a text")
    return parse_length(value, unit, signed=signed)


def _is_empty(value: Any) -> bool:
    return isinstance(value, str) and not value.strip()


def _length_or_none(value: Any, info: ValidationInfo) -> Any:
    return 0.0 if _is_empty(value) else _length(value, info)


def _signed_length(value: Any, info: ValidationInfo) -> Any:
    return 0.0 if _is_empty(value) else _length(value, info, signed=True)


def _length_if_typed(value: Any, info: ValidationInfo) -> Any:
    return None if _is_empty(value) else _length(value, info)


def _places(value: Any, info: ValidationInfo) -> Any:
    if not isinstance(value, str):
        return value
    places = [t.split(";") for t in re.split(r"\s+/\s+|\n", value.strip()) if t.strip()]
    if any(len(p) != 2 for p in places):
        raise Refusal(message("places_unreadable", given=value[:40]), "measure")
    return tuple(tuple(_length(t, info, signed=True) for t in p) for p in places)


def _number(text: Any) -> Any:
    if not isinstance(text, str):
        return text
    try:
        value = float(text.strip().rstrip("%° ").replace(",", "."))
    except ValueError:
        value = math.nan
    if not math.isfinite(value):
        raise Refusal(message("not_a_number", given=text[:20]), "number")
    return value


def _whole(value: Any) -> Any:
    if not isinstance(value, str):
        return value
    if not value.strip().isdecimal():
        raise Refusal(message("not_a_whole_number", given=value[:20]), "number")
    return int(value)


def _share(value: Any) -> Any:
    if not isinstance(value, str):
        return value
    return 0.0 if _is_empty(value) else _number(value) / 100


Length = Annotated[float, BeforeValidator(_length), WithJsonSchema(_TEXT_OR_NUMBER)]
"""A length that has to be typed, mm, zero or more."""
LengthOrNone = Annotated[float, BeforeValidator(_length_or_none), WithJsonSchema(_TEXT_OR_NUMBER)]
"""A length, mm, zero or more; 0 where nothing was typed."""
LengthIfGiven = Annotated[LengthOrNone, Field(default=0.0)]
"""The same, for a field that can be left out of what is read without having a default of its own."""
SignedLength = Annotated[float, BeforeValidator(_signed_length), WithJsonSchema(_TEXT_OR_NUMBER)]
"""A length, mm, below zero too; 0 where nothing was typed."""
LengthIfTyped = Annotated[
    float | None,
    BeforeValidator(_length_if_typed),
    WithJsonSchema(_TEXT_NUMBER_OR_NULL),
]
"""A length, mm, zero or more; None where nothing was typed."""
SignedLengthIfTyped = Annotated[
    float | None,
    BeforeValidator(lambda given, info: None if _is_empty(given) else _length(given, info, signed=True)),
    WithJsonSchema(_TEXT_NUMBER_OR_NULL),
]
"""A length, mm, below zero too; None where nothing was typed."""
Number = Annotated[float, BeforeValidator(_number), WithJsonSchema(_TEXT_OR_NUMBER)]
"""A plain number, with a decimal point or comma."""
Whole = Annotated[int, BeforeValidator(_whole), WithJsonSchema(_TEXT_OR_NUMBER)]
"""A whole number, as text too."""
NumberOrNone = Annotated[
    float, BeforeValidator(lambda given: 0.0 if _is_empty(given) else _number(given)), WithJsonSchema(_TEXT_OR_NUMBER)
]
"""A plain number; 0 where nothing was typed."""
NumberIfTyped = Annotated[
    float | None,
    BeforeValidator(lambda given: None if _is_empty(given) else _number(given)),
    WithJsonSchema(_TEXT_NUMBER_OR_NULL),
]
"""A plain number; None where nothing was typed."""
Share = Annotated[float, BeforeValidator(_share), WithJsonSchema(_TEXT_OR_NUMBER)]
"""A share of 1: as text in percent, as a number the share itself; 0 where nothing was typed."""
ShareIfTyped = Annotated[
    float | None,
    BeforeValidator(lambda given: None if _is_empty(given) else _share(given)),
    WithJsonSchema(_TEXT_NUMBER_OR_NULL),
]
"""The same; None where nothing was typed."""
PrintedLength = Annotated[
    float,
    BeforeValidator(lambda given: parse_length(given, "mm") if isinstance(given, str) else given),
    WithJsonSchema(_TEXT_OR_NUMBER),
]
"""A length on a print, whose marks are in mm whatever the job's unit is."""
WholeChoice = BeforeValidator(lambda given: int(given) if isinstance(given, str) and given.isdigit() else given)
"""Of a choice among whole numbers: one that comes as a text is read as a number."""
Places = Annotated[
    tuple[tuple[float, float], ...],
    BeforeValidator(_places),
    WithJsonSchema(
        {"anyOf": [{"type": "string"}, {"type": "array", "items": {"type": "array", "items": {"type": "number"}}}]}
    ),
]
"""Places on an outline, mm; as text "across; up" with strokes between."""
Words = Annotated[str, BeforeValidator(lambda given: given.strip() if isinstance(given, str) else given)]
"""A text without blanks at its ends."""
