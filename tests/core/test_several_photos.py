"""Photographs by the stand-in camera of what is wider than one, higher than the table, or drawn with a pen."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from bench.compare import signed_errors
from demo.pieces import with_gaps
from tests.conftest import BIRCH, DARK, SMALL, TRAY, flat_scene
from tests.remembered import take_photo
from ypsicline.core.capture.calibrate import calibrate
from ypsicline.core.capture.camera import Camera
from ypsicline.core.capture.capture import Capture, SeveralPieces, capture_in, capture_piece
from ypsicline.core.capture.pen_line import PenSide
from ypsicline.core.capture.photo import Photo, read_photo
from ypsicline.core.capture.profile import CameraProfile, expected_camera
from ypsicline.core.capture.scene import Scene as TableRead
from ypsicline.core.capture.scene import read_scene
from ypsicline.core.capture.sheets import make_sheets
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.camera_json import camera_json, read_camera_json
from ypsicline.core.wording import render_all
from ypsicline.standins.camera import LaidSheet, Piece, Scene, Shot, Stroke, project

OVAL = np.column_stack(
    [620 * np.cos(a := np.linspace(0, 2 * np.pi, 2000, endpoint=False)), 190 * np.sin(a) * (1 + 0.2 * np.cos(3 * a))]
)
SIDES = [(0, 20), (90, 22), (200, 18), (300, 24)]


def capture(photos: list[Photo], **how: object) -> Capture:
    result = capture_piece(photos, **how)  # type: ignore[arg-type]
    assert isinstance(result, Capture)
    return result


def off(found: Capture, truth: np.ndarray) -> np.ndarray:
    return np.abs(signed_errors(np.array(found.outline), truth))


def wide_scene() -> Scene:
    """A piece 1.24 m wide with eight sheets round it."""
    places = [(x, y) for x in (-430, 0, 430) for y in (-350, 350)] + [(-790, 0), (790, 0)]
    sheets = [
        LaidSheet(s, (x, y), (0 if y == 0 else 90) + 3.0 * k)
        for k, (s, (x, y)) in enumerate(zip(make_sheets("a4", 8), places, strict=True))
    ]
    return Scene(tuple(sheets), (Piece(OVAL, (), DARK),), BIRCH)


def wide_shot(x: float, k: int) -> Shot:
    return replace(SMALL, look_at=(x, 10.0 * k), distance_mm=1250, tilt_deg=6 + 3 * k, tilt_towards_deg=90 * k, seed=k)


@pytest.fixture(scope="module")
def wide() -> list[Photo]:
    return [read_photo(take_photo(wide_scene(), wide_shot(x, k))) for k, x in enumerate((-340, 0, 340))]


@pytest.fixture(scope="module")
def from_sides() -> list[Photo]:
    """One flat scene photographed from four sides."""
    scene = flat_scene(Piece(TRAY, (), DARK), bow_mm=0.8)
    shots = [replace(SMALL, tilt_deg=tilt, tilt_towards_deg=towards, seed=tilt, exif=False) for towards, tilt in SIDES]
    return [read_photo(take_photo(scene, shot)) for shot in shots]


class TestWiderThanAPhoto:
    def test_three_photos_become_one_outline(self, wide: list[Photo]) -> None:
        result = capture(wide)
        assert np.percentile(off(result, OVAL), 95) < min(0.4, result.error_mm)
        length = shapely.LinearRing(result.outline).length
        assert length == pytest.approx(shapely.LinearRing(OVAL).length, rel=1e-3)
        assert len(result.views) == 3
        assert len(result.sheets) == 8

    def test_a_part_of_them_does_not_show_all_of_the_piece(self, wide: list[Photo]) -> None:
        with pytest.raises(Refusal, match="runs out of the picture"):
            capture_piece(wide[:1])

    def test_photos_that_cannot_be_joined_are_refused_by_number(self, wide: list[Photo]) -> None:
        blank = Photo(np.full_like(wide[0].pixels, 128))
        with pytest.raises(Refusal, match="Photo 2: No"):
            read_scene([wide[0], blank])
        left, right = ({s.sheet for s in t.sheets} for t in read_scene([wide[0], wide[2]]).sheet_photos)
        apart = tuple(s for s in make_sheets("a4", 8) if s not in left & right)
        with pytest.raises(Refusal, match="shares no sheet"):
            read_scene([wide[0], wide[2]], known_sheets=apart)

    @pytest.mark.parametrize(("k", "by"), [(2, 9.0), (0, -3.0)])
    def test_a_sheet_that_moved_between_the_photos_is_left_out_and_named(self, k: int, by: float) -> None:
        before = flat_scene(Piece(TRAY, (), DARK))
        x, y = before.sheets[k].centre
        sheets = [replace(s, centre=(x + by, y)) if s is before.sheets[k] else s for s in before.sheets]
        shots = [(before, SMALL), (replace(before, sheets=tuple(sheets)), replace(SMALL, tilt_towards_deg=300, seed=8))]
        result = capture([read_photo(take_photo(*shot)) for shot in shots])
        (moved,) = (w for w in render_all(result.warnings) if "moved between photos" in w)
        assert f"A4-0{k + 1}" in moved
        assert np.percentile(off(result, TRAY), 95) < 0.3
        assert result.error_mm < 3

    def test_more_photos_than_can_be_joined_are_refused(self, wide: list[Photo]) -> None:
        with pytest.raises(Refusal, match="12 photos"):
            read_scene(wide * 5)


class TestCameraProfile:
    def test_a_profile_makes_one_photo_with_bowed_sheets_surer(self, from_sides: list[Photo]) -> None:
        profile = calibrate(from_sides)
        alone = capture(from_sides[:1])
        known = capture(from_sides[:1], profile=read_camera_json(camera_json(profile)))
        surer, less = (float(np.percentile(off(c, TRAY), 95)) for c in (known, alone))
        assert surer < min(less, known.error_mm)
        assert profile.numbers[0] == pytest.approx(np.log(1525 / 2016), abs=0.01)

    def test_too_few_photos_or_all_from_one_side_are_refused(self, from_sides: list[Photo]) -> None:
        with pytest.raises(Refusal, match="at least 3"):
            calibrate(from_sides[:2])
        with pytest.raises(Refusal, match="same side"):
            calibrate([from_sides[0]] * 3)

    def test_a_photo_of_another_shape_is_refused(self) -> None:
        profile = CameraProfile("", 4000, 3000, (0.0,) * 8, tuple(map(tuple, np.eye(8) * 1e-4)), 0.1, 4)
        with pytest.raises(Refusal, match="another shape"):
            expected_camera(4000, 2250, profile=profile)

    @pytest.mark.parametrize(
        "data", [b"", b"{}", b"[]", b'{"version":1,"kind":"camera profile","width":"x"}', b"[" * 9999]
    )
    def test_another_file_is_refused(self, data: bytes) -> None:
        with pytest.raises(Refusal, match="profile"):
            read_camera_json(data)

    @given(st.floats(-0.2, 0.2), st.floats(-0.3, 0.3))
    def test_what_a_lens_shows_ends_where_its_polynomial_turns_back(self, k1: float, k2: float) -> None:
        camera = Camera(3000, (2015.5, 1511.5), (k1, k2, 0.0))
        r = np.linspace(0, camera.widest(4032, 3024), 200)
        seen_at, _ = camera.distort(r, np.zeros_like(r))
        assert (np.diff(seen_at)[:-2] > 0).all()


class TestAboveTheSheets:
    @pytest.mark.parametrize("wall", [None, (34, 48, 62)])
    def test_the_face_of_something_thick(self, wall: tuple[int, int, int] | None) -> None:
        scene = flat_scene(Piece(TRAY, (), DARK, height_mm=30, wall=wall), gap=55)
        photo = read_photo(take_photo(scene, replace(SMALL, tilt_deg=20, distance_mm=1000)))
        result = capture([photo], height_mm=30)
        assert np.percentile(off(result, TRAY), 95) < 0.8
        assert any("side wall" in w for w in render_all(result.warnings))

    def test_what_a_height_that_nobody_told_costs_is_said(self) -> None:
        scene = flat_scene(Piece(TRAY, (), DARK, height_mm=30, wall=(34, 48, 62)), gap=55)
        flat = capture([read_photo(take_photo(scene, replace(SMALL, tilt_deg=20, distance_mm=1000)))])
        assert np.percentile(off(flat, TRAY), 95) > 2
        assert flat.out_per_mm_height * 30 > np.percentile(off(flat, TRAY), 95) / 2

    @pytest.mark.parametrize("height", [-1.0, 900.0, float("nan")])
    def test_an_impossible_height_is_refused(self, height: float, wide: list[Photo]) -> None:
        with pytest.raises(Refusal, match="above the sheets"):
            read_scene(wide[:1], height_mm=height)


RING = np.column_stack(
    [170 * np.cos(a := np.linspace(0, 2 * np.pi, 1500, endpoint=False)), 130 * np.sin(a) * (1 + 0.15 * np.sin(2 * a))]
)
PAPER = np.array([[-260, -200], [260, -200], [260, 200], [-260, 200]], float)
INK, FAINT = (34, 40, 70), (120, 116, 110)


def drawn(*strokes: Stroke, ring: np.ndarray = RING, gap: float = 6.0, width: float = 1.5) -> Photo:
    lines = [Stroke(part, width, INK) for part in with_gaps(ring, (0.1, 0.45, 0.8), gap)]
    base = flat_scene(Piece(PAPER, (), (222, 204, 170), 0.015), gap=75)
    return read_photo(
        take_photo(replace(base, table=(92, 98, 100), strokes=(*lines, *strokes)), replace(SMALL, distance_mm=1050))
    )


def straight(*points: tuple[float, float], width: float = 0.6, colour: tuple[int, int, int] = FAINT) -> Stroke:
    return Stroke(np.array(points, float), width, colour)


PEN_SIDES: tuple[PenSide, ...] = ("inner", "centre", "outer")


def lines(read: TableRead, **how: object) -> tuple[Capture, ...]:
    result = capture_in(read, kind="line", **how)  # type: ignore[arg-type]
    assert not isinstance(result, SeveralPieces)
    return result


class TestPenLine:
    def test_its_centre_among_gaps_construction_lines_and_writing(self) -> None:
        note = Stroke(np.column_stack([np.arange(40) * 1.5, 20 + 6 * np.sin(np.arange(40) * 1.1)]), 0.8, INK)
        clutter = [
            straight((-230, 0), (230, 0)),
            straight((0, -180), (0, 180)),
            straight((-200, -150), (150, 180)),
            note,
        ]
        result = capture([drawn(*clutter)], kind="line")
        assert np.percentile(off(result, RING), 95) < 0.3

    def test_a_faint_box_drawn_round_it_is_not_taken_for_it(self) -> None:
        box = straight((-190, -160), (190, -160), (190, 170), (-190, 170), (-190, -160))
        assert np.percentile(off(capture([drawn(box)], kind="line"), RING), 95) < 0.3

    def test_a_line_led_astray_by_writing_over_it_says_so(self) -> None:
        bottom, k = RING[1125], np.arange(14)
        scribble = np.column_stack(
            [bottom[0] - 18 + 3 * k + np.sin(5 * k), bottom[1] + np.where(k % 2, 6, -16) + 4 * np.sin(3 * k)]
        )
        ring = np.roll(RING, 150 - 1125, axis=0)
        result = capture([drawn(Stroke(scribble, 1.5, INK), ring=ring, gap=9)], kind="line")
        assert np.percentile(off(result, RING), 95) <= result.error_mm

    def test_chalk_on_dark_cloth(self) -> None:
        chalk = [Stroke(part, 2.0, (225, 222, 214)) for part in with_gaps(RING, (0.2, 0.6), 6.0)]
        scene = replace(flat_scene(Piece(PAPER, (), (46, 50, 58), 0.03), gap=75), strokes=tuple(chalk))
        result = capture([read_photo(take_photo(scene, replace(SMALL, distance_mm=1050)))], kind="line")
        assert np.percentile(off(result, RING), 95) < 0.4

    def test_its_sides_lie_half_its_width_apart_from_its_centre(self) -> None:
        photo = read_scene([drawn(width=2.4)])
        inner, centre, outer = (shapely.Polygon(lines(photo, side=side)[0].outline).area for side in PEN_SIDES)
        length = shapely.LinearRing(RING).length
        assert (centre - inner) / length == pytest.approx(1.2, abs=0.15)
        assert (outer - centre) / length == pytest.approx(1.2, abs=0.15)

    def test_a_hole_drawn_inside_it_is_one_and_a_letter_is_none(self) -> None:
        a = np.linspace(0, 2 * np.pi, 200)
        hole = np.column_stack([-60 + 22 * np.cos(a), 10 + 15 * np.sin(a)])
        letter = np.column_stack([70 + 9 * np.cos(a), 12 * np.sin(a)])
        tail = straight((79, 12), (79, -14), width=1.5, colour=INK)
        (result,) = capture([drawn(Stroke(hole, 1.5, INK), Stroke(letter, 1.5, INK), tail)], kind="line").holes
        assert shapely.Polygon(result).area == pytest.approx(shapely.Polygon(hole).area, rel=0.02)
        assert not shapely.LinearRing(result).is_ccw

    def test_of_several_lines_the_one_pointed_at(self) -> None:
        photo = drawn(Stroke(0.45 * RING + [140, 0], 1.5, INK), ring=0.6 * RING - [110, 0])
        read = read_scene([photo])
        asked = capture_in(read, kind="line")
        assert isinstance(asked, SeveralPieces)
        middles = [np.mean(ring, axis=0) / [photo.width, photo.height] for ring in asked.outlines_px]
        pointed = [lines(read, at=[(x, y)])[0] for x, y in middles]
        areas = [shapely.Polygon(c.outline).area / shapely.Polygon(RING).area for c in pointed]
        assert areas == pytest.approx([0.36, 0.2025], rel=0.02)
        with pytest.raises(Refusal, match="No closed line goes round"):
            capture_in(read, kind="line", at=[tuple(np.mean(middles, axis=0) + [0, 0.3])])

    def test_a_loop_on_the_table_beyond_the_sheets_is_not_asked_about_but_can_be_pointed_at(self) -> None:
        loop = np.array([440, 370]) + 0.4 * RING
        photo = drawn(Stroke(loop, 3.0, (8, 8, 10)))
        read = read_scene([photo])
        assert np.percentile(off(lines(read)[0], RING), 95) < 0.3
        place = project(replace(SMALL, distance_mm=1050), np.array([[440.0, 370.0]]))[0]
        (pointed,) = lines(read, at=[tuple(place / [photo.width - 1, photo.height - 1])])
        assert shapely.Polygon(pointed.outline).area == pytest.approx(shapely.Polygon(loop).area, rel=0.05)

    def test_a_line_that_is_not_closed_is_refused(self) -> None:
        with pytest.raises(Refusal, match="not closed"):
            capture([drawn(ring=RING, gap=80)], kind="line")

    def test_a_blank_paper_is_refused(self) -> None:
        base = flat_scene(Piece(PAPER, (), (222, 204, 170), 0.015), gap=75)
        with pytest.raises(Refusal, match="No closed drawn line"):
            capture([read_photo(take_photo(base, replace(SMALL, distance_mm=1050)))], kind="line")
