"""Stretches of an outline whose edge isn't sure."""

from __future__ import annotations

import numpy as np
import shapely

from ypsicline.core.capture.stretches import keeps_within, stretches
from ypsicline.core.job import Piece
from ypsicline.core.steps import ConfirmEdge, Mend
from ypsicline.core.trueing.shape import true_up

RING = tuple((100 * np.cos(a), 100 * np.sin(a)) for a in np.linspace(0, 2 * np.pi, 600, endpoint=False))


def doubts(*runs: tuple[int, int, float]) -> np.ndarray:
    off = np.zeros(len(RING))
    for start, stop, mm in runs:
        off[np.arange(start, stop) % len(RING)] = mm
    return off


def test_a_stretch_over_the_rings_seam_is_one() -> None:
    (only,) = stretches(RING, doubts((590, 620, 3.0)))
    assert len(only.line) == 30
    assert only.off_mm == 3.0
    assert only.line[0] == RING[590]


def test_stretches_that_almost_meet_are_one_and_specks_are_none() -> None:
    result = stretches(RING, doubts((100, 120, 1.5), (126, 140, 4.0), (300, 302, 9.0)))
    assert [(len(s.line), s.off_mm) for s in result] == [(40, 4.0)]


def test_all_of_it_may_be_in_doubt_and_none() -> None:
    assert len(stretches(RING, doubts((0, 600, 2.0)))[0].line) == 601
    assert stretches(RING, doubts((0, 600, 0.3))) == ()


def test_a_notch_that_was_missed_counts_as_long_as_it_is() -> None:
    # a line of 1000 mm with a notch 40 mm wide and 60 deep, shut off across its mouth: 4 % of what was found, 15 % of the truth
    x = np.arange(0.0, 1000.0, 0.5)
    there = np.column_stack([x, np.zeros_like(x)])
    found = np.vstack([there, there[::-1] - [0, 1e-3]])
    across = (np.abs(found[:, 0] - 500) <= 20) & (found[:, 1] == 0)
    off = np.where(across, 60.0, 0.0)
    errors = np.hypot(0.3, off)
    truth = shapely.LineString([(0, 0), (480, 0), (480, 60), (520, 60), (520, 0), (1000, 0), (0, 0)])
    strays = shapely.distance(shapely.LineString(found), shapely.points(shapely.get_coordinates(truth.segmentize(0.5))))
    assert np.percentile(strays, 95) > 1.0
    assert np.percentile(errors, 95) < 0.5
    assert keeps_within(errors, found, off) > 60
    assert keeps_within(np.full(len(found), 0.3), found, np.zeros(len(found))) == 0.3


def test_the_way_round_a_ring_doesnt_matter_to_what_is_kept_within() -> None:
    off = doubts((590, 608, 14.0))
    ring, errors = np.asarray(RING), np.hypot(0.3, off)
    stated = keeps_within(errors, ring, off)
    assert stated == keeps_within(np.roll(errors, 77), np.roll(ring, 77, axis=0), np.roll(off, 77))
    assert stated == keeps_within(errors[::-1], ring[::-1] * [-1, 1], off[::-1])


class TestSettling:
    stretch = RING[50:80]

    def piece(self) -> Piece:
        shape = true_up(RING, error_mm=0.2)
        return Piece("disc", shape, shape)

    def test_by_saying_that_it_is_right(self) -> None:
        piece = self.piece()
        assert not piece.is_settled(self.stretch)
        said = piece.stepped(ConfirmEdge(self.stretch), "right")
        assert said.is_settled(self.stretch)
        assert said.shape == piece.shape
        assert not said.switched(0, on=False).is_settled(self.stretch)

    def test_by_moving_it_and_not_by_moving_another_place(self) -> None:
        def walked(start: int, stop: int) -> Piece:
            way = tuple((1.04 * x, 1.04 * y) for x, y in RING[start:stop])
            return self.piece().mended(Mend(((RING[start - 1], *way, RING[stop]),)), "walked")

        assert walked(48, 82).is_settled(self.stretch)
        assert not walked(300, 340).is_settled(self.stretch)

    def test_a_walk_along_a_hole_moves_the_hole_and_settles_what_is_in_doubt_there_alone(self) -> None:
        hole = tuple((0.3 * x, 0.3 * y) for x, y in RING[::-1])
        shape = true_up(RING, [hole], error_mm=0.2)
        piece = Piece("disc", shape, shape)
        way = tuple((1.2 * x, 1.2 * y) for x, y in hole[50:80])
        walked = piece.mended(Mend(((hole[48], *way, hole[82]),)), "walked")
        assert walked.is_settled(hole[52:78])
        assert not walked.is_settled(hole[200:230])
        assert not walked.is_settled(self.stretch)
        assert walked.shape.outline.points == piece.shape.outline.points
