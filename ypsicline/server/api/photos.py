"""Photos: sent, measured, looked at, and laid under the outline."""

from __future__ import annotations

import threading
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Field, File, Form, Router, Schema, Status
from ninja.files import UploadedFile

from ypsicline.core.capture.capture import Kind
from ypsicline.core.capture.pen_line import PenSide
from ypsicline.core.capture.photo import MAX_PHOTO_BYTES
from ypsicline.core.capture.strokes import Brush
from ypsicline.core.changes.captures import ConfirmEdges, MendOutline, WalkRound, piece_found_in
from ypsicline.core.changes.change import Change
from ypsicline.core.errors import Refusal
from ypsicline.core.job import JobDocument, PhotoOf
from ypsicline.core.lengths import Unit, show_error, show_set_length
from ypsicline.core.messages import message
from ypsicline.core.steps import Mend
from ypsicline.core.trueing.shape import true_up
from ypsicline.core.typed_lengths import parse_length
from ypsicline.server import files
from ypsicline.server.api.access import apply, job_of, photo_of
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Photo
from ypsicline.server.photos import photos
from ypsicline.server.photos.by_hand import (
    decode_ahead,
    error_of,
    flat_picture,
    mend_by_strokes,
    rounded,
    store_walk,
    unseen,
    walk_on,
)
from ypsicline.server.views.job import JobView, PhotoView, photo_view

router = Router()


class ChosenIn(Schema):
    """Names for the pieces that a photo shows, in their order; one without a name is left aside."""

    names: list[str]


class WantedIn(Schema):
    """What to look for: a piece, a pen line (its centre, inner or outer side), a ring of marks or a rolled trace (with
    the taped girths); how far the outline lies above the sheets; the dots per inch of a scan. All as typed."""

    kind: Kind = "piece"
    side: PenSide = "centre"
    height: str = ""
    dpi: str = ""
    small_girth: str = ""
    large_girth: str = ""
    by_profile: bool = True


class TapsIn(Schema):
    """Places on the piece and on what is none, as shares of the first photo's width and height from its upper left."""

    piece: list[tuple[float, float]] = Field(default_factory=list)
    table: list[tuple[float, float]] = Field(default_factory=list)


class RightIn(Schema):
    """Which of the doubtful stretches, from 0."""

    stretches: list[int]


class DoubtfulStretch(Schema):
    """A stretch of the outline whose edge isn't sure, how far it may be off, in the job's unit, and whether its maker has
    said that it is right, or moved it."""

    line: list[tuple[float, float]]
    off: str
    off_mm: float
    is_settled: bool


class PlacedPhoto(Schema):
    """The photo laid flat under the outline: `box` is left, bottom, width and height of flat.jpg in the outline's mm;
    `trusted` the ring of sheets; `band` points along the outline, each with its own error, mm; `marks` the dots found;
    `papers` the sheets that were used, `shadows` what was taken for shadow, `doubtful` where the edge isn't sure."""

    box: tuple[float, float, float, float]
    trusted: list[tuple[float, float]]
    band: list[tuple[float, float, float]]
    marks: list[tuple[float, float]]
    papers: list[list[tuple[float, float]]]
    shadows: list[list[tuple[float, float]]]
    doubtful: list[DoubtfulStretch]


class StrokeIn(Schema):
    """A stroke over what is piece, or else table: points and width in the outline's mm."""

    points: list[tuple[float, float]]
    width: float
    piece: bool


class StrokesIn(Schema):
    strokes: list[StrokeIn]


class WalkIn(Schema):
    """Points along an edge, in the outline's mm; `closed`: all the way round it."""

    points: list[tuple[float, float]]
    closed: bool = False


class WalkOnPhoto(Schema):
    """A way along an edge, and the stretches of it along which no edge is seen."""

    way: list[tuple[float, float]]
    unseen: list[list[tuple[float, float]]]


@router.post("/jobs/{job_id}/photos", response=PhotoView, operation_id="send_photo")
def send_photo(request: HttpRequest, job_id: int, photo: File[list[UploadedFile]], how: Form[WantedIn]) -> PhotoView:
    """One photo, or several of the same scene that are measured together."""
    job = job_of(request, job_id)
    unit = history.current(job).unit
    return photo_view(photos.take_photos_in(job, read_files(photo), wanted(how, unit)), unit)


def read_files(uploads: list[UploadedFile]) -> list[tuple[str, bytes]]:
    """Names and bytes of photos; raises `Refusal` for one that is too large before it is read."""
    for one in uploads:
        if (one.size or 0) > MAX_PHOTO_BYTES:
            raise Refusal(
                message("photo_too_heavy", megabytes=(one.size or 0) / 1000000.0, most=MAX_PHOTO_BYTES / 1000000.0),
                "photo",
            )
    return [(one.name or "photo", one.read()) for one in uploads]


@router.put("/photos/{photo_id}/wanted", response=PhotoView, operation_id="measure_again")
def measure_again(request: HttpRequest, photo_id: int, how: WantedIn) -> PhotoView:
    """Look for something else in a photo that is here."""
    row = photo_of(request, photo_id)
    unit = history.current(row.job).unit
    return photo_view(photos.measure_again(row, wanted(how, unit, row)), unit)


def wanted(how: WantedIn, unit: Unit, before: Photo | None = None) -> photos.CaptureRequest:
    """What was typed, read; a length that comes back as it was shown, maybe rounded, is just what it was `before`."""

    def typed(text: str, shown_mm: float | None) -> float | None:
        if shown_mm and text.strip() == show_set_length(shown_mm, unit):
            return shown_mm
        return parse_length(text, unit) if text.strip() else None

    height, small, large = (
        (before.height_mm, before.small_girth_mm, before.large_girth_mm) if before else (0.0, None, None)
    )
    return photos.CaptureRequest(
        how.kind, how.side, typed(how.height, height) or 0.0, _dpi(how.dpi), typed(how.small_girth, small),
        typed(how.large_girth, large), how.by_profile,
    )  # fmt: skip


def _dpi(text: str) -> float | None:
    if not text.strip():
        return None
    try:
        return float(text.replace(",", "."))
    except ValueError as e:
        raise Refusal(message("not_a_resolution", text=text[:20]), "scan") from e


@router.get("/photos/{photo_id}", response=PhotoView, operation_id="photo")
def photo(request: HttpRequest, photo_id: int) -> PhotoView:
    """A photo, and how far it is."""
    row = photo_of(request, photo_id)
    return photo_view(row, history.current(row.job).unit)


@router.delete("/photos/{photo_id}", response={204: None}, operation_id="remove_photo")
def remove_photo(request: HttpRequest, photo_id: int) -> Status[None]:
    """Take a photo that no piece on the table was found in off the job and off the disk."""
    photos.remove(photo_of(request, photo_id))
    return Status(204, None)


@router.post("/photos/{photo_id}/stop", response=PhotoView, operation_id="stop_photo")
def stop(request: HttpRequest, photo_id: int) -> PhotoView:
    """Stop measuring a photo; what is done of it counts no more. It can be measured again."""
    row = photo_of(request, photo_id)
    photos.WORK.stop(row.leader or row)
    return photo(request, photo_id)


@router.post("/photos/{photo_id}/pieces", response=PhotoView, operation_id="choose_pieces")
def choose_pieces(request: HttpRequest, photo_id: int, body: ChosenIn) -> PhotoView:
    """Name those pieces of a photo that are wanted."""
    row = photo_of(request, photo_id)
    return photo_view(photos.choose_pieces(row, body.names), history.current(row.job).unit)


@router.post("/photos/{photo_id}/taps", response=PhotoView, operation_id="point_at")
def point_at(request: HttpRequest, photo_id: int, taps: TapsIn) -> PhotoView:
    """Measure the photo again, knowing what was pointed at."""
    row = photo_of(request, photo_id)
    return photo_view(photos.point_at(row, taps.piece, taps.table), history.current(row.job).unit)


@router.get("/photos/{photo_id}/preview.jpg", operation_id="photo_preview", include_in_schema=False)
def preview(request: HttpRequest, photo_id: int) -> HttpResponse:
    return jpeg_of(photo_of(request, photo_id).preview)


@router.get("/photos/{photo_id}/outlines/{index}/flat.jpg", operation_id="photo_flat", include_in_schema=False)
def flat(request: HttpRequest, photo_id: int, index: int) -> HttpResponse:
    entry = _entry_of(request, photo_id, index)
    # whoever looks at it may paint on it next: it is decoded meanwhile
    threading.Thread(target=decode_ahead, args=(entry,), daemon=True).start()
    return jpeg_of(entry["flat"]["file"])


@router.get("/photos/{photo_id}/outlines/{index}", response=PlacedPhoto, operation_id="photo_placed")
def placed(request: HttpRequest, photo_id: int, index: int) -> PlacedPhoto:
    """How the photo lies under the outline, and how sure each place of that is."""
    entry = _entry_of(request, photo_id, index)
    document = history.current(photo_of(request, photo_id).job)
    piece = document.piece if document.piece and document.piece.photo == PhotoOf(photo_id, index) else None
    doubtful = [
        DoubtfulStretch(
            line=s["line"], off=show_error(s["off_mm"], document.unit), off_mm=s["off_mm"], is_settled=s["settled"]
        )
        for s in (photos.doubts_of(piece) if piece else ())
    ]
    return PlacedPhoto(
        box=entry["flat"]["box"], trusted=entry["trusted"], band=entry["band"], marks=entry["marks"],
        papers=entry.get("papers", []), shadows=entry.get("shadows", []), doubtful=doubtful,
    )  # fmt: skip


@router.get("/photos/{photo_id}/chooser.jpg", operation_id="photo_chooser", include_in_schema=False)
def chooser(request: HttpRequest, photo_id: int) -> HttpResponse:
    """The picture on which pieces are pointed at."""
    row = photo_of(request, photo_id)
    return jpeg_of((row.result or {}).get("picture") or row.preview)


@router.post("/photos/{photo_id}/outlines/{index}/walk", response=WalkOnPhoto, operation_id="walk_edge")
def walk(request: HttpRequest, photo_id: int, index: int, body: WalkIn) -> WalkOnPhoto:
    """The way along the strongest edge through these points, to be looked at; nothing is changed."""
    walked = walk_on(_entry_of(request, photo_id, index), body.points, is_closed=body.closed)
    return WalkOnPhoto(
        way=list(rounded(walked.way)), unseen=[list(s.line) for s in unseen(walked, is_closed=body.closed)]
    )


@router.post("/photos/{photo_id}/outlines/{index}/walked", response=JobView, operation_id="take_walk")
def take_walk(request: HttpRequest, photo_id: int, index: int, body: WalkIn) -> JobView:
    """Take the way along the edge into the outline; a closed one becomes all of it. Where no edge is seen along it, that
    stretch is in doubt."""
    row, place = photo_of(request, photo_id), PhotoOf(photo_id, index)
    entry = photos.finding(row, index)
    piece = history.current(row.job).piece
    if not body.closed and (piece is None or piece.photo != place):
        raise Refusal(message("no_outline_to_mend"), "walk")
    walked = walk_on(entry, body.points, is_closed=body.closed)
    ring, after = rounded(walked.way), store_walk(place, walked, is_closed=body.closed)
    if not body.closed:
        return apply(request, row.job_id, MendOutline(place, Mend((ring,)), "walk", after))
    return apply(request, row.job_id, WalkRound(after, true_up(ring, error_mm=error_of(walked, entry))))


@router.post("/photos/{photo_id}/outlines/{index}/strokes", response=JobView, operation_id="paint_strokes")
def paint(request: HttpRequest, photo_id: int, index: int, body: StrokesIn) -> JobView:
    """Say with strokes what is piece and what is table, and mend the outline by it."""
    row, place = photo_of(request, photo_id), PhotoOf(photo_id, index)
    picture = flat_picture(photos.finding(row, index))
    strokes = [Brush(tuple(s.points), s.width, s.piece) for s in body.strokes]

    def read(d: JobDocument) -> Change:
        on_photo = piece_found_in(d, place).on_photo
        return MendOutline(place, mend_by_strokes(on_photo, picture, strokes), "strokes")

    return apply(request, row.job_id, read)


@router.post("/photos/{photo_id}/outlines/{index}/right", response=JobView, operation_id="confirm_edge")
def confirm_edge(request: HttpRequest, photo_id: int, index: int, body: RightIn) -> JobView:
    """Say of doubtful stretches of the outline on the table that the edge is right there."""
    row, place = photo_of(request, photo_id), PhotoOf(photo_id, index)

    def read(d: JobDocument) -> Change:
        doubts = photos.doubts_of(piece_found_in(d, place))
        if not all(0 <= k < len(doubts) for k in body.stretches):
            raise Refusal(message("stretch_not_in_doubt"), "doubtful")
        return ConfirmEdges(place, tuple(photos.as_line(doubts[k]) for k in body.stretches))

    return apply(request, row.job_id, read)


def jpeg_of(name: str) -> HttpResponse:
    """A kept picture by its file's name, which never changes."""
    picture = files.path_of(name).read_bytes()
    return HttpResponse(picture, content_type="image/jpeg", headers={"Cache-Control": "private, max-age=86400"})


def _entry_of(request: HttpRequest, photo_id: int, index: int) -> dict[str, Any]:
    return photos.finding(photo_of(request, photo_id), index)
