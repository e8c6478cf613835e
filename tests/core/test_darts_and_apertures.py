"""Darts, pleats, gathers, apertures, relief cuts, layers, marks (rules 8, 9, 13)."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.affinity import rotate

from tests import shapes
from tests.cases import worked_cases
from tests.close import same_ring
from tests.words import sums_of
from ypsicline.core.drafting.companions import companions
from ypsicline.core.drafting.draft import draft_panel, draft_panels
from ypsicline.core.drafting.drop import drop_corner, with_drop
from ypsicline.core.drafting.eased import ease_drawn_in
from ypsicline.core.drafting.from_shape import set_edges
from ypsicline.core.drafting.house import Cloth, House
from ypsicline.core.drafting.in_house import in_house
from ypsicline.core.drafting.pivot import pivot_dart
from ypsicline.core.drafting.relief import relief_spacing
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry import edge_length, flatten_ring, point_at, reverse_ring, ring_length
from ypsicline.core.geometry.edges import parameter_at_length
from ypsicline.core.pattern.features.aperture import Aperture
from ypsicline.core.pattern.features.dart import Dart
from ypsicline.core.pattern.features.feature import Feature
from ypsicline.core.pattern.features.gather import Gather
from ypsicline.core.pattern.features.layer import Layer
from ypsicline.core.pattern.features.mark_at import MarkAt
from ypsicline.core.pattern.features.notch import Notch
from ypsicline.core.pattern.features.pleats import Pleats
from ypsicline.core.pattern.features.taper import Taper
from ypsicline.core.pattern.fit import Fit
from ypsicline.core.pattern.mark import Mark
from ypsicline.core.pattern.panel import DraftedPanel, Panel
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.wording import render, render_all

TRAY = Panel("tray", shapes.square(400, allowance=12), middle_notches=False)
POST = Aperture("round", (200, 200), (40, 40), clearance=3, depth=10, name="post")


def marks(panel: DraftedPanel, kind: str) -> list[Mark]:
    return [m for m in panel.marks if m.kind == kind]


class TestDarts:
    @given(st.floats(10, 80), st.floats(60, 300), st.floats(4, 40), st.sampled_from(["start", "end"]))
    def test_folded_over_the_raw_edge_runs_on_evenly(
        self, intake: float, length: float, allowance: float, to: str
    ) -> None:
        dart = Dart("edge1", 200, intake, length, towards=to)  # type: ignore[arg-type]
        panel = Panel(
            "p", shapes.square(400, allowance=allowance), middle_notches=False, features=(dart,), mitre_limit=20
        )
        cloth = shapely.Polygon(draft_panel(panel).cutting_points)
        apex, foot1, foot2 = (200, length), (200 - intake / 2, 0), (200 + intake / 2, 0)
        half = math.degrees(math.atan2(intake / 2, length))
        # the wedge is folded along its middle and laid to one side: its near half is that side mirrored in the leg
        below = (
            [(200, -500), apex, along(apex, foot1, 600)]
            if to == "start"
            else [along(apex, foot2, 600), apex, (200, -500)]
        )
        wedge = cloth.intersection(shapely.Polygon(below))
        laid = mirrored(wedge, apex, foot1 if to == "start" else foot2)
        side = cloth.difference(shapely.Polygon([along(apex, foot1, 900), apex, along(apex, foot2, 900)]))
        assert laid.difference(side.buffer(0.05)).area < 0.05
        lowest = min(y for _, y in shapely.get_coordinates(laid))
        assert lowest == pytest.approx(-allowance, abs=0.05)
        assert half > 0

    @pytest.mark.parametrize(
        "bends",
        [
            ("arc", (0, 0), (200, 70), (400, 0)), ("arc", (0, 0), (200, -60), (400, 0)),
            ("curve", (0, 0), (100, -80), (260, -90), (400, 0)), ("curve", (0, 0), (120, 60), (300, 80), (400, 0)),
            ("curve", (0, 0), (150, -70), (250, 70), (400, 0)),
        ],
    )  # fmt: skip
    @pytest.mark.parametrize("to", ["start", "end"])
    def test_on_a_curved_edge_its_cap_lies_on_the_edge_beside_it(self, bends: tuple, to: str) -> None:
        bow = SeamEdge(bends[0], bends[1:], "bow", 0, "raw")
        lines = [((400, 0), (400, 300)), ((400, 300), (0, 300)), ((0, 300), (0, 0))]
        ring = (bow, *(SeamEdge("line", p, f"side {k}", 0, "raw") for k, p in enumerate(lines)))
        dart = Dart("edge1", edge_length(bow) / 2, 50, 110, towards=to)  # type: ignore[arg-type]
        draft = draft_panel(Panel("p", ring, middle_notches=False, features=(dart,)))
        (legs,) = marks(draft, "dart")
        foot1, apex, foot2 = legs.points
        body = shapely.Polygon(draft.seam_points)
        near, far = (foot1, foot2) if to == "start" else (foot2, foot1)
        middle = ((foot1[0] + foot2[0]) / 2, (foot1[1] + foot2[1]) / 2)
        ply = body.intersection(shapely.Polygon([apex, along(apex, near, 400), along(apex, middle, 400)]))
        other = body.intersection(shapely.Polygon([apex, along(apex, middle, 400), along(apex, far, 400)]))
        side = body.difference(shapely.Polygon([along(apex, foot1, 900), apex, along(apex, foot2, 900)]))
        stands = dart.along - 25 if to == "start" else dart.along + 25
        way = -1 if to == "start" else 1
        beside = [point_at(bow, parameter_at_length(bow, stands + way * s)) for s in np.linspace(0, 20, 30)]
        # both plies of the fold, laid on the side, end where it ends
        for laid in (mirrored(ply, apex, near), mirrored(mirrored(other, apex, middle), apex, near)):
            assert laid.difference(side.buffer(0.1)).area < 0.05
            assert max(laid.exterior.distance(shapely.Point(p)) for p in beside) < 0.1

    def test_what_two_darts_take_in_is_summed(self) -> None:
        draft = draft_panel(replace(TRAY, features=(Dart("edge1", 100, 40, 90), Dart("edge1", 300, 40, 90))))
        assert "a sewn: 400.0 − 40.0 dart − 40.0 dart = 320.0" in sums_of(draft)

    @pytest.mark.parametrize(
        ("how", "said"),
        [
            ({"features": (Dart("edge1", 200, 40, 420),)}, "point of the dart on “a” lies outside the panel"),
            (
                {"features": (Dart("edge1", 200, 40, 150), Aperture("round", (200, 110), (50, 50), "bound", "post"),)},
                "runs through “post”",
            ),
            ({"features": (Dart("edge1", 100, 40, 250, lean=120), Dart("edge1", 300, 40, 250, lean=-120),)}, "Two darts on “a” cross"),
            ({"features": (Pleats("edge1", 50, 120, 2, 20),)}, "Two pleats on “a” lie on one another;"),
        ],
    )  # fmt: skip
    def test_what_cant_be_sewn_as_it_stands_is_a_finding_that_names_its_panel(self, how: dict, said: str) -> None:
        draft = draft_panel(replace(TRAY, **how))
        stops = [f for f in draft.findings if f.severity == "stop"]
        assert any(said in render(f.message) for f in stops)
        assert {f.place.panel for f in draft.findings} == {TRAY.name}

    def test_sewing_it_takes_the_intake_out_of_its_edge(self) -> None:
        draft = draft_panel(replace(TRAY, features=(Dart("edge1", 150, 30, 120),)))
        assert any("a sewn: 400.0 − 30.0 dart = 370.0" in line for line in sums_of(draft))
        assert draft.seam_of == ("edge1", "edge1", "edge1", "edge1", "edge2", "edge3", "edge4")
        (legs,) = marks(draft, "dart")
        assert legs.points == ((135, 0), (150, 120), (165, 0))

    def test_a_dart_that_is_cut_out_has_its_own_allowance(self) -> None:
        draft = draft_panel(replace(TRAY, features=(Dart("edge1", 200, 60, 120, cut=True, bow=2),)))
        assert [e.kind for e in draft.seam_line][:4] == ["line", "arc", "arc", "line"]
        assert not shapely.Polygon(draft.cutting_points).contains(shapely.Point(200, 60))

    def test_a_corner_dart_takes_out_the_square_of_a_drop(self) -> None:
        dart = Dart("edge2", 0, 200, 100 * math.sqrt(2), corner=True, cut=True)
        draft = draft_panel(replace(TRAY, features=(dart,)))
        assert (300.0, 300.0) in {(round(x, 6), round(y, 6)) for x, y in draft.seam_points}

    def test_legs_of_two_lengths_are_said(self) -> None:
        draft = draft_panel(replace(TRAY, features=(Dart("edge1", 200, 40, 100, lean=30),)))
        assert any("The legs of the dart" in render(f.message) for f in draft.findings)

    @pytest.mark.parametrize(
        "dart", [Dart("edge1", 10, 30, 50), Dart("edge1", 395, 30, 50), Dart("edge8", 100, 30, 50)]
    )
    def test_a_dart_that_passes_its_edge_is_refused(self, dart: Dart) -> None:
        with pytest.raises(Refusal, match="dart"):
            draft_panel(replace(TRAY, features=(dart,)))

    def test_two_darts_in_one_place_are_refused_and_a_notch_between_two_stays(self) -> None:
        with pytest.raises(Refusal, match="something else stands there"):
            draft_panel(replace(TRAY, features=(Dart("edge1", 200, 30, 50), Dart("edge1", 210, 30, 50))))
        draft = draft_panel(
            replace(TRAY, middle_notches=True, features=(Dart("edge1", 100, 30, 50), Dart("edge1", 300, 30, 50)))
        )
        assert (draft.notches)[0].on_seam == pytest.approx((200, 0))

    def test_pleats_and_gathers_say_what_is_left(self) -> None:
        pleats = Pleats("edge1", 100, 60, 2, 80)
        draft = draft_panel(replace(TRAY, features=(pleats, Gather("edge3", 2.0))))
        assert len(marks(draft, "pleat")) == 4
        assert any("a sewn: 400.0 − 30.0 pleat − 30.0 pleat = 340.0" in line for line in sums_of(draft))
        assert any("400.0 ÷ 2 = 200.0" in line for line in sums_of(draft))


def along(a: tuple[float, float], b: tuple[float, float], far: float) -> tuple[float, float]:
    d = math.dist(a, b)
    return a[0] + far * (b[0] - a[0]) / d, a[1] + far * (b[1] - a[1]) / d


def mirrored(shape: shapely.Geometry, a: tuple[float, float], b: tuple[float, float]) -> shapely.Geometry:
    """Turned so that the line stands upright, flipped there, and turned back."""
    angle = math.degrees(math.atan2(b[1] - a[1], b[0] - a[0]))
    flat = rotate(shape, -angle, origin=a)
    flipped = shapely.transform(flat, lambda p: np.column_stack([p[:, 0], 2 * a[1] - p[:, 1]]))
    return rotate(flipped, angle, origin=a)


class TestDrops:
    @pytest.mark.parametrize("case", worked_cases("corner-dart"), ids=lambda c: c["name"])
    def test_worked_cases_of_corner_darts(self, case: dict) -> None:
        g, e = case["given"], case["expect"]
        result = drop_corner(g["corner_radius"], math.radians(g["turn_deg"]), g["drop"], g["tuck_under"])
        assert result.intake_at_drop == pytest.approx(e["intake_at_drop"], abs=case["tolerance"])
        assert result.intake_at_edge == pytest.approx(e["intake_at_edge"], abs=case["tolerance"])
        assert result.gathered_by_cord == pytest.approx(e["gathered_by_cord"], abs=case["tolerance"])

    def test_a_square_plan_becomes_a_sheet_with_a_dart_at_each_corner(self) -> None:
        sheet = with_drop(Panel("lid", shapes.square(300, allowance=0)), 80)
        draft = draft_panel(sheet)
        assert np.ptp(np.asarray(draft.seam_points), axis=0) == pytest.approx([460, 460])
        points = {(round(x, 4), round(y, 4)) for m in marks(draft, "dart_point") for x, y in m.points}
        assert points == {(0, 0), (300, 0), (300, 300), (0, 300)}

    def test_a_rounded_plan_keeps_its_own_length_at_the_corner(self) -> None:
        r, drop = 60.0, 100.0
        k = r * (1 - math.sqrt(0.5))
        plan = (
            *shapes.polygon([(0, 0), (400, 0), (400, 300 - r), (400 - r, 300), (0, 300)], allowance=0)[:2],
            replace(shapes.circle()[0], points=((400, 300 - r), (400 - k, 300 - k), (400 - r, 300)), name="arc", allowance=0),
            *shapes.polygon([(0, 0), (400, 0), (400, 300 - r), (400 - r, 300), (0, 300)], allowance=0)[3:],
        )  # fmt: skip
        sheet = with_drop(Panel("lid", plan), drop)
        (dart,) = [d for d in sheet.of(Dart) if not d.corner]
        assert dart.intake == pytest.approx(math.pi / 2 * drop)
        assert math.pi / 2 * (r + drop) - dart.intake == pytest.approx(math.pi / 2 * r)
        draft_panel(sheet)
        pleated = with_drop(Panel("lid", plan), drop, how="pleats", pleats=3)
        assert sum(p.intake for p in pleated.of(Pleats)) == pytest.approx(dart.intake)
        draft_panel(pleated)


class TestApertures:
    def test_a_hemmed_hole_is_cut_smaller_by_its_hem_and_has_relief_cuts(self) -> None:
        draft = draft_panel(replace(TRAY, features=(POST,)))
        (hole,) = draft.hole_cutting_points
        assert all(abs(math.dist(p, (200, 200)) - 13) < 0.02 for p in hole)
        assert any("40 + 2 × 3 = 46.0 finished; − 2 × 10 hem = 26.0 to cut" in line for line in sums_of(draft))
        assert len(marks(draft, "relief")) >= 8
        assert draft.own_rings == 1

    def test_a_faced_one_isnt_cut_before_its_facing_and_the_facing_is_a_piece(self) -> None:
        slot = Aperture("rectangle", (200, 150), (80, 30), "faced", "handle")
        panel = replace(TRAY, features=(slot,))
        assert draft_panel(panel).hole_cutting_points == ()
        assert len(marks(draft_panel(panel), "trim")) == 5
        _, facing = draft_panels([panel])
        assert facing.name == "tray handle facing"
        assert np.ptp(np.asarray(facing.seam_points), axis=0) == pytest.approx([140, 90])
        assert len(marks(facing, "trim")) == 5

    def test_a_slit_leads_to_the_nearest_edge_with_the_next_zip(self) -> None:
        near = replace(POST, at=(200, 90), slit=True, stocked=(50, 80, 120), zip_shows=8, cord_exit=20)
        draft = draft_panel(replace(TRAY, features=(near,)))
        text = "\n".join(sums_of(draft))
        assert "slit of post: 67.0 to a; zip 80" in text
        assert "8 ÷ 2 = 4, so that the girth doesn't change" in text
        assert [round(m.points[0][0], 6) for m in marks(draft, "exit")] == [180, 220]

    @pytest.mark.parametrize("at", [(10, 200), (200, 395), (900, 900)])
    def test_one_that_reaches_over_the_seam_line_is_refused(self, at: tuple[float, float]) -> None:
        with pytest.raises(Refusal, match="reaches over"):
            draft_panel(replace(TRAY, features=(replace(POST, at=at),)))

    def test_one_close_to_a_seam_is_said_and_two_that_overlap_are_refused(self) -> None:
        draft = draft_panel(replace(TRAY, features=(replace(POST, at=(50, 200)),)))
        assert any("closer than three times" in render(f.message) for f in draft.findings)
        with pytest.raises(Refusal, match="overlap"):
            draft_panel(replace(TRAY, features=(POST, replace(POST, at=(215, 200)))))

    @pytest.mark.parametrize("kind", ["round", "slot", "rectangle", "outline"])
    @pytest.mark.parametrize("finish", ["hemmed", "faced", "bound", "eyelet", "raw"])
    def test_every_kind_with_every_finish(self, kind: str, finish: str) -> None:
        ring = ((-30.0, -20.0), (30.0, -20.0), (0.0, 30.0))
        one = Aperture(kind, (200, 200), (90, 60), finish, clearance=2, depth=5, turn_deg=20, slit=True, ring=ring)  # type: ignore[arg-type]
        for draft in draft_panels([replace(TRAY, features=(one,))]):
            assert shapely.Polygon(draft.cutting_points).is_valid


@pytest.mark.parametrize("case", worked_cases("relief-spacing"), ids=lambda c: c["name"])
def test_worked_cases_of_relief_cuts(case: dict) -> None:
    g = case["given"]
    result = relief_spacing(g["radius"], g["allowance"], opening_mm=g["opening"])
    assert (result is not None) == case["expect"]["needed"]
    assert result == pytest.approx(case["expect"]["spacing"], abs=case["tolerance"])


def test_relief_cuts_are_straight_where_the_allowance_opens_and_v_shaped_where_it_closes() -> None:
    convex = draft_panel(Panel("disc", shapes.circle(60, allowance=10)))
    assert all(len(m.points) == 3 for m in marks(convex, "relief"))
    hole = Panel("p", shapes.square(400), holes=(reverse_ring(shapes.circle(60, (200, 200), allowance=10)),))
    assert all(len(m.points) == 2 for m in marks(draft_panel(hole), "relief"))
    assert marks(draft_panel(Panel("wide", shapes.circle(400, allowance=10))), "relief") == []
    assert relief_spacing(10, 20) == 6
    assert marks(draft_panel(Panel("arrow", shapes.arrow())), "relief") != []


class TestFoldAndLayers:
    def test_one_straight_edge_lies_on_the_fold_and_no_more(self) -> None:
        half = set_edges(TRAY, ["edge4"], finish="fold")
        draft = draft_panel(replace(half, on_fold=True))
        assert len(marks(draft, "on_fold")) == 1
        assert min(x for x, _ in draft.cutting_points) == pytest.approx(0)
        twice = draft_panel(set_edges(half, ["edge1"], finish="fold"))
        assert any(f.severity == "stop" and "only one straight edge" in render(f.message) for f in twice.findings)
        bent = draft_panel(set_edges(Panel("disc", shapes.circle(80)), ["edge1"], finish="fold"))
        assert any("isn't straight" in render(f.message) for f in bent.findings)
        unsaid = draft_panel(replace(TRAY, on_fold=True))
        assert any("no edge of it is marked" in render(f.message) for f in unsaid.findings)

    def test_layers_come_from_one_seam_line_with_their_own_allowance_and_growth(self) -> None:
        layers = (Layer("lining", "ripstop", grown=-1, allowance=10), Layer("foam", "foam 20", grown=2, cut_larger=15))
        layered = replace(TRAY, features=(*layers,))
        lining, foam = companions(layered, draft_panel(layered))
        assert np.ptp(np.asarray(draft_panel(lining).cutting_points), axis=0) == pytest.approx([418, 418])
        assert np.ptp(np.asarray(draft_panel(foam).cutting_points), axis=0) == pytest.approx([434, 434])
        assert render(foam.way_up) == "cut 15 mm larger, trimmed back once it is sewn"
        assert [p.name for p in draft_panels([replace(TRAY, features=(*layers,))])] == [
            "tray",
            "tray lining",
            "tray foam",
        ]

    def test_a_layer_shrinks_as_its_own_cloth_does(self) -> None:
        house = House(cloths=(Cloth("canvas", warp_shrinks=0.05), Cloth("drill", weft_shrinks=0.1)))
        outer = in_house(replace(TRAY, cloth="canvas", features=(Layer("lining", "drill"),)), house)
        tray, lining = draft_panels([outer], house=house)
        assert np.ptp(np.asarray(tray.seam_points), axis=0) == pytest.approx([400, 400 / 0.95])
        assert np.ptp(np.asarray(lining.seam_points), axis=0) == pytest.approx([400 / 0.9, 400])

    def test_an_edge_on_the_fold_makes_the_panel_half_of_what_is_cut(self) -> None:
        half = set_edges(TRAY, ["edge4"], finish="fold")
        assert half.on_fold
        assert not set_edges(half, ["edge4"], finish="plain").on_fold

    def test_a_mark_off_the_panel_is_said(self) -> None:
        draft = draft_panel(replace(TRAY, features=(MarkAt("button", (50, 50)), MarkAt("tie", (900, 0), text="tie"))))
        assert [m.kind for m in draft.marks if m.kind in ("button", "tie")] == ["button", "tie"]
        assert [render(f.message) for f in draft.findings] == [
            "The mark “tie” lies outside the seam line; move it inward."
        ]


def test_what_was_drafted_can_be_drafted_again_and_comes_out_the_same() -> None:
    rich = replace(TRAY, middle_notches=True, features=(Dart("edge1", 200, 30, 80), replace(POST, finish="bound")))
    once = draft_panel(rich)
    again = draft_panel(once)
    assert same_ring(once.cutting_points, again.cutting_points, within_mm=1e-6)
    assert ring_length(once.holes[0]) == pytest.approx(math.pi * 46)


def test_a_seam_that_is_pulled_at_is_strengthened_there() -> None:
    edges = [replace(e, finish=f) for e, f in zip(TRAY.seam_line, ("zip", "plain", "casing", "casing"), strict=True)]
    ties = (MarkAt("tie", (200, 380)), MarkAt("exit", (400, 200)), MarkAt("lock", (0, 2)))
    draft = draft_panel(replace(TRAY, seam_line=tuple(edges), features=(*ties,)))
    # the maker's own lock at (0, 2) does for the zip's and the casing's end there
    assert [m.points[0] for m in marks(draft, "bar")] == [(400, 0)]
    locks = [m.points[0] for m in marks(draft, "lock")]
    # the casings run on at their common corner
    assert sorted(locks) == [(0, 2), (400, 400)]
    assert render_all(marks(draft, "exit")[0].lines) == ("exit, locked",)
    (patch,) = marks(draft, "patch")
    assert shapely.Polygon(patch.points).contains(shapely.Point(200, 380))


class TestTurnedAboutItsPoint:
    PANEL = Panel(
        "front",
        shapes.square(400, allowance=12),
        middle_notches=False,
        features=(Dart("edge1", 200, 60, 180), Notch("edge1", 50), Notch("edge2", 300)),
    )

    @pytest.mark.parametrize("share", [1.0, 0.5])
    @pytest.mark.parametrize(("edge", "along"), [("edge2", 150), ("edge4", 200), ("edge3", 120), ("edge1", 330)])
    def test_a_dart_keeps_its_angle_and_the_seam_line_its_length(self, share: float, edge: str, along: float) -> None:
        after = pivot_dart(self.PANEL, "feature1", edge, along, share).panel
        draft = draft_panel(after)
        assert shapely.Polygon(draft.cutting_points).is_valid
        angles = [2 * math.atan2(d.intake / 2, d.length) for d in after.of(Dart)]
        assert sum(angles) == pytest.approx(2 * math.atan2(30, 180))
        assert angles[0] == pytest.approx(share * sum(angles))
        assert after.of(Dart)[0].id == "feature1"
        assert all(abs(d.lean) < 1e-6 for d in after.of(Dart))
        sewn = ring_length(after.seam_line) - sum(d.intake for d in after.of(Dart))
        assert sewn == pytest.approx(1600 - 60, abs=1e-6)
        assert len(after.of(Notch)) == 2

    @pytest.mark.parametrize(
        ("edge", "along", "share"), [("edge1", 190, 1), ("edge2", 0.2, 1), ("edge10", 20, 1), ("edge2", 100, 0)]
    )
    def test_what_cant_be_opened_is_refused(self, edge: str, along: float, share: float) -> None:
        with pytest.raises(Refusal):
            pivot_dart(self.PANEL, "feature1", edge, along, share)

    RICH = replace(
        PANEL,
        features=(
            Dart("edge1", 200, 60, 180),
            Dart("edge2", 330, 20, 60),
            Dart("edge3", 200, 16, 50),
            Taper("edge2", 40, 40, 6),
            Taper("edge4", 40, 40, 6),
            Pleats("edge4", 300, 30),
            Gather("edge3", 1.5),
            Aperture("slot", (330, 60), (40, 30)),
            Aperture("round", (60, 300), (30, 30)),
            MarkAt("button", (350, 200)),
            MarkAt("centre", (60, 60), (60, 200)),
        ),
        holes=(tuple(replace(e, allowance=0.0) for e in shapes.circle(15, (280, 60))),),
    )

    def test_all_that_a_panel_has_goes_with_its_side(self) -> None:
        """Opened in the middle of the right edge: what lies right of the dart below it is turned, the rest stays."""
        after = pivot_dart(self.RICH, "feature1", "edge2", 200).panel
        draft = draft_panel(after)
        assert shapely.Polygon(draft.cutting_points).is_valid
        apex = (200.0, 180.0)
        corner = next(e.start for e in after.seam_line if e.name == "b")
        turn = -2 * math.atan2(30, 180)
        slot, button = after.of(Aperture)[0], after.of(MarkAt)[0]
        assert slot.turn_deg == pytest.approx(math.degrees(turn))
        assert math.dist(slot.at, corner) == pytest.approx(math.dist((330, 60), (400, 0)))
        assert math.dist(slot.at, apex) == pytest.approx(math.dist((330, 60), apex))
        assert [after.of(Aperture)[1], button, after.of(MarkAt)[1]] == [
            self.RICH.of(Aperture)[1], self.RICH.of(MarkAt)[0], self.RICH.of(MarkAt)[1],
        ]  # fmt: skip
        hole = flatten_ring(after.holes[0])
        assert math.dist(hole.mean(axis=0), corner) == pytest.approx(math.dist((280, 60), (400, 0)), abs=0.1)
        edges = {e.id: e for e in after.seam_line}
        ends = [edges[t.edge].end for t in after.of(Taper)]
        assert ends == [pytest.approx((400, 400)), pytest.approx((0, 0), abs=60)]
        names = [edges[f.edge].name for f in (*after.of(Dart)[:2], after.of(Pleats)[0])]
        assert names == ["b", "c", "d"]
        assert after.of(Dart)[0].along == pytest.approx(130)
        assert {edges[g.edge].name for g in after.of(Gather)} == {"c"}

    FITS = (
        Fit(clearance=10), Fit(percent=3, girth=20), Fit(width=12, height=-8), Fit(clearance=-6), Fit(clearance=4, stretched=(0.0, 0.1)),
    )  # fmt: skip

    @pytest.mark.parametrize("fit", FITS)
    @pytest.mark.parametrize("hem", ["plain", "double_hem"])
    def test_ease_drawn_in_changes_nothing_that_is_cut(self, fit: Fit, hem: str) -> None:
        seam = tuple(replace(e, finish=hem) for e in self.RICH.seam_line)
        panel = replace(
            self.RICH,
            seam_line=seam,
            fit=fit,
            middle_notches=False,
            features=(*self.RICH.features, Notch("edge1", 50), Notch("edge4", 20, True)),
        )
        drawn_in, _ = ease_drawn_in(panel)
        assert drawn_in.fit == (Fit(stretched=fit.stretched) if fit.stretched[1] else None)
        before, after = draft_panel(panel), draft_panel(drawn_in)
        assert np.array(after.cutting_points) == pytest.approx(np.array(before.cutting_points), abs=1e-6)
        assert [m.kind for m in after.marks] == [m.kind for m in before.marks]
        one, other = (np.vstack([m.points for m in d.marks]) for d in (before, after))
        assert other == pytest.approx(one, abs=1e-6)
        assert [n.on_cut for n in after.notches] == [pytest.approx(n.on_cut) for n in before.notches]

    @pytest.mark.parametrize("fit", FITS[:4])
    def test_a_dart_is_turned_on_the_line_with_ease_in_it(self, fit: Fit) -> None:
        """What is sewn is as long as before, and the dart's angle is kept."""
        panel = replace(self.PANEL, fit=fit)
        before = ring_length(draft_panel(replace(panel, features=panel.without(Dart))).seam_line) - 60
        after = pivot_dart(panel, "feature1", "edge2", 150).panel
        assert after.fit is None
        assert ring_length(after.seam_line) - sum(d.intake for d in after.of(Dart)) == pytest.approx(before, abs=1e-6)
        assert 2 * math.atan2(after.of(Dart)[0].intake / 2, after.of(Dart)[0].length) == pytest.approx(
            2 * math.atan2(30, 180)
        )
        assert shapely.Polygon(draft_panel(after).cutting_points).is_valid

    @pytest.mark.parametrize(
        "more",
        [
            Dart("edge2", 205, 20, 60),
            MarkAt("centre", (300, 20), (300, 380)),
            Aperture("round", (300, 190), (60, 60)),
            Pleats("edge2", 190, 60),
        ],
    )
    def test_what_lies_across_the_cut_is_named(self, more: Feature) -> None:
        with pytest.raises(Refusal, match="move one of them"):
            pivot_dart(replace(self.PANEL, features=(*self.PANEL.features, more)), "feature1", "edge2", 200)


class TestInClothThatStretchesOrShrinks:
    """What is cut is as much larger or smaller as the cloth asks for, so that the cover comes out as it was set."""

    PANEL = Panel(
        "front", shapes.square(400, allowance=12), middle_notches=False,
        features=(
            Notch("edge1", 60),
            Dart("edge1", 250, 40, 150, lean=12),
            Dart("edge3", 0, 24, 60, corner=True),
            Taper("edge1", 50, 50, 8),
            Pleats("edge4", 120, 40, 2, 60),
            Aperture("round", (120, 250), (60, 60)),
            Aperture("slot", (280, 260), (90, 40), turn_deg=25),
            MarkAt("button", (200, 330))), grain_deg=70,
    )  # fmt: skip

    @pytest.mark.parametrize(
        ("fit", "along", "across"),
        [
            (Fit(shrunk=(0.05, 0.02)), 0.95, 0.98),
            (Fit(stretched=(0.0, 0.15)), 1.0, 1.15),
            (Fit(stretched=(0.08, 0.02), shrunk=(0.03, 0.03)), 1.08 * 0.97, 1.02 * 0.97),
        ],
    )
    def test_the_cover_comes_out_as_it_was_set(self, fit: Fit, along: float, across: float) -> None:
        wanted, cut = draft_panel(self.PANEL), draft_panel(replace(self.PANEL, fit=fit))
        a = math.radians(70)
        grain, weft = np.array([math.cos(a), math.sin(a)]), np.array([-math.sin(a), math.cos(a)])
        worn = along * np.outer(grain, grain) + across * np.outer(weft, weft)

        def once_worn(points: object) -> np.ndarray:
            return (np.asarray(points) - 200) @ worn.T + 200

        # a dart at a corner stays on the bisector, and pleats stay square to their edge
        dart, corner_dart = zip(marks(wanted, "dart"), marks(cut, "dart"), strict=True)
        pleats = zip(marks(wanted, "pleat"), marks(cut, "pleat"), strict=True)
        button = marks(wanted, "button")[0].points, marks(cut, "button")[0].points
        places = [
            (dart[0].points, dart[1].points, 0.01), (corner_dart[0].points, corner_dart[1].points, 3.0),
            (*button, 1e-6), *((w.points[:1], c.points[:1], 0.01) for w, c in pleats),
        ]  # fmt: skip
        for asked, result, near in places:
            assert once_worn(result) == pytest.approx(np.array(asked), abs=near)
        for asked, result in zip(wanted.hole_seam_points, cut.hole_seam_points, strict=True):
            ring, other = shapely.LinearRing(asked), shapely.LinearRing(once_worn(result))
            assert shapely.hausdorff_distance(ring, other, densify=0.05) < 0.03
        (notch,), (as_cut,) = wanted.notches, cut.notches
        assert once_worn([as_cut.on_seam]) == pytest.approx(np.array([notch.on_seam]), abs=1e-6)
        tip, made_tip = (next(e.end for e in d.seam_line if e.name.endswith("taper")) for d in (wanted, cut))
        assert once_worn(made_tip) == pytest.approx(np.array(tip), abs=1.0)

    def test_a_dart_on_an_arc_stands_where_it_was_set(self) -> None:
        """The cloth makes the arc a curve; the dart's feet and point come to lie where they were."""
        arch = (
            SeamEdge("line", ((0, 0), (300, 0)), "foot", 10),
            SeamEdge("arc", ((300, 0), (150, 180), (0, 0)), "arch", 10),
        )
        panel = Panel("arch", arch, middle_notches=False, features=(Dart("edge2", 200, 24, 80, lean=-6, bow=3),))
        (wanted,) = marks(draft_panel(panel), "dart_point")
        cut = draft_panel(replace(panel, fit=Fit(shrunk=(0.06, 0.01))))
        seam = np.array(draft_panel(replace(panel, features=panel.without(Dart))).seam_points)
        middle = (seam.min(axis=0) + seam.max(axis=0)) / 2

        def once_worn(points: object) -> np.ndarray:
            return (np.asarray(points) - middle) * [0.99, 0.94] + middle

        assert once_worn(marks(cut, "dart_point")[0].points) == pytest.approx(np.array(wanted.points), abs=0.02)
        feet, asked = (marks(d, "dart")[0].points for d in (cut, draft_panel(panel)))
        assert once_worn([feet[0], feet[-1]]) == pytest.approx(np.array([asked[0], asked[-1]]), abs=0.02)

    def test_a_round_opening_says_what_it_is_in_the_cloth(self) -> None:
        even = draft_panel(replace(self.PANEL, fit=Fit(shrunk=(0.04, 0.04))))
        assert any("62.5 in this cloth" in line for line in sums_of(even))
        uneven = draft_panel(replace(self.PANEL, grain_deg=90, fit=Fit(shrunk=(0.04, 0.0))))
        assert any("60.0 × 62.5 in this cloth" in line for line in sums_of(uneven))

    def test_a_facing_shrinks_like_its_panel(self) -> None:
        faced = replace(TRAY, features=(replace(POST, finish="faced"),), fit=Fit(clearance=5, shrunk=(0.1, 0.1)))
        (facing,) = companions(faced, draft_panel(faced))
        assert facing.fit == Fit(shrunk=(0.1, 0.1))
        across = float(np.ptp(np.array(draft_panel(facing).seam_points)[:, 0]))
        assert across == pytest.approx((46 + 60) / 0.9, abs=0.05)
