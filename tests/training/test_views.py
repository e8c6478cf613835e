"""The views by lot that the network is trained on: reproducible, and true to themselves."""

from __future__ import annotations

import numpy as np

from training.views import View, paint_view


def lots(count: int) -> list[View]:
    return [paint_view(np.random.default_rng((3, k)), 96) for k in range(count)]


def test_the_same_lot_paints_the_same_view() -> None:
    one, two = (paint_view(np.random.default_rng(7), 96) for _ in range(2))
    for name in ("pixels", "sheets", "seen", "prior", "taps", "piece", "shadow"):
        assert (getattr(one, name) == getattr(two, name)).all()


def test_views_hold_pieces_sheets_and_what_the_network_is_told() -> None:
    views = lots(40)
    assert np.mean([v.piece.max() == 255 for v in views]) > 0.9
    assert np.mean([v.sheets.any() for v in views]) > 0.6
    assert 0.2 < np.mean([v.prior.any() for v in views]) < 0.8
    for v in views:
        assert not v.pixels[~v.seen].any()
        assert not v.piece[~v.seen].any()
        assert np.abs(v.prior).max() <= 1


def test_a_tap_lies_on_the_piece() -> None:
    tapped = [v for v in lots(60) if v.taps.max() > 0.9]
    assert tapped
    assert all(v.piece[np.unravel_index(v.taps.argmax(), v.taps.shape)] > 200 for v in tapped)
