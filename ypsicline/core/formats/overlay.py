"""The photograph with what was found drawn on it."""

from __future__ import annotations

import cv2
import numpy as np

from ypsicline.core.capture.capture import Capture
from ypsicline.core.capture.photo import Photo
from ypsicline.core.geometry.edges import Point

__all__ = ["overlay_png"]

_PIECE, _HOLE, _TRUSTED, _SHADOW, _DOUBT = (
    (255, 255, 255),
    (255, 220, 120),
    (180, 220, 255),
    (90, 110, 105),
    (255, 110, 80),
)


def overlay_png(photo: Photo, capture: Capture) -> bytes:
    """A PNG of the photo with outline, holes, the ring of sheets, what was taken for shadow, and where the edge
    isn't sure. Raises `RuntimeError` where it can't be encoded."""
    picture = photo.pixels.copy()
    wide = max(2, photo.width // 1000)

    def drawn(
        line: tuple[Point, ...], colour: tuple[int, int, int], height: float, times: int = 1, is_closed: bool = True
    ) -> None:
        at = capture.view.to_pixels(np.column_stack([np.asarray(line, dtype=float), np.full(len(line), height)]))
        whole = [np.rint(at * 16).astype(np.int32)]
        cv2.polylines(picture, whole, is_closed, colour, times * wide, cv2.LINE_AA, shift=4)

    drawn(capture.trusted, _TRUSTED, 0.0)
    for shadow in capture.shadows:
        drawn(shadow, _SHADOW, capture.height_mm)
    for stretch in capture.doubtful:
        drawn(stretch.line, _DOUBT, capture.height_mm, times=4, is_closed=False)
    for ring, colour in ((capture.outline, _PIECE), *((h, _HOLE) for h in capture.holes)):
        drawn(ring, colour, capture.height_mm)
    _, data = cv2.imencode(".png", picture[..., ::-1])
    if not _:
        raise RuntimeError("the picture could not be encoded")
    return data.tobytes()
