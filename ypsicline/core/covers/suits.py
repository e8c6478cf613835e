"""What suits the answers of a brief."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ypsicline.core.messages import Message

__all__ = ["Answered", "Suits"]

Answered = Literal["against", "goes_on", "near"]


@dataclass(frozen=True)
class Suits:
    """A `choice` of a family that has this `value` where a question of the brief is `answered` so, and `why`."""

    question: Answered
    answered: str
    choice: str
    value: str | bool
    why: Message
