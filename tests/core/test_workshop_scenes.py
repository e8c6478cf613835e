"""Scenes as they are met on a maker's table: each is measured without help, and its truth lies within what is stated."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

import numpy as np
import pytest

from bench.compare import signed_errors
from tests.remembered import take_photo
from ypsicline.core.capture.capture import Capture, capture_piece
from ypsicline.core.capture.photo import read_photo
from ypsicline.core.errors import Refusal
from ypsicline.standins.patterns import Tiles
from ypsicline.standins.workshop import workshop_scenes

SCENES = workshop_scenes()
# how far off a scene may be, mm, where it costs more than a ring of flat sheets on a plain table
HARDER = {
    "one sheet on boards": 2.0,
    "two sheets on checked cloth": 1.0,
    "dots on tiles": 1.6,
    "stripes on boards": 2.0,
    "a lifted corner": 1.0,
    "a thick slab in the sun": 1.0,
}


@lru_cache(maxsize=4)
def measured(name: str) -> Capture:
    s = SCENES[name]
    photo = read_photo(take_photo(s.scene, s.shot))
    result = capture_piece(photo, height_mm=s.height_mm)
    assert isinstance(result, Capture)
    return result


@pytest.mark.parametrize("name", sorted(SCENES))
def test_the_truth_lies_within_what_is_stated(name: str) -> None:
    result = measured(name)
    errors = np.abs(signed_errors(np.array(result.outline), SCENES[name].truth))
    p95 = float(np.percentile(errors, 95))
    assert p95 <= result.error_mm, f"{p95:.2f} stating {result.error_mm:.2f}: {result.warnings}"
    assert p95 < HARDER.get(name, 0.8)


@pytest.mark.parametrize("pattern", [None, Tiles((60, 72, 96))], ids=["plain", "tiles"])
def test_stripes_on_a_table_of_their_own_shade_are_asked_about(pattern: Tiles | None) -> None:
    s = SCENES["stripes on boards"]
    shade = s.scene.pieces[0].colour
    photo = read_photo(take_photo(replace(s.scene, table=shade, pattern=pattern), s.shot))
    with pytest.raises(Refusal) as asked:
        capture_piece(photo, height_mm=s.height_mm)
    assert asked.value.reason == "which_piece"


def test_at_least_twelve_scenes_are_held() -> None:
    assert len(SCENES) >= 12


def test_sheets_of_two_papers_are_used_together() -> None:
    assert [s.id for s in measured("A4 and Letter").sheets] == ["a4-01", "a4-02", "letter-01", "letter-02"]
