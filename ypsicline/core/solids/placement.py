"""Where panels of a cover stand in space: flat, folded, bent along a line, or rolled to a cone.

Space is right-handed, mm, z up, on the ground at 0; the cover's plan lies in x and y as its top is seen from above.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ypsicline.core.geometry.edges import Array, Edge, edge_length, parameters, points_at, tangent_at

__all__ = ["AlongRun", "Flat", "FoldedDown", "Placement", "RoundCone", "Vector"]

Vector = tuple[float, float, float]
# how far apart cuts lie along which a bent panel is drawn, as a turn
_TURN_RAD = math.radians(6)


@dataclass(frozen=True)
class Flat:
    """A panel in a plane: its origin comes to lie `at`, its x axis along `across`, its y axis along `up` (unit vectors)."""

    at: Vector
    across: Vector
    up: Vector

    def points(self, flat: Array) -> Array:
        """Where points (n, 2) of the panel come to lie, (n, 3)."""
        return np.asarray(self.at) + flat[:, :1] * np.asarray(self.across) + flat[:, 1:] * np.asarray(self.up)

    def bends(self, low: float, high: float) -> tuple[float, ...]:  # noqa: ARG002 - a placement's signature
        """Where along the panel's x axis it bends, between two places: nowhere."""
        return ()


@dataclass(frozen=True)
class FoldedDown:
    """A sheet whose middle, from its origin to `size`, lies level at `height`, and what is beyond it hangs straight down."""

    size: tuple[float, float]
    height: float

    def points(self, flat: Array) -> Array:
        """Where points (n, 2) of the panel come to lie, (n, 3)."""
        level = np.clip(flat, (0.0, 0.0), self.size)
        return np.column_stack([level, self.height - np.abs(flat - level).sum(axis=1)])

    def bends(self, low: float, high: float) -> tuple[float, ...]:
        """Where along the panel's x axis it is folded, between two places."""
        return tuple(x for x in (0.0, self.size[0]) if low < x < high)


@dataclass(frozen=True)
class AlongRun:
    """A panel whose x axis follows `run`, edges in a plane, from `start` mm along them on; its y axis goes `up`.

    The plane's x and y come to lie along `across` and `along` from `at`. A closed run goes on from its start.
    """

    run: tuple[Edge, ...]
    start: float = 0.0
    at: Vector = (0.0, 0.0, 0.0)
    across: Vector = (1.0, 0.0, 0.0)
    along: Vector = (0.0, 1.0, 0.0)
    up: Vector = (0.0, 0.0, 1.0)
    is_closed: bool = True

    @property
    def _reach(self) -> Array:
        return np.concatenate([[0.0], np.cumsum([edge_length(e) for e in self.run])])

    def points(self, flat: Array) -> Array:
        """Where points (n, 2) of the panel come to lie, (n, 3); beyond an open run they go straight on."""
        reached = self._reach
        whole = float(reached[-1])
        s = flat[:, 0] + self.start
        s = np.where(np.abs(s - whole) < 1e-9, s, s % whole) if self.is_closed else s
        k = np.clip(np.searchsorted(reached, s, side="right") - 1, 0, len(self.run) - 1)
        on = np.empty((len(s), 2))
        for i in np.unique(k):
            own = k == i
            edge, length = self.run[i], reached[i + 1] - reached[i]
            on[own] = _along(edge, (s[own] - reached[i]) / length, length)
        plane = np.asarray(self.at) + on[:, :1] * np.asarray(self.across) + on[:, 1:] * np.asarray(self.along)
        return np.asarray(plane + flat[:, 1:] * np.asarray(self.up))

    def bends(self, low: float, high: float) -> tuple[float, ...]:
        """Where along the panel's x axis it bends, between two places: at corners, and every few degrees of a curve."""
        stops: list[float] = []
        reached = self._reach
        whole = float(reached[-1])
        turns = range(int(low + self.start) // max(int(whole), 1) - 1, int((high + self.start) // whole) + 2)
        for shift in (whole * n for n in turns) if self.is_closed else (0.0,):
            for edge, start in zip(self.run, reached[:-1], strict=True):
                shares = np.linspace(0, 1, _steps(edge) + 1)
                stops += (start + shift - self.start + shares * edge_length(edge)).tolist()
        return tuple(sorted({round(x, 6) for x in stops if low < x < high}))


@dataclass(frozen=True)
class RoundCone:
    """A sector about `centre` in the panel, rolled to a cone whose girth at radius R is R times `angle`; it is walked round
    from `turn` radians on. The panel's lower edge stands on the ground; `is_wide_below` where that is the outer one."""

    centre: tuple[float, float]
    angle: float
    inner: float
    outer: float
    turn: float = 0.0
    is_wide_below: bool = True

    def points(self, flat: Array) -> Array:
        """Where points (n, 2) of the panel come to lie, (n, 3)."""
        away = flat - np.asarray(self.centre)
        radius = np.hypot(*away.T)
        # the panel's middle line points from the centre down, or up where it is wide at the top
        side = np.arctan2(away[:, 0], -away[:, 1] if self.is_wide_below else away[:, 1])
        round_it = self.turn + side / self.angle * 2 * np.pi
        flat_radius = radius * self.angle / (2 * np.pi)
        slope = math.sqrt(max(1 - (self.angle / (2 * np.pi)) ** 2, 0.0))
        z = (self.outer - radius if self.is_wide_below else radius - self.inner) * slope
        return np.column_stack([flat_radius * np.sin(round_it), -flat_radius * np.cos(round_it), z])

    def bends(self, low: float, high: float) -> tuple[float, ...]:
        """Where along the panel's x axis it is parted so that its roundness shows."""
        return tuple(np.linspace(low, high, 42)[1:-1].tolist())


Placement = Flat | FoldedDown | AlongRun | RoundCone


def _along(edge: Edge, t: Array, length: float) -> Array:
    """Points (n, 2) at shares of an edge's length; beyond its ends along its direction there."""
    inside = np.clip(t, 0, 1)
    if edge.kind == "curve":
        at = parameters(edge)
        flat = points_at(edge, at)
        reached = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(flat, axis=0).T))])
        on = np.column_stack([np.interp(inside * reached[-1], reached, flat[:, c]) for c in (0, 1)])
    else:
        on = points_at(edge, inside)
    for end, beyond in ((0.0, np.minimum(t, 0)), (1.0, np.maximum(t - 1, 0))):
        on = on + beyond[:, None] * length * np.asarray(tangent_at(edge, end))
    return np.asarray(on)


def _steps(edge: Edge) -> int:
    if edge.kind == "line":
        return 1
    t: NDArray[np.float64] = np.linspace(0, 1, 65)
    way = np.diff(points_at(edge, t), axis=0)
    turn = np.abs(np.diff(np.unwrap(np.arctan2(way[:, 1], way[:, 0])))).sum()
    return max(2, math.ceil(float(turn) / _TURN_RAD))
