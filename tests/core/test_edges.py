"""Lines, arcs and curves."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry import Edge, edge_length, flatten, parallel, point_at, reverse_edge, split_edge, tangent_at
from ypsicline.core.geometry.bends import tightest_concave, tightest_convex
from ypsicline.core.geometry.edges import (
    circle_of,
    derivatives_at,
    parameter_at_length,
    parameters,
    place_at_length,
    points_at,
)
from ypsicline.core.geometry.feet import feet_on
from ypsicline.core.geometry.parallel import parallels

coordinate = st.floats(-500, 500).map(lambda v: round(v, 3))
point = st.tuples(coordinate, coordinate)
line = st.builds(lambda a, b: Edge("line", (a, b)), point, point)
arc = st.builds(lambda a, b, c: Edge("arc", (a, b, c)), point, point, point)
curve = st.builds(lambda a, b, c, d: Edge("curve", (a, b, c, d)), point, point, point, point)
edges = st.one_of(line, arc, curve)


def sound(edge: Edge) -> bool:
    """Long enough, no cusp, and not an arc of a kilometre."""
    if edge_length(edge) < 5 or math.dist(edge.start, edge.end) < 1:
        return False
    circle = circle_of(edge) if edge.kind == "arc" else None
    if edge.kind == "arc" and (circle is None or circle.radius > 5000):
        return False
    inner = np.diff(np.asarray(edge.points), axis=0)
    first, _ = derivatives_at(edge, np.linspace(0, 1, 400))
    speed = np.hypot(*first.T)
    return bool((np.hypot(*inner.T) > 1).all() and speed.min() > 0.02 * speed.max())


def test_a_quarter_arc_has_its_length_and_its_middle() -> None:
    quarter = Edge("arc", ((10, 0), (10 / math.sqrt(2), 10 / math.sqrt(2)), (0, 10)))
    assert edge_length(quarter) == pytest.approx(5 * math.pi)
    assert tangent_at(quarter, 0.5) == pytest.approx((-1 / math.sqrt(2), 1 / math.sqrt(2)))


@pytest.mark.parametrize("sign", [1, -1])
def test_arcs_run_through_their_middle_point_both_ways_round(sign: int) -> None:
    most = Edge("arc", ((10, 0), (-10, 0.001 * sign), (10 * math.cos(0.5), -10 * sign * math.sin(0.5))))
    circle = circle_of(most)
    assert circle is not None
    assert math.copysign(1, circle.sweep) == sign
    assert abs(circle.sweep) == pytest.approx(2 * math.pi - 0.5, abs=0.01)


def test_an_arc_of_three_points_in_a_row_is_straight() -> None:
    straight = Edge("arc", ((0, 0), (5, 0), (10, 0)))
    assert circle_of(straight) is None
    assert edge_length(straight) == 10
    assert parallel(straight, 2).kind == "line"


@pytest.mark.parametrize(
    ("kind", "points"),
    [
        ("line", ((0, 0),)), ("line", ((0, 0), (1, 1), (2, 2))), ("arc", ((0, 0), (1, 1))), ("curve", ((0, 0), (1, 1), (2, 2))),
        ("curve", ((0, 0),) * 5), ("line", ((0, 0), (math.nan, 1))), ("line", ((0, 0), (math.inf, 1))), ("line", ((0, 0), (1e9, 1))),
        ("circle", ((0, 0), (1, 1))),
    ],
)  # fmt: skip
def test_refuses_edges_that_are_none(kind: str, points: tuple[tuple[float, float], ...]) -> None:
    with pytest.raises(Refusal):
        Edge(kind, points)  # type: ignore[arg-type]


@given(edges)
def test_flattening_keeps_within_its_tolerance_and_the_ends(edge: Edge) -> None:
    assume(sound(edge))
    flat = flatten(edge, 0.02)
    assert tuple(flat[0]) == edge.start
    assert tuple(flat[-1]) == edge.end
    exact = points_at(edge, np.linspace(0, 1, 301))
    assert shapely.distance(shapely.LineString(flat), shapely.points(exact)).max() <= 0.021


@given(edges)
def test_reversing_keeps_the_length_and_twice_is_nothing(edge: Edge) -> None:
    assume(sound(edge))
    assert edge_length(reverse_edge(edge)) == pytest.approx(edge_length(edge), rel=1e-6)
    assert reverse_edge(reverse_edge(edge)) == edge


@given(edges, st.floats(0.05, 0.95))
def test_both_parts_of_a_split_edge_lie_on_it_and_add_up(edge: Edge, t: float) -> None:
    assume(sound(edge))
    first, second = split_edge(edge, 0, t), split_edge(edge, t, 1)
    assert edge_length(first) + edge_length(second) == pytest.approx(edge_length(edge), rel=1e-4)
    assert math.dist(first.end, point_at(edge, t)) < 1e-6
    line_ = shapely.LineString(flatten(edge, 0.001))
    for part in (first, second):
        assert shapely.distance(line_, shapely.points(flatten(part))).max() < 0.01


@given(st.one_of(line, arc), st.floats(-60, 60))
def test_the_parallel_of_a_line_and_an_arc_is_exact(edge: Edge, distance: float) -> None:
    assume(sound(edge))
    t = np.linspace(0, 1, 25)
    after = parallel(edge, distance)
    circle = circle_of(edge) if edge.kind == "arc" else None
    if circle and abs(circle.radius - abs(distance)) < 0.5:
        return
    for k, p in zip(t, points_at(after, t), strict=True):
        (dx, dy), (x, y) = tangent_at(edge, k), points_at(edge, np.array([k]))[0]
        assert math.dist(p, (x + distance * dy, y - distance * dx)) < 1e-5


@given(curve, st.floats(-40, 40))
def test_the_parallel_of_a_curve_is_within_its_tolerance_where_it_is_tame(edge: Edge, distance: float) -> None:
    assume(sound(edge))
    t = parameters(edge)
    flat = points_at(edge, t)
    turn = np.abs(np.diff(np.unwrap(np.arctan2(*np.diff(flat, axis=0).T[::-1]))))
    assume(turn.max() < 0.2)
    after = flatten(parallel(edge, distance), 0.005)
    exact = []
    for k in np.linspace(0.02, 0.98, 40):
        (dx, dy), (x, y) = tangent_at(edge, k), points_at(edge, np.array([k]))[0]
        exact.append((x + distance * dy, y - distance * dx))
    assert shapely.distance(shapely.LineString(after), shapely.points(exact)).max() < 0.02


@given(st.lists(edges.filter(sound), min_size=1, max_size=4), st.floats(-20, 20))
def test_parallels_worked_out_together_are_those_worked_out_alone(several: list[Edge], distance: float) -> None:
    together = [p.edge for p in parallels(several, [distance] * len(several))]
    assert [e.kind for e in together] == [e.kind for e in several]
    for one, edge in zip(together, several, strict=True):
        alone = parallel(edge, distance)
        assert np.asarray(one.points) == pytest.approx(np.asarray(alone.points), abs=1e-9)


@given(edges.filter(sound), st.floats(1, 60))
def test_a_parallel_turns_back_where_its_edge_bends_more_tightly(edge: Edge, distance: float) -> None:
    first, second = derivatives_at(edge, np.linspace(0.0002, 0.9998, 5000))
    right = (second[:, 0] * first[:, 1] - second[:, 1] * first[:, 0]) / np.hypot(*first.T) ** 3
    radius = 1 / right.max() if edge.kind != "line" and right.max() > 1e-6 else math.inf
    assume(not 0.9 < radius / distance < 1.1)
    (after,) = parallels([edge], [distance])
    assert after.turns_back == (radius < distance)


@pytest.mark.parametrize("points", [((0, 0), (0, 0), (40, 60), (100, 0)), ((0, 0), (40, 60), (100, 0), (100, 0))])
def test_a_handle_of_no_length_has_a_parallel_all_the_same(points: tuple[tuple[float, float], ...]) -> None:
    edge = Edge("curve", points)
    after = flatten(parallel(edge, 5.0))
    assert np.isfinite(after).all()
    assert shapely.distance(shapely.LineString(flatten(edge, 1e-4)), shapely.points(after)) == pytest.approx(
        5, abs=0.02
    )


@given(edges.filter(sound), st.floats(0.02, 0.98), st.floats(-3, 3))
def test_the_foot_of_a_point_lies_square_below_it(edge: Edge, t: float, away: float) -> None:
    (x, y), (dx, dy) = point_at(edge, t), tangent_at(edge, t)
    tight = [r for r in (tightest_concave(edge), tightest_convex(edge)) if r is not None]
    assume(not tight or min(tight) > 12)
    above = np.array([[x - away * dy, y + away * dx]])
    feet, left = feet_on(edge, above)
    whole = shapely.LineString(flatten(edge, 1e-4))
    gap = float(np.hypot(*(above - feet)[0]))
    # a point may lie nearer to another part of the edge, but never farther than where it was put up
    assert gap <= abs(away) + 1e-6
    assert gap == pytest.approx(float(whole.distance(shapely.Point(above[0]))), abs=1e-3)
    assert abs(float((above - feet)[0] @ left[0])) == pytest.approx(gap, abs=1e-3)


@pytest.mark.parametrize("kind", ["line", "arc", "curve"])
def test_beyond_its_ends_an_edge_is_led_straight_on(kind: str) -> None:
    inner = {"line": (), "arc": ((50, 20),), "curve": ((30, 25), (70, 25))}[kind]
    edge = Edge(kind, ((0, 0), *inner, (100, 0)))  # type: ignore[arg-type]
    for at, way in ((0.0, -1), (1.0, 1)):
        end, d = np.array(point_at(edge, at)), np.array(tangent_at(edge, at))
        normal = np.array([-d[1], d[0]])
        feet, left = feet_on(edge, (end + way * 30 * d + 4 * normal)[None])
        assert feet[0] == pytest.approx(end + way * 30 * d, abs=1e-6)
        assert left[0] == pytest.approx(normal, abs=1e-6)


def test_how_tightly_an_edge_bends_to_either_side() -> None:
    bump, dent = (Edge("arc", ((100, 0), (50, s), (0, 0))) for s in (50, -50))
    assert [tightest_convex(bump), tightest_concave(bump)] == [pytest.approx(50), None]
    assert [tightest_convex(dent), tightest_concave(dent)] == [None, pytest.approx(50)]
    straight = Edge("arc", ((0, 0), (50, 0), (100, 0)))
    assert [tightest_convex(straight), tightest_concave(Edge("line", ((0, 0), (9, 0))))] == [None, None]
    wave = Edge("curve", ((0, 0), (40, 60), (60, -60), (100, 0)))
    assert tightest_convex(wave) == pytest.approx(tightest_concave(wave), rel=1e-3)


@given(edges.filter(sound), st.floats(0.001, 1))
def test_a_place_along_an_edge_is_as_far_as_it_says(edge: Edge, share: float) -> None:
    length = edge_length(edge)
    at, _ = place_at_length(edge, share * length)
    t = parameter_at_length(edge, share * length)
    assert at == pytest.approx(point_at(edge, t), abs=1e-6)
    assert edge_length(split_edge(edge, 0, t)) == pytest.approx(share * length, abs=0.005)
