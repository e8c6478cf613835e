"""Where on a panel a feature stands."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ypsicline.core.geometry.edges import Point, parameter_at_length, point_at
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["Anchor", "AtCorner", "Inside", "OnEdge", "WholeEdge", "place_of"]


@dataclass(frozen=True)
class OnEdge:
    """`along` mm from the start of the edge with this id."""

    edge: str
    along: float


@dataclass(frozen=True)
class WholeEdge:
    edge: str


@dataclass(frozen=True)
class AtCorner:
    """At the corner at the end of the edge with this id."""

    edge: str


@dataclass(frozen=True)
class Inside:
    """At a point of the panel, mm."""

    at: Point


Anchor = OnEdge | WholeEdge | AtCorner | Inside


def place_of(anchor: Anchor, seam_line: Sequence[SeamEdge]) -> Point | None:
    """Where on the outline as it is set an anchor lies: of a whole edge its middle. None where the edge isn't there."""
    if isinstance(anchor, Inside):
        return anchor.at
    edge = next((e for e in seam_line if e.id == anchor.edge), None)
    if edge is None:
        return None
    if isinstance(anchor, OnEdge):
        return point_at(edge, parameter_at_length(edge, anchor.along))
    return edge.end if isinstance(anchor, AtCorner) else point_at(edge, 0.5)
