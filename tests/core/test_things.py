"""Things that lie against a piece: no part of it, unless they were pointed at."""

from __future__ import annotations

import numpy as np
import pytest

from ypsicline.core.capture.looks import PIECE, Look, Taps
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.capture.things import without_things_at_rim

SIDE = 300
WINDOW = Window(0.0, SIDE - 1.0, SIDE, SIDE, 1.0)
ROWS, COLUMNS = np.mgrid[:SIDE, :SIDE]
BIRCH, DARK, BRICK, MINT, YELLOW = (205, 180, 140), (50, 60, 70), (120, 60, 50), (150, 190, 170), (230, 200, 40)
SQUARE = (COLUMNS >= 50) & (COLUMNS < 180) & (ROWS >= 70) & (ROWS < 200)
TAB = (COLUMNS >= 80) & (COLUMNS < 100) & (ROWS >= 30) & (ROWS < 70)
TAPE = (COLUMNS >= 180) & (COLUMNS < 240) & (ROWS >= 125) & (ROWS < 145)
# along the square's foot, where it is as deep as the square, and on beyond
PENCIL = (COLUMNS >= 110) & (COLUMNS < 280) & (ROWS >= 200) & (ROWS < 212)


def look(thing: np.ndarray, cloth: list[tuple[int, int, int]], thing_colour: tuple[int, int, int] = YELLOW) -> Look:
    """A square of striped cloth with a tab of its own and a thing against it, all taken for the piece."""
    stripes = np.array(cloth, dtype=np.uint8)[ROWS // 15 % len(cloth)]
    pixels = np.where((SQUARE | TAB)[..., None], stripes, np.uint8(BIRCH))
    pixels[thing] = thing_colour
    taken = (SQUARE | TAB | thing).astype(np.float32)
    return Look(FlatPicture(WINDOW, pixels, np.ones((SIDE, SIDE), bool)), taken, np.zeros_like(taken), (taken,))


@pytest.mark.parametrize("thing", [TAPE, PENCIL], ids=["tape", "pencil along the rim"])
@pytest.mark.parametrize("cloth", [[DARK], [DARK, BRICK, MINT]], ids=["plain", "striped"])
def test_what_lies_against_a_piece_in_colours_that_it_has_nowhere_is_none_of_it(
    thing: np.ndarray, cloth: list[tuple[int, int, int]]
) -> None:
    piece = without_things_at_rim(look(thing, cloth), Taps()).piece > PIECE
    assert np.mean(piece[SQUARE | TAB]) > 0.99
    assert np.mean(piece[thing]) < 0.01


def test_the_rim_where_colours_of_piece_and_table_mix_stays_piece() -> None:
    taken = look(TAPE, [DARK])
    rim = SQUARE & ~((COLUMNS > 50) & (COLUMNS < 179) & (ROWS > 70) & (ROWS < 199))
    taken.picture.pixels[rim] = (128, 120, 105)
    piece = without_things_at_rim(taken, Taps()).piece > PIECE
    assert np.mean(piece[rim]) > 0.95


def test_a_strap_of_the_pieces_own_colours_is_of_it() -> None:
    taken = look(TAPE, [DARK, BRICK, MINT], BRICK)
    assert without_things_at_rim(taken, Taps()) is taken


def test_a_thing_that_was_pointed_at_is_piece() -> None:
    taken = look(TAPE, [DARK])
    on_tape, on_square = (Taps(WINDOW.to_mm(np.array([at]))) for at in ((230.0, 135.0), (100.0, 100.0)))
    assert without_things_at_rim(taken, on_tape) is taken
    assert without_things_at_rim(taken, on_square) is not taken
