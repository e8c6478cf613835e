"""Outlines from a tape measure, and outlines made square, alike, and true to the tape."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.cases import worked_cases
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Edge, edge_length
from ypsicline.core.geometry.rings import check_ring, ring_length, signed_area
from ypsicline.core.trueing.folding import fold
from ypsicline.core.trueing.measured import (
    MeasuredOutline,
    four_sided,
    from_edges,
    from_stations,
    rectangle,
    round_of_girth,
)
from ypsicline.core.trueing.scaling import scale_to_tape
from ypsicline.core.trueing.shape import Shape, add_joint, true_edges, true_up
from ypsicline.core.trueing.squaring import equal_edges, parallel_edges, square_corner
from ypsicline.core.trueing.tape import TapeMeasure
from ypsicline.core.wording import render

QUAD = [(0.0, 0.0), (402.0, 3.0), (396.0, 298.0), (-2.0, 304.0)]


def sound(measured: MeasuredOutline) -> np.ndarray:
    points = check_ring(measured.edges, [str(k) for k in range(len(measured.edges))])
    assert signed_area(points) > 0
    return points


@pytest.mark.parametrize("case", worked_cases("quad-from-diagonal"))
def test_four_sides_and_a_diagonal(case: dict) -> None:
    result = four_sided(**case["given"])
    for edge, point in zip(result.edges, case["expect"]["points"], strict=True):
        assert edge.start == pytest.approx(point, abs=case["tolerance"])
    assert f"{case['expect']['bd']:.1f}" in render(result.workings[0])
    assert signed_area(sound(result)) == pytest.approx(case["expect"]["area"], rel=1e-5)


@pytest.mark.parametrize("case", worked_cases("corner-radius"))
def test_the_corner_radius_from_a_diagonal(case: dict) -> None:
    g = case["given"]
    result = rectangle(g["width"], g["length"], diagonal=g["diagonal"])
    sound(result)
    arc = next(e for e in result.edges if e.kind == "arc")
    assert 2 * edge_length(arc) / math.pi == pytest.approx(case["expect"]["radius"], abs=case["tolerance"])


def test_both_diagonals_are_fitted_and_the_residuals_told() -> None:
    result = four_sided(400, 300, 400, 300, 500, 501)
    assert max(map(abs, result.residuals.values())) < 0.3
    assert "worst" in render(result.workings[0])


@pytest.mark.parametrize(
    ("measures", "named"),
    [
        ({"ab": 400, "bc": 300, "cd": 400, "da": 300, "ac": 705}, "AC of 705"),
        ({"ab": 400, "bc": 300, "cd": 400, "da": 1000, "bd": 500}, "DA of 1000"),
        ({"ab": 400, "bc": 300, "cd": 400, "da": 300}, "can lean"),
        ({"ab": 400, "bc": 300, "cd": 400, "da": 300, "ac": 500, "bd": 600}, "out by"),
        ({"ab": 0, "bc": 300, "cd": 400, "da": 300, "ac": 500}, "AB of 0"),
        ({"ab": 400, "bc": 300, "cd": 400, "da": 250, "symmetric": True}, "can't be symmetric"),
    ],
)
def test_measures_that_cannot_be_right_are_refused_by_name(measures: dict, named: str) -> None:
    with pytest.raises(Refusal, match=named):
        four_sided(**measures)


def test_four_sides_of_a_symmetric_thing() -> None:
    result = four_sided(400, 260, 300, 260, symmetric=True)
    assert [round(edge_length(e), 6) for e in result.edges] == [400, 260, 300, 260]


@pytest.mark.parametrize("diagonal", [100.0, 501.0])
def test_a_diagonal_beyond_both_ends_is_refused(diagonal: float) -> None:
    with pytest.raises(Refusal, match="can't be right"):
        rectangle(400, 300, diagonal=diagonal)


@given(st.floats(60, 2000), st.floats(60, 2000), st.floats(0, 1))
def test_a_rounded_rectangle_keeps_its_size_and_its_diagonal_tells_its_radius(
    w: float, length: float, share: float
) -> None:
    radius = share * min(w, length) / 2
    points = sound(rectangle(w, length, radius=radius))
    assert np.ptp(points, axis=0) == pytest.approx([w, length], abs=0.05)
    u = np.array([w, length]) / math.hypot(w, length)
    arcs = [e for e in rectangle(w, length, radius=radius).edges if e.kind == "arc"]
    farthest = 2 * max([float((points @ u).max()), *(float(np.asarray(p) @ u) for e in arcs for p in e.points)])
    assert farthest <= math.hypot(w, length) + 1e-6


def test_a_round_thing_by_its_girth_less_the_pencil() -> None:
    result = round_of_girth(1000, pencil=2)
    assert ring_length(result.edges) == pytest.approx(1000 - 4 * math.pi)
    assert "1000 ÷ π" in render(result.workings[0])


def test_offsets_at_stations_are_met_by_smooth_sides() -> None:
    stations = [(0, 0, 0), (120, -30, 60), (260, -42, 75), (400, -20, 40), (480, 0, 0)]
    points = sound(from_stations(stations))
    for x, low, high in stations[1:-1]:
        near = points[np.abs(points[:, 0] - x) < 1.5]
        assert (near[:, 1].min(), near[:, 1].max()) == pytest.approx((low, high), abs=0.5)
    blunt = from_stations([(0, 0, 50), (100, 0, 60), (200, 0, 40)], smooth=False)
    assert [e.kind for e in blunt.edges] == ["line"] * 6
    sound(blunt)


@pytest.mark.parametrize(
    "stations", [[], [(0, 0, 1), (0, 0, 1), (5, 0, 1)], [(0, 5, 1), (50, 0, 1), (90, 0, 1)], [(0, 0, float("nan"))] * 3]
)
def test_stations_that_make_no_outline_are_refused(stations: list) -> None:
    with pytest.raises(Refusal):
        from_stations(stations)


def test_a_measured_outline_is_a_shape_to_true_up_with_just_its_edges() -> None:
    given_edges = rectangle(400, 300, radius=40).edges
    edges = true_edges(from_edges(given_edges).outline, 0.5)
    assert sorted(e.kind for e in edges) == ["arc"] * 4 + ["line"] * 4
    for result, wanted in zip(edges, given_edges, strict=True):
        assert result.length_mm == pytest.approx(edge_length(wanted), abs=0.02)


def angles(shape: Shape) -> list[float]:
    p = np.array([j.point for j in shape.outline.joints])
    u, v = np.roll(p, 1, axis=0) - p, np.roll(p, -1, axis=0) - p
    return list(np.degrees(np.arccos((u * v).sum(axis=1) / np.hypot(*u.T) / np.hypot(*v.T))))


class TestSquaring:
    def test_a_corner_becomes_square_by_moving_only_itself(self) -> None:
        shape = true_up(QUAD)
        result = replace(shape, outline=square_corner(shape.outline, 1))
        assert angles(result)[1] == pytest.approx(90)
        after = [
            math.dist(a.point, b.point) > 1e-9 for a, b in zip(shape.outline.joints, result.outline.joints, strict=True)
        ]
        assert after == [False, True, False, False]
        assert true_edges(result.outline, 0.5)[1].kind == "line"

    def test_edges_become_parallel_and_equally_long(self) -> None:
        ring = parallel_edges(true_up(QUAD).outline, 2, 0)
        edges = true_edges(ring, 0.5)
        a, b = (np.subtract(edges[k].end, edges[k].start) for k in (0, 2))
        assert abs(a[0] * b[1] - a[1] * b[0]) < 1e-6 * np.hypot(*a) * np.hypot(*b)
        equal = true_edges(equal_edges(true_up(QUAD).outline, 1, 3), 0.5)
        assert equal[1].length_mm == pytest.approx(equal[3].length_mm)

    @pytest.mark.parametrize(
        "how", [lambda r: square_corner(r, 9), lambda r: parallel_edges(r, 0, 1), lambda r: equal_edges(r, 2, 2)]
    )
    def test_what_makes_no_sense_is_refused(self, how) -> None:  # type: ignore[no-untyped-def]
        with pytest.raises(Refusal):
            how(true_up(QUAD).outline)


class TestFolding:
    def joint(self, shape: Shape, x: float, y: float) -> int:
        return min(range(len(shape.outline.joints)), key=lambda k: math.dist(shape.outline.joints[k].point, (x, y)))

    @pytest.mark.parametrize(("keep", "width"), [("average", 203.0), ("left", 206.0), ("right", 200.0)])
    def test_halves_are_made_alike_and_their_difference_told(self, keep: str, width: float) -> None:
        base = true_up([(-3, 0), (200, 0), (200, 150), (100, 220), (-3, 150)])
        shape = replace(base, outline=add_joint(base.outline, (100, 0)))
        foot, gable = self.joint(shape, 100, 0), self.joint(shape, 100, 220)
        folded = fold(shape, foot, gable, keep)  # type: ignore[arg-type]
        assert folded.apart_mm == pytest.approx(3, abs=0.4)
        result = true_edges(folded.shape.outline, 0.5)
        xs = np.array([p for e in result for p in e.points])[:, 0]
        assert np.ptp(xs) == pytest.approx(width, abs=0.6)
        assert (xs.min() + xs.max()) / 2 == pytest.approx(100, abs=0.05)
        assert {e.kind for e in result} == {"line"}

    def test_what_is_no_fold_is_refused(self) -> None:
        shape = true_up(QUAD)
        for first, second in ((0, 0), (0, 9), (0, 1)):
            with pytest.raises(Refusal, match="fold"):
                fold(shape, first, second)


class TestScaling:
    def test_an_outline_is_scaled_to_one_measure_or_to_both_ways_apart(self) -> None:
        shape = true_up([(0, 0), (400, 0), (400, 300), (0, 300)])
        wide = scale_to_tape(shape, [TapeMeasure(between=(0, 1), tape_mm=404)])
        assert wide.factors == pytest.approx((1.01, 1.01))
        apart = scale_to_tape(
            shape, [TapeMeasure(between=(0, 1), tape_mm=404), TapeMeasure(between=(1, 2), tape_mm=297)], per_axis=True
        )
        assert apart.factors == pytest.approx((1.01, 0.99))
        assert apart.apart_mm == pytest.approx((0, 0), abs=1e-6)
        assert true_edges(apart.shape.outline, 0.5)[0].length_mm == pytest.approx(404, abs=0.01)

    @pytest.mark.parametrize(
        ("measures", "per_axis"),
        [([], False), ([TapeMeasure(between=(0, 1))], False), ([TapeMeasure(between=(0, 1), tape_mm=500)], False),
         ([TapeMeasure(between=(0, 1), tape_mm=401)], True)],
    )  # fmt: skip
    def test_what_a_tape_cannot_tell_is_refused(self, measures: list, per_axis: bool) -> None:
        shape = true_up([(0, 0), (400, 0), (400, 300), (0, 300)])
        with pytest.raises(Refusal):
            scale_to_tape(shape, measures, per_axis=per_axis)


def test_edges_of_a_shape_from_edges_may_be_curves() -> None:
    curve = Edge("curve", ((0, 0), (50, -40), (150, -40), (200, 0)))
    back = Edge("line", ((200, 0), (0, 0)))
    assert [e.kind for e in true_edges(from_edges((curve, back)).outline, 0.5)] == ["curve", "line"]


@pytest.mark.parametrize(
    ("changed", "worst"),
    # a parallelogram's diagonals differ and contradict nothing: 530² + 470² is near 2 · (400² + 300²)
    [
        ({}, None),
        ({"bd": 503}, None),
        ({"ac": 530, "bd": 470}, None),
        ({"bd": 512}, "BD"),
        ({"ac": 485}, "BD"),
        ({"ab": 425}, "BD"),
    ],
)
def test_measures_that_contradict_beyond_a_tape_are_refused_with_the_worst_named(
    changed: dict[str, float], worst: str | None
) -> None:
    """A rectangle of 400 × 300, its diagonals 500; a tape is off by 3 mm or half a per cent. One measure too many doesn't tell
    which is wrong, so the one that fits worst is named, which needn't be it."""
    measures = {"ab": 400.0, "bc": 300.0, "cd": 400.0, "da": 300.0, "ac": 500.0, "bd": 500.0} | changed
    if worst is None:
        assert max(map(abs, four_sided(**measures).residuals.values())) <= 3
        return
    with pytest.raises(Refusal) as caught:
        four_sided(**measures)
    assert f"“{worst}”" in caught.value.sentence
    # one diagonal alone contradicts nothing
    assert four_sided(**(measures | {"bd": None})).edges
