"""A long piece that was read in part goes on where nothing ends it; the truth is what was painted."""

from __future__ import annotations

import numpy as np
import pytest

from ypsicline.core.capture.continuation import with_continuation
from ypsicline.core.capture.looks import Look
from ypsicline.core.capture.rectify import FlatPicture, Window

SIDE = 200
WINDOW = Window(0.0, 200.0, SIDE, SIDE, 1.0)
ALL = np.ones((SIDE, SIDE), bool)
ROWS, COLUMNS = np.mgrid[:SIDE, :SIDE]
GREEN, SLATE, CREAM = (40, 110, 80), (120, 125, 135), (220, 212, 190)
BAR = (ROWS > 85) & (ROWS < 115) & (COLUMNS > 20) & (COLUMNS < 180)
READ = BAR & (COLUMNS < 100)


def look(pixels: np.ndarray) -> Look:
    noise = np.random.default_rng(2).normal(0, 3, (SIDE, SIDE, 3))
    share = READ.astype(np.float32)
    picture = FlatPicture(WINDOW, np.clip(pixels + noise, 0, 255).astype(np.uint8), ALL)
    return Look(picture, share, np.zeros_like(share), (share,))


def tiles(size: int, one: tuple[int, int, int], other: tuple[int, int, int]) -> np.ndarray:
    return np.where((((ROWS // size) + (COLUMNS // size)) % 2 == 0)[..., None], one, other).astype(float)


@pytest.mark.parametrize("light", [0.0, 0.12])
def test_a_bar_of_which_half_was_read_goes_on_to_its_end(light: float) -> None:
    pixels = np.where(BAR[..., None], GREEN, tiles(25, SLATE, CREAM)) * (1 + light * (COLUMNS / SIDE))[..., None]
    whole = with_continuation(look(pixels), ALL).piece > 0.5
    assert (whole & BAR).sum() > 0.95 * BAR.sum()
    assert not (whole & ~BAR).any()


def test_a_seam_ends_it() -> None:
    seam = BAR & (np.abs(COLUMNS - 100) <= 1)
    pixels = np.where(seam[..., None], (15, 30, 20), np.where(BAR[..., None], GREEN, tiles(25, SLATE, CREAM)))
    before = look(pixels)
    assert with_continuation(before, ALL) is before


def test_a_tile_of_the_pieces_colour_is_table() -> None:
    before = look(np.where(READ[..., None], GREEN, tiles(40, GREEN, CREAM)))
    assert with_continuation(before, ALL) is before


def test_a_print_is_not_followed() -> None:
    spots = (np.sin(COLUMNS / 3) * np.sin(ROWS / 3) > 0)[..., None]
    before = look(np.where(BAR[..., None], np.where(spots, GREEN, (200, 80, 70)), tiles(25, SLATE, CREAM)))
    assert with_continuation(before, ALL) is before
