"""Notches on both sides of a join, in proportion along each (rule 10)."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from ypsicline.core.joins.lengths import sewn_edges
from ypsicline.core.joins.walk import JoinSide, walk
from ypsicline.core.pattern.features.notch import Notch
from ypsicline.core.pattern.join import Join
from ypsicline.core.pattern.panel import Panel

__all__ = ["with_paired_notches"]

_SAME_MM = 0.5


def with_paired_notches(
    panels: Mapping[str, Panel], join: Join, shares: Sequence[float], doubled: Sequence[float] = ()
) -> dict[str, Panel]:
    """The panels with notches at these shares, 0 to 1, of both sides of a join; double ones at the `doubled` shares.

    Places at which a panel has a notch already aren't notched again. Raises as `walk` does.
    """
    changed = dict(panels)
    walked = walk(join, panels)
    for side in (walked.first, walked.second):
        for share in sorted({*shares, *doubled}):
            _notch(changed, side, share, double=share in doubled)
    return changed


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
