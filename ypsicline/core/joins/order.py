"""In which order joins are sewn, so that none closes off the end of another that is still to be sewn (rule 10)."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass

from ypsicline.core.pattern.join import Along, Join
from ypsicline.core.pattern.panel import Panel

__all__ = ["ClosedOff", "closed_off", "sewing_order"]

_Corner = tuple[str, int, str]
_Before = dict[int, tuple[int, ...]]


@dataclass(frozen=True)
class ClosedOff:
    """A join that is to be sewn later than the joins `by` which run over one of its ends, or over both."""

    join: Join
    by: tuple[Join, ...]
    both_ends: bool


def sewing_order(joins: Sequence[Join], panels: Iterable[Panel]) -> tuple[int, ...]:
    """The indices of the joins as they can be sewn, each as early as it was unless something goes before it.

    Where a seam runs over the end of another, as round the foot of a wall over the wall's own seam, that other goes first.
    Joins that would each have to go before the other stay as they are.
    """
    before = _before(joins, panels)
    order: list[int] = []
    rest = list(range(len(joins)))
    while rest:
        joins_sewn = set(order)
        following = next((k for k in rest if joins_sewn.issuperset(before[k])), rest[0])
        order.append(following)
        rest.remove(following)
    return tuple(order)


def closed_off(joins: Sequence[Join], panels: Iterable[Panel]) -> tuple[ClosedOff, ...]:
    """The joins that are closed off as these are sewn one after another; none where any order would close off some."""
    before = _before(joins, panels)
    shut: dict[int, list[int]] = {}
    for k, first in before.items():
        for later in first:
            if later > k and not _goes_before(k, later, before):
                shut.setdefault(later, []).append(k)
    return tuple(
        ClosedOff(joins[later], tuple(joins[k] for k in dict.fromkeys(by)), len(by) > 1) for later, by in shut.items()
    )


def _before(joins: Sequence[Join], panels: Iterable[Panel]) -> _Before:
    """By each join's index those that go before it, one for each of their ends that it runs over."""
    starts = {p.id: _corners(p) for p in panels}
    ends: dict[frozenset[_Corner], list[int]] = {}
    for k, join in enumerate(joins):
        for pair in _ends(join, starts):
            ends.setdefault(pair, []).append(k)
    return {
        k: tuple(other for side in (join.first, join.second) for pair in _corners_passed(side, starts)
                 for other in ends.get(pair, ()) if other != k)
        for k, join in enumerate(joins)
    }  # fmt: skip


def _goes_before(first: int, second: int, before: Mapping[int, Sequence[int]]) -> bool:
    """Whether the first has to go before the second, by however many between."""
    reached, open_ = {second}, [second]
    while open_:
        for k in before[open_.pop()]:
            if k not in reached:
                reached.add(k)
                open_.append(k)
    return first in reached


def _corners(panel: Panel) -> dict[str, tuple[str, str]]:
    """The corners where each edge begins and ends, each by the edge that begins there."""
    ids = [e.id for e in panel.seam_line]
    return {edge: (edge, ids[(k + 1) % len(ids)]) for k, edge in enumerate(ids)}


def _corner(along: Along, starts: Mapping[str, Mapping[str, tuple[str, str]]], *, last: bool) -> _Corner | None:
    both = starts.get(along.panel, {}).get(along.edge)
    return (along.panel, along.piece, both[last != along.backward]) if both else None


def _ends(join: Join, starts: Mapping[str, Mapping[str, tuple[str, str]]]) -> Iterator[frozenset[_Corner]]:
    """The corners that lie on one another at its two ends."""
    for last in (False, True):
        k = -1 if last else 0
        yield from _pair(_corner(join.first[k], starts, last=last), _corner(join.second[k], starts, last=last))


def _corners_passed(
    side: Sequence[Along], starts: Mapping[str, Mapping[str, tuple[str, str]]]
) -> Iterator[frozenset[_Corner]]:
    """The corners that a side passes from one panel to the next, and where it comes back to its beginning."""
    for along, following in zip(side, (*side[1:], side[0]), strict=True):
        yield from _pair(_corner(along, starts, last=True), _corner(following, starts, last=False))


def _pair(one: _Corner | None, other: _Corner | None) -> Iterator[frozenset[_Corner]]:
    if one and other and one != other:
        yield frozenset((one, other))
