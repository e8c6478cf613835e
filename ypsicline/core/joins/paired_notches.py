"""Notches on both sides of a join, in proportion along each (rule 10)."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from itertools import pairwise

from ypsicline.core.joins.lengths import sewn_edges
from ypsicline.core.joins.walk import JoinSide, Walk, walk
from ypsicline.core.pattern.features.notch import Notch, notches_of
from ypsicline.core.pattern.join import Join
from ypsicline.core.pattern.panel import Panel

__all__ = ["notches_along", "parted", "parts_apart", "with_paired_notches"]

_SAME_MM = 0.5


def with_paired_notches(
    panels: Mapping[str, Panel], join: Join, shares: Sequence[float], doubled: Sequence[float] = ()
) -> dict[str, Panel]:
    """The panels with notches at these shares, 0 to 1, of both sides of a join; double ones at the `doubled` shares.

    Places at which a panel has a notch already aren't notched again. Raises as `walk` does.
    """
    result = dict(panels)
    one_walk = walk(join, panels)
    for side in (one_walk.first, one_walk.second):
        for share in sorted({*shares, *doubled}):
            _notch(result, side, share, double=share in doubled)
    return result


def parted(parts: int) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """The shares at which a join in so many parts is notched, and of these the one that is notched twice: its middle."""
    shares = tuple(k / parts for k in range(1, parts))
    return tuple(s for s in shares if s != 0.5 or parts == 2), ((0.5,) if parts > 2 and parts % 2 == 0 else ())


def notches_along(side: JoinSide, panels: Mapping[str, Panel]) -> tuple[tuple[float, bool], ...]:
    """Every notch that a side of a join passes: how far along it, mm, and whether it is double."""
    runs_before = []
    for along, start in zip(side.run, side.starts, strict=True):
        panel = panels[along.panel]
        edge = sewn_edges(panel)[along.edge]
        for notch in notches_of(panel):
            at = edge.along(notch.along) if notch.edge == along.edge else None
            if at is not None:
                runs_before.append((start + (edge.sewn - at if along.backward else at), notch.double))
    return tuple(sorted(runs_before))


def parts_apart(one_walk: Walk, panels: Mapping[str, Panel]) -> tuple[float, ...]:
    """By how much each part of a join's second side, between its notches, is longer than that of the first, mm. Of sides
    that aren't notched alike the whole is one part."""
    first, second = (
        [0.0, *(at for at, _ in notches_along(s, panels)), s.length] for s in (one_walk.first, one_walk.second)
    )
    if len(first) != len(second):
        return (one_walk.difference_mm,)
    return tuple((d - c) - (b - a) for (a, b), (c, d) in zip(pairwise(first), pairwise(second), strict=True))


def _notch(panels: dict[str, Panel], side: JoinSide, share: float, *, double: bool) -> None:
    at = share * side.length
    k = max((i for i, start in enumerate(side.starts) if start <= at + 1e-9), default=0)
    along = side.run[k]
    panel = panels[along.panel]
    edge = sewn_edges(panel)[along.edge]
    within = min(max(at - side.starts[k], 0.0), edge.sewn)
    place = edge.place(edge.sewn - within if along.backward else within)
    if any(n.edge == along.edge and abs(n.along - place) < _SAME_MM for n in panel.of(Notch)):
        return
    panels[along.panel] = replace(panel, features=(*panel.features, Notch(along.edge, place, double)))
