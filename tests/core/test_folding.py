"""Hems as they fold: turned corners, hem mitres, house rules, and edges that are split and merged."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from bench.outlines import cutting_lines
from tests import shapes
from tests.close import same_ring
from ypsicline.core.drafting.corners import corner_by_rule
from ypsicline.core.drafting.draft import draft_panel
from ypsicline.core.drafting.from_shape import set_edges
from ypsicline.core.drafting.house import Cloth, House, by_house_rules
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry import edge_length, ring_length
from ypsicline.core.pattern.edge_changes import (
    changed_size,
    merge_edges,
    mirrored,
    quarter_notches,
    split_panel_edge,
    with_feature,
    without_feature,
)
from ypsicline.core.pattern.features.aperture import Aperture
from ypsicline.core.pattern.features.dart import Dart
from ypsicline.core.pattern.features.gather import Gather
from ypsicline.core.pattern.features.mark_at import MarkAt
from ypsicline.core.pattern.features.notch import Notch
from ypsicline.core.pattern.features.taper import Taper
from ypsicline.core.pattern.finish import finish_called
from ypsicline.core.pattern.house_rules import HouseRules
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.wording import render


@st.composite
def hemmed_quadrilateral(draw: st.DrawFn) -> tuple[SeamEdge, ...]:
    """Four sides with corners of 55 to 125 degrees, hemmed once or twice or with an allowance."""
    wobble = [(draw(st.floats(-50, 50)), draw(st.floats(-50, 50))) for _ in range(4)]
    points = [
        (x + dx, y + dy) for (x, y), (dx, dy) in zip([(0, 0), (300, 0), (300, 260), (0, 260)], wobble, strict=True)
    ]
    ring = []
    for k, p in enumerate(points):
        finish = draw(st.sampled_from(["plain", "hem", "double_hem", "casing"]))
        width = draw(st.floats(8, 30))
        under = width * draw(st.floats(0.1, 0.5)) if finish in ("double_hem", "casing") else 0.0
        ring.append(SeamEdge("line", (p, points[(k + 1) % 4]), f"e{k}", width, finish, "by_rule", under))  # type: ignore[arg-type]
    return tuple(ring)


def fold(p: tuple[float, float], edge: SeamEdge) -> tuple[float, float]:
    """Where a point of the hem comes to lie, folded at the inner fold first and then at the seam line."""
    (ax, ay), (bx, by) = edge.points
    length = math.dist(edge.start, edge.end)
    ux, uy = (bx - ax) / length, (by - ay) / length
    s, out = (p[0] - ax) * ux + (p[1] - ay) * uy, (p[0] - ax) * uy - (p[1] - ay) * ux
    depth = out if out <= edge.depth else 2 * edge.depth - out
    return ax + s * ux - depth * uy, ay + s * uy + depth * ux


@settings(max_examples=60)
@given(hemmed_quadrilateral())
def test_folded_back_no_raw_edge_stands_out(ring: tuple[SeamEdge, ...]) -> None:
    draft = draft_panel(Panel("p", ring))
    assert not [f for f in draft.findings if "stands out" in render(f.message)]
    cut = shapely.Polygon(draft.cutting_points)
    for k, edge in enumerate(ring):
        corners = {draft.seam_line[k - 1].corner, draft.seam_line[k].corner}
        if not edge.is_folded_back or "hem_mitre" in corners:
            continue
        for e in draft.cutting_line:
            if e.seam_edge == k:
                assert all(cut.distance(shapely.Point(fold(p, edge))) <= 0.1 for p in e.points)


@st.composite
def bowed_quadrilateral(draw: st.DrawFn) -> tuple[SeamEdge, ...]:
    """The same with sides that are arcs and curves."""
    ring = []
    for e in draw(hemmed_quadrilateral()):
        (ax, ay), (bx, by) = e.points
        kind = draw(st.sampled_from(["line", "arc", "curve"]))
        inner = {"line": (), "arc": (0.5,), "curve": (1 / 3, 2 / 3)}[kind]
        bows = [draw(st.floats(-0.12, 0.12)) for _ in inner]
        bent = [
            (ax + u * (bx - ax) + b * (by - ay), ay + u * (by - ay) + b * (ax - bx))
            for u, b in zip(inner, bows, strict=True)
        ]
        ring.append(replace(e, kind=kind, points=((ax, ay), *bent, (bx, by))))
    return tuple(ring)


@settings(max_examples=40)
@given(bowed_quadrilateral())
def test_on_curves_no_raw_edge_stands_out_either(ring: tuple[SeamEdge, ...]) -> None:
    draft = draft_panel(Panel("p", ring))
    assert not [f for f in draft.findings if "stands out" in render(f.message)]


@pytest.mark.parametrize("sagitta", [-40.0, 15.0, 60.0])
@pytest.mark.parametrize("side", ["plain", "hem"])
def test_a_hem_on_an_arc_folds_along_its_radii(sagitta: float, side: str) -> None:
    """A point r + d from the centre comes to lie at r − d, on or inside the cloth."""
    top = SeamEdge("arc", ((400, 300), (200, 300 + sagitta), (0, 300)), "top", 25, "hem", "by_rule")
    upright = [((400, 0), (400, 300)), ((0, 300), (0, 0))]
    right, left = (SeamEdge("line", p, n, 18, side, "by_rule") for p, n in zip(upright, ("right", "left"), strict=True))  # type: ignore[arg-type]
    bottom = SeamEdge("line", ((0, 0), (400, 0)), "bottom", 10)
    draft = draft_panel(Panel("p", (bottom, right, top, left)))
    radius = (200**2 + sagitta**2) / (2 * abs(sagitta))
    centre = np.array([200, 300 + sagitta - math.copysign(radius, sagitta)])
    cut = np.asarray(draft.cutting_points)
    away = cut - centre
    reach = np.hypot(*away.T)
    beyond = math.copysign(1.0, sagitta) * (reach - radius)
    # above the line of the arc's ends it is folded straight on, and the sides' own hems aren't the arc's
    own = (beyond > 0.01) & (np.abs(cut[:, 0] - 200) < 195)
    assert own.sum() > 20
    lies = centre + away[own] / reach[own, None] * (2 * radius - reach[own])[:, None]
    assert float(shapely.distance(shapely.Polygon(cut), shapely.points(lies)).max()) <= 0.1


def test_a_hem_mitre_meets_on_the_bisector_with_its_sewing_allowance() -> None:
    draft = draft_panel(Panel("p", shapes.square(300, allowance=30, finish="hem", corner="by_rule")))
    assert draft.seam_line[0].corner == "hem_mitre"
    points = np.asarray(draft.cutting_points)
    assert len(points) == 8
    # the classic cut: a line across the corner at 45°, the sewing allowance of 6 outside it
    near = points[np.hypot(*(points - [300, 0]).T) < 60]
    assert np.abs((near - [300, 0]) @ [1, -1] / math.sqrt(2) - 6) == pytest.approx([0, 0], abs=1e-6)


def test_a_double_hem_is_turned_at_each_of_its_folds() -> None:
    ring = shapes.polygon([(0, 0), (200, 0), (160, 120), (30, 120)])
    ring = (
        replace(ring[0], allowance=30, finish="double_hem", turn_under=10, corner="by_rule"),
        *ring[1:3],
        replace(ring[3], corner="by_rule"),
    )
    draft = draft_panel(Panel("p", ring))
    below = [p for p in draft.cutting_points if p[1] < -1e-6]
    neighbours = [shapely.LineString(line) for line in _prolonged(ring)]
    folded = [fold(p, ring[0]) for p in below]
    assert len(below) == 4
    assert all(min(n.distance(shapely.Point(p)) for n in neighbours) < 1e-6 for p in folded)


def _prolonged(ring: tuple[SeamEdge, ...]) -> list[list[tuple[float, float]]]:
    result = []
    for e in (ring[1], ring[3]):
        (ax, ay), (bx, by) = e.points
        d = math.dist(e.start, e.end)
        nx, ny = (by - ay) / d * e.allowance, (ax - bx) / d * e.allowance
        ux, uy = (bx - ax) / d, (by - ay) / d
        result.append([(ax + nx - 500 * ux, ay + ny - 500 * uy), (bx + nx + 500 * ux, by + ny + 500 * uy)])
    return result


def test_a_mitred_hem_at_a_sharp_corner_stands_out_and_is_said() -> None:
    ring = shapes.polygon([(0, 0), (300, 0), (220, 200), (80, 200)], allowance=12)
    ring = (
        replace(ring[0], allowance=40, finish="hem", corner="square"),
        *ring[1:3],
        replace(ring[3], corner="square"),
    )
    draft = draft_panel(Panel("p", ring))
    assert any("stands out by" in render(f.message) for f in draft.findings)
    assert len(draft.folded) == 1


def test_the_cloth_of_a_hem_has_what_its_corners_have() -> None:
    hemmed = [replace(e, allowance=30, finish="hem", corner="mitre") for e in shapes.square(400)[:2]]
    draft = draft_panel(Panel("p", (*hemmed, *shapes.square(400)[2:])))
    cloth = [shapely.Polygon(ring) for ring in draft.hem_cloth]
    assert len(cloth) == 2
    assert all(c.intersection(shapely.box(0, 0, 400, 400)).area < 1e-3 for c in cloth)
    assert cloth[0].intersection(cloth[1]).area == pytest.approx(30 * 30)


def test_corners_follow_from_the_two_finishes_unless_they_are_set() -> None:
    hem, plain = (shapes.square(finish=f, corner="by_rule")[0] for f in ("hem", "plain"))
    assert [corner_by_rule(a, b) for a, b in ((hem, hem), (hem, plain), (plain, hem), (plain, plain))] == [
        "hem_mitre", "mirror", "mirror", "mitre",
    ]  # fmt: skip
    assert corner_by_rule(replace(hem, corner="bevel"), hem) == "bevel"


def test_outlines_drawn_by_lot_are_cut_without_a_fault() -> None:
    result, refusal, wrong = cutting_lines(150, seed=11)
    assert wrong == []
    assert result > 100
    assert refusal > 0


class TestHouseRules:
    @pytest.mark.parametrize(
        ("finish", "allowance", "under", "words"),
        [
            ("plain", 12, 0, "12 for this finish"), ("hem", 25, 0, "neatened"), ("double_hem", 30, 10, "20 + turn-under 10 = 30"),
            ("bound", 0, 0, "on the seam line"), ("faced", 10, 0, "10"), ("felled_narrow", 8, 0, "= 8"), ("felled_wide", 18, 0, "= 18"),
            ("french", 15, 0, "first pass 6 + second pass 9 = 15"), ("lapped_under", 15, 0, "15 under"), ("lapped_over", 12, 0, "over its mate by 15"),
        ],
    )  # fmt: skip
    def test_each_finish_has_its_allowance(self, finish: str, allowance: float, under: float, words: str) -> None:
        result = finish_called(finish).allowance_by_rule(HouseRules())
        assert (result.allowance, result.turn_under) == (allowance, under)
        assert words in render(result.working)

    def test_a_casing_has_room_for_what_it_carries(self) -> None:
        cord = finish_called("casing").allowance_by_rule(HouseRules(), cord_mm=5)
        assert "π × 5 ÷ 2 + 3 = 10.9" in render(cord.working)
        assert cord.allowance - cord.turn_under >= math.pi * 5 / 2 + 3
        elastic = finish_called("casing").allowance_by_rule(HouseRules(), elastic_mm=20)
        assert elastic.allowance - elastic.turn_under >= 24

    def test_a_cloth_has_its_own_rules_and_overruled_edges_stay(self) -> None:
        house = House(cloths=(Cloth("oilcloth", rules=HouseRules(seam=8)),))
        panel = set_edges(
            Panel("p", shapes.square(allowance=0), cloth="oilcloth"), ["edge1", "edge2"], by_rule=True, house=house
        )
        panel = set_edges(panel, ["edge2"], allowance_mm=20, house=house)
        assert [e.allowance for e in panel.seam_line] == [8, 20, 0, 0]
        wider = by_house_rules(replace(panel, cloth="canvas"), House(rules=HouseRules(seam=15)))
        assert [e.allowance for e in wider.seam_line] == [15, 20, 0, 0]

    @pytest.mark.parametrize("wrong", [{"seam": -1}, {"hem": math.nan}, {"felled": 2}])
    def test_rules_that_make_no_sense_are_refused(self, wrong: dict) -> None:
        with pytest.raises(Refusal):
            HouseRules(**wrong)

    def test_a_turn_under_deeper_than_its_hem_is_refused(self) -> None:
        with pytest.raises(Refusal, match="half of the allowance"):
            replace(shapes.square()[0], turn_under=8)


PANEL = Panel(
    "p",
    shapes.wave(),
    middle_notches=False,
    features=(Notch("edge3", 30), Notch("edge4", 10), Taper("edge4", 20, 20, 6)),
)


class TestChangingPanels:
    @given(st.integers(0, 3), st.floats(0.05, 0.95))
    def test_a_split_edge_changes_nothing_and_can_be_merged_again(self, edge: int, share: float) -> None:
        along = share * edge_length(PANEL.seam_line[edge])
        whole = replace(PANEL, features=PANEL.without(Taper))
        split = split_panel_edge(whole, whole.seam_line[edge].id, along).panel
        assert len(split.seam_line) == 5
        before, after = draft_panel(whole), draft_panel(split)
        assert ring_length(split.seam_line) == pytest.approx(ring_length(PANEL.seam_line), abs=1e-6)
        assert same_ring(before.cutting_points, after.cutting_points, within_mm=0.02)
        places = [[n.on_seam for n in d.notches] for d in (before, after)]
        assert np.allclose(places[0], places[1], atol=1e-4)
        merged = merge_edges(split, whole.seam_line[edge].id).panel
        assert len(merged.seam_line) == 4
        assert same_ring(draft_panel(merged).cutting_points, before.cutting_points, within_mm=0.02)
        assert [n.edge for n in merged.of(Notch)] == ["edge3", "edge4"]

    def test_edges_with_a_corner_between_them_arent_merged(self) -> None:
        with pytest.raises(Refusal, match="There is a corner"):
            merge_edges(PANEL, "edge1")
        with pytest.raises(Refusal, match="split it between"):
            split_panel_edge(PANEL, "edge1", 0.2)

    def test_the_mirror_image_is_the_other_hand_with_everything_on_it(self) -> None:
        rich = replace(
            PANEL, hand="left", grain_deg=60,
            features=(
                *PANEL.features,
                Dart("edge1", 60, 20, 40, lean=4),
                Aperture("round", (60, 40), (30, 30)),
                MarkAt("button", (20, 30))),
        )  # fmt: skip
        one, other = draft_panel(rich), draft_panel(mirrored(rich))
        assert other.hand == "right"
        assert same_ring([(-x, y) for x, y in one.cutting_points], other.cutting_points, within_mm=0.02)
        assert sorted(round(-n.on_seam[0], 3) for n in one.notches) == sorted(
            round(n.on_seam[0], 3) for n in other.notches
        )  # type: ignore[index]
        again = draft_panel(mirrored(mirrored(rich)))
        assert same_ring(again.cutting_points, one.cutting_points, within_mm=0.02)

    def test_a_copy_twice_as_large_keeps_its_allowances(self) -> None:
        draft = draft_panel(changed_size(PANEL, 2.0))
        assert ring_length(changed_size(PANEL, 2.0).seam_line) == pytest.approx(2 * ring_length(PANEL.seam_line))
        assert {e.allowance for e in draft.seam_line} == {10.0}
        with pytest.raises(Refusal):
            changed_size(PANEL, 0)

    def test_quarter_notches_part_the_whole_seam_line(self) -> None:
        notches = quarter_notches(Panel("p", shapes.square(100)), from_edge="edge2").of(Notch)
        assert [(n.edge, n.along, n.double) for n in notches] == [
            ("edge2", 0, True),
            ("edge3", 0, False),
            ("edge4", 0, False),
            ("edge1", 0, False),
        ]

    def test_features_are_put_on_changed_and_taken_off(self) -> None:
        panel = with_feature(PANEL, Taper("edge4", 25, 25, 8))
        assert [t.reach for t in panel.of(Taper)] == [25]
        panel = with_feature(panel, Dart("edge1", 50, 10, 30))
        (dart,) = panel.of(Dart)
        panel = with_feature(panel, replace(dart, along=60))
        assert panel.of(Dart) == (replace(dart, along=60),)
        assert without_feature(panel, dart.id).of(Dart) == ()
        with pytest.raises(Refusal, match="no longer there"):
            without_feature(panel, "feature99")
        with pytest.raises(Refusal, match="no longer there"):
            with_feature(panel, Gather("edge1", 2.0, id=dart.id))
