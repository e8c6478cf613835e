"""Openings in a panel (rule 13): their rings, marks, facings and slits."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely

from ypsicline.core.drafting.features import Aperture
from ypsicline.core.drafting.panel import CornerKind, Finding, Finish, Mark, Panel, SeamEdge, numbers
from ypsicline.core.errors import Place, Refused
from ypsicline.core.geometry.edges import Array, Edge, Point, flatten, transformed
from ypsicline.core.geometry.plane import along, as_point, meet, minus, unit
from ypsicline.core.geometry.rings import check_ring, flatten_ring, is_counter_clockwise, reverse_ring

__all__ = ["Opened", "facing_of", "finished_ring", "open_aperture", "opening_ring", "placed_from"]

FACING_MARGIN_MM = 30.0
CLIP_SHORT_MM = 1.0
NEAR_SEAMS = 3.0
_FINISH: dict[str, Finish] = {"hemmed": "hem", "bound": "bound", "eyelet": "raw", "raw": "raw", "faced": "faced"}


@dataclass(frozen=True)
class Opened:
    """What an aperture adds to its panel. `ring` runs clockwise; None where nothing is cut until the facing is sewn."""

    ring: tuple[SeamEdge, ...] | None
    marks: tuple[Mark, ...]
    worked: tuple[str, ...]
    findings: tuple[Finding, ...]


def opening_ring(aperture: Aperture, cloth: Array | None) -> tuple[Edge, ...]:
    """The opening as it lies on cloth that will stretch or shrink: the finished ring under `cloth` (2, 2) about its place."""
    ring = finished_ring(aperture)
    if cloth is None:
        return ring
    x, y = np.asarray(aperture.at) - cloth @ np.asarray(aperture.at)
    return tuple(transformed(e, cloth, (float(x), float(y))) for e in ring)


def finished_ring(aperture: Aperture, more_mm: float = 0.0) -> tuple[Edge, ...]:
    """The finished opening, counter-clockwise: what passes through with its clearance all round, and `more_mm`."""
    c = aperture.clearance + more_mm
    if aperture.kind == "outline":
        return _drawn_ring(aperture, c)
    w, h = aperture.size[0] / 2 + c, aperture.size[1] / 2 + c
    if aperture.kind == "round":
        ring: tuple[Edge, ...] = (
            Edge("arc", ((w, 0), (0, w), (-w, 0))),
            Edge("arc", ((-w, 0), (0, -w), (w, 0))),
        )
    elif aperture.kind == "slot" and w > h:
        straight = w - h
        ring = (
            Edge("arc", ((straight, -h), (w, 0), (straight, h))),
            Edge("line", ((straight, h), (-straight, h))),
            Edge("arc", ((-straight, h), (-w, 0), (-straight, -h))),
            Edge("line", ((-straight, -h), (straight, -h))),
        )
    else:
        corners = [(-w, -h), (w, -h), (w, h), (-w, h)]
        ring = tuple(Edge("line", (p, corners[(k + 1) % 4])) for k, p in enumerate(corners))
    angle = math.radians(aperture.turn_deg)
    turn = np.array([[math.cos(angle), -math.sin(angle)], [math.sin(angle), math.cos(angle)]])
    return tuple(transformed(e, turn, aperture.at) for e in ring)


def _drawn_ring(aperture: Aperture, outward: float) -> tuple[Edge, ...]:
    points = [(aperture.at[0] + x, aperture.at[1] + y) for x, y in aperture.ring]
    ring = tuple(Edge("line", (p, points[(k + 1) % len(points)])) for k, p in enumerate(points))
    check_ring(ring, [f"side {k + 1}" for k in range(len(ring))], f"outline of “{aperture.name}”")
    ring = ring if is_counter_clockwise(ring) else reverse_ring(ring)
    if not outward:
        return ring
    grown = shapely.Polygon(flatten_ring(ring)).buffer(outward, join_style="mitre")
    out = np.asarray(shapely.get_coordinates(grown.exterior))[:-1]
    corners = [(float(x), float(y)) for x, y in (out if shapely.is_ccw(grown.exterior) else out[::-1])]
    return tuple(Edge("line", (p, corners[(k + 1) % len(corners)])) for k, p in enumerate(corners))


def placed_from(seam: Sequence[Edge], first: int, first_mm: float, second: int, second_mm: float) -> Point:
    """The point that lies so far inside two straight edges. Raises `Refused` where they aren't there, or run alike."""
    if not (0 <= first < len(seam) and 0 <= second < len(seam)):
        raise Refused("Measure from two edges that are there.", "aperture")
    lines = []
    for k, away in ((first, first_mm), (second, second_mm)):
        e = seam[k]
        if e.kind != "line":
            raise Refused("Distances can be measured from straight edges only; choose another edge.", "aperture")
        d = unit(minus(e.end, e.start))
        lines.append((along(e.start, (-d[1], d[0]), away), d))
    (p, u), (q, v) = lines
    at = meet(p, u, q, v)
    if at is None:
        raise Refused("These two edges run alike; measure from two that meet.", "aperture")
    return at


def open_aperture(aperture: Aperture, seam: Sequence[SeamEdge], around: Array, cloth: Array | None = None) -> Opened:
    """The aperture in a panel whose drafted seam line is `seam` (flattened `around`), on cloth as for `opening_ring`.

    A hemmed hole is cut smaller by its hem all round; a faced one isn't cut before its facing is
    sewn on along the finished size, then slit in its middle and clipped to 1 mm of its corners.
    Raises `Refused` with the place where it isn't inside the panel, or its hem leaves nothing of it.
    """
    finished = opening_ring(aperture, cloth)
    shape, body = shapely.Polygon(flatten_ring(finished)), shapely.Polygon(around)
    if not shapely.contains_properly(body, shape):
        raise Refused(
            f"“{aperture.name}” reaches over the panel's seam line; move it inward or make it smaller.",
            "aperture", Place(point=aperture.at),
        )  # fmt: skip
    findings = _near_seams(aperture, shape, seam)
    worked = [_sum(aperture, cloth)]
    marks: list[Mark] = []
    ring: tuple[SeamEdge, ...] | None = None
    if aperture.finish == "faced":
        marks += _faced_marks(finished)
    else:
        width = aperture.depth if aperture.finish == "hemmed" else 0.0
        corner: CornerKind = "mitre"
        made = tuple(
            SeamEdge(e.kind, e.points, f"{aperture.name} {k + 1}", width, _FINISH[aperture.finish], corner)
            for k, e in enumerate(finished)
        )
        ring = reverse_ring(made)
    if aperture.slit:
        slit_marks, slit_worked = _slit(aperture, shape, seam, around)
        marks += slit_marks
        worked += slit_worked
    return Opened(ring, tuple(marks), tuple(worked), tuple(findings))


def _sum(a: Aperture, cloth: Array | None) -> str:
    w, h = (s + 2 * a.clearance for s in a.size)
    if a.kind == "round":
        h = w
    size = f"{w:.1f}" if a.kind == "round" else f"{w:.1f} × {h:.1f}"
    passes = f"{a.size[0]:g}" if a.kind == "round" else f"{a.size[0]:g} × {a.size[1]:g}"
    text = f"{a.name}: {passes} + 2 × {a.clearance:g} = {size} finished"
    is_round = a.kind == "round"
    if cloth is not None:
        angle = math.radians(a.turn_deg)
        across, up = np.array([math.cos(angle), math.sin(angle)]), np.array([-math.sin(angle), math.cos(angle)])
        w, h = w * float(np.hypot(*(cloth @ across))), h * float(np.hypot(*(cloth @ up)))
        is_round = is_round and math.isclose(w, h)
        text += f", {w:.1f} in this cloth" if is_round else f", {w:.1f} × {h:.1f} in this cloth"
    if a.finish == "hemmed":
        cut = f"{w - 2 * a.depth:.1f}" if is_round else f"{w - 2 * a.depth:.1f} × {h - 2 * a.depth:.1f}"
        return f"{text}; − 2 × {a.depth:g} hem = {cut} to cut"
    return f"{text}, {a.finish}"


def _near_seams(aperture: Aperture, shape: shapely.Polygon, seam: Sequence[SeamEdge]) -> list[Finding]:
    found = []
    for edge in seam:
        gap = float(shapely.distance(shape, shapely.LineString(flatten(edge))))
        if edge.allowance > 0 and gap < NEAR_SEAMS * edge.allowance:
            text = (
                f"“{aperture.name}” lies {gap:.1f} mm from the seam line of “{edge.name}”, closer than three times its "
                f"allowance of {edge.allowance:g} mm: there is little room to sew both."
            )
            figures = numbers(gap_mm=gap, allowance_mm=edge.allowance)
            found.append(Finding("look", text, Place(edge=edge.name, point=aperture.at), figures))
    return found


def _faced_marks(finished: Sequence[Edge]) -> list[Mark]:
    """The stitching line, the slit in the middle and the clips into the corners."""
    points = flatten_ring(finished)
    marks = [Mark("stitch", (*(as_point(p) for p in points), as_point(points[0])), ("stitch the facing here",), 2.5)]
    corners = [e.start for e in finished]
    middle = points.mean(axis=0)
    if all(e.kind == "line" for e in finished) and len(corners) == 4:
        spans = [math.dist(corners[k], corners[(k + 1) % 4]) for k in range(4)]
        long = 0 if spans[0] >= spans[1] else 1
        d = unit(minus(corners[(long + 1) % 4], corners[long]))
        half = max((spans[long] - spans[1 - long]) / 2, spans[long] * 0.1)
        ends = [along(as_point(middle), d, -half), along(as_point(middle), d, half)]
        marks.append(Mark("trim", (ends[0], ends[1]), ("slit once it is faced",), 2.5))
        for corner in corners:
            near = min(ends, key=lambda p: math.dist(p, corner))
            back = unit(minus(near, corner))
            marks.append(Mark("trim", (near, along(corner, back, CLIP_SHORT_MM))))
        return marks
    axis = points - middle
    far = axis[np.hypot(*axis.T).argmax()] * (1 - CLIP_SHORT_MM / max(float(np.hypot(*axis.T).max()), 2.0))
    marks.append(Mark("trim", (as_point(middle - far), as_point(middle + far)), ("slit once it is faced",), 2.5))
    return marks


def _slit(
    aperture: Aperture, shape: shapely.Polygon, seam: Sequence[SeamEdge], around: Array
) -> tuple[list[Mark], list[str]]:
    """The slit from the aperture to an edge, its zip, and where the cord is led out."""
    line = shapely.LinearRing(around)
    centre = shapely.Point(aperture.at)
    if aperture.slit_deg is None:
        foot = line.interpolate(line.project(centre))
    else:
        angle = math.radians(aperture.slit_deg)
        reach = shapely.LineString([aperture.at, along(aperture.at, (math.cos(angle), math.sin(angle)), 1e6)])
        met = shapely.get_parts(shapely.intersection(reach, line))
        if not len(met):
            raise Refused(f"The slit of “{aperture.name}” never meets the edge; give it another direction.", "aperture")
        foot = min(met, key=centre.distance)
    end = (float(foot.x), float(foot.y))
    start = shapely.get_coordinates(shapely.intersection(shapely.LineString([aperture.at, end]), shape.exterior))
    begin = as_point(start[0]) if len(start) else aperture.at
    edge = min(seam, key=lambda e: shapely.distance(shapely.LineString(flatten(e)), foot))
    out = along(end, unit(minus(end, begin)), edge.allowance)
    length = math.dist(begin, end)
    marks = [Mark("slit", (begin, out), ("slit",), 3.0), Mark("bar", (begin,), ("bar",), 2.5)]
    fits = sorted(z for z in aperture.stocked if z >= length)
    worked = [f"slit of {aperture.name}: {length:.1f} to {edge.name}"]
    if aperture.stocked:
        worked[0] += (
            f"; zip {fits[0]:g}"
            if fits
            else f"; no zip in stock is that long, take one from the roll: {length:.0f} + ends"
        )
        turned = aperture.zip_shows / 2
        worked.append(
            f"each side of it turned back by {aperture.zip_shows:g} ÷ 2 = {turned:g}, so that the girth doesn't change"
        )
    if aperture.cord_exit:
        ring_line = shapely.LineString(flatten(edge))
        at = ring_line.project(foot)
        for way in (-1, 1):
            p = ring_line.interpolate(min(max(at + way * aperture.cord_exit, 0.0), ring_line.length))
            marks.append(Mark("exit", ((float(p.x), float(p.y)),), ("cord out",), 2.5))
    return marks, worked


def facing_of(panel: Panel, aperture: Aperture) -> Panel:
    """The piece that faces an aperture: 30 mm wider all round, with the same stitching line, slit and clips; it stretches
    and shrinks like its panel."""
    outer = finished_ring(aperture, FACING_MARGIN_MM)
    name = f"{panel.name} {aperture.name} facing"[:80]
    seam = tuple(SeamEdge(e.kind, e.points, f"side {k + 1}", 0.0, "raw", "mitre") for k, e in enumerate(outer))
    inside = replace(aperture, slit=False, finish="faced")
    return Panel(
        name, seam, cloth=panel.cloth, count=panel.count, hand=panel.hand, grain_deg=panel.grain_deg,
        way_up="neaten its outer edge first", notches=(), apertures=(inside,), fit=panel.fit and panel.fit.of_cloth,
    )  # fmt: skip
