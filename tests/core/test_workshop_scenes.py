"""Scenes as they are met on a maker's table: each is measured without help, and its truth lies within what is stated."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
import pytest
import shapely

from bench.compare import signed_errors
from ypsicline.core.capture.capture import Capture, capture_piece
from ypsicline.core.capture.photo import read_photo
from ypsicline.standins.camera import take_photo
from ypsicline.standins.workshop import workshop_scenes

SCENES = workshop_scenes()
# how far off a scene may be, mm, where it costs more than a ring of flat sheets on a plain table
HARDER = {
    "one sheet on boards": 2.0,
    "two sheets on checked cloth": 1.0,
    "a lifted corner": 1.0,
    "a thick slab in the sun": 1.0,
}


@lru_cache(maxsize=4)
def measured(name: str) -> Capture:
    s = SCENES[name]
    found = capture_piece(read_photo(take_photo(s.scene, s.shot)), height_mm=s.height_mm)
    assert isinstance(found, Capture)
    return found


@pytest.mark.parametrize("name", SCENES)
def test_the_truth_lies_within_what_is_stated(name: str) -> None:
    found = measured(name)
    errors = np.abs(signed_errors(np.array(found.outline), SCENES[name].truth))
    p95 = float(np.percentile(errors, 95))
    assert p95 <= found.error_mm, f"{p95:.2f} stating {found.error_mm:.2f}: {found.warnings}"
    assert p95 < HARDER.get(name, 0.8)
    assert not found.holes


def test_at_least_twelve_scenes_are_held() -> None:
    assert len(SCENES) >= 12


def test_a_lifted_corner_makes_the_error_larger() -> None:
    flat, lifted = measured("A4 and Letter"), measured("a lifted corner")
    assert lifted.error_mm > flat.error_mm


def test_sheets_of_two_papers_are_used_together() -> None:
    assert [s.id for s in measured("A4 and Letter").sheets] == ["a4-01", "a4-02", "letter-01", "letter-02"]


def test_a_hard_shadow_is_told_as_one() -> None:
    found = measured("a hard shadow")
    body = shapely.Polygon(found.outline).buffer(-3)
    shadows = shapely.union_all([shapely.make_valid(shapely.Polygon(r)) for r in found.shadows if len(r) > 3])
    assert not shadows.is_empty
    assert shapely.intersection(shadows, body).area < 0.02 * body.area
