"""A digitising tablet: what it sends, and its points laid true by two marks.

A tablet sends lines of ASCII over a socket, one touch each: `T x y`, x to the right and y up, in
hundredths of a millimetre from its own lower left corner. `C` takes the last touch back. See
docs/formats.md.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array, Point
from ypsicline.core.messages import message

__all__ = ["LONGEST_LINE", "aligned", "read_touch"]

LONGEST_LINE = 64
LARGEST_MM = 5000.0
LEAST_POINTS = 5
SCALE_OFF = 0.05


def read_touch(line: str) -> Point | None:
    """The touch of one line, mm; None where the last one is taken back. Raises `Refusal` for any other line."""
    words = line.split()
    if words == ["C"]:
        return None
    try:
        kind, x, y = words
        if kind != "T" or len(line) > LONGEST_LINE:
            raise ValueError
        point = int(x) / 100, int(y) / 100
    except ValueError as e:
        raise Refusal(message("tablet_sent_no_touch"), "tablet") from e
    if not all(abs(c) <= LARGEST_MM for c in point):
        raise Refusal(message("tablet_touch_far_away"), "tablet")
    return point


def aligned(touches: Sequence[Point], apart_mm: float) -> tuple[Array, float]:
    """The outline (n, 2) touched after two marks that really lie `apart_mm` apart, and the scale that made them so.

    The first mark becomes the origin, the way to the second +x. Raises `Refusal` (reason `tablet`)
    for too few touches, and where tablet and tape differ by over 5 %.
    """
    points = np.asarray(touches, dtype=float).reshape(-1, 2)
    if len(points) < 2 + LEAST_POINTS:
        raise Refusal(message("tablet_touches_too_few", least_points=LEAST_POINTS, count=len(points)), "tablet")
    base = points[1] - points[0]
    length = float(np.hypot(*base))
    if not 20 <= apart_mm <= LARGEST_MM or length < 20:
        raise Refusal(message("tablet_marks_too_near", least_mm=20), "tablet")
    scale = apart_mm / length
    if abs(scale - 1) > SCALE_OFF:
        raise Refusal(message("tablet_out_of_scale", tablet_mm=length, typed_mm=apart_mm), "tablet")
    angle = math.atan2(base[1], base[0])
    c, s = math.cos(angle) * scale, math.sin(angle) * scale
    return (points[2:] - points[0]) @ np.array([[c, -s], [s, c]]), scale
