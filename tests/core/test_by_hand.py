"""Strokes and walks on a flat picture, marks, scans, and tapes between sheets."""

from __future__ import annotations

import math
from dataclasses import replace
from functools import lru_cache

import cv2
import numpy as np
import pytest
import shapely
from scipy.spatial import cKDTree

from bench.compare import signed_errors
from demo.pieces import circle
from tests.conftest import DARK, HOLE, SMALL, TRAY, flat_scene
from tests.core.test_more_measured import roll
from tests.remembered import take_photo
from ypsicline.core.capture.capture import Capture, SeveralPieces, capture_piece, capture_pieces, open_table
from ypsicline.core.capture.distances import SheetDistance
from ypsicline.core.capture.mosaic import flat_preview
from ypsicline.core.capture.pen_line import PenSide
from ypsicline.core.capture.photo import Photo, read_photo
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.capture.scan import capture_scan, join_scans
from ypsicline.core.capture.scene import read_scene
from ypsicline.core.capture.strokes import Brush, paint_over
from ypsicline.core.capture.walking import walk_edge
from ypsicline.core.errors import Refusal
from ypsicline.core.trueing.rolled import rolled
from ypsicline.core.wording import render_all
from ypsicline.standins.camera import Piece, Stroke


@lru_cache(maxsize=1)
def tray() -> tuple[Photo, Capture, FlatPicture]:
    """The tray, captured, and its flat picture."""
    photo = read_photo(take_photo(flat_scene(Piece(TRAY, (HOLE,), DARK)), SMALL))
    result = capture_piece(photo)
    assert isinstance(result, Capture)
    ring = np.vstack([result.trusted, result.outline])
    return photo, result, flat_preview([photo.pixels], result.views, ring, 0.0, 3000)


def apart(found: np.ndarray, ring: object) -> float:
    """What 95 % of points keep within of a ring, mm."""
    return float(np.percentile(shapely.distance(shapely.LinearRing(np.asarray(ring)), shapely.points(found)), 95))


def test_a_flat_picture_has_no_more_pixels_than_the_photo_shows() -> None:
    photo, result, _ = tray()
    ring = np.vstack([result.trusted, result.outline])
    large, small = (flat_preview([photo.pixels], result.views, ring, 0.0, side).window for side in (20000, 900))
    beside = result.view.to_pixels(np.array([[200.0, 150.0], [201.0, 150.0]]))
    assert 0.7 < large.mm_per_px * float(np.linalg.norm(beside[1] - beside[0])) < 0.9
    assert max(small.rows, small.columns) <= 902


class TestStrokes:
    def test_a_few_strokes_bring_back_what_was_missed_and_leave_the_rest_alone(self) -> None:
        _, result, picture = tray()
        whole = np.asarray(result.outline)
        bitten = shapely.Polygon(whole).difference(shapely.box(300, 190, 420, 320))
        ring = np.asarray(max(shapely.get_parts(bitten), key=lambda g: g.area).exterior.coords)[:-1]
        holes = [np.asarray(h) for h in result.holes]
        outline, kept = paint_over(picture, [ring, *holes], [Brush(((330, 200), (350, 215), (320, 260)), 8, True)])
        assert apart(outline, whole) < 0.15
        assert apart(whole, outline) < 0.15
        assert [len(kept), apart(kept[0], result.holes[0]) < 0.15] == [1, True]

    def test_strokes_of_table_take_away_what_was_too_much(self) -> None:
        _, result, picture = tray()
        whole = np.asarray(result.outline)
        swollen = shapely.Polygon(whole).union(shapely.box(380, -35, 450, 60))
        ring = np.asarray(swollen.exterior.coords)[:-1]
        outline, _ = paint_over(picture, [ring], [Brush(((440, -20), (430, 40), (415, 20)), 10, False)])
        assert apart(outline, whole) < 0.2

    def test_a_stroke_where_it_is_right_already_changes_nothing(self) -> None:
        _, result, picture = tray()
        outline, _ = paint_over(picture, [np.asarray(result.outline)], [Brush(((100, 100), (140, 110)), 8, True)])
        assert apart(outline, result.outline) < 0.15

    def test_away_from_the_strokes_not_a_point_moves(self) -> None:
        _, result, picture = tray()
        swollen = shapely.Polygon(result.outline).union(shapely.box(380, -35, 450, 60))
        ring = np.asarray(swollen.exterior.coords)[:-1]
        outline, _ = paint_over(picture, [ring], [Brush(((440, -20), (430, 40), (415, 20)), 10, False)])
        far = ring[ring[:, 0] < 250]
        assert len(far) > 500
        assert cKDTree(outline).query(far)[0].max() < 2e-6

    def test_where_piece_and_table_look_alike_what_was_painted_counts(self) -> None:
        grey = np.full((400, 500, 3), 128, np.uint8)
        picture = FlatPicture(Window(0, 200, 500, 400, 0.5), grey, np.ones((400, 500), dtype=bool))
        square = np.array([(60.0, 40.0), (180.0, 40.0), (180.0, 160.0), (60.0, 160.0)])
        outline, holes = paint_over(picture, [square], [Brush(((180, 90), (170, 110)), 12, False)])
        painted = shapely.LineString([(180, 90), (170, 110)]).buffer(6)
        wanted = shapely.Polygon(square) - painted
        assert holes == ()
        assert shapely.Polygon(outline).symmetric_difference(wanted).area < 0.5 * painted.area

    def test_strokes_that_leave_nothing_or_lie_elsewhere_are_refused(self) -> None:
        _, result, picture = tray()
        everywhere = Brush(tuple((float(x), float(y)) for y in range(0, 310, 40) for x in (-10, 420)), 60, False)
        with pytest.raises(Refusal):
            paint_over(picture, [np.asarray(result.outline)], [everywhere])
        with pytest.raises(Refusal, match="outside the picture"):
            paint_over(picture, [np.asarray(result.outline)], [Brush(((5000, 5000),), 8, True)])
        with pytest.raises(Refusal, match="stroke"):
            Brush((), 8, True)


class TestWalking:
    def test_points_near_the_edge_give_the_way_along_it(self) -> None:
        _, result, picture = tray()
        corners = TRAY - TRAY.min(axis=0)
        beside = [(float(x), float(y)) for x, y in corners + [0.8, 2.0]]
        walk = walk_edge(picture, beside, is_closed=True)
        assert apart(walk.way, result.outline) < 0.3
        assert apart(np.asarray(result.outline), walk.way) < 0.5
        assert not walk.doubts.any()

    def test_a_part_of_the_edge_is_walked_from_its_first_to_its_last_point(self) -> None:
        _, result, picture = tray()
        way = walk_edge(picture, [(1.0, 60.0), (-1.0, 220.0)]).way
        assert way[0][1] == pytest.approx(60, abs=6)
        assert way[-1][1] == pytest.approx(220, abs=6)
        assert apart(way, result.outline) < 0.2

    @pytest.mark.parametrize(("turn", "side"), [(0, 1), (90, -1), (210, 1)])
    def test_where_the_edge_is_wiped_out_the_way_is_straight_and_in_doubt(self, turn: float, side: int) -> None:
        a = math.radians(turn)
        y, x = np.mgrid[0:600, 0:600] - 300
        along, off = x * math.cos(a) + y * math.sin(a), side * (y * math.cos(a) - x * math.sin(a))
        contrast = 30 * np.clip((np.abs(along) - 80) / 60, 0, 1)
        soft = 120 + contrast * np.clip(off / 3, -1, 1) + np.random.default_rng(4).normal(0, 2, x.shape)
        pixels = np.repeat(np.clip(soft, 0, 255).astype(np.uint8)[..., None], 3, axis=2)
        picture = FlatPicture(Window(-150, 150, 600, 600, 0.5), pixels, np.ones(x.shape, dtype=bool))
        ends = np.array([[math.cos(a), -math.sin(a)], [-math.cos(a), math.sin(a)]]) * 110
        walk = walk_edge(picture, [tuple(e) for e in ends])
        away, from_middle = np.abs(walk.way @ [math.sin(a), math.cos(a)]), np.linalg.norm(walk.way, axis=1)
        assert away.max() < 6
        assert (walk.doubts[from_middle < 35] > away.max()).all()
        assert not walk.doubts[from_middle > 65].any()

    def test_a_sheets_edge_is_none_to_walk_along(self) -> None:
        rng = np.random.default_rng(5)
        # table, from y = 100 mm the piece, from y = 112 mm a sheet that lies on it
        levels = np.select([np.arange(400) < 176, np.arange(400) < 200], [245.0, 120.0], 140.0)[:, None]
        grey = cv2.GaussianBlur(np.repeat(levels, 600, axis=1), (0, 0), 1.2) + rng.normal(0, 2, (400, 600))
        pixels = np.repeat(np.clip(grey, 0, 255).astype(np.uint8)[..., None], 3, axis=2)
        picture = FlatPicture(Window(0, 200, 600, 400, 0.5), pixels, np.ones((400, 600), dtype=bool))
        sheet = np.array([[0.0, 112], [300, 112], [300, 200], [0, 200]])
        beside = [(40.0, 104.0), (260.0, 104.0)]
        assert np.ptp(walk_edge(picture, beside).way[:, 1]) > 5
        away = np.abs(walk_edge(picture, beside, [sheet]).way[:, 1] - 100)
        assert np.percentile(away, 95) < 0.5

    @pytest.mark.parametrize(
        ("points", "closed"),
        [([(0.0, 0.0)], False), ([(0.0, 0.0), (9.0, 9.0)], True), ([(0.0, 0.0), (4000.0, 0.0)], False)],
    )
    def test_too_few_points_or_some_outside_are_refused(self, points: list[tuple[float, float]], closed: bool) -> None:
        with pytest.raises(Refusal):
            walk_edge(tray()[2], points, is_closed=closed)

    def test_a_table_on_which_nothing_is_told_apart_can_still_be_walked(self) -> None:
        hidden = read_photo(take_photo(flat_scene(Piece(TRAY, (), (200, 184, 154), 0.0)), SMALL))
        laid = open_table(read_scene([hidden]))
        assert laid.error_mm < 1
        assert laid.outline
        assert "outside the ring of sheets" not in " ".join(render_all(laid.warnings))
        assert len(laid.sheets) == 4


class TestErrors:
    def test_every_point_has_its_own_error_and_truth_keeps_within_them(self) -> None:
        _, result, _ = tray()
        misses = np.abs(signed_errors(np.asarray(result.outline), TRAY))
        assert len(result.errors_mm) == len(result.outline)
        assert (misses <= np.asarray(result.errors_mm)[:: len(result.errors_mm) // len(misses)]).mean() > 0.93
        assert min(result.errors_mm) > 0

    def test_captured_again_in_the_same_frame_it_lies_in_the_same_place(self) -> None:
        photo, result, _ = tray()
        again = capture_piece(photo, height_mm=6.0, frame=result.frame)
        assert isinstance(again, Capture)
        assert again.frame == result.frame
        assert 0.3 < apart(np.asarray(again.outline), result.outline) < 3

    def test_what_lies_outside_the_ring_of_sheets_is_less_sure_there(self) -> None:
        scene = flat_scene(Piece(TRAY, (), DARK))
        half = replace(scene, sheets=tuple(s for s in scene.sheets if s.centre[0] < 150))
        result = capture_piece(read_photo(take_photo(half, SMALL)))
        assert isinstance(result, Capture)
        errors, x = np.asarray(result.errors_mm), np.asarray(result.outline)[:, 0]
        assert errors[x > 380].mean() > errors[x < 200].mean()


class TestMarks:
    def dotted(self, points: np.ndarray) -> Photo:
        paper = Piece(np.array([[-210, -160], [210, -160], [210, 160], [-210, 160]], float), (), (222, 204, 170), 0.015)
        dots = tuple(Stroke(np.array([p - [0.01, 0], p + [0.01, 0]]), 2.4) for p in points)
        scene = replace(flat_scene(paper, gap=75), table=(92, 98, 100), strokes=dots)
        return read_photo(take_photo(scene, replace(SMALL, distance_mm=1000)))

    def test_a_ring_of_dots_becomes_a_smooth_outline(self) -> None:
        t = np.linspace(0, 2 * math.pi, 40, endpoint=False)
        result = capture_piece(self.dotted(np.column_stack([150 * np.cos(t), 110 * np.sin(t)])), kind="marks")
        assert isinstance(result, Capture)
        assert len(result.marks) == 40
        s = np.linspace(0, 2 * math.pi, 4000, endpoint=False)
        assert (
            np.abs(signed_errors(np.asarray(result.outline), np.column_stack([150 * np.cos(s), 110 * np.sin(s)]))).max()
            < 0.8
        )

    def test_what_ends_the_paper_is_no_mark(self) -> None:
        t = np.linspace(0, 2 * math.pi, 20, endpoint=False)
        ring = np.column_stack([150 * np.cos(t), 110 * np.sin(t)])
        result = capture_piece(self.dotted(np.vstack([ring, [[210.5, -40]], [[-30, 160.5]]])), kind="marks")
        assert isinstance(result, Capture)
        assert len(result.marks) == 20

    def test_a_rolled_cone_is_captured_from_its_two_rows(self) -> None:
        marks = roll(160, 300, 1.2, 9, shake=0.1)
        result = capture_piece(self.dotted(marks - (marks.max(axis=0) + marks.min(axis=0)) / 2), kind="roll")
        assert isinstance(result, Capture)
        outcome = rolled(np.asarray(result.marks), 192, 360)
        assert outcome.girths_mm == pytest.approx((192, 360), abs=1.5)

    def test_an_empty_paper_is_refused(self) -> None:
        with pytest.raises(Refusal, match="0 marks were found"):
            capture_piece(self.dotted(np.zeros((0, 2))), kind="marks")


DPI = 150.0


def scanned(*rings: np.ndarray, size_mm: tuple[float, float] = (420, 297), ground: int = 235) -> Photo:
    """A scan of dark pieces, with some letters on its ground; mm from its lower left corner."""
    k = DPI / 25.4
    w, h = (round(v * k) for v in size_mm)
    fine = np.full((2 * h, 2 * w), ground, np.uint8)
    for ring in rings:
        at = np.column_stack([ring[:, 0] * k, h - ring[:, 1] * k]) * 2 - 0.5
        cv2.fillPoly(fine, [np.rint(at * 256).astype(np.int32)], 60, cv2.LINE_AA, 8)
    rng = np.random.default_rng(2)
    for n in range(160):
        at = (int(rng.uniform(0, 2 * w)), int(rng.uniform(0, 2 * h)))
        if (fine[max(at[1] - 60, 0) : at[1] + 60, max(at[0] - 60, 0) : at[0] + 160] != 60).all():
            cv2.putText(fine, chr(65 + n % 26) + str(n), at, cv2.FONT_HERSHEY_SIMPLEX, 0.9, ground - 70, 2, cv2.LINE_AA)
    grey = cv2.resize(fine, (w, h), interpolation=cv2.INTER_AREA)
    noisy = np.clip(grey + rng.normal(0, 1.5, grey.shape), 0, 255).astype(np.uint8)
    return Photo(np.repeat(noisy[..., None], 3, axis=2), dpi=DPI)


class TestScans:
    RING = circle((200, 150), 90)

    def test_a_scan_of_known_resolution_is_measured_without_sheets(self) -> None:
        picture, apart_mm = join_scans([scanned(self.RING)], DPI)
        (result,) = capture_scan(picture, apart_mm)  # type: ignore[misc]
        assert isinstance(result, Capture)
        assert np.abs(signed_errors(np.asarray(result.outline), self.RING)).max() < 0.25
        assert np.asarray(result.outline).mean(axis=0) == pytest.approx([200, 150], abs=0.2)
        assert result.error_mm < 0.5

    def test_tiles_that_overlap_are_joined_turned_as_they_are(self) -> None:
        whole = scanned(self.RING).pixels
        h, w = whole.shape[:2]
        left = whole[:, : int(0.62 * w)]
        turn = cv2.getRotationMatrix2D((w / 2, h / 2), 4, 1)
        right = cv2.warpAffine(whole, turn, (w, h), borderValue=(235, 235, 235), flags=cv2.INTER_CUBIC)[
            :, int(0.38 * w) :
        ]
        picture, apart_mm = join_scans([Photo(np.ascontiguousarray(left)), Photo(np.ascontiguousarray(right))], DPI)
        result = capture_scan(picture, apart_mm)
        assert not isinstance(result, SeveralPieces)
        assert np.percentile(np.abs(signed_errors(np.asarray(result[0].outline), self.RING)), 95) < 0.3
        assert apart_mm < 0.3

    @pytest.mark.parametrize(("side", "widths"), [("centre", (180, 50)), ("inner", (178, 52)), ("outer", (182, 48))])
    def test_a_hole_that_is_drawn_within_a_drawn_outline_is_one(self, side: PenSide, widths: tuple[int, int]) -> None:
        lines = [circle((200, 150), r) for r in (91, 89, 26, 24)]
        scan = scanned(lines[0])
        k = DPI / 25.4
        for ring, tone in zip(lines[1:], (235, 60, 235), strict=True):
            at = np.column_stack([ring[:, 0] * k, len(scan.pixels) - ring[:, 1] * k]) - 0.5
            cv2.fillPoly(scan.pixels, [np.rint(at * 256).astype(np.int32)], (tone, tone, tone), cv2.LINE_AA, 8)
        (result,) = capture_scan(join_scans([scan], DPI)[0], kind="line", side=side)  # type: ignore[misc]
        assert isinstance(result, Capture)
        (hole,) = result.holes
        assert tuple(float(np.ptp(np.asarray(r)[:, 0])) for r in (result.outline, hole)) == pytest.approx(
            widths, abs=0.4
        )
        assert not result.doubtful

    def test_several_pieces_on_a_scan_are_asked_for(self) -> None:
        picture, _ = join_scans([scanned(circle((110, 150), 60), circle((300, 150), 70))], DPI)
        asked = capture_scan(picture)
        assert isinstance(asked, SeveralPieces)
        both = capture_scan(picture, pieces=[0, 1])
        assert [round(float(np.ptp(np.asarray(c.outline)[:, 0]))) for c in both] == [140, 120]  # type: ignore[union-attr]
        with pytest.raises(Refusal, match="no piece 5"):
            capture_scan(picture, pieces=[4])

    def test_what_can_not_be_used_is_refused(self) -> None:
        one, other = scanned(self.RING), scanned(circle((100, 100), 60), ground=236)
        blank = Photo(np.full((900, 900, 3), 240, np.uint8))
        with pytest.raises(Refusal, match="dots per inch"):
            join_scans([one], 5)
        with pytest.raises(Refusal, match="can't be joined"):
            join_scans([other, blank], DPI)
        picture, _ = join_scans([scanned(circle((20, 150), 90))], DPI)
        with pytest.raises(Refusal, match="runs over the scan"):
            capture_scan(picture)


class TestSeveralPieces:
    def test_all_pieces_of_a_photo_are_captured_at_once(self, two_pieces_photo: bytes) -> None:
        result = capture_pieces(read_photo(two_pieces_photo), pieces=[0, 1])
        assert not isinstance(result, SeveralPieces)
        widths = sorted(round(float(np.ptp(np.asarray(c.outline)[:, 0]))) for c in result)
        assert widths == pytest.approx([140, 160], abs=3)


class TestTapesBetweenSheets:
    def test_a_tape_that_the_photo_contradicts_is_left_out_and_named(self) -> None:
        photo, result, _ = tray()
        a, b = (np.asarray(s.to_outline.rows) for s in result.sheets[:2])
        corner = np.array([*_upper_left(result), 1])
        true = float(np.hypot(*((a - b) @ corner)[:2]))
        ids = result.sheets[0].id, result.sheets[1].id
        good = capture_piece(photo, distances=[SheetDistance(*ids, true + 0.4)])
        wrong = capture_piece(photo, distances=[SheetDistance(*ids, true + 30)])
        assert isinstance(good, Capture)
        assert isinstance(wrong, Capture)
        assert not any("The tape says" in w for w in render_all(good.warnings))
        assert any(f"The tape says {true + 30:.1f} mm" in w for w in render_all(wrong.warnings))
        assert good.error_mm <= result.error_mm + 0.01

    def test_a_tape_holds_the_scale_where_the_camera_leaves_it_in_doubt(self) -> None:
        photo, result, _ = tray()
        a, b = (np.asarray(s.to_outline.rows) for s in result.sheets[:2])
        true = float(np.hypot(*((a - b) @ np.array([*_upper_left(result), 1]))[:2]))
        longer = capture_piece(
            photo, distances=[SheetDistance(result.sheets[0].id, result.sheets[1].id, true + 1.5)] * 1
        )
        assert isinstance(longer, Capture)
        assert (
            np.ptp(np.asarray(longer.outline), axis=0).max() > np.ptp(np.asarray(result.outline), axis=0).max() - 0.05
        )

    @pytest.mark.parametrize("given", [("a4-01", "a4-01", 500.0), ("a4-01", "a4-02", 5.0), ("a4-01", "a4-02", 1e6)])
    def test_distances_that_make_no_sense_are_refused(self, given: tuple[str, str, float]) -> None:
        with pytest.raises(Refusal):
            SheetDistance(*given)


def _upper_left(found: Capture) -> np.ndarray:
    from ypsicline.core.capture.sheets import sheets_by_id

    return sheets_by_id([found.sheets[0].id])[0].board_upper_left()
