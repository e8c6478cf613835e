"""A rough ring moved onto the edge that a picture shows; the truth is a disc, drawn by area."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
import shapely
import shapely.affinity

from ypsicline.core.capture import placed_edge
from ypsicline.core.capture.contour import find_outline
from ypsicline.core.capture.pieces import CoarsePiece
from ypsicline.core.capture.placed_edge import edge_of, without_hairs
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.capture.snapping import Snapped, snapped
from ypsicline.core.errors import Refusal

MM = 0.25
WINDOW = Window(-60.0, 60.0, 481, 481, MM)
RADIUS = 40.0


def pictured(inner: tuple[int, int, int], outer: tuple[int, int, int], stripes: float = 0.0) -> FlatPicture:
    y, x = np.mgrid[60:-60.001:-MM, -60:60.001:MM]
    share = np.clip((RADIUS - np.hypot(x, y)) / MM + 0.5, 0, 1)[..., None]
    tone = np.array(inner) + stripes * np.sign(np.sin(x / 3))[..., None]
    pixels = tone * share + np.array(outer) * (1 - share)
    return FlatPicture(
        WINDOW, cv2.GaussianBlur(np.clip(pixels, 0, 255).astype(np.uint8), (0, 0), 1.0), np.ones(x.shape, bool)
    )


def disc(radius: float, wobble: float = 0.0) -> np.ndarray:
    a = np.linspace(0, 2 * np.pi, 300, endpoint=False)
    r = radius + wobble * np.sin(5 * a)
    return np.column_stack([r * np.cos(a), r * np.sin(a)])


def believed(radius: float) -> tuple[np.ndarray, Window]:
    window = Window(-60.0, 60.0, 81, 81, 1.5)
    y, x = np.mgrid[60:-60.001:-1.5, -60:60.001:1.5]
    return np.clip((radius - np.hypot(x, y)) / 4 + 0.5, 0, 1).astype(np.float32), window


@pytest.mark.parametrize(("start", "stripes"), [(38.2, 0.0), (40.0, 0.0), (41.6, 0.0), (39.4, 50.0), (40.8, 50.0)])
def test_a_ring_that_is_off_moves_onto_the_edge(start: float, stripes: float) -> None:
    share, window = believed(start)
    result = snapped(pictured((60, 80, 100), (200, 190, 160), stripes), disc(start, 0.6), share, window, 4.0)
    r = np.hypot(*result.ring.T)
    # the edge is then measured within 1.6 mm of it
    assert np.percentile(np.abs(r - RADIUS), 95) < 1.2
    assert np.median(result.clear) > 0.6
    assert np.median(result.separation) > 0.6


def test_a_print_and_a_table_of_the_same_mean_colour_are_told_place_by_place() -> None:
    y, x = np.mgrid[60:-60.001:-MM, -60:60.001:MM]
    is_within, is_odd = np.hypot(x, y) < RADIUS, np.sin(20 * np.arctan2(y, x)) > 0
    print_, table = ((200, 60, 60), (60, 200, 200)), ((60, 60, 200), (200, 200, 60))
    tones = [np.where(is_odd[..., None], *np.array(pair)) for pair in (print_, table)]
    pixels = cv2.GaussianBlur(np.where(is_within[..., None], *tones).astype(np.uint8), (0, 0), 1.0)
    picture = FlatPicture(WINDOW, pixels, np.ones(x.shape, bool))
    with pytest.raises(Refusal, match="hardly differs"):
        find_outline(picture, is_within)
    share, window = believed(40.6)
    edge = edge_of(CoarsePiece(window, share > 0.5, 5000.0, (0.0, 0.0), False, share), picture, ())
    assert np.percentile(np.abs(np.hypot(*edge.outline.outline.T) - RADIUS), 95) < 0.3


@pytest.mark.parametrize(("placed_on_mm", "is_doubtful"), [(1.0, True), (6.2, False)])
def test_a_corner_that_was_rounded_off_as_it_was_placed_coarsely_is_no_doubt(
    monkeypatch: pytest.MonkeyPatch, placed_on_mm: float, is_doubtful: bool
) -> None:
    square = shapely.box(-40, -40, 40, 40)
    rounded = np.asarray(square.buffer(-6).buffer(6).exterior.segmentize(0.6).coords)[-1:0:-1]
    one, none = np.ones(len(rounded)), np.zeros(len(rounded))
    monkeypatch.setattr(placed_edge, "snapped", lambda *_: Snapped(rounded, one, one, none))
    within = np.abs(np.mgrid[60:-60.001:-MM, -60:60.001:MM]).max(axis=0)[..., None] < 40
    pixels = cv2.GaussianBlur(np.where(within, (60, 80, 100), (200, 190, 160)).astype(np.uint8), (0, 0), 1.0)
    side = round(120 / placed_on_mm) + 1
    window = Window(-60.0, 60.0, side, side, placed_on_mm)
    mask = np.zeros((side, side), bool)
    mask[side // 6 : -side // 6, side // 6 : -side // 6] = True
    piece = CoarsePiece(window, mask, 6400.0, (0.0, 0.0), False, mask.astype(np.float32))
    edge = edge_of(piece, FlatPicture(WINDOW, pixels, np.ones(within.shape[:2], bool)), ())
    assert shapely.distance(square.exterior, shapely.points(edge.outline.outline)).max() < 0.6
    assert bool((edge.doubts > 0.8).any()) == is_doubtful


def test_where_nothing_is_seen_the_ring_stays_and_says_so() -> None:
    share, window = believed(40.0)
    result = snapped(pictured((120, 120, 120), (120, 120, 120)), disc(40.0), share, window, 4.0)
    assert np.abs(np.hypot(*result.ring.T) - 40).max() < 1.5
    assert result.clear.max() < 0.2


def test_a_dark_shadow_beside_a_dark_rim_is_another_edge() -> None:
    table, shadow, inner = np.array([200.0, 190, 160]), np.array([120.0, 114, 96]), (60, 80, 100)
    y, x = np.mgrid[60:-60.001:-MM, -60:60.001:MM]
    plain = pictured(inner, (200, 190, 160))
    band = np.clip((RADIUS + 2.2 - np.hypot(x, y)) / MM + 0.5, 0, 1)[..., None]
    within = np.clip((RADIUS - np.hypot(x, y)) / MM + 0.5, 0, 1)[..., None]
    pixels = np.array(inner) * within + (1 - within) * (shadow * band + table * (1 - band))
    shaded = FlatPicture(WINDOW, cv2.GaussianBlur(pixels.astype(np.uint8), (0, 0), 1.0), plain.in_view)
    share, window = believed(41.0)
    assert np.median(snapped(plain, disc(41.0), share, window, 4.0).rival) == 0
    result = snapped(shaded, disc(41.0), share, window, 4.0)
    away = np.abs(np.hypot(*result.ring.T) - RADIUS)
    assert np.mean(result.rival > 0.7) > 0.95
    assert np.all(away < np.maximum(result.rival, 0.7))


def dense(shape: shapely.Polygon, turned: float) -> np.ndarray:
    return np.asarray(shapely.affinity.rotate(shape, turned, origin=(0, 0)).exterior.segmentize(0.15).coords)[:-1]


@pytest.mark.parametrize("turned", [0.0, 37.0, 211.0])
@pytest.mark.parametrize(("wide", "long"), [(1.0, 4.0), (1.5, 10.0), (2.2, 20.0)])
def test_a_hair_along_a_seam_of_boards_is_no_edge(turned: float, wide: float, long: float) -> None:
    piece = shapely.Point(0, 0).buffer(60, quad_segs=64)
    result = without_hairs(dense(piece.union(shapely.box(55, -wide / 2, 60 + long, wide / 2)), turned))
    assert shapely.Polygon(result).symmetric_difference(shapely.affinity.rotate(piece, turned, origin=(0, 0))).area < 1


@pytest.mark.parametrize("turned", [0.0, 37.0, 211.0])
@pytest.mark.parametrize("angle", [4.0, 10.0, 30.0, 60.0])
def test_a_tip_that_grows_narrow_stays(turned: float, angle: float) -> None:
    half = 150 * np.tan(np.radians(angle / 2))
    ring = dense(shapely.Polygon([(0, -half), (150, 0), (0, half), (-60, 0)]), turned)
    assert without_hairs(ring) is ring


@pytest.mark.parametrize("dark_side", [0, 90, 200])
def test_colours_are_told_where_they_are_in_uneven_light(dark_side: float) -> None:
    y, x = np.mgrid[60:-60.001:-MM, -60:60.001:MM]
    way = np.radians(dark_side)
    light = 0.45 + 0.55 * (60 + np.cos(way) * x + np.sin(way) * y)[..., None] / 120
    picture = pictured((225, 205, 165), (190, 160, 115))
    uneven = FlatPicture(WINDOW, np.clip(picture.pixels * light, 0, 255).astype(np.uint8), picture.in_view)
    share, window = believed(40.0)
    result = snapped(uneven, disc(40.0), share, window, 4.0)
    assert np.percentile(result.separation, 10) > 0.6
