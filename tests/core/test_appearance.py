"""A piece told from its table by what this one picture shows; the truth is what was painted."""

from __future__ import annotations

import numpy as np
import pytest

from ypsicline.core.capture.appearance import FINE, WIDE, Manner, odds_by_colour, shares_by_appearance

SIDE = 240
CREAM, SLATE = (225, 215, 190), (110, 120, 135)
GREEN, BLACK = (70, 180, 80), (25, 25, 30)


def tiles(size: int) -> np.ndarray:
    y, x = np.mgrid[:SIDE, :SIDE]
    return np.where((((x // size) + (y // size)) % 2 == 0)[..., None], CREAM, SLATE).astype(float)


def disc(x0: float, y0: float, radius: float) -> np.ndarray:
    y, x = np.mgrid[:SIDE, :SIDE]
    return np.hypot(x - x0, y - y0) < radius


def pictured(
    piece: np.ndarray, table: np.ndarray, colours: tuple[tuple[int, int, int], tuple[int, int, int]]
) -> np.ndarray:
    stripes = np.where(((np.arange(SIDE) // 9) % 2 == 0)[None, :, None], *colours)
    noise = np.random.default_rng(5).normal(0, 4, (SIDE, SIDE, 3))
    return np.clip(np.where(piece[..., None], stripes, table) + noise, 0, 255).astype(np.uint8)


def overlap(share: np.ndarray, piece: np.ndarray) -> float:
    result = share > 0.5
    return float((result & piece).sum() / (result | piece).sum())


@pytest.mark.parametrize("turned", [0, 1, 2, 3])
@pytest.mark.parametrize("manner", [WIDE, FINE])
def test_tiles_beside_a_striped_piece_are_table_as_others_are(turned: int, manner: Manner) -> None:
    piece = disc(120, 120, 45)
    pixels = np.rot90(pictured(piece, tiles(24), (GREEN, BLACK)), turned).copy()
    # the piece and two tiles against it, as sure of the one as of the others
    said = (piece | (disc(120, 120, 75) & (tiles(24)[..., 0] > 200) & (np.arange(SIDE) > 120)[None])).astype(np.float32)
    assert overlap(said, piece) < 0.83
    told = shares_by_appearance(pixels, np.ones(piece.shape, bool), np.rot90(0.96 * said + 0.02, turned).copy(), manner)
    assert overlap(told, np.rot90(piece, turned)) > 0.93


def test_a_stripe_that_was_left_out_comes_back() -> None:
    piece = disc(120, 120, 45)
    said = np.where(piece & (np.arange(SIDE) < 130)[None], 0.97, 0.03).astype(np.float32)
    pixels = pictured(piece, tiles(24), (GREEN, BLACK))
    said[:, 130:150] = np.where(piece[:, 130:150], 0.4, 0.03)
    told = shares_by_appearance(pixels, np.ones(piece.shape, bool), said, FINE)
    assert told[120, 140] > 0.5


def test_what_was_said_stands_where_nothing_is_counted() -> None:
    said = disc(120, 120, 45).astype(np.float32)
    pixels = pictured(said > 0, tiles(24), (GREEN, BLACK))
    assert np.array_equal(shares_by_appearance(pixels, np.zeros(said.shape, bool), said, FINE), said)


def test_sheets_keep_what_was_said_of_them() -> None:
    said = disc(120, 120, 45).astype(np.float32) * 0.9
    counted = np.ones(said.shape, bool)
    counted[100:140, 100:140] = False
    told = shares_by_appearance(pictured(said > 0, tiles(24), (GREEN, BLACK)), counted, said, FINE)
    assert np.array_equal(told[~counted], said[~counted])


def test_odds_by_colour_do_not_depend_on_which_side_is_larger() -> None:
    piece = disc(120, 120, 20)
    pixels = pictured(piece, np.full((SIDE, SIDE, 3), 200.0), (GREEN, GREEN)).astype(np.float32)
    odds = odds_by_colour(pixels, piece.astype(np.float32))
    assert odds[piece].min() > 1
    assert odds[~piece].max() < -1


def test_a_colour_that_both_sides_have_tells_nothing() -> None:
    piece = disc(120, 120, 45)
    pixels = pictured(piece, tiles(24), (CREAM, GREEN)).astype(np.float32)
    odds = odds_by_colour(pixels, piece.astype(np.float32))
    cream = np.abs(pixels - CREAM).max(axis=2) < 15
    assert np.abs(odds[cream]).max() < 1
    green = np.abs(pixels - GREEN).max(axis=2) < 15
    assert odds[piece & green].min() > 1
