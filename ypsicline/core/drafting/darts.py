"""Darts, pleats and gathers: what is taken out of an edge, and the cap that keeps the raw edge even."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

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
    tangent_at,
)
from ypsicline.core.geometry.plane import along, dot, meet, minus, unit

__all__ = ["Drawn", "DropCorner", "apex_of", "draw_dart", "draw_gather", "draw_pleats", "drop_corner"]

LEGS_APART_MM = 0.5
CUT_DART_ALLOWANCE_MM = 12.0


@dataclass(frozen=True)
class Drawn:
    """A ring with something taken out of it, its marks, its sum in words, and what to look at."""

    runs: list[Run]
    marks: tuple[Mark, ...]
    worked: str
    findings: tuple[Finding, ...] = ()


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
    between = ((foot1[0] + foot2[0]) / 2, (foot1[1] + foot2[1]) / 2)
    apex = apex_of(foot1, foot2, dart)
    if dart.cut:
        sides = _cut_sides(run.edge, foot1, apex, foot2, dart.bow)
    else:
        axis = unit(minus(between, apex)) if not dart.lean else _bisector(apex, foot1, foot2)
        side, leg = (
            (tangent_at(middle.edge, 0.0), foot1) if dart.towards == "start" else (tangent_at(middle.edge, 1.0), foot2)
        )
        direction = _reflected(side, unit(minus(apex, leg)))
        cap = meet(leg, direction, apex, axis)
        if cap is None or dot(minus(cap, apex), axis) <= 0:
            cap = between
        sides = [replace(run.edge, kind="line", points=(p, q), corner="mitre") for p, q in ((foot1, cap), (cap, foot2))]
    halfway = (middle.s0 + middle.s1) / 2
    new = [Run(sides[0], run.source, middle.s0, halfway), Run(sides[1], run.source, halfway, middle.s1)]
    kept = [
        r for r in (replace(left, edge=replace(left.edge, corner="mitre")), *new, right) if edge_length(r.edge) > 1e-6
    ]
    made = [*runs[:k], *kept, *runs[k + 1 :]]
    name = run.edge.name
    words = f"dart on {name}: intake {dart.intake:.1f} at {dart.along:.1f}, {dart.length:.1f} long; {name} sewn = {edge_length(left.edge) + edge_length(right.edge):.1f}"
    return Drawn(made, _marks(foot1, apex, foot2, dart), words, _uneven(foot1, apex, foot2, name))


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
    return Drawn(made, _marks(foot1, apex, foot2, dart), words, _uneven(foot1, apex, foot2, first.edge.name))


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
    each = pleats.intake / pleats.count
    pitch = pleats.pitch or each * 1.5
    last = pleats.along + (pleats.count - 1) * pitch
    marks = []
    k, a, _ = cut_run(runs, pleats.edge, pleats.along, last + each, "pleat")
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
    left = edge_length(edge) - pleats.intake
    words_ = f"{pleats.count} pleat{'s' if pleats.count > 1 else ''} on {edge.name}: {edge_length(edge):.1f} − {pleats.intake:.1f} ({pleats.count} × {each:.1f}) = {left:.1f}"
    return Drawn(list(runs), tuple(marks), words_)


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
