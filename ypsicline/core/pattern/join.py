"""Joins: which edges are sewn to which, walked from one end to the other (rule 10)."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.errors import Refused
from ypsicline.core.messages import message
from ypsicline.core.pattern.ids import check_id
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.seam_edge import Finish

__all__ = ["SEAM_FINISHES", "Along", "Join", "Meant", "SeamType", "backward"]

MOST_EDGES = 200
SeamType = Literal["plain", "french", "felled", "lapped", "piped", "bound", "zip", "by_hand", "any"]
Meant = Literal["equal", "eased", "gathered"]

SEAM_FINISHES: dict[SeamType, tuple[Finish, Finish]] = {
    "plain": ("plain", "plain"), "french": ("french", "french"), "felled": ("felled_wide", "felled_narrow"),
    "lapped": ("lapped_over", "lapped_under"), "piped": ("piped", "piped"), "bound": ("bound", "bound"),
    "zip": ("zip", "zip"), "by_hand": ("plain", "plain"),
}  # fmt: skip
"""How the edges on the first and the second side of a seam are finished; `any` seam leaves it to the edges."""


@dataclass(frozen=True)
class Along:
    """An edge as a join walks it: from its start to its end, or `backward`. Of a panel that is cut several times, `piece`
    says which, from 1."""

    panel: str
    edge: str
    backward: bool = False
    piece: int = 1


@dataclass(frozen=True)
class Join:
    """Edges on the `first` side sewn to those on the `second`, each in the order in which they are walked.

    Both are `meant` to be equal, or the longer is eased in or gathered; gathered by `fullness`, the longer over the
    shorter. `letter` is what both flags say.
    """

    first: tuple[Along, ...]
    second: tuple[Along, ...]
    seam: SeamType = "plain"
    meant: Meant = "equal"
    fullness: float = 1.0
    letter: str = ""
    id: str = ""

    def __post_init__(self) -> None:
        check_id(self.id)
        if not self.first or not self.second or max(len(self.first), len(self.second)) > MOST_EDGES:
            raise Refused(message("join_needs_both_sides", most_edges=MOST_EDGES), "join")
        within("A join's fullness", self.fullness, 1, 6, "")
        if len(self.letter) > 3:
            raise Refused(message("join_letter_too_long"), "join")


def backward(run: tuple[Along, ...]) -> tuple[Along, ...]:
    """The same run walked the other way."""
    return tuple(replace(a, backward=not a.backward) for a in reversed(run))
