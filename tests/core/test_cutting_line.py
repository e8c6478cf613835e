"""Rule 2: another allowance and another corner on every edge."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests import shapes
from tests.cases import worked_cases
from tests.close import farthest, same_ring
from ypsicline.core.drafting.cutting_line import cut_ring
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry import (
    check_ring,
    flatten,
    flatten_ring,
    is_counter_clockwise,
    parallel,
    reverse_ring,
    signed_area,
)
from ypsicline.core.pattern.seam_edge import SeamEdge

MITRES = worked_cases("unequal-mitre")


def cut(seam: shapes.Ring, **how: float) -> np.ndarray:
    (ring,) = cut_ring(seam, **how)  # type: ignore[arg-type]
    return flatten_ring(ring.edges)


@pytest.mark.parametrize("case", MITRES, ids=lambda c: c["name"])
def test_worked_cases_of_unequal_mitres(case: dict) -> None:
    given_ = case["given"]
    seam = shapes.polygon([tuple(p) for p in given_["seam_line"]])
    seam = tuple(replace(e, allowance=a) for e, a in zip(seam, given_["allowance_of_edge"], strict=True))
    (ring,) = cut_ring(seam, mitre_limit=given_["mitre_limit"])
    result = [e.start for e in ring.edges]
    assert len(result) == len(case["expect"]["cutting_line"])
    assert same_ring(result, case["expect"]["cutting_line"], within_mm=case["tolerance"])
    assert signed_area(np.asarray(result)) == pytest.approx(case["expect"]["area"], abs=1)


def test_a_square_with_equal_mitres_is_a_larger_square_of_four_edges() -> None:
    (ring,) = cut_ring(shapes.square(100, allowance=10))
    assert len(ring.edges) == 4
    assert [e.name for e in ring.edges] == ["a", "b", "c", "d"]
    assert same_ring([e.start for e in ring.edges], [(-10, -10), (110, -10), (110, 110), (-10, 110)], within_mm=1e-9)


def test_a_bevel_cuts_the_corner_off_between_the_two_ends() -> None:
    points = cut(shapes.square(100, allowance=10, corner="bevel"))
    assert len(points) == 8
    assert signed_area(points) == pytest.approx(120 * 120 - 4 * 50)


def test_a_square_corner_ends_each_band_at_right_angles() -> None:
    points = cut(shapes.square(100, allowance=10, corner="square"))
    assert signed_area(points) == pytest.approx(100 * 100 + 4 * 100 * 10)


def test_where_allowances_differ_along_a_straight_edge_there_is_a_step() -> None:
    seam = shapes.polygon([(0, 0), (50, 0), (100, 0), (100, 60), (0, 60)], corner="square")
    seam = (replace(seam[0], allowance=5), replace(seam[1], allowance=25), *seam[2:])
    points = cut(seam)
    assert (50.0, -5.0) in {(round(x, 6), round(y, 6)) for x, y in points}
    assert (50.0, -25.0) in {(round(x, 6), round(y, 6)) for x, y in points}


def test_a_mitre_beyond_its_limit_is_bevelled() -> None:
    points = cut(shapes.needle(10))
    assert points[:, 0].min() > -11
    assert cut(shapes.needle(10), mitre_limit=99)[:, 0].min() < -190


def test_a_turned_corner_lies_on_the_neighbours_cutting_line_once_it_is_folded() -> None:
    seam = shapes.polygon([(0, 0), (200, 0), (170, 120), (20, 120)])
    seam = (
        replace(seam[0], allowance=30, finish="hem", corner="mirror"),
        *seam[1:3],
        replace(seam[3], corner="mirror"),
    )
    (ring,) = cut_ring(seam)
    below = [p for e in ring.edges for p in e.points if p[1] < -1e-6]
    folded = [(x, -y) for x, y in below]
    neighbours = [parallel(seam[1], 10), parallel(seam[3], 10)]
    lines = [shapely.LineString([_far(e, -1), _far(e, 1)]) for e in neighbours]
    assert len(folded) >= 4
    for p in folded:
        assert min(line.distance(shapely.Point(p)) for line in lines) < 0.1 or abs(p[1] - 30) < 1e-6


def _far(edge: object, way: int) -> tuple[float, float]:
    (ax, ay), (bx, by) = edge.start, edge.end  # type: ignore[attr-defined]
    return ((ax, ay) if way < 0 else (bx, by))[0] + way * (bx - ax), ((ax, ay) if way < 0 else (bx, by))[1] + way * (
        by - ay
    )


def test_arcs_stay_arcs_of_the_same_centre() -> None:
    (ring,) = cut_ring(shapes.circle(50, allowance=10))
    assert [e.kind for e in ring.edges] == ["arc", "arc"]
    assert np.allclose(np.hypot(*flatten_ring(ring.edges).T), 60, atol=0.011)


def test_a_curve_too_tight_for_its_allowance_loses_the_loop() -> None:
    (ring,) = cut_ring(shapes.bitten_square(radius=15, allowance=20))
    points = flatten_ring(ring.edges)
    assert shapely.Polygon(points).is_valid
    assert 3 in ring.cut_short
    # the bite is 30 wide and both sides want 20: nothing of it is left to cut
    assert farthest([(60, 120)], points) < 1e-6


def test_an_inlet_that_closes_up_is_reported_with_its_place() -> None:
    (ring,) = cut_ring(shapes.keyhole(8))
    assert len(ring.closed_at) == 1
    x, y = ring.closed_at[0]
    assert abs(x) < 1
    assert 60 < y < 80


def test_without_allowances_the_cutting_line_is_the_seam_line() -> None:
    for make in shapes.ALL_SOUND.values():
        seam = tuple(replace(e, allowance=0.0) for e in make())
        assert same_ring(cut(seam), flatten_ring(seam), within_mm=0.011)


@pytest.mark.parametrize("name", shapes.ALL_SOUND)
@pytest.mark.parametrize("allowance", [0.5, 6, 12, 40])
def test_awkward_shapes_hold_their_seam_line_and_never_cross_themselves(name: str, allowance: float) -> None:
    seam = tuple(replace(e, allowance=allowance) for e in shapes.ALL_SOUND[name]())
    assert_sound(seam)


def test_a_hole_takes_its_allowance_inward() -> None:
    hole = reverse_ring(shapes.circle(30, allowance=8))
    (ring,) = cut_ring(hole, hole=True)
    points = flatten_ring(ring.edges)
    assert signed_area(points) < 0
    assert np.allclose(np.hypot(*points.T), 22, atol=0.011)


def test_a_hole_filled_by_its_allowance_is_refused_with_the_place() -> None:
    with pytest.raises(Refusal, match="leaves nothing of it") as refusal:
        cut_ring(reverse_ring(shapes.circle(8, allowance=10)), hole=True)
    assert refusal.value.place.edge


def test_a_waisted_hole_falls_into_two() -> None:
    waist = shapes.polygon([(0, 0), (40, 18), (80, 0), (80, 40), (40, 22), (0, 40)], allowance=5)
    rings = cut_ring(reverse_ring(waist), hole=True)
    assert len(rings) == 2


def test_an_outline_that_touches_itself_is_refused_with_the_place() -> None:
    seam = shapes.bow_tie()
    with pytest.raises(Refusal, match="touches or crosses itself near") as refusal:
        check_ring(seam, [e.name for e in seam])
    assert refusal.value.place.point == pytest.approx((50, 50))


def assert_sound(seam: tuple[SeamEdge, ...]) -> None:
    """No crossing; the seam line inside; every point of a cut edge on its parallel unless it is a corner's."""
    (ring,) = cut_ring(seam)
    points = flatten_ring(ring.edges)
    polygon = shapely.Polygon(points)
    assert polygon.is_valid, shapely.is_valid_reason(polygon)
    assert is_counter_clockwise(ring.edges)
    lost = shapely.Polygon(flatten_ring(seam)).difference(polygon, grid_size=1e-6)
    assert lost.area <= 0.02 * shapely.Polygon(flatten_ring(seam)).length
    for edge in ring.edges:
        if edge.seam_edge is None:
            continue
        own = parallel(seam[edge.seam_edge], seam[edge.seam_edge].allowance)
        reach = 2000.0 if own.kind == "line" else 0.0
        line = shapely.LineString(_longer(flatten(own, 0.002), reach))
        off = shapely.distance(line, shapely.points(flatten(edge)[1:-1])) if len(flatten(edge)) > 2 else np.zeros(1)
        assert off.max() <= 0.02


def _longer(points: np.ndarray, reach: float) -> np.ndarray:
    if not reach:
        return points
    d = (points[-1] - points[0]) / np.hypot(*(points[-1] - points[0]))
    return np.array([points[0] - reach * d, points[-1] + reach * d])


@st.composite
def random_outline(draw: st.DrawFn) -> tuple[SeamEdge, ...]:
    """A star-shaped ring of lines, arcs and curves, convex or not, with unequal allowances and every corner."""
    count = draw(st.integers(3, 8))
    radii = draw(st.lists(st.floats(60, 300), min_size=count, max_size=count))
    shares = draw(st.lists(st.floats(0.4, 1), min_size=count, max_size=count))
    angles = np.cumsum(shares) / sum(shares) * 2 * math.pi
    corners = [(r * math.cos(a), r * math.sin(a)) for r, a in zip(radii, angles, strict=True)]
    edges = []
    for k, p in enumerate(corners):
        q = corners[(k + 1) % count]
        kind = draw(st.sampled_from(["line", "arc", "curve"]))
        bend, bend2 = draw(st.floats(-0.3, 0.3)), draw(st.floats(-0.3, 0.3))
        nx, ny = q[1] - p[1], p[0] - q[0]
        inner = {
            "line": (),
            "arc": (((p[0] + q[0]) / 2 + bend * nx, (p[1] + q[1]) / 2 + bend * ny),),
            "curve": (
                (p[0] + (q[0] - p[0]) / 3 + bend * nx, p[1] + (q[1] - p[1]) / 3 + bend * ny),
                (p[0] + 2 * (q[0] - p[0]) / 3 + bend2 * nx, p[1] + 2 * (q[1] - p[1]) / 3 + bend2 * ny),
            ),
        }[kind]
        allowance = draw(st.sampled_from([0.0, 3.0, 10.0, 25.0, 60.0]))
        finish = draw(st.sampled_from(["plain", "hem", "bound"]))
        corner = draw(st.sampled_from(["mitre", "bevel", "square", "mirror"]))
        edges.append(SeamEdge(kind, (p, *inner, q), f"e{k}", allowance, finish, corner))  # type: ignore[arg-type]
    return tuple(edges)


@settings(max_examples=120)
@given(random_outline())
def test_random_outlines_with_every_kind_of_corner(seam: tuple[SeamEdge, ...]) -> None:
    try:
        check_ring(seam, [e.name for e in seam])
    except Refusal:
        assume(False)
    assume(is_counter_clockwise(seam))
    (ring,) = cut_ring(seam)
    polygon = shapely.Polygon(flatten_ring(ring.edges))
    assert polygon.is_valid, shapely.is_valid_reason(polygon)
    body = shapely.Polygon(flatten_ring(seam))
    assert body.difference(polygon, grid_size=1e-6).area <= 0.01 * body.length
    assert polygon.area >= body.area - 0.01 * body.length


@given(st.floats(1, 40), st.floats(1, 40))
def test_more_allowance_never_makes_less_cloth(less: float, more: float) -> None:
    less, more = sorted((less, more))
    areas = [signed_area(cut(tuple(replace(e, allowance=a) for e in shapes.wave()))) for a in (less, more)]
    assert areas[0] <= areas[1] + 1e-6
