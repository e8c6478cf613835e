"""Joins: which edges are sewn to which, walked from one end to the other (rule 10)."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from itertools import count
from typing import Literal

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message
from ypsicline.core.pattern.edge_map import EdgeMap
from ypsicline.core.pattern.finish import FinishName
from ypsicline.core.pattern.ids import check_id
from ypsicline.core.pattern.limits import within

__all__ = [
    "SEAM_FINISHES",
    "Along",
    "Join",
    "Meant",
    "SeamType",
    "backward",
    "carried_joins",
    "free_letter",
    "letters",
    "without_panels",
]

MOST_EDGES = 200
SeamType = Literal["plain", "french", "felled", "lapped", "piped", "bound", "zip", "by_hand", "any"]
Meant = Literal["equal", "eased", "gathered"]

SEAM_FINISHES: dict[SeamType, tuple[FinishName, FinishName]] = {
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
            raise Refusal(message("join_needs_both_sides", most_edges=MOST_EDGES), "join")
        within(message("figure_join_fullness"), self.fullness, 1, 6, "")
        if len(self.letter) > 3:
            raise Refusal(message("join_letter_too_long"), "join")


def carried_joins(joins: Sequence[Join], panel: str, edges: EdgeMap) -> tuple[Join, ...]:
    """Joins after the outline of a panel has changed: along whatever its edges have come to lie on. One that has lost a
    whole side is gone."""
    joins_after = []
    for join in joins:
        first, second = (_carried(run, panel, edges) for run in (join.first, join.second))
        if first and second:
            same = first == join.first and second == join.second
            joins_after.append(join if same else replace(join, first=first, second=second))
    return tuple(joins_after)


def _carried(run: tuple[Along, ...], panel: str, edges: EdgeMap) -> tuple[Along, ...]:
    alongs: list[Along] = []
    for along in run:
        if along.panel != panel:
            alongs.append(along)
            continue
        parts = sorted((p for p in edges.parts if p.of == along.edge), key=lambda p: p.low)
        for part in reversed(parts) if along.backward else parts:
            is_turned = part.start > part.end
            lies = replace(along, edge=part.on, backward=along.backward != is_turned)
            if not alongs or alongs[-1] != lies:
                alongs.append(lies)
    return tuple(alongs)


def without_panels(joins: Sequence[Join], panels: Collection[str]) -> tuple[Join, ...]:
    """The joins that aren't sewn to any of these panels."""
    return tuple(j for j in joins if not any(a.panel in panels for a in (*j.first, *j.second)))


def letters(k: int) -> str:
    """A, B … Z, AA, AB …, counted from 0."""
    return (letters(k // 26 - 1) if k >= 26 else "") + chr(ord("A") + k % 26)


def free_letter(used_letters: Collection[str]) -> str:
    """The first of A, B … Z, AA, AB … that isn't taken."""
    return next(name for k in count() if (name := letters(k)) not in used_letters)


def backward(run: tuple[Along, ...]) -> tuple[Along, ...]:
    """The same run walked the other way."""
    return tuple(replace(a, backward=not a.backward) for a in reversed(run))
