"""Mending an outline by hand on the picture that was kept of its table."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from threading import Lock
from typing import Any

import numpy as np

from ypsicline.core.capture.photo import read_photo
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.capture.strokes import Brush, paint_over
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array, Point
from ypsicline.core.geometry.rings import even_ring
from ypsicline.core.messages import message
from ypsicline.core.steps import Mend
from ypsicline.core.trueing.renewing import changed_ways
from ypsicline.core.trueing.shape import Shape
from ypsicline.server import files

__all__ = ["flat_picture", "mend_by_strokes"]

SAME_HOLES_MM = 0.5
_PITCH_MM = 0.5
_DECODING = Lock()


def flat_picture(entry: dict[str, Any]) -> FlatPicture:
    """The flat picture of a finding, in its outline's frame."""
    left, bottom, width, height = entry["flat"]["box"]
    with _DECODING:
        return _decoded(entry["flat"]["file"], left, bottom, width, height)


@lru_cache(maxsize=2)
def _decoded(file: str, left: float, bottom: float, width: float, height: float) -> FlatPicture:
    pixels = read_photo(files.path_of(file).read_bytes()).pixels
    rows, columns = pixels.shape[:2]
    each = width / columns
    window = Window(left + each / 2, bottom + height - each / 2, columns, rows, each)
    return FlatPicture(window, pixels, np.ones((rows, columns), dtype=bool))


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


def _points(ring: Array) -> tuple[Point, ...]:
    return tuple((round(float(x), 3), round(float(y), 3)) for x, y in even_ring(ring, _PITCH_MM)[0])
