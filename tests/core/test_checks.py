"""What the rules of a job find beyond its families and joins: ways up, hands, pieces, corners, mouths."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import pytest
import shapely

from tests.core.test_mends import cover, mends_of, open_codes
from tests.families import cover_of
from ypsicline.core.changes.change import changed
from ypsicline.core.changes.joins import JoinEdges, RemoveJoin, SewJoin
from ypsicline.core.changes.panels import SetPanel
from ypsicline.core.checks.checked import checked
from ypsicline.core.drafting.from_shape import panel_from_rings
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.formats.documents import PanelsFile, drafted_file
from ypsicline.core.formats.drawing import draw_panel
from ypsicline.core.geometry.edges import Edge
from ypsicline.core.geometry.likeness import apart_mirrored, apart_upside_down
from ypsicline.core.job import JobDocument
from ypsicline.core.joins.corners import draft_joined, meeting_corners
from ypsicline.core.pattern.features.layer import Layer
from ypsicline.core.pattern.join import Along
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.wording import render

BOX = {"width": 500, "depth": 300, "height": 200}


def outline(*points: tuple[float, float], **panel: Any) -> Panel:
    ring = tuple(Edge("line", (a, b)) for a, b in zip(points, (*points[1:], points[0]), strict=True))
    return replace(panel_from_rings(ring, (), "piece"), **panel)


def job_of(*panels: Panel) -> JobDocument:
    return JobDocument("test", panels=panels)


def found(job: JobDocument, code: str) -> list[Finding]:
    every = checked(job, draft_joined(job.panels, job.joins, job.house))
    return [c.finding for c in every if c.finding.message.code == code]


def leaning(by: float) -> Panel:
    return outline((0, 0), (400, 0), (400 - by, 300), (0, 300))


class TestWayUp:
    def test_a_panel_that_narrows_by_little_is_to_say_its_top(self) -> None:
        job = job_of(leaning(8))
        (finding,) = found(job, "upside_down_alike")
        assert finding.message.numbers["apart_mm"] == pytest.approx(8, abs=0.1)
        mended = mends_of(job)["Write on it that it lies as drawn"]
        assert mended.panels[0].way_up == "this way up"
        assert not found(mended, "upside_down_alike")

    @pytest.mark.parametrize("by", [0.0, 0.3, 60.0])
    def test_what_is_alike_either_way_or_plainly_not_needs_no_mark(self, by: float) -> None:
        assert not found(job_of(leaning(by)), "upside_down_alike")

    def test_reversible_body_says_where_its_back_is(self) -> None:
        measures = {"width": 800, "depth": 500, "height_left": 300, "height_right": 305, "height_front": 250}
        result = changed(JobDocument("test"), cover("reversible_cover", measures))
        assert not found(result, "upside_down_alike")


class TestHands:
    def test_two_alike_that_are_likely_a_pair(self) -> None:
        job = job_of(replace(leaning(80), count=2))
        assert found(job, "hands_alike")
        mended = mends_of(job)["Cut 1 pair"]
        assert (mended.panels[0].count, mended.panels[0].hand, mended.panels[0].pieces) == (1, "pair", 2)

    def test_what_is_its_own_mirror_image_has_no_hand(self) -> None:
        even = outline((0, 0), (400, 0), (340, 300), (60, 300), count=2)
        assert not found(job_of(even), "hands_alike")

    def test_layers_of_a_panel_are_mended_with_it(self) -> None:
        lined = replace(leaning(80), count=2, features=(Layer("lining", allowance=8),))
        job = job_of(lined)
        (finding,) = found(job, "hands_alike")
        assert finding.place.panel == job.panels[0].name
        assert [p.hand for p in mends_of(job)["Cut 1 pair"].panels] == ["pair"]
        assert (
            found(job_of(replace(leaning(8), features=lined.features)), "upside_down_alike")[0].place.panel == "piece"
        )

    @pytest.mark.parametrize("turned", [0, 17, 90, 233])
    def test_mirror_image_whichever_way_it_lies(self, turned: float) -> None:
        """A kite is its own mirror image; a parallelogram of 200 and 100 leaning by 30° isn't, and is turned by 180°."""
        kite = shapely.Polygon([(0, -100), (60, 0), (0, 180), (-60, 0)])
        slant = shapely.Polygon([(0, 0), (200, 0), (250, 86.6), (50, 86.6)])
        for shape, mirrored, upside_down in ((kite, 0.0, None), (slant, 20.0, 0.0)):
            points = tuple(shapely.affinity.rotate(shape, turned).exterior.coords)[:-1]
            assert apart_mirrored(points) == pytest.approx(0, abs=0.1) if not mirrored else apart_mirrored(points) > 20
            if upside_down is not None:
                assert apart_upside_down(points) == pytest.approx(0, abs=1e-6)


class TestPieces:
    def test_a_pair_of_ends_of_which_one_is_left_over(self) -> None:
        result = changed(
            JobDocument("test"),
            cover("band_over_profile", {"height_front": 300, "height_back": 400, "depth": 350, "width": 250}),
        )
        assert not found(result, "pieces_left_over")
        second = next(j for j in result.joins if any(a.piece == 2 for a in (*j.first, *j.second)))
        fewer = changed(result, RemoveJoin(second.id))
        assert found(fewer, "pieces_left_over")[0].message.numbers == {"cut": 2, "sewn": 1}

    def test_a_piece_that_is_sewn_and_not_cut(self) -> None:
        result = changed(
            JobDocument("test"),
            cover("band_over_profile", {"height_front": 300, "height_back": 400, "depth": 350, "width": 250}),
        )
        end = next(p for p in result.panels if p.hand == "pair")
        single = changed(result, SetPanel(end.id, end.name, end.cloth, 1, "left", end.grain_deg, "", end.on_fold))
        assert found(single, "pieces_too_few")[0].severity == "stop"

    def test_six_of_everything_are_six_covers(self) -> None:
        result = changed(JobDocument("test"), cover("box_cover", BOX, walls="by_side"))
        six = replace(result, panels=tuple(replace(p, count=6) for p in result.panels))
        assert not found(six, "pieces_left_over") + found(six, "pieces_too_few")
        five = replace(six, panels=(*six.panels[:-1], replace(six.panels[-1], count=5)))
        (short,) = found(five, "pieces_too_few")
        assert (short.place.panel, short.message.numbers) == (five.panels[-1].name, {"cut": 5, "sewn": 6})
        assert mends_of(five)["Cut 6 pieces"].panels[-1].pieces == 6

    def test_by_hand_the_second_join_takes_the_second_piece(self) -> None:
        end, band = (
            replace(leaning(80), name="end", hand="pair", id="end"),
            outline((0, 0), (400, 0), (400, 90), (0, 90), name="band", id="band"),
        )
        job = changed(
            job_of(end, band),
            JoinEdges(
                (Along("end", job_of(end, band).panels[0].seam_line[0].id),),
                (Along("band", band.seam_line[2].id, True),),
            ),
        )
        twice = changed(job, JoinEdges(job.joins[0].first, (Along("band", band.seam_line[0].id, True),)))
        assert [j.first[0].piece for j in twice.joins] == [1, 2]
        assert not found(twice, "pieces_left_over")


class TestCorners:
    def test_a_box_has_four_of_three_right_angles(self) -> None:
        result = changed(JobDocument("test"), cover("box_cover", BOX, walls="by_side"))
        corners = meeting_corners(result.joins, result.panels)
        assert len(corners) == 4
        assert all(math.degrees(c.angle) == pytest.approx(90) for met in corners for c in met)
        findings = found(result, "corners_meet")
        assert sum(f.message.numbers["count"] for f in findings) == 4
        assert {f.message.numbers["whole"] for f in findings} == {270}

    def test_dots_on_print_and_in_files(self) -> None:
        """The top's four corners, and the two upper ones of each wall, on their seam lines."""
        result = cover_of("box_cover", BOX, choices={"walls": "by_side"})
        draft = {p.name: p for p in draft_joined(result.panels, result.joins)}
        dots = {name: [m.points[0] for m in p.marks if m.kind == "corner_dot"] for name, p in draft.items()}
        assert {name: len(d) for name, d in dots.items()} == {"top": 4} | dict.fromkeys(set(draft) - {"top"}, 2)
        corners = shapely.MultiPoint([e.start for e in draft["top"].seam_line])
        assert all(shapely.distance(corners, shapely.Point(d)) < 1e-6 for d in dots["top"])
        plain = len(draw_panel(replace(draft["top"], marks=())).strokes)
        dotted = draw_panel(replace(draft["top"], marks=tuple(m for m in draft["top"].marks if m.kind == "corner_dot")))
        assert len(dotted.strokes) == plain + 4
        written = drafted_file(PanelsFile(result.panels, joins=result.joins))
        assert sum(m.kind == "corner_dot" for p in written.panels for m in p.marks) == 12

    def test_a_seam_sewn_past_is_no_corner(self) -> None:
        """The wall of a box in one strip is folded at the top's corners, and the drum's strips end against a round edge."""
        box, drum = cover_of("box_cover", BOX), cover_of("drum", {"girth": 4000, "height": 100})
        assert not meeting_corners(box.joins, box.panels)
        assert not meeting_corners(drum.joins, drum.panels)

    def test_more_than_all_round(self) -> None:
        """Four corners of 120° sewn to one another in a ring: 480°."""
        side = 200.0
        wide = [
            (0.0, 0.0),
            (side, 0.0),
            (side + side / 2, side * 0.9),
            (side / 2, side * 1.8),
            (-side / 2, side * 0.866),
        ]
        panels = tuple(outline(*wide, name=f"p{k}", id=f"p{k}") for k in range(4))
        job = job_of(*panels)
        own = [p.seam_line for p in job.panels]
        for k in range(4):
            leaves, meets = own[k][0], own[(k + 1) % 4][-1]
            job = changed(
                job, JoinEdges((Along(f"p{k}", leaves.id),), (Along(f"p{(k + 1) % 4}", meets.id, True),), meant="eased")
            )
        (finding,) = found(job, "corners_over_all_round")
        assert finding.message.numbers["whole"] == 480


class TestMouth:
    @pytest.mark.parametrize(
        ("family", "measures", "mouth"),
        [
            ("box_cover", BOX, 1600.0),
            ("band_over_profile", {"height_front": 300, "height_back": 300, "depth": 350, "width": 250}, 1200.0),
            ("lined_shell", {"width": 400, "height": 300}, 800.0),
        ],
    )
    def test_two_percent_more_than_the_widest(self, family: str, measures: dict[str, Any], mouth: float) -> None:
        just = round(mouth / 1.02 - 0.1, 1)
        for widest, severity in ((just, "fine"), (just + 0.3, "stop")):
            result = cover_of(family, measures, choices={"widest_girth_on_the_way": widest})
            said = {f.message.code: f.severity for f in result.findings}
            assert said["mouth_passes" if severity == "fine" else "mouth_too_narrow"] == severity
        stretched = {"widest_girth_on_the_way": just + 30, "mouth_stretches": "10 %"}
        assert "mouth_too_narrow" not in {
            f.message.code for f in cover_of(family, measures, choices=stretched).findings
        }
        assert not [f for f in cover_of(family, measures).findings if f.message.code.startswith("mouth")]

    @pytest.mark.parametrize(
        ("family", "measures"),
        [
            ("box_cover", BOX),
            ("cap", {"girth": 800, "height": 300, "girth_ease": 20}),
            ("band_over_profile", {"height_front": 300, "height_back": 300, "depth": 350, "width": 250}),
            ("lined_shell", {"width": 400, "height": 300, "layers_thickness": 4}),
        ],
    )
    def test_more_ease_lets_it_pass(self, family: str, measures: dict[str, Any]) -> None:
        girth = {"box_cover": 1700, "cap": 850, "band_over_profile": 1300, "lined_shell": 900}[family]
        job = changed(JobDocument("test"), cover(family, measures, widest_girth_on_the_way=girth))
        assert "mouth_too_narrow" in open_codes(job)
        (mended,) = [after for words, after in mends_of(job).items() if "ease" in words]
        assert "mouth_too_narrow" not in open_codes(mended)

    def test_a_zip_at_the_corner_opens_the_mouth(self) -> None:
        choices = {"walls": "by_side", "widest_girth_on_the_way": 1800}
        shut, zipped = (cover_of("box_cover", BOX, choices=choices | {"zip_at_corner": z}) for z in (False, True))
        assert "mouth_too_narrow" in {f.message.code for f in shut.findings}
        assert "mouth_passes" in {f.message.code for f in zipped.findings}

    def test_a_girth_below_zero_is_refused_by_name(self) -> None:
        with pytest.raises(Refusal, match="widest girth on the way"):
            cover_of("box_cover", BOX, choices={"widest_girth_on_the_way": -5})


def test_what_is_drawn_in_may_be_longer_than_its_place() -> None:
    """Folded 16 deep round 100, a casing of 116 lies on 84, 38 % too much; round 230 it is 15 %, which its elastic takes up."""
    for radius, severity, percent in ((20, "look", 38.1), (150, "fine", 15.0)):
        measures = {"width": 1200, "length": 1000, "corner_radius": radius, "wrap_under": 60, "thickness": 20}
        result = changed(JobDocument("test"), cover("elasticated_top", measures))
        codes = {"look": "hem_longer", "fine": "casing_drawn_in"}
        assert {f.severity for f in found(result, codes[severity])} == {severity}
        assert {round(f.message.numbers["percent"], 1) for f in found(result, codes[severity])} == {percent}


class TestSewingOrder:
    """The seams of a drum's wall go before those that run round it."""

    JOB = changed(JobDocument("test"), cover("drum", {"girth": 942, "height": 200}, closure="none"))

    def sewn(self, letters: str) -> JobDocument:
        return replace(self.JOB, joins=tuple(sorted(self.JOB.joins, key=lambda j: letters.index(j.letter))))

    @pytest.mark.parametrize(("letters", "code"), [("BAC", "join_closed_off"), ("BCA", "join_closed_in")])
    def test_the_walls_own_seam_after_the_circles(self, letters: str, code: str) -> None:
        job = self.sewn(letters)
        (finding,) = found(job, code)
        assert finding.join == self.JOB.joins[0].id
        # each seam that closes it off by its own name, set apart
        assert render(finding.message).count(" and join ") == len(letters.split("A")[0]) - 1
        mended = mends_of(job)["Sew “A” before “B”"]
        assert [j.letter for j in mended.joins] == ["A", *letters.replace("A", "")]

    @pytest.mark.parametrize("letters", ["ABC", "ACB"])
    def test_nothing_is_closed_off_by_the_wall_first(self, letters: str) -> None:
        assert not found(self.sewn(letters), "join_closed_off")
        assert not found(self.sewn(letters), "join_closed_in")

    def test_a_place_that_there_isnt(self) -> None:
        for place in (0, len(self.JOB.joins) + 1):
            with pytest.raises(Refusal):
                changed(self.JOB, SewJoin(self.JOB.joins[0].id, place))
