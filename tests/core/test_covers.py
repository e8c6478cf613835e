"""Covers of every family: worked cases, and what holds whatever the measures."""

from __future__ import annotations

import json
import math
from collections import Counter
from typing import Any

import numpy as np
import pytest
import shapely

from tests.cases import worked_cases
from tests.families import FAMILIES, cover_of, lot
from ypsicline.core.covers.cover import Cover
from ypsicline.core.covers.family import family_kinds
from ypsicline.core.drafting.draft import draft_panels
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.documents import cover_file, dump, load_panels
from ypsicline.core.formats.measures_json import family_adapter, family_names, read_measures
from ypsicline.core.joins.walk import walks
from ypsicline.core.pattern.features.aperture import Aperture
from ypsicline.core.pattern.features.notch import Notch
from ypsicline.core.pattern.features.taper import Taper
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.solids.assembled import assembled

LOTS = range(12)
ALL = [(family, k) for family in FAMILIES for k in LOTS]


def named(cover: Cover, id: str) -> Panel:
    return next(p for p in cover.panels if p.id == id)


def size(panel: Panel) -> tuple[float, float]:
    """By the points of the flattened seam line, for shapely to measure."""
    x0, y0, x1, y1 = shapely.Polygon(draft_panels([panel])[0].seam_points).bounds
    return x1 - x0, y1 - y0


def cover_by_lot(family: str, k: int) -> Cover:
    file = lot(family, k)
    return cover_of(family, **file)


def test_every_family_is_drawn_by_lot() -> None:
    assert set(FAMILIES) == set(family_names())
    assert len(family_kinds()) == 16


@pytest.mark.parametrize(("family", "k"), ALL)
def test_every_join_matches_and_every_panel_can_be_cut(family: str, k: int) -> None:
    cover = cover_by_lot(family, k)
    for lengths in walks(cover.joins, cover.panels):
        assert lengths.verdict != "mismatch", lengths
        if lengths.verdict == "equal":
            assert abs(lengths.difference_mm) <= 0.5
    for draft in draft_panels(cover.panels, House()):
        body, cloth = shapely.Polygon(draft.seam_points), shapely.Polygon(draft.cutting_points)
        assert body.is_valid and cloth.is_valid
        assert cloth.buffer(0.05).contains(body)


@pytest.mark.parametrize(("family", "k"), [(f, k) for f in FAMILIES for k in range(3)])
def test_the_same_measures_in_inches_make_the_same_panels(family: str, k: int) -> None:
    """Lengths of the measures as text in inches; shares, counts and outlines stay numbers."""
    file = lot(family, k)

    def in_inches(value: Any, name: str) -> Any:
        if isinstance(value, list) and name.startswith("stations"):
            return [f"{v / 25.4!r} in" for v in value]
        if isinstance(value, (int, float)) and not isinstance(value, bool):
            return f"{value / 25.4!r} in" if value > 0 else value
        return value

    typed = {n: in_inches(v, n) for n, v in file["measures"].items()}
    one, other = cover_of(family, **file), cover_of(family, **(file | {"measures": typed}))
    assert len(one.panels) == len(other.panels)
    for a, b in zip(one.panels, other.panels, strict=True):
        for e, f in zip(a.seam_line, b.seam_line, strict=True):
            assert all(math.dist(p, q) < 1e-6 for p, q in zip(e.points, f.points, strict=True))


@pytest.mark.parametrize("family", FAMILIES)
def test_a_cover_is_written_read_and_drafted_again_to_the_same(family: str) -> None:
    cover = cover_by_lot(family, 1)
    written = dump(cover_file(cover, House()))
    file = json.loads(written)
    assert len(file["joins"]) == len(cover.joins)
    assert all(j["walk"]["verdict"] != "mismatch" for j in file["joins"])
    assert [n["kind"] for n in file["notions"]] == [n.kind for n in cover.notions]
    again = load_panels(written)
    assert again.panels == cover.panels
    assert again.joins == cover.joins


@pytest.mark.parametrize("family", FAMILIES)
def test_a_family_as_it_was_set_is_written_and_read_back(family: str) -> None:
    file = lot(family, 2)
    result = read_measures(json.dumps(file).encode(), family)
    assert family_adapter().validate_json(family_adapter().dump_json(result)) == result


@pytest.mark.parametrize("family", FAMILIES)
def test_a_measure_that_is_unknown_or_below_nothing_is_refused_by_name(family: str) -> None:
    file = lot(family, 0)
    with pytest.raises(Refusal, match="girht"):
        cover_of(family, **(file | {"measures": file["measures"] | {"girht": 5}}))
    lengths = [n for n, v in file["measures"].items() if isinstance(v, (int, float))]
    for name in lengths[:1]:
        with pytest.raises(Refusal):
            cover_of(family, **(file | {"measures": file["measures"] | {name: "-5000"}}))


def test_pieces_are_counted() -> None:
    cover = cover_of("band_over_profile", {"width": 400, "height_front": 300, "height_back": 300, "depth": 500})
    assert [(p.name, p.hand, p.count) for p in cover.panels] == [("end", "pair", 1), ("band", "single", 1)]
    cover = cover_of("cone_sleeve", {"girth_top": 914, "girth_bottom": 921, "slant": 430}, choices={"panels": 2})
    assert [p.count for p in cover.panels] == [2]


class TestWorkedCases:
    @pytest.mark.parametrize("case", worked_cases("disc-and-wall"), ids=lambda c: c["name"])
    def test_a_drum(self, case: dict[str, Any]) -> None:
        g, e = case["given"], case["expect"]
        cover = cover_of(
            "drum",
            {"girth": g["girth"], "height": 200, "wall_ease": g["girth_ease"]},
            choices={"allowance": g["allowance"], "join_allowance": g["join_allowance"], "usable_width": 9000},
        )
        draft = {p.id: p for p in draft_panels(cover.panels)}
        across = shapely.Polygon(draft["top"].seam_points).bounds
        cut = shapely.Polygon(draft["top"].cutting_points).bounds
        wall, wall_cut = (shapely.Polygon(p).bounds for p in (draft["wall"].seam_points, draft["wall"].cutting_points))
        assert across[2] - across[0] == pytest.approx(e["seam_diameter"], abs=0.04)
        assert cut[2] - cut[0] == pytest.approx(e["cut_diameter"], abs=0.04)
        assert wall[2] - wall[0] == pytest.approx(e["wall_seam_length"], abs=0.01)
        assert wall_cut[2] - wall_cut[0] == pytest.approx(e["wall_cut_length"], abs=0.01)
        over = {f.message.code: f.message.numbers["over_mm"] for f in cover.findings if "over_mm" in f.message.numbers}
        assert over["wall_of_cut_circle"] == pytest.approx(e["excess_if_wall_from_cut_diameter"], abs=0.01)
        assert over["ease_added_twice"] == pytest.approx(e["mismatch_if_ease_added_to_both"], abs=0.01)

    @pytest.mark.parametrize("case", worked_cases("cone-sleeve"), ids=lambda c: c["name"])
    @pytest.mark.parametrize("is_wide_at_top", [False, True])
    def test_a_cone(self, case: dict[str, Any], is_wide_at_top: bool) -> None:
        g, e = case["given"], case["expect"]
        small, large = ("girth_bottom", "girth_top") if is_wide_at_top else ("girth_top", "girth_bottom")
        cover = cover_of("cone_sleeve", {small: g["girth_small"], large: g["girth_large"], "slant": g["slant"]})
        (panel,) = cover.panels
        ends = {edge.name: shapely.LineString(draft_panels([panel])[0].seam_points).length for edge in panel.seam_line}
        assert ends
        outer = next(x for x in panel.seam_line if x.name == ("top" if is_wide_at_top else "bottom"))
        assert math.dist(outer.start, outer.end) == pytest.approx(e["chord_outer"], abs=0.01)
        foot = shapely.LineString([outer.start, outer.end]).interpolate(0.5, normalized=True)
        assert math.dist((foot.x, foot.y), outer.points[1]) == pytest.approx(e["sagitta_outer"], abs=0.01)
        left = next(x for x in panel.seam_line if x.name == "left")
        assert math.dist(left.start, left.end) == pytest.approx(g["slant"], abs=1e-6)

    @pytest.mark.parametrize("case", worked_cases("quad-from-diagonal"), ids=lambda c: c["name"])
    def test_a_pad_from_its_sides_and_diagonal(self, case: dict[str, Any]) -> None:
        g, e = case["given"], case["expect"]
        measures = {"front": g["ab"], "right": g["bc"], "back": g["cd"], "left": g["da"], "diagonal": g["ac"]}
        top = named(cover_of("pad", measures, choices={"taper": "none"}), "top")
        corners = [edge.start for edge in top.seam_line]
        assert corners == [pytest.approx(p, abs=0.01) for p in e["points"]]

    @pytest.mark.parametrize("case", worked_cases("taper-rectangle"), ids=lambda c: c["name"])
    def test_a_pad_with_its_corners_tapered(self, case: dict[str, Any]) -> None:
        g, e = case["given"], case["expect"]
        w, h = g["width"], g["length"]
        measures = {"front": w, "right": h, "back": w, "left": h, "diagonal": math.hypot(w, h)}
        choices = {"taper_reach": g["reach"], "taper_inset": g["inset"], "closing_gap": 60}
        top = draft_panels([named(cover_of("pad", measures, choices=choices), "top")])[0]
        ring = shapely.Polygon(top.seam_points)
        assert ring.area == pytest.approx(e["area"], rel=1e-6)
        assert ring.exterior.length == pytest.approx(e["perimeter"], abs=0.01)

    @pytest.mark.parametrize("case", worked_cases("corner-dart"), ids=lambda c: c["name"])
    def test_a_drop_cover(self, case: dict[str, Any]) -> None:
        g, e = case["given"], case["expect"]
        cover = cover_of(
            "drop_cover",
            {
                "width": 800,
                "length": 700,
                "corner_radius": g["corner_radius"],
                "drop": g["drop"],
                "tuck_under": g["tuck_under"],
            },
        )
        (taken,) = (m.numbers for m in cover.workings if m.code == "corner_taken_in")
        assert taken["at_drop_mm"] == pytest.approx(e["intake_at_drop"], abs=0.01)
        assert taken["at_edge_mm"] == pytest.approx(e["intake_at_edge"], abs=0.01)
        assert taken["gathered_mm"] == pytest.approx(e["gathered_by_cord"], abs=0.01)

    @pytest.mark.parametrize("case", worked_cases("corner-radius"), ids=lambda c: c["name"])
    def test_a_drop_cover_by_the_diagonal_of_its_plan(self, case: dict[str, Any]) -> None:
        g = case["given"]
        cover = cover_of(
            "drop_cover", {"width": g["width"], "length": g["length"], "diagonal": g["diagonal"], "drop": 200}
        )
        (result,) = (m.numbers["radius_mm"] for m in cover.workings if m.code == "radius_of_diagonal")
        assert result == pytest.approx(case["expect"]["radius"], abs=0.05)

    @pytest.mark.parametrize("case", worked_cases("frill-strips"), ids=lambda c: c["name"])
    def test_the_strips_of_a_frill(self, case: dict[str, Any]) -> None:
        g, e = case["given"], case["expect"]
        side = g["run"] / 4
        measures = {"front": side, "right": side, "back": side, "left": side, "diagonal": side * math.sqrt(2)}
        choices = {
            "taper": "none", "frill": True, "frill_fullness": g["fullness"], "usable_width": g["usable_width"],
            "join_allowance": g["join_allowance"],
        }  # fmt: skip
        cover = cover_of("pad", measures, choices=choices)
        strips = [p for p in cover.panels if p.id.startswith("frill")]
        assert len(strips) == e["strips"]
        assert sum(size(p)[0] for p in strips) == pytest.approx(e["finished_strip_length"], abs=0.01)

    @pytest.mark.parametrize("case", worked_cases("sling"), ids=lambda c: c["name"])
    def test_a_sling(self, case: dict[str, Any]) -> None:
        g, e = case["given"], case["expect"]
        measures = {"width_on": g["on"], "width_off": g["off"], "length_on": 600}
        front = named(cover_of("envelope_sling", measures, choices={"stretch_width": g["new_cloth_stretch"]}), "front")
        assert size(front)[0] == pytest.approx(e["cut"], abs=0.01)


class TestNotchesMeet:
    """Where notches of two edges that are sewn together lie, by hand."""

    def test_round_a_drum(self) -> None:
        """The upper disc seen from above runs as the wall does seen from outside; the lower one, seen from below, against it."""
        cover = cover_of("drum", {"girth": 1000, "height": 100}, choices={"closure": "none", "usable_width": 3000})
        wall = named(cover, "wall")
        edges = {e.id: e for e in wall.seam_line}
        at = {"top": set(), "bottom": set()}  # type: dict[str, set[float]]
        for n in wall.of(Notch):
            if edges[n.edge].name in at:
                x = n.along if edges[n.edge].name == "bottom" else 1000 - n.along
                at[edges[n.edge].name].add(round(x % 1000, 3))
        assert at == {"top": {0.0, 250.0, 500.0, 750.0}, "bottom": {0.0, 250.0, 500.0, 750.0}}
        radius = 1000 / (2 * math.pi)
        for disc in ("top", "bottom"):
            on = {tuple(round(v, 2) + 0.0 for v in n.on_seam) for n in draft_panels([named(cover, disc)])[0].notches}
            r = round(radius, 2)
            assert on == {(0.0, -r), (r, 0.0), (0.0, r), (-r, 0.0)}

    def test_a_zip_opens_the_same_place_of_wall_and_disc(self) -> None:
        """On the wall from 300 to 700; the disc, seen from below, from 1000 − 700 to 1000 − 300."""
        cover = cover_of("drum", {"girth": 1000, "height": 100}, choices={"opening": 400, "usable_width": 3000})
        (zipped,) = (j for j in cover.joins if j.seam == "zip")
        wall = next(e for e in named(cover, "wall").seam_line if e.id == zipped.second[0].edge)
        assert (wall.start[0], wall.end[0]) == pytest.approx((300, 700))
        shares = []
        for along in zipped.first:
            arc = next(e for e in named(cover, "bottom").seam_line if e.id == along.edge)
            shares += [(math.atan2(y, x) / (2 * math.pi) + 0.25) % 1 for x, y in (arc.start, arc.end)]
        assert (min(shares), max(shares)) == pytest.approx((0.3, 0.7))

    def test_on_the_walls_of_a_box(self) -> None:
        """Every corner of the top has its notch on the wall, as far along as the corner is round the top."""
        cover = cover_of("box_cover", {"width": 600, "depth": 400, "height": 200}, choices={"usable_width": 3000})
        top, wall = named(cover, "top"), named(cover, "wall")
        reached, corners = 0.0, []
        for e in top.seam_line[:-1]:
            reached += math.dist(e.start, e.end)
            corners.append(round(reached, 3))
        edges = {e.id: e.name for e in wall.seam_line}
        on_wall = {round(2000 - n.along, 3) for n in wall.of(Notch) if edges[n.edge] == "top"}
        assert set(corners) <= on_wall

    def test_on_the_sides_of_a_reversible_body_that_leans(self) -> None:
        """The upper front corner is as high on the body as the front is: 250 at either side."""
        measures = {"width": 600, "depth": 300, "height_left": 260, "height_right": 340, "height_front": 250}
        cover = cover_of("reversible_cover", measures)
        body = named(cover, "outer.body")
        heights = Counter(
            (e.name, round(n.along if e.name == "right side" else math.dist(e.start, e.end) - n.along, 1))
            for n in body.of(Notch)
            for e in body.seam_line
            if e.id == n.edge
        )
        assert heights["right side", 250.0] == 1
        assert heights["left side", 250.0] == 1


class TestChoices:
    def test_a_taper_that_is_asked_for_is_there_and_none_otherwise(self) -> None:
        measures = {"front": 400, "right": 400, "back": 400, "left": 400, "diagonal": 400 * math.sqrt(2)}
        assert len(named(cover_of("pad", measures), "top").of(Taper)) == 4
        assert not named(cover_of("pad", measures, choices={"taper": "none"}), "top").of(Taper)

    def test_a_let_in_strip_lengthens_a_band_or_takes_its_place(self) -> None:
        measures = {"width": 300, "height_front": 200, "height_back": 200, "depth": 400}
        for kind in ("contrast", "repair"):
            cover = cover_of("band_over_profile", measures, choices={"let_in": kind, "let_in_width": 80})
            bands = [p for p in cover.panels if p.id.startswith("band")]
            assert sum(size(p)[0] for p in bands) == pytest.approx(800)
            (let_in,) = (p for p in bands if p.name == "let-in strip")
            assert size(let_in)[0] == pytest.approx(80)
            assert let_in.cloth == ("contrast" if kind == "contrast" else "outer")

    def test_the_girth_of_a_band_grows_by_its_ease(self) -> None:
        measures = {"width": 300, "height_front": 250, "height_back": 200, "depth": 400, "radius_front": 30}
        plain, eased = (cover_of("band_over_profile", measures | {"ease_girth": e}) for e in (0, 25))
        lengths = [walks(c.joins, c.panels)[-1].first.length for c in (plain, eased)]
        assert lengths[1] - lengths[0] == pytest.approx(25, abs=1e-5)

    def test_a_chalked_piece_that_was_pinned_wrong_side_out_is_mirrored(self) -> None:
        outline = [[0, 0], [300, 0], [250, 200], [0, 120]]
        rings = [
            shapely.Polygon(draft_panels(cover_of("fitted_slip", {}, shapes={"pieces": [piece]}).panels)[0].seam_points)
            for piece in ({"name": "seat", "outline": outline, "face": face} for face in ("outward", "inward"))
        ]
        flipped = shapely.affinity.scale(rings[1], -1, 1, origin=(0, 0))
        assert rings[0].symmetric_difference(flipped).area < 1e-6

    def test_choices_of_their_own_file_go_before_those_of_the_measures(self) -> None:
        file = json.dumps({"measures": {"girth": 900, "height": 90}, "choices": {"closure": "gap", "notches": 8}})
        result = read_measures(file.encode(), "drum", json.dumps({"choices": {"closure": "none"}}).encode())
        assert (result.choices.closure, result.choices.notches) == ("none", 8)  # type: ignore[attr-defined]

    @pytest.mark.parametrize("radius", [0, 60])
    @pytest.mark.parametrize("walls", ["one_strip", "by_side", "cross"])
    def test_openings_come_to_lie_in_the_middle_of_their_walls(self, walls: str, radius: float) -> None:
        """Put together in space: handles 100 below the top in the middle of the right and the left side, the vent at the back."""
        if walls == "cross" and radius:
            return
        box = {"width": 700, "depth": 400, "height": 500, "corner_radius": radius}
        choices = {"walls": walls, "handle_width": 120, "vent_width": 200, "vent_height": 60}
        cover = cover_of("box_cover", box, choices=choices)
        draft_panels(cover.panels)
        standing = {s.panel: s for s in cover.standing}
        corner = assembled(cover.standing, {p.id: p for p in cover.panels})
        low = np.min([p for a in corner for p in a.points], axis=0)
        result = {
            hole.name: standing[p.id].points(np.array([hole.at]))[0] - low
            for p in cover.panels
            for hole in p.of(Aperture)
        }
        assert result["right handle"] == pytest.approx((700, 200, 400))
        assert result["left handle"] == pytest.approx((0, 200, 400))
        assert result["vent"] == pytest.approx((350, 400, 410))

    def test_openings_want_four_walls(self) -> None:
        shapes = {"plan": [[0, 0], [300, 0], [350, 200], [150, 330], [0, 200]]}
        with pytest.raises(Refusal, match="four straight walls"):
            cover_of("box_cover", {"height": 200}, shapes=shapes, choices={"vent_width": 60})

    def test_an_edge_finished_otherwise_is_not_bound(self) -> None:
        """Three sides of 500 by 300 bound: 300 + 500 + 300, an overlap of 25, two corners of 12."""
        own = {"finished_otherwise": [{"edge": 1, "finish": "hem"}]}
        cover = cover_of("flat_panel", {"width": 500, "length": 300}, choices=own)
        assert [e.finish for e in cover.panels[0].seam_line] == ["hem", "bound", "bound", "bound"]
        assert [n.length_mm for n in cover.notions] == [pytest.approx(1149)]
        with pytest.raises(Refusal, match="edge finished otherwise"):
            cover_of("flat_panel", {"width": 500, "length": 300}, choices={"finished_otherwise": [{"edge": 5}]})

    @pytest.mark.parametrize("parted", [True, False])
    def test_sides_of_a_drape_are_sewn_front_to_back(self, parted: bool) -> None:
        """From the hems up 300: what is sewn to one another hangs at the same height on the same side."""
        choices = {"sides_sewn_up_to": 300, "joined_at_back": parted, "join_at": 0.45}
        cover = cover_of("drape", {"girth_over": 1800, "width": 500}, choices=choices)
        panels = {p.id: p for p in draft_panels(cover.panels)}
        sewn = cover.joins[-2:]
        for join in sewn:
            (one,), (other,) = join.first, join.second
            ends = []
            for along in (one, other):
                edge = next(e for e in panels[along.panel].seam_line if e.id == along.edge)
                x, y = zip(edge.start, edge.end, strict=True)
                # how far each end hangs above its hem; at the back the cloth runs down from above
                whole = 1800 if along.panel == "outer" else max(e.end[1] for e in panels[along.panel].seam_line)
                above = [min(v, whole - v) if along.panel == "outer" else v for v in y]
                ends.append((x[0], above[::-1] if along.backward else above))
            (x1, high1), (x2, high2) = ends
            assert high1 == pytest.approx(high2)
            assert x2 == (500 - x1 if parted else x1)
        with pytest.raises(Refusal, match="need no ties"):
            cover_of("drape", {"girth_over": 1800, "width": 500, "ties_height": 200}, choices=choices | {"ties": True})

    def test_a_slips_opening_and_hem(self) -> None:
        areas = {"areas": [{"name": "seat", "width": 500, "height": 400}]}
        choices = {"opening": "flaps", "opening_length": 300, "flap_overlap": 40, "elastic_hem": 2000}
        cover = cover_of("fitted_slip", areas, choices=choices)
        flap = next(p for p in cover.panels if p.name == "flap")
        assert (flap.count, shapely.Polygon([e.start for e in flap.seam_line]).area) == (2, 300 * 80)
        assert {n.kind: n.length_mm for n in cover.notions} == {"elastic": pytest.approx(2000 * 0.9 + 25)}
        zipped = cover_of("fitted_slip", areas, choices={"opening": "zip", "opening_length": 300})
        assert [n.length_mm for n in zipped.notions] == [pytest.approx(340)]

    @pytest.mark.parametrize("count", [1, 2, 4, 5])
    def test_buttons_of_both_plies_lie_on_one_another(self, count: int) -> None:
        sides = {"front": 420, "right": 400, "back": 360, "left": 410, "diagonal": 560}
        cover = cover_of("pad", sides, choices={"buttons": count})
        top, bottom = (
            shapely.MultiPoint([m.points[0] for m in draft_panels([named(cover, p)])[0].marks if m.kind == "button"])
            for p in ("top", "bottom")
        )
        assert len(top.geoms) == count
        # sewn face to face the bottom is turned over
        assert shapely.affinity.scale(bottom, -1, 1, origin=(0, 0)).equals_exact(top, 1e-6, normalize=True)
        assert {n.kind: n.count for n in cover.notions}["button"] == 2 * count

    def test_a_slit_runs_where_it_is_asked_to(self) -> None:
        """A post 300 in from the left edge and 200 above the lower one: nearest 200 down; to the left 300; up-left at 135° √2 · 300."""
        shapes = {"outline": [[0, 0], [1000, 0], [1000, 800], [0, 800]]}
        lengths = []
        for towards in ({}, {"slit_deg": 180}, {"slit_deg": 135}):
            post = {"at": [300, 200], "diameter": 60, "name": "post"} | towards
            cover = cover_of("retrofit_aperture", {"posts": [post], "clearance": 10}, shapes=shapes)
            (mark,) = (m for p in cover.panels for m in p.features if m.kind == "mark")
            lengths.append(next(line for line in cover.workings if line.code == "slit_to_edge").numbers["slit_mm"])
            turn = math.radians({0: 270, 1: 180, 2: 135}[len(lengths) - 1])
            assert mark.to == pytest.approx(
                (math.cos(turn) * math.hypot(*mark.to), math.sin(turn) * math.hypot(*mark.to)), abs=1e-6
            )
        assert lengths == pytest.approx([200 - 40, 300 - 40, 300 * math.sqrt(2) - 40])
        edge = {"line": [[0, 0], [1000, 0]]}
        with pytest.raises(Refusal, match="isn’t reached towards 90°"):
            cover_of("retrofit_aperture", {"posts": [{"at": [300, 200], "diameter": 60, "slit_deg": 90}]}, shapes=edge)

    def test_an_unpicked_edge_has_its_casing_taken_off(self) -> None:
        """Opened flat, the old edge is as much wider as the casing that was folded: 16 and 10 turned under."""
        old = {"thickness": 20, "wrap_under": 60, "width": 1000, "length": 600}
        whole, unpicked = (
            cover_of("elasticated_top", old, choices={"traced": t}) for t in ("old_cover", "old_cover_unpicked")
        )
        assert size(whole.panels[0]) == pytest.approx((1000, 600))
        assert size(unpicked.panels[0]) == pytest.approx((1000 - 52, 600 - 52))
        assert shapely.Polygon(draft_panels(unpicked.panels)[0].cutting_points).bounds[2] == pytest.approx(500, abs=0.1)

    def test_where_the_cords_lock_is_reached(self) -> None:
        plan = {"width": 600, "length": 500, "corner_radius": 90, "drop": 400, "tuck_under": 60}
        for lock, words in (("outside", "cord exit"), ("inside", "cord exit, inside")):
            cover = cover_of("drop_cover", plan, choices={"lock": lock})
            assert f"lock_{lock}" in {line.code for line in cover.workings}
            assert words in {m.text for m in cover.panels[0].features if m.kind == "mark"}

    @pytest.mark.parametrize("unit", ["mm", "in"])
    def test_places_are_typed(self, unit: str) -> None:
        """A cover's edge along 0; 0 to 1000; 0, typed in the unit; a post 200 above it has a slit of 160."""
        per = {"mm": 1.0, "in": 25.4}[unit]
        line = f"0; 0 / {1000 / per}; 0"
        post = {"at": [300 / per, 200 / per], "diameter": 60 / per}
        asked = {
            "family": "retrofit_aperture",
            "measures": {"posts": [post], "clearance": 10 / per},
            "shapes": {"line": line},
        }
        typed = json.loads(json.dumps(asked), parse_float=str, parse_int=str)
        cover = family_adapter().validate_python(typed, context={"unit": unit}).cover(House())
        (slit,) = (w.numbers["slit_mm"] for w in cover.workings if w.code == "slit_to_edge")
        assert slit == pytest.approx(160)
        with pytest.raises(Refusal, match="across; up, with a stroke between"):
            family_adapter().validate_python(typed | {"shapes": {"line": "0; 0; 3"}}, context={"unit": unit})
