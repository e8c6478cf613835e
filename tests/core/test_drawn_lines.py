"""Closed lines drawn with a pen, as pictures of their own: gaps beside ticks and letters, a table's grain, a part of a line."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
import shapely

from ypsicline.core.capture.drawn_edge import drawn_edge
from ypsicline.core.capture.drawn_shapes import DrawnShape, find_drawn
from ypsicline.core.capture.pen_line import follow_line
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.errors import Refusal

MM_PER_PX, SIDE_MM = 0.5, 400.0
SIDE = round(SIDE_MM / MM_PER_PX)
PAPER, INK = (215, 190, 150), (60, 55, 90)


class Sheet:
    """Paper to draw on, in mm from its lower left corner."""

    def __init__(self) -> None:
        self.window = Window(0.0, SIDE_MM, SIDE, SIDE, MM_PER_PX)
        self.pixels = np.full((SIDE, SIDE, 3), PAPER, np.uint8)

    def line(self, points: np.ndarray, wide_mm: float = 1.0, colour: tuple[int, int, int] = INK) -> None:
        px = np.rint(self.window.to_px(np.asarray(points, float)) * 16).astype(np.int32)
        cv2.polylines(self.pixels, [px], False, colour, round(wide_mm / MM_PER_PX), cv2.LINE_AA, 4)

    def drawn(self) -> tuple[DrawnShape, ...]:
        soft = cv2.GaussianBlur(self.pixels, (0, 0), 0.8)
        self.picture = FlatPicture(self.window, soft, np.ones((SIDE, SIDE), bool))
        return find_drawn(self.picture, np.zeros((SIDE, SIDE), bool))


def bean(gaps: list[tuple[float, float]]) -> tuple[np.ndarray, list[np.ndarray]]:
    """A closed curve, and what is left of it with gaps, each from one share of the way round it to another."""
    t = np.linspace(0, 2 * np.pi, 1441)
    radius = 90 + 22 * np.cos(2 * t)
    ring = np.column_stack([200 + radius * np.cos(t), 200 + radius * np.sin(t)])
    kept, start = [], 0.0
    for low, high in sorted(gaps):
        kept.append((start, low))
        start = high
    kept.append((start, 1.0))
    return ring, [ring[round(a * 1440) : round(b * 1440) + 1] for a, b in kept]


def off(sheet: Sheet, shape: DrawnShape, ring: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    outline, _, doubts = follow_line(sheet.picture, shape.mask, shape)
    return shapely.distance(shapely.points(outline.outline), shapely.LinearRing(ring)), doubts


def letters(sheet: Sheet, x: float, y: float) -> None:
    for k in range(6):
        a = np.linspace(0, 2.2 * np.pi, 30)
        sheet.line(np.column_stack([x + 6 * k + 2.5 * np.cos(a), y + 5 * np.sin(a + 0.6 * k)]))


def test_a_gap_beside_a_tick_and_letters_is_joined() -> None:
    ring, parts = bean([(0.1, 0.113), (0.62, 0.635)])
    sheet = Sheet()
    for part in parts:
        sheet.line(part)
    # a tick across the line just before the gap, whose ends lie nearer to the line beyond than the gap is wide
    end, before = parts[0][-6], parts[0][-12]
    across = np.array([-(end - before)[1], (end - before)[0]]) / np.hypot(*(end - before))
    sheet.line(np.array([end - 5 * across, end + 5 * across]))
    letters(sheet, *(parts[1][-1] + [-8, -18]))
    (shape,) = sheet.drawn()
    strays, doubts = off(sheet, shape, ring)
    assert np.percentile(strays, 90) < 0.3
    # what strays farther is where it was joined, and doubted by as much
    assert np.all(strays < np.maximum(2.0, 1.5 * doubts))


def test_a_tables_grain_round_the_paper_is_no_ink() -> None:
    ring, parts = bean([])
    sheet = Sheet()
    grain = np.random.default_rng(4).random((SIDE // 2, SIDE // 2)) < 0.5
    speckled = np.where(cv2.resize(grain.astype(np.uint8), (SIDE, SIDE), interpolation=cv2.INTER_NEAREST), 90, 190)
    beside = np.ones((SIDE, SIDE), bool)
    beside[130 : SIDE - 130, 130 : SIDE - 130] = False
    sheet.pixels[beside] = speckled[beside][:, None].astype(np.uint8)
    sheet.line(parts[0])
    (shape,) = sheet.drawn()
    assert np.percentile(off(sheet, shape, ring)[0], 95) < 0.3


@pytest.mark.parametrize("gap", [(0.70, 0.80), (0.54, 0.70)])
def test_a_part_of_a_line_that_a_stroke_cuts_off_is_not_the_line(gap: tuple[float, float]) -> None:
    _, parts = bean([gap])
    sheet = Sheet()
    for part in parts:
        sheet.line(part)
    sheet.line(np.array([[200.0, 120.0], [200.0, 280.0]]))
    with pytest.raises(Refusal, match="not closed"):
        sheet.drawn()


@pytest.mark.parametrize("mirrored", [False, True])
def test_a_line_with_much_writing_over_it_is_the_line(mirrored: bool) -> None:
    arm = shapely.LineString([(110, 90), (110, 230), (160, 290), (240, 290), (290, 230), (290, 90)]).buffer(32)
    ring = np.asarray(arm.exterior.coords)
    if mirrored:
        ring = ring @ np.array([[0.0, 1.0], [1.0, 0.0]])
    sheet = Sheet()
    sheet.line(ring)
    k = np.arange(44)
    for x, y in ((285.0, 200.0), (90.0, 250.0), (130.0, 140.0)):
        sheet.line(np.column_stack([x + 1.6 * k, y + np.where(k % 2, 9, -9) + 4 * np.sin(2 * k)]))
    (shape,) = sheet.drawn()
    assert shape.area_mm2 == pytest.approx(arm.area, rel=0.1)
    strays, doubts = off(sheet, shape, ring)
    assert np.percentile(strays, 60) < 0.4
    assert np.mean(strays > np.maximum(1.0, 1.5 * doubts)) < 0.05


@pytest.mark.parametrize("runs_out", [False, True])
def test_a_closed_line_beside_a_larger_one_that_runs_out_of_the_window_says_so(runs_out: bool) -> None:
    sheet = Sheet()
    a = np.linspace(0, 2 * np.pi, 200)
    sheet.line(np.column_stack([90 + 45 * np.cos(a), 90 + 45 * np.sin(a)]))
    if runs_out:
        half = np.linspace(np.pi / 2, 3 * np.pi / 2, 200)
        sheet.line(np.column_stack([400 + 170 * np.cos(half), 215 + 110 * np.sin(half)]))
    (shape,) = sheet.drawn()
    assert shape.beside_larger == runs_out


def test_a_letter_beside_a_line_that_is_not_closed_is_not_the_line() -> None:
    _, parts = bean([(0.3, 0.45)])
    sheet = Sheet()
    for part in parts:
        sheet.line(part)
    a = np.linspace(0, 2 * np.pi, 120)
    sheet.line(np.column_stack([200 + 24 * np.cos(a), 200 + 24 * np.sin(a)]))
    with pytest.raises(Refusal, match="not closed"):
        sheet.drawn()


@pytest.mark.parametrize("pitch", [30.0, 55.0])
def test_a_drawing_on_squared_paper_is_the_line_and_not_the_squares(pitch: float) -> None:
    sheet = Sheet()
    curve, _ = bean([])
    for at in np.arange(pitch / 2, SIDE_MM, pitch):
        for ends in ([(at, 0), (at, SIDE_MM)], [(0, at), (SIDE_MM, at)]):
            sheet.line(np.array(ends), 1.0, (120, 110, 95))
    # a paper laid on it
    corners = np.rint(sheet.window.to_px(np.array([curve.min(axis=0) - 15, curve.max(axis=0) + 15]))).astype(int)
    (left, bottom), (right, top) = corners
    sheet.pixels[top:bottom, left:right] = PAPER
    sheet.line(np.vstack([curve, curve[:1]]))
    (shape,) = sheet.drawn()
    assert shape.area_mm2 == pytest.approx(shapely.Polygon(curve).area, rel=0.05)


def test_an_arrow_across_a_notch_is_doubt() -> None:
    sheet = Sheet()
    sheet.line(
        np.array([(80, 80), (320, 80), (320, 320), (225, 320), (225, 285), (175, 285), (175, 320), (80, 320), (80, 80)])
    )
    sheet.line(np.array([(150, 318), (250, 318)]))
    (shape,) = sheet.drawn()
    outline, _, doubts = follow_line(sheet.picture, shape.mask, shape, "centre")
    beyond = outline.outline[:, 1] > 300
    across = beyond & (np.abs(outline.outline[:, 0] - 200) < 10)
    assert across.any()
    assert doubts[across].min() > 15
    assert np.median(doubts) < 1


@pytest.mark.parametrize("lean", [5.0, -9.0])
def test_writing_right_across_a_narrow_shape_does_not_part_it(lean: float) -> None:
    ring = np.array([(30.0, 180.0), (370.0, 180.0), (370.0, 220.0), (30.0, 220.0), (30.0, 180.0)])
    sheet = Sheet()
    sheet.line(ring)
    for x in np.arange(160.0, 240.0, 14.0):
        sheet.line(np.array([(x, 175.0), (x + lean, 225.0)]))
    (shape,) = sheet.drawn()
    assert shape.area_mm2 == pytest.approx(340 * 40, rel=0.12)
    strays, doubts = off(sheet, shape, ring)
    assert np.percentile(strays, 90) < 0.3
    assert np.percentile(doubts, 60) == 0.0


def circle(radius: float) -> np.ndarray:
    a = np.linspace(0, 2 * np.pi, 200)
    return np.column_stack([200 + radius * np.cos(a), 200 + radius * np.sin(a)])


@pytest.mark.parametrize(
    ("extra", "holes", "asks"),
    [
        ([], 1, False),
        ([[(226, 200), (228.5, 200)]], 1, False),
        ([[(226, 200), (236, 200)]], 0, True),
        ([[(210, 200), (260, 200), (210, 215)]], 0, True),
        ([[(226, 200), (270, 215), (226, 230), (270, 240)]], 0, True),
    ],
    ids=["by itself", "with a blot", "with a tick", "written into", "written against"],
)
def test_a_drawn_hole_is_one_or_is_asked_about(extra: list[list[tuple[float, float]]], holes: int, asks: bool) -> None:
    sheet = Sheet()
    sheet.line(bean([])[0])
    sheet.line(circle(26))
    for line in extra:
        sheet.line(np.array(line))
    (shape,) = sheet.drawn()
    edge = drawn_edge(shape, lambda s: (sheet.picture, s.mask), "centre")
    assert len(edge.outline.holes) == holes
    assert [w.code for w in edge.warnings] == ["drawn_hole_left_out"] * asks
    for hole in edge.outline.holes:
        assert np.percentile(np.abs(np.hypot(*(hole - 200).T) - 26), 95) < 0.4


def test_letters_are_no_holes_to_ask_about() -> None:
    sheet = Sheet()
    sheet.line(bean([])[0])
    letters(sheet, 170, 200)
    sheet.line((circle(5) - 200) + [230, 190])
    (shape,) = sheet.drawn()
    edge = drawn_edge(shape, lambda s: (sheet.picture, s.mask), "centre")
    assert not edge.outline.holes
    assert not edge.warnings
