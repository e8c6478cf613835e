"""Photos kept with a job as they are, with numbered parts: of the dismantling, of how it went on."""

from __future__ import annotations

from collections.abc import Sequence

from ypsicline.core.errors import Refusal
from ypsicline.core.job import check_text
from ypsicline.core.messages import message
from ypsicline.server.jobs.models import Job, KeptPhoto
from ypsicline.server.photos.intake import store_photos

__all__ = ["MOST_KEPT", "keep_photos", "mark_parts"]

MOST_KEPT = 60
MOST_PARTS = 99


def keep_photos(job: Job, uploads: Sequence[tuple[str, bytes]]) -> list[KeptPhoto]:
    """Check photos and keep them with the job; none is kept where one can't be read."""
    if job.kept_photos.count() + len(uploads) > MOST_KEPT:
        raise Refusal(message("too_many_photos_in_job", most_kept=MOST_KEPT), "photo")
    return [
        KeptPhoto.objects.create(job=job, file=p.file, preview=p.preview, name=p.name, width=p.width, height=p.height)
        for p in store_photos(job.workshop_id, uploads)
    ]


def mark_parts(photo: KeptPhoto, note: str, parts: Sequence[tuple[float, float, str]]) -> KeptPhoto:
    """A note, and places on the photo (shares of its width and height from the upper left) with what each is."""
    check_text(message("text_note"), note, most=400)
    if len(parts) > MOST_PARTS:
        raise Refusal(message("too_many_parts_in_photo", most_parts=MOST_PARTS), "photo")
    for x, y, text in parts:
        check_text(message("text_part_name"), text)
        if not (0 <= x <= 1 and 0 <= y <= 1):
            raise Refusal(message("part_outside_photo"), "photo")
    photo.note, photo.parts = note, [list(p) for p in parts]
    photo.save()
    return photo
