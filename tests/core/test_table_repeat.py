"""Tables whose pattern comes again; the truth is what was painted."""

from __future__ import annotations

import numpy as np
import pytest

from ypsicline.core.capture.table_repeat import like_repeat, off_the_repeat

ROWS, COLUMNS = 300, 360
CREAM, SLATE, RED = np.array([225.0, 215, 190]), np.array([110.0, 120, 135]), np.array([170.0, 50, 40])
Y, X = np.mgrid[:ROWS, :COLUMNS]
EVERYWHERE = np.ones((ROWS, COLUMNS), bool)


def tiles(size: float, turned_deg: float) -> np.ndarray:
    c, s = np.cos(np.radians(turned_deg)), np.sin(np.radians(turned_deg))
    even = (np.floor((c * X + s * Y) / size) + np.floor((c * Y - s * X) / size)) % 2 == 0
    return np.where(even[..., None], CREAM, SLATE)


def printed() -> np.ndarray:
    """Blots of the tiles' two colours and of a third."""
    blots = np.random.default_rng(3).integers(0, 3, (ROWS // 5, COLUMNS // 5)).repeat(5, 0).repeat(5, 1)
    return np.stack([CREAM, SLATE, RED])[blots]


def disc(x: float, y: float, radius: float) -> np.ndarray:
    return np.hypot(X - x, Y - y) < radius


def seen(piece: np.ndarray, table: np.ndarray) -> np.ndarray:
    """The piece on the table, lit from one side."""
    light = 0.7 + 0.3 * X[..., None] / COLUMNS
    noise = np.random.default_rng(5).normal(0, 4, table.shape)
    return np.clip(np.where(piece[..., None], printed(), table) * light + noise, 0, 255).astype(np.uint8)


@pytest.mark.parametrize(("size", "turned_deg"), [(24.0, 0.0), (23.3, 17.0), (31.7, -40.0), (12.4, 80.0)])
@pytest.mark.parametrize("is_mirrored", [False, True])
def test_a_print_of_the_tiles_colours_is_no_part_of_the_floor(
    size: float, turned_deg: float, is_mirrored: bool
) -> None:
    piece, table = disc(190, 140, 55), tiles(size, turned_deg)
    pixels = seen(piece, table)
    # the light tiles beside it are taken for piece as well
    share = (piece | (disc(190, 140, 85) & (table[..., 0] > 200))).astype(np.float32)
    if is_mirrored:
        piece, pixels, share = piece[:, ::-1], pixels[:, ::-1].copy(), share[:, ::-1].copy()
    off = off_the_repeat(pixels, EVERYWHERE, share)
    assert off is not None
    table_again = like_repeat(off, EVERYWHERE, share > 0.5)
    assert table_again[~piece].mean() > 0.93
    assert table_again[piece].mean() < 0.2


def test_what_is_not_counted_neither_teaches_nor_differs() -> None:
    sheet = disc(60, 60, 40)
    pixels = seen(disc(190, 140, 55), tiles(24, 10))
    pixels[sheet] = 255
    off = off_the_repeat(pixels, ~sheet, disc(190, 140, 55).astype(np.float32))
    assert off is not None
    assert not off[sheet].any()


@pytest.mark.parametrize("table", ["plain", "boards", "two tiles"])
def test_a_table_without_a_repeat_has_none(table: str) -> None:
    boards = np.random.default_rng(1).normal(0, 25, COLUMNS // 20)[X[0] // 20 % (COLUMNS // 20)]
    pictures = {
        "plain": np.broadcast_to(CREAM, (ROWS, COLUMNS, 3)),
        "boards": CREAM + boards[None, :, None] * np.ones((ROWS, 1, 3)),
        "two tiles": tiles(220, 0),
    }
    pixels = seen(disc(190, 140, 55), pictures[table])
    assert off_the_repeat(pixels, EVERYWHERE, disc(190, 140, 60).astype(np.float32)) is None


def test_nothing_is_like_a_repeat_that_the_piece_differs_from_no_more() -> None:
    off = np.random.default_rng(2).normal(0, 0.2, (ROWS, COLUMNS, 3)).astype(np.float32)
    assert not like_repeat(off, EVERYWHERE, disc(190, 140, 55)).any()
    assert not like_repeat(off, EVERYWHERE, ~EVERYWHERE).any()
