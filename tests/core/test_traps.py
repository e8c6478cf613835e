"""The trap in each of seventeen jobs at the Otterbeck Clay Rooms: done wrong, the software says so."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest
import shapely

from tests.families import cover_of
from ypsicline.core.covers.cover import Cover
from ypsicline.core.drafting.draft import draft_panels
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Severity
from ypsicline.core.geometry.edges import edge_length
from ypsicline.core.joins.walk import walk_findings, walks
from ypsicline.core.messages import Message
from ypsicline.core.pattern.features.dart import Dart

SQUARE = {"front": 400, "right": 400, "back": 400, "left": 400, "diagonal": 565.685}
ANY_OUTLINE = [[0, 0], [300, 0], [250, 200], [0, 120]]


def severities(cover: Cover) -> dict[str, Severity]:
    """What is said of a cover, by its code: by the family, by its joins, by its panels."""
    said = [*cover.findings, *(f for w in walks(cover.joins, cover.panels) for f in walk_findings(w))]
    said += [f for p in draft_panels(cover.panels, House()) for f in p.findings]
    return {f.message.code: f.severity for f in said}


def refusal(family: str, measures: dict[str, Any], **parts: Any) -> str:
    with pytest.raises(Refusal) as caught:
        cover_of(family, measures, **parts)
    return caught.value.sentence


def test_1_a_sleeve_whose_ends_hardly_differ_is_marked_top() -> None:
    cover = cover_of(
        "cone_sleeve", {"girth_top": 914, "girth_bottom": 921, "slant": 430}, choices={"panels": 2, "top": "hem"}
    )
    assert severities(cover)["binds_upside_down"] == "fine"
    marks = draft_panels(cover.panels)[0].marks
    assert any("TOP" in m.lines for m in marks)
    # a hem at the top and binding at the bottom
    assert [n.kind for n in cover.notions] == ["binding"]


def test_2_a_pads_corners_and_its_gap() -> None:
    assert severities(cover_of("pad", SQUARE, choices={"taper": "none"}))["corners_will_stand_out"] == "look"
    assert "corners_will_stand_out" not in severities(cover_of("pad", SQUARE))
    small = {"closing": "by_hand", "closing_gap": 90}
    assert severities(cover_of("pad", SQUARE, choices=small))["opening_too_small"] == "stop"


class Test3TheWheelTablesCover:
    PLAN = {"width": 600, "length": 500, "corner_radius": 90, "drop": 400, "tuck_under": 60}

    def test_a_hook_under_that_is_too_short(self) -> None:
        assert severities(cover_of("drop_cover", self.PLAN | {"tuck_under": 35}))["hooks_under_too_little"] == "stop"
        assert "hooks_under_too_little" not in severities(cover_of("drop_cover", self.PLAN))

    def test_a_dart_as_it_was_pinned_is_held_against_the_sum_and_copied(self) -> None:
        cover = cover_of("drop_cover", self.PLAN | {"dart_intake": 640})
        assert severities(cover)["dart_as_pinned"] == "look"
        intakes = {f.intake for p in cover.panels for f in p.features if f.kind == "dart"}  # type: ignore[attr-defined]
        assert intakes == {640}

    def test_a_dart_that_twists(self) -> None:
        (body, *_) = cover_of("drop_cover", self.PLAN).panels
        edge = body.seam_line[0]
        for lean, code in ((0.0, False), (15.0, True)):
            dart = Dart(edge.id, along=edge_length(edge) / 2, intake=20, length=60, lean=lean)
            (draft,) = draft_panels([replace(body, features=(dart,))])
            assert any(f.message.code == "dart_legs_uneven" for f in draft.findings) is code

    def test_a_diagonal_that_contradicts_the_sides(self) -> None:
        plan = {"width": 600, "length": 500, "drop": 300}
        assert "790" in refusal("drop_cover", plan | {"diagonal": 790})


class Test4TheGlazeShelfsDrape:
    DRAPE = {"girth_over": 1600, "width": 600, "aperture_x": 200, "aperture_width": 80, "aperture_height": 120}

    def test_a_print_that_would_hang_upside_down(self) -> None:
        assert severities(cover_of("drape", self.DRAPE, choices={"directional": True}))["print_upside_down"] == "stop"
        joined = {"directional": True, "joined_at_back": True}
        assert "print_upside_down" not in severities(cover_of("drape", self.DRAPE, choices=joined))

    def test_a_join_under_the_opening(self) -> None:
        choices = {"joined_at_back": True, "aperture": "faced"}
        assert "over the join" in refusal("drape", self.DRAPE | {"aperture_y": 770}, choices=choices)
        assert len(cover_of("drape", self.DRAPE | {"aperture_y": 400}, choices=choices).panels) == 2

    def test_ties_meet_level(self) -> None:
        cover = cover_of("drape", self.DRAPE | {"ties_height": 250}, choices={"ties": True})
        ties = sorted(m.points[0][1] for m in draft_panels(cover.panels)[0].marks if m.kind == "tie")
        assert ties == [250, 250, 1350, 1350]


class Test5TheGlazeBoothsSlip:
    def test_chalk_along_the_pipings_foot(self) -> None:
        areas = {}
        for chalk in ("seam", "piping_foot"):
            pieces = [{"name": "front", "outline": ANY_OUTLINE, "face": "outward", "chalk": chalk}]
            (draft,) = draft_panels(cover_of("fitted_slip", {}, shapes={"pieces": pieces}).panels)
            areas[chalk] = shapely.Polygon(draft.seam_points)
        apart = areas["piping_foot"].exterior.distance(areas["seam"].exterior)
        assert apart == pytest.approx(2.5, abs=0.01)

    def test_a_panel_that_was_forgotten(self) -> None:
        areas = [{"name": n, "width": 300, "height": 300} for n in ("front", "side")]
        pieces = [{"name": "front", "outline": ANY_OUTLINE}]
        cover = cover_of("fitted_slip", {"areas": areas}, shapes={"pieces": pieces})
        assert severities(cover)["area_not_captured"] == "stop"


def test_6_the_flywheel_guards_ends_are_a_pair_and_its_band_is_let_in() -> None:
    profile = {"width": 300, "height_front": 250, "height_back": 250, "depth": 400, "radius_front": 40}
    cover = cover_of("band_over_profile", profile, choices={"let_in": "repair", "let_in_width": 60})
    assert severities(cover)["ends_are_a_pair"] == "fine"
    assert cover.panels[0].hand == "pair"
    assert severities(cover)["band_snipped"] == "fine"
    assert draft_panels(cover.panels)[0].marks


def test_7_the_wedging_mats_binding_comes_in_packs_and_its_wadding_larger() -> None:
    mat = {"width": 600, "length": 450}
    cover = cover_of("flat_panel", mat, choices={"binding_pack": 2000, "underlay": "wadding"})
    (binding,) = cover.notions
    # 2 100 round + 25 overlap + 4 × 12 = 2 173: two packs
    assert (binding.count, binding.length_mm) == (2, 2000)
    assert severities(cover)["underlay_draws_in"] == "look"


class Test8TheDryingFramesBed:
    BED = {"width_on": 500, "length_on": 900, "slot_length": 40, "slot_inset": 40, "stations_left": [200, 500, 700]}

    def test_off_longer_than_on_is_asked_back(self) -> None:
        assert "510" in refusal("envelope_sling", self.BED | {"width_off": 510})

    def test_stations_in_order_and_shortened_along_their_own_direction(self) -> None:
        assert "rise" in refusal("envelope_sling", self.BED | {"stations_left": [500, 200]})
        measures = self.BED | {"length_off": 810, "width_off": 490}
        cover = cover_of("envelope_sling", measures)
        slots = [f.at[1] for f in cover.panels[0].features if f.kind == "aperture"]  # type: ignore[attr-defined]
        assert slots == pytest.approx([180, 450, 630])

    def test_the_back_plys_slots_are_mirrored(self) -> None:
        front, back = cover_of("envelope_sling", self.BED).panels[:2]
        x = [[f.at[0] for f in p.features if f.kind == "aperture"] for p in (front, back)]  # type: ignore[attr-defined]
        assert x[1] == pytest.approx([-v for v in x[0]])


class Test9TheShowRoomsCushion:
    CUSHION = {"girth": 1900, "height": 200}

    def test_the_wall_from_the_cut_circle(self) -> None:
        (over,) = (
            f.message.numbers["over_mm"]
            for f in cover_of("drum", self.CUSHION).findings
            if f.message.code == "wall_of_cut_circle"
        )
        assert over == pytest.approx(75.4, abs=0.01)

    def test_an_opening_too_small_for_the_filling(self) -> None:
        assert severities(cover_of("drum", self.CUSHION, choices={"opening": 180}))["opening_too_small"] == "stop"

    def test_a_join_at_the_zips_end(self) -> None:
        choices = {"opening": 880, "usable_width": 1000}
        assert severities(cover_of("drum", self.CUSHION, choices=choices))["join_at_opening_end"] == "look"

    def test_loose_beads(self) -> None:
        assert "loose_filling" in severities(cover_of("drum", self.CUSHION))


def test_10_four_sides_alone_dont_fix_a_wheel_seats_pad() -> None:
    sides = {k: v for k, v in SQUARE.items() if k != "diagonal"}
    assert "lean" in refusal("pad", sides)
    assert "diagonal" in (said := refusal("pad", SQUARE | {"diagonal": 810}))
    assert "front" in said and "right" in said
    tied = cover_of("pad", sides, choices={"symmetric": True, "ties": 2})
    ties = [m.points[0] for m in draft_panels(tied.panels)[0].marks if m.kind == "tie"]
    # level with one another, and near the back
    assert len(ties) == 2 and ties[0][1] == pytest.approx(ties[1][1]) and ties[0][1] > 300


class Test11TheCarvedSignsSkin:
    PIECES = [
        {"name": "face", "outline": ANY_OUTLINE},
        {"name": "side", "outline": [[0, 0], [280, 0], [280, 200], [0, 200]]},
    ]

    def test_a_piece_that_doesnt_lie_flat(self) -> None:
        pieces = [self.PIECES[0] | {"rises": 25}]
        assert severities(cover_of("wrapped_shell", {}, shapes={"pieces": pieces}))["piece_rises"] == "look"

    def test_mates_of_unlike_length(self) -> None:
        """300 against 280 is 7 %, more than can be eased in."""
        seams = [{"first": "face", "first_edge": 1, "second": "side", "second_edge": 1}]
        cover = cover_of("wrapped_shell", {}, shapes={"pieces": self.PIECES, "seams": seams})
        assert severities(cover)["join_mismatch"] == "stop"

    def test_allowances_left_out_beyond_what_the_cloth_gives(self) -> None:
        shapes = {"pieces": self.PIECES[:1]}
        for stretch, severity in ((0.02, "stop"), (0.2, "fine")):
            choices = {"no_allowances": True, "stretch_along": stretch, "stretch_across": stretch}
            assert (
                severities(cover_of("wrapped_shell", {}, shapes=shapes, choices=choices))["allowances_left_out"]
                == severity
            )


class Test12TheGlazeTablesCover:
    BOARD = {"thickness": 25, "wrap_under": 60, "width": 1000, "length": 500, "corner_radius": 200}

    def test_what_was_cut_away_is_put_back(self) -> None:
        cover = cover_of("elasticated_top", self.BOARD | {"cut_away": 15}, choices={"traced": "old_cover"})
        x0, _, x1, _ = shapely.Polygon(draft_panels(cover.panels)[0].seam_points).bounds
        assert x1 - x0 == pytest.approx(1030, abs=0.05)

    def test_elastic_by_the_line_that_it_holds(self) -> None:
        """In by 60 under a board of 1000 × 500 with corners of 200: 2 (600 + 100) + 2π·140."""
        (elastic,) = cover_of("elasticated_top", self.BOARD, choices={"elastic_reduction": 0.25}).notions
        assert elastic.length_mm == pytest.approx((1400 + 2 * 3.14159265 * 140) * 0.75 + 25, abs=0.5)

    def test_a_wrap_too_small_to_hold(self) -> None:
        assert severities(cover_of("elasticated_top", self.BOARD | {"wrap_under": 20}))["wrap_too_small"] == "stop"


class Test13TheMotorsHood:
    def test_halves_believed_equal(self) -> None:
        leaning = [[0, 0], [300, 0], [290, 350], [40, 380]]
        assert severities(cover_of("lined_shell", {}, shapes={"profile": leaning}))["halves_differ"] == "look"

    def test_a_narrowing_is_to_be_measured_before_it_is_believed(self) -> None:
        leaning = {"profile": [[6, 0], [294, 0], [300, 350], [0, 350]]}
        cover = cover_of("lined_shell", {}, shapes=leaning)
        (finding,) = (f for f in cover.findings if f.message.code == "narrows")
        assert finding.severity == "look"
        assert finding.message.numbers["by_mm"] == pytest.approx(12, abs=0.4)
        measured = cover_of("lined_shell", {}, shapes=leaning, choices={"widest_girth_on_the_way": 560})
        assert severities(measured)["narrowing_measured"] == "fine"
        upright = cover_of("lined_shell", {}, shapes={"half": [[0, 0], [150, 0], [150, 300], [0, 350]]})
        assert "narrows" not in severities(upright)

    def test_a_bound_edge_has_no_allowance_and_the_lining_is_smaller(self) -> None:
        cover = cover_of("lined_shell", {"width": 300, "height": 400, "radius": 60, "layers_thickness": 4})
        outer, lining, _ = draft_panels(cover.panels)
        assert [e.allowance for e in outer.seam_line if e.name == "mouth"] == [0]
        widths = [b[2] - b[0] for b in (shapely.Polygon(p.seam_points).bounds for p in (outer, lining))]
        assert widths[0] - widths[1] == pytest.approx(8, abs=0.05)

    def test_a_lining_of_the_same_size_binds(self) -> None:
        measures = {"width": 300, "height": 400, "layers_thickness": 0}
        assert severities(cover_of("lined_shell", measures))["lining_as_large"] == "stop"


class Test14TheGasBottlesCap:
    CAP = {"girth": 812, "height": 500, "girth_ease": 20}

    def test_the_same_ease_on_diameter_and_girth(self) -> None:
        (over,) = (
            f.message.numbers["over_mm"]
            for f in cover_of("cap", self.CAP).findings
            if f.message.code == "ease_added_twice"
        )
        assert over == pytest.approx(20 * (3.14159265 - 1), abs=0.01)

    def test_too_tight_once_the_foot_is_turned(self) -> None:
        assert severities(cover_of("cap", self.CAP | {"girth_ease": 6}))["foot_too_tight"] == "stop"
        assert severities(cover_of("cap", self.CAP))["foot_slides_over"] == "fine"

    def test_a_rope_thicker_than_the_eyelet_and_gas(self) -> None:
        choices = {"disc_hole": "eyelet", "rope": 10, "bore": 9, "gas": True, "delicate_finish": True}
        said = severities(cover_of("cap", self.CAP, choices=choices))
        assert (said["bore_too_small"], said["gas_needs_air"], said["no_metal_here"]) == ("stop", "look", "look")


def test_15_box_corners_sit_and_none_of_the_trolleys_is_forgotten() -> None:
    cover = cover_of("box_cover", {"width": 600, "depth": 450, "height": 800}, choices={"walls": "by_side"})
    assert len(cover.panels) == 5
    assert all(w.verdict == "equal" for w in walks(cover.joins, cover.panels))
    areas = [
        {"name": "left-hand trolley", "width": 600, "height": 800, "count": 2},
        {"name": "trolley", "width": 600, "height": 800, "count": 4},
    ]
    assert sum(p.count for p in cover_of("fitted_slip", {"areas": areas}).panels) == 6


def test_16_a_slab_rollers_layers_bind_and_its_gap_is_too_small() -> None:
    roller = {"width": 700, "depth": 400, "height_left": 300, "height_right": 320}
    assert severities(cover_of("reversible_cover", roller))["layers_bind"] == "stop"
    eased = cover_of("reversible_cover", roller | {"ease_width": 12, "ease_girth": 12}, choices={"turning_gap": 80})
    assert "layers_bind" not in severities(eased)
    assert severities(eased)["opening_too_small"] == "stop"
    assert {p.hand for p in eased.panels} == {"single", "left", "right"}


class Test17TheAwningsPosts:
    POSTS = [
        {"at": [300, 200], "diameter": 60, "name": "left post"},
        {"at": [700, 200], "diameter": 60, "name": "right post"},
    ]
    EDGE = {"line": [[0, 0], [1000, 0]]}

    def test_a_zip_shorter_than_the_slit(self) -> None:
        assert "160" in refusal(
            "retrofit_aperture", {"posts": self.POSTS}, shapes=self.EDGE, choices={"stocked_zips": [100, 150]}
        )

    def test_posts_that_overlap_and_a_cord_without_slack(self) -> None:
        near = [self.POSTS[0], self.POSTS[1] | {"at": [390, 200]}]
        said = severities(
            cover_of("retrofit_aperture", {"posts": near}, shapes=self.EDGE, choices={"cord_in_edge": True})
        )
        assert (said["posts_overlap"], said["cord_has_no_slack"], said["mark_before_cutting"]) == (
            "stop",
            "stop",
            "look",
        )

    def test_heat_near_the_flue(self) -> None:
        cover = cover_of("retrofit_aperture", {"posts": self.POSTS}, shapes=self.EDGE, choices={"near_flue": True})
        assert severities(cover)["flue_needs_distance"] == "stop"

    def test_a_leaning_post_makes_an_ellipse(self) -> None:
        leaning = [self.POSTS[0] | {"leans_deg": 30}]
        (draft,) = draft_panels(cover_of("retrofit_aperture", {"posts": leaning}, shapes=self.EDGE).panels)
        (hole,) = draft.hole_seam_points
        x0, y0, x1, y1 = shapely.Polygon(hole).bounds
        assert (x1 - x0, y1 - y0) == (pytest.approx(60 / 0.8660254 + 20, abs=0.1), pytest.approx(80, abs=0.1))


@pytest.mark.parametrize("family", ["drum", "cap"])
class TestOwnSums:
    """Girth 900, ease 20, allowances 12, join 15, reckoned by hand: disc 920/π + 24 = 316.845, wall 950."""

    def found(self, family: str, **own: float) -> list[tuple[str, float]]:
        ease = {"drum": "wall_ease", "cap": "girth_ease"}[family]
        choices = {"allowance": 12, "join_allowance": 15, **{f"reckoned_{k}": v for k, v in own.items()}}
        cover = cover_of(family, {"girth": 900, "height": 200, ease: 20}, choices=choices)
        found = [f for f in cover.findings if f.message.code.startswith("reckoned")]
        assert all(f.severity == ("fine" if f.message.code == "reckoned_right" else "look") for f in found)
        whys = [dict(f.message.values).get("why") for f in found]
        return [
            (w.code if isinstance(w, Message) else "", round(f.message.numbers["off_mm"], 1))
            for w, f in zip(whys, found, strict=True)
        ]

    def test_right_ones_are_right(self, family: str) -> None:
        assert self.found(family, disc=317, wall=950) == [("", 0.2), ("", 0.0)]

    def test_the_three_shortcuts(self, family: str) -> None:
        # round the cut circle: 2π · 12 more; the same ease on diameter and girth; the joins left out
        assert self.found(family, wall=950 + 75.4) == [("reckoned_cut_circle", 75.4)]
        assert self.found(family, disc=900 / 3.14159 + 20 + 24) == [("reckoned_ease_on_diameter", 13.6)]
        assert self.found(family, wall=900 + 62.8 + 30) == [("reckoned_eased_diameter", 42.8)]
        assert self.found(family, wall=920) == [("reckoned_joins_forgotten", 30.0)]
        assert self.found(family, disc=304.8) == [("reckoned_allowance_once", 12.0)]

    def test_what_no_shortcut_comes_to_is_said_so(self, family: str) -> None:
        assert self.found(family, wall=1100, disc=250) == [("reckoned_otherwise", 66.8), ("reckoned_otherwise", 150.0)]
