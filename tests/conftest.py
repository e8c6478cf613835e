"""Photographs for all tests, taken once a session by the stand-in camera at 3 megapixels."""

from __future__ import annotations

import os
from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache

import numpy as np
import pytest
from hypothesis import HealthCheck, settings

from demo.pieces import circle
from tests.remembered import take_photo
from ypsicline.core.capture.photo import read_photo
from ypsicline.core.capture.scene import Scene as TableRead
from ypsicline.core.capture.scene import read_scene
from ypsicline.core.capture.sheets import make_sheets
from ypsicline.standins.camera import Piece, Scene, Shot, ring_of_sheets

os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")
settings.register_profile("ypsicline", deadline=None, derandomize=True, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("ypsicline")

TRAY = np.array(
    [[-200, -150], [-30, -150], [-30, -100], [30, -100], [30, -150], [200, -150], [200, 60], [120, 150], [-200, 150]],
    float,
)
HOLE = circle((-60, 40), 22)
SMALL = Shot(
    size=(2016, 1512), focal_px=1525, distance_mm=900, tilt_deg=8, tilt_towards_deg=120, centre_off_px=(4, -3), seed=5
)
DARK, BIRCH = (58, 80, 104), (206, 190, 160)


def flat_scene(*pieces: Piece, sheets: int = 4, gap: float = 40, bow_mm: float = 0) -> Scene:
    """A table with the pieces in the middle and sheets round 400 × 300 mm."""
    return Scene(ring_of_sheets(make_sheets("a4", sheets), 400, 300, gap=gap, seed=2, bow_mm=bow_mm), pieces, BIRCH)


@lru_cache(maxsize=32)
def _tray_photo(**changes: object) -> bytes:
    return take_photo(flat_scene(Piece(TRAY, (HOLE,), DARK)), replace(SMALL, **changes))  # type: ignore[arg-type]


@pytest.fixture(scope="session")
def tray_photo() -> Callable[..., bytes]:
    """A photo of the tray, with changes to the shot."""
    return _tray_photo


@pytest.fixture(scope="session")
def two_pieces_photo() -> bytes:
    left = Piece(np.array([[-190, -100], [-30, -100], [-30, 100], [-190, 100]], float), (), DARK)
    right = Piece(np.array([[40, -80], [180, -80], [180, 80], [40, 80]], float), (), DARK)
    return take_photo(flat_scene(left, right), SMALL)


@pytest.fixture(scope="session")
def tray_read(tray_photo: Callable[..., bytes]) -> TableRead:
    """The photo of the tray, its sheets measured and the cameras placed: what is looked for in it needn't do that anew."""
    return read_scene([read_photo(tray_photo())])


@pytest.fixture(scope="session")
def two_pieces_read(two_pieces_photo: bytes) -> TableRead:
    return read_scene([read_photo(two_pieces_photo)])
