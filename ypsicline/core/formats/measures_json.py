"""Measures files: what a family of covers is drafted from, as JSON. See docs/formats.md."""

from __future__ import annotations

from dataclasses import fields
from functools import cache
from typing import Any, get_type_hints

from pydantic import TypeAdapter, ValidationError

from ypsicline.core.covers.family import AnyFamily, Family, family_kinds
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.documents import check_plain, parsed
from ypsicline.core.lengths import Unit
from ypsicline.core.messages import Message, message
from ypsicline.core.typed import not_typed

__all__ = ["family_adapter", "family_names", "read_measures"]

_PARTS = ("measures", "shapes", "choices")


@cache
def family_adapter() -> TypeAdapter[Any]:
    """What reads and writes a cover of any family."""
    return TypeAdapter(AnyFamily)


@cache
def family_names() -> dict[str, type[Family]]:
    """Every family by its name in files."""
    return {str(kind.__dict__["family"]): kind for kind in family_kinds()}


def read_measures(data: bytes, family: str, choices: bytes | None = None, unit: Unit = "mm") -> Family:
    """A cover of a family from its measures file, and a file of choices that go before those in it; lengths in mm, or as
    people type them, in `unit`.

    Raises `Refusal` that names the family, measure or choice which isn't known, is missing or can't be.
    """
    if family not in family_names():
        raise Refusal(
            message("no_such_family", family=family[:40], families=", ".join(sorted(family_names()))), "family"
        )
    file = _plain(data, message("document_measures_file"))
    version = file.pop("version", 1)
    if version != 1:
        raise Refusal(message("measures_version_unknown", version=str(version)[:20]), "document")
    if choices is not None:
        more = _plain(choices, message("document_choices_file"))
        file["choices"] = {**_part(file, "choices"), **_part(more, "choices" if "choices" in more else "")}
    _check_names(file, family)
    try:
        measures: Family = family_adapter().validate_python(file | {"family": family}, context={"unit": unit})
    except ValidationError as e:
        first = e.errors(include_url=False, include_context=False)[0]
        where = [str(p) for p in first["loc"][1:]]
        if first["type"] == "missing" and where:
            raise not_typed(where[-1]) from e
        place = "/".join(w for w in where if w not in _PARTS) or "the_file"
        raise Refusal(message("field_cant_be_used", field_term=place, detail=first["msg"]), "measure") from e
    return measures


def _plain(data: bytes, what: Message) -> dict[str, Any]:
    check_plain(data, what)
    document = parsed(data, what)
    if not isinstance(document, dict):
        raise Refusal(message("measures_not_an_object", what=what), "document")
    return dict(document)


def _part(file: dict[str, Any], name: str) -> dict[str, Any]:
    part = file.get(name, {}) if name else {k: v for k, v in file.items() if k != "version"}
    if not isinstance(part, dict):
        raise Refusal(message("measures_not_an_object", what=name or message("document_choices_file")), "document")
    return part


def _check_names(file: dict[str, Any], family: str) -> None:
    """Refuse names that the family doesn't know, with those that it does."""
    kind = family_names()[family]
    unknown = sorted(file.keys() - {*_PARTS, "family"})
    if unknown:
        raise Refusal(message("measures_part_unknown", name=unknown[0][:40]), "document")
    hints = get_type_hints(kind)
    for part in _PARTS:
        names = [f.name for f in fields(hints[part])]
        strange = sorted(_part(file, part).keys() - set(names))
        if strange:
            listing = ", ".join(names) or message("none_of_them")
            raise Refusal(message("measure_unknown", part=part, name=strange[0][:40], known=listing), "measure")
