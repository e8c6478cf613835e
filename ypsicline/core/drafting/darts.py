"""Darts, pleats and gathers: what is taken out of an edge, and the cap that keeps the raw edge even."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import scipy

from ypsicline.core.drafting.features import Dart, Gather, Pleats
from ypsicline.core.drafting.panel import Finding, Mark, SeamEdge, numbers
from ypsicline.core.drafting.run import Run, cut_run, last_of
from ypsicline.core.errors import Place, Refused
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

__all__ = [
    "Drawn",
    "DropCorner",
    "Intake",
    "apex_of",
    "draw_dart",
    "draw_gather",
    "draw_pleats",
    "drop_corner",
]  # fmt: skip

LEGS_APART_MM = 0.5
CUT_DART_ALLOWANCE_MM = 12.0


@dataclass(frozen=True)
class Intake:
    """What a dart or pleats take out of edges of the panel: of each `low` to `high` mm along it, and of that `mm`; a
    dart's `wedge` (foot, point, foot)."""

    what: str
    spans: tuple[tuple[int, float, float], ...]
    mm: tuple[float, ...]
    wedge: tuple[Point, ...] = ()


@dataclass(frozen=True)
class Drawn:
    """A ring with something taken out of it, its marks, its sum in words, and what to look at."""

    runs: list[Run]
    marks: tuple[Mark, ...]
    worked: str
    findings: tuple[Finding, ...] = ()
    intake: Intake | None = None


@dataclass(frozen=True)
class DropCorner:
    """What a corner of a drop cover takes in (rule 8), mm."""

    intake_at_drop: float
    intake_at_edge: float
    gathered_by_cord: float


def drop_corner(radius_mm: float, turn_rad: float, drop_mm: float, tuck_mm: float = 0.0) -> DropCorner:
    """The intake at a plan's corner with arc `radius_mm` that turns by `turn_rad`, of a sheet that drops `drop_mm` and
    tucks under by `tuck_mm` more.

    On an arc φh at the drop and φ(h + u) at the sheet's edge; at a sharp corner of a straight-edged
    sheet what lies beyond the plan's corner on both edges, 2h·tan(φ/2), which is 2h where φ is a right
    angle. The cord then gathers φ·u, all of φ·r where r is no more than u.
    """
    per_mm = turn_rad if radius_mm > 0 else 2 * math.tan(turn_rad / 2)
    return DropCorner(per_mm * drop_mm, per_mm * (drop_mm + tuck_mm), turn_rad * min(tuck_mm, radius_mm))


def draw_dart(runs: Sequence[Run], dart: Dart) -> Drawn:
    """A dart sewn out of an edge, or cut away.

    Between the legs the seam line becomes two lines, such that folded over to its side the edge runs
    on evenly: the seam line on that side reflected in the leg, as far as the wedge's middle. Raises
    `Refused` where the dart doesn't fit on its edge.
    """
    if dart.corner:
        return _at_corner(runs, dart)
    low, high = dart.along - dart.intake / 2, dart.along + dart.intake / 2
    k, a, b = cut_run(runs, dart.edge, low, high, "dart")
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
    made = [*runs[:k], *(r for r in parts if edge_length(r.edge) > 1e-6), *runs[k + 1 :]]
    name = run.edge.name
    words = f"dart on {name}: intake {dart.intake:.1f} at {dart.along:.1f}, {dart.length:.1f} long"
    intake = Intake("dart", ((dart.edge, low, high),), (dart.intake,), (foot1, apex, foot2))
    return Drawn(made, _marks(foot1, apex, foot2, dart), words, _uneven(foot1, apex, foot2, name), intake)


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
        turned = reverse_edge(_mirror(half, apex, axis))
        other = replace(turned, points=(half.end, *turned.points[1:-1], end))
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
    crossed = np.flatnonzero(signs[1:] != signs[0])
    if not len(crossed) or signs[0] == 0:
        return None
    k = int(crossed[0])
    return split_edge(edge, 0.0, float(scipy.optimize.brentq(beside, stops[k], stops[k + 1], xtol=1e-12)))


def apex_of(foot1: Point, foot2: Point, dart: Dart) -> Point:
    """The point of a dart whose legs stand on an edge at two feet."""
    chord = unit(minus(foot2, foot1))
    between = ((foot1[0] + foot2[0]) / 2, (foot1[1] + foot2[1]) / 2)
    return along(along(between, (-chord[1], chord[0]), dart.length), chord, dart.lean)


def _at_corner(runs: Sequence[Run], dart: Dart) -> Drawn:
    k = last_of(runs, dart.edge, "dart")
    j = (k + 1) % len(runs)
    first, second = runs[k], runs[j]
    half = dart.intake / 2
    for run in (first, second):
        if half >= edge_length(run.edge):
            raise Refused(
                f"Half of the dart's intake, {half:.1f} mm, is longer than edge “{run.edge.name}”.",
                "dart", Place(edge=run.edge.name),
            )  # fmt: skip
    vertex = first.edge.end
    t1, t2 = tangent_at(first.edge, 1.0), tangent_at(second.edge, 0.0)
    inward = unit((t2[0] - t1[0], t2[1] - t1[1]))
    before, after = first.part(0.0, edge_length(first.edge) - half), second.part(half, math.inf)
    foot1, foot2 = before.edge.end, after.edge.start
    apex = along(vertex, inward, dart.length)
    made = list(runs)
    if dart.cut:
        one, two = _cut_sides(first.edge, foot1, apex, foot2, dart.bow)
        made[k], made[j] = replace(before, edge=replace(before.edge, corner="mitre")), after
        made[k + 1 : k + 1] = [
            Run(one, first.source, before.s1, first.s1),
            Run(replace(two, name=f"{second.edge.name} dart"), second.source, second.s0, after.s0),
        ]
    words = f"dart at the end of {first.edge.name}: intake {dart.intake:.1f}, half on each edge, {dart.length:.1f} long"
    long = edge_length(first.edge)
    spans = ((first.source, long - half, long), (second.source, 0.0, half))
    intake = Intake("dart", spans, (half, half), (foot1, apex, foot2))
    findings = _uneven(foot1, apex, foot2, first.edge.name)
    return Drawn(made, _marks(foot1, apex, foot2, dart), words, findings, intake)


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
    words = "cut out" if dart.cut else f"fold to the {dart.towards}"
    return (
        Mark("dart", (*leg1, *leg2[1:]), (words,), 3.0),
        Mark("dart_point", (apex,)),
    )


def _uneven(foot1: Point, apex: Point, foot2: Point, name: str) -> tuple[Finding, ...]:
    one, two = math.dist(foot1, apex), math.dist(foot2, apex)
    if abs(one - two) <= LEGS_APART_MM:
        return ()
    text = (
        f"The legs of the dart on “{name}” are {one:.1f} and {two:.1f} mm long; sewn together one runs out by "
        f"{abs(one - two):.1f} mm. Move its point, or ease one leg in."
    )
    return (Finding("look", text, Place(edge=name, point=apex), numbers(first_mm=one, second_mm=two)),)


def _bisector(apex: Point, foot1: Point, foot2: Point) -> Point:
    u, v = unit(minus(foot1, apex)), unit(minus(foot2, apex))
    return unit((u[0] + v[0], u[1] + v[1]))


def _reflected(d: Point, axis: Point) -> Point:
    k = 2 * dot(d, axis)
    return k * axis[0] - d[0], k * axis[1] - d[1]


def draw_pleats(runs: Sequence[Run], pleats: Pleats) -> Drawn:
    """Fold lines of pleats, at right angles to the edge; the cutting edge stays as it is."""
    each, pitch = pleats.each, pleats.every
    marks = []
    k, a, _ = cut_run(runs, pleats.edge, pleats.along, pleats.along + pleats.span, "pleat")
    edge = runs[k].edge
    for i in range(pleats.count):
        at = a + i * pitch
        stops = (at, at + each / 2, at + each) if pleats.towards == "box" else (at, at + each)
        for n, stop in enumerate(stops):
            t = parameter_at_length(edge, stop)
            p, (dx, dy) = point_at(edge, t), tangent_at(edge, t)
            words = {"start": ("lay here", "fold"), "end": ("fold", "lay here"), "box": ("fold", "meet", "fold")}[
                pleats.towards
            ]
            marks.append(Mark("pleat", (p, along(p, (-dy, dx), pleats.depth)), (words[n],), 2.5))
    many = f"{pleats.count} pleats" if pleats.count > 1 else "pleat"
    words_ = f"{many} on {edge.name}: {pleats.count} × {each:.1f} = {pleats.intake:.1f} at {pleats.along:.1f}"
    spans = tuple((pleats.edge, pleats.along + i * pitch, pleats.along + i * pitch + each) for i in range(pleats.count))
    return Drawn(list(runs), tuple(marks), words_, intake=Intake("pleat", spans, (each,) * pleats.count))


def draw_gather(runs: Sequence[Run], gather: Gather) -> Drawn:
    """A gathered edge: a wavy line beside it, and its length before and after."""
    own = [r.edge for r in runs if r.source == gather.edge]
    if not own:
        raise Refused(f"A gather stands on edge {gather.edge + 1}, which isn't there.", "gather")
    length = sum(edge_length(e) for e in own)
    marks = []
    for e in own:
        count = max(4, int(edge_length(e) / 4))
        stops = [parameter_at_length(e, edge_length(e) * s) for s in np.linspace(0, 1, count)]
        points = []
        for n, t in enumerate(stops):
            p, (dx, dy) = point_at(e, t), tangent_at(e, t)
            points.append(along(p, (-dy, dx), 3.0 + (1.2 if n % 2 else -1.2)))
        marks.append(Mark("gather", tuple(points), (f"gather {length:.0f} to {length / gather.ratio:.0f}",), 3.0))
    words = f"gathered: {own[0].name} {length:.1f} ÷ {gather.ratio:g} = {length / gather.ratio:.1f}"
    return Drawn(list(runs), tuple(marks), words)
