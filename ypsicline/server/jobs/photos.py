"""Taking photos in and measuring them in the background."""

from __future__ import annotations

import dataclasses
import io
import logging
from pathlib import PurePath

import cv2
import numpy as np
from django.db import transaction
from django_tasks import task
from PIL import Image

from ypsicline.core.capture.camera import View
from ypsicline.core.capture.capture import Capture, SeveralPieces, capture_piece
from ypsicline.core.capture.photo import Photo as ReadPhoto
from ypsicline.core.capture.photo import read_photo
from ypsicline.core.errors import Refused
from ypsicline.core.geometry.rings import even_ring
from ypsicline.core.trueing.shape import true_up
from ypsicline.server import files
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Job, Photo

__all__ = ["choose_piece", "measure", "preview_matrix", "resume_unfinished", "take_photo_in"]

log = logging.getLogger("ypsicline.photos")
PREVIEW_SIDE_PX = 2048
MOST_TRIES = 2
STORED_PITCH_MM = 0.5
STATUS = Photo.Status


def take_photo_in(job: Job, name: str, data: bytes) -> Photo:
    """Check and keep a photo, and queue it; raises `Refused` for a file that is none, before anything is kept."""
    read = read_photo(data)
    kept, preview = files.keep(data), files.keep(_preview(read))
    with transaction.atomic():
        photo = Photo.objects.create(
            job=job,
            file=kept,
            preview=preview,
            name=PurePath(name or "photo").name[:120],
            width=read.width,
            height=read.height,
        )
        _queue(photo)
    return photo


def choose_piece(photo: Photo, piece: int) -> Photo:
    """Measure the photo again for one of the pieces that it shows."""
    if photo.status != STATUS.CHOOSE:
        raise Refused("This photo doesn't ask for a piece to be chosen.", "photo")
    if not 0 <= piece < len(photo.result["outlines_px"]):
        raise Refused("There is no such piece in the photo.", "piece")
    with transaction.atomic():
        photo.status, photo.piece, photo.share, photo.stage, photo.tries = STATUS.WAITING, piece, 0, "", 0
        photo.save()
        _queue(photo)
    return photo


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
    """Measure one photo, saying on its row how far it is; what is found becomes the job's shape."""
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
        read = read_photo(files.path_of(photo.file).read_bytes())
        found = capture_piece(read, print_scale=document.sheet_scale, piece=photo.piece, progress=progress)
        _keep_result(photo, found)
    except Refused as e:
        _finish(photo, STATUS.REFUSED, e.sentence)
    except Exception:
        log.exception("measuring photo %s failed", photo_id)
        _finish(
            photo,
            STATUS.FAILED,
            "Measuring this photo failed, which is our fault; send it again or take another.",
        )


def _keep_result(photo: Photo, found: Capture | SeveralPieces) -> None:
    if isinstance(found, SeveralPieces):
        photo.result = dataclasses.asdict(found)
        _finish(
            photo,
            STATUS.CHOOSE,
            f"The photo shows {len(found.outlines_px)} pieces; point at the one you want.",
        )
        return
    shape = true_up(_thinned(found.outline), [_thinned(h) for h in found.holes], error_mm=found.error_mm)
    photo.result = {
        "error_mm": found.error_mm,
        "mm_per_px": found.mm_per_px,
        "sheets": [s.id for s in found.sheets],
        "trusted": found.trusted,
        "warnings": found.warnings,
        "view": dataclasses.asdict(found.view),
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


def _preview(read: ReadPhoto) -> bytes:
    image = Image.fromarray(read.pixels)
    image.thumbnail((PREVIEW_SIDE_PX, PREVIEW_SIDE_PX))
    out = io.BytesIO()
    image.save(out, "JPEG", quality=85)
    return out.getvalue()


def preview_matrix(view: View, trusted: list[list[float]]) -> list[float]:
    """The CSS matrix3d (column by column) that lays a photo over the outline, y down.

    A homography through the ring of sheets: without the lens's distortion, so near enough to
    look at and for nothing else.
    """
    ring = np.asarray(trusted, dtype=float)
    low, high = ring.min(axis=0), ring.max(axis=0)
    grid = np.stack(np.meshgrid(*(np.linspace(a, b, 9) for a, b in zip(low, high, strict=True))), axis=-1).reshape(
        -1, 2
    )
    H, _ = cv2.findHomography(view.to_pixels(grid), grid * [1, -1])
    H = H / H[2, 2]
    m = np.array(
        [
            [H[0, 0], H[0, 1], 0, H[0, 2]],
            [H[1, 0], H[1, 1], 0, H[1, 2]],
            [0, 0, 1, 0],
            [H[2, 0], H[2, 1], 0, H[2, 2]],
        ]
    )
    return [float(v) for v in m.T.ravel()]
