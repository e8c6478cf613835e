"""A feature that isn't among the product's: a loop of tape sewn to an edge. The test puts this module beside the others."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.geometry.edges import place_at_length
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.anchors import OnEdge
from ypsicline.core.pattern.features.feature import Carrying, DrawnOnSeam, Feature
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.mark import Mark
from ypsicline.core.pattern.run import Run, cut_run
from ypsicline.core.typed import Length


@dataclass(frozen=True)
class Loop(Feature):
    """A loop `along` an edge, of a tape so `wide`."""

    edge: str
    along: Length
    wide: Length
    id: str = ""
    kind: Literal["loop"] = "loop"

    title = message("feature_loop")
    stage = 5

    def __post_init__(self) -> None:
        within(message("figure_loop_width"), self.wide, 3, 100)

    @property
    def anchor(self) -> OnEdge:
        return OnEdge(self.edge, self.along)

    def words(self, edges: Mapping[str, str]) -> Message:
        return message("loop_drawn", wide_mm=self.wide, edge=edges.get(self.edge, "?"))

    def carried(self, by: Carrying) -> Iterable[Loop]:
        on, low, _ = by.edges.span(self.edge, self.along, self.along, message("thing_loop"))
        yield replace(self, edge=on, along=low, wide=self.wide * by.plane.scale)

    def on_seam(self, runs: Sequence[Run]) -> DrawnOnSeam:
        k, at, _ = cut_run(runs, self.edge, self.along, self.along, message("thing_loop"))
        point, _ = place_at_length(runs[k].edge, at)
        return DrawnOnSeam(
            list(runs),
            (Mark("note", (point,), ("loop",), 3.0),),
            message("loop_drawn", wide_mm=self.wide, edge=runs[k].edge.name),
        )
