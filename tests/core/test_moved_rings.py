"""Rings moved, edges turned into curves and carried along, runs that know where they come from."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests import shapes
from tests.close import farthest, same_ring
from ypsicline.core.drafting.drop import drop_corner
from ypsicline.core.drafting.house import Cloth, House
from ypsicline.core.drafting.moved import moved_inward, moved_ring
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.documents import dump, load
from ypsicline.core.geometry import edge_length, flatten_ring, point_at, signed_area
from ypsicline.core.geometry.edges import Edge, as_curve, points_at, transformed
from ypsicline.core.geometry.plane import meet, turn_between, unit
from ypsicline.core.messages import message
from ypsicline.core.pattern.features.aperture import Aperture, finished_ring, placed_from
from ypsicline.core.pattern.features.dart import Dart
from ypsicline.core.pattern.features.gather import Gather
from ypsicline.core.pattern.features.layer import Layer
from ypsicline.core.pattern.features.mark_at import MarkAt
from ypsicline.core.pattern.features.pleats import Pleats
from ypsicline.core.pattern.features.taper import Taper
from ypsicline.core.pattern.fit import Fit, Lies
from ypsicline.core.pattern.house_rules import HouseRules
from ypsicline.core.pattern.ids import with_ids
from ypsicline.core.pattern.run import Run, cut_run, placed_on, runs_of


class TestMovedRings:
    @given(st.floats(0.5, 30))
    def test_out_and_in_again_a_convex_ring_is_where_it_was(self, distance: float) -> None:
        runs = runs_of(shapes.polygon([(0, 0), (300, 20), (280, 240), (30, 200)]))
        back = moved_ring(moved_ring(runs, distance), -distance)
        assert [r.source for r in back] == ["edge1", "edge2", "edge3", "edge4"]
        assert same_ring(flatten_ring([r.edge for r in back]), flatten_ring([r.edge for r in runs]), within_mm=1e-6)

    @pytest.mark.parametrize("name", ["keyhole", "comb"])
    def test_beside_an_inlet_that_closes_up_a_mitred_edge_runs_on_to_its_corner(self, name: str) -> None:
        """The ring crosses itself there, and is untangled; its outer corners are the edges' own all the same."""
        ring = shapes.ALL_SOUND[name]()
        after = moved_ring(runs_of(ring), 7.0)
        length = edge_length(ring[0])
        (foot,) = (r.edge for r in after if r.source == "edge1")
        assert edge_length(foot) == pytest.approx(length + 14, abs=1e-3)
        assert all(e.kind != "line" or edge_length(e) > 7.5 for e in (r.edge for r in after))

    @pytest.mark.parametrize("name", ["square", "circle", "bitten square", "arrow", "wave"])
    @pytest.mark.parametrize("distance", [-4.0, 3.0, 25.0])
    def test_every_edge_is_followed_at_its_distance(self, name: str, distance: float) -> None:
        ring = shapes.ALL_SOUND[name]()
        runs, names = moved_ring(runs_of(ring), distance), {r.source: r.edge.name for r in runs_of(ring)}
        body = shapely.LinearRing(flatten_ring(ring))
        for run in runs:
            assert run.edge.name == names[run.source]
            middle = shapely.Point(point_at(run.edge, 0.5))
            # never closer than the distance; farther only in the mitre of a corner
            assert body.distance(middle) >= abs(distance) - 0.02

    def test_of_what_falls_apart_the_largest_part_is_kept(self) -> None:
        waist = shapes.polygon([(0, 0), (60, 18), (120, 0), (120, 50), (60, 32), (0, 60)], allowance=8)
        left = moved_inward(waist)
        points = flatten_ring(left)
        assert signed_area(points) > 0
        assert points[:, 0].max() < 70
        assert {e.seam_edge for e in left} <= {None, 0, 4, 5, 3}

    def test_nothing_left_is_refused(self) -> None:
        with pytest.raises(Refusal, match="leaves nothing of the panel"):
            moved_ring(runs_of(shapes.circle(20)), -30)


class TestRuns:
    @given(st.floats(0, 0.45), st.floats(0.55, 1))
    def test_a_part_knows_its_share_and_joins_its_neighbours(self, low: float, high: float) -> None:
        for edge in shapes.wave():
            run, length = Run(edge, "a"), edge_length(edge)
            before, middle, after = (
                run.part(0, low * length),
                run.part(low * length, high * length),
                run.part(high * length, length),
            )
            assert middle.s0 == pytest.approx(low)
            assert middle.s1 == pytest.approx(high)
            assert before.edge.end == pytest.approx(middle.edge.start, abs=1e-6)
            assert middle.edge.end == pytest.approx(after.edge.start, abs=1e-6)
            assert sum(edge_length(r.edge) for r in (before, middle, after)) == pytest.approx(length, abs=1e-5)

    def test_places_are_found_on_parts_and_lost_where_one_was_cut_off(self) -> None:
        whole = Run(shapes.square(100)[0], "a")
        runs = [whole.part(0, 30), whole.part(60, 100)]
        assert placed_on(runs, [0, 1], 0.7) == (1, pytest.approx(10))
        assert placed_on(runs, [0, 1], 0.5) is None
        assert cut_run(runs, "a", 65, 80, message("thing_dart")) == (1, pytest.approx(5), pytest.approx(20))
        with pytest.raises(Refusal, match=r"from 25\.0 to 40\.0 mm"):
            cut_run(runs, "a", 25, 40, message("thing_dart"))


class TestEdgesCarriedAlong:
    @given(st.floats(5, 800), st.floats(-6.2, 6.2).filter(lambda a: abs(a) > 0.05))
    def test_an_arc_as_a_curve_stays_on_its_circle(self, radius: float, sweep: float) -> None:
        at = [(radius * math.cos(a), radius * math.sin(a)) for a in (0.3, 0.3 + sweep / 2, 0.3 + sweep)]
        curve = as_curve(Edge("arc", tuple(at)))
        off = np.hypot(*points_at(curve, np.linspace(0, 1, 200)).T) - radius
        assert np.abs(off).max() <= 2e-6 * radius
        assert edge_length(curve) == pytest.approx(radius * abs(sweep), rel=1e-5)

    def test_only_a_similar_map_leaves_an_arc_an_arc(self) -> None:
        arc = shapes.circle(50)[0]
        assert transformed(arc, np.eye(2) * 2).kind == "arc"
        wide = transformed(arc, np.diag([2.0, 1.0]), (5, 0))
        assert wide.kind == "curve"
        x, y = points_at(wide, np.linspace(0, 1, 100)).T
        assert ((x - 5) / 100) ** 2 + (y / 50) ** 2 == pytest.approx(np.ones(100), abs=1e-5)

    def test_lines_meet_or_run_alike(self) -> None:
        assert meet((0, 0), (1, 0), (5, 5), (0, 1)) == (5, 0)
        assert meet((0, 0), (1, 0), (0, 5), (2, 0)) is None
        assert turn_between((1, 0), unit((1, 1))) == pytest.approx(math.pi / 4)
        assert unit((0, 0)) == (0, 0)


class TestPlaces:
    def test_a_place_measured_from_two_edges_lies_so_far_inside_both(self) -> None:
        ring = with_ids("edge", shapes.polygon([(0, 0), (300, 40), (260, 200), (20, 180)]))
        at = shapely.Point(placed_from(ring, "edge1", 50, "edge4", 70))
        gaps = [at.distance(shapely.LineString([ring[k].start, ring[k].end])) for k in (0, 3)]
        assert gaps == pytest.approx([50, 70])
        for wrong in (("edge1", "edge10"), ("edge10", "edge1")):
            with pytest.raises(Refusal, match="that are there"):
                placed_from(ring, wrong[0], 1, wrong[1], 1)
        with pytest.raises(Refusal, match="run alike"):
            placed_from(with_ids("edge", shapes.square()), "edge1", 10, "edge3", 10)
        with pytest.raises(Refusal, match="straight edges only"):
            placed_from(with_ids("edge", shapes.circle()), "edge1", 10, "edge2", 10)

    @pytest.mark.parametrize("kind", ["round", "slot", "rectangle"])
    def test_an_opening_has_its_clearance_all_round_however_it_is_turned(self, kind: str) -> None:
        tight = Aperture(kind, (10, 20), (80, 80 if kind == "round" else 30), turn_deg=35)  # type: ignore[arg-type]
        roomy = flatten_ring(finished_ring(replace(tight, clearance=6)))
        inner = flatten_ring(finished_ring(tight))
        assert signed_area(roomy) > signed_area(inner) > 0
        gaps = shapely.distance(shapely.LinearRing(roomy), shapely.points(inner))
        assert gaps.min() == pytest.approx(6, abs=0.02)
        assert farthest(inner, roomy) <= 6.02

    @given(st.floats(0.2, 2.8), st.floats(10, 900), st.floats(0, 100))
    def test_a_sharp_corners_intake_is_what_lies_beyond_the_plans_corner(
        self, turn: float, drop: float, tuck: float
    ) -> None:
        result = drop_corner(0, turn, drop, tuck)
        plan = runs_of(shapes.polygon([(-5000, 0), (0, 0), (5000 * math.cos(turn), 5000 * math.sin(turn))]))
        sheet = moved_ring(plan, drop + tuck)
        tip = sheet[0].edge.end
        if len(sheet) == 3:
            assert result.intake_at_edge == pytest.approx(2 * abs(tip[0]), rel=1e-6)
        assert result.gathered_by_cord == 0


WRONG = [
    lambda: Fit(percent=math.nan), lambda: Fit(over=-1), lambda: Fit(shrunk=(0.6, 0)), lambda: Taper("edge1", 0, 10, 5),
    lambda: Taper("edge1", 10, 10, math.inf), lambda: Dart("edge1", -1, 10, 10), lambda: Dart("edge1", 1, 0, 10), lambda: Pleats("edge1", 1, 10, 41),
    lambda: Gather("edge1", 1.0), lambda: Aperture("round", (math.nan, 0), (1, 1)), lambda: Aperture("outline", (0, 0), ring=((0, 0), (9, 9))),
    lambda: Aperture("round", (0, 0), (9, 9), name="a\nb"), lambda: Aperture("round", (0, 0), (9, 9), stocked=(1,)),
    lambda: MarkAt("note", (0, 0), text="x" * 81), lambda: Layer("foam", "\n"), lambda: Layer("foam", "x", grown=900),
    lambda: Lies((math.inf, 0)), lambda: Cloth(""), lambda: Cloth("x", warp_shrinks=0.9), lambda: House(cloths=(Cloth("x"), Cloth("x"))),
]  # fmt: skip


@pytest.mark.parametrize("make", WRONG)
def test_features_that_make_no_sense_are_refused_with_a_sentence(make: object) -> None:
    with pytest.raises(Refusal) as refusal:
        make()  # type: ignore[operator]
    assert refusal.value.sentence.endswith(".")


def test_house_rules_come_back_from_their_file_as_they_were() -> None:
    house = House(
        HouseRules(seam=9), (Cloth("drill", 0.4, 0.03, 0.02, rules=HouseRules(hem=18)), Cloth("felt", prewashed=True))
    )
    again = load(House, dump(house), "house rules")
    assert again == house
    assert [again.rules_for(c).hem for c in ("drill", "felt", "unknown")] == [18, 25, 25]
