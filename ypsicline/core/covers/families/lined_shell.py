"""A hood of two lined halves with a bound or hemmed mouth (rule 3)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
import shapely

from ypsicline.core.covers.cover import Cover, Paired, put_together
from ypsicline.core.covers.family import Family
from ypsicline.core.covers.notion import Notion
from ypsicline.core.covers.parts.edging import Edging, panel, rounded_corners
from ypsicline.core.covers.parts.goods import binding
from ypsicline.core.covers.parts.grown import grown
from ypsicline.core.covers.parts.mouth import GoesOver, passing
from ypsicline.core.covers.parts.needed import needed
from ypsicline.core.covers.parts.outline import OutlineEdges
from ypsicline.core.covers.suits import Suits
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import Edge, Point, edge_length
from ypsicline.core.geometry.rings import flatten_ring, reverse_ring
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.join import Along, Join
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.typed import Length, LengthIfTyped, LengthOrNone, SignedLength

__all__ = ["LinedShell", "LinedShellChoices", "LinedShellMeasures", "LinedShellShapes"]

_LEVEL_MM = 0.5
# halves that differ by less, and what narrows by less, is as good as equal, mm
_ALIKE_MM = 1.0
_LEVELS = 80
LOOP_MM = 120.0


@dataclass(frozen=True)
class LinedShellMeasures:
    """The hood's width and height from the side and the radius of its upper corners, where it isn't traced; ease on its
    width; how thick wadding and lining are together."""

    width: LengthIfTyped = None
    height: LengthIfTyped = None
    radius: LengthOrNone = 0.0
    ease_width: SignedLength = 0.0
    ease_height: SignedLength = 0.0
    layers_thickness: LengthOrNone = 3.0

    def __post_init__(self) -> None:
        for what, value in ((message("figure_width"), self.width), (message("figure_height"), self.height)):
            if value is not None:
                within(what, value, 20, 5000)
        within(message("figure_ease_on_the_width"), self.ease_width, -200, 1000)
        within(message("figure_ease_on_the_height"), self.ease_height, -200, 1000)
        within(message("figure_layers_thickness"), self.layers_thickness, 0, 100)


@dataclass(frozen=True)
class LinedShellShapes:
    """The `profile` from the side, whole, or its right `half` with the centre line on the left; its mouth is its lowest
    straight edge."""

    profile: OutlineEdges = ()
    half: OutlineEdges = ()


@dataclass(frozen=True)
class LinedShellChoices(GoesOver):
    """Its mouth, its layers and a loop to hang it by."""

    mouth: Literal["bound", "hem"] = "bound"
    hem: LengthIfTyped = None
    lining: bool = True
    wadding: bool = True
    lining_allowance: LengthIfTyped = None
    wadding_allowance: LengthOrNone = 0.0
    loop: bool = True
    binding_width: Length = 12.0


@dataclass(frozen=True)
class LinedShell(Family):
    """Two halves of the outer, two of the lining and two of wadding, sewn round but for the mouth."""

    measures: LinedShellMeasures = LinedShellMeasures()
    choices: LinedShellChoices = LinedShellChoices()
    shapes: LinedShellShapes = LinedShellShapes()
    family: Literal["lined_shell"] = "lined_shell"

    eased_by = (("ease_width", 2.0), ("ease_height", 1.0))
    suits = (
        Suits("against", "padding", "wadding", True, message("suits_padding")),
        Suits("against", "looks", "mouth", "bound", message("suits_bound")),
    )

    def cover(self, house: House) -> Cover:
        m, c = self.measures, self.choices
        profile = self._eased(self._profile())
        mouth = _mouth(profile)
        findings = [*self._halves_alike(profile), *self._narrowing(profile)]
        outer = self._side("outer", profile, mouth, 0.0, c.allowance, c.cloth, c.mouth)
        panels = [outer]
        growth = 2 * m.layers_thickness
        workings: list[Message] = []
        if m.ease_width or m.ease_height:
            workings.append(message("shell_eased", across_mm=m.ease_width, up_mm=m.ease_height))
        if c.lining:
            panels.append(
                self._side("lining", profile, mouth, -m.layers_thickness, c.lining_allowance, "lining", c.mouth)
            )
            workings.append(message("lining_smaller", thickness_mm=m.layers_thickness, growth_mm=growth))
            if not m.layers_thickness and c.wadding:
                findings.append(Finding("stop", message("lining_as_large")))
        if c.wadding:
            allowance = c.wadding_allowance or None
            shell = self._side("wadding", profile, mouth, -m.layers_thickness / 2, allowance, "wadding", "raw")
            if not c.wadding_allowance:
                shell = replace(shell, seam_line=tuple(replace(e, finish="raw", by_rule=True) for e in shell.seam_line))
            panels.append(shell)
        joins = []
        for shell in panels:
            run = [e.id for e in shell.seam_line if not e.name.startswith("mouth")]
            if shell.cloth == "wadding" and not c.wadding_allowance:
                continue
            along = tuple(Along(shell.id, e) for e in run)
            joins.append(Paired(Join(along, tuple(replace(a, piece=2) for a in along)), (0.25, 0.75), (0.5,)))
        run_mm = 2 * sum(edge_length(e) for e in outer.seam_line if e.name.startswith("mouth"))
        notions: list[Notion] = []
        if c.mouth == "bound":
            notions.append(binding(run_mm, 0, c.binding_width))
        if c.loop:
            notions.append(Notion("loop", message("loop_at_top", length_mm=LOOP_MM), 1, LOOP_MM))
        sums, passes = passing(c, run_mm, {"measures.ease_width": (m.ease_width, 0.5)})
        return put_together(
            panels, joins, house, notions=notions, workings=[*workings, *sums], findings=[*findings, *passes]
        )

    def _profile(self) -> tuple[Edge, ...]:
        m, s = self.measures, self.shapes
        if s.profile:
            return s.profile
        if s.half:
            return _whole_of(s.half)
        w, h = needed(width=m.width, height=m.height)
        return rounded_corners([(-w / 2, 0.0), (w / 2, 0.0), (w / 2, h), (-w / 2, h)], [0.0, 0.0, m.radius, m.radius])

    def _eased(self, profile: Sequence[Edge]) -> tuple[Edge, ...]:
        m = self.measures
        if not m.ease_width and not m.ease_height:
            return tuple(profile)
        points = flatten_ring(profile)
        low, (wide, high) = points.min(axis=0), points.max(axis=0) - points.min(axis=0)
        across, up = (wide + m.ease_width) / wide, (high + m.ease_height) / high
        if min(across, up) <= 0:
            raise Refusal(message("ease_takes_all"), "measure")
        to = Transform(across, 0.0, 0.0, up, float(low[0]) * (1 - across), float(low[1]) * (1 - up))
        return tuple(to.edge(e) for e in profile)

    def _side(
        self, id: str, profile: Sequence[Edge], mouth: int, out: float, allowance: float | None, cloth: str, ending: str
    ) -> Panel:
        """One of two like halves of a layer, moved out by so much (negative: in) but for its mouth."""
        outline = grown(profile, [0.0 if k == mouth else out for k in range(len(profile))])
        seam = Edging("plain", allowance)
        last = Edging("hem", self.choices.hem) if ending == "hem" else Edging("raw" if ending == "raw" else "bound")
        edges = [
            (last if k == mouth else seam).edge(e, "mouth" if k == mouth else f"side {k + 1}")
            for k, e in enumerate(outline)
        ]
        from_mouth = [*edges[mouth:], *edges[:mouth]]
        return replace(panel(id, id, from_mouth, cloth=cloth, hand="pair"), way_up=message("mouth_at_bottom"))

    def _halves_alike(self, profile: Sequence[Edge]) -> list[Finding]:
        """By how much a traced profile differs from its mirror image: believed equal, halves often aren't."""
        if not self.shapes.profile:
            return []
        points = flatten_ring(profile, 0.2)
        middle = (points[:, 0].min() + points[:, 0].max()) / 2
        own, other = shapely.LinearRing(points), shapely.LinearRing(points * [-1, 1] + [2 * middle, 0])
        apart = float(shapely.hausdorff_distance(own, other, densify=0.05))
        if apart < _ALIKE_MM:
            return [Finding("fine", message("halves_alike", apart_mm=apart))]
        return [Finding("look", message("halves_differ", apart_mm=apart))]

    def _narrowing(self, profile: Sequence[Edge]) -> list[Finding]:
        """Whether a traced profile narrows towards its mouth: to be measured across before it is believed, as a trace leans
        and a hood that narrows where its object doesn't binds."""
        if not (self.shapes.profile or self.shapes.half):
            return []
        outline = shapely.Polygon(flatten_ring(profile, 0.1))
        left, low, right, high = outline.bounds
        levels = np.linspace(low, high, _LEVELS + 2)[1:-1]
        bounds = shapely.bounds(
            shapely.intersection(outline, [shapely.LineString([(left, y), (right, y)]) for y in levels])
        )
        widths = bounds[:, 2] - bounds[:, 0]
        widest = int(np.nanargmax(widths))
        figures = {
            "widest_mm": float(widths[widest]),
            "above_mm": float(levels[widest] - low),
            "mouth_mm": float(widths[0]),
            "by_mm": float(widths[widest] - widths[0]),
        }
        if figures["by_mm"] <= _ALIKE_MM:
            return []
        is_measured = bool(self.choices.widest_girth_on_the_way)
        return [
            Finding("fine", message("narrowing_measured", **figures))
            if is_measured
            else Finding("look", message("narrows", **figures))
        ]


def _mouth(profile: Sequence[Edge]) -> int:
    """The index of the lowest straight edge."""
    straight = [k for k, e in enumerate(profile) if e.kind == "line"]
    if not straight:
        raise Refusal(message("mouth_needs_straight_edge"), "shape")
    return min(straight, key=lambda k: profile[k].start[1] + profile[k].end[1])


def _whole_of(half: Sequence[Edge]) -> tuple[Edge, ...]:
    """A right half and its mirror image about its left, straight edge. Raises `Refusal` where that isn't there."""
    least = min(min(e.start[0], e.end[0]) for e in half)
    centre = next(
        (k for k, e in enumerate(half) if e.kind == "line" and max(abs(p[0] - least) for p in e.points) < _LEVEL_MM),
        None,
    )
    if centre is None:
        raise Refusal(message("half_needs_centre_line"), "shape")
    right = [*half[centre + 1 :], *half[:centre]]
    flip = Transform(-1.0, 0.0, 0.0, 1.0, 2 * least, 0.0)
    left = [flip.edge(e) for e in reverse_ring(right)]
    ring = [*right, *left]
    return _joined_across(ring)


def _joined_across(ring: Sequence[Edge]) -> tuple[Edge, ...]:
    """The ring with straight edges that meet at the centre line and run on made one."""
    edges: list[Edge] = []
    for edge in ring:
        if edges and edges[-1].kind == edge.kind == "line" and _runs_on(edges[-1], edge):
            edges[-1] = Edge("line", (edges[-1].start, edge.end))
        else:
            edges.append(edge)
    if len(edges) > 2 and edges[-1].kind == edges[0].kind == "line" and _runs_on(edges[-1], edges[0]):
        edges[0] = Edge("line", (edges[-1].start, edges[0].end))
        edges.pop()
    return tuple(edges)


def _runs_on(before: Edge, after: Edge) -> bool:
    (ax, ay), (bx, by) = _way(before), _way(after)
    return (
        abs(ax * by - ay * bx) < 1e-6 * (ax * ax + ay * ay) ** 0.5 * (bx * bx + by * by) ** 0.5
        and ax * bx + ay * by > 0
    )


def _way(edge: Edge) -> Point:
    return edge.end[0] - edge.start[0], edge.end[1] - edge.start[1]
