"""Photographs by the stand-in camera: what is found, how well, and what is refused with which reason."""

from __future__ import annotations

import io
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
import shapely
from PIL import Image, ImageFilter

from bench.compare import signed_errors
from tests.conftest import BIRCH, DARK, HOLE, SMALL, TRAY, flat_scene
from tests.remembered import take_photo
from ypsicline.core.capture.capture import Capture, SeveralPieces, capture_in, capture_piece
from ypsicline.core.capture.photo import read_photo
from ypsicline.core.capture.scene import Scene as TableRead
from ypsicline.core.capture.scene import read_scene
from ypsicline.core.capture.sheets import make_sheets
from ypsicline.core.errors import Refusal
from ypsicline.core.wording import render_all
from ypsicline.standins.camera import LaidSheet, Piece, Scene, Shadow
from ypsicline.standins.patterns import Dots

PIECE = Piece(TRAY, (HOLE,), DARK)


def capture(data: bytes, **how: object) -> Capture:
    result = capture_piece(read_photo(data), **how)  # type: ignore[arg-type]
    assert isinstance(result, Capture)
    return result


def refusal(data: bytes) -> Refusal:
    with pytest.raises(Refusal) as refused:
        capture_piece(read_photo(data))
    assert refused.value.sentence.count(".") >= 1
    return refused.value


@pytest.fixture(scope="module")
def tray(tray_read: TableRead) -> Capture:
    result = capture_in(tray_read)
    assert not isinstance(result, SeveralPieces)
    return result[0]


def test_the_outline_is_true_and_the_truth_lies_within_the_stated_error(tray: Capture) -> None:
    errors = signed_errors(np.array(tray.outline), TRAY)
    assert abs(errors.mean()) < 0.1
    assert np.percentile(np.abs(errors), 95) < min(0.5, tray.error_mm)


def test_the_hole_is_found_at_its_place_and_size(tray: Capture) -> None:
    (hole,) = tray.holes
    result, outline = shapely.Polygon(hole), shapely.Polygon(tray.outline)
    assert result.area == pytest.approx(shapely.Polygon(HOLE).area, rel=0.02)
    truth = shapely.distance(shapely.Polygon(HOLE).centroid, shapely.Polygon(TRAY).centroid)
    assert shapely.distance(result.centroid, outline.centroid) == pytest.approx(truth, abs=0.3)


def test_the_outline_runs_counter_clockwise_from_its_lower_left_as_the_photo_shows_it(tray: Capture) -> None:
    ring = np.array(tray.outline)
    assert shapely.LinearRing(ring).is_ccw
    assert not shapely.LinearRing(tray.holes[0]).is_ccw
    assert ring.min(axis=0) == pytest.approx([0, 0], abs=1e-6)
    # the slot opens at the front, which the photo shows below
    slot = ring[(ring[:, 0] > 180) & (ring[:, 0] < 220)]
    assert slot[:, 1].min() > 40


def test_sheets_are_placed_beside_the_outline(tray: Capture) -> None:
    body = shapely.Polygon(tray.outline)
    for s in tray.sheets:
        M = np.array(s.to_outline.rows)
        assert np.linalg.det(M[:2, :2]) == pytest.approx(1, abs=1e-6)
        middle = M @ [105, 148.5, 1]
        assert not body.contains(shapely.Point(middle[:2]))
    assert [s.id for s in tray.sheets] == ["a4-01", "a4-02", "a4-03", "a4-04"]
    assert shapely.Polygon(tray.trusted).contains(body)


def test_the_photo_lies_under_the_outline(tray: Capture, tray_photo: Callable[..., bytes]) -> None:
    pixels = read_photo(tray_photo()).pixels
    inside = np.array(shapely.Polygon(tray.outline).buffer(-8).exterior.coords)
    x, y = np.rint(tray.view.to_pixels(inside)).astype(int).T
    assert np.abs(np.median(pixels[y, x], axis=0) - DARK).max() < 25


@pytest.mark.parametrize("orientation", [3, 6, 8])
def test_exif_orientation_is_honoured(orientation: int, tray_photo: Callable[..., bytes]) -> None:
    turned, upright = (read_photo(tray_photo(orientation=o)).pixels for o in (orientation, 1))
    assert turned.shape == upright.shape
    assert np.abs(turned.astype(int) - upright).mean() < 3


def test_a_print_scale_scales_the_outline(tray: Capture, tray_photo: Callable[..., bytes]) -> None:
    small = capture(tray_photo(), print_scale=(0.99, 0.99))
    ratio = np.ptp(np.array(small.outline), axis=0) / np.ptp(np.array(tray.outline), axis=0)
    assert ratio == pytest.approx([0.99, 0.99], abs=1e-3)


def test_progress_only_grows(tray_photo: Callable[..., bytes]) -> None:
    seen: list[float] = []
    capture(tray_photo(), progress=lambda _stage, share: seen.append(share))
    assert seen == sorted(seen)
    assert len(seen) >= 4


def test_bowed_sheets_are_noticed_and_the_error_grows_with_them(tray: Capture) -> None:
    bowed = capture(take_photo(flat_scene(PIECE, bow_mm=1.5), SMALL))
    assert any("not flat" in w for w in render_all(bowed.warnings))
    assert bowed.error_mm > tray.error_mm
    assert np.percentile(np.abs(signed_errors(np.array(bowed.outline), TRAY)), 95) < bowed.error_mm


def test_two_sheets_do_but_the_outline_outside_them_is_warned_of() -> None:
    scene = flat_scene(PIECE)
    two = capture(take_photo(replace(scene, sheets=scene.sheets[2:]), SMALL))
    assert any("outside the ring of sheets" in w for w in render_all(two.warnings))
    assert np.percentile(np.abs(signed_errors(np.array(two.outline), TRAY)), 95) < min(0.8, two.error_mm)


def test_several_pieces_are_shown_to_choose_from(two_pieces_read: TableRead) -> None:
    result = capture_in(two_pieces_read)
    assert isinstance(result, SeveralPieces)
    assert result.areas_mm2 == pytest.approx([32000, 22400], rel=0.02)
    chosen = capture_in(two_pieces_read, pieces=[1])
    assert not isinstance(chosen, SeveralPieces)
    assert shapely.Polygon(chosen[0].outline).area == pytest.approx(140 * 160, rel=2e-3)
    with pytest.raises(Refusal, match="no piece 3"):
        capture_in(two_pieces_read, pieces=[2])


class TestHardToTellApart:
    """Never a wrong outline without a warning, and the truth within what is stated."""

    def errors(self, scene: Scene) -> tuple[Capture, np.ndarray]:
        result = capture(take_photo(scene, SMALL))
        return result, np.abs(signed_errors(np.array(result.outline), TRAY))

    def test_a_shadow_across_a_pale_piece(self) -> None:
        scene = replace(flat_scene(Piece(TRAY, (), (226, 214, 188))), table=(92, 98, 100), shadow=Shadow())
        _, errors = self.errors(scene)
        assert np.percentile(errors, 95) < 0.8

    def test_dots_of_another_colour(self) -> None:
        _, errors = self.errors(flat_scene(Piece(TRAY, (), DARK, pattern=Dots((150, 60, 40)))))
        assert np.percentile(errors, 95) < 0.8

    def test_dots_of_just_the_tables_colour(self) -> None:
        data = take_photo(flat_scene(Piece(TRAY, (), DARK, pattern=Dots(BIRCH))), SMALL)
        result = capture(data, at=[(0.5, 0.5)])
        errors = np.abs(signed_errors(np.array(result.outline), TRAY))
        assert np.percentile(errors, 95) < result.error_mm

    def test_a_sheet_on_the_piece_hides_its_edge(self) -> None:
        scene = flat_scene(Piece(TRAY, (), DARK))
        after = replace(scene.sheets[0], centre=(250.0, 0.0))
        read = read_scene([read_photo(take_photo(replace(scene, sheets=(after, *scene.sheets[1:])), SMALL))])
        with pytest.raises(Refusal) as refused:
            capture_in(read)
        assert refused.value.reason == "sheet_touches_piece"
        (result,) = capture_in(read, at=[(0.5, 0.5)])
        assert isinstance(result, Capture)
        errors = np.abs(signed_errors(np.array(result.outline), TRAY))
        assert any("sheet lies against the piece" in w for w in render_all(result.warnings))
        assert result.doubtful
        assert np.percentile(errors, 95) < result.error_mm


class TestRefusals:
    def test_no_sheet(self) -> None:
        refused = refusal(take_photo(replace(flat_scene(PIECE), sheets=()), SMALL))
        assert refused.reason == "no_sheet"

    def test_only_other_sheets_than_were_printed(self, tray_photo: Callable[..., bytes]) -> None:
        with pytest.raises(Refusal):
            capture_piece(read_photo(tray_photo()), known_sheets=make_sheets("letter", 4))

    def test_the_only_sheet_hardly_shows(self) -> None:
        scene = replace(flat_scene(PIECE), sheets=(LaidSheet(make_sheets("a4", 1)[0], (650, 0)),))
        assert refusal(take_photo(scene, SMALL)).reason == "no_sheet"

    def test_sheets_too_small_in_the_picture(self) -> None:
        refused = refusal(take_photo(flat_scene(PIECE), replace(SMALL, distance_mm=2900)))
        assert refused.reason in {"sheet_too_small", "no_sheet"}

    def test_blurred(self, tray_photo: Callable[..., bytes]) -> None:
        for radius, reasons in ((3.5, {"blurred"}), (8.0, {"blurred", "no_sheet"})):
            out = io.BytesIO()
            Image.open(io.BytesIO(tray_photo())).filter(ImageFilter.GaussianBlur(radius)).save(out, "JPEG", quality=95)
            assert refusal(out.getvalue()).reason in reasons

    def test_too_oblique(self) -> None:
        scene = flat_scene(PIECE)
        shot = replace(SMALL, tilt_deg=54, distance_mm=1150)
        assert refusal(take_photo(scene, shot)).reason in {"too_oblique", "no_sheet"}

    def test_the_piece_runs_out_of_the_picture(self) -> None:
        long = Piece(np.array([[-700, -60], [150, -60], [150, 60], [-700, 60]], float), (), DARK)
        scene = Scene(
            (LaidSheet(make_sheets("a4", 1)[0], (0, 220), 90), LaidSheet(make_sheets("a4", 2)[1], (0, -220), 90)),
            (long,),
            BIRCH,
        )
        assert refusal(take_photo(scene, SMALL)).reason in {"piece_leaves_picture", "which_piece"}

    def test_the_piece_hardly_differs_from_the_table(self) -> None:
        pale = Piece(TRAY, (), (207, 191, 161))
        assert refusal(take_photo(flat_scene(pale), SMALL)).reason in {"low_contrast", "which_piece"}

    def test_an_empty_table(self) -> None:
        assert refusal(take_photo(flat_scene(), SMALL)).reason in {"low_contrast", "which_piece"}


class TestPhotoFiles:
    @pytest.mark.parametrize("kind", ["PNG", "TIFF", "WEBP", "JPEG"])
    def test_formats_are_read(self, kind: str) -> None:
        out = io.BytesIO()
        Image.new("RGB", (800, 700), (10, 200, 30)).save(out, kind)
        photo = read_photo(out.getvalue())
        assert (photo.width, photo.height) == (800, 700)
        assert abs(int(photo.pixels[5, 5, 1]) - 200) < 6

    @pytest.mark.parametrize("mode", ["L", "RGBA", "P", "CMYK", "I;16"])
    def test_other_colour_modes_are_read(self, mode: str) -> None:
        image = Image.new("I;16" if mode == "I;16" else "RGB", (700, 700))
        image = image if mode == "I;16" else image.convert(mode)
        out = io.BytesIO()
        image.save(out, "TIFF")
        assert read_photo(out.getvalue()).pixels.shape == (700, 700, 3)

    def test_deep_grey_keeps_its_shades(self) -> None:
        ramp = np.tile(np.linspace(0, 65535, 700).astype(np.uint16), (700, 1))
        out = io.BytesIO()
        Image.fromarray(ramp).save(out, "PNG")
        pixels = read_photo(out.getvalue()).pixels
        assert np.abs(pixels[5, ::70, 0].astype(float) - np.linspace(0, 255, 700)[::70]).max() < 2

    def test_what_is_transparent_is_white(self) -> None:
        out = io.BytesIO()
        Image.new("RGBA", (700, 700), (10, 20, 30, 0)).save(out, "PNG")
        assert (read_photo(out.getvalue()).pixels == 255).all()

    @pytest.mark.parametrize("kind", ["JPEG", "PNG"])
    def test_a_huge_one_is_read_at_the_size_that_serves(self, kind: str) -> None:
        out = io.BytesIO()
        Image.new("RGB", (8000, 6000), (90, 120, 60)).save(out, kind, **({"quality": 60} if kind == "JPEG" else {}))
        photo = read_photo(out.getvalue())
        assert (photo.width, photo.height) == (4000, 3000)
        assert photo.reduced == pytest.approx(2.0)

    def test_heic_is_read(self) -> None:
        photo = read_photo((Path(__file__).parents[1] / "data" / "corner_red.heic").read_bytes())
        assert (photo.width, photo.height) == (800, 700)
        assert photo.pixels[50, 50, 0] > 150
        assert photo.pixels[400, 400, 1] > 150

    def test_a_broken_heic_is_refused(self) -> None:
        with pytest.raises(Refusal, match="not a photo"):
            read_photo(b"\0\0\0\x18ftypheic\0\0\0\0heicmif1" + b"\0" * 100)

    @pytest.mark.parametrize(
        "data", [b"", b"x" * 100, b"\xff\xd8\xff\xe0" + b"\0" * 200, b"GIF89a" + b"\0" * 50, b"%PDF-1.4"]
    )
    def test_what_is_no_photo_is_refused(self, data: bytes) -> None:
        with pytest.raises(Refusal) as refused:
            read_photo(data)
        assert refused.value.reason == "photo"

    def test_a_truncated_photo_is_refused(self, tray_photo: Callable[..., bytes]) -> None:
        with pytest.raises(Refusal, match="broken"):
            read_photo(tray_photo()[:50_000])

    def test_a_tiny_one_and_a_bomb_are_refused(self) -> None:
        out = io.BytesIO()
        Image.new("L", (300, 300)).save(out, "PNG")
        with pytest.raises(Refusal, match="too few"):
            read_photo(out.getvalue())
        bomb = io.BytesIO()
        Image.new("1", (30_000, 30_000)).save(bomb, "PNG")
        with pytest.raises(Refusal, match=r"megapixels|too many"):
            read_photo(bomb.getvalue())
