"""Sheets that are cut off, unreadable, misprinted or in a cropped photo: used as far as they serve, and said."""

from __future__ import annotations

import io
from dataclasses import replace

import cv2
import numpy as np
import pytest
from PIL import Image

from bench.compare import signed_errors
from tests.conftest import BIRCH, DARK, SMALL, TRAY, flat_scene
from tests.remembered import take_photo
from ypsicline.core.capture.capture import Capture, capture_piece
from ypsicline.core.capture.detect import find_sheets
from ypsicline.core.capture.photo import read_photo
from ypsicline.core.capture.sheets import make_sheets
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.raster import rasterise_page
from ypsicline.core.formats.sheets_pdf import sheets_pdf
from ypsicline.core.wording import render_all
from ypsicline.standins.camera import LaidSheet, Piece, Scene

PIECE = Piece(TRAY, (), DARK)


def capture(data: bytes, **how: object) -> Capture:
    result = capture_piece(read_photo(data), **how)  # type: ignore[arg-type]
    assert isinstance(result, Capture)
    return result


def p95(found: Capture) -> float:
    return float(np.percentile(np.abs(signed_errors(np.array(found.outline), TRAY)), 95))


def test_a_sheet_that_is_covered_is_said_not_to_have_been_used() -> None:
    scene = flat_scene(PIECE)
    x, y = scene.sheets[0].centre
    cloth = np.array([[-95, -150], [150, -150], [150, 150], [-95, 150]]) + [x, y]
    result = capture(take_photo(replace(scene, things=(Piece(cloth, (), (120, 60, 60)),)), SMALL), at=[(0.5, 0.5)])
    assert "A4-01" not in [s.id.upper() for s in result.sheets] or any(
        "A4-01" in w for w in render_all(result.warnings)
    )
    assert p95(result) <= result.error_mm


@pytest.mark.parametrize("turns", [0, 1])
def test_a_mirrored_photo_is_said_to_be_one(turns: int) -> None:
    photo = read_photo(take_photo(flat_scene(PIECE), SMALL))
    grey = np.ascontiguousarray(np.rot90(photo.pixels[:, ::-1], turns).mean(axis=2).astype(np.uint8))
    with pytest.raises(Refusal) as refusal:
        find_sheets(grey)
    assert refusal.value.message.code == "photo_mirrored"
    blank = np.full_like(grey, 120)
    with pytest.raises(Refusal) as refusal:
        find_sheets(blank)
    assert refusal.value.message.code == "no_sheet_in_photo"


@pytest.mark.parametrize("scale", [0.97, 1.02])
def test_one_sheet_of_four_printed_at_another_scale_is_named_and_left_out(scale: float) -> None:
    scene = flat_scene(PIECE)
    sheets = (replace(scene.sheets[0], print_scale=scale), *scene.sheets[1:])
    result = capture(take_photo(replace(scene, sheets=sheets), SMALL))
    (about_it,) = (w for w in render_all(result.warnings) if "A4-01" in w)
    assert f"{100 * scale:.0f}" in about_it
    assert p95(result) <= result.error_mm


def test_two_sheets_of_unlike_scale_are_told_and_never_confidently_wrong() -> None:
    scene = flat_scene(PIECE)
    sheets = (replace(scene.sheets[2], print_scale=0.97), scene.sheets[3])
    result = capture(take_photo(replace(scene, sheets=sheets), SMALL))
    assert any("too large" in w and "A4-03" in w for w in render_all(result.warnings))
    assert p95(result) <= result.error_mm


def test_a_photo_cropped_off_centre_is_told_or_stays_within_its_error() -> None:
    data = take_photo(flat_scene(PIECE), replace(SMALL, exif=False))
    image = Image.open(io.BytesIO(data))
    out = io.BytesIO()
    image.crop((0, 0, image.width - 330, image.height)).save(out, "JPEG", quality=95)
    result = capture(out.getvalue())
    assert p95(result) <= result.error_mm


def test_a_sheet_half_out_of_the_frame_serves() -> None:
    sheets = make_sheets("a4", 3)
    laid = (LaidSheet(sheets[0], (360, 0), 4), LaidSheet(sheets[1], (-360, 30), 93), LaidSheet(sheets[2], (0, 330), 88))
    result = capture(take_photo(Scene(laid, (PIECE,), BIRCH), SMALL))
    assert len(result.sheets) == 3
    assert any("cut off" in w for w in render_all(result.warnings))
    assert p95(result) <= result.error_mm


def test_a_farther_sheet_whose_white_runs_into_its_markers_is_read_too() -> None:
    sheets = make_sheets("a4", 2)
    light = np.full((1000, 1300), 0.25)
    for page, square_px, (x, y) in ((0, 45, (760, 90)), (1, 28, (120, 200))):
        paper = rasterise_page(sheets_pdf(sheets), page) / 255
        scale = square_px / (25 / 25.4 * 300)
        drawn = cv2.resize(paper, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
        light[y : y + len(drawn), x : x + drawn.shape[1]] = 0.04 + 0.86 * drawn
    # a lens blurs light, not what a file makes of it
    grey = np.rint(255 * np.minimum(cv2.GaussianBlur(light, (0, 0), 1.6), 1) ** (1 / 2.2)).astype(np.uint8)
    assert [s.sheet.id for s in find_sheets(grey, sheets).sheets] == ["a4-01", "a4-02"]
