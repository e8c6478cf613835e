"""Pleats: folded out of an edge and held, the raw edge as it was (rule 8)."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.geometry.edges import parameter_at_length, point_at, tangent_at
from ypsicline.core.geometry.plane import along
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.anchors import OnEdge
from ypsicline.core.pattern.features.feature import Carrying, DrawnOnSeam, Feature, Intake
from ypsicline.core.pattern.fitted import FittedRing
from ypsicline.core.pattern.limits import LARGEST_MM, within
from ypsicline.core.pattern.mark import Mark
from ypsicline.core.pattern.run import Run, cut_run
from ypsicline.core.typed import Length, LengthIfGiven, LengthOrNone

__all__ = ["Pleats"]

MOST_PLEATS = 40
_DEPTH_MM = 50.0
_OTHER_WAY: dict[str, Literal["start", "end", "box"]] = {"start": "end", "end": "start", "box": "box"}
_FOLD, _LAY, _MEET = message("pleat_fold"), message("pleat_lay_here"), message("pleat_meet")
_FOLDS = {"start": (_LAY, _FOLD), "end": (_FOLD, _LAY), "box": (_FOLD, _MEET, _FOLD)}


@dataclass(frozen=True)
class Pleats(Feature):
    """`count` equal pleats that take `intake` out of an edge together, the first `along` it, one every `pitch` (one and a
    half times what it takes where that is 0); folded `towards` its start or end, or `box`: both ways. Their fold lines run
    `depth` into the panel, 50 mm where nothing is said."""

    edge: str
    along: LengthIfGiven
    intake: Length
    count: int = 1
    pitch: LengthOrNone = 0.0
    towards: Literal["start", "end", "box"] = "start"
    depth: LengthOrNone = _DEPTH_MM
    id: str = ""
    kind: Literal["pleats"] = "pleats"

    title = message("feature_pleats")
    takes_in = True
    stage = 3

    def __post_init__(self) -> None:
        within(message("figure_place_of_pleats"), self.along, 0, LARGEST_MM)
        within(message("figure_intake_of_pleats"), self.intake, 1, LARGEST_MM)
        within(message("figure_number_of_pleats"), self.count, 1, MOST_PLEATS, "")
        within(message("figure_pitch_of_pleats"), self.pitch, 0, LARGEST_MM)
        if not self.depth:
            object.__setattr__(self, "depth", _DEPTH_MM)
        within(message("figure_depth_of_pleats"), self.depth, 5, LARGEST_MM)

    @property
    def each(self) -> float:
        """What one of them takes, mm."""
        return self.intake / self.count

    @property
    def every(self) -> float:
        """How far one begins after another, mm."""
        return self.pitch or self.each * 1.5

    @property
    def span(self) -> float:
        """How much of the edge they stand on together, mm."""
        return (self.count - 1) * self.every + self.each

    @property
    def anchor(self) -> OnEdge:
        return OnEdge(self.edge, self.along)

    def words(self, edges: Mapping[str, str]) -> Message:
        return message("pleats_listed", count=self.count, edge=edges.get(self.edge, "?"), intake_mm=self.intake)

    def carried(self, by: Carrying) -> Iterable[Pleats]:
        on, low, _ = by.edges.span(self.edge, self.along, self.along + self.span, message("thing_pleats"))
        scale = by.plane.scale
        yield replace(
            self, edge=on, along=low, intake=self.intake * scale, pitch=self.pitch * scale, depth=self.depth * scale,
            towards=_OTHER_WAY[self.towards] if by.plane.is_mirrored else self.towards,
        )  # fmt: skip

    def fitted(self, ring: FittedRing) -> Pleats:
        if ring.is_cloth_still:
            return self
        k, at, _ = cut_run(ring.finished_runs, self.edge, self.along, self.along, message("thing_pleat"))
        _, _, along_mm = ring.on_cloth(k, at)
        finished_edge = ring.finished_runs[k].edge
        dx, dy = tangent_at(finished_edge, parameter_at_length(finished_edge, at))
        longer = ring.longer(k)
        return replace(
            self, along=ring.start(k) + along_mm, intake=self.intake * longer, pitch=self.pitch * longer,
            depth=self.depth * ring.along((-dy, dx)),
        )  # fmt: skip

    def on_seam(self, runs: Sequence[Run]) -> DrawnOnSeam:
        """Fold lines at right angles to the edge; the cutting edge stays as it is."""
        marks = []
        k, a, _ = cut_run(runs, self.edge, self.along, self.along + self.span, message("thing_pleat"))
        edge = runs[k].edge
        for i in range(self.count):
            at = a + i * self.every
            stops = (at, at + self.each / 2, at + self.each) if self.towards == "box" else (at, at + self.each)
            for stop, word in zip(stops, _FOLDS[self.towards], strict=True):
                t = parameter_at_length(edge, stop)
                p, (dx, dy) = point_at(edge, t), tangent_at(edge, t)
                marks.append(Mark("pleat", (p, along(p, (-dy, dx), self.depth)), (word,), 2.5))
        figures = {"each_mm": self.each, "intake_mm": self.intake, "along_mm": self.along}
        words = message(
            "pleats_drawn" if self.count > 1 else "pleat_drawn", edge=edge.name, count=self.count, **figures
        )
        starts = [self.along + i * self.every for i in range(self.count)]
        spans = tuple((self.edge, start, start + self.each) for start in starts)
        intake = Intake("pleat", spans, (self.each,) * self.count)
        return DrawnOnSeam(list(runs), tuple(marks), words, intake=intake)

    def in_layer(self, *, soft: bool, lines: bool) -> Pleats | None:  # noqa: ARG002 - a feature's signature
        return None if soft else self
