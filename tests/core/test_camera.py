"""The camera model, the sheets, and the solving of both."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

from ypsicline.core.capture.camera import Camera, View
from ypsicline.core.capture.detect import SeenSheet
from ypsicline.core.capture.rectify import Window, lay_flat
from ypsicline.core.capture.scene import Scene, whole_window
from ypsicline.core.capture.sheets import PAPERS, all_sheets, make_sheets, sheets_by_id
from ypsicline.core.capture.solve import SheetPhoto, Solution, solve
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.outline_json import read_sheets_json, sheets_json
from ypsicline.core.formats.raster import rasterise_page
from ypsicline.core.formats.sheets_pdf import sheets_pdf


@st.composite
def views(draw: st.DrawFn) -> View:
    """An ordinary camera held over the table, tilted by up to 30°."""
    tilt, towards = np.radians(draw(st.floats(0, 30))), draw(st.floats(0, 6.28))
    turn = Rotation.from_euler("z", draw(st.floats(-3, 3))) * Rotation.from_rotvec([np.pi, 0, 0])
    turn = Rotation.from_rotvec(tilt * np.array([np.cos(towards), np.sin(towards), 0])) * turn
    radial = (draw(st.floats(-0.12, 0.12)), draw(st.floats(-0.1, 0.1)), 0.0)
    camera = Camera(draw(st.floats(2400, 3600)), (2016 + draw(st.floats(-30, 30)), 1512.0), radial, (3e-4, -2e-4))
    a, b, c = turn.as_rotvec()
    return View(camera, (a, b, c), (draw(st.floats(-80, 80)), draw(st.floats(-80, 80)), draw(st.floats(800, 1600))))


POINTS = np.stack(np.meshgrid(np.linspace(-250, 250, 6), np.linspace(-200, 200, 5)), axis=-1).reshape(-1, 2)


@given(views(), st.floats(0, 40))
def test_what_is_seen_of_a_table_point_leads_back_to_it(view: View, height: float) -> None:
    seen = view.to_pixels(np.column_stack([POINTS, np.full(len(POINTS), height)]))
    assert np.abs(view.to_table(seen, height) - POINTS).max() < 1e-4


@given(views())
def test_projection_agrees_with_an_independent_one(view: View) -> None:
    c = view.camera
    K = np.array([[c.focal_px, 0, c.centre_px[0]], [0, c.focal_px, c.centre_px[1]], [0, 0, 1]])
    lens = np.array([*c.radial[:2], *c.decentring, c.radial[2]])
    deep = np.column_stack([POINTS, np.zeros(len(POINTS))])
    wanted, _ = cv2.projectPoints(deep, np.array(view.turn), np.array(view.shift), K, lens)
    assert np.abs(view.to_pixels(POINTS) - wanted.reshape(-1, 2)).max() < 1e-6


@given(views(), st.floats(-3, 3), st.floats(-100, 100))
def test_moving_the_frame_moves_no_pixel(view: View, angle: float, shift: float) -> None:
    origin = np.array([shift, 40.0])
    c, s = np.cos(angle), np.sin(angle)
    there = (POINTS - origin) @ np.array([[c, -s], [s, c]])
    assert np.abs(view.moved(angle, origin).to_pixels(there) - view.to_pixels(POINTS)).max() < 1e-6


def flat(u: np.ndarray, v: np.ndarray) -> np.ndarray:
    return 0 * u


def synthetic(
    view: View, count: int, noise: float, seed: int = 0, paper: Callable[[np.ndarray, np.ndarray], np.ndarray] = flat
) -> list[SeenSheet]:
    """Sheets laid round 600 × 450 mm and seen by `view`, without a photograph; `paper` lifts what lies at u, v of a sheet."""
    rng = np.random.default_rng(seed)
    places = [(420, 0, 0.03), (-420, 0, -0.05), (0, 340, 1.55), (0, -340, 1.6)]
    seen = []
    for sheet, (x, y, turn) in zip(make_sheets("a4", count), places, strict=False):
        board = sheet.board_corners()
        c, s = np.cos(turn), np.sin(turn)
        on_table = (board - np.asarray(sheet.size_mm) / 2) @ np.array([[c, s], [-s, c]]) + [x, y]
        lifted = np.column_stack([on_table, paper(*(board / sheet.size_mm).T)])
        px = view.to_pixels(lifted) + rng.normal(0, noise, board.shape)
        seen.append(SeenSheet(sheet, board, px, np.eye(3), 60.0, 0.8, False))
    return seen


VIEW = View(
    Camera(3050, (2024.0, 1506.0), (0.08, -0.16, 0.02), (2e-4, -3e-4)),
    tuple(map(float, (Rotation.from_rotvec([0.2, 0.1, 0]) * Rotation.from_rotvec([np.pi, 0, 0])).as_rotvec())),  # type: ignore[arg-type]
    (10.0, -20.0, 1250.0),
)


def shape_error(view: View, found: View) -> np.ndarray:
    """How far table points are from where they should be once shift and turn are taken out, mm."""
    px = view.to_pixels(POINTS)
    a, b = POINTS - POINTS.mean(axis=0), found.to_table(px)
    b = b - b.mean(axis=0)
    angle = np.arctan2((b[:, 0] * a[:, 1] - b[:, 1] * a[:, 0]).sum(), (a * b).sum())
    c, s = np.cos(angle), np.sin(angle)
    return np.hypot(*(b @ np.array([[c, s], [-s, c]]) - a).T)


def stated(view: View, solved: Solution) -> np.ndarray:
    """One standard deviation of each table point, mm."""
    return np.sqrt(np.trace(solved.doubt(solved.view.to_table(view.to_pixels(POINTS))), axis1=1, axis2=2))


def test_four_loose_sheets_give_camera_and_table_to_tenths_of_a_millimetre() -> None:
    solved = solve([SheetPhoto(tuple(synthetic(VIEW, 4, 0.05)), 4032, 3024)])
    assert shape_error(VIEW, solved.view).max() < 0.1
    assert solved.residual_px < 0.1
    assert solved.view.tilt_deg == pytest.approx(VIEW.tilt_deg, abs=1)


@pytest.mark.parametrize("towards", [0.9, 2.5, 4.1, 5.6])
def test_a_wide_lens_of_unknown_focal_length_seen_askew_is_solved_for(towards: float) -> None:
    turn = Rotation.from_rotvec(np.radians(16) * np.array([np.cos(towards), np.sin(towards), 0]))
    a, b, c = (turn * Rotation.from_rotvec([np.pi, 0, 0])).as_rotvec()
    camera = Camera(2796, (2024.5, 1505.5), (-0.124, -0.189, -0.035), (6.7e-4, 0.0))
    view = View(camera, (a, b, c), (0.0, 0.0, 1035.0))
    solved = solve([SheetPhoto(tuple(synthetic(view, 4, 0.05)), 4032, 3024)])
    assert solved.view.camera.focal_px == pytest.approx(2796, rel=0.01)
    assert shape_error(view, solved.view).max() < 0.15


def test_the_stated_doubt_covers_the_error_of_repeated_measurements() -> None:
    inside = []
    for seed in range(12):
        solved = solve([SheetPhoto(tuple(synthetic(VIEW, 4, 0.05, seed)), 4032, 3024)])
        doubt = stated(VIEW, solved)
        inside.append((shape_error(VIEW, solved.view) <= 2 * doubt).mean())
    # the points of one photo err together, so a dozen photos are a dozen draws
    assert np.mean(inside) >= 0.9


def from_the_side(towards: float) -> View:
    """20° of tilt, towards an angle in degrees."""
    turn = Rotation.from_rotvec(
        np.radians(20) * np.array([np.cos(np.radians(towards)), np.sin(np.radians(towards)), 0])
    )
    a, b, c = (turn * Rotation.from_rotvec([np.pi, 0, 0])).as_rotvec()
    return View(VIEW.camera, (a, b, c), (0.0, 0.0, 1250.0))


# paper curled by 1.2 mm, u and v across the sheet, otherwise than any of the shapes that are fitted
CURLS = {
    "corner": lambda u, v: 1.2 * np.maximum(0.9 * u + 0.6 * v - 0.6, 0) ** 1.7,
    "edge": lambda u, v: 1.2 * np.maximum(0 * u + 2.2 * v - 1.2, 0) ** 2,
    "ridge": lambda u, v: 1.2 * np.sin(np.pi * u) ** 2 * (1 - 0.5 * v),
}


@pytest.mark.parametrize("sheets", [1, 2, 4])
@pytest.mark.parametrize("curl", CURLS)
def test_the_stated_doubt_covers_paper_that_curls(curl: str, sheets: int) -> None:
    inside = []
    for seed in range(8):
        view = from_the_side(45 * seed)
        solved = solve([SheetPhoto(tuple(synthetic(view, sheets, 0.05, seed, CURLS[curl])), 4032, 3024)])
        doubt = stated(view, solved)
        inside.append((shape_error(view, solved.view) <= 2.6 * doubt).mean())
    assert np.mean(inside) >= 0.95


@pytest.mark.parametrize(
    ("size", "told"), [(1.0, []), (0.97, ["sheets_of_unlike_size"]), (1.01, ["sheets_of_unlike_size"])]
)
def test_two_sheets_of_unlike_size_are_told_and_the_doubt_covers_it(size: float, told: list[str]) -> None:
    view = from_the_side(40)
    first, second = synthetic(view, 2, 0.05)
    seen = (first, replace(second, corners_mm=second.corners_mm / size))
    solved = solve([SheetPhoto(seen, 4032, 3024)])
    assert [m.code for m in solved.doubts] == told
    doubt = stated(view, solved)
    assert np.mean(shape_error(view, solved.view) <= 2.3 * doubt) >= 0.95


def test_a_print_that_came_out_small_is_measured_small() -> None:
    seen = synthetic(VIEW, 4, 0.0)
    full, small = (
        solve([SheetPhoto(tuple(seen), 4032, 3024)]),
        solve([SheetPhoto(tuple(seen), 4032, 3024)], print_scale=(0.98, 0.98)),
    )
    px = VIEW.to_pixels(POINTS)
    ratio = np.ptp(small.view.to_table(px), axis=0) / np.ptp(full.view.to_table(px), axis=0)
    assert ratio == pytest.approx([0.98, 0.98], abs=1e-3)


def test_a_view_from_the_side_is_refused() -> None:
    turn = Rotation.from_rotvec([np.radians(58), 0, 0]) * Rotation.from_rotvec([np.pi, 0, 0])
    a, b, c = turn.as_rotvec()
    with pytest.raises(Refusal, match="too obliquely"):
        solve([SheetPhoto(tuple(synthetic(View(VIEW.camera, (a, b, c), (0, 0, 1800)), 4, 0.05)), 4032, 3024)])


def crumpled(seen: SeenSheet) -> SeenSheet:
    return replace(seen, corners_px=seen.corners_px + 40 * np.sin(seen.corners_mm / 40))


def test_a_crumpled_sheet_is_left_out_and_named() -> None:
    seen = synthetic(VIEW, 4, 0.0)
    seen[1] = crumpled(seen[1])
    solved = solve([SheetPhoto(tuple(seen), 4032, 3024)])
    assert [s.id for s, _ in solved.left_out] == ["a4-02"]
    assert shape_error(VIEW, solved.view).max() < 0.2


def test_a_crumpled_sheet_by_which_alone_the_photos_hang_together_isnt_left_out() -> None:
    one, shared, other, _ = synthetic(VIEW, 4, 0.0)
    photos = [(one, crumpled(shared)), (crumpled(shared), other)]
    with pytest.raises(Refusal) as refused:
        solve([SheetPhoto(seen, 4032, 3024) for seen in photos])
    assert refused.value.reason != "photos_apart"


def test_table_is_seen_only_where_the_lens_is_known() -> None:
    solved = solve([SheetPhoto(tuple(synthetic(VIEW, 4, 0.05)), 4032, 3024)])
    # its curve turns back before the picture's corners
    bent = replace(solved.view, camera=replace(solved.view.camera, radial=(-0.3, 0.0, 0.0)))
    paper = np.array([[-500.0, -400.0], [500.0, -400.0], [500.0, 400.0], [-500.0, 400.0]])
    scene = Scene((), (SheetPhoto((), 4032, 3024),), replace(solved, views=(bent,)), (paper,), (), 0.0, np.ones(1))
    window = whole_window(scene, 4.0)
    # it turns back at √(1 / 0.9) = 1.05 of how far off the table is, to either side; the more for the view's slant
    assert max(window.rows, window.columns) * 4.0 < 1.2 * 2 * 1.05 * 1250


def test_sheets_that_lie_on_no_common_table_are_refused() -> None:
    seen = [crumpled(s) for s in synthetic(VIEW, 4, 0.0)]
    with pytest.raises(Refusal, match="flat table"):
        solve([SheetPhoto(tuple(seen), 4032, 3024)])


def test_a_flattened_picture_shows_table_points_where_they_are() -> None:
    photo = np.zeros((3024, 4032, 3), np.uint8)
    for x, y in VIEW.to_pixels(POINTS):
        cv2.circle(photo, (round(x * 16), round(y * 16)), 6 * 16, (255, 255, 255), -1, cv2.LINE_AA, shift=4)
    window = Window.around(np.array([-280.0, -230.0]), np.array([280.0, 230.0]), 0.4)
    flat = lay_flat(photo, VIEW, window)
    count, _, _, centres = cv2.connectedComponentsWithStats((flat.pixels[..., 0] > 127).astype(np.uint8))
    assert count == len(POINTS) + 1
    result = window.to_mm(centres[1:])
    assert max(np.hypot(*(result - p).T).min() for p in POINTS) < 0.2
    assert flat.in_view.all()


class TestSheets:
    def test_no_marker_is_on_two_sheets_and_there_are_twelve_of_each_paper(self) -> None:
        ids = [i for s in all_sheets() for i in s.marker_ids]
        assert len(ids) == len(set(ids))
        assert max(ids) < 1000
        assert len(all_sheets()) == 12 * len(PAPERS)

    @pytest.mark.parametrize("paper", PAPERS)
    def test_a_printed_page_carries_its_markers_where_the_sheet_says(self, paper: str) -> None:
        (sheet,) = make_sheets(paper, 1)
        page = rasterise_page(sheets_pdf([sheet]))
        assert (page.shape[1], page.shape[0]) == PAPERS[paper].size_px
        detector = cv2.aruco.ArucoDetector(cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_5X5_1000))
        corners, ids, _ = detector.detectMarkers(page)
        assert sorted(ids.ravel()) == sorted(sheet.marker_ids)
        nominal = sheet.marker_corners()
        for i, result in zip(ids.ravel(), corners, strict=True):
            px = result[0] + 0.5
            mm = np.column_stack([px[:, 0], page.shape[0] - px[:, 1]]) * 25.4 / 300
            assert np.abs(mm - nominal[int(i)]).max() < 0.12

    def test_the_list_of_sheets_reads_back(self) -> None:
        sheets = make_sheets("letter", 3)
        assert read_sheets_json(sheets_json(sheets)) == sheets

    @pytest.mark.parametrize(
        "data", [b"", b"{}", b'{"sheets":[]}', b'{"sheets":[{"id":"b5-01"}]}', b'{"sheets":7}', b"[" * 9999]
    )
    def test_another_list_is_refused(self, data: bytes) -> None:
        with pytest.raises(Refusal):
            read_sheets_json(data)

    @pytest.mark.parametrize(("paper", "count"), [("a5", 1), ("a4", 0), ("a4", 13)])
    def test_sheets_that_dont_exist_are_refused(self, paper: str, count: int) -> None:
        with pytest.raises(Refusal):
            make_sheets(paper, count)
        with pytest.raises(Refusal):
            sheets_by_id([f"{paper}-{count:02d}"])
