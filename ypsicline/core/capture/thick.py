"""The top face of something thick, seen in one photo.

In the plane of the top face the camera sees the face itself and, on the near side of a tilted
view, the wall below its rim. What is seen there ends at the wall's foot, which stands on the
table straight below the rim: drawn out from the camera by the height, the foot comes to lie
under the rim again. So the face is what both outlines have in common. Whether a wall is seen at
all (and not a face that ends at what is seen) is told by its shade.
"""

from __future__ import annotations

from dataclasses import replace

import cv2
import numpy as np
import scipy
import shapely

from ypsicline.core.capture.contour import FoundOutline
from ypsicline.core.capture.rectify import FlatPicture
from ypsicline.core.geometry.edges import Array
from ypsicline.core.messages import Message, message

__all__ = ["top_face"]

LEAST_WALL_MM = 1.0
# a wall is that much darker or lighter than its face, in Lab: a face alone may fall off by half of that towards its rim
LEAST_DIFFERENCE = 10.0
RIM_STEP_MM = 0.2
# a wall that was left out leaves so much of its width in doubt, at most so many mm: its foot need not stand straight below
WALL_SHARE, MOST_WALL_MM = 0.4, 0.8


def top_face(
    outline: FoundOutline, picture: FlatPicture, eye_mm: Array, height_mm: float
) -> tuple[FoundOutline, list[Message], float]:
    """The face's outline out of `outline`, that of all that is seen, both at `height_mm`; with warnings and
    what they leave in doubt, mm.

    `picture` is laid flat at that height, `eye_mm` (3,) is where the camera was.
    """
    grow = eye_mm[2] / (eye_mm[2] - height_mm)
    drawn_out = eye_mm[:2] + (outline.outline - eye_mm[:2]) * grow
    outer, under = shapely.Polygon(outline.outline), shapely.Polygon(drawn_out)
    if not (outer.is_valid and under.is_valid):
        return outline, [], 0.0
    face = shapely.intersection(outer, under)
    wall = shapely.difference(outer, face)
    if face.geom_type != "Polygon" or shapely.difference(wall, face.buffer(LEAST_WALL_MM)).is_empty:
        return outline, [], 0.0
    strip = shapely.difference(wall.buffer(-0.4), face.buffer(0.6))
    beside = shapely.intersection(face, shapely.difference(wall.buffer(6.0), wall.buffer(1.0)))
    if strip.is_empty or beside.is_empty:
        return outline, [], 0.0
    difference = float(np.linalg.norm(_colour(picture, strip) - _colour(picture, beside)))
    widest = _widest(wall, face)
    if difference < LEAST_DIFFERENCE:
        warning = message("wall_may_be_seen", wide_mm=widest)
        return outline, [warning], widest
    warning = message("wall_left_out", wide_mm=widest)
    ring = np.asarray(face.exterior.segmentize(0.5).coords)[:-1]
    return (
        replace(outline, outline=ring if shapely.LinearRing(ring).is_ccw else ring[::-1]),
        [warning],
        min(WALL_SHARE * widest, MOST_WALL_MM),
    )


def _widest(wall: shapely.Geometry, face: shapely.Polygon) -> float:
    """How far a wall's outer rim is from the face, mm."""
    rim = shapely.get_coordinates(wall)
    return float(scipy.spatial.cKDTree(shapely.get_coordinates(face.segmentize(RIM_STEP_MM))).query(rim)[0].max())


def _colour(picture: FlatPicture, where: shapely.Geometry) -> Array:
    """The median colour in CIE Lab over an area of the table."""
    window = picture.window
    mask = np.zeros((window.rows, window.columns), dtype=np.uint8)
    for part in shapely.get_parts(where):
        if part.geom_type == "Polygon":
            rings = [window.to_px(np.asarray(r.coords)) for r in (part.exterior, *part.interiors)]
            cv2.fillPoly(mask, [np.rint(r).astype(np.int32) for r in rings], 1)
    pixels = picture.pixels[mask > 0]
    if not len(pixels):
        return np.zeros(3)
    lab = cv2.cvtColor(np.median(pixels, axis=0).astype(np.float32)[None, None] / 255, cv2.COLOR_RGB2LAB)
    return np.asarray(lab[0, 0], dtype=float)
