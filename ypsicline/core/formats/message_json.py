"""Messages as JSON: a code with its values; words from before there were codes, as text."""

from __future__ import annotations

from functools import cache
from typing import Any

from pydantic import TypeAdapter

from ypsicline.core.messages import Message

__all__ = ["as_json", "from_json"]


@cache
def _adapter() -> TypeAdapter[str | Message]:
    return TypeAdapter(str | Message)


def as_json(words: str | Message) -> Any:
    """What `json` can write."""
    return _adapter().dump_python(words, mode="json")


def from_json(value: object) -> str | Message:
    """What `as_json` made of it; raises `pydantic.ValidationError` for anything else."""
    return _adapter().validate_python(value)
