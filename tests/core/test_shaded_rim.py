"""A table that is shaded beside the piece: the middle of the edge then lies outside the piece."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from ypsicline.core.capture.contour import FoundOutline, find_outline
from ypsicline.core.capture.pieces import CoarsePiece
from ypsicline.core.capture.placed_edge import MeasuredEdge, edge_of
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.geometry.edges import Array

Colour = tuple[int, int, int]
RADIUS, MM, GAMMA = 40.0, 0.25, 2.2
GREY_CLOTH, BLUISH_CONCRETE, BLACK_CLOTH, BIRCH = (126, 146, 143), (160, 173, 213), (18, 16, 15), (206, 190, 160)


def outline_of(cloth: Colour, table: Colour, shaded: float) -> FoundOutline:
    """The outline of a disc on a table whose light is less by the share `shaded` at the disc's rim, and comes back within
    some 2 mm; light blurred as by a lens, and stored."""
    y, x = np.mgrid[60:-60.001:-MM, -60:60.001:MM]
    off = np.hypot(x, y) - RADIUS
    light = 1 - shaded * np.exp(-np.maximum(off, 0) / 0.8)
    cover = np.clip(0.5 - off / MM, 0, 1)[..., None]
    cloth_light, table_light = ((np.array(c) / 255) ** GAMMA for c in (cloth, table))
    seen = cv2.GaussianBlur(cover * cloth_light + (1 - cover) * table_light * light[..., None], (0, 0), 1.3)
    pixels = np.rint(255 * seen ** (1 / GAMMA)).astype(np.uint8)
    return find_outline(FlatPicture(Window(-60.0, 60.0, *x.shape, MM), pixels, np.ones(x.shape, bool)), off < 0)


def outside_mm(outline: FoundOutline) -> float:
    return float(np.median(np.hypot(*outline.outline.T))) - RADIUS


@pytest.mark.parametrize("shaded", [0.2, 0.4, 0.5])
def test_the_colours_tell_how_far_off_a_shadow_at_the_rim_leads(shaded: float) -> None:
    outline = outline_of(GREY_CLOTH, BLUISH_CONCRETE, shaded)
    off = outside_mm(outline)
    assert off > 0.1
    assert outline.shade_mm == pytest.approx(off, abs=0.08)


def test_an_edge_without_a_shadow_is_taken_as_it_is() -> None:
    outline = outline_of(GREY_CLOTH, BLUISH_CONCRETE, 0.0)
    assert abs(outside_mm(outline)) < 0.05
    assert outline.shade_mm < 0.05


@pytest.mark.parametrize(("cloth", "table"), [(BLACK_CLOTH, BIRCH), (BIRCH, GREY_CLOTH)])
def test_where_no_shadow_looks_like_the_cloth_none_leads_astray(cloth: Colour, table: Colour) -> None:
    assert outline_of(cloth, table, 0.4).shade_mm == 0.0


def test_of_a_cloth_that_is_but_somewhat_darker_than_the_table_nothing_is_told() -> None:
    assert outline_of((130, 129, 127), (180, 178, 176), 0.4).shade_mm is None


def edge_between(cloth: Array, table: Array) -> MeasuredEdge:
    """The edge of a disc, from what `cloth` and `table` (rows, columns, 3) look like everywhere."""
    y, x = np.mgrid[60:-60.001:-MM, -60:60.001:MM]
    off = np.hypot(x, y) - RADIUS
    seen = cv2.GaussianBlur(((np.where(off[..., None] < 0, cloth, table) / 255) ** GAMMA), (0, 0), 1.3)
    pixels = np.rint(255 * seen ** (1 / GAMMA)).astype(np.uint8)
    picture = FlatPicture(Window(-60.0, 60.0, *x.shape, MM), pixels, np.ones(x.shape, bool))
    window = Window(-60.0, 60.0, 81, 81, 1.5)
    coarse_y, coarse_x = np.mgrid[60:-60.001:-1.5, -60:60.001:1.5]
    share = np.clip((RADIUS + 1 - np.hypot(coarse_x, coarse_y)) / 4 + 0.5, 0, 1).astype(np.float32)
    return edge_of(CoarsePiece(window, share > 0.5, 5000.0, (0.0, 0.0), False, share), picture, ())


def striped(*, shadow_mm: float) -> MeasuredEdge:
    """The edge of a disc with stripes of blue, pink and black, on a plain table with a shadow to the disc's right, as wide as
    that at most."""
    y, x = np.mgrid[60:-60.001:-MM, -60:60.001:MM]
    stripes = np.array([(62, 78, 128), (190, 74, 110), (30, 32, 30)])[(np.floor((x + 2 * y) / 20) % 3).astype(int)]
    in_shadow = (np.hypot(x - shadow_mm, y) < RADIUS)[..., None]
    return edge_between(stripes, np.where(in_shadow, 0.62, 1.0) * (170, 165, 118))


def test_beside_stripes_an_edge_on_a_shadows_rim_may_be_as_far_off_as_the_shadow_is_wide() -> None:
    edge = striped(shadow_mm=2.0)
    outside = np.hypot(*edge.outline.outline.T) - RADIUS
    astray = outside > 0.8
    assert astray.mean() > 0.05
    assert (edge.doubts[astray] > outside[astray]).mean() > 0.95
    away = edge.outline.outline[:, 0] < -20
    assert np.percentile(edge.doubts[away], 90) < 0.3


def test_stripes_themselves_are_no_shadow() -> None:
    assert np.percentile(striped(shadow_mm=0.0).doubts, 95) < 0.3


@pytest.mark.parametrize("mottled", ["cloth", "table"])
def test_mottles_are_no_shadow(mottled: str) -> None:
    speckle = cv2.GaussianBlur(np.random.default_rng(5).standard_normal((481, 481, 1)), (0, 0), 3.0)
    grey = np.clip(105 + 20 * speckle[..., None] / speckle.std(), 40, 200) * (1.0, 0.95, 0.86)
    pale = np.full((481, 481, 3), (250.0, 220.0, 218.0))
    edge = edge_between(grey, pale) if mottled == "cloth" else edge_between(pale, grey)
    assert np.percentile(edge.doubts, 90) < 0.3
