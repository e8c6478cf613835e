"""Gathers: an edge sewn to a shorter one (rule 8)."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import edge_length, parameter_at_length, point_at, tangent_at
from ypsicline.core.geometry.plane import along
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.anchors import WholeEdge
from ypsicline.core.pattern.edge_map import EdgeMap
from ypsicline.core.pattern.features.feature import Carrying, DrawnOnSeam, Feature
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.mark import Mark
from ypsicline.core.pattern.run import Run
from ypsicline.core.typed import Number

__all__ = ["Gather"]


@dataclass(frozen=True)
class Gather(Feature):
    """An edge that is gathered to a `ratio`-th of its length."""

    edge: str
    ratio: Number = 2.0
    id: str = ""
    kind: Literal["gather"] = "gather"

    title = message("feature_gather")
    stage = 4

    def __post_init__(self) -> None:
        within(message("figure_gather_ratio"), self.ratio, 1.01, 6, "")

    @property
    def anchor(self) -> WholeEdge:
        return WholeEdge(self.edge)

    def words(self, edges: Mapping[str, str]) -> Message:
        return message("gather_listed", edge=edges.get(self.edge, "?"), ratio=self.ratio)

    def carried(self, by: Carrying) -> Iterable[Gather]:
        """A gather on every edge that parts of its own have come to lie on: it has to be gathered all along. Raises
        `Refusal` where it isn't."""
        ratios = {g.edge: g.ratio for g in by.features if isinstance(g, Gather)}
        own = self.id
        for on in dict.fromkeys(p.on for p in by.edges.parts if p.of == self.edge):
            first = self._parts(by.edges, on)[0]
            if {ratios.get(of) for of in self._parts(by.edges, on)} != {self.ratio}:
                raise Refusal(message("gather_of_merged_part", else_do=by.edges.else_do), "gather")
            if first == self.edge:
                yield replace(self, edge=on, id=own)
                own = ""

    def on_seam(self, runs: Sequence[Run]) -> DrawnOnSeam:
        """A wavy line beside the edge, and its length before and after. Raises `Refusal` where its edge isn't there."""
        edges = [r.edge for r in runs if r.source == self.edge]
        if not edges:
            raise Refusal(message("gather_on_no_edge"), "gather")
        length = sum(edge_length(e) for e in edges)
        figures = {"length_mm": length, "gathered_mm": length / self.ratio}
        marks = []
        for e in edges:
            count = max(4, int(edge_length(e) / 4))
            stops = [parameter_at_length(e, edge_length(e) * s) for s in np.linspace(0, 1, count)]
            points = []
            for n, t in enumerate(stops):
                p, (dx, dy) = point_at(e, t), tangent_at(e, t)
                points.append(along(p, (-dy, dx), 3.0 + (1.2 if n % 2 else -1.2)))
            marks.append(Mark("gather", tuple(points), (message("gather_here", **figures),), 3.0))
        words = message("gather_drawn", edge=edges[0].name, ratio=self.ratio, **figures)
        return DrawnOnSeam(list(runs), tuple(marks), words)

    def in_layer(self, *, soft: bool, lines: bool) -> Gather | None:  # noqa: ARG002 - a feature's signature
        return None if soft else self

    @staticmethod
    def _parts(edges: EdgeMap, on: str) -> list[str]:
        """The edges before that lie on one after, in the order along it."""
        return [p.of for p in sorted(edges.parts, key=lambda p: min(p.start, p.end)) if p.on == on]
