"""What a family asks, found in its own fields, so that every form asks just that."""

from __future__ import annotations

import dataclasses
import inspect
from collections.abc import Mapping
from dataclasses import dataclass, fields, is_dataclass
from functools import cache
from typing import Any, Literal, get_args, get_origin, get_type_hints

from ypsicline.core.covers.family import Family
from ypsicline.core.covers.parts.outline import OutlineEdges
from ypsicline.core.pattern.finish import FinishName, finish_names
from ypsicline.core.typed import (
    Length,
    LengthIfTyped,
    LengthOrNone,
    Number,
    NumberIfTyped,
    NumberOrNone,
    Places,
    Share,
    ShareIfTyped,
    SignedLength,
)

__all__ = ["FormField", "FormFieldKind", "Part", "asked_by", "part_of"]

FormFieldKind = Literal[
    "length", "number", "percent", "yes", "choice", "text", "lengths", "outline", "points", "place", "rows"
]
Part = Literal["measures", "shapes", "choices"]
PARTS: tuple[Part, ...] = ("measures", "shapes", "choices")
_KINDS: tuple[tuple[Any, FormFieldKind], ...] = (
    (Length, "length"), (LengthIfTyped, "length"), (LengthOrNone, "length"), (SignedLength, "length"),
    (Number, "number"), (NumberOrNone, "number"), (NumberIfTyped, "number"), (Share, "percent"), (ShareIfTyped, "percent"),
    (OutlineEdges, "outline"), (Places, "points"), (bool, "yes"), (int, "number"), (float, "number"),
)  # fmt: skip


@dataclass(frozen=True)
class FormField:
    """A field of a family: its `name` in files, of what kind it is, whether it has to be given, what it is otherwise (None
    where that is nothing), what may be chosen, of rows the fields of each, and whether a length may be below zero."""

    name: str
    kind: FormFieldKind
    is_needed: bool
    usual: Any = None
    choices: tuple[str, ...] = ()
    rows: tuple[FormField, ...] = ()
    is_signed: bool = False


@cache
def asked_by(kind: type[Family]) -> Mapping[Part, tuple[FormField, ...]]:
    """What a family asks, by the parts of its measures file, in the order of its fields."""
    return {part: _fields_of(part_of(kind, part)) for part in PARTS}


def part_of(kind: type[Family], part: Part) -> type:
    """The class of a family's measures, shapes or choices."""
    kind_of_part: type = get_type_hints(kind)[part]
    return kind_of_part


def _fields_of(owner: type) -> tuple[FormField, ...]:
    hints = get_type_hints(owner, include_extras=True)
    own = [f for f in fields(owner) if f.name in inspect.get_annotations(owner)]
    inherited = [f for f in fields(owner) if f not in own]
    return tuple(_form_field(f, hints[f.name]) for f in (*own, *inherited))


def _form_field(field: dataclasses.Field[Any], hint: Any) -> FormField:
    needed = field.default is dataclasses.MISSING and field.default_factory is dataclasses.MISSING
    usual = None if needed or field.default is dataclasses.MISSING else field.default
    field_kind = next((kind for alias, kind in _KINDS if hint is alias or hint == alias), None)
    if field_kind:
        return FormField(field.name, field_kind, needed, usual, is_signed=hint == SignedLength)
    if hint == FinishName:
        return FormField(field.name, "choice", needed, str(usual), finish_names())
    plain = get_args(hint)[0] if hasattr(hint, "__metadata__") else hint
    if get_origin(plain) is Literal:
        return FormField(field.name, "choice", needed, str(usual), tuple(map(str, get_args(plain))))
    rows = get_args(hint)[0] if get_origin(hint) is tuple and get_args(hint) else None
    if rows is not None and is_dataclass(rows):
        return FormField(field.name, "rows", needed, rows=_fields_of(rows))  # type: ignore[arg-type]
    if get_origin(hint) is tuple:
        return FormField(field.name, "place", needed)
    return FormField(field.name, "lengths" if get_origin(plain) is tuple else "text", needed, usual)
