"""Changes as JSON: lengths in mm, or as people type them."""

from __future__ import annotations

from functools import cache
from typing import Any

from pydantic import TypeAdapter, ValidationError

from ypsicline.core.changes.change import Change
from ypsicline.core.changes.union import TypedChange
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.documents import check_plain
from ypsicline.core.lengths import Unit
from ypsicline.core.messages import message
from ypsicline.core.typed import not_typed

__all__ = ["change_adapter", "read_change"]


@cache
def change_adapter() -> TypeAdapter[Any]:
    """What reads and writes every change that can be typed; made when it is first asked for, which takes a moment."""
    return TypeAdapter(TypedChange)


def read_change(data: bytes, unit: Unit) -> Change:
    """A change from JSON; a length that is a text is read in `unit`, one that is a number is in mm.

    Raises `Refusal` that names the field.
    """
    check_plain(data, message("document_change"))
    try:
        change: Change = change_adapter().validate_json(data, context={"unit": unit})
    except ValidationError as e:
        first = e.errors(include_url=False, include_context=False)[0]
        kind, *where = [str(p) for p in first["loc"]] or [""]
        if first["type"] == "missing" and where:
            raise not_typed(where[-1]) from e
        place = "/".join(where) or kind or "the_change"
        raise Refusal(message("field_cant_be_used", field_term=place, detail=first["msg"]), "wrong_input") from e
    return change
