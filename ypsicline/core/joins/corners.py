"""Corners where three panels or more meet, by the joins between them (rule 10)."""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

import scipy

from ypsicline.core.drafting.draft import draft_panels
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Point
from ypsicline.core.geometry.rings import corner_turns
from ypsicline.core.joins.walk import JoinSide, walk
from ypsicline.core.pattern.join import Join
from ypsicline.core.pattern.mark import Mark
from ypsicline.core.pattern.panel import DraftedPanel, Panel

__all__ = ["PanelCorner", "begins_at", "draft_joined", "meeting_corners"]

# corners lie on one another where their places along both sides of a join are no farther apart, mm
SAME_MM = 2.0
# what turns by less is sewn past
LEAST_TURN_RAD = math.radians(20)


@dataclass(frozen=True)
class PanelCorner:
    """A corner of a piece, counted from 1, of a panel: where the edge of this id begins; the `angle` inside it, radians."""

    panel: str
    piece: int
    edge: str
    angle: float


def meeting_corners(joins: Sequence[Join], panels: Sequence[Panel]) -> tuple[tuple[PanelCorner, ...], ...]:
    """Corners that come to lie on one another, wherever three pieces or more meet with a corner each.

    A piece that is sewn past in the middle of an edge is none of the three. Joins that can't be walked are left out.
    """
    by_id = {p.id: p for p in panels}
    corners: dict[tuple[str, int, int], PanelCorner] = {}
    together = scipy.cluster.hierarchy.DisjointSet()
    for join in joins:
        try:
            one_walk = walk(join, by_id)
        except Refusal:
            continue
        first, second = (sorted(_corners_along(side, by_id), key=_share) for side in (one_walk.first, one_walk.second))
        for _, key, corner in (*first, *second):
            corners[key] = corner
            together.add(key)
        near = SAME_MM / max(one_walk.first.length, one_walk.second.length, SAME_MM)
        for share, key, _ in first:
            low, high = bisect_left(second, share - near, key=_share), bisect_right(second, share + near, key=_share)
            for _, there, _ in second[low:high]:
                together.merge(key, there)
    meetings = []
    for keys in together.subsets():
        sharp = [corners[k] for k in sorted(keys) if abs(math.pi - corners[k].angle) > LEAST_TURN_RAD]
        if len({(c.panel, c.piece) for c in sharp}) >= 3 and len(sharp) == len(keys):
            meetings.append(tuple(sharp))
    return tuple(meetings)


def draft_joined(
    panels: Sequence[Panel], joins: Sequence[Join], house: House | None = None
) -> tuple[DraftedPanel, ...]:
    """The panels drafted, and a dot at each corner where three meet: their seams end there. Raises as `draft_panels` does."""
    dotted: dict[str, set[str]] = {}
    for meeting in meeting_corners(joins, panels):
        for corner in meeting:
            dotted.setdefault(corner.panel, set()).add(corner.edge)
    return tuple(_with_dots(p, dotted.get(p.id, set())) for p in draft_panels(panels, house))


def _with_dots(panel: DraftedPanel, edges: set[str]) -> DraftedPanel:
    points = [begins_at(panel, edge) for edge in sorted(edges)]
    dots = tuple(Mark("corner_dot", (at,)) for at in points if at)
    return replace(panel, marks=(*panel.marks, *dots)) if dots else panel


def begins_at(panel: DraftedPanel, edge: str) -> Point | None:
    """Where the first part of an edge begins on the drafted seam line, if anything is left of it."""
    own = [k for k, source in enumerate(panel.seam_of) if source == edge]
    first = next((k for k in own if panel.seam_of[k - 1] != edge), own[0] if own else None)
    return None if first is None else panel.seam_line[first].start


def _share(passing: tuple[float, tuple[str, int, int], PanelCorner]) -> float:
    return passing[0]


def _corners_along(
    side: JoinSide, panels: Mapping[str, Panel]
) -> Iterator[tuple[float, tuple[str, int, int], PanelCorner]]:
    """Every corner that a side of a join passes: its share of the way, what it is told by, and itself."""
    ends = (*side.starts[1:], side.length)
    for along, start, end in zip(side.run, side.starts, ends, strict=True):
        ring = panels[along.panel].seam_line
        turns = corner_turns(ring)
        k = next(i for i, e in enumerate(ring) if e.id == along.edge)
        begins, stops = k, (k + 1) % len(ring)
        for at, corner in ((end, begins), (start, stops)) if along.backward else ((start, begins), (end, stops)):
            angle = math.pi - turns[corner - 1][2]
            corner_of_panel = PanelCorner(along.panel, along.piece, ring[corner].id, angle)
            yield at / max(side.length, 1e-9), (along.panel, along.piece, corner), corner_of_panel
