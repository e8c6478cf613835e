"""Truing up: corners, fitted edges, and a maker's changes to them."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from demo.pieces import arc, bench_top, splash_tray
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.rings import flatten_ring, signed_area
from ypsicline.core.trueing.fitting import deviation, fit_arc, fit_curve, fit_line
from ypsicline.core.trueing.shape import (
    add_joint,
    letter,
    move_joint,
    remove_joint,
    set_edge_kind,
    trace_ring,
    true_edges,
    true_up,
)
from ypsicline.core.trueing.tape import TapeMeasure, read_tape

TRAPEZOID = np.array([[-190, -180], [190, -180], [165, 175], [-165, 175]], float)


def traced(ring: np.ndarray, noise: float = 0.04, pitch: float = 0.4, seed: int = 0) -> list[tuple[float, float]]:
    """The ring walked at a pitch with a hand's tremble."""
    closed = np.vstack([ring, ring[:1]])
    along = np.concatenate([[0], np.cumsum(np.hypot(*np.diff(closed, axis=0).T))])
    s = np.arange(0, along[-1], pitch)
    points = np.column_stack([np.interp(s, along, closed[:, 0]), np.interp(s, along, closed[:, 1])])
    points += np.random.default_rng(seed).normal(0, noise, points.shape)
    return [(float(x), float(y)) for x, y in points]


def rounded_rectangle(w: float, h: float, r: float) -> np.ndarray:
    return np.vstack(
        [
            arc((x * (w / 2 - r), y * (h / 2 - r)), r, a, a + 90, 60)
            for x, y, a in ((1, 1, 0), (-1, 1, 90), (-1, -1, 180), (1, -1, 270))
        ]
    )


def test_a_traced_trapezoid_has_four_lines_that_meet_at_its_corners() -> None:
    shape = true_up(traced(TRAPEZOID))
    edges = true_edges(shape.outline, shape.tolerance_mm)
    assert [e.kind for e in edges] == ["line"] * 4
    for corner in TRAPEZOID:
        assert min(math.dist(corner, j.point) for j in shape.outline.joints) < 0.25
    assert sorted(e.length_mm for e in edges) == pytest.approx(
        sorted([380, 330, math.hypot(25, 355), math.hypot(25, 355)]), abs=0.3
    )


def test_a_splash_tray_is_lines_and_arcs_with_the_right_radii() -> None:
    outline, holes = splash_tray()
    shape = true_up(traced(outline), [traced(h) for h in holes])
    edges = true_edges(shape.outline, 0.5)
    assert [e.kind for e in edges].count("arc") == 2
    radii = sorted(e.radius_mm for e in edges if e.radius_mm)
    assert radii == pytest.approx([34, 255], abs=0.8)
    (hole,) = shape.holes
    assert all(e.kind == "arc" and e.radius_mm == pytest.approx(18, abs=0.3) for e in true_edges(hole, 0.5))


def test_round_corners_become_arcs_between_the_sides() -> None:
    edges = true_edges(true_up(traced(rounded_rectangle(600, 400, 60))).outline, 0.5)
    assert sorted(e.kind for e in edges) == ["arc"] * 4 + ["line"] * 4
    assert all(e.radius_mm == pytest.approx(60, abs=2) for e in edges if e.radius_mm)


def test_a_smooth_kidney_has_no_corner_and_its_curves_run_on_smoothly() -> None:
    shape = true_up(traced(bench_top()))
    assert all(j.smooth for j in shape.outline.joints)
    edges = true_edges(shape.outline, 0.5)
    assert all(e.deviation_mm <= 0.5 for e in edges)
    for a, b in zip(edges, edges[1:] + edges[:1], strict=True):
        d1, d2 = np.subtract(a.points[-1], a.points[-2]), np.subtract(b.points[1], b.points[0])
        turn = math.atan2(d1[0] * d2[1] - d1[1] * d2[0], float(d1 @ d2))
        assert abs(math.degrees(turn)) < 2


def test_edges_meet_end_to_start_and_a_hole_runs_clockwise() -> None:
    outline, holes = splash_tray()
    shape = true_up(traced(outline)[::-1], [traced(h) for h in holes])
    for ring, sense in ((shape.outline, 1), (shape.holes[0], -1)):
        edges = true_edges(ring, 0.5)
        assert all(math.dist(a.end, b.start) < 1e-9 for a, b in zip(edges, edges[1:] + edges[:1], strict=True))
        assert signed_area(flatten_ring(edges)) * sense > 0


@given(st.floats(0.06, 3))
def test_no_tolerance_makes_an_edge_stray_further_than_it(tolerance: float) -> None:
    for e in true_edges(true_up(traced(TRAPEZOID, noise=0.01), tolerance_mm=tolerance).outline, tolerance):
        assert e.deviation_mm <= max(tolerance, 0.25)


@pytest.mark.parametrize("tolerance", [0, 0.01, 50, -1])
def test_a_tolerance_that_makes_no_sense_is_refused(tolerance: float) -> None:
    with pytest.raises(Refusal, match="makes no sense"):
        true_up(traced(TRAPEZOID), tolerance_mm=tolerance)


@pytest.mark.parametrize("points", [[], [(0, 0), (1, 1)], [(0, 0), (5, 5), (10, 10)], [(0, 0), (math.nan, 1), (2, 0)]])
def test_an_outline_without_inside_is_refused(points: list[tuple[float, float]]) -> None:
    with pytest.raises(Refusal, match="no inside"):
        true_up(points)


class TestChanges:
    ring = true_up(traced(TRAPEZOID)).outline

    def test_a_corner_is_added_on_the_trace_and_removed_again(self) -> None:
        more = add_joint(self.ring, (0, -176))
        assert len(more.joints) == 5
        new = next(k for k, j in enumerate(more.joints) if j not in self.ring.joints)
        assert more.joints[new].point == pytest.approx((0, -180), abs=0.5)
        assert remove_joint(more, new) == self.ring

    def test_a_corner_beside_another_is_refused(self) -> None:
        with pytest.raises(Refusal, match="already"):
            add_joint(self.ring, self.ring.joints[0].point)

    def test_two_corners_must_stay(self) -> None:
        ring = self.ring
        while len(ring.joints) > 2:
            ring = remove_joint(ring, 0)
        with pytest.raises(Refusal, match="two corners"):
            remove_joint(ring, 0)

    def test_a_dragged_corner_takes_its_edges_with_it(self) -> None:
        after = move_joint(self.ring, 1, (200, 180))
        ends = [j.point for j in after.joints]
        assert (200, 180) in ends
        edges = true_edges(after, 0.5)
        assert sum((200, 180) in (e.start, e.end) for e in edges) == 2

    def test_a_corner_dragged_past_its_neighbour_keeps_its_order(self) -> None:
        before = [j.along_mm for j in self.ring.joints]
        after = move_joint(self.ring, 0, self.ring.joints[2].point)
        assert [j.along_mm for j in after.joints] == pytest.approx(before)

    def test_straightening_makes_a_line_of_a_curve(self) -> None:
        ring = true_up(traced(bench_top())).outline
        edges = true_edges(set_edge_kind(ring, 1, "line"), 0.5)
        assert edges[1].kind == "line"
        assert edges[1].deviation_mm > 5
        assert edges[0].kind == "curve"

    @pytest.mark.parametrize("index", [-1, 4, 99])
    def test_a_corner_that_isnt_there_is_refused(self, index: int) -> None:
        with pytest.raises(Refusal, match="no corner"):
            remove_joint(self.ring, index)
        with pytest.raises(Refusal, match="no corner"):
            move_joint(self.ring, index, (0, 0))

    def test_a_corner_cant_be_dragged_to_nowhere(self) -> None:
        with pytest.raises(Refusal, match="100 m"):
            move_joint(self.ring, 0, (math.inf, 0))


class TestFitting:
    def test_an_arc_through_noise_has_its_radius(self) -> None:
        run = arc((10, 20), 80, 20, 140, 200) + np.random.default_rng(1).normal(0, 0.05, (200, 2))
        fitted = fit_arc(run)
        assert fitted is not None
        assert deviation(fitted, run) < 0.3

    def test_straight_points_are_no_arc(self) -> None:
        run = np.column_stack([np.linspace(0, 100, 50), np.zeros(50)])
        assert fit_arc(run) is None
        assert deviation(fit_line(run), run) < 1e-9

    @pytest.mark.parametrize("tolerance", [0.05, 0.5, 3])
    def test_a_curve_keeps_to_its_tolerance_with_fewer_pieces_the_wider_it_is(self, tolerance: float) -> None:
        x = np.linspace(0, 400, 500)
        run = np.column_stack([x, 30 * np.sin(x / 40)])
        fitted = fit_curve(run, tolerance)
        assert deviation(fitted, run) <= tolerance * 1.05
        assert len(fitted.points) <= len(fit_curve(run, tolerance / 4).points)


class TestTape:
    shape = true_up(traced(TRAPEZOID), error_mm=0.2)

    def test_measures_between_corners_and_along_edges(self) -> None:
        readings = read_tape(self.shape, [TapeMeasure(between=(0, 2)), TapeMeasure(edge=0, tape_mm=350)])
        assert readings[0].name == "A – C"
        assert readings[0].apart_mm is None
        assert readings[0].outline_mm == pytest.approx(
            math.dist(self.shape.outline.joints[0].point, self.shape.outline.joints[2].point)
        )
        assert readings[1].apart_mm == pytest.approx(readings[1].outline_mm - 350)

    def test_says_whether_the_tape_agrees_within_what_both_can_know(self) -> None:
        exact = read_tape(self.shape, [TapeMeasure(between=(0, 1))])[0].outline_mm
        near, off = read_tape(
            self.shape, [TapeMeasure((0, 1), tape_mm=exact + 1.2), TapeMeasure((0, 1), tape_mm=exact - 4)]
        )
        assert near.within_error is True
        assert off.within_error is False

    def test_a_measure_to_a_corner_that_is_gone_is_refused(self) -> None:
        for measure in (TapeMeasure(between=(0, 9)), TapeMeasure(edge=-1), TapeMeasure()):
            with pytest.raises(Refusal):
                read_tape(self.shape, [measure])


def test_corners_are_lettered_on_past_z() -> None:
    assert [letter(k) for k in (0, 25, 26, 27, 52)] == ["A", "Z", "AA", "AB", "BA"]


def test_a_ring_given_either_way_round_is_stored_counter_clockwise() -> None:
    forth = trace_ring(traced(TRAPEZOID), 0.5, counter_clockwise=True)
    back = trace_ring(traced(TRAPEZOID)[::-1], 0.5, counter_clockwise=True)
    assert all(
        math.dist(a.point, b.point) < 0.6
        for a, b in zip(*(sorted(r.joints, key=lambda j: j.point) for r in (forth, back)), strict=True)
    )
