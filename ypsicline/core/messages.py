"""What the core has to say, as a code with values; the words are in `core.wording`."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Union

__all__ = ["Message", "Value", "message"]

Value = Union[str, int, float, "Message", tuple["Message", ...]]
"""Text that people gave (a name), a number, another message, or several after one another."""


@dataclass(frozen=True)
class Message:
    """Something to be said: which sentence, by its `code`, and its values by name. A value whose name ends in `_mm` is a
    length in mm, and is shown in the reader's unit."""

    code: str
    values: tuple[tuple[str, Value], ...] = ()

    @property
    def names(self) -> tuple[str, ...]:
        """The texts in it, those of messages within it too: what it is about."""
        result: list[str] = []
        for _, value in self.values:
            for part in value if isinstance(value, tuple) else (value,):
                result += part.names if isinstance(part, Message) else [part] if isinstance(part, str) else []
        return tuple(result)

    @property
    def numbers(self) -> dict[str, float]:
        """The figures in it, by their names."""
        return {k: round(float(v), 4) for k, v in self.values if isinstance(v, (int, float))}


def message(code: str, /, **values: Value) -> Message:
    """A message with its values by name; those in mm as floats."""
    return Message(code, tuple((k, float(v) if k.endswith("_mm") else v) for k, v in values.items()))  # type: ignore[arg-type]
