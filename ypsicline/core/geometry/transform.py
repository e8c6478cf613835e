"""Maps of the plane that keep straight lines straight."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ypsicline.core.geometry.edges import Array, EdgeT, Point, transformed

__all__ = ["Transform"]


@dataclass(frozen=True)
class Transform:
    """(p, q) ↦ (a·p + b·q + x, c·p + d·q + y), lengths in mm."""

    a: float = 1.0
    b: float = 0.0
    c: float = 0.0
    d: float = 1.0
    x: float = 0.0
    y: float = 0.0

    @classmethod
    def about(cls, matrix: Array, point: Point = (0.0, 0.0)) -> Transform:
        """A linear map (2, 2) about a point, which stays where it is."""
        (a, b), (c, d) = np.asarray(matrix, float).tolist()
        x, y = (np.asarray(point) - np.asarray(matrix) @ np.asarray(point)).tolist()
        return cls(a, b, c, d, x, y)

    @classmethod
    def from_rows(cls, rows: Sequence[Sequence[float]] | Array) -> Transform:
        """Of a 3 × 3 matrix by rows, or its first two."""
        (a, b, x), (c, d, y) = ([float(v) for v in row] for row in rows[:2])
        return cls(a, b, c, d, x, y)

    @classmethod
    def turn(cls, radians: float, about: Point = (0.0, 0.0)) -> Transform:
        """A turn to the left about a point."""
        c, s = math.cos(radians), math.sin(radians)
        return cls(c, -s, s, c, about[0] - c * about[0] + s * about[1], about[1] - s * about[0] - c * about[1])

    @classmethod
    def mirror(cls) -> Transform:
        """Left for right."""
        return cls(a=-1.0)

    @classmethod
    def scaling(cls, factor: float) -> Transform:
        """`factor` times as large, about the origin."""
        return cls(a=factor, d=factor)

    @property
    def rows(self) -> tuple[tuple[float, float, float], ...]:
        """As a 3 × 3 matrix by rows."""
        return (self.a, self.b, self.x), (self.c, self.d, self.y), (0.0, 0.0, 1.0)

    @property
    def matrix(self) -> Array:
        return np.array([[self.a, self.b], [self.c, self.d]])

    @property
    def scale(self) -> float:
        """How many times as large things come out, in the mean of both directions."""
        return math.sqrt(abs(self.a * self.d - self.b * self.c))

    @property
    def is_mirrored(self) -> bool:
        return self.a * self.d - self.b * self.c < 0

    def point(self, p: Point) -> Point:
        return self.a * p[0] + self.b * p[1] + self.x, self.c * p[0] + self.d * p[1] + self.y

    def points(self, points: Array) -> Array:
        """The same of points (n, 2)."""
        return np.asarray(points @ self.matrix.T + (self.x, self.y))

    def after(self, first: Transform) -> Transform:
        """`first`, and then this."""
        x, y = self.point((first.x, first.y))
        (a, b), (c, d) = (self.matrix @ first.matrix).tolist()
        return Transform(a, b, c, d, x, y)

    def inverse(self) -> Transform:
        """The way back; raises `numpy.linalg.LinAlgError` where all ends on one line."""
        back = np.linalg.inv(self.matrix)
        (a, b), (c, d) = back.tolist()
        x, y = (-back @ (self.x, self.y)).tolist()
        return Transform(a, b, c, d, x, y)

    def edge(self, edge: EdgeT) -> EdgeT:
        """The edge as it comes out; an arc that doesn't stay one becomes a curve."""
        return transformed(edge, self.matrix, (self.x, self.y))

    def direction_deg(self, degrees: float) -> float:
        """Where a direction, in degrees to the left from the x axis, comes to point, from 0 to 360."""
        p, q = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
        angle = math.degrees(math.atan2(self.c * p + self.d * q, self.a * p + self.b * q))
        return angle % 360
