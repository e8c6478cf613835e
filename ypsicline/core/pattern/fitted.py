"""A seam line as a fit makes it of an outline, and how what stands on it and lies in it follows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ypsicline.core.geometry.edges import (
    Edge,
    EdgeT,
    Point,
    as_curve,
    edge_length,
    parameter_at_length,
    point_at,
    split_edge,
)
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.messages import Message
from ypsicline.core.pattern.run import Run

__all__ = ["FittedRing"]


@dataclass(frozen=True)
class FittedRing:
    """The seam line, its sums in words, and the map `to` where everything inside comes to lie.

    `cloth` is the part of it, about the origin, that stretch and shrinkage ask for, and `finished_runs` the seam line before it. Darts,
    pleats, tapers and openings are given as they are to be on the finished cover: cloth that will stretch or shrink is
    cut as much smaller or larger in them as in its outline.
    """

    runs: list[Run]
    workings: tuple[Message, ...]
    to: Transform
    cloth: Transform
    finished_runs: list[Run]

    @property
    def is_cloth_still(self) -> bool:
        """Whether the cloth neither stretches nor shrinks."""
        return self.cloth == Transform()

    def edge(self, edge: EdgeT) -> EdgeT:
        return self.to.edge(edge)

    def point(self, p: Point) -> Point:
        return self.to.point(p)

    def on_cloth(self, k: int, along_mm: float) -> tuple[Point, Point, float]:
        """The place `along_mm` along run `k` of the finished seam line, where it lies on the cloth, and how far along
        there."""
        finished_edge: Edge = self.finished_runs[k].edge
        cut_edge: Edge = self.runs[k].edge
        share = parameter_at_length(finished_edge, along_mm)
        at = point_at(finished_edge, share)
        if finished_edge.kind != cut_edge.kind:
            # an arc that the cloth made a curve
            share = parameter_at_length(as_curve(finished_edge), along_mm)
        return at, point_at(cut_edge, share), edge_length(split_edge(cut_edge, 0.0, share)) if share > 0 else 0.0

    def start(self, k: int) -> float:
        """Where run `k` starts on the cloth, mm along the edge that it comes from."""
        run = self.runs[k]
        return run.s0 * edge_length(run.edge) / (run.s1 - run.s0)

    def longer(self, k: int) -> float:
        """How many times as long as finished run `k` is cut."""
        return edge_length(self.runs[k].edge) / edge_length(self.finished_runs[k].edge)

    def along(self, direction: Sequence[float]) -> float:
        """How many times as long something in this direction is cut."""
        return float(np.hypot(*(self.cloth.matrix @ np.asarray(direction))))

    @property
    def evenly(self) -> float:
        """How many times as large something is cut, whichever way it lies."""
        return self.cloth.scale
