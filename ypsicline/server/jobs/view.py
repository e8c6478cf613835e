"""A job as its window shows it: the document, and everything that follows from it."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, cast

from ypsicline.core.capture.capture import Kind
from ypsicline.core.capture.pen_line import PenSide
from ypsicline.core.drafting.panel import DraftedPanel, Panel, SeamEdge, instruction
from ypsicline.core.errors import Refused
from ypsicline.core.formats.svg import path_data
from ypsicline.core.geometry.edges import (
    Edge,
    Point,
    circle_of,
    edge_length,
    parameter_at_length,
    point_at,
    reverse_edge,
    tangent_at,
)
from ypsicline.core.geometry.parallel import parallel
from ypsicline.core.job import Brief, JobDocument, Piece
from ypsicline.core.lengths import Unit, parse_length, show_error, show_length
from ypsicline.core.making.cautions import cautions
from ypsicline.core.making.progress import NextStep, Station, next_step, stations
from ypsicline.core.trueing.dividing import part_marks
from ypsicline.core.trueing.shape import Shape, TracedRing, TrueEdge, letter
from ypsicline.core.trueing.tape import read_tape
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Job, Photo
from ypsicline.server.jobs.worked_out import KEPT, drafted, fitted

__all__ = ["JobView", "PhotoView", "RingView", "TicketView", "job_view", "photo_view", "shape_rings", "ticket_view"]


@dataclass(frozen=True)
class EdgeView:
    """A trued edge, its figures ready to be read in the job's unit."""

    name: str
    kind: str
    path: str
    start: tuple[float, float]
    middle: tuple[float, float]
    length: str
    strays: str
    radius: str | None


@dataclass(frozen=True)
class JointView:
    letter: str
    point: tuple[float, float]
    smooth: bool
    next_kind: str


@dataclass(frozen=True)
class RingView:
    trace: str
    joints: list[JointView]
    edges: list[EdgeView]


@dataclass(frozen=True)
class TapeView:
    name: str
    outline: str
    tape: str | None
    apart: str | None
    close: bool | None
    ends: list[tuple[float, float]]


@dataclass(frozen=True)
class StepView:
    """A step of trueing up: what it did, whether it counts, and why it was skipped, if it was."""

    said: str
    on: bool
    skipped: str


@dataclass(frozen=True)
class PartView:
    """A mark of the halves or quarters; `edge` and `along` are where it stands."""

    point: tuple[float, float]
    text: str


@dataclass(frozen=True)
class PieceTab:
    """A captured piece as it lies beside the table: its silhouette and the box that it fills."""

    name: str
    path: str
    box: tuple[float, float, float, float]


@dataclass(frozen=True)
class ShapeView:
    """Rings, outline first; `box` is x, y, width, height in mm; `tolerance` and `error` are ready to be read.
    `photo` and `found` say where it was found; `on_photo` whether it still lies where the photo shows it."""

    rings: list[RingView]
    box: tuple[float, float, float, float]
    width: str
    height: str
    tolerance: str
    error: str | None
    error_mm: float | None
    tolerance_mm: float
    verdict: str
    tape: list[TapeView]
    steps: list[StepView]
    parts: list[PartView]
    photo: int | None
    found: int
    on_photo: bool


@dataclass(frozen=True)
class SeamEdgeView:
    """An edge on the table: `band` is its allowance as a closed path between seam line and parallel."""

    name: str
    kind: str
    path: str
    band: str
    fold: str
    start: tuple[float, float]
    middle: tuple[float, float]
    outward: tuple[float, float]
    length: str
    allowance: str
    allowance_mm: float
    finish: str
    corner: str
    radius: str | None
    beads: list[tuple[float, float]]


@dataclass(frozen=True)
class PanelView:
    """A drafted panel; `refused` says why where it can't be drafted."""

    name: str
    cloth: str
    count: int
    hand: str
    on_fold: bool
    grain_deg: float
    way_up: str
    instruction: str
    rings: list[list[SeamEdgeView]]
    cut: list[str]
    drafted: DraftedPanel | None
    refused: str | None
    box: tuple[float, float, float, float]
    width: str
    height: str
    notch_texts: list[str]


@dataclass(frozen=True)
class PhotoView:
    """A photo; `together` are the ids of all that were measured with it, itself the first. `if_higher` says what a
    height left out would do. `by_hand` is the finding to walk on where no piece could be told."""

    id: int
    together: list[int]
    kind: Kind
    side: PenSide
    height: str
    if_higher: str | None
    name: str
    status: str
    stage: str
    share: float
    sentence: str
    warnings: list[str]
    sheets: list[str]
    width: int
    height_px: int
    outlines_px: list[list[tuple[float, float]]]
    by_hand: int | None
    dpi: str
    small_girth: str
    large_girth: str
    by_profile: bool


@dataclass(frozen=True)
class DistanceView:
    first: str
    second: str
    tape: str


@dataclass(frozen=True)
class JobView:
    id: int
    ticket: int
    revision: int
    can_undo: bool
    can_redo: bool
    last_change: str
    kept_at: datetime.datetime
    name: str
    for_whom: str
    due: datetime.date | None
    unit: Unit
    brief: Brief
    cautions: list[str]
    stations: list[Station]
    next_step: NextStep
    shape: ShapeView | None
    panels: list[PanelView]
    photos: list[PhotoView]
    print_scale: tuple[float, float]
    sheet_scale: tuple[float, float]
    sheet_distances: list[DistanceView]
    pieces: list[PieceTab]
    open_piece: int


@dataclass(frozen=True)
class TicketView:
    id: int
    ticket: int
    name: str
    covers: str
    due: datetime.date | None
    silhouette: list[str]
    box: tuple[float, float, float, float]
    share: float
    station: str
    next_step: NextStep


def job_view(job: Job) -> JobView:
    document = history.current(job)
    panels = [_panel(p, document.unit) for p in document.panels]
    drafts = [p.drafted for p in panels if p.drafted]
    revision = job.revisions.get(number=job.position)
    return JobView(
        id=job.pk,
        ticket=job.ticket,
        revision=job.position,
        can_undo=job.revisions.filter(number=job.position - 1).exists(),
        can_redo=job.revisions.filter(number=job.position + 1).exists(),
        last_change=revision.what,
        kept_at=revision.at,
        name=document.name,
        for_whom=document.for_whom,
        due=document.due,
        unit=document.unit,
        brief=document.brief,
        cautions=list(cautions(document.brief)),
        stations=list(stations(document, drafts)),
        next_step=_next_step(job, document, drafts),
        shape=_shape(document, document.piece) if document.piece else None,
        pieces=[_tab(p) for p in document.pieces],
        open_piece=document.open,
        panels=panels,
        photos=[
            photo_view(p, document.unit)
            for p in job.photos.filter(leader=None).order_by("pk").prefetch_related("followers")
        ],
        print_scale=document.print_scale,
        sheet_scale=document.sheet_scale,
        sheet_distances=[
            DistanceView(d.first, d.second, show_length(d.mm, document.unit)) for d in document.sheet_distances
        ],
    )


def photo_view(photo: Photo, unit: Unit) -> PhotoView:
    result = photo.result or {}
    last: dict[str, Any] = result.get("found", [{}])[-1] if result.get("found") else {}
    out = last.get("out_per_mm_height")
    size = result.get("size", (photo.width, photo.height))
    ten = 12.7 if unit == "in" else 10.0
    return PhotoView(
        id=photo.pk,
        together=[photo.pk, *sorted(p.pk for p in photo.followers.all())],
        kind=cast(Kind, photo.kind),
        side=cast(PenSide, photo.side),
        height=show_length(photo.height_mm, unit) if photo.height_mm else "",
        if_higher=None
        if out is None
        else (
            f"Each {show_length(ten, unit, with_unit=True)} left out puts the outline out by up to "
            f"{show_error(out * ten, unit)}."
        ),
        name=photo.name,
        status=photo.status,
        stage=photo.stage,
        share=photo.share,
        sentence=photo.sentence,
        warnings=list(last.get("warnings", ())),
        sheets=list(last.get("sheets", ())),
        width=size[0],
        height_px=size[1],
        by_hand=len(result["found"]) - 1 if last.get("by_hand") else None,
        dpi=f"{photo.dpi:g}" if photo.dpi else "",
        small_girth=_typed(photo.small_girth_mm, unit),
        large_girth=_typed(photo.large_girth_mm, unit),
        by_profile=photo.by_profile,
        outlines_px=[list(map(tuple, ring)) for ring in result.get("outlines_px", ())],
    )


def _typed(mm: float | None, unit: Unit) -> str:
    return "" if mm is None else show_length(mm, unit)


def ticket_view(job: Job) -> TicketView:
    document = history.current(job)
    drafts = [d for p in document.panels if (d := _draft(p)[0])]
    silhouettes = [path_data(p.seam_line) + "".join(f" {path_data(h)}" for h in p.holes) for p in document.panels[:1]]
    box = _box([p for d in drafts[:1] for p in d.seam_points])
    if not silhouettes and document.shape:
        points = document.shape.outline.points
        silhouettes = [_polyline(points)] + [_polyline(h.points) for h in document.shape.holes]
        box = _box(points)
    all_stations = stations(document, drafts)
    step = _next_step(job, document, drafts)
    reached = next((k for k, s in enumerate(all_stations) if s.key == step.station), 0)
    share = (reached + all_stations[reached].share * 0.9) / len(all_stations)
    return TicketView(
        job.pk, job.ticket, document.name, document.brief.covers, document.due, [" ".join(silhouettes)] if silhouettes else [],
        box, share, all_stations[reached].title, step,
    )  # fmt: skip


def _next_step(job: Job, document: JobDocument, drafts: Sequence[DraftedPanel]) -> NextStep:
    """What the job wants most; a photo that asks for something comes first while there is no outline."""
    latest = job.photos.filter(leader=None).order_by("-pk").first()
    if document.shape is None and not document.panels and latest is not None:
        if latest.status == Photo.Status.CHOOSE:
            return NextStep("choose the piece in the photo", "shape", "look")
        if latest.status in (Photo.Status.REFUSED, Photo.Status.FAILED):
            return NextStep("take the photo again", "shape", "stop")
    return next_step(document, drafts)


@lru_cache(maxsize=KEPT)
def _tab(piece: Piece) -> PieceTab:
    points = piece.shape.outline.points
    return PieceTab(piece.name, _polyline(points[:: max(1, len(points) // 150)]), _box(points))


def _shape(document: JobDocument, piece: Piece) -> ShapeView:
    unit, shape = document.unit, piece.shape
    rings = shape_rings(shape, unit)
    edges = fitted(shape.outline, shape.tolerance_mm)
    readings = read_tape(shape, piece.tape, edges)
    tape = [
        TapeView(
            r.name,
            show_length(r.outline_mm, unit),
            None if r.tape_mm is None else show_length(r.tape_mm, unit),
            None if r.apart_mm is None else _signed(r.apart_mm, unit),
            r.within_error,
            [shape.outline.joints[k].point for k in m.between or ()],
        )
        for m, r in zip(piece.tape, readings, strict=True)
    ]
    box = _box(shape.outline.points)
    error = None if shape.error_mm is None else show_error(shape.error_mm, unit)
    return ShapeView(
        rings, box, show_length(box[2], unit), show_length(box[3], unit), show_length(shape.tolerance_mm, unit, denominator=64),
        error, shape.error_mm, shape.tolerance_mm, _verdict(shape, document), tape,
        [StepView(d.said, d.on, d.skipped) for d in piece.steps], _parts(shape, edges),
        piece.photo.photo if piece.photo else None, piece.photo.found if piece.photo else 0,
        piece.steps_on_photo == len(piece.steps),
    )  # fmt: skip


def shape_rings(shape: Shape, unit: Unit) -> list[RingView]:
    """The rings of a shape, outline first, ready to be drawn."""
    return [_ring(r, shape.tolerance_mm, unit) for r in (shape.outline, *shape.holes)]


def _parts(shape: Shape, edges: Sequence[TrueEdge]) -> list[PartView]:
    words = {0.0: "start", 0.25: "¼", 0.5: "½", 0.75: "¾"}
    try:
        marks = part_marks(shape, edges)
    except Refused:
        return []
    return [PartView(m.point, words.get(m.share, "")) for m in marks]


def _verdict(shape: Shape, document: JobDocument) -> str:
    """The capture's error against the ease that the brief names, if it names one."""
    unit = document.unit
    if shape.error_mm is None:
        return "Measured in with a tape: as exact as its measures."
    needed = show_error(5 * shape.error_mm, unit)
    try:
        ease = parse_length(document.brief.looseness, unit)
    except Refused:
        return f"Good for an ease of {needed} or more: the capture's error should stay well below the ease."
    said = show_length(ease, unit, with_unit=True)
    if ease >= 5 * shape.error_mm:
        return f"Good for the ease of {said}: the capture's error is {ease / shape.error_mm:.0f} times smaller."
    return (
        f"The capture's error is a good part of the ease of {said}: it takes an ease of {needed} or more, or a better "
        "photo."
    )


@lru_cache(maxsize=KEPT)
def _ring(ring: TracedRing, tolerance_mm: float, unit: Unit) -> RingView:
    joints = [JointView(letter(k), j.point, j.smooth, j.next_kind) for k, j in enumerate(ring.joints)]
    views = [
        EdgeView(
            e.name,
            e.kind,
            path_data([e]).removesuffix(" Z"),
            e.start,
            _middle(e),
            show_length(e.length_mm, unit),
            show_error(e.deviation_mm, unit),
            None if e.radius_mm is None else show_length(e.radius_mm, unit),
        )
        for e in fitted(ring, tolerance_mm)
    ]
    return RingView(_polyline(ring.points), joints, views)


@lru_cache(maxsize=KEPT)
def _panel(panel: Panel, unit: Unit) -> PanelView:
    made, refused = _draft(panel)
    rings = [[_seam_edge(e, unit) for e in ring] for ring in (made.rings() if made else panel.rings())]
    cut = [path_data(made.cutting_line), *(path_data(h) for h in made.hole_cutting_lines)] if made else []
    points = made.cutting_points if made else [p for e in panel.seam_line for p in e.points]
    seam = _box(made.seam_points if made else points)
    return PanelView(
        panel.name, panel.cloth, panel.count, panel.hand, panel.on_fold, panel.grain_deg, panel.way_up, instruction(panel),
        rings, cut, made, refused, _box(points), show_length(seam[2], unit), show_length(seam[3], unit),
        [show_length(n.along_mm, unit) for n in (made.notches or () if made else ())],
    )  # fmt: skip


def _draft(panel: Panel) -> tuple[DraftedPanel | None, str | None]:
    try:
        return drafted(panel), None
    except Refused as e:
        return None, e.sentence


def _seam_edge(edge: SeamEdge, unit: Unit) -> SeamEdgeView:
    band = fold = ""
    if edge.allowance > 0:
        outer = parallel(edge, edge.allowance)
        sides = [edge, Edge("line", (edge.end, outer.end)), reverse_edge(outer)]
        band = path_data(sides)
        if edge.finish == "hem":
            fold = path_data([parallel(edge, edge.allowance * 0.45)]).removesuffix(" Z")
    circle = circle_of(edge) if edge.kind == "arc" else None
    dx, dy = tangent_at(edge, 0.5)
    length = edge_length(edge)
    beads = []
    if edge.finish == "bound":
        count = max(2, round(length / 14))
        beads = [point_at(edge, parameter_at_length(edge, (k + 0.5) * length / count)) for k in range(count)]
    return SeamEdgeView(
        edge.name, edge.kind, path_data([edge]).removesuffix(" Z"), band, fold, edge.start, _middle(edge), (dy, -dx),
        show_length(length, unit), show_length(edge.allowance, unit), edge.allowance, edge.finish, edge.corner,
        show_length(circle.radius, unit) if circle else None, beads,
    )  # fmt: skip


def _middle(edge: Edge) -> tuple[float, float]:
    return point_at(edge, 0.5)


def _signed(mm: float, unit: Unit) -> str:
    text = show_length(mm, unit)
    return text if text.strip("0.") == "" or text.startswith("-") else f"+ {text}"


def _polyline(points: Sequence[Point]) -> str:
    return "M" + " ".join(f"{x:.2f} {-y:.2f}" for x, y in points) + " Z"


def _box(points: Sequence[Point]) -> tuple[float, float, float, float]:
    if not points:
        return 0.0, 0.0, 100.0, 100.0
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    return min(xs), min(ys), max(xs) - min(xs), max(ys) - min(ys)
