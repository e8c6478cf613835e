"""From photographs to an outline in true millimetres, with an honest error."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any, Literal

import cv2
import numpy as np
import shapely
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from ypsicline.core.capture.camera import View
from ypsicline.core.capture.contour import FoundOutline, find_outline
from ypsicline.core.capture.judge import judge
from ypsicline.core.capture.marks import find_marks, ring_through
from ypsicline.core.capture.pen_line import DrawnShape, PenSide, find_drawn, follow_line
from ypsicline.core.capture.photo import Photo
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
from ypsicline.core.capture.segment import CoarsePiece, find_pieces, paint
from ypsicline.core.capture.sheets import Sheet
from ypsicline.core.capture.solve import SheetDistance
from ypsicline.core.capture.thick import top_face
from ypsicline.core.errors import Refused
from ypsicline.core.geometry.edges import Array, Point

__all__ = [
    "Capture",
    "Frame",
    "Kind",
    "Ring",
    "SeveralPieces",
    "SheetOnTable",
    "capture_piece",
    "capture_pieces",
    "open_table",
]

Ring = tuple[Point, ...]
Frame = tuple[tuple[float, float, float], ...]
Kind = Literal["piece", "line", "marks", "roll"]

LINE_MM_PER_PX = 0.45
BRIDGED_WARNING = 0.04
CUT_STRAYS_MM = 2.5
FAINT_MM = 4.0
OUTLINE_STEP_MM = 0.4


@dataclass(frozen=True)
class SheetOnTable:
    """A sheet that was used: `to_outline` is the 3 × 3 matrix from its frame to the outline's, mm."""

    id: str
    to_outline: Frame


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
    sheets, `frame` the 3 × 3 matrix from the table's frame (the first sheet's) to the outline's.
    `views` place the photos over the outline, in the table's plane. `out_per_mm_height` is by how much, at most, the outline's shape would be out
    for each millimetre that it lies higher than it was said to. `marks` are the dots that were
    found where such were looked for; of a rolled trace the outline only goes round them.
    """

    outline: Ring
    holes: tuple[Ring, ...]
    error_mm: float
    errors_mm: tuple[float, ...]
    mm_per_px: float
    frame: Frame
    sheets: tuple[SheetOnTable, ...]
    trusted: Ring
    warnings: tuple[str, ...]
    views: tuple[View, ...]
    height_mm: float
    out_per_mm_height: float
    marks: Ring = ()

    @property
    def view(self) -> View:
        """The first photo's view."""
        return self.views[0]


def capture_piece(photos: Photo | Sequence[Photo], *, piece: int | None = None, **how: Any) -> Capture | SeveralPieces:
    """One piece (from 0) of those that the photos show; `how` and what is raised as with `capture_pieces`."""
    found = capture_pieces(photos, pieces=None if piece is None else [piece], **how)
    return found if isinstance(found, SeveralPieces) else found[0]


def capture_pieces(
    photos: Photo | Sequence[Photo],
    *,
    known: tuple[Sheet, ...] | None = None,
    print_scale: tuple[float, float] = (1.0, 1.0),
    kind: Kind = "piece",
    side: PenSide = "centre",
    pieces: Sequence[int] | None = None,
    height_mm: float = 0.0,
    profile: CameraProfile | None = None,
    distances: Sequence[SheetDistance] = (),
    frame: Frame | None = None,
    progress: Progress = lambda _stage, _share: None,
) -> tuple[Capture, ...] | SeveralPieces:
    """Find flat pieces, closed pen lines on paper, or a row of marks, in one or several photos of them.

    Of a line, `side` says which of its sides is the outline. With several pieces and no choice of
    `pieces` (from 0), say what there is. `distances` are taped between sheets. `frame` puts the
    outline in the frame of an earlier capture of the same photos. Raises `Refused` with one of the
    reasons of `read_scene`, or piece, piece_leaves_picture, sheet_touches_piece, low_contrast,
    no_line, no_marks.
    """
    scene = read_scene(
        [photos] if isinstance(photos, Photo) else photos,
        known=known, print_scale=print_scale, height_mm=height_mm, profile=profile, distances=distances,
        progress=progress,
    )  # fmt: skip
    progress(f"finding the {kind}", 0.45)
    if kind in ("marks", "roll"):
        return (_capture_marks(scene, kind, frame),)
    shapes: Sequence[CoarsePiece | DrawnShape] = _lines(scene) if kind == "line" else _pieces(scene)
    if pieces is None and len(shapes) > 1:
        return _several(shapes, scene)
    found = []
    for k, shape in enumerate([_chosen(shapes, p) for p in pieces or [0]]):
        progress("following its edge", 0.6 + 0.3 * k / len(pieces or [0]))
        found.append(
            _capture_line(scene, shape, side, frame)
            if isinstance(shape, DrawnShape)
            else _capture_one(scene, shape, frame)
        )
    progress("judging the error", 0.9)
    return tuple(found)


def _pieces(scene: Scene) -> tuple[CoarsePiece, ...]:
    coarse = scene.flat(whole_window(scene.taken, scene.solved, scene.papers))
    return _in_the_ring(find_pieces(coarse, scene.covers()), scene)


def _lines(scene: Scene) -> tuple[DrawnShape, ...]:
    window = whole_window(scene.taken, scene.solved, scene.papers, LINE_MM_PER_PX)
    return find_drawn(scene.flat(window), paint(scene.covers(), window, grow_mm=2.0))


def _capture_one(scene: Scene, chosen: CoarsePiece, frame: Frame | None) -> Capture:
    if chosen.leaves_picture:
        raise Refused(
            "The piece runs out of the picture. Step back until all of it and the sheets round it are in view, or "
            "take several photos that overlap.",
            "piece_leaves_picture",
        )
    if chosen.touches_sheet:
        raise Refused(
            "A reference sheet touches or covers the piece, so its edge can't be seen there. "
            "Leave two fingers' breadth between the sheets and the piece.",
            "sheet_touches_piece",
        )
    _refuse_useless_sheets(scene, chosen)
    fine, mask = _fine_picture(scene, chosen)
    found = find_outline(fine, mask)
    warnings: list[str] = []
    doubt = 0.0
    if chosen.doubtful:
        doubt = max(_strays(found, chosen), chosen.islands_mm)
        warnings.append(
            "A pattern or a shadow makes piece and table hard to tell apart: "
            + (f"the outline may be up to {doubt:.0f} mm off in places. " if doubt else "")
            + "Look along all of it, or lay a plain cloth of another shade under the piece."
        )
    elif found.faint:
        doubt = FAINT_MM
        warnings.append(
            "In places the piece hardly differs from the table, and its edge may be "
            f"{FAINT_MM:.0f} mm off there. Look along all of it, or lay a plain cloth of another shade under the piece."
        )
    if scene.height_mm and len(scene.photos) == 1:
        found, more, wall = top_face(found, fine, scene.solved.view.eye_mm, scene.height_mm)
        warnings += more
        doubt = max(doubt, wall)
    return _finish(scene, found, fine.window.mm_per_px, frame, warnings, doubt)


def _capture_line(scene: Scene, chosen: DrawnShape, side: PenSide, frame: Frame | None) -> Capture:
    fine, mask = _fine_picture(scene, chosen)
    found, bridged = follow_line(fine, mask, chosen, side)
    warnings = []
    if bridged > BRIDGED_WARNING:
        warnings.append(
            f"{100 * bridged:.0f} % of the line is missing or crossed by other lines and was bridged; look at it closely."
        )
    return _finish(scene, found, fine.window.mm_per_px, frame, warnings)


def open_table(photos: Photo | Sequence[Photo], **how: Any) -> Capture:
    """The table for a hand to walk round a piece that can't be told from it: `outline` is only the ring of sheets.

    `how` and what is raised as with `read_scene`.
    """
    scene = read_scene([photos] if isinstance(photos, Photo) else photos, **how)
    ring = _ring_of_sheets(scene)
    dense = np.asarray(shapely.LinearRing(ring).segmentize(2.0).coords)[:-1]
    return _finish(scene, FoundOutline(dense, (), 0.5, 255.0), COARSE_MM_PER_PX, None)


def _capture_marks(scene: Scene, kind: Kind, frame: Frame | None) -> Capture:
    hull = _ring_of_sheets(scene)
    window = fine_window(scene, hull.min(axis=0), hull.max(axis=0))
    marks = find_marks(scene.flat(window), paint(scene.covers(), window, grow_mm=2.0))
    if kind == "roll":
        ring, strays_mm, warnings = _round_about(marks), 0.0, []
    else:
        ring, strays_mm = ring_through(marks)
        warnings = [
            f"A smooth outline was laid through {len(marks)} marks; they stray from it by up to {strays_mm:.1f} mm."
        ]
    found = _finish(scene, FoundOutline(ring, (), 0.3, 255.0), window.mm_per_px, frame, warnings, strays_mm)
    M = np.asarray(found.frame)
    return replace(found, marks=_as_ring(marks @ M[:2, :2].T + M[:2, 2]))


def _ring_of_sheets(scene: Scene) -> Array:
    return np.asarray(shapely.MultiPoint(np.vstack(scene.papers)).convex_hull.exterior.coords)[:-1]


def _round_about(marks: Array) -> Array:
    hull = shapely.MultiPoint(marks).convex_hull.buffer(5).exterior
    return np.asarray(shapely.segmentize(hull, 2.0).coords)[:-1][::-1]


def _strays(found: FoundOutline, piece: CoarsePiece) -> float:
    """How far the fine outline strays from the coarse cut, mm, beyond what the cut's own coarseness explains."""
    contours, _ = cv2.findContours(piece.mask.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    rim = piece.window.to_mm(max(contours, key=cv2.contourArea).reshape(-1, 2).astype(float))
    # both rings have points closer to each other than what is looked for
    apart, back = cKDTree(found.outline).query(rim)[0], cKDTree(rim).query(found.outline[::5])[0]
    worst = max(float(np.percentile(apart, 95)), float(np.percentile(back, 95)))
    return worst if worst > CUT_STRAYS_MM else 0.0


def _in_the_ring(pieces: tuple[CoarsePiece, ...], scene: Scene) -> tuple[CoarsePiece, ...]:
    """Without what only reaches into the picture from outside the ring of sheets."""
    hull = shapely.MultiPoint(np.vstack(scene.covers())).convex_hull
    ringed = tuple(p for p in pieces if not p.leaves_picture or shapely.contains_xy(hull, *p.middle))
    return ringed or pieces


def _chosen(pieces: Sequence[CoarsePiece | DrawnShape], piece: int) -> CoarsePiece | DrawnShape:
    if not 0 <= piece < len(pieces):
        raise Refused(f"There is no piece {piece + 1}; the photo shows {len(pieces)}.", "piece")
    return pieces[piece]


def _several(pieces: Sequence[CoarsePiece | DrawnShape], scene: Scene) -> SeveralPieces:
    outlines = []
    for p in pieces:
        contours, _ = cv2.findContours(p.mask.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_SIMPLE)
        largest = max(contours, key=cv2.contourArea).reshape(-1, 2).astype(float)
        outlines.append(_as_ring(scene.solved.view.to_pixels(p.window.to_mm(largest))))
    return SeveralPieces(tuple(outlines), tuple(p.area_mm2 for p in pieces))


def _refuse_useless_sheets(scene: Scene, piece: CoarsePiece) -> None:
    """A cut-off sheet may still help, but not when it is all there is, or when it ought to lie across the piece."""
    whole_ones = {s.sheet.id for t in scene.taken for s in t.seen if not s.cut_off}
    cut = [s.id.upper() for s in scene.solved.sheets if s.id not in whole_ones]
    if not cut:
        return
    whole = [p for s, p in zip(scene.solved.sheets, scene.papers, strict=True) if s.id in whole_ones]
    rows, columns = np.nonzero(piece.mask)
    own = piece.window.to_mm(np.column_stack([columns, rows])[:: max(1, len(rows) // 2000)].astype(float))
    ringed = shapely.MultiPoint(np.vstack(whole)).convex_hull if whole else shapely.Point()
    share = float(shapely.contains_xy(ringed, own[:, 0], own[:, 1]).mean()) if whole else 0.0
    if share < 0.8:
        raise Refused(
            f"Sheet {', '.join(cut)} is cut off by the edge of the picture, and the others don't ring the piece without it. "
            "Step back until every sheet is whole.",
            "sheet_cut_off",
        )


def _fine_picture(scene: Scene, piece: CoarsePiece | DrawnShape) -> tuple[FlatPicture, NDArray[np.bool_]]:
    rows, columns = np.nonzero(piece.mask)
    box = piece.window.to_mm(np.array([[columns.min(), rows.max()], [columns.max(), rows.min()]], dtype=float))
    window = fine_window(scene, box[0] - 14, box[1] + 14)
    picture = scene.flat(window)
    ratio = window.mm_per_px / piece.window.mm_per_px
    origin = piece.window.to_px(np.array([[window.left, window.top]]))[0]
    matrix = np.array([[ratio, 0, origin[0]], [0, ratio, origin[1]]], dtype=np.float32)
    soft = cv2.warpAffine(
        piece.mask.astype(np.float32), matrix, (window.columns, window.rows),
        flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
    )  # fmt: skip
    return picture, soft > 0.5


def _finish(
    scene: Scene, found: FoundOutline, mm_per_px: float, frame: Frame | None, warnings: Sequence[str] = (),
    doubt_mm: float = 0.0,
) -> Capture:  # fmt: skip
    """The outline in its own frame, with its error and what the maker should know about it.

    `doubt_mm` is what whoever found it isn't sure of, beyond what can be judged from the scene.
    """
    step = max(1, round(OUTLINE_STEP_MM / mm_per_px))
    outline, holes = found.outline[::step], [h[::step] for h in found.holes]
    judged = judge(scene.taken, scene.solved, scene.papers, found, mm_per_px, scene.height_mm, doubt_mm)
    M = _upright(scene, outline) if frame is None else np.asarray(frame)
    R, shift = M[:2, :2], M[:2, 2]
    angle = float(np.arctan2(R[0, 1], R[0, 0]))

    def moved(points: Array) -> Ring:
        return _as_ring(points @ R.T + shift)

    sheets = tuple(
        SheetOnTable(sheet.id, _as_frame(M @ matrix))
        for sheet, matrix in zip(scene.solved.sheets, scene.solved.matrices, strict=True)
    )
    return Capture(
        outline=moved(outline),
        holes=tuple(moved(h) for h in holes),
        error_mm=round(judged.error_mm, 3),
        errors_mm=tuple(round(float(e), 3) for e in judged.errors_mm[::step]),
        mm_per_px=mm_per_px,
        frame=_as_frame(M),
        sheets=sheets,
        trusted=moved(_ring_of_sheets(scene)),
        warnings=(*warnings, *judged.warnings),
        views=tuple(v.moved(angle, -R.T @ shift) for v in scene.solved.views),
        height_mm=scene.height_mm,
        out_per_mm_height=judged.out_per_mm_height,
    )


def _upright(scene: Scene, outline: Array) -> Array:
    """Turned so that the photo's right is +x, with the origin at the outline's lower left."""
    view = scene.solved.view
    px = view.to_pixels(outline.mean(axis=0)[None])[0]
    right = view.to_table(np.array([px - [50, 0], px + [50, 0]]))
    angle = float(np.arctan2(*(right[1] - right[0])[::-1]))
    c, s = np.cos(-angle), np.sin(-angle)
    R = np.array([[c, -s], [s, c]])
    shift = -(outline @ R.T).min(axis=0)
    return np.block([[R, shift[:, None]], [np.zeros((1, 2)), np.ones((1, 1))]])


def _as_frame(M: Array) -> Frame:
    return tuple(tuple(map(float, row)) for row in M)  # type: ignore[misc]


def _as_ring(points: Array) -> Ring:
    return tuple((float(x), float(y)) for x, y in points)
