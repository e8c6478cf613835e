"""Photos as they come in: each checked, freed of what is private, and kept with a preview; one at a time in a workshop."""

from __future__ import annotations

import fcntl
import io
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import PurePath

from django.conf import settings
from PIL import Image

from ypsicline.core.capture.photo import Photo, read_photo
from ypsicline.core.capture.private_data import without_private_data
from ypsicline.core.errors import Refused
from ypsicline.server import files

__all__ = ["StoredPhoto", "store_photos"]

PREVIEW_SIDE_PX = 2048
LONGEST_NAME = 120


@dataclass(frozen=True)
class StoredPhoto:
    """A photo that is kept: `file` and `preview` as `files.keep` names them, its size in pixels as it is measured, and
    what it says of its camera."""

    name: str
    file: str
    preview: str
    width: int
    height: int
    camera: str
    focal_px: float | None


def store_photos(workshop: int, sent: Sequence[tuple[str, bytes]], *, with_preview: bool = True) -> list[StoredPhoto]:
    """Keep photos, given as names and bytes, that a workshop sent together.

    Raises `Refused` for one that can't be read, which it names where there are several; then none is kept.
    """
    checked = []
    with _one_at_a_time(workshop):
        for name, data in sent:
            try:
                read = read_photo(data)
            except Refused as e:
                if len(sent) > 1:
                    e.sentence = f"{_named(name)[:60]}: {e.sentence[0].lower()}{e.sentence[1:]}"
                raise
            about = (read.width, read.height, read.camera, read.focal_px)
            checked.append(
                (_named(name), without_private_data(data), _preview_of(read) if with_preview else b"", about)
            )
            del read
    return [
        StoredPhoto(name, files.keep(data), files.keep(view) if view else "", *about)
        for name, data, view, about in checked
    ]


@contextmanager
def _one_at_a_time(workshop: int) -> Iterator[None]:
    """Let one photo of a workshop be decoded at a time, whichever process or thread does it: each takes much memory."""
    folder = settings.FILES.parent / "locks"
    folder.mkdir(parents=True, exist_ok=True)
    with (folder / f"decoding-{workshop}").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield


def _named(name: str) -> str:
    return "".join(c for c in PurePath(name).name if c.isprintable())[:LONGEST_NAME] or "photo"


def _preview_of(read: Photo) -> bytes:
    image = Image.fromarray(read.pixels)
    image.thumbnail((PREVIEW_SIDE_PX, PREVIEW_SIDE_PX))
    out = io.BytesIO()
    image.save(out, "JPEG", quality=85)
    return out.getvalue()
