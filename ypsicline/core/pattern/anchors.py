"""Where on a panel a feature stands."""

from __future__ import annotations

from dataclasses import dataclass

from ypsicline.core.geometry.edges import Point

__all__ = ["Anchor", "AtCorner", "Inside", "OnEdge", "WholeEdge"]


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
