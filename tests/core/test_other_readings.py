"""What an outline is held against: bites out of a rim, and stripes that part a piece."""

from __future__ import annotations

import numpy as np
import pytest

from ypsicline.core.capture.looks import Look
from ypsicline.core.capture.other_readings import other_readings
from ypsicline.core.capture.rectify import FlatPicture, Window

SIDE = 200
WINDOW = Window(0.0, 200.0, SIDE, SIDE, 1.0)
BIRCH, DARK = (205, 180, 140), (50, 60, 70)
ROWS, COLUMNS = np.mgrid[:SIDE, :SIDE]
NOWHERE = np.zeros((SIDE, SIDE), bool)


def look(share: np.ndarray, table_coloured: np.ndarray) -> Look:
    pixels = np.where(table_coloured[..., None], BIRCH, DARK).astype(np.uint8)
    piece = share.astype(np.float32)
    return Look(FlatPicture(WINDOW, pixels, np.ones(share.shape, bool)), piece, np.zeros_like(piece), (piece,))


def against_colours(fine: Look, afar: Look) -> list[np.ndarray]:
    return [r.mask for r in other_readings(fine, fine, fine, afar, NOWHERE) if r.against_colours]


def dots(*middles: tuple[int, int]) -> np.ndarray:
    return np.any([np.hypot(COLUMNS - x, ROWS - y) < 6 for x, y in middles], axis=0)


def square() -> np.ndarray:
    return (COLUMNS >= 50) & (COLUMNS < 150) & (ROWS >= 50) & (ROWS < 150)


def test_bites_as_large_as_dots_in_the_midst_may_be_dots_too() -> None:
    midst, rim = dots((80, 80), (100, 120), (120, 90)), dots((50, 100), (150, 70))
    bitten = square() & ~rim
    fine = look(bitten, ~square() | midst | rim)
    (whole,) = against_colours(fine, fine)
    assert whole[100, 54]
    assert whole[70, 145]
    assert not whole[100, 45]


def test_bites_out_of_a_plain_piece_are_bites() -> None:
    rim = dots((50, 100), (150, 70))
    fine = look(square() & ~rim, ~square() | rim)
    assert against_colours(fine, fine) == []


@pytest.mark.parametrize(("second", "filled"), [((120, 160, 60), True), (DARK, False)], ids=["printed", "plain"])
def test_bites_beside_holes_may_be_its_print_where_a_piece_has_many_colours(
    second: tuple[int, int, int], filled: bool
) -> None:
    bite = dots((100, 50))
    share = (square() & ~dots((75, 80), (120, 90), (90, 120)) & ~bite).astype(np.float32)
    pixels = np.where((ROWS // 10 % 2 == 0)[..., None], np.uint8(DARK), np.uint8(second))
    pixels[share == 0] = BIRCH
    fine = Look(FlatPicture(WINDOW, pixels, np.ones((SIDE, SIDE), bool)), share, np.zeros_like(share), (share,))
    readings = against_colours(fine, fine)
    assert any(np.mean(r[bite & square()]) > 0.7 for r in readings) == filled


@pytest.mark.parametrize("wide", [4, 12])
def test_stripes_that_were_one_piece_from_afar_may_be_one(wide: int) -> None:
    gap = square() & (np.abs(COLUMNS - 100) <= wide / 2)
    fine = look(square() & ~gap, ~square() | gap)
    (joined,) = against_colours(fine, look(0.6 * square(), ~square() | gap))
    assert joined[100, 100]


@pytest.mark.parametrize("wide", [4, 12])
def test_two_pieces_that_were_two_from_afar_stay_two(wide: int) -> None:
    gap = square() & (np.abs(COLUMNS - 100) <= wide / 2)
    fine = look(square() & ~gap, ~square() | gap)
    assert against_colours(fine, look(0.9 * (square() & ~gap), ~square() | gap)) == []


def sunlit(piece: tuple[int, int, int], share: np.ndarray) -> Look:
    """A piece on a birch table, and a band of sun, half as bright again, across both."""
    lit = (ROWS >= 85) & (ROWS < 115)
    light = np.where(lit, 1.5, 1.0)[..., None] ** (1 / 2.4)
    colours = np.where(square()[..., None], piece, BIRCH)
    taken = share.astype(np.float32)
    pixels = np.clip(colours * light, 0, 255).astype(np.uint8)
    return Look(FlatPicture(WINDOW, pixels, np.ones(share.shape, bool)), taken, np.zeros_like(taken), (taken,))


def test_sun_on_the_table_may_have_been_taken_for_piece() -> None:
    lit_beside = (ROWS >= 85) & (ROWS < 115) & (COLUMNS >= 150) & (COLUMNS < 185)
    fine = sunlit(DARK, square() | lit_beside)
    readings = against_colours(fine, fine)
    assert readings
    for without in readings:
        assert np.mean(without[square()]) > 0.97
        assert np.mean(without[lit_beside]) < 0.1


@pytest.mark.parametrize(("colour", "joined"), [((230, 200, 40), False), (DARK, True)], ids=["tape", "own stripe"])
def test_a_narrow_thing_beside_a_piece_is_no_part_of_it(colour: tuple[int, int, int], joined: bool) -> None:
    strip = (np.abs(COLUMNS - 160) <= 6) & (ROWS >= 45) & (ROWS < 155)
    taken = (square() | strip).astype(np.float32)
    pixels = np.where(square()[..., None], DARK, BIRCH).astype(np.uint8)
    pixels[strip] = colour
    fine = Look(FlatPicture(WINDOW, pixels, np.ones((SIDE, SIDE), bool)), taken, np.zeros_like(taken), (taken,))
    between = (COLUMNS == 152) & (np.abs(ROWS - 100) < 40)
    readings = against_colours(fine, look(np.ones((SIDE, SIDE)), ~square()))
    assert any(r[between].all() for r in readings) == joined


def test_a_piece_of_the_tables_hue_that_the_light_falls_off_on_isnt_parted() -> None:
    light = np.where(square(), 5.6 - 2.4 * COLUMNS / SIDE, 1.0)
    grey = np.clip(60 * light ** (1 / 2.2), 0, 255)
    pixels = np.repeat(grey[..., None], 3, axis=2) + np.random.default_rng(5).normal(0, 1.5, (SIDE, SIDE, 3))
    taken = square().astype(np.float32)
    picture = FlatPicture(WINDOW, np.clip(pixels, 0, 255).astype(np.uint8), np.ones((SIDE, SIDE), bool))
    fine = Look(picture, taken, np.zeros_like(taken), (taken,))
    assert against_colours(fine, fine) == []


def test_a_gleam_is_piece_in_every_reading() -> None:
    gleam = square() & (COLUMNS > 130)
    fine = look(square(), ~square())
    net = look(square() & ~gleam, ~square())
    assert all(r.mask[gleam].all() for r in other_readings(fine, net, net, fine, gleam))


def test_a_piece_of_the_tables_own_colour_is_no_sun() -> None:
    fine = sunlit(BIRCH, square())
    assert against_colours(fine, fine) == []


@pytest.mark.parametrize("mirrored_by_table", [True, False])
def test_a_lamp_that_the_table_mirrors_may_be_no_part_of_the_piece(mirrored_by_table: bool) -> None:
    lamp = 6.0 / (1 + ((COLUMNS - 155.0) ** 2 + (ROWS - 100.0) ** 2) / 10**2)
    lobe = np.hypot(COLUMNS - 155, ROWS - 100) < 34
    taken = (square() | lobe if mirrored_by_table else square()).astype(np.float32)
    matt = np.where(square()[..., None], DARK, BIRCH) / 255.0
    mirrored = np.where(square() | mirrored_by_table, lamp, 0.0)
    pixels = (np.clip(matt**2.2 + mirrored[..., None], 0, 1) ** (1 / 2.2) * 255).astype(np.uint8)
    fine = Look(FlatPicture(WINDOW, pixels, np.ones((SIDE, SIDE), bool)), taken, np.zeros_like(taken), (taken,))
    readings = against_colours(fine, fine)
    assert bool(readings) == mirrored_by_table
    for without in readings:
        assert not without[lobe & ~square()].any()
        assert np.mean(without[square() & (COLUMNS < 100)]) > 0.97
