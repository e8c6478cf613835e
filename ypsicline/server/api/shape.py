"""Photos, the trued outline, and the tape list."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router, Schema
from ninja.files import UploadedFile

from ypsicline.core.capture.capture import Kind
from ypsicline.core.capture.pen_line import PenSide
from ypsicline.core.capture.photo import MAX_PHOTO_BYTES
from ypsicline.core.errors import Refused
from ypsicline.core.job import JobDocument
from ypsicline.core.lengths import Unit, parse_length
from ypsicline.core.making.print_scale import measured_scale
from ypsicline.core.trueing.shape import (
    Shape,
    TracedRing,
    WantedKind,
    add_joint,
    letter,
    move_joint,
    remove_joint,
    set_edge_kind,
    true_up,
)
from ypsicline.core.trueing.tape import TapeMeasure, read_tape
from ypsicline.server import files
from ypsicline.server.api.access import apply, job_of, photo_of
from ypsicline.server.jobs import history, photos
from ypsicline.server.jobs.view import JobView, PhotoView, photo_view

router = Router()


class PointIn(Schema):
    x: float
    y: float


class KindIn(Schema):
    kind: WantedKind


class LengthIn(Schema):
    """A length as it was typed; a bare number is in the job's unit."""

    text: str


class MeasureIn(Schema):
    between: tuple[int, int] | None = None
    edge: int | None = None


class PieceIn(Schema):
    piece: int


class WantedIn(Schema):
    """What to look for: a piece or a pen line (its centre, inner or outer side), and how far the outline lies above
    the sheets, as typed."""

    kind: Kind = "piece"
    side: PenSide = "centre"
    height: str = ""


class MarksIn(Schema):
    """What the 100 mm test marks measured, across and up the sheet, as typed."""

    across: str
    up: str


class Placed(Schema):
    """The photo laid flat under the outline: `box` is left, bottom, width and height of flat.jpg in the outline's mm;
    `trusted` the ring of sheets."""

    box: tuple[float, float, float, float]
    trusted: list[tuple[float, float]]


@router.post("/jobs/{job_id}/photos", response=PhotoView, operation_id="send_photo")
def send_photo(request: HttpRequest, job_id: int, photo: File[list[UploadedFile]], how: Form[WantedIn]) -> PhotoView:
    """One photo, or several of the same scene that are measured together."""
    job = job_of(request, job_id)
    for one in photo:
        if (one.size or 0) > MAX_PHOTO_BYTES:
            raise Refused(
                f"The photo has {(one.size or 0) / 1e6:.0f} MB; {MAX_PHOTO_BYTES / 1e6:.0f} MB is the most.",
                "photo",
            )
    sent = [(one.name or "photo", one.read()) for one in photo]
    unit = history.current(job).unit
    return photo_view(photos.take_photos_in(job, sent, _wanted(how, unit)), unit)


@router.put("/photos/{photo_id}/wanted", response=PhotoView, operation_id="measure_again")
def measure_again(request: HttpRequest, photo_id: int, how: WantedIn) -> PhotoView:
    """Look for something else in a photo that is here."""
    found = photo_of(request, photo_id)
    unit = history.current(found.job).unit
    return photo_view(photos.measure_again(found, _wanted(how, unit)), unit)


def _wanted(how: WantedIn, unit: Unit) -> photos.Wanted:
    height = parse_length(how.height, unit) if how.height.strip() else 0.0
    return photos.Wanted(how.kind, how.side, height)


@router.get("/photos/{photo_id}", response=PhotoView, operation_id="photo")
def photo(request: HttpRequest, photo_id: int) -> PhotoView:
    found = photo_of(request, photo_id)
    return photo_view(found, history.current(found.job).unit)


@router.post("/photos/{photo_id}/piece", response=PhotoView, operation_id="choose_piece")
def choose_piece(request: HttpRequest, photo_id: int, chosen: PieceIn) -> PhotoView:
    found = photo_of(request, photo_id)
    return photo_view(photos.choose_piece(found, chosen.piece), history.current(found.job).unit)


@router.get("/photos/{photo_id}/preview.jpg", operation_id="photo_preview", include_in_schema=False)
def preview(request: HttpRequest, photo_id: int) -> HttpResponse:
    kept = files.path_of(photo_of(request, photo_id).preview).read_bytes()
    return HttpResponse(kept, content_type="image/jpeg", headers={"Cache-Control": "private, max-age=86400"})


@router.get("/photos/{photo_id}/flat.jpg", operation_id="photo_flat", include_in_schema=False)
def flat(request: HttpRequest, photo_id: int) -> HttpResponse:
    kept = files.path_of(_measured(request, photo_id)["flat"]["file"]).read_bytes()
    return HttpResponse(kept, content_type="image/jpeg", headers={"Cache-Control": "private, no-cache"})


@router.get("/photos/{photo_id}/placed", response=Placed, operation_id="photo_placed")
def placed(request: HttpRequest, photo_id: int) -> Placed:
    result = _measured(request, photo_id)
    return Placed(box=result["flat"]["box"], trusted=result["trusted"])


def _measured(request: HttpRequest, photo_id: int) -> dict[str, Any]:
    found: dict[str, Any] = photo_of(request, photo_id).result or {}
    if "flat" not in found:
        raise Refused("This photo has not been measured, so it can't be laid under the outline.", "photo")
    return found


@router.put("/jobs/{job_id}/sheet-scale", response=JobView, operation_id="set_sheet_scale")
def set_sheet_scale(request: HttpRequest, job_id: int, marks: MarksIn) -> JobView:
    """Takes effect with the next photo."""

    def how(d: JobDocument) -> JobDocument:
        x, y = measured_scale(parse_length(marks.across, "mm"), parse_length(marks.up, "mm"))
        return replace(d, sheet_scale=(x, y))

    return apply(request, job_id, "Sheets' test marks measured", how)


@router.put("/jobs/{job_id}/shape/tolerance", response=JobView, operation_id="set_tolerance")
def set_tolerance(request: HttpRequest, job_id: int, given: LengthIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        shape = shape_of(d)
        tolerance = parse_length(given.text, d.unit)
        fresh = true_up(
            shape.outline.points,
            [h.points for h in shape.holes],
            tolerance_mm=tolerance,
            error_mm=shape.error_mm,
        )
        return replace(d, shape=fresh, tape=())

    return apply(request, job_id, "Tolerance set, corners found afresh", how)


@router.post("/jobs/{job_id}/shape/{ring}/joints", response=JobView, operation_id="add_corner")
def add_corner(request: HttpRequest, job_id: int, ring: int, at: PointIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        before = shape_of(d).outline.joints
        after = ring_changed(d, ring, lambda r: add_joint(r, (at.x, at.y)))
        joints = shape_of(after).outline.joints
        return _tape_moved(after, {k: joints.index(j) for k, j in enumerate(before)} if ring == 0 else None)

    return apply(request, job_id, "Corner added", how)


@router.delete("/jobs/{job_id}/shape/{ring}/joints/{index}", response=JobView, operation_id="remove_corner")
def remove_corner(request: HttpRequest, job_id: int, ring: int, index: int) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        count = len(shape_of(d).outline.joints)
        after = ring_changed(d, ring, lambda r: remove_joint(r, index))
        kept = {k: k - (k > index) for k in range(count) if k != index}
        return _tape_moved(after, kept if ring == 0 else None)

    return apply(request, job_id, f"Corner {letter(max(index, 0))} removed", how)


@router.put("/jobs/{job_id}/shape/{ring}/joints/{index}", response=JobView, operation_id="move_corner")
def move_corner(request: HttpRequest, job_id: int, ring: int, index: int, to: PointIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        return ring_changed(d, ring, lambda r: move_joint(r, index, (to.x, to.y)))

    return apply(request, job_id, f"Corner {letter(max(index, 0))} moved", how)


@router.put("/jobs/{job_id}/shape/{ring}/edges/{index}", response=JobView, operation_id="set_edge_kind")
def set_kind(request: HttpRequest, job_id: int, ring: int, index: int, given: KindIn) -> JobView:
    words = {
        "line": "Edge straightened",
        "arc": "Edge made an arc",
        "curve": "Edge made a curve",
        "auto": "Edge fitted",
    }
    return apply(
        request,
        job_id,
        words[given.kind],
        lambda d: ring_changed(d, ring, lambda r: set_edge_kind(r, index, given.kind)),
    )


@router.post("/jobs/{job_id}/tape", response=JobView, operation_id="add_measure")
def add_measure(request: HttpRequest, job_id: int, given: MeasureIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        measure = TapeMeasure(given.between, given.edge)
        read_tape(shape_of(d), [measure])
        return d if measure in d.tape else replace(d, tape=(*d.tape, measure))

    return apply(request, job_id, "Measure added to the tape list", how)


@router.put("/jobs/{job_id}/tape/{index}", response=JobView, operation_id="set_tape")
def set_tape(request: HttpRequest, job_id: int, index: int, given: LengthIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        at = _at(d, index)
        typed = parse_length(given.text, d.unit) if given.text.strip() else None
        return replace(
            d,
            tape=tuple(replace(m, tape_mm=typed) if k == at else m for k, m in enumerate(d.tape)),
        )

    return apply(request, job_id, "Tape read", how)


@router.delete("/jobs/{job_id}/tape/{index}", response=JobView, operation_id="remove_measure")
def remove_measure(request: HttpRequest, job_id: int, index: int) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        at = _at(d, index)
        return replace(d, tape=tuple(m for k, m in enumerate(d.tape) if k != at))

    return apply(request, job_id, "Measure taken off the list", how)


def shape_of(d: JobDocument) -> Shape:
    """The job's outline; raises `Refused` where there is none."""
    if d.shape is None:
        raise Refused("There is no outline yet; send a photo first.", "shape")
    return d.shape


def _at(d: JobDocument, index: int) -> int:
    if not 0 <= index < len(d.tape):
        raise Refused("This measure is no longer on the list.", "tape")
    return index


def ring_changed(d: JobDocument, ring: int, how: Callable[[TracedRing], TracedRing]) -> JobDocument:
    """The job with one ring changed: 0 the outline, 1.. the holes."""
    shape = shape_of(d)
    if ring == 0:
        return replace(d, shape=replace(shape, outline=how(shape.outline)))
    if not 1 <= ring <= len(shape.holes):
        raise Refused("There is no such hole in the outline.", "shape")
    holes = tuple(how(h) if k == ring - 1 else h for k, h in enumerate(shape.holes))
    return replace(d, shape=replace(shape, holes=holes))


def _tape_moved(d: JobDocument, where: dict[int, int] | None) -> JobDocument:
    """The tape list after corners were numbered anew; measures to a corner that is gone are dropped."""
    if where is None:
        return d
    kept = []
    for m in d.tape:
        if m.between and all(k in where for k in m.between):
            kept.append(replace(m, between=(where[m.between[0]], where[m.between[1]])))
        elif m.edge is not None and m.edge in where:
            kept.append(replace(m, edge=where[m.edge]))
    return replace(d, tape=tuple(kept))
