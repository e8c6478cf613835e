"""Taking photos in and measuring them in the background."""

from __future__ import annotations

import dataclasses
import io
import logging
from collections.abc import Sequence
from pathlib import PurePath
from typing import Any

import numpy as np
from django.db import transaction
from django_tasks import task
from PIL import Image

from ypsicline.core.capture.capture import Capture, Kind, SeveralPieces, capture_piece
from ypsicline.core.capture.mosaic import flat_preview
from ypsicline.core.capture.pen_line import PenSide
from ypsicline.core.capture.photo import Photo as ReadPhoto
from ypsicline.core.capture.photo import read_photo
from ypsicline.core.capture.scene import HIGHEST_MM, MOST_PHOTOS
from ypsicline.core.errors import Refused
from ypsicline.core.geometry.rings import even_ring
from ypsicline.core.trueing.shape import true_up
from ypsicline.server import files
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Job, Photo

__all__ = [
    "Wanted",
    "choose_piece",
    "measure",
    "measure_again",
    "resume_unfinished",
    "take_photos_in",
]

log = logging.getLogger("ypsicline.photos")
PREVIEW_SIDE_PX = 2048
MOST_TRIES = 2
STORED_PITCH_MM = 0.5
STATUS = Photo.Status


@dataclasses.dataclass(frozen=True)
class Wanted:
    """What is looked for in photos, as `capture_piece` takes it."""

    kind: Kind = "piece"
    side: PenSide = "centre"
    height_mm: float = 0.0

    def __post_init__(self) -> None:
        if not 0 <= self.height_mm <= HIGHEST_MM:
            raise Refused(
                f"The outline lies 0 to {HIGHEST_MM:.0f} mm above the sheets; measure from the sheets straight up to it.",
                "height",
            )


def take_photos_in(job: Job, sent: Sequence[tuple[str, bytes]], wanted: Wanted) -> Photo:
    """Check and keep photos that were sent together, and queue them; returns the first.

    Raises `Refused` for a file that is no photo, before anything is kept.
    """
    if not 1 <= len(sent) <= MOST_PHOTOS:
        raise Refused(f"One to {MOST_PHOTOS} photos can be sent together; these are {len(sent)}.", "photo")
    previews, sizes = [], []
    for name, data in sent:
        try:
            read = read_photo(data)
        except Refused as e:
            if len(sent) > 1:
                e.sentence = f"{PurePath(name).name[:60]}: {e.sentence[0].lower()}{e.sentence[1:]}"
            raise
        previews.append(_preview(read))
        sizes.append((read.width, read.height))
    kept = [(files.keep(data), files.keep(preview)) for (_, data), preview in zip(sent, previews, strict=True)]
    with transaction.atomic():
        made: list[Photo] = []
        for (name, _), (file, preview), (width, height) in zip(sent, kept, sizes, strict=True):
            photo = Photo.objects.create(
                job=job, file=file, preview=preview, name=PurePath(name or "photo").name[:120], width=width, height=height,
                leader=made[0] if made else None, **dataclasses.asdict(wanted),
            )  # fmt: skip
            made.append(photo)
        _queue(made[0])
    return made[0]


def measure_again(photo: Photo, wanted: Wanted) -> Photo:
    """Measure photos that are kept once more, looking for something else in them."""
    if photo.leader is not None or photo.status in (STATUS.WAITING, STATUS.WORKING):
        raise Refused("This photo is being measured just now; wait until it is done.", "photo")
    with transaction.atomic():
        photo.kind, photo.side, photo.height_mm = wanted.kind, wanted.side, wanted.height_mm
        _wait(photo, None)
    return photo


def choose_piece(photo: Photo, piece: int) -> Photo:
    """Measure the photo again for one of the pieces that it shows."""
    if photo.status != STATUS.CHOOSE:
        raise Refused("This photo doesn't ask for a piece to be chosen.", "photo")
    if not 0 <= piece < len(photo.result["outlines_px"]):
        raise Refused("There is no such piece in the photo.", "piece")
    with transaction.atomic():
        _wait(photo, piece)
    return photo


def _wait(photo: Photo, piece: int | None) -> None:
    photo.status, photo.piece, photo.share, photo.stage, photo.tries = STATUS.WAITING, piece, 0, "", 0
    photo.save()
    _queue(photo)


def resume_unfinished() -> int:
    """Queue again what a stopped worker left behind; what failed twice is given up with a reason."""
    count = 0
    for photo in Photo.objects.filter(status=STATUS.WORKING):
        with transaction.atomic():
            if photo.tries >= MOST_TRIES:
                photo.status = STATUS.FAILED
                photo.sentence = "Measuring this photo was broken off twice; send it again, or another one."
                photo.save()
            else:
                photo.status = STATUS.WAITING
                photo.save()
                _queue(photo)
                count += 1
    return count


def _queue(photo: Photo) -> None:
    transaction.on_commit(lambda: measure.enqueue(photo.pk))


@task()
def measure(photo_id: int) -> None:
    """Measure a photo with those sent with it, saying on its row how far it is; what is found becomes the job's shape."""
    photo = Photo.objects.select_related("job").filter(pk=photo_id, status=STATUS.WAITING).first()
    if photo is None:
        return
    photo.status, photo.tries = STATUS.WORKING, photo.tries + 1
    photo.save()

    def progress(stage: str, share: float) -> None:
        Photo.objects.filter(pk=photo_id).update(stage=stage, share=share)

    try:
        progress("reading the photo", 0.02)
        document = history.current(photo.job)
        together = [photo, *photo.followers.order_by("pk")]
        reads = [read_photo(files.path_of(p.file).read_bytes()) for p in together]
        found = capture_piece(
            reads,
            print_scale=document.sheet_scale, kind=photo.kind, side=photo.side, piece=photo.piece,
            height_mm=photo.height_mm, progress=progress,
        )  # fmt: skip
        progress("laying the photo under it", 0.95)
        _keep_result(photo, reads, found)
    except Refused as e:
        _finish(photo, STATUS.REFUSED, e.sentence)
    except Exception:
        log.exception("measuring photo %s failed", photo_id)
        _finish(
            photo,
            STATUS.FAILED,
            "Measuring this photo failed, which is our fault; send it again or take another.",
        )


def _keep_result(photo: Photo, reads: Sequence[ReadPhoto], found: Capture | SeveralPieces) -> None:
    if isinstance(found, SeveralPieces):
        photo.result = dataclasses.asdict(found)
        what = "pieces" if photo.kind == Photo.Kind.PIECE else "closed lines"
        _finish(photo, STATUS.CHOOSE, f"The photo shows {len(found.outlines_px)} {what}; point at the one you want.")
        return
    shape = true_up(_thinned(found.outline), [_thinned(h) for h in found.holes], error_mm=found.error_mm)
    photo.result = {
        "error_mm": found.error_mm,
        "mm_per_px": found.mm_per_px,
        "out_per_mm_height": found.out_per_mm_height,
        "sheets": [s.id for s in found.sheets],
        "trusted": found.trusted,
        "warnings": found.warnings,
        "flat": _flattened(reads, found),
    }
    with transaction.atomic():
        what = f"Outline found in {photo.name}"
        history.change(photo.job_id, what, lambda d: dataclasses.replace(d, shape=shape, tape=()), None)
        _finish(photo, STATUS.DONE, "")


def _thinned(ring: tuple[tuple[float, float], ...]) -> list[tuple[float, float]]:
    """At an even half millimetre and to a micrometre, which is all that is stored."""
    even, _ = even_ring(np.asarray(ring), STORED_PITCH_MM)
    return [(round(float(x), 3), round(float(y), 3)) for x, y in even]


def _finish(photo: Photo, status: Photo.Status, sentence: str) -> None:
    photo.status, photo.sentence, photo.share, photo.stage = status, sentence, 1.0, ""
    photo.save()
    photo.followers.update(status=status)


def _preview(read: ReadPhoto) -> bytes:
    image = Image.fromarray(read.pixels)
    image.thumbnail((PREVIEW_SIDE_PX, PREVIEW_SIDE_PX))
    out = io.BytesIO()
    image.save(out, "JPEG", quality=85)
    return out.getvalue()


def _flattened(reads: Sequence[ReadPhoto], found: Capture) -> dict[str, Any]:
    """The photos laid flat under the outline, kept as a picture, and where it lies: left, bottom, width, height in mm."""
    ring = np.vstack([np.asarray(found.trusted), np.asarray(found.outline)])
    flat = flat_preview([r.pixels for r in reads], found.views, ring, found.height_mm, PREVIEW_SIDE_PX)
    w = flat.window
    half = w.mm_per_px / 2
    width, height = w.columns * w.mm_per_px, w.rows * w.mm_per_px
    out = io.BytesIO()
    Image.fromarray(flat.pixels).save(out, "JPEG", quality=85)
    return {"file": files.keep(out.getvalue()), "box": [w.left - half, w.top + half - height, width, height]}
