"""A drafted panel: notches, marks, findings, and refusals with their place."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
import shapely

from tests import shapes
from ypsicline.core.drafting.draft import draft_panel, draft_panels
from ypsicline.core.drafting.from_shape import panel_from_rings, remove_notch, set_edges
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry import reverse_ring
from ypsicline.core.pattern.edge_changes import with_feature
from ypsicline.core.pattern.features.notch import Notch
from ypsicline.core.pattern.house_rules import HouseRules
from ypsicline.core.pattern.panel import Panel, instruction
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.wording import render, render_all

PANEL = Panel("tray", shapes.square(200), holes=(shapes.circle(30, (100, 100), allowance=6),))


def test_points_are_within_a_fiftieth_of_a_millimetre_and_the_seam_line_inside() -> None:
    draft = draft_panel(PANEL)
    assert draft.seam_points[0] != draft.seam_points[-1]
    cloth, body = shapely.Polygon(draft.cutting_points), shapely.Polygon(draft.seam_points)
    assert cloth.contains_properly(body)
    (hole,) = draft.hole_cutting_points
    assert all(abs(math.dist(p, (100, 100)) - 24) < 0.02 for p in hole)


def test_a_hole_may_run_either_way_round() -> None:
    turned = replace(PANEL, holes=(reverse_ring(PANEL.holes[0]),))
    areas = [shapely.Polygon(draft_panel(p).hole_cutting_points[0]).area for p in (PANEL, turned)]
    assert areas[0] == pytest.approx(areas[1])


def test_every_sewn_edge_gets_a_notch_in_its_middle_unless_the_maker_placed_them() -> None:
    seam = set_edges(PANEL, ["edge2"], finish="bound").seam_line
    draft = draft_panel(replace(PANEL, seam_line=seam))
    assert [n.edge for n in draft.notches] == [0, 2, 3]
    assert draft_panel(replace(PANEL, middle_notches=False)).notches == ()


def test_a_notch_stands_on_both_lines_and_is_at_most_half_the_allowance_deep() -> None:
    for allowance, depth in ((10, 5), (30, 6)):
        panel = replace(
            PANEL,
            seam_line=shapes.square(200, allowance=allowance),
            middle_notches=False,
            features=(Notch("edge1", 50),),
        )
        (notch,) = draft_panel(panel).notches
        assert notch.on_seam == pytest.approx((50, 0))
        assert notch.on_cut == pytest.approx((50, -allowance))
        assert notch.depth_mm == depth


def test_notches_are_added_and_removed_on_top_of_those_in_the_middle() -> None:
    more = with_feature(PANEL, Notch("edge1", 30, double=True))
    draft = draft_panel(more)
    assert len(draft.notches) == 5
    (placed,) = more.of(Notch)
    assert draft_panel(remove_notch(more, placed.id)).notches == draft_panel(PANEL).notches
    # without one of those in the middle the others stay where they are
    fewer = draft_panel(remove_notch(more, draft.notches[1].of))
    stay = [n.on_seam for k, n in enumerate(draft.notches) if k != 1]
    assert sorted(n.on_seam for n in fewer.notches) == sorted(stay)
    with pytest.raises(Refusal, match="already"):
        with_feature(more, Notch("edge1", 30.2))
    with pytest.raises(Refusal):
        remove_notch(more, "no such notch")


@pytest.mark.parametrize("notch", [Notch("edge10", 10), Notch("edge1", 201), Notch("edge1", -1)])
def test_a_notch_off_its_edge_is_refused(notch: Notch) -> None:
    with pytest.raises(Refusal, match="notch"):
        draft_panel(replace(PANEL, middle_notches=False, features=(notch,)))


def test_grain_and_label_lie_inside_and_the_grain_follows_its_angle() -> None:
    for angle in (0.0, 90.0, 37.0):
        draft = draft_panel(replace(PANEL, grain_deg=angle, way_up="TOP to the wheel"))
        grain, label = (m for m in draft.marks if m.kind in ("grain", "label"))
        (ax, ay), (bx, by) = grain.points
        assert math.degrees(math.atan2(by - ay, bx - ax)) == pytest.approx(angle)
        body = shapely.Polygon(draft.seam_points)
        assert all(body.contains(shapely.Point(p)) for p in (*grain.points, *label.points))
        assert render_all(label.lines) == ("tray", "cut 1 · outer", "TOP to the wheel")


@pytest.mark.parametrize(("width", "height", "apart"), [(900, 70, 1.5), (70, 900, 0.6), (300, 200, 0.6)])
def test_on_a_strip_the_grain_keeps_clear_of_the_label(width: float, height: float, apart: float) -> None:
    """Along the strip there is room for that; across it, and on a wide panel, they stand as close as they can."""
    strip = shapes.polygon([(0, 0), (width, 0), (width, height), (0, height)], 10)
    draft = draft_panel(Panel("frill", strip))
    grain, label = (m for m in draft.marks if m.kind in ("grain", "label"))
    assert shapely.Polygon(draft.seam_points).contains(shapely.LineString(grain.points))
    assert abs(grain.points[0][0] - label.points[0][0]) > apart * min(width, height) / 2


@pytest.mark.parametrize(
    ("hand", "count", "words"),
    [
        ("single", 1, "cut 1 · outer"),
        ("pair", 1, "cut 1 pair · outer"),
        ("pair", 2, "cut 2 pairs · outer"),
        ("left", 3, "cut 3 left · outer"),
    ],
)
def test_the_label_says_what_to_cut(hand: str, count: int, words: str) -> None:
    assert render(instruction(replace(PANEL, hand=hand, count=count))) == words  # type: ignore[arg-type]


def test_a_hem_on_a_curve_is_warned_of_by_how_much_it_is_out() -> None:
    draft = draft_panel(Panel("disc", shapes.circle(100, allowance=10, finish="hem")))
    assert {f.severity for f in draft.findings} == {"look"}
    assert "22\u00a0% longer" in render(draft.findings[0].message)
    slight = draft_panel(Panel("disc", shapes.circle(1000, allowance=10, finish="hem")))
    assert slight.findings == ()


def test_a_hem_deeper_than_its_curve_stops_the_work() -> None:
    draft = draft_panel(Panel("disc", shapes.circle(8, allowance=10, finish="hem")))
    assert {f.severity for f in draft.findings} == {"stop"}


def test_a_hem_in_a_round_hole_is_too_short() -> None:
    panel = replace(PANEL, holes=(shapes.circle(30, (100, 100), allowance=6, finish="hem"),))
    assert any("shorter" in render(f.message) for f in draft_panel(panel).findings)


def test_a_tight_inlet_and_a_closed_one_are_reported() -> None:
    tight = draft_panel(Panel("bite", shapes.bitten_square(15, allowance=20)))
    assert any("tighter than its allowance" in render(f.message) for f in tight.findings)
    closed = draft_panel(Panel("keyhole", shapes.keyhole()))
    assert any("closes up" in render(f.message) for f in closed.findings)


REFUSED = {
    "clockwise": (replace(PANEL, seam_line=reverse_ring(PANEL.seam_line), holes=()), "clockwise"),
    "open": (replace(PANEL, seam_line=PANEL.seam_line[:-1], holes=()), "is open"),
    "crossing": (Panel("bow tie", shapes.bow_tie()), "touches or crosses"),
    "hole outside": (replace(PANEL, holes=(shapes.circle(10, (400, 0)),)), "isn't inside"),
    "hole on the rim": (replace(PANEL, holes=(shapes.circle(10, (0, 100)),)), "isn't inside"),
    "holes overlap": (replace(PANEL, holes=(shapes.circle(20, (90, 90)), shapes.circle(20, (100, 100)))), "overlap"),
    "hole filled": (replace(PANEL, holes=(shapes.circle(8, (100, 100), allowance=12),)), "leaves nothing"),
    "edge of no length": (
        Panel(
            "dot",
            (*shapes.square(50)[:3], SeamEdge("line", ((0, 50), (0, 0)), "d"), SeamEdge("line", ((0, 0), (0, 0)), "e")),
        ),
        "no length",
    ),
}


@pytest.mark.parametrize("name", REFUSED)
def test_what_cant_be_drafted_is_refused_naming_the_panel(name: str) -> None:
    panel, words = REFUSED[name]
    with pytest.raises(Refusal, match=words) as refusal:
        draft_panel(panel)
    assert refusal.value.place.panel == panel.name
    assert panel.name in refusal.value.sentence


def test_two_panels_of_one_name_are_refused() -> None:
    with pytest.raises(Refusal, match="Two panels"):
        draft_panels([PANEL, PANEL])


@pytest.mark.parametrize("allowance", [-1, 501, math.nan])
def test_an_allowance_that_makes_no_sense_is_refused(allowance: float) -> None:
    with pytest.raises(Refusal, match="allowance"):
        shapes.square(allowance=allowance)


@pytest.mark.parametrize("how", [{"count": 0}, {"count": 501}, {"name": "x" * 81}, {"cloth": "a\nb"}])
def test_a_label_that_cant_be_printed_is_refused(how: dict) -> None:
    with pytest.raises(Refusal):
        replace(PANEL, **how)


class TestSettingEdges:
    def test_a_finish_brings_its_house_allowance_but_not_over_the_makers_own(self) -> None:
        bare = panel_from_rings(shapes.square(100), [], "p")
        assert set_edges(bare, ["edge1"], finish="hem").seam_line[0].allowance == HouseRules().hem
        own = set_edges(bare, ["edge1"], allowance_mm=17)
        assert set_edges(own, ["edge1"], finish="hem").seam_line[0].allowance == 17
        assert set_edges(own, ["edge1"], finish="bound").seam_line[0].allowance == 0

    def test_edges_of_holes_are_chosen_like_those_of_the_outline(self) -> None:
        panel = set_edges(PANEL, ["edge5", "edge3"], allowance_mm=3, corner="square")
        assert panel.holes[0][0].allowance == 3
        assert panel.seam_line[2].corner == "square"
        assert panel.holes[0][1].allowance == 6

    @pytest.mark.parametrize("edge", ["edge99", "", "0"])
    def test_an_edge_that_isnt_there_is_refused(self, edge: str) -> None:
        with pytest.raises(Refusal, match="no such edge"):
            set_edges(PANEL, [edge], allowance_mm=5)

    def test_an_edge_needs_a_name(self) -> None:
        with pytest.raises(Refusal):
            set_edges(PANEL, ["edge1"], name="  ")
        assert set_edges(PANEL, ["edge1"], name=" rim ").seam_line[0].name == "rim"
