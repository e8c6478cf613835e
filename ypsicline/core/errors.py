"""What the core says when it can't do what was asked."""

from __future__ import annotations

from dataclasses import dataclass, field

__all__ = ["Place", "Refused"]


@dataclass(frozen=True)
class Place:
    """Where something is wrong: any of a panel's name, an edge's name, a point in mm."""

    panel: str | None = None
    edge: str | None = None
    point: tuple[float, float] | None = None


@dataclass(eq=False)
class Refused(Exception):
    """Input that can't be used.

    `sentence` is for the maker: what is wrong, where, and what to do. `reason` is a short
    word for programs. `numbers` are the figures behind the sentence, lengths in mm.
    """

    sentence: str
    reason: str = "wrong_input"
    place: Place = Place()
    numbers: dict[str, float] = field(default_factory=dict)

    def __str__(self) -> str:
        return self.sentence
