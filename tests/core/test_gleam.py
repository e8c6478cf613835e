"""A gleam on a shiny piece is piece, and what is only as light is not."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from ypsicline.core.capture.gleam import gleam_of, with_gleam
from ypsicline.core.capture.looks import Look
from ypsicline.core.capture.rectify import FlatPicture, Window

ROWS, COLUMNS = 280, 360
Y, X = np.mgrid[0:ROWS, 0:COLUMNS].astype(float)
PIECE = ((X - 190) / 110) ** 2 + ((Y - 150) / 80) ** 2 < 1
VIOLET, GREY, OAK, LILAC, WHITE = (62, 48, 96), (90, 90, 90), (196, 158, 110), (150, 142, 170), (240, 238, 234)


def stored(light: np.ndarray) -> np.ndarray:
    light = np.clip(light, 0, 1)
    return np.where(light <= 0.0031308, 12.92 * light, 1.055 * light ** (1 / 2.4) - 0.055) * 255


def light_of(colour: tuple[int, int, int]) -> np.ndarray:
    share = np.asarray(colour) / 255
    return np.asarray(np.where(share <= 0.04045, share / 12.92, ((share + 0.055) / 1.055) ** 2.4))


def seen(
    gleam: np.ndarray,
    piece: tuple[int, int, int] = VIOLET,
    table: tuple[int, int, int] = OAK,
    white: np.ndarray | None = None,
    turns: int = 0,
) -> tuple[Look, np.ndarray]:
    """A look at a piece that mirrors light (`gleam`, a share of white) and was read without the places where it does so
    much, and what of it is counted; `white` (rows, columns) is a paper that lies there."""
    light = np.where(PIECE[..., None], light_of(piece), light_of(table)) * (0.8 + 0.3 * X / COLUMNS)[..., None]
    light = light + np.where(PIECE, gleam, 0)[..., None] * light_of(WHITE)
    if white is not None:
        light[white] = light_of(WHITE)
    sheet = (X < 60) & (Y < 90)
    light[sheet] = np.where((X // 8 + Y // 8) % 2 == 0, 0.02, 0.85)[sheet][:, None] * light_of(WHITE)
    noisy = stored(light) + np.random.default_rng(3).normal(0, 2, (ROWS, COLUMNS, 3))
    pixels = np.clip(cv2.GaussianBlur(noisy, (0, 0), 0.8), 0, 255).astype(np.uint8)
    read = PIECE & (gleam < 0.25) & (True if white is None else ~white)
    arrays = [np.ascontiguousarray(np.rot90(a, turns)) for a in (pixels, read, ~sheet)]
    rows, columns = arrays[1].shape
    picture = FlatPicture(Window(0, rows, columns, rows, 1.0), arrays[0], np.ones((rows, columns), dtype=bool))
    share = np.where(arrays[1], 0.97, 0.02).astype(np.float32)
    return Look(picture, share, np.zeros_like(share), (share,)), arrays[2]


def blob(x: float, y: float, across: float = 60.0, most: float = 0.7) -> np.ndarray:
    return np.asarray(most * np.exp(-((X - x) ** 2 + (Y - y) ** 2) / (across / 2) ** 2))


@pytest.mark.parametrize("turns", range(4))
@pytest.mark.parametrize("at", [(110, 120), (190, 75), (250, 200)])
def test_a_gleam_at_the_rim_is_piece(at: tuple[float, float], turns: int) -> None:
    look, counted = seen(blob(*at), turns=turns)
    whole = with_gleam(look, gleam_of(look, counted)).piece > 0.5
    true = np.rot90(PIECE, turns)
    assert (look.piece > 0.5).sum() < 0.97 * true.sum()
    assert (whole ^ true).sum() < 0.01 * true.sum()


def test_a_gleam_that_parts_a_piece_joins_it() -> None:
    band = 0.8 * np.exp(-(((X - 170) / 30) ** 2))
    look, counted = seen(band)
    assert cv2.connectedComponents((look.piece > 0.5).astype(np.uint8))[0] == 3
    whole = with_gleam(look, gleam_of(look, counted)).piece > 0.5
    assert (whole ^ PIECE).sum() < 0.01 * PIECE.sum()


NOTHING = np.zeros((ROWS, COLUMNS))


@pytest.mark.parametrize(
    ("look", "counted"),
    [
        pytest.param(*seen(NOTHING, white=(abs(X - 190) < 40) & (abs(Y - 60) < 30)), id="a white paper at its rim"),
        pytest.param(*seen(NOTHING, white=(abs(X - 300) < 40) & (abs(Y - 60) < 30)), id="a white paper on the table"),
        pytest.param(*seen(blob(110, 120), piece=GREY), id="a grey piece, whose gleam has no plane"),
        pytest.param(*seen(blob(110, 120), table=LILAC), id="a table of the gleam's own colours"),
        pytest.param(*seen(blob(110, 120), table=GREY, piece=GREY), id="all grey"),
        pytest.param(*seen(NOTHING), id="no gleam at all"),
    ],
)
def test_what_is_no_gleam_for_sure_is_left_alone(look: Look, counted: np.ndarray) -> None:
    assert not gleam_of(look, counted).any()


def test_without_a_sheet_in_sight_the_lights_colour_isnt_known() -> None:
    look, _ = seen(blob(110, 120))
    assert not gleam_of(look, np.ones(look.piece.shape, dtype=bool)).any()
