"""A job as its window shows it: the document, and everything that follows from it."""

from __future__ import annotations

import datetime
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any, TypeVar, cast

import pydantic.dataclasses

from ypsicline.core.capture.capture import Kind
from ypsicline.core.capture.pen_line import PenSide
from ypsicline.core.drafting.draft import draft_panels
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.message_json import from_json
from ypsicline.core.formats.svg import path_data
from ypsicline.core.geometry.edges import Edge, point_at
from ypsicline.core.job import Brief, JobDocument, Piece
from ypsicline.core.lengths import Unit, show_error, show_length, show_set_length, show_signed
from ypsicline.core.looseness import clearance_mm, show_looseness
from ypsicline.core.making.cautions import cautions
from ypsicline.core.making.print_scale import TEST_MARKS
from ypsicline.core.making.progress import NextStep, next_step, stations
from ypsicline.core.making.rough_cloth import rough_cloth
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.panel import DraftedPanel
from ypsicline.core.trueing.dividing import part_marks
from ypsicline.core.trueing.shape import Shape, TracedRing, TrueEdge, letter
from ypsicline.core.trueing.tape import TapeMeasure, read_tape
from ypsicline.core.wording import render
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Job, Photo
from ypsicline.server.jobs.ticket import NextStepView, StationView, asked_by, station_view, step_view
from ypsicline.server.jobs.worked_out import KEPT, drafts_of, edges_of_ring
from ypsicline.server.views.cover import (
    CheckedView,
    CornerDotView,
    CoverView,
    JoinView,
    checked_views,
    corner_dot_views,
    cover_view,
    join_views,
)
from ypsicline.server.views.drawn import box_of, polyline, ways_of
from ypsicline.server.views.house import HouseView, house_view
from ypsicline.server.views.panel import PanelView, panel_view

__all__ = ["JobView", "PhotoView", "RingView", "job_view", "photo_view", "shape_rings"]

T = TypeVar("T")
V = TypeVar("V")


@dataclass(frozen=True)
class EdgeView:
    """A trued edge, its figures ready to be read in the job's unit; it leaves its start and arrives at its end in the
    directions `ways`."""

    name: str
    kind: str
    path: str
    start: tuple[float, float]
    middle: tuple[float, float]
    ways: tuple[tuple[float, float], tuple[float, float]]
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
    """A line of the tape list; its tag hangs `at` the middle between its `ends`, or of the edge that it runs along."""

    id: str
    name: str
    outline: str
    tape: str | None
    apart: str | None
    close: bool | None
    ends: list[tuple[float, float]]
    at: tuple[float, float]


@dataclass(frozen=True)
class StepView:
    """A step of trueing up: what it did, whether it counts, and why it was skipped, if it was."""

    words: str
    on: bool
    skip_reason: str


@dataclass(frozen=True)
class PartView:
    """A mark of the halves or quarters; `edge` and `along` are where it stands."""

    point: tuple[float, float]
    text: str


@dataclass(frozen=True)
class PieceTab:
    """A captured piece as it lies beside the table: its silhouette and the box that it fills."""

    id: str
    name: str
    path: str
    box: tuple[float, float, float, float]


@dataclass(frozen=True)
class ShapeView:
    """Rings, outline first; `box` is x, y, width, height in mm; `tolerance` and `error` are ready to be read. `photo` and
    `outline`, one of the photo's, say where it comes from; `on_photo` whether it still lies where the photo shows it.
    `before` are its rings as they lay there, while it was moved within the photo's frame only; else none."""

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
    outline: int
    on_photo: bool
    before: list[str]


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
class ClearanceView:
    """How far off the job's brief wants a cover to lie, as it is typed, and why."""

    text: str
    why: str


@dataclass(frozen=True)
class SameAs:
    """What hasn't changed: it is as number `same` of its list in the state that the window shows."""

    same: int


# pydantic works out once what this looks like, not for each of the many addresses that answer with it
@pydantic.dataclasses.dataclass(frozen=True)
class JobView:
    """A job as its window shows it; after a change only what it changed, beside what is small."""

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
    clearance: ClearanceView | None
    test_mark: str
    stations: list[StationView]
    next_step: NextStepView
    shape: ShapeView | SameAs | None
    panels: list[PanelView | SameAs]
    cut_pieces: int
    covers: list[CoverView]
    joins: list[JoinView]
    corner_dots: list[CornerDotView]
    cloth: list[str]
    checks: list[CheckedView]
    house: HouseView
    photos: list[PhotoView]
    print_scale: tuple[float, float]
    sheet_scale: tuple[float, float]
    sheet_distances: list[DistanceView]
    pieces: list[PieceTab | SameAs]
    open_piece: str


def job_view(job: Job, since: JobDocument | None = None) -> JobView:
    """The job as it stands; of what is as it was in the document `since`, which the window shows, only that it is."""
    document = history.current(job)
    drafts = drafts_of(document)
    revision = job.revisions.get(number=job.position)
    return JobView(
        id=job.pk,
        ticket=job.ticket,
        revision=job.position,
        can_undo=history.before(job) is not None,
        can_redo=history.after(job) is not None,
        last_change=render(from_json(revision.what), document.unit),
        kept_at=revision.at,
        name=document.name,
        for_whom=document.for_whom,
        due=document.due,
        unit=document.unit,
        brief=replace(document.brief, looseness=show_looseness(document.brief.looseness, document.unit)),
        cautions=[render(c) for c in cautions(document.brief)],
        clearance=_clearance(document),
        test_mark=TEST_MARKS[document.unit][0],
        stations=[station_view(s, document.unit) for s in stations(document, drafts)],
        next_step=step_view(_next_step(job, document, drafts), document.unit),
        shape=_shape_since(document, since),
        pieces=_since(document.pieces, since.pieces if since else (), _tab),
        open_piece=document.open,
        panels=_since(
            document.panels,
            since.panels if since and (since.unit, since.house) == (document.unit, document.house) else (),
            lambda p: panel_view(p, document.unit, document.house),
        ),
        cut_pieces=sum(p.pieces for p in document.panels),
        covers=[cover_view(c, document) for c in document.covers],
        joins=join_views(document),
        corner_dots=corner_dot_views(document, drafts),
        cloth=[render(line, document.unit) for line in rough_cloth(document, _with_companions(document))],
        checks=checked_views(document, drafts),
        house=house_view(document.house, document.unit),
        photos=[
            photo_view(p, document.unit)
            for p in job.photos.filter(leader=None).order_by("pk").prefetch_related("followers")
        ],
        print_scale=document.print_scale,
        sheet_scale=document.sheet_scale,
        sheet_distances=[
            DistanceView(d.first, d.second, show_set_length(d.mm, document.unit)) for d in document.sheet_distances
        ],
    )


def _clearance(document: JobDocument) -> ClearanceView | None:
    looseness, unit = document.brief.looseness, document.unit
    clearance = clearance_mm(looseness, unit)
    if not clearance:
        return None
    why = message("clearance_of_the_brief", looseness=show_looseness(looseness, unit), clearance_mm=clearance)
    return ClearanceView(show_length(clearance, unit, denominator=64), render(why, unit))


def _with_companions(document: JobDocument) -> Sequence[DraftedPanel]:
    """All that is cut, layers and facings with it; nothing where a panel can't be drafted."""
    try:
        return draft_panels(document.panels, document.house)
    except Refusal:
        return ()


def _since(now: Sequence[T], then: Sequence[T], view: Callable[[T], V]) -> list[V | SameAs]:
    """Each as it is shown, or which of those shown it is."""
    # what a change leaves alone is the very same value
    places = {id(value): k for k, value in enumerate(then)}
    return [SameAs(places[id(v)]) if id(v) in places else view(v) for v in now]


def _shape_since(document: JobDocument, since: JobDocument | None) -> ShapeView | SameAs | None:
    if document.piece is None:
        return None
    same_words = since and (since.unit, since.brief.looseness) == (document.unit, document.brief.looseness)
    return SameAs(0) if same_words and since and since.piece is document.piece else _shape(document, document.piece)


def photo_view(photo: Photo, unit: Unit) -> PhotoView:
    result = photo.result or {}
    last: dict[str, Any] = result.get("outlines", [{}])[-1] if result.get("outlines") else {}
    out = last.get("out_per_mm_height")
    size = result.get("size", (photo.width, photo.height))
    ten = 12.7 if unit == "in" else 10.0
    return PhotoView(
        id=photo.pk,
        together=[photo.pk, *sorted(p.pk for p in photo.followers.all())],
        kind=cast(Kind, photo.kind),
        side=cast(PenSide, photo.side),
        height=show_set_length(photo.height_mm, unit) if photo.height_mm else "",
        if_higher=None if out is None else (render(message("height_left_out", each_mm=ten, off_mm=out * ten), unit)),
        name=photo.name,
        status=photo.status,
        stage=render(from_json(photo.stage), unit),
        share=photo.share,
        sentence=render(from_json(photo.sentence), unit),
        warnings=[render(from_json(w), unit) for w in last.get("warnings", ())],
        sheets=list(last.get("sheets", ())),
        width=size[0],
        height_px=size[1],
        by_hand=len(result["outlines"]) - 1 if last.get("by_hand") else None,
        dpi=f"{photo.dpi:g}" if photo.dpi else "",
        small_girth=_length_text(photo.small_girth_mm, unit),
        large_girth=_length_text(photo.large_girth_mm, unit),
        by_profile=photo.by_profile,
        outlines_px=[list(map(tuple, ring)) for ring in result.get("outlines_px", ())],
    )


def _length_text(mm: float | None, unit: Unit) -> str:
    return "" if mm is None else show_set_length(mm, unit)


def _next_step(job: Job, document: JobDocument, drafts: Sequence[DraftedPanel]) -> NextStep:
    """What the job wants most; a photo that asks for something comes first while there is no outline."""
    step = None
    if document.shape is None and not document.panels:
        step = asked_by(job.photos.filter(leader=None).order_by("-pk").values_list("status", flat=True).first())
    return step or next_step(document, drafts)


@lru_cache(maxsize=KEPT)
def _tab(piece: Piece) -> PieceTab:
    points = piece.shape.outline.points
    return PieceTab(piece.id, piece.name, polyline(points[:: max(1, len(points) // 150)]), box_of(points))


def _shape(document: JobDocument, piece: Piece) -> ShapeView:
    unit, shape = document.unit, piece.shape
    rings = shape_rings(shape, unit)
    edges = edges_of_ring(shape.outline, shape.tolerance_mm)
    readings = read_tape(shape, piece.tape, edges)
    tape = [
        TapeView(
            m.id,
            r.name,
            show_length(r.outline_mm, unit),
            None if r.tape_mm is None else show_set_length(r.tape_mm, unit),
            None if r.apart_mm is None else show_signed(r.apart_mm, unit),
            r.within_error,
            [shape.outline.joints[k].point for k in m.between or ()],
            _tape_at(m, shape.outline, edges),
        )
        for m, r in zip(piece.tape, readings, strict=True)
    ]
    box = box_of(shape.outline.points)
    error = None if shape.error_mm is None else show_error(shape.error_mm, unit)
    on_photo = piece.steps_on_photo == len(piece.steps)
    return ShapeView(
        rings, box, show_length(box[2], unit), show_length(box[3], unit), show_set_length(shape.tolerance_mm, unit),
        error, shape.error_mm, shape.tolerance_mm, render(_verdict(shape, document), unit), tape,
        [StepView(render(d.words, unit), d.on, render(d.skip_reason, unit)) for d in piece.steps], _parts(shape, edges),
        piece.photo.photo if piece.photo else None, piece.photo.outline if piece.photo else 0,
        on_photo, [] if on_photo or not piece.in_photos_frame else _traces(piece.on_photo),
    )  # fmt: skip


def _traces(shape: Shape) -> list[str]:
    return [polyline(r.points) for r in (shape.outline, *shape.holes)]


def shape_rings(shape: Shape, unit: Unit) -> list[RingView]:
    """The rings of a shape, outline first, ready to be drawn."""
    return [_ring(r, shape.tolerance_mm, unit) for r in (shape.outline, *shape.holes)]


def _parts(shape: Shape, edges: Sequence[TrueEdge]) -> list[PartView]:
    words = {0.0: "start", 0.25: "¼", 0.5: "½", 0.75: "¾"}
    try:
        marks = part_marks(shape, edges)
    except Refusal:
        return []
    return [PartView(m.point, words.get(m.share, "")) for m in marks]


def _verdict(shape: Shape, document: JobDocument) -> Message:
    """The capture's error against the ease that the brief names, if it names one."""
    if shape.error_mm is None:
        return message("as_exact_as_its_measures")
    needed = 5 * shape.error_mm
    ease = clearance_mm(document.brief.looseness, document.unit)
    if ease is None:
        return message("good_for_an_ease", needed_mm=needed)
    if ease >= needed:
        return message("good_for_the_ease", ease_mm=ease, times=ease / shape.error_mm)
    return message("ease_too_small_for_error", ease_mm=ease, needed_mm=needed)


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
            ways_of(e),
            show_length(e.length_mm, unit),
            show_error(e.deviation_mm, unit),
            None if e.radius_mm is None else show_length(e.radius_mm, unit),
        )
        for e in edges_of_ring(ring, tolerance_mm)
    ]
    return RingView(polyline(ring.points), joints, views)


def _tape_at(measure: TapeMeasure, outline: TracedRing, edges: Sequence[TrueEdge]) -> tuple[float, float]:
    if measure.between is None:
        return _middle(edges[measure.edge or 0])
    (ax, ay), (bx, by) = (outline.joints[k].point for k in measure.between)
    return (ax + bx) / 2, (ay + by) / 2


def _middle(edge: Edge) -> tuple[float, float]:
    return point_at(edge, 0.5)
