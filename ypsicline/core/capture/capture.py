"""From photographs to an outline in true millimetres, with an honest error."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal, TypedDict, Unpack

import cv2
import numpy as np
import shapely
from numpy.typing import NDArray

from ypsicline.core.capture.camera import View
from ypsicline.core.capture.contour import FoundOutline
from ypsicline.core.capture.distances import SheetDistance
from ypsicline.core.capture.drawn_edge import drawn_edge
from ypsicline.core.capture.drawn_shapes import DrawnShape, no_line
from ypsicline.core.capture.judge import judge
from ypsicline.core.capture.looks import Taps, resampled
from ypsicline.core.capture.marks import find_marks, ring_through
from ypsicline.core.capture.pen_line import PenSide
from ypsicline.core.capture.photo import Photo
from ypsicline.core.capture.pieces import CoarsePiece, paint
from ypsicline.core.capture.placed_edge import MeasuredEdge
from ypsicline.core.capture.profile import CameraProfile
from ypsicline.core.capture.rectify import FlatPicture
from ypsicline.core.capture.scene import (
    COARSE_MM_PER_PX,
    Progress,
    Scene,
    fine_window,
    read_scene,
    whole_window,
)
from ypsicline.core.capture.segment import agrees, find_pieces, read_also_as
from ypsicline.core.capture.sheets import Sheet
from ypsicline.core.capture.shown import (
    edge_in,
    is_in_question,
    is_useless,
    lines_in,
    lines_to_choose,
    pieces_in,
    pieces_to_choose,
    window_of,
)
from ypsicline.core.capture.squared import squaring_turn
from ypsicline.core.capture.stretches import Stretch, stretches
from ypsicline.core.capture.thick import top_face
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array, Point
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.messages import Message, message

__all__ = [
    "Capture",
    "Kind",
    "Ring",
    "SeveralPieces",
    "SheetOnTable",
    "capture_in",
    "capture_piece",
    "capture_pieces",
    "open_table",
]

Ring = tuple[Point, ...]
Kind = Literal["piece", "line", "marks", "roll"]
_FINDING: dict[Kind, Message] = {
    "piece": message("stage_finding_piece"), "line": message("stage_finding_line"),
    "marks": message("stage_finding_marks"), "roll": message("stage_finding_marks"),
}  # fmt: skip

OUTLINE_STEP_MM = 0.4
# how thick a cloth mostly is, at most, that nobody said a height of
CLOTH_MM = 0.8
# an outline of which sheets hide more than this share is only given where it was pointed at
HIDDEN_SHARE = 0.04


@dataclass(frozen=True)
class SheetOnTable:
    """A sheet that was used: `to_outline` is the map from its frame to the outline's, mm."""

    id: str
    to_outline: Transform


@dataclass(frozen=True)
class SeveralPieces:
    """The pieces that the first photo shows, for the maker to choose one: rough outlines in its px, and areas."""

    outlines_px: tuple[Ring, ...]
    areas_mm2: tuple[float, ...]


@dataclass(frozen=True)
class Capture:
    """An outline in mm, counter-clockwise seen from above, x right and y up as the first photo shows it.

    The origin is the lower left of the outline's bounding box. `error_mm` is the distance that
    at least 95 % of the outline keeps within, by all that the capture knows of its own doubts.
    `errors_mm` says the same of each point of the outline. `trusted` is the area ringed by the
    sheets, `frame` the map from the table's frame (the first sheet's) to the outline's.
    `views` place the photos over the outline, in the table's plane. `out_per_mm_height` is by how much, at most, the outline's shape would be out
    for each millimetre that it lies higher than it was said to. `marks` are the dots that were
    found where such were looked for; of a rolled trace the outline only goes round them. `doubtful`
    are the stretches of it and of holes whose edge isn't sure, `shadows` what was taken for shadow.
    """

    outline: Ring
    holes: tuple[Ring, ...]
    error_mm: float
    errors_mm: tuple[float, ...]
    mm_per_px: float
    frame: Transform
    sheets: tuple[SheetOnTable, ...]
    trusted: Ring
    warnings: tuple[Message, ...]
    views: tuple[View, ...]
    height_mm: float
    out_per_mm_height: float
    marks: Ring = ()
    doubtful: tuple[Stretch, ...] = ()
    shadows: tuple[Ring, ...] = ()

    @property
    def view(self) -> View:
        """The first photo's view."""
        return self.views[0]


class _Wanted(TypedDict, total=False):
    """What is looked for in photos, and where, as with `capture_in`."""

    kind: Kind
    side: PenSide
    frame: Transform | None
    at: Sequence[Point]
    not_at: Sequence[Point]


class _HowTaken(_Wanted, total=False):
    """What is known of photos too, as with `capture_pieces`."""

    known_sheets: tuple[Sheet, ...] | None
    print_scale: tuple[float, float]
    height_mm: float
    profile: CameraProfile | None
    distances: Sequence[SheetDistance]
    progress: Progress


def capture_piece(
    photos: Photo | Sequence[Photo], *, piece: int | None = None, **how: Unpack[_HowTaken]
) -> Capture | SeveralPieces:
    """One piece (from 0) of those that the photos show; `how` and what is raised as with `capture_pieces`."""
    captures = capture_pieces(photos, pieces=None if piece is None else [piece], **how)
    return captures if isinstance(captures, SeveralPieces) else captures[0]


def capture_pieces(
    photos: Photo | Sequence[Photo],
    *,
    known_sheets: tuple[Sheet, ...] | None = None,
    print_scale: tuple[float, float] = (1.0, 1.0),
    height_mm: float = 0.0,
    profile: CameraProfile | None = None,
    distances: Sequence[SheetDistance] = (),
    progress: Progress = lambda _stage, _share: None,
    pieces: Sequence[int] | None = None,
    **wanted: Unpack[_Wanted],
) -> tuple[Capture, ...] | SeveralPieces:
    """Find flat pieces, closed pen lines on paper, or a row of marks, in one or several photos of them.

    `distances` are taped between sheets; `wanted` is looked for as with `capture_in`. Raises `Refusal` with one of the reasons
    of `read_scene` or `capture_in`.
    """
    scene = read_scene(
        [photos] if isinstance(photos, Photo) else photos,
        known_sheets=known_sheets, print_scale=print_scale, height_mm=height_mm, profile=profile, distances=distances,
        progress=progress,
    )  # fmt: skip
    return capture_in(scene, progress=progress, pieces=pieces, **wanted)


def capture_in(
    scene: Scene,
    *,
    kind: Kind = "piece",
    side: PenSide = "centre",
    pieces: Sequence[int] | None = None,
    frame: Transform | None = None,
    at: Sequence[Point] = (),
    not_at: Sequence[Point] = (),
    progress: Progress = lambda _stage, _share: None,
) -> tuple[Capture, ...] | SeveralPieces:
    """The same in a scene that has been read.

    Of a line, `side` says which of its sides is the outline. With several pieces and no choice of
    `pieces` (from 0), say what there is. `frame` puts the outline in the frame of an earlier capture of the same photos.
    `at` are places on the piece and `not_at` on what is none, as shares of the first photo's width and height. Raises
    `Refusal`: piece, piece_leaves_picture, sheet_touches_piece, which_piece, low_contrast, no_line, no_marks.
    """
    progress(_FINDING[kind], 0.45)
    if kind in ("marks", "roll"):
        return (_capture_marks(scene, kind, frame),)
    if kind == "piece" and (at or not_at):
        pointed = _capture_pointed(scene, at, not_at, frame)
        progress(message("stage_judging_error"), 0.9)
        return (pointed,)
    shapes: Sequence[CoarsePiece | DrawnShape]
    if at or not_at:
        shapes = _round_places(lines_in(scene), _taps(scene, at, not_at))
    else:
        shapes = lines_to_choose(scene) if kind == "line" else pieces_to_choose(scene)
    if pieces is None and len(shapes) > 1:
        return _several(shapes, scene)
    captures = []
    for k, shape in enumerate([_choice_of(shapes, p) for p in pieces or [0]]):
        progress(message("stage_following_edge"), 0.6 + 0.3 * k / len(pieces or [0]))
        captures.append(
            _capture_line(scene, shape, side, frame)
            if isinstance(shape, DrawnShape)
            else _capture_one(scene, shape, frame, pointed_at=False)
        )
    progress(message("stage_judging_error"), 0.9)
    return tuple(captures)


def _capture_pointed(scene: Scene, at: Sequence[Point], not_at: Sequence[Point], frame: Transform | None) -> Capture:
    """The piece that was pointed at: as it is read without being told, where that is sure and agrees; else by being told, and
    what agreed without being sure is another way to read it, but for what runs out of the picture."""
    taps = _taps(scene, at, not_at)
    untold: list[CoarsePiece] = []
    try:
        untold = [p for p in pieces_in(scene) if agrees(p, taps)]
        for piece in untold:
            return _capture_one(scene, piece, frame, pointed_at=False)
    except Refusal:
        pass  # being told may help
    told = find_pieces(scene.flat, whole_window(scene), scene.covers(), taps)[0]
    return _capture_one(scene, read_also_as(told, [p for p in untold if not p.leaves_picture]), frame, pointed_at=True)


def _taps(scene: Scene, at: Sequence[Point], not_at: Sequence[Point]) -> Taps:
    return Taps(*(_on_table(scene, places) for places in (at, not_at)))


def _round_places(shapes: Sequence[CoarsePiece | DrawnShape], taps: Taps) -> tuple[CoarsePiece | DrawnShape, ...]:
    """Of shapes, largest first, the smallest that goes round all places that were pointed at and round none that it should
    not. Raises `Refusal` (reason `no_line`) where there is none."""
    for shape in reversed(shapes):
        if agrees(shape, taps):
            return (shape,)
    raise Refusal(message("no_line_round_place"), "no_line")


def _on_table(scene: Scene, places: Sequence[Point]) -> Array:
    """Where places in the first photo, as shares of its width and height, lie on the table."""
    photo = scene.sheet_photos[0]
    px = np.asarray(places, dtype=float).reshape(-1, 2) * [photo.width - 1, photo.height - 1]
    return scene.solution.view.to_table(px, scene.height_mm)


def _capture_one(scene: Scene, choice: CoarsePiece, frame: Transform | None, *, pointed_at: bool) -> Capture:
    if choice.leaves_picture:
        raise Refusal(message("piece_out_of_picture"), "piece_leaves_picture")
    try:
        edge = edge_in(scene, choice)
    except Refusal as e:
        if not pointed_at:
            e.message = message("piece_hardly_seen")
        raise
    if edge.hidden_share > HIDDEN_SHARE and not pointed_at:
        raise Refusal(message("sheet_over_piece", percent=100 * edge.hidden_share), "sheet_touches_piece")
    worst = float(np.percentile(edge.doubts, 95))
    if pointed_at and edge.hidden_share <= HIDDEN_SHARE and is_useless(edge.outline.outline, edge.doubts):
        raise Refusal(message("pointing_didnt_help", doubt_mm=worst), "low_contrast")
    if not pointed_at and is_in_question(edge):
        raise Refusal(message("which_is_the_piece", doubt_mm=worst), "which_piece")
    window = window_of(scene, choice)
    if scene.height_mm and len(scene.photos) == 1:
        edge = top_face(edge, scene.flat(window), scene.solution.view.eye_mm, scene.height_mm)
    untold = 0.0 if scene.height_mm else CLOTH_MM
    outline_of_piece = _finish(scene, edge, window.mm_per_px, frame, untold)
    shadows = tuple(_as_ring(outline_of_piece.frame.points(ring)) for ring in choice.shadows)
    return replace(outline_of_piece, shadows=shadows)


def _capture_line(scene: Scene, choice: DrawnShape, side: PenSide, frame: Transform | None) -> Capture:
    edge = drawn_edge(choice, lambda shape: _fine_picture(scene, shape), side)
    if is_useless(edge.outline.outline, edge.doubts):
        raise no_line(message("line_doesnt_stand_out"))
    return _finish(scene, edge, window_of(scene, choice).mm_per_px, frame)


def open_table(scene: Scene) -> Capture:
    """The table for a hand to walk round a piece that can't be told from it: `outline` is only the ring of sheets."""
    dense = np.asarray(shapely.LinearRing(scene.ring_of_sheets()).segmentize(2.0).coords)[:-1]
    return _finish(scene, _plainly(FoundOutline(dense, (), 0.5, 255.0)), COARSE_MM_PER_PX, None)


def _capture_marks(scene: Scene, kind: Kind, frame: Transform | None) -> Capture:
    hull = scene.ring_of_sheets()
    window = fine_window(scene, hull.min(axis=0), hull.max(axis=0))
    marks = find_marks(scene.flat(window), paint(scene.covers(), window, grow_mm=2.0))
    if kind == "roll":
        ring, strays_mm, warnings = _round_about(marks), 0.0, []
    else:
        ring, strays_mm = ring_through(marks)
        warnings = [message("smooth_through_marks", count=len(marks), strays_mm=strays_mm)]
    edge = _plainly(FoundOutline(ring, (), 0.3, 255.0), strays_mm)
    capture = _finish(scene, replace(edge, warnings=tuple(warnings)), window.mm_per_px, frame)
    return replace(capture, marks=_as_ring(capture.frame.points(marks)))


def _round_about(marks: Array) -> Array:
    hull = shapely.MultiPoint(marks).convex_hull.buffer(5).exterior
    return np.asarray(shapely.segmentize(hull, 2.0).coords)[:-1][::-1]


def _choice_of(pieces: Sequence[CoarsePiece | DrawnShape], piece: int) -> CoarsePiece | DrawnShape:
    if not 0 <= piece < len(pieces):
        raise Refusal(message("no_such_piece_in_photo", piece=piece + 1, count=len(pieces)), "piece")
    return pieces[piece]


def _several(pieces: Sequence[CoarsePiece | DrawnShape], scene: Scene) -> SeveralPieces:
    outlines = []
    for p in pieces:
        contours, _ = cv2.findContours(p.mask.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_SIMPLE)
        largest = max(contours, key=cv2.contourArea).reshape(-1, 2).astype(float)
        outlines.append(_as_ring(scene.solution.view.to_pixels(p.window.to_mm(largest))))
    return SeveralPieces(tuple(outlines), tuple(p.area_mm2 for p in pieces))


def _fine_picture(scene: Scene, piece: DrawnShape) -> tuple[FlatPicture, NDArray[np.bool_]]:
    window = window_of(scene, piece)
    return scene.flat(window), resampled(piece.mask.astype(np.float32), piece.window, window) > 0.5


def _plainly(outline: FoundOutline, doubt_mm: float = 0.0) -> MeasuredEdge:
    """An outline that is as doubtful everywhere, with no holes."""
    count = len(outline.outline)
    return MeasuredEdge(outline, np.full(count, doubt_mm), np.zeros(count))


def _finish(
    scene: Scene, edge: MeasuredEdge, mm_per_px: float, frame: Transform | None, untold_mm: float = 0.0
) -> Capture:
    """The outline in its own frame, with its error and what the maker should know about it; `untold_mm` is how thick it may
    be where nobody said."""
    step = max(1, round(OUTLINE_STEP_MM / mm_per_px))
    outline, holes = edge.outline.outline[::step], [h[::step] for h in edge.outline.holes]
    judged = judge(
        scene.sheet_photos,
        scene.solution,
        scene.papers,
        edge.outline,
        mm_per_px,
        scene.height_mm,
        edge.doubts,
        untold_mm,
    )
    to = _upright(scene, outline) if frame is None else frame
    back = to.inverse()

    def moved(points: Array) -> Ring:
        return _as_ring(to.points(points))

    sheets = tuple(
        SheetOnTable(sheet.id, to.after(Transform.from_rows(matrix)))
        for sheet, matrix in zip(scene.solution.sheets, scene.solution.matrices, strict=True)
    )
    rings = ((moved(ring[::step]), doubts[::step]) for ring, doubts in edge.rings)
    return Capture(
        outline=moved(outline),
        holes=tuple(moved(h) for h in holes),
        error_mm=round(judged.error_mm, 3),
        errors_mm=tuple(round(float(e), 3) for e in judged.errors_mm[::step]),
        mm_per_px=mm_per_px,
        frame=to,
        sheets=sheets,
        trusted=moved(scene.ring_of_sheets()),
        warnings=(*edge.warnings, *judged.warnings),
        views=tuple(v.moved(math.atan2(back.c, back.a), np.array([back.x, back.y])) for v in scene.solution.views),
        height_mm=scene.height_mm,
        out_per_mm_height=judged.out_per_mm_height,
        doubtful=tuple(s for ring, doubts in rings for s in stretches(ring, doubts)),
    )


def _upright(scene: Scene, outline: Array) -> Transform:
    """Turned so that the photo's right is about +x and the outline lies square, with the origin at its lower left."""
    view = scene.solution.view
    px = view.to_pixels(outline.mean(axis=0)[None])[0]
    right = view.to_table(np.array([px - [50, 0], px + [50, 0]]))
    level = Transform.turn(-float(np.arctan2(*(right[1] - right[0])[::-1])))
    turn = Transform.turn(squaring_turn(level.points(outline))).after(level)
    x, y = -turn.points(outline).min(axis=0)
    return replace(turn, x=float(x), y=float(y))


def _as_ring(points: Array) -> Ring:
    return tuple(map(tuple, np.asarray(points, dtype=float).tolist()))
