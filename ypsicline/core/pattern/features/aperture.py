"""Openings in a panel (rule 13): their rings, marks, facings and slits."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Annotated, Any, Literal

import numpy as np
import shapely
from pydantic import BeforeValidator, ValidationInfo, WithJsonSchema

from ypsicline.core.errors import Place, Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import Array, Edge, Point, flatten, transformed
from ypsicline.core.geometry.plane import along, as_point, meet, minus, unit
from ypsicline.core.geometry.rings import check_ring, flatten_ring, is_counter_clockwise, reverse_ring
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.anchors import Inside
from ypsicline.core.pattern.features.feature import Carrying, DrawnInside, Feature
from ypsicline.core.pattern.finish import FinishName
from ypsicline.core.pattern.fitted import FittedRing
from ypsicline.core.pattern.limits import LARGEST_MM, within
from ypsicline.core.pattern.mark import Mark
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.seam_edge import CornerKind, SeamEdge
from ypsicline.core.typed import LengthOrNone, Number, NumberOrNone, SignedLength, Words
from ypsicline.core.typed_lengths import parse_length

__all__ = ["Aperture", "ApertureFinish", "finished_ring", "opening_ring", "placed_from"]

FACING_MARGIN_MM = 30.0
CLIP_SHORT_MM = 1.0
NEAR_SEAMS = 3.0
ApertureFinish = Literal["hemmed", "faced", "bound", "eyelet", "raw"]
_FINISH: dict[ApertureFinish, FinishName] = {
    "hemmed": "hem", "bound": "bound", "eyelet": "raw", "raw": "raw", "faced": "faced",
}  # fmt: skip


def _stocked(value: Any, info: ValidationInfo) -> Any:
    if not isinstance(value, str):
        return value
    unit = (info.context or {}).get("unit", "mm")
    return tuple(parse_length(t, unit) for t in value.split(";") if t.strip())


Stocked = Annotated[
    tuple[float, ...],
    BeforeValidator(_stocked),
    WithJsonSchema({"anyOf": [{"type": "string"}, {"type": "array", "items": {"type": "number"}}]}),
]
"""Lengths in stock, mm; as text with semicolons between."""


@dataclass(frozen=True)
class Aperture(Feature):
    """An opening at `at`, mm in the panel's frame (rule 13).

    `size` is what passes through it, its diameter or its width and height, and `clearance` the room
    around that; a slot is a rectangle with round ends, an `outline` is drawn by its own `ring` about
    `at`. `finish`: hemmed by `depth`, faced, bound, an eyelet, or cut raw. `slit` leads from it to
    the nearest edge, `slit_deg` the direction if it is to run otherwise; its zip is the next of
    `stocked` lengths, and shows by `zip_shows`. The cord is led out `cord_exit` either side of it.
    """

    shape: Literal["round", "slot", "rectangle", "outline"]
    at: tuple[SignedLength, SignedLength]
    size: tuple[LengthOrNone, LengthOrNone] = (0.0, 0.0)
    finish: ApertureFinish = "hemmed"
    name: Words = "aperture"
    clearance: LengthOrNone = 0.0
    turn_deg: NumberOrNone = 0.0
    depth: LengthOrNone = 10.0
    slit: bool = False
    slit_deg: Number | None = None
    stocked: Stocked = ()
    zip_shows: LengthOrNone = 0.0
    cord_exit: LengthOrNone = 0.0
    ring: tuple[Point, ...] = ()
    id: str = ""
    kind: Literal["aperture"] = "aperture"

    title = message("feature_aperture")

    def __post_init__(self) -> None:
        if self.shape == "outline" and self.ring:
            if not 3 <= len(self.ring) <= 2000:
                raise Refusal(message("aperture_points_out_of_range", aperture=self.name), "aperture")
            if not all(self.size):
                xs, ys = zip(*self.ring, strict=True)
                object.__setattr__(self, "size", (max(xs) - min(xs), max(ys) - min(ys)))
        if self.shape == "round":
            object.__setattr__(self, "size", (self.size[0], self.size[0]))
        if self.shape != "outline" or self.ring:
            if not all(self.size):
                raise Refusal(message("size_of_what_passes_missing"), "measure")
            for value in self.size:
                within(message("figure_size_of", name=self.name), value, 1, LARGEST_MM)
        for value in self.at:
            within(message("figure_place_of", name=self.name), value, -1e6, 1e6)
        within(message("figure_clearance_of", name=self.name), self.clearance, 0, 500)
        within(message("figure_hem_of", name=self.name), self.depth, 0, 200)
        within(message("figure_width_that_the_zip_of_shows", name=self.name), self.zip_shows, 0, 200)
        within(message("figure_cord_exits_beside", name=self.name), self.cord_exit, 0, 2000)
        if not 1 <= len(self.name) <= 40 or any(ord(c) < 32 for c in self.name):
            raise Refusal(message("aperture_name_out_of_range"), "name", Place(point=self.at))
        if len(self.stocked) > 40 or any(not 10 <= z <= LARGEST_MM for z in self.stocked):
            raise Refusal(message("zips_out_of_range", least_mm=10), "aperture")

    @property
    def anchor(self) -> Inside:
        return Inside(self.at)

    def words(self, edges: Mapping[str, str]) -> Message:  # noqa: ARG002 - a feature's signature
        across, up = self.size
        size = message("across", across_mm=across)
        if self.shape != "round":
            size = message("across_and_up", across_mm=across, up_mm=up)
        slit = message("with_slit") if self.slit else ""
        return message("aperture_listed", name=self.name, shape=self.shape, size=size, finish=self.finish, slit=slit)

    def carried(self, by: Carrying) -> Iterable[Aperture]:
        wide = math.hypot(*(self.size if self.shape != "round" else (self.size[0], 0.0))) / 2
        if self.shape == "outline":
            wide = max((math.hypot(*p) for p in self.ring), default=0.0)
        round_it = shapely.Point(self.at).buffer(wide + self.clearance)
        to = by.plane.of(round_it, message("thing_opening", name=self.name), self.at)
        if to == Transform():
            yield self
            return
        own = replace(to, x=0.0, y=0.0)
        turn = to.direction_deg(self.turn_deg + (180 if to.is_mirrored else 0))
        yield replace(
            self,
            at=to.point(self.at),
            size=(self.size[0] * to.scale, self.size[1] * to.scale),
            # from -180 to 180
            turn_deg=(turn + 180) % 360 - 180,
            ring=tuple(own.point(p) for p in self.ring),
            slit_deg=None if self.slit_deg is None else to.direction_deg(self.slit_deg),
        )

    def fitted(self, ring: FittedRing) -> Aperture:
        return replace(self, at=ring.point(self.at))

    def inside(self, seam: Sequence[SeamEdge], around: Array, cloth: Transform | None) -> DrawnInside:
        """A hemmed hole is cut smaller by its hem all round; a faced one isn't cut before its facing is sewn on along the
        finished size, then slit in its middle and clipped to 1 mm of its corners. Raises `Refusal` with the place where it
        isn't inside the panel, or its hem leaves nothing of it."""
        return _open(self, seam, around, cloth)

    def in_layer(self, *, soft: bool, lines: bool) -> Aperture:  # noqa: ARG002 - a feature's signature
        return replace(self, finish="raw", slit=False) if soft or self.finish == "faced" else self

    def companions(self, panel: Panel) -> tuple[Panel, ...]:
        return (_facing_of(panel, self),) if self.finish == "faced" else ()

    def put_on(self, panel: Panel, before: Feature | None) -> Aperture:  # noqa: ARG002 - a feature's signature
        """An outline that was drawn stays, where no other is chosen. Raises `Refusal` where there is neither."""
        if self.shape != "outline" or self.ring:
            return self
        if not isinstance(before, Aperture) or not before.ring:
            raise Refusal(message("choose_outline_of_aperture"), "aperture")
        return replace(self, ring=before.ring)


def opening_ring(aperture: Aperture, cloth: Transform | None) -> tuple[Edge, ...]:
    """The opening as it lies on cloth that will stretch or shrink: the finished ring under `cloth` about its place."""
    ring = finished_ring(aperture)
    if cloth is None:
        return ring
    about = Transform.about(cloth.matrix, aperture.at)
    return tuple(about.edge(e) for e in ring)


def finished_ring(aperture: Aperture, more_mm: float = 0.0) -> tuple[Edge, ...]:
    """The finished opening, counter-clockwise: what passes through with its clearance all round, and `more_mm`."""
    c = aperture.clearance + more_mm
    if aperture.shape == "outline":
        return _drawn_ring(aperture, c)
    w, h = aperture.size[0] / 2 + c, aperture.size[1] / 2 + c
    if aperture.shape == "round":
        ring: tuple[Edge, ...] = (
            Edge("arc", ((w, 0), (0, w), (-w, 0))),
            Edge("arc", ((-w, 0), (0, -w), (w, 0))),
        )
    elif aperture.shape == "slot" and w > h:
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
    if not points:
        raise Refusal(message("aperture_without_outline", aperture=aperture.name), "aperture", Place(point=aperture.at))
    ring = tuple(Edge("line", (p, points[(k + 1) % len(points)])) for k, p in enumerate(points))
    check_ring(ring, [f"side {k + 1}" for k in range(len(ring))], message("ring_of_aperture", aperture=aperture.name))
    ring = ring if is_counter_clockwise(ring) else reverse_ring(ring)
    if not outward:
        return ring
    region = shapely.Polygon(flatten_ring(ring)).buffer(outward, join_style="mitre")
    out = np.asarray(shapely.get_coordinates(region.exterior))[:-1]
    corners = [(float(x), float(y)) for x, y in (out if shapely.is_ccw(region.exterior) else out[::-1])]
    return tuple(Edge("line", (p, corners[(k + 1) % len(corners)])) for k, p in enumerate(corners))


def placed_from(seam: Sequence[SeamEdge], first: str, first_mm: float, second: str, second_mm: float) -> Point:
    """The point that lies so far inside two straight edges. Raises `Refusal` where they aren't there, or run alike."""
    edges = {e.id: e for e in seam}
    lines = []
    for name, away in ((first, first_mm), (second, second_mm)):
        e = edges.get(name)
        if e is None:
            raise Refusal(message("measure_from_two_edges"), "aperture")
        if e.kind != "line":
            raise Refusal(message("measure_from_straight_edges"), "aperture")
        d = unit(minus(e.end, e.start))
        lines.append((along(e.start, (-d[1], d[0]), away), d))
    (p, u), (q, v) = lines
    at = meet(p, u, q, v)
    if at is None:
        raise Refusal(message("edges_run_alike"), "aperture")
    return at


def _open(aperture: Aperture, seam: Sequence[SeamEdge], around: Array, cloth: Transform | None) -> DrawnInside:
    opening = opening_ring(aperture, cloth)
    shape, body = shapely.Polygon(flatten_ring(opening)), shapely.Polygon(around)
    if not shapely.contains_properly(body, shape):
        raise Refusal(
            message("aperture_over_seam_line", aperture=aperture.name),
            "aperture", Place(point=aperture.at),
        )  # fmt: skip
    findings = _near_seams(aperture, shape, seam)
    workings = [_sum(aperture, cloth)]
    marks: list[Mark] = []
    ring: tuple[SeamEdge, ...] | None = None
    if aperture.finish == "faced":
        marks += _faced_marks(opening)
    else:
        width = aperture.depth if aperture.finish == "hemmed" else 0.0
        corner: CornerKind = "mitre"
        edges = tuple(
            SeamEdge(e.kind, e.points, f"{aperture.name} {k + 1}", width, _FINISH[aperture.finish], corner)
            for k, e in enumerate(opening)
        )
        ring = reverse_ring(edges)
    if aperture.slit:
        slit_marks, slit_workings = _slit(aperture, shape, seam, around)
        marks += slit_marks
        workings += slit_workings
    return DrawnInside(aperture.name, ring, opening, tuple(marks), tuple(workings), tuple(findings))


def _sum(a: Aperture, cloth: Transform | None) -> Message:
    w, h = (s + 2 * a.clearance for s in a.size)
    is_round = a.shape == "round"
    figures = {"passes_mm": a.size[0], "clearance_mm": a.clearance, "across_mm": w}
    more = {} if is_round else {"passes_up_mm": a.size[1], "up_mm": h}
    size = message("aperture_round" if is_round else "aperture_sides", **figures, **more)
    in_cloth = message("nothing")
    if cloth is not None:
        angle = math.radians(a.turn_deg)
        across, up = np.array([math.cos(angle), math.sin(angle)]), np.array([-math.sin(angle), math.cos(angle)])
        w, h = w * float(np.hypot(*(cloth.matrix @ across))), h * float(np.hypot(*(cloth.matrix @ up)))
        is_round = is_round and math.isclose(w, h)
        in_cloth = message("aperture_in_cloth", size=_across(w, None if is_round else h))
    if a.finish == "hemmed":
        cut_size = _across(w - 2 * a.depth, None if is_round else h - 2 * a.depth)
        return message("aperture_hemmed", aperture=a.name, size=size, in_cloth=in_cloth, depth_mm=a.depth, cut=cut_size)
    return message("aperture_finished", aperture=a.name, size=size, in_cloth=in_cloth, finish=a.finish)


def _across(across: float, up: float | None) -> Message:
    return message("across", across_mm=across) if up is None else message("across_and_up", across_mm=across, up_mm=up)


def _near_seams(aperture: Aperture, shape: shapely.Polygon, seam: Sequence[SeamEdge]) -> list[Finding]:
    findings = []
    for edge in seam:
        gap = float(shapely.distance(shape, shapely.LineString(flatten(edge))))
        if edge.allowance > 0 and gap < NEAR_SEAMS * edge.allowance:
            figures = {"gap_mm": gap, "allowance_mm": edge.allowance}
            text = message("aperture_near_seam", aperture=aperture.name, edge=edge.name, **figures)
            findings.append(Finding("look", text, Place(edge=edge.name, point=aperture.at)))
    return findings


def _faced_marks(opening: Sequence[Edge]) -> list[Mark]:
    """The stitching line, the slit in the middle and the clips into the corners."""
    points = flatten_ring(opening)
    marks = [Mark("stitch", (*(as_point(p) for p in points), as_point(points[0])), (message("stitch_facing"),), 2.5)]
    corners = [e.start for e in opening]
    middle = points.mean(axis=0)
    if all(e.kind == "line" for e in opening) and len(corners) == 4:
        spans = [math.dist(corners[k], corners[(k + 1) % 4]) for k in range(4)]
        long = 0 if spans[0] >= spans[1] else 1
        d = unit(minus(corners[(long + 1) % 4], corners[long]))
        half = max((spans[long] - spans[1 - long]) / 2, spans[long] * 0.1)
        ends = [along(as_point(middle), d, -half), along(as_point(middle), d, half)]
        marks.append(Mark("trim", (ends[0], ends[1]), (message("slit_once_faced"),), 2.5))
        for corner in corners:
            near = min(ends, key=lambda p: math.dist(p, corner))
            back = unit(minus(near, corner))
            marks.append(Mark("trim", (near, along(corner, back, CLIP_SHORT_MM))))
        return marks
    axis = points - middle
    far = axis[np.hypot(*axis.T).argmax()] * (1 - CLIP_SHORT_MM / max(float(np.hypot(*axis.T).max()), 2.0))
    marks.append(Mark("trim", (as_point(middle - far), as_point(middle + far)), (message("slit_once_faced"),), 2.5))
    return marks


def _slit(
    aperture: Aperture, shape: shapely.Polygon, seam: Sequence[SeamEdge], around: Array
) -> tuple[list[Mark], list[Message]]:
    """The slit from the aperture to an edge, its zip, and where the cord is led out."""
    line = shapely.LinearRing(around)
    centre = shapely.Point(aperture.at)
    if aperture.slit_deg is None:
        foot = line.interpolate(line.project(centre))
    else:
        angle = math.radians(aperture.slit_deg)
        reach = shapely.LineString([aperture.at, along(aperture.at, (math.cos(angle), math.sin(angle)), 1e6)])
        crossings = shapely.get_parts(shapely.intersection(reach, line))
        if not len(crossings):
            raise Refusal(message("slit_misses_edge", aperture=aperture.name), "aperture")
        foot = min(crossings, key=centre.distance)
    end = (float(foot.x), float(foot.y))
    start = shapely.get_coordinates(shapely.intersection(shapely.LineString([aperture.at, end]), shape.exterior))
    begin = as_point(start[0]) if len(start) else aperture.at
    edge = min(seam, key=lambda e: shapely.distance(shapely.LineString(flatten(e)), foot))
    out = along(end, unit(minus(end, begin)), edge.allowance)
    length = math.dist(begin, end)
    marks = [Mark("slit", (begin, out), (message("slit"),), 3.0), Mark("bar", (begin,), (message("mark_bar"),), 2.5)]
    fits = sorted(z for z in aperture.stocked if z >= length)
    zips = {"zip_mm": fits[0]} if fits else {}
    workings = [
        message(
            "slit_drawn" if not aperture.stocked else "slit_with_zip" if fits else "slit_without_zip",
            aperture=aperture.name, edge=edge.name, length_mm=length, **zips,
        )
    ]  # fmt: skip
    if aperture.stocked:
        workings.append(message("slit_turned_back", shows_mm=aperture.zip_shows, turned_mm=aperture.zip_shows / 2))
    if aperture.cord_exit:
        ring_line = shapely.LineString(flatten(edge))
        at = ring_line.project(foot)
        for way in (-1, 1):
            p = ring_line.interpolate(min(max(at + way * aperture.cord_exit, 0.0), ring_line.length))
            marks.append(Mark("exit", ((float(p.x), float(p.y)),), (message("cord_out"),), 2.5))
    return marks, workings


def _facing_of(panel: Panel, aperture: Aperture) -> Panel:
    """The piece that faces an aperture: 30 mm wider all round, with the same stitching line, slit and clips; it stretches
    and shrinks like its panel."""
    outer = finished_ring(aperture, FACING_MARGIN_MM)
    name = f"{panel.name} {aperture.name} facing"[:80]
    seam = tuple(SeamEdge(e.kind, e.points, f"side {k + 1}", 0.0, "raw", "mitre") for k, e in enumerate(outer))
    inside = replace(aperture, slit=False, finish="faced")
    return Panel(
        name, seam, cloth=panel.cloth, count=panel.count, hand=panel.hand, grain_deg=panel.grain_deg,
        way_up=message("neaten_outer_edge"), middle_notches=False, features=(inside,), fit=panel.fit and panel.fit.of_cloth,
    )  # fmt: skip
