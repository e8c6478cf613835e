"""What checks find."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ypsicline.core.errors import Place
from ypsicline.core.messages import Message

__all__ = ["Finding", "Severity"]

Severity = Literal["stop", "look", "fine"]


@dataclass(frozen=True)
class Finding:
    """What a check found: the worst is `stop`; of which `join`, by its id, if of one. `instead` are lengths of a family of covers, each by its part and name
    (`measures.girth_ease`), mm, that would mend it together."""

    severity: Severity
    message: Message
    place: Place = Place()
    instead: tuple[tuple[str, float], ...] = ()
    join: str = ""

    @property
    def id(self) -> str:
        """What it is known by while the same is found of the same things, whatever its figures."""
        return ":".join((self.message.code, *([self.place.panel] if self.place.panel else ()), *self.message.names))
