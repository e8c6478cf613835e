"""Changes as JSON: lengths in mm, or as people type them."""

from __future__ import annotations

import json
from functools import cache
from typing import Any

from pydantic import TypeAdapter, ValidationError

from ypsicline.core.changes.change import Change, changed
from ypsicline.core.changes.union import TypedChange
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.documents import check_plain, parsed
from ypsicline.core.job import JobDocument
from ypsicline.core.lengths import Unit
from ypsicline.core.messages import Message, message
from ypsicline.core.typed import not_typed

__all__ = ["change_adapter", "read_change", "with_changes"]


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


def with_changes(job: JobDocument, data: bytes) -> tuple[JobDocument, tuple[Message, ...]]:
    """The job after changes from JSON, one or a list, each read in the unit that the job has then; and what was done.

    Raises `Refusal` that tells which of several changes can't be.
    """
    asked = parsed(data, message("document_change"))
    several = asked if isinstance(asked, list) else [asked]
    history: list[Message] = []
    for number, one in enumerate(several, start=1):
        try:
            change = read_change(json.dumps(one).encode(), job.unit)
            after = changed(job, change)
        except Refusal as e:
            if len(several) > 1:
                e.message = message("in_change", number=number, refusal=e.message)
            raise
        history.append(change.words(job, after))
        job = after
    return job, tuple(history)
