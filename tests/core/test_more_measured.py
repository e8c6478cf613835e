"""On and off measures, rolled traces, and rings of marks."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from tests.cases import worked_cases
from tests.close import farthest
from ypsicline.core.capture.marks import ring_through
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.rings import flatten_ring, signed_area
from ypsicline.core.trueing.on_off import on_off
from ypsicline.core.trueing.rolled import rolled
from ypsicline.core.wording import render


@pytest.mark.parametrize("case", worked_cases("sling"))
def test_a_worn_cover_on_and_off_its_frame(case: dict) -> None:
    g = case["given"]
    result = on_off("width", g["on"], g["off"], g["new_cloth_stretch"])
    assert result.stretch == pytest.approx(case["expect"]["old_stretch"], abs=case["tolerance"])
    assert result.cut_mm == pytest.approx(case["expect"]["cut"], abs=case["tolerance"])
    assert f"{result.cut_mm:.1f}" in render(result.workings[-1])


def test_a_new_cloth_of_which_nothing_is_said_stretches_as_the_old_one() -> None:
    assert on_off("width", 520, 500).cut_mm == pytest.approx(500)
    assert on_off("width", 520, None).cut_mm == 520


@pytest.mark.parametrize(
    ("on", "off", "new", "says"),
    [(500, 520, None, "swapped"), (500, 200, None, "150 %"), (0, None, None, "longer than nothing"), (500, None, 0.9, "new cloth")],
)  # fmt: skip
def test_measures_that_can_not_be_are_asked_for_again(
    on: float, off: float | None, new: float | None, says: str
) -> None:
    with pytest.raises(Refusal, match=says):
        on_off("width", on, off, new)


def roll(inner: float, outer: float, angle: float, count: int, seed: int = 0, shake: float = 0.2) -> np.ndarray:
    """Two rows of marks of a rolled cone, shaken by `shake` mm, somewhere on the paper, in no order."""
    rng = np.random.default_rng(seed)
    at = np.linspace(0, angle, count) + rng.uniform(0, 6)
    points = np.vstack([r * np.column_stack([np.cos(at), np.sin(at)]) for r in (inner, outer)])
    points += rng.normal(0, shake, points.shape) + rng.uniform(-500, 500, 2)
    return points[rng.permutation(len(points))]


class TestRolledTraces:
    @pytest.mark.parametrize("case", worked_cases("cone-sleeve"))
    def test_a_cone_rolled_once_round_gives_its_radii_and_girths(self, case: dict) -> None:
        e, g = case["expect"], case["given"]
        result = rolled(
            roll(e["radius_inner"], e["radius_outer"], e["angle_rad"], 12, shake=0), g["girth_small"], g["girth_large"]
        )
        if result.angle_rad:
            assert result.outer_mm == pytest.approx(e["radius_outer"], rel=1e-4)
            assert result.angle_rad == pytest.approx(e["angle_rad"], rel=1e-3)
        assert result.girths_mm == pytest.approx((g["girth_small"], g["girth_large"]), rel=1e-3)
        assert max(abs(s or 0) for s in result.slips_mm) < 1

    # long rows close together, which a coarse search for their centre takes for one
    @example(633.2, 60.1, 0.69, 22)
    @example(899.0, 60.0, 1.0, 3)
    @example(500.0, 60.0, 1.0, 3)
    @given(st.floats(120, 900), st.floats(60, 400), st.floats(0.5, 5), st.integers(0, 99))
    def test_shaken_marks_are_fitted_and_the_outline_runs_along_them(
        self, inner: float, deep: float, angle: float, seed: int
    ) -> None:
        marks = roll(inner, inner + deep, angle, 14, seed)
        result = rolled(marks)
        ring = flatten_ring(result.outline.edges)
        assert signed_area(ring) > 0
        # a turn of half a radian hardly tells where its centre is
        assert farthest(marks, ring) < (2.0 if angle > 0.8 else 3.0)
        assert result.girths_mm[1] == pytest.approx((inner + deep) * angle, rel=0.03)

    def test_a_body_that_does_not_taper_rolls_out_straight(self) -> None:
        marks = np.array([(x, y) for x in np.linspace(0, 620, 9) for y in (0.0, 180.0)])
        result = rolled(marks + np.random.default_rng(1).normal(0, 0.1, marks.shape))
        assert (result.inner_mm, result.outer_mm) == (0, 0)
        assert [e.kind for e in result.outline.edges] == ["line"] * 4
        assert result.girths_mm == pytest.approx((620, 620), abs=1.5)

    def test_a_slip_against_the_taped_girth_is_told(self) -> None:
        result = rolled(roll(300, 480, 1.9, 9), 580, 912)
        assert result.slips_mm[0] == pytest.approx(-10, abs=1.5)
        assert any("slipped by -" in render(line) for line in result.outline.workings)

    @pytest.mark.parametrize("marks", [np.zeros((3, 2)), np.random.default_rng(0).uniform(0, 400, (30, 2))])
    def test_marks_in_no_two_rows_are_refused(self, marks: np.ndarray) -> None:
        with pytest.raises(Refusal):
            rolled(marks)


@given(st.integers(0, 60))
def test_marks_in_any_order_become_a_smooth_ring_along_them(seed: int) -> None:
    rng = np.random.default_rng(seed)
    t = np.linspace(0, 2 * math.pi, 44, endpoint=False)
    true = np.column_stack([220 * np.cos(t) * (1 + 0.3 * np.cos(2 * t)), 130 * np.sin(t)])
    marks = (true + rng.normal(0, 0.25, true.shape))[rng.permutation(len(true))]
    ring, strays = ring_through(marks)
    assert signed_area(ring) > 0
    assert farthest(marks, ring) <= strays + 0.3
    assert strays < 1.5
    assert farthest(true, ring) < 1.6
