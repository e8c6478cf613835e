"""Lines that run up to a piece's rim, joints of tiles beside it or stripes printed on it: the rim goes straight past them."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from ypsicline.core.capture.contour import find_outline
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.geometry.edges import Array

RADIUS, MM, GAMMA, TILE, JOINT = 40.0, 0.25, 2.2, 24.0, 1.8
MAGENTA, WHITE, BLUE, GREY = (190, 60, 125), (235, 228, 216), (128, 140, 156), (104, 100, 92)


def tiles(x: Array, y: Array, turn_deg: float) -> Array:
    """White and blue tiles with grey joints, laid askew: the light of each place (rows, columns, 3)."""
    c, s = np.cos(np.radians(turn_deg)), np.sin(np.radians(turn_deg))
    u, v = (c * x + s * y) / TILE, (c * y - s * x) / TILE
    is_white = (np.floor(u) + np.floor(v)) % 2 == 0
    is_joint = np.minimum(np.abs(u - np.rint(u)), np.abs(v - np.rint(v))) * TILE < JOINT / 2
    colours = np.where(is_joint[..., None], GREY, np.where(is_white[..., None], WHITE, BLUE))
    return (colours / 255) ** GAMMA


def off_mm(*, inside: Array, outside: Array, off: Array) -> Array:
    """How far outside a disc's rim each point of its measured outline lies; light blurred as by a lens, and stored."""
    cover = np.clip(0.5 - off / MM, 0, 1)[..., None]
    seen = cv2.GaussianBlur(cover * inside + (1 - cover) * outside, (0, 0), 1.2)
    pixels = np.rint(255 * seen ** (1 / GAMMA)).astype(np.uint8)
    picture = FlatPicture(Window(-60.0, 60.0, *off.shape, MM), pixels, np.ones(off.shape, bool))
    return np.hypot(*find_outline(picture, off < 0).outline.T) - RADIUS


@pytest.mark.parametrize("turn_deg", [0.0, 20.0, 45.0, 70.0])
@pytest.mark.parametrize("tiled", ["table", "piece"])
def test_a_rim_goes_straight_past_the_joints_of_tiles(turn_deg: float, tiled: str) -> None:
    y, x = np.mgrid[60:-60.001:-MM, -60:60.001:MM]
    off = np.hypot(x, y) - RADIUS
    sides = [tiles(x, y, turn_deg), np.broadcast_to((np.array(MAGENTA) / 255) ** GAMMA, (*x.shape, 3))]
    outside, inside = sides if tiled == "table" else sides[::-1]
    astray = np.abs(off_mm(inside=inside, outside=outside, off=off))
    assert np.percentile(astray, 95) < 0.3
    assert astray.max() < 0.4
