"""What the core says when it can't do what was asked."""

from __future__ import annotations

from dataclasses import dataclass, field

from ypsicline.core.lengths import Unit
from ypsicline.core.messages import Message
from ypsicline.core.wording import render

__all__ = ["Place", "Refusal"]


@dataclass(frozen=True)
class Place:
    """Where something is wrong: any of a panel's name, an edge's name, a point in mm."""

    panel: str | None = None
    edge: str | None = None
    point: tuple[float, float] | None = None


@dataclass(eq=False)
class Refusal(Exception):
    """Input that can't be used.

    `message` is for the maker: what is wrong, where, and what to do. `reason` is a short word for
    programs. `numbers` are the figures behind it, lengths in mm; those of the message are among them.
    """

    message: Message
    reason: str = "wrong_input"
    place: Place = Place()
    numbers: dict[str, float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.numbers = self.message.numbers | self.numbers

    def render(self, unit: Unit) -> str:
        """What is said to a maker who works in `unit`."""
        return render(self.message, unit)

    @property
    def sentence(self) -> str:
        """What is said in millimetres."""
        return self.render("mm")

    def __str__(self) -> str:
        return self.sentence
