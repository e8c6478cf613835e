"""Something thick as a tilted view shows it, drawn by hand: its face, the wall below the near rim, and what of both was taken
for piece."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
import shapely

from ypsicline.core.capture.contour import FoundOutline
from ypsicline.core.capture.placed_edge import MeasuredEdge
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.capture.thick import top_face
from ypsicline.core.geometry.edges import Array

EYE, HEIGHT = np.array([-420.0, -130.0, 1000.0]), 40.0
WINDOW = Window(-130.0, 90.0, 521, 361, 0.5)
FACE = shapely.box(-80, -50, 80, 50)
HOLE = shapely.box(10, -20, 50, 20)
TABLE, CLOTH = (150, 140, 120), (60, 90, 120)
DARKER, LIGHTER, STRIPE = (34, 50, 66), (110, 140, 170), (190, 60, 50)
FINER = 4


def below(shape: shapely.Polygon) -> shapely.Polygon:
    """Where a shape 40 mm below is seen in the plane of the face: nearer to the eye by a twenty-fifth of the way."""
    return shapely.transform(shape, lambda p: p + (EYE[:2] - p) * HEIGHT / EYE[2])


def picture(wall: tuple[int, int, int], border: float = 0.0) -> FlatPicture:
    pixels = np.zeros((WINDOW.rows * FINER, WINDOW.columns * FINER, 3), np.uint8)
    rim = FACE.buffer(-border, join_style="mitre") if border else FACE
    seen_through = shapely.intersection(HOLE, below(HOLE))
    layers = [
        (shapely.box(-500, -500, 500, 500), TABLE),
        (shapely.convex_hull(shapely.union(FACE, below(FACE))), wall),
        (FACE, STRIPE if border else CLOTH),
        (rim, CLOTH),
        (HOLE, wall),
        (seen_through, TABLE),
    ]
    for shape, colour in layers:
        at = (WINDOW.to_px(np.asarray(shape.exterior.coords)) + 0.5) * FINER - 0.5
        cv2.fillPoly(pixels, [np.rint(at * 16).astype(np.int32)], colour, shift=4)
    small = cv2.resize(pixels, (WINDOW.columns, WINDOW.rows), interpolation=cv2.INTER_AREA)
    noise = np.random.default_rng(3).normal(0, 2, small.shape)
    return FlatPicture(WINDOW, np.clip(small + noise, 0, 255).astype(np.uint8), np.ones(small.shape[:2], bool))


def ring(shape: shapely.Polygon, *, hole: bool = False) -> Array:
    dense = shapely.geometry.polygon.orient(shape.segmentize(0.5), -1 if hole else 1)
    return np.asarray(dense.exterior.coords)[:-1]


WALL_TOO = shapely.convex_hull(shapely.union(FACE, below(FACE)))
LEFT = shapely.box(-500, -500, 0, 500)
TAKEN = {
    "all of the wall": WALL_TOO,
    "nothing of it": FACE,
    "of one half all": shapely.union(FACE, shapely.intersection(WALL_TOO, LEFT)),
    "a third of its width": shapely.intersection(WALL_TOO, FACE.buffer(4.5)),
}


def outline(shape: shapely.Polygon, hole: shapely.Polygon = HOLE) -> FoundOutline:
    return FoundOutline(ring(shape), (ring(hole, hole=True),), 0.3, 100.0)


def face_of(before: FoundOutline, seen: FlatPicture, height: float = HEIGHT) -> MeasuredEdge:
    none = np.zeros(len(before.outline))
    edge = MeasuredEdge(before, none, none, hole_doubts=tuple(np.zeros(len(h)) for h in before.holes))
    face = top_face(edge, seen, EYE, height)
    assert [d.shape for _, d in face.rings] == [(len(r),) for r, _ in face.rings]
    return face


def off(measured: Array, truth: shapely.Polygon) -> Array:
    return np.asarray(shapely.distance(truth.exterior, shapely.points(measured)))


@pytest.mark.parametrize("wall", [DARKER, LIGHTER], ids=["darker", "lighter"])
@pytest.mark.parametrize("taken", [t for t in TAKEN if t != "nothing of it"])
def test_the_face_ends_where_its_colours_end(taken: str, wall: tuple[int, int, int]) -> None:
    face = face_of(outline(TAKEN[taken]), picture(wall))
    errors = off(face.outline.outline, FACE)
    assert np.percentile(errors, 95) < 0.3
    assert (errors <= face.doubts + 1.5).all()
    assert [w.code for w in face.warnings] == ["wall_left_out"]
    assert face.doubts.shape == (len(face.outline.outline),)
    assert face.doubts[(face.outline.outline[:, 0] > 75) & (face.outline.outline[:, 1] > -40)].max() == 0


def test_a_face_without_its_wall_stays_as_it_is_but_for_what_can_t_be_told() -> None:
    before = outline(FACE)
    face = face_of(before, picture(DARKER))
    assert (off(face.outline.outline, FACE) <= face.doubts + 0.3).all()


def test_a_wall_of_the_faces_own_shade_stays_in_doubt_where_it_may_be() -> None:
    before = outline(WALL_TOO)
    face = face_of(before, picture(CLOTH))
    assert [w.code for w in face.warnings] == ["wall_may_be_seen"]
    assert (off(face.outline.outline, FACE) <= face.doubts + 0.3).all()
    assert face.doubts.max() > 10
    assert face.doubts[(face.outline.outline[:, 0] > 75) & (face.outline.outline[:, 1] > -40)].max() < 0.3


@pytest.mark.parametrize("taken", sorted(TAKEN))
def test_a_border_of_the_face_is_no_wall(taken: str) -> None:
    """A stripe all round: the near one isn't left out for being of another colour."""
    face = face_of(outline(TAKEN[taken]), picture(DARKER, border=6.0))
    assert (off(face.outline.outline, FACE) <= face.doubts + 0.6).mean() > 0.98


def test_the_far_wall_of_a_hole_is_left_out_too() -> None:
    seen_through = shapely.intersection(HOLE, below(HOLE))
    face = face_of(outline(WALL_TOO, seen_through), picture(DARKER))
    (hole,) = face.outline.holes
    assert np.percentile(off(hole, HOLE), 95) < 0.5
    assert (off(hole, HOLE) <= face.hole_doubts[0] + 0.7).all()
    assert shapely.LinearRing(hole).is_ccw is False


def test_a_far_wall_of_the_faces_own_shade_leaves_its_hole_in_doubt_there_alone() -> None:
    face = face_of(outline(WALL_TOO, shapely.intersection(HOLE, below(HOLE))), picture(CLOTH))
    (hole,), (doubts,) = face.outline.holes, face.hole_doubts
    errors = off(hole, HOLE)
    assert errors.max() > 3
    assert (errors <= doubts + 0.5).all()
    assert (doubts[errors < 0.1] > 1).mean() < 0.05


@pytest.mark.parametrize("height", [0.5, 2.0])
def test_what_is_hardly_thick_is_left_alone(height: float) -> None:
    before = outline(FACE)
    face = face_of(before, picture(DARKER), height)
    assert face.outline is before
    assert not face.warnings
    assert not face.doubts.any()
