"""Darts: wedges sewn out of an edge, and the cap that keeps the raw edge even (rule 8)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
import scipy
import shapely

from ypsicline.core.errors import Place, Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import (
    Point,
    as_curve,
    edge_length,
    flatten,
    parameter_at_length,
    point_at,
    reverse_edge,
    split_edge,
    tangent_at,
    transformed,
)
from ypsicline.core.geometry.plane import along, dot, meet, minus, unit
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.anchors import AtCorner, OnEdge
from ypsicline.core.pattern.features.feature import Carrying, DrawnOnSeam, Feature, Intake
from ypsicline.core.pattern.fitted import FittedRing
from ypsicline.core.pattern.limits import LARGEST_MM, within
from ypsicline.core.pattern.mark import Mark
from ypsicline.core.pattern.run import Run, cut_run, last_of
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.typed import Length, LengthIfGiven, SignedLength

__all__ = ["Dart", "apex_of"]

LEGS_APART_MM = 0.5
CUT_DART_ALLOWANCE_MM = 12.0
_OTHER_WAY: dict[str, Literal["start", "end"]] = {"start": "end", "end": "start"}


@dataclass(frozen=True)
class Dart(Feature):
    """A wedge sewn out of an edge: its legs stand `intake` apart with their middle `along` the edge from its start,
    and meet `length` inside the seam line.

    `lean` moves the apex along the edge's direction. `bow` bends both legs: by so much, at their
    middle, into the wedge (positive) or out of it. Folded `towards` the edge's start or end, or
    `cut` away with an allowance. `corner`: it stands at the edge's end with half of its intake on
    the next edge, its apex on the bisector.
    """

    edge: str
    along: LengthIfGiven
    intake: Length
    length: Length
    lean: SignedLength = 0.0
    bow: SignedLength = 0.0
    towards: Literal["start", "end"] = "start"
    cut: bool = False
    corner: bool = False
    id: str = ""
    kind: Literal["dart"] = "dart"

    title = message("feature_dart")
    takes_in = True

    def __post_init__(self) -> None:
        within(message("figure_dart_place"), self.along, 0, LARGEST_MM)
        within(message("figure_dart_intake"), self.intake, 0.5, LARGEST_MM)
        within(message("figure_dart_length"), self.length, 5, LARGEST_MM)
        within(message("figure_dart_lean"), self.lean, -LARGEST_MM, LARGEST_MM)
        within(message("figure_bow_of_a_dart_legs"), self.bow, -100, 100)

    @property
    def stage(self) -> int:
        """Those at corners after those on edges."""
        return 2 if self.corner else 1

    @property
    def anchor(self) -> OnEdge | AtCorner:
        return AtCorner(self.edge) if self.corner else OnEdge(self.edge, self.along)

    def words(self, edges: Mapping[str, str]) -> Message:
        name = edges.get(self.edge, "?")
        figures = {"intake_mm": self.intake, "length_mm": self.length}
        if self.corner:
            return message("dart_at_corner_listed", edge=name, **figures)
        return message("dart_listed", edge=name, along_mm=self.along, **figures)

    def carried(self, by: Carrying) -> Iterable[Dart]:
        edge, half, at, edges, plane = by.edge(self.edge), self.intake / 2, self.along, by.edges, by.plane
        if self.corner:
            length = edges.before[self.edge]
            edges.span(self.edge, length - half, length, message("thing_dart_at_a_corner"))
            edges.span(edges.next_before(self.edge), 0.0, half, message("thing_dart_at_a_corner"))
            on = edges.corner(self.edge, message("thing_dart_at_a_corner"))
        else:
            feet = [point_at(edge, parameter_at_length(edge, s)) for s in (at - half, at + half)]
            plane.of(shapely.Polygon([*feet, apex_of(feet[0], feet[1], self)]), message("thing_other_dart"), feet[0])
            on, low, high = edges.span(self.edge, at - half, at + half, message("thing_dart"))
            at = (low + high) / 2
        yield replace(
            self, edge=on, along=at, intake=self.intake * plane.scale, length=self.length * plane.scale,
            lean=self.lean * (-plane.scale if plane.is_mirrored else plane.scale), bow=self.bow * plane.scale,
            towards=_OTHER_WAY[self.towards] if plane.is_mirrored else self.towards,
        )  # fmt: skip

    def fitted(self, ring: FittedRing) -> Dart:
        if ring.is_cloth_still:
            return self
        return self._at_corner_fitted(ring) if self.corner else self._fitted(ring)

    def on_seam(self, runs: Sequence[Run]) -> DrawnOnSeam:
        """A dart sewn out of an edge, or cut away.

        Between the legs the seam line becomes two lines, such that folded over to its side the edge runs
        on evenly: the seam line on that side reflected in the leg, as far as the wedge's middle. Raises
        `Refusal` where the dart doesn't fit on its edge.
        """
        return _at_corner(runs, self) if self.corner else _on_edge(runs, self)

    def in_layer(self, *, soft: bool, lines: bool) -> Dart | None:  # noqa: ARG002 - a feature's signature
        return None if soft else self

    def _fitted(self, ring: FittedRing) -> Dart:
        half = self.intake / 2
        k, low, high = cut_run(
            ring.finished_runs, self.edge, self.along - half, self.along + half, message("thing_dart")
        )
        (foot1, on1, s1), (foot2, on2, s2) = (ring.on_cloth(k, s) for s in (low, high))
        x, y = ring.cloth.matrix @ np.subtract(apex_of(foot1, foot2, self), foot1)
        chord, middle = unit(minus(on2, on1)), ((on1[0] + on2[0]) / 2, (on1[1] + on2[1]) / 2)
        away = minus((on1[0] + float(x), on1[1] + float(y)), middle)
        return replace(
            self, along=ring.start(k) + (s1 + s2) / 2, intake=s2 - s1, length=dot(away, (-chord[1], chord[0])),
            lean=dot(away, chord), bow=self.bow * ring.evenly,
        )  # fmt: skip

    def _at_corner_fitted(self, ring: FittedRing) -> Dart:
        k = last_of(ring.finished_runs, self.edge, message("thing_dart"))
        j = (k + 1) % len(ring.finished_runs)
        (ax, ay), (bx, by) = (
            tangent_at(ring.finished_runs[k].edge, 1.0),
            tangent_at(ring.finished_runs[j].edge, 0.0),
        )
        intake = self.intake * (ring.longer(k) + ring.longer(j)) / 2
        return replace(self, intake=intake, length=self.length * ring.along(unit((bx - ax, by - ay))))


def _on_edge(runs: Sequence[Run], dart: Dart) -> DrawnOnSeam:
    low, high = dart.along - dart.intake / 2, dart.along + dart.intake / 2
    k, a, b = cut_run(runs, dart.edge, low, high, message("thing_dart"))
    run = runs[k]
    left, middle, right = run.part(0.0, a), run.part(a, b), run.part(b, math.inf)
    foot1, foot2 = middle.edge.start, middle.edge.end
    apex = apex_of(foot1, foot2, dart)
    if dart.cut:
        sides = _cut_sides(run.edge, foot1, apex, foot2, dart.bow)
    else:
        sides = _capped(left.edge, right.edge, foot1, apex, foot2, dart)
    halfway = (middle.s0 + middle.s1) / 2
    parts = (replace(left, edge=replace(left.edge, corner="mitre")), Run(sides[0], run.source, middle.s0, halfway),
             Run(sides[1], run.source, halfway, middle.s1), right)  # fmt: skip
    runs_after = [*runs[:k], *(r for r in parts if edge_length(r.edge) > 1e-6), *runs[k + 1 :]]
    name = run.edge.name
    words = message("dart_drawn", edge=name, intake_mm=dart.intake, along_mm=dart.along, length_mm=dart.length)
    intake = Intake("dart", ((dart.edge, low, high),), (dart.intake,), (foot1, apex, foot2))
    return DrawnOnSeam(runs_after, _marks(foot1, apex, foot2, dart), words, _uneven(foot1, apex, foot2, name), intake)


def _capped(left: SeamEdge, right: SeamEdge, foot1: Point, apex: Point, foot2: Point, dart: Dart) -> list[SeamEdge]:
    """The seam line across a folded dart's mouth, from foot to foot: the edge on the side that the dart is folded to,
    reflected in its leg as far as the wedge's middle, and that reflected in the middle."""
    between = ((foot1[0] + foot2[0]) / 2, (foot1[1] + foot2[1]) / 2)
    axis = unit(minus(between, apex)) if not dart.lean else _bisector(apex, foot1, foot2)
    to_start = dart.towards == "start"
    side, foot, end = (reverse_edge(left), foot1, foot2) if to_start else (right, foot2, foot1)
    leg = unit(minus(apex, foot))
    plain = replace(left, corner="mitre")
    half: SeamEdge | None = None
    if side.kind != "line" and edge_length(side) > 1e-6:
        half = _as_far_as(_mirror(side, foot, leg), apex, axis)
    if half is None:
        # led straight on where the edge is a line, or too short
        direction = _reflected(tangent_at(side, 0.0), leg)
        cap = meet(foot, direction, apex, axis)
        if cap is None or dot(minus(cap, apex), axis) <= 0:
            cap = between
        half = replace(plain, kind="line", points=(foot, cap))
        other = replace(half, points=(cap, end))
    else:
        other_half = reverse_edge(_mirror(half, apex, axis))
        other = replace(other_half, points=(half.end, *other_half.points[1:-1], end))
    pair = [replace(plain, kind=e.kind, points=e.points) for e in (half, other)]
    return pair if to_start else [reverse_edge(e) for e in reversed(pair)]


def _mirror(edge: SeamEdge, on: Point, axis: Point) -> SeamEdge:
    """The edge reflected in the line through `on` along the unit vector `axis`."""
    (x, y), own = axis, np.asarray(on)
    matrix = np.array([[2 * x * x - 1, 2 * x * y], [2 * x * y, 2 * y * y - 1]])
    dx, dy = own - matrix @ own
    return transformed(edge, matrix, (float(dx), float(dy)))


def _as_far_as(edge: SeamEdge, on: Point, axis: Point) -> SeamEdge | None:
    """The edge from its start to where it first crosses the line through `on` along `axis`; None where it doesn't."""

    def beside(t: float) -> float:
        p = minus(point_at(edge, t), on)
        return axis[0] * p[1] - axis[1] * p[0]

    stops = np.linspace(0.0, 1.0, 201)
    signs = np.sign([beside(float(t)) for t in stops])
    crossings = np.flatnonzero(signs[1:] != signs[0])
    if not len(crossings) or signs[0] == 0:
        return None
    k = int(crossings[0])
    return split_edge(edge, 0.0, float(scipy.optimize.brentq(beside, stops[k], stops[k + 1], xtol=1e-12)))


def apex_of(foot1: Point, foot2: Point, dart: Dart) -> Point:
    """The point of a dart whose legs stand on an edge at two feet."""
    chord = unit(minus(foot2, foot1))
    between = ((foot1[0] + foot2[0]) / 2, (foot1[1] + foot2[1]) / 2)
    return along(along(between, (-chord[1], chord[0]), dart.length), chord, dart.lean)


def _at_corner(runs: Sequence[Run], dart: Dart) -> DrawnOnSeam:
    k = last_of(runs, dart.edge, message("thing_dart"))
    j = (k + 1) % len(runs)
    first, second = runs[k], runs[j]
    half = dart.intake / 2
    for run in (first, second):
        if half >= edge_length(run.edge):
            text = message("corner_dart_too_wide", half_mm=half, edge=run.edge.name)
            raise Refusal(text, "dart", Place(edge=run.edge.name))
    vertex = first.edge.end
    t1, t2 = tangent_at(first.edge, 1.0), tangent_at(second.edge, 0.0)
    inward = unit((t2[0] - t1[0], t2[1] - t1[1]))
    before, after = first.part(0.0, edge_length(first.edge) - half), second.part(half, math.inf)
    foot1, foot2 = before.edge.end, after.edge.start
    apex = along(vertex, inward, dart.length)
    runs_after = list(runs)
    if dart.cut:
        one, two = _cut_sides(first.edge, foot1, apex, foot2, dart.bow)
        runs_after[k], runs_after[j] = replace(before, edge=replace(before.edge, corner="mitre")), after
        runs_after[k + 1 : k + 1] = [
            Run(one, first.source, before.s1, first.s1),
            Run(replace(two, name=f"{second.edge.name} dart"), second.source, second.s0, after.s0),
        ]
    words = message("corner_dart_drawn", edge=first.edge.name, intake_mm=dart.intake, length_mm=dart.length)
    long = edge_length(first.edge)
    spans = ((first.source, long - half, long), (second.source, 0.0, half))
    intake = Intake("dart", spans, (half, half), (foot1, apex, foot2))
    findings = _uneven(foot1, apex, foot2, first.edge.name)
    return DrawnOnSeam(runs_after, _marks(foot1, apex, foot2, dart), words, findings, intake)


def _cut_sides(edge: SeamEdge, foot1: Point, apex: Point, foot2: Point, bow: float) -> list[SeamEdge]:
    """The two sides of a dart that is cut away, joined to each other with an allowance."""
    width = edge.allowance or CUT_DART_ALLOWANCE_MM
    plain = SeamEdge("line", (foot1, apex), f"{edge.name} dart", width, "plain", "mitre")
    if not bow:
        return [plain, replace(plain, points=(apex, foot2))]
    return [
        replace(plain, kind="arc", points=(foot1, _bowed(foot1, apex, bow), apex)),
        replace(plain, kind="arc", points=(apex, _bowed(apex, foot2, bow), foot2)),
    ]


def _bowed(a: Point, b: Point, bow: float) -> Point:
    """The middle of a leg from `a` to `b`, moved into the wedge, which lies to its right."""
    d = unit(minus(b, a))
    return along(((a[0] + b[0]) / 2, (a[1] + b[1]) / 2), (d[1], -d[0]), bow)


def _marks(foot1: Point, apex: Point, foot2: Point, dart: Dart) -> tuple[Mark, ...]:
    leg1, leg2 = [foot1, apex], [apex, foot2]
    if dart.bow:
        arcs = [SeamEdge("arc", (p, _bowed(p, q, dart.bow), q)) for p, q in (leg1, leg2)]
        leg1, leg2 = ([(float(x), float(y)) for x, y in flatten(as_curve(e), 0.05)] for e in arcs)
    fold_words = {"start": message("fold_to_the_start"), "end": message("fold_to_the_end")}
    words = message("cut_out") if dart.cut else fold_words[dart.towards]
    return (
        Mark("dart", (*leg1, *leg2[1:]), (words,), 3.0),
        Mark("dart_point", (apex,)),
    )


def _uneven(foot1: Point, apex: Point, foot2: Point, name: str) -> tuple[Finding, ...]:
    one, two = math.dist(foot1, apex), math.dist(foot2, apex)
    if abs(one - two) <= LEGS_APART_MM:
        return ()
    text = message("dart_legs_uneven", edge=name, first_mm=one, second_mm=two, apart_mm=abs(one - two))
    return (Finding("look", text, Place(edge=name, point=apex)),)


def _bisector(apex: Point, foot1: Point, foot2: Point) -> Point:
    u, v = unit(minus(foot1, apex)), unit(minus(foot2, apex))
    return unit((u[0] + v[0], u[1] + v[1]))


def _reflected(d: Point, axis: Point) -> Point:
    k = 2 * dot(d, axis)
    return k * axis[0] - d[0], k * axis[1] - d[1]
