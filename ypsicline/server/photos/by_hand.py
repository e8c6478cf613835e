"""Mending an outline by hand on the picture that was kept of its table."""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import suppress
from functools import lru_cache
from threading import Lock
from typing import Any

import numpy as np
from django.db import transaction

from ypsicline.core.capture.photo import read_photo
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.capture.stretches import Stretch, keeps_within, stretches
from ypsicline.core.capture.strokes import Brush, paint_over
from ypsicline.core.capture.walking import Walk, walk_edge
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array, Point
from ypsicline.core.geometry.rings import even_ring
from ypsicline.core.job import PhotoOf
from ypsicline.core.messages import message
from ypsicline.core.steps import Mend
from ypsicline.core.trueing.renewing import changed_ways
from ypsicline.core.trueing.shape import Shape
from ypsicline.server import files
from ypsicline.server.jobs.models import Photo
from ypsicline.server.photos.photos import BAND_POINTS, finding, put_finding, stored_stretches

__all__ = [
    "decode_ahead",
    "error_of",
    "flat_picture",
    "mend_by_strokes",
    "rounded",
    "store_walk",
    "unseen",
    "walk_on",
]

SAME_HOLES_MM = 0.5
_PITCH_MM = 0.5
_DECODING = Lock()


def flat_picture(entry: dict[str, Any]) -> FlatPicture:
    """The flat picture of a finding, in its outline's frame."""
    left, bottom, width, height = entry["flat"]["box"]
    with _DECODING:
        return _decoded(entry["flat"]["file"], left, bottom, width, height)


def decode_ahead(entry: dict[str, Any]) -> None:
    """The flat picture of a finding read for whoever asks for it next; not where its file is gone by then."""
    with suppress(FileNotFoundError):
        flat_picture(entry)


@lru_cache(maxsize=2)
def _decoded(file: str, left: float, bottom: float, width: float, height: float) -> FlatPicture:
    pixels = read_photo(files.path_of(file).read_bytes()).pixels
    rows, columns = pixels.shape[:2]
    each = width / columns
    window = Window(left + each / 2, bottom + height - each / 2, columns, rows, each)
    return FlatPicture(window, pixels, np.ones((rows, columns), dtype=bool))


def walk_on(entry: dict[str, Any], points: Sequence[Point], *, is_closed: bool) -> Walk:
    """The way along the strongest edge through points on a finding's picture, no edge of its sheets. Raises what `walk_edge`
    raises."""
    papers = [np.asarray(p) for p in entry.get("papers", ())]
    return walk_edge(flat_picture(entry), points, papers, is_closed=is_closed)


def unseen(walk: Walk, *, is_closed: bool) -> tuple[Stretch, ...]:
    """The stretches of a walk along which no edge is seen."""
    return stretches(rounded(walk.way), walk.doubts, is_closed=is_closed)


def store_walk(place: PhotoOf, walk: Walk, *, is_closed: bool) -> PhotoOf:
    """The finding that a walk on another leaves: with what is in doubt of it too or, after one all the way round, with how
    sure each place of that is. The same one where there is no more to be known. Raises `Refusal` while the photo is being
    measured, which stores findings too."""
    doubtful = stored_stretches(unseen(walk, is_closed=is_closed))
    if not is_closed and not doubtful:
        return place
    with transaction.atomic():
        photo = Photo.objects.select_for_update().get(pk=place.photo)
        if photo.is_under_way:
            raise Refusal(message("photo_being_measured"), "photo")
        entry = finding(photo, place.outline)
        if is_closed:
            errors = _errors(walk, entry)
            step = max(1, len(errors) // BAND_POINTS)
            band = [(x, y, round(float(e), 3)) for (x, y), e in zip(rounded(walk.way), errors, strict=True)][::step]
            after = {"error_mm": error_of(walk, entry), "band": band, "doubtful": doubtful}
        else:
            after = {"doubtful": [*entry.get("doubtful", ()), *doubtful]}
        left = put_finding(photo, {**entry, **after})
        photo.save(update_fields=["result"])
    return left


def _errors(walk: Walk, entry: dict[str, Any]) -> Array:
    """How far off each point of a walk on a finding's picture may be, mm (n,)."""
    return np.hypot(entry["error_mm"], walk.doubts)


def error_of(walk: Walk, entry: dict[str, Any]) -> float:
    """What 95 % of the true outline keeps within of a walk all round on a finding's picture, mm."""
    return round(keeps_within(_errors(walk, entry), walk.way, walk.doubts), 3)


def mend_by_strokes(shape: Shape, picture: FlatPicture, strokes: Sequence[Brush]) -> Mend:
    """The step that takes strokes into account; raises `Refusal` where they change nothing."""
    rings = [np.asarray(r.points) for r in (shape.outline, *shape.holes)]
    outline, holes = paint_over(picture, rings, strokes)
    ways = changed_ways(shape.outline.points, _points(outline))
    hole_points = tuple(_points(h) for h in holes)
    same = len(hole_points) == len(shape.holes) and all(
        any(not changed_ways(h.points, new, near_mm=SAME_HOLES_MM) for h in shape.holes) for new in hole_points
    )
    if not ways and same:
        raise Refusal(message("strokes_change_nothing"), "stroke")
    return Mend(ways, None if same else hole_points)


def rounded(line: Array) -> tuple[Point, ...]:
    """A line (n, 2) to a micrometre, which is all that is stored."""
    return tuple((round(float(x), 3), round(float(y), 3)) for x, y in line)


def _points(ring: Array) -> tuple[Point, ...]:
    return rounded(even_ring(ring, _PITCH_MM)[0])
