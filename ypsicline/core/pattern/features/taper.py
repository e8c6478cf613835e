"""Tapered corners of a filled pad (rule 7)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.errors import Place, Refusal
from ypsicline.core.geometry.edges import Point, edge_length, tangent_at
from ypsicline.core.geometry.plane import along, cross, meet, minus, turn_between
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.anchors import AtCorner
from ypsicline.core.pattern.features.feature import Carrying, DrawnOnSeam, Feature
from ypsicline.core.pattern.fitted import FittedRing
from ypsicline.core.pattern.limits import LARGEST_MM, within
from ypsicline.core.pattern.run import Run, last_of
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.typed import Length, LengthIfGiven

__all__ = ["Preset", "Taper", "usual_taper"]

Preset = Literal["usual", "lean", "full"]
# of the shorter edge: how far a taper reaches, how far its corner lies inside
_PRESETS: dict[Preset, tuple[float, float]] = {"usual": (0.25, 0.03), "lean": (0.2, 0.02), "full": (0.3, 0.045)}
LEAST_INSET_MM, MOST_INSET_MM = 6.0, 25.0


@dataclass(frozen=True)
class Taper(Feature):
    """A tapered corner at the end of an edge: it starts `reach` before the corner along that edge and `reach_after` behind
    it along the next (as far where that is 0), and the new corner lies `inset` inside both; straight, or `curved`."""

    edge: str
    reach: Length
    reach_after: LengthIfGiven
    inset: Length
    curved: bool = False
    id: str = ""
    kind: Literal["taper"] = "taper"

    title = message("feature_taper")
    stage = 9

    def __post_init__(self) -> None:
        if not self.reach_after:
            object.__setattr__(self, "reach_after", self.reach)
        for value in (self.reach, self.reach_after):
            within(message("figure_reach_of_a_taper"), value, 1, LARGEST_MM)
        within(message("figure_inset_of_a_taper"), self.inset, 0.1, 500)

    @property
    def anchor(self) -> AtCorner:
        return AtCorner(self.edge)

    def words(self, edges: Mapping[str, str]) -> Message:
        return message("taper_listed", edge=edges.get(self.edge, "?"), reach_mm=self.reach, inset_mm=self.inset)

    def carried(self, by: Carrying) -> Iterable[Taper]:
        scale = by.plane.scale
        reach, after = (self.reach, self.reach_after)[:: -1 if by.plane.is_mirrored else 1]
        yield replace(
            self, edge=by.edges.corner(self.edge, message("thing_taper")), reach=reach * scale, reach_after=after * scale,
            inset=self.inset * scale,
        )  # fmt: skip

    def fitted(self, ring: FittedRing) -> Taper:
        if ring.is_cloth_still:
            return self
        k = last_of(ring.finished_runs, self.edge, message("thing_taper"))
        longer, after = ring.longer(k), ring.longer((k + 1) % len(ring.finished_runs))
        return replace(
            self, reach=self.reach * longer, reach_after=self.reach_after * after, inset=self.inset * ring.evenly
        )

    def on_seam(self, runs: Sequence[Run]) -> DrawnOnSeam:
        """The ring with the corner tapered.

        The new corner is where the edges' inward parallels at the inset meet (by their directions at
        the old corner); two lines, or two curves that leave the edges smoothly, run to it. Raises
        `Refusal` with the edge: a reach of half an edge or more, a corner that isn't convex, an inset
        that would turn the corner inside out.
        """
        k = last_of(runs, self.edge, message("thing_taper"))
        j = (k + 1) % len(runs)
        first, second = runs[k], runs[j]
        for run, reach in ((first, self.reach), (second, self.reach_after)):
            length = edge_length(run.edge) / (run.s1 - run.s0)
            if reach >= min(length / 2, edge_length(run.edge)):
                text = message("taper_reaches_too_far", edge=run.edge.name, reach_mm=reach, length_mm=length)
                raise Refusal(text, "taper", Place(edge=run.edge.name))
        vertex, t1, t2 = first.edge.end, tangent_at(first.edge, 1.0), tangent_at(second.edge, 0.0)
        corner = meet(along(vertex, (-t1[1], t1[0]), self.inset), t1, along(vertex, (-t2[1], t2[0]), self.inset), t2)
        before, after = first.part(0.0, edge_length(first.edge) - self.reach), second.part(self.reach_after, math.inf)
        start, end = before.edge.end, after.edge.start
        if corner is None or cross(t1, t2) <= 0 or cross(minus(corner, start), minus(end, corner)) <= 0:
            text = message("taper_inside_out", edge=first.edge.name, inset_mm=self.inset, reach_mm=self.reach)
            raise Refusal(text, "taper", Place(edge=first.edge.name, point=vertex))
        into = Run(
            _side(first.edge, start, corner, tangent_at(before.edge, 1.0), self, last=False),
            first.source,
            before.s1,
            first.s1,
        )
        out = Run(
            _side(second.edge, corner, end, tangent_at(after.edge, 0.0), self, last=True),
            second.source,
            second.s0,
            after.s0,
        )
        before = replace(before, edge=replace(before.edge, corner="mitre"))
        runs_after = list(runs)
        runs_after[k], runs_after[j] = before, after
        runs_after[k + 1 : k + 1] = [into, out]
        angle = 180 - math.degrees(turn_between(tangent_at(into.edge, 1.0), tangent_at(out.edge, 0.0)))
        was = 180 - math.degrees(turn_between(t1, t2))
        figures = {"reach_mm": self.reach, "reach_after_mm": self.reach_after, "inset_mm": self.inset}
        words = message("taper_drawn", edge=first.edge.name, before=was, after=angle, **figures)
        return DrawnOnSeam(runs_after, working=words)

    def stands_in_for(self, other: Feature) -> bool:
        """A corner has one taper at most."""
        return super().stands_in_for(other) or (isinstance(other, Taper) and other.edge == self.edge)


def usual_taper(
    edge: str, first_mm: float, second_mm: float, preset: Preset = "usual", *, curved: bool = False
) -> Taper:
    """A taper at the corner between edges of these lengths: its reach a quarter of the shorter, its inset 3 % of it,
    held to 6 to 25 mm; a lean filling wants less and a full one more."""
    shorter = min(first_mm, second_mm)
    reach, inset = _PRESETS[preset]
    return Taper(
        edge, shorter * reach, shorter * reach, min(max(shorter * inset, LEAST_INSET_MM), MOST_INSET_MM), curved
    )


def _side(edge: SeamEdge, a: Point, b: Point, leaves: Point, taper: Taper, *, last: bool) -> SeamEdge:
    """One side of a taper with the edge's finish; its corner at the point is the edge's own."""
    side = replace(edge, kind="line", points=(a, b), corner="mitre" if last else edge.corner, name=f"{edge.name} taper")
    if not taper.curved:
        return side
    # a cubic that leaves the edge along it and comes to the corner from there
    on, tip = (b, a) if last else (a, b)
    way = -0.5 if last else 0.5
    handle = along(on, leaves, way * math.dist(a, b))
    near = ((2 * tip[0] + handle[0]) / 3, (2 * tip[1] + handle[1]) / 3)
    points = (a, near, handle, b) if last else (a, handle, near, b)
    return replace(side, kind="curve", points=points)
