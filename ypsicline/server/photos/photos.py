"""Taking photos in and measuring them in the background."""

from __future__ import annotations

import dataclasses
import io
from collections.abc import Sequence
from functools import partial
from typing import Any, cast

import numpy as np
from django.db import transaction
from django_tasks import task
from PIL import Image

from ypsicline.core.capture.capture import (
    Capture,
    Kind,
    Ring,
    SeveralPieces,
    SheetOnTable,
    capture_in,
    open_table,
)
from ypsicline.core.capture.mosaic import flat_preview
from ypsicline.core.capture.pen_line import PenSide
from ypsicline.core.capture.photo import Photo as ReadPhoto
from ypsicline.core.capture.photo import read_photo
from ypsicline.core.capture.rectify import FlatPicture
from ypsicline.core.capture.scan import LEAST_DPI, MOST_DPI, capture_scan, join_scans
from ypsicline.core.capture.scene import HIGHEST_MM, MOST_PHOTOS
from ypsicline.core.capture.sheets import sheets_by_id
from ypsicline.core.capture.stretches import Stretch
from ypsicline.core.changes.captures import FoundPiece, TakeFound
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.message_json import as_json
from ypsicline.core.geometry.edges import Point
from ypsicline.core.geometry.rings import even_ring
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.job import PhotoOf, Piece, check_text
from ypsicline.core.messages import message
from ypsicline.core.trueing.measured import from_edges
from ypsicline.core.trueing.rolled import RolledTrace, rolled
from ypsicline.core.trueing.shape import Shape, true_up
from ypsicline.server import files
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Job, Photo
from ypsicline.server.jobs.sweep import sweep_soon
from ypsicline.server.photos.cameras import profile_of
from ypsicline.server.photos.intake import store_photos
from ypsicline.server.photos.scenes import scene_of
from ypsicline.server.work.kind import End, Tell, WorkKind

__all__ = [
    "WORK",
    "CaptureRequest",
    "as_line",
    "check_settled",
    "choose_pieces",
    "doubts_of",
    "finding",
    "measure",
    "measure_again",
    "point_at",
    "put_finding",
    "remove",
    "stored_stretches",
    "take_photos_in",
]

FLAT_SIDE_PX = 3600
BAND_POINTS = 240
# where nothing was found, but the table is known, a hand can help
BY_HAND = {"low_contrast", "piece_leaves_picture", "sheet_touches_piece", "which_piece", "no_line", "no_marks"}
MOST_TAPS = 40
STORED_PITCH_MM = 0.5
STATUS = Photo.Status


@dataclasses.dataclass(frozen=True)
class CaptureRequest:
    """What is looked for in photos, as `capture_pieces` takes it. With `dpi` they are scans."""

    kind: Kind = "piece"
    side: PenSide = "centre"
    height_mm: float = 0.0
    dpi: float | None = None
    small_girth_mm: float | None = None
    large_girth_mm: float | None = None
    by_profile: bool = True

    def __post_init__(self) -> None:
        if not 0 <= self.height_mm <= HIGHEST_MM:
            raise Refusal(message("height_to_measure", highest_mm=HIGHEST_MM), "height")
        if self.dpi is not None and not LEAST_DPI <= self.dpi <= MOST_DPI:
            raise Refusal(
                message("scan_resolution_out_of_range", least_dpi=LEAST_DPI, most_dpi=MOST_DPI, dpi=self.dpi), "scan"
            )


def take_photos_in(job: Job, uploads: Sequence[tuple[str, bytes]], request: CaptureRequest) -> Photo:
    """Check and keep photos that were sent together, and queue them; returns the first.

    Raises `Refusal` for a file that is no photo, before anything is kept.
    """
    if not 1 <= len(uploads) <= MOST_PHOTOS:
        raise Refusal(message("too_many_photos_sent", most_photos=MOST_PHOTOS, count=len(uploads)), "photo")
    kept_photos = store_photos(job.workshop_id, uploads)
    with transaction.atomic():
        photos: list[Photo] = []
        for one in kept_photos:
            photo = Photo.objects.create(
                job=job, file=one.file, preview=one.preview, name=one.name, width=one.width, height=one.height,
                leader=photos[0] if photos else None, **dataclasses.asdict(request),
            )  # fmt: skip
            photos.append(photo)
        WORK.queue(photos[0])
    return photos[0]


def measure_again(photo: Photo, request: CaptureRequest) -> Photo:
    """Measure photos that are kept once more, looking for something else in them."""
    if photo.leader is not None or photo.is_under_way:
        raise Refusal(message("photo_being_measured"), "photo")
    with transaction.atomic():
        for name, value in dataclasses.asdict(request).items():
            setattr(photo, name, value)
        photo.taps = {}
        photo.names = []
        WORK.wait(photo)
    return photo


def point_at(photo: Photo, piece: Sequence[Point], table: Sequence[Point]) -> Photo:
    """Measure a photo again, knowing these places on the piece and on what is none, in shares of its width and height."""
    if photo.leader is not None or photo.is_under_way:
        raise Refusal(message("photo_being_measured"), "photo")
    if photo.dpi:
        raise Refusal(message("scan_cant_be_pointed_at"), "scan")
    if not piece and not table:
        raise Refusal(message("point_at_piece_first"), "place")
    if len(piece) + len(table) > MOST_TAPS or not all(0 <= v <= 1 for p in (*piece, *table) for v in p):
        raise Refusal(message("point_inside_photo", most_taps=MOST_TAPS), "place")
    with transaction.atomic():
        photo.taps = {"piece": list(piece), "table": list(table)}
        photo.names = []
        WORK.wait(photo)
    return photo


def remove(photo: Photo) -> None:
    """Take a photo off the job, with those sent with it, and off the disk. Raises `Refusal` while it is being measured,
    and for one that a piece on the table was found in."""
    if photo.leader is not None or photo.is_under_way:
        raise Refusal(message("photo_being_measured"), "photo")
    pieces = [p.name for p in history.current(photo.job).pieces if p.photo and p.photo.photo == photo.pk]
    if pieces:
        raise Refusal(message("photo_in_use", piece=pieces[0]), "photo")
    with transaction.atomic():
        photo.delete()
        transaction.on_commit(lambda: sweep_soon.enqueue())


def choose_pieces(photo: Photo, names: Sequence[str]) -> Photo:
    """Measure the photo again for the pieces on it that are given a name, in their order."""
    if photo.status != STATUS.CHOOSE:
        raise Refusal(message("no_piece_asked_for"), "photo")
    if len(names) > len((photo.result or {})["outlines_px"]):
        raise Refusal(message("fewer_pieces_than_names"), "piece")
    piece_names = [n.strip() for n in names]
    if not any(piece_names):
        raise Refusal(message("name_a_piece"), "piece")
    for name in piece_names:
        check_text(message("text_piece_name"), name)
    with transaction.atomic():
        photo.names = piece_names
        WORK.wait(photo)
    return photo


def finding(photo: Photo, index: int) -> dict[str, Any]:
    """What was found in a photo; raises `Refusal` where there is no such finding."""
    findings = (photo.result or {}).get("outlines", [])
    if not 0 <= index < len(findings) or not findings[index]:
        raise Refusal(message("photo_not_measured"), "photo")
    entry: dict[str, Any] = findings[index]
    return entry


def doubts_of(piece: Piece) -> list[dict[str, Any]]:
    """The stretches of a captured piece whose edge isn't sure, with what is `settled` of them."""
    photo = Photo.objects.filter(pk=piece.photo.photo).first() if piece.photo else None
    if photo is None or piece.photo is None:
        return []
    stretches = finding(photo, piece.photo.outline).get("doubtful", ())
    return [{**s, "settled": piece.is_settled(as_line(s))} for s in stretches]


def check_settled(piece: Piece) -> None:
    """Raises `Refusal` where a stretch of a captured piece's edge is in doubt still."""
    doubts = [s for s in doubts_of(piece) if not s["settled"]]
    if doubts:
        raise Refusal(
            message("outline_in_doubt", count=len(doubts), off_mm=max(s["off_mm"] for s in doubts)), "doubtful"
        )


def as_line(stretch: dict[str, Any]) -> tuple[Point, ...]:
    """A doubtful stretch's line as a change names it."""
    return tuple((float(x), float(y)) for x, y in stretch["line"])


def stored_stretches(doubtful: Sequence[Stretch]) -> list[dict[str, Any]]:
    """Doubtful stretches as a finding holds them."""
    return [{"line": _thin(s.line), "off_mm": s.off_mm} for s in doubtful]


def put_finding(photo: Photo, entry: dict[str, Any]) -> PhotoOf:
    """Keep one more finding; earlier ones stay for the revisions that refer to them."""
    findings = [*(photo.result or {}).get("outlines", []), entry]
    photo.result = {"outlines": findings}
    return PhotoOf(photo.pk, len(findings) - 1)


@task()
def measure(photo_id: int) -> None:
    """Measure a photo with those sent with it; what is found becomes the job's shape."""
    WORK.carry_out(photo_id, _measure)


WORK = WorkKind(Photo, measure, failure=message("measuring_failed"), broken_off=message("measuring_broken_off"))


def _measure(photo: Photo, tell: Tell) -> End:
    tell(message("stage_reading_photo"), 0.02)
    together = [photo, *photo.followers.order_by("pk")]
    reads = [read_photo(files.path_of(p.file).read_bytes()) for p in together]
    return (
        _measure_scans(photo, reads) if photo.dpi else _measure_photos(photo, [p.file for p in together], reads, tell)
    )


def _measure_scans(photo: Photo, reads: Sequence[ReadPhoto]) -> End:
    picture, apart_mm = join_scans(reads, photo.dpi or 0.0)
    kind, side = _kind_and_side(photo)
    captures = capture_scan(picture, apart_mm, kind=kind, side=side, pieces=_choice_of(photo))
    flat = _jpeg(picture)
    if isinstance(captures, SeveralPieces):
        return _asking(
            photo, captures, {"picture": flat["file"], "size": [picture.window.columns, picture.window.rows]}
        )
    return _end_with(photo, [(capture, flat) for capture in captures])


def _measure_photos(photo: Photo, names: Sequence[str], reads: Sequence[ReadPhoto], tell: Tell) -> End:
    document = history.current(photo.job)
    kind, side = _kind_and_side(photo)
    how: dict[str, Any] = {
        "print_scale": document.sheet_scale, "height_mm": photo.height_mm, "distances": document.sheet_distances,
        "profile": profile_of(photo.job.workshop_id, reads[0]) if photo.by_profile else None,
    }  # fmt: skip
    before = document.from_photo(photo.pk)
    of = before.photo if before else None
    scene = scene_of(names, reads, progress=tell, **how)
    try:
        captures = capture_in(
            scene, kind=kind, side=side, pieces=_choice_of(photo),
            frame=Transform.from_rows(finding(photo, of.outline)["frame"]) if of else None, progress=tell,
            at=photo.taps.get("piece", ()), not_at=photo.taps.get("table", ()),
        )  # fmt: skip
    except Refusal as e:
        if e.reason not in BY_HAND:
            raise
        table = open_table(scene)
        put_finding(photo, {**_entry(table, _flattened(reads, table)), "by_hand": True})
        return End(STATUS.REFUSED, message("or_walk_round_by_hand", why=e.message), partial(_store_result, photo))
    if isinstance(captures, SeveralPieces):
        return _asking(photo, captures, {"picture": photo.preview, "size": [photo.width, photo.height]})
    tell(message("stage_laying_photo"), 0.95)
    return _end_with(photo, [(capture, _flattened(reads, capture)) for capture in captures])


def _kind_and_side(photo: Photo) -> tuple[Kind, PenSide]:
    return cast(Kind, photo.kind), cast(PenSide, photo.side)


def _choice_of(photo: Photo) -> list[int] | None:
    return [k for k, name in enumerate(photo.names) if name] or None


def _asking(photo: Photo, several: SeveralPieces, picture: dict[str, Any]) -> End:
    findings = (photo.result or {}).get("outlines", [])
    photo.result = {"outlines": findings, **dataclasses.asdict(several), **picture}
    count, is_line = len(several.outlines_px), photo.kind == Photo.Kind.LINE
    question = message("choose_of_lines", count=count) if is_line else message("choose_of_pieces", count=count)
    return End(STATUS.CHOOSE, question, partial(_store_result, photo))


def _end_with(photo: Photo, captures: Sequence[tuple[Capture, dict[str, Any]]]) -> End:
    """What was found becomes the piece on the table, or several pieces by the names they were given."""
    names = [n for n in photo.names if n]
    landed: list[tuple[PhotoOf, Shape]] = []
    for capture, flat in captures:
        entry, shape = _entry(capture, flat), _shape(photo, capture)
        if photo.kind == Photo.Kind.ROLL:
            # the band runs round the marks there, not along the arcs
            entry["band"] = []
            entry["warnings"] = [*entry["warnings"], *map(as_json, _rolled_trace(photo, capture).outline.workings)]
        landed.append((put_finding(photo, entry), shape))

    piece_names = names or [""] * len(landed)
    pieces = tuple(FoundPiece(of, shape, name) for name, (of, shape) in zip(piece_names, landed, strict=True))

    def store() -> None:
        _store_result(photo)
        history.change(photo.job_id, TakeFound(pieces, photo.name), None)

    return End(STATUS.DONE, store=store)


def _store_result(photo: Photo) -> None:
    photo.save(update_fields=["result"])


def _shape(photo: Photo, capture: Capture) -> Shape:
    if photo.kind == Photo.Kind.ROLL:
        shape = from_edges(_rolled_trace(photo, capture).outline.edges)
        return dataclasses.replace(shape, error_mm=capture.error_mm)
    return true_up(_thinned(capture.outline), [_thinned(h) for h in capture.holes], error_mm=capture.error_mm)


def _rolled_trace(photo: Photo, capture: Capture) -> RolledTrace:
    return rolled(np.asarray(capture.marks), photo.small_girth_mm, photo.large_girth_mm)


def _entry(capture: Capture, flat: dict[str, Any]) -> dict[str, Any]:
    step = max(1, len(capture.outline) // BAND_POINTS)
    band = [[*p, e] for p, e in zip(capture.outline[::step], capture.errors_mm[::step], strict=True)]
    return {
        "error_mm": capture.error_mm,
        "mm_per_px": capture.mm_per_px,
        "out_per_mm_height": capture.out_per_mm_height,
        "sheets": [s.id for s in capture.sheets],
        "trusted": capture.trusted,
        "warnings": [as_json(w) for w in capture.warnings],
        "frame": capture.frame.rows,
        "band": band,
        "marks": capture.marks,
        "papers": [_paper(s) for s in capture.sheets],
        "doubtful": stored_stretches(capture.doubtful),
        "shadows": capture.shadows,
        "flat": flat,
    }


def _paper(sheet: SheetOnTable) -> list[list[float]]:
    """A used sheet's corners in the outline's frame."""
    (own,) = sheets_by_id([sheet.id])
    corners: list[list[float]] = sheet.to_outline.points(own.paper_corners()).round(2).tolist()
    return corners


def _thin(line: Ring) -> list[tuple[float, float]]:
    """Every other millimetre or so of a line, its ends included."""
    return [(round(x, 3), round(y, 3)) for x, y in (*line[:-1:4], line[-1])]


def _thinned(ring: tuple[tuple[float, float], ...]) -> list[tuple[float, float]]:
    """At an even half millimetre and to a micrometre, which is all that is stored."""
    even, _ = even_ring(np.asarray(ring), STORED_PITCH_MM)
    return [(round(float(x), 3), round(float(y), 3)) for x, y in even]


def _flattened(reads: Sequence[ReadPhoto], capture: Capture) -> dict[str, Any]:
    """The photos laid flat under the outline."""
    ring = np.vstack([np.asarray(capture.trusted), np.asarray(capture.outline)])
    return _jpeg(flat_preview([r.pixels for r in reads], capture.views, ring, capture.height_mm, FLAT_SIDE_PX))


def _jpeg(flat: FlatPicture) -> dict[str, Any]:
    """A flat picture kept as a file, and where it lies: left, bottom, width, height in mm."""
    w = flat.window
    half = w.mm_per_px / 2
    width, height = w.columns * w.mm_per_px, w.rows * w.mm_per_px
    out = io.BytesIO()
    Image.fromarray(flat.pixels).save(out, "JPEG", quality=90, subsampling=0)
    return {"file": files.keep(out.getvalue()), "box": [w.left - half, w.top + half - height, width, height]}
