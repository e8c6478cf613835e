"""Photos as they come in: each checked, freed of what is private, and kept with a preview; one at a time in a workshop."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import PurePath

import cv2
from django.conf import settings
from PIL import Image

from ypsicline.core.capture.photo import Photo, read_photo
from ypsicline.core.capture.private_data import without_private_data
from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message
from ypsicline.server import files
from ypsicline.server.locks import locked

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


def store_photos(
    workshop: int, uploads: Sequence[tuple[str, bytes]], *, with_preview: bool = True
) -> list[StoredPhoto]:
    """Keep photos, given as names and bytes, that a workshop sent together.

    Raises `Refusal` for one that can't be read, which it names where there are several; then none is kept.
    """
    photos = []
    # each takes much memory while it is decoded
    with locked(settings.FILES.parent, f"decoding-{workshop}"):
        for name, data in uploads:
            try:
                photo = read_photo(data)
            except Refusal as e:
                if len(uploads) > 1:
                    e.message = message("in_file", file=_safe_name(name)[:60], refusal=e.message)
                raise
            about = (photo.width, photo.height, photo.camera, photo.focal_px)
            photos.append(
                (_safe_name(name), without_private_data(data), _preview_of(photo) if with_preview else b"", about)
            )
            del photo
    return [
        StoredPhoto(name, files.keep(data), files.keep(view) if view else "", *about)
        for name, data, view, about in photos
    ]


def _safe_name(name: str) -> str:
    return "".join(c for c in PurePath(name).name if c.isprintable())[:LONGEST_NAME] or "photo"


def _preview_of(photo: Photo) -> bytes:
    shrink = min(1.0, PREVIEW_SIDE_PX / max(photo.width, photo.height))
    small = cv2.resize(photo.pixels, None, fx=shrink, fy=shrink, interpolation=cv2.INTER_AREA)
    out = io.BytesIO()
    Image.fromarray(small).save(out, "JPEG", quality=85)
    return out.getvalue()
