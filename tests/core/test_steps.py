"""Trueing up as steps: kept, switched off, replayed; and what each of them does."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.close import farthest, same_ring
from ypsicline.core import steps
from ypsicline.core.drafting.from_shape import panel_from_shape
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.documents import dump, load_job
from ypsicline.core.geometry.edges import edge_length
from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.identified import identified
from ypsicline.core.job import JobDocument, Piece
from ypsicline.core.pattern.features.notch import Notch
from ypsicline.core.trueing.bending import bend_to_tape
from ypsicline.core.trueing.dividing import divide, part_marks
from ypsicline.core.trueing.renewing import changed_ways, renew, splice
from ypsicline.core.trueing.shape import Shape, true_edges, true_up
from ypsicline.core.trueing.smoothing import smooth_shape
from ypsicline.core.trueing.tape import TapeMeasure, follow, read_tape
from ypsicline.core.trueing.turning import turned_over
from ypsicline.core.wording import render

BOARD = [(0.0, 0.0), (400.0, 0.0), (400.0, 300.0), (0.0, 300.0)]


def board() -> Shape:
    return true_up(BOARD, error_mm=0.2)


def piece() -> Piece:
    return Piece("board", board(), board())


def corners(shape: Shape) -> list[tuple[int, int]]:
    return [(round(j.point[0]), round(j.point[1])) for j in shape.outline.joints]


class TestSteps:
    def test_a_step_switched_off_is_as_if_it_had_not_been_made(self) -> None:
        after = piece().stepped(steps.MoveCorner(0, (400.0, 300.0), (410.0, 305.0)), "C moved")
        both = after.stepped(steps.SquareUp(0, (0.0, 300.0)), "D squared")
        without = both.switched(0, on=False)
        alone = piece().stepped(steps.SquareUp(0, (0.0, 300.0)), "D squared")
        assert without.shape == alone.shape
        assert both.switched(0, on=False).switched(0, on=True).shape == both.shape

    def test_a_later_step_finds_its_corner_though_an_earlier_one_that_numbered_it_is_off(self) -> None:
        added = piece().stepped(steps.AddCorner(0, (200.0, 0.0)), "corner added")
        after = added.stepped(steps.MoveCorner(0, (400.0, 0.0), (405.0, -2.0)), "moved")
        assert (405, -2) in corners(after.switched(0, on=False).shape)

    def test_a_step_whose_corner_is_gone_is_skipped_and_says_so(self) -> None:
        added = piece().stepped(steps.AddCorner(0, (200.0, 0.0)), "corner added")
        after = added.stepped(steps.MoveCorner(0, (200.0, 0.0), (200.0, 12.0)), "moved")
        off = after.switched(0, on=False)
        assert "isn't there any more" in render(off.steps[1].skip_reason)
        assert off.shape == board()
        assert after.switched(0, on=False).switched(0, on=True).steps[1].skip_reason == ""

    def test_the_tape_list_follows_corners_that_are_numbered_anew(self) -> None:
        taped = replace(piece(), tape=(TapeMeasure((1, 2)), TapeMeasure(edge=2), TapeMeasure((0, 3))))
        added = taped.stepped(steps.AddCorner(0, (200.0, 0.0)), "corner added")
        assert [(m.between, m.edge) for m in added.tape] == [((2, 3), None), (None, 3), ((0, 4), None)]
        assert [m.id for m in added.tape] == [m.id for m in taped.tape]
        assert added.stepped(steps.RemoveCorner(0, (200.0, 0.0)), "removed").tape == taped.tape
        gone = taped.stepped(steps.RemoveCorner(0, (0.0, 300.0)), "removed")
        assert gone.tape == taped.tape[:2]

    def test_far_moved_corners_keep_their_measures(self) -> None:
        taped = replace(piece(), tape=(TapeMeasure((0, 2)),))
        assert taped.stepped(steps.MoveCorner(0, (400.0, 300.0), (380.0, 340.0)), "moved").tape == taped.tape
        assert follow(board(), board(), taped.tape) == taped.tape

    def test_every_step_survives_being_stored(self) -> None:
        p = replace(piece(), tape=(TapeMeasure((0, 1), None, 402.0),))
        way = [(float(x), 300.0 + 4 * math.sin(math.pi * (x - 100) / 200)) for x in range(100, 301, 4)]
        for step in (
            steps.AddCorner(0, (200.0, 0.0)), steps.SetSmooth(0, (200.0, 0.0), True), steps.SetKind(0, (200.0, 0.0), "line"),
            steps.HoldEdges(0, (0.0, 0.0), (400.0, 300.0), "parallel"), steps.Mend((tuple(way),)), steps.Smooth(0.3),
            steps.DivideOutline((0.0, 0.0), 4), steps.Bend((((0.0, 0.0), (400.0, 0.0), 402.0), ((400.0, 0.0), None, 301.0))),
            steps.ScaleBy((1.01, 0.99)), steps.Redraw((((0.0, 0.0), -10.0),), -4.0), steps.TurnOver(), steps.Find(0.4),
        ):  # fmt: skip
            p = p.stepped(step, step.kind)
        document = identified(JobDocument("board", pieces=(p,)))
        assert load_job(dump(document)) == document
        assert steps.replay(p.trace, p.steps)[0] == p.shape

    def test_a_job_stored_before_it_had_pieces_keeps_its_outline(self) -> None:
        now = JobDocument("tray").with_outline(board())
        old = dump(JobDocument("tray")).replace(
            b'"pieces": []', b'"shape": ' + dump(board()) + b', "tape": [{"edge": 1}]'
        )
        read = load_job(old)
        assert read.shape == now.shape
        assert [m.edge for m in read.pieces[0].tape] == [1]

    def test_mending_by_the_photo_comes_before_what_takes_the_outline_off_it(self) -> None:
        turned = piece().stepped(steps.TurnOver(), "turned over")
        way = [(float(x), 6 * math.sin(math.pi * (x - 60) / 80)) for x in range(60, 141, 2)]
        mended = turned.mended(steps.Mend((tuple(way),)), "mended")
        assert [d.words for d in mended.steps] == ["mended", "turned over"]
        assert farthest([(400 - x, y) for x, y in way], mended.shape.outline.points) < 0.2

    def test_a_photo_measured_again_keeps_what_was_trued_up(self) -> None:
        from ypsicline.core.job import PhotoOf

        job = JobDocument("board").with_outline(board(), PhotoOf(7, 0))
        job = job.with_piece(job.pieces[0].stepped(steps.MoveCorner(0, (400.0, 300.0), (402.0, 303.0)), "C moved"))
        again = job.recaptured(PhotoOf(7, 1), true_up([(x * 1.002, y) for x, y in BOARD], error_mm=0.1))
        assert corners(again.pieces[0].shape)[2] == (402, 303)
        assert again.pieces[0].photo == PhotoOf(7, 1)
        assert len(again.pieces) == 1


class TestBending:
    @given(st.tuples(*[st.floats(-5, 5)] * 4))
    def test_it_meets_what_the_tape_says(self, off: tuple[float, float, float, float]) -> None:
        wanted = [TapeMeasure((0, 1), None, 400 + off[0]), TapeMeasure((1, 2), None, 300 + off[1]),
                  TapeMeasure((0, 2), None, 500 + off[2] / 2), TapeMeasure(None, 3, 300 + off[3])]  # fmt: skip
        bent = bend_to_tape(board(), wanted)
        assert max(abs(r.apart_mm or 0) for r in read_tape(bent.shape, wanted)) < 0.06
        assert bent.moved_mm < 2 * max(map(abs, off)) + 0.1

    def test_what_is_not_measured_hardly_changes(self) -> None:
        bent = bend_to_tape(board(), [TapeMeasure((0, 1), None, 403)])
        assert [e.kind for e in true_edges(bent.shape.outline, 0.3)] == ["line"] * 4
        assert bent.moved_mm == pytest.approx(1.5, abs=0.2)

    @pytest.mark.parametrize(
        ("measures", "says"),
        [
            ([TapeMeasure((0, 1), None, 404), TapeMeasure((0, 1), None, 400)], "contradict"),
            ([TapeMeasure((0, 1), None, 500)], "more than a photo can be wrong"),
            ([TapeMeasure((0, 1))], "Type what your tape says"),
        ],
    )
    def test_impossible_sets_are_refused(self, measures: list[TapeMeasure], says: str) -> None:
        with pytest.raises(Refusal, match=says):
            bend_to_tape(board(), measures)


class TestSmoothing:
    @given(st.floats(0.05, 3), st.integers(0, 50))
    def test_nothing_moves_by_more_than_was_allowed(self, by: float, seed: int) -> None:
        rng = np.random.default_rng(seed)
        t = np.linspace(0, 2 * math.pi, 700, endpoint=False)
        rough = np.column_stack([150 * np.cos(t), 90 * np.sin(t)]) + rng.normal(0, 0.3, (700, 2))
        before = true_up([(float(x), float(y)) for x, y in rough])
        after = smooth_shape(before, by)
        assert farthest(after.outline.points, before.outline.points) <= by + 0.02

    def test_a_shaky_hand_is_smoothed_and_corners_stay(self) -> None:
        rng = np.random.default_rng(4)
        wobble = [(x, 2 * math.sin(x / 9) + float(rng.normal(0, 0.2))) for x in np.linspace(3, 397, 300)]
        shape = smooth_shape(true_up([(0.0, 0.0), *wobble, (400.0, 0.0), (400.0, 300.0), (0.0, 300.0)]), 2.5)
        assert {(400, 300), (0, 300)} <= set(corners(shape))
        bottom = [p for p in shape.outline.points if 20 < p[0] < 380 and p[1] < 50]
        assert max(abs(y) for _, y in bottom) < 1.2

    @pytest.mark.parametrize("by", [0.0, -1.0, 11.0, float("nan")])
    def test_amounts_that_make_no_sense_are_refused(self, by: float) -> None:
        with pytest.raises(Refusal, match="Smoothing"):
            smooth_shape(board(), by)


class TestRedrawing:
    def test_an_old_cutting_line_becomes_its_seam_line_edge_by_edge(self) -> None:
        p = piece().stepped(steps.Redraw((((0.0, 0.0), -20.0), ((400.0, 0.0), 0.0), ((0.0, 300.0), 6.0)), -12.0), "old")
        assert corners(p.shape) == [(-6, 20), (400, 20), (400, 288), (-6, 288)]

    def test_moving_a_smooth_outline_in_and_out_again_comes_back(self) -> None:
        t = np.linspace(0, 2 * math.pi, 720, endpoint=False)
        oval = true_up([(float(x), float(y)) for x, y in np.column_stack([200 * np.cos(t), 120 * np.sin(t)])])
        there = steps.Redraw((), -9.0).on(oval)
        back = steps.Redraw((), 9.0).on(there)
        assert same_ring(back.outline.points, oval.outline.points, within_mm=0.8)
        assert farthest(there.outline.points, oval.outline.points) == pytest.approx(9, abs=0.7)

    def test_a_hole_shrinks_where_the_piece_grows(self) -> None:
        hole = [(150.0, 100.0), (250.0, 100.0), (250.0, 200.0), (150.0, 200.0)]
        grown = steps.Redraw((), 5.0).on(true_up(BOARD, [hole]))
        assert np.ptp(grown.holes[0].points, axis=0) == pytest.approx([90, 90], abs=0.1)
        shrunk = steps.Redraw((), -5.0).on(true_up(BOARD, [hole]))
        assert np.ptp(shrunk.holes[0].points, axis=0) == pytest.approx([110, 110], abs=0.1)

    @pytest.mark.parametrize("by", [-150.5, 600.0, float("nan")])
    def test_what_leaves_nothing_or_makes_no_sense_is_refused(self, by: float) -> None:
        with pytest.raises(Refusal):
            steps.Redraw((), by).on(board())

    def test_turned_over_twice_it_lies_as_before(self) -> None:
        lopsided = true_up([(0.0, 0.0), (300.0, 0.0), (280.0, 90.0), (0.0, 200.0)], [[(50, 40), (90, 40), (70, 80)]])
        over = turned_over(lopsided)
        assert set(corners(over)) == {(0, 0), (300, 0), (20, 90), (300, 200)}
        again = turned_over(over)
        assert same_ring(
            flatten_ring(true_edges(again.outline, 0.5)), BOARD and lopsided.outline.points, within_mm=0.05
        )


class TestDividing:
    def test_quarters_share_the_girth_evenly_and_become_notches(self) -> None:
        shape = divide(board(), 1, 4)
        edges = true_edges(shape.outline, 0.5)
        marks = part_marks(shape, edges)
        starts = np.cumsum([0, *(edge_length(e) for e in edges)])
        places = [(starts[m.edge] + m.along_mm - 400) % 1400 for m in marks]
        assert places == pytest.approx([0, 350, 700, 1050], abs=0.01)
        notches = panel_from_shape(shape, "board").of(Notch)
        assert [n.double for n in notches] == [True, False, False, False]
        assert divide(shape, 0, 0).division is None

    def test_marks_whose_start_was_taken_away_ask_for_a_new_one(self) -> None:
        p = piece().stepped(steps.DivideOutline((400.0, 300.0), 2), "halves")
        p = p.stepped(steps.MoveCorner(0, (400.0, 300.0), (440.0, 300.0)), "moved")
        with pytest.raises(Refusal, match="mark them afresh"):
            part_marks(p.shape, true_edges(p.shape.outline, 0.5))


class TestRenewing:
    def test_corrections_survive_where_the_trace_runs_as_before(self) -> None:
        after = steps.MoveCorner(0, (0.0, 300.0), (-3.0, 302.0)).on(board())
        bulge = [
            (0.0, 0.0),
            (400.0, 0.0),
            (400.0, 300.0),
            (240.0, 300.0),
            (240.0, 280.0),
            (200.0, 280.0),
            (200.0, 300.0),
            (0.0, 300.0),
        ]
        result = renew(after, bulge, [])
        assert (-3, 302) in corners(result)
        assert {(240, 280), (200, 280)} <= set(corners(result))
        assert len(result.outline.joints) == 8

    def test_a_way_replaces_the_stretch_that_it_runs_along(self) -> None:
        way = [(100.0, 0.0), (150.0, 8.0), (200.0, 0.0)]
        for lengths in (way, way[::-1]):
            result = splice(BOARD, lengths)
            assert farthest(way, result) < 0.01
            assert farthest(BOARD, result) < 0.4

    @pytest.mark.parametrize(
        "way", [[(0.0, 0.0)], [(100.0, 100.0), (200.0, 200.0)], [(100.0, 0.0), (120.0, 5.0), (100.0, 0.0)]]
    )
    def test_a_way_that_mends_nothing_is_refused(self, way: list[tuple[float, float]]) -> None:
        with pytest.raises(Refusal):
            splice(BOARD, way)

    def test_the_changed_ways_spliced_in_make_the_new_ring(self) -> None:
        new = [
            (0.0, 0.0),
            (180.0, 0.0),
            (190.0, 12.0),
            (200.0, 0.0),
            (400.0, 0.0),
            (400.0, 300.0),
            (90.0, 300.0),
            (80.0, 320.0),
            (0.0, 300.0),
        ]
        ways = changed_ways(BOARD, new)
        assert len(ways) == 2
        result: object = BOARD
        for way in ways:
            result = splice([tuple(p) for p in np.asarray(result)], way)
        assert same_ring(np.asarray(result).tolist(), new, within_mm=0.8)
        assert changed_ways(BOARD, BOARD) == ()
