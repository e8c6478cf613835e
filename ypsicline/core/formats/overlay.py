"""The photograph with what was found drawn on it."""

from __future__ import annotations

import cv2
import numpy as np

from ypsicline.core.capture.capture import Capture
from ypsicline.core.capture.photo import Photo

__all__ = ["overlay_png"]

_PIECE, _HOLE, _TRUSTED = (255, 255, 255), (255, 220, 120), (180, 220, 255)


def overlay_png(photo: Photo, capture: Capture) -> bytes:
    """A PNG of the photo with outline, holes and the ring of sheets."""
    picture = photo.pixels.copy()
    wide = max(2, photo.width // 1000)
    for ring, colour in (
        (capture.trusted, _TRUSTED),
        (capture.outline, _PIECE),
        *((h, _HOLE) for h in capture.holes),
    ):
        lifted = 0.0 if ring is capture.trusted else capture.height_mm
        at = capture.view.to_pixels(np.column_stack([np.asarray(ring, dtype=float), np.full(len(ring), lifted)]))
        cv2.polylines(picture, [np.rint(at * 16).astype(np.int32)], True, colour, wide, cv2.LINE_AA, shift=4)
    done, data = cv2.imencode(".png", picture[..., ::-1])
    if not done:
        raise RuntimeError("the picture could not be encoded")
    return data.tobytes()
