"""From a photograph to an outline in true millimetres, with an honest error."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import shapely

from ypsicline.core.capture.camera import View
from ypsicline.core.capture.contour import FoundOutline, find_outline
from ypsicline.core.capture.detect import SeenSheet, find_sheets
from ypsicline.core.capture.photo import Photo
from ypsicline.core.capture.rectify import FlatPicture, Window, lay_flat
from ypsicline.core.capture.segment import CoarsePiece, find_pieces
from ypsicline.core.capture.sheets import Sheet
from ypsicline.core.capture.solve import Solved, solve
from ypsicline.core.errors import Refused
from ypsicline.core.geometry.edges import Array, Point

__all__ = ["Capture", "Ring", "SeveralPieces", "SheetOnTable", "capture_piece"]

Ring = tuple[Point, ...]
Progress = Callable[[str, float], None]

COARSE_MM_PER_PX = 1.0
FINEST_MM_PER_PX = 0.1
TILT_WARNING_DEG = 30.0
BOW_WARNING_MM = 0.7
OUTLINE_STEP_MM = 0.4


@dataclass(frozen=True)
class SheetOnTable:
    """A sheet that was used: `to_outline` is the 3 × 3 matrix from its frame to the outline's, mm."""

    id: str
    to_outline: tuple[tuple[float, float, float], ...]


@dataclass(frozen=True)
class SeveralPieces:
    """The pieces a photograph shows, for the maker to choose one: rough outlines and a point inside each, in photo px."""

    outlines_px: tuple[Ring, ...]
    areas_mm2: tuple[float, ...]


@dataclass(frozen=True)
class Capture:
    """An outline in mm, counter-clockwise seen from above, x right and y up as the photo shows it.

    The origin is the lower left of the outline's bounding box. `error_mm` is the distance that
    at least 95 % of the outline keeps within, by all that the capture knows of its own doubts.
    `trusted` is the area ringed by the sheets. `view` places the photo over the outline.
    """

    outline: Ring
    holes: tuple[Ring, ...]
    error_mm: float
    mm_per_px: float
    sheets: tuple[SheetOnTable, ...]
    trusted: Ring
    warnings: tuple[str, ...]
    view: View


def capture_piece(
    photo: Photo,
    *,
    known: tuple[Sheet, ...] | None = None,
    print_scale: tuple[float, float] = (1.0, 1.0),
    piece: int | None = None,
    progress: Progress = lambda _stage, _share: None,
) -> Capture | SeveralPieces:
    """Find the flat piece in `photo`; with several pieces and no choice of `piece` (from 0), say what there is.

    Raises `Refused` with one of the reasons no_sheet, sheet_cut_off, sheet_too_small, blurred,
    sheets_disagree, too_oblique, piece_leaves_picture,
    sheet_touches_piece, low_contrast.
    """
    progress("looking for the sheets", 0.05)
    grey = cv2.cvtColor(photo.pixels, cv2.COLOR_RGB2GRAY)
    seen = find_sheets(grey, known)
    progress("working out camera and lens", 0.25)
    solved = solve(seen, photo.width, photo.height, focal_px=photo.focal_px, print_scale=print_scale)
    papers = [_papers(s, solved, k, print_scale) for k, s in enumerate(seen)]
    progress("finding the piece", 0.45)
    coarse = lay_flat(photo.pixels, solved.view, _whole_window(photo, solved, papers))
    pieces = find_pieces(coarse, papers)
    if piece is None and len(pieces) > 1:
        return _several(pieces, solved)
    if piece is not None and not 0 <= piece < len(pieces):
        raise Refused(f"There is no piece {piece + 1}; the photo shows {len(pieces)}.", "piece")
    chosen = pieces[piece or 0]
    if chosen.leaves_picture:
        raise Refused(
            "The piece runs out of the picture. Step back until all of it and the sheets round it are in view.",
            "piece_leaves_picture",
        )
    if chosen.touches_sheet:
        raise Refused(
            "A reference sheet touches or covers the piece, so its edge can't be seen there. "
            "Leave two fingers' breadth between the sheets and the piece.",
            "sheet_touches_piece",
        )
    _refuse_useless_sheets(seen, papers, chosen)
    progress("following its edge", 0.6)
    fine, mask = _fine_picture(photo, solved, chosen)
    found = find_outline(fine, mask)
    progress("judging the error", 0.9)
    return _finish(seen, solved, papers, found, fine)


def _papers(sheet: SeenSheet, solved: Solved, k: int, print_scale: tuple[float, float]) -> Array:
    M = solved.placements[k].matrix()
    return np.asarray(sheet.sheet.paper_corners() * np.asarray(print_scale) @ M[:2, :2].T + M[:2, 2])


def _whole_window(photo: Photo, solved: Solved, papers: Sequence[Array]) -> Window:
    """The part of the table near the sheets that the photo shows."""
    corners = np.vstack(papers)
    low, high = corners.min(axis=0), corners.max(axis=0)
    reach = 0.35 * float(np.max(high - low)) + 60
    x = np.linspace(0, photo.width - 1, 9)
    y = np.linspace(0, photo.height - 1, 9)
    rim = np.vstack([np.column_stack([x, 0 * x + e]) for e in (0, photo.height - 1)] + [
        np.column_stack([0 * y + e, y]) for e in (0, photo.width - 1)
    ])  # fmt: skip
    shown = solved.view.to_table(rim)
    low = np.maximum(low - reach, shown.min(axis=0))
    high = np.minimum(high + reach, shown.max(axis=0))
    return Window.around(low, high, max(COARSE_MM_PER_PX, float(np.max(high - low)) / 3000))


def _several(pieces: tuple[CoarsePiece, ...], solved: Solved) -> SeveralPieces:
    outlines = []
    for p in pieces:
        contours, _ = cv2.findContours(p.mask.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_SIMPLE)
        largest = max(contours, key=cv2.contourArea).reshape(-1, 2).astype(float)
        outlines.append(_as_ring(solved.view.to_pixels(p.window.to_mm(largest))))
    return SeveralPieces(tuple(outlines), tuple(p.area_mm2 for p in pieces))


def _refuse_useless_sheets(seen: Sequence[SeenSheet], papers: Sequence[Array], piece: CoarsePiece) -> None:
    """A cut-off sheet may still help, but not when it is all there is, or when it ought to lie across the piece."""
    cut = [s.sheet.id.upper() for s in seen if s.cut_off]
    whole = [p for s, p in zip(seen, papers, strict=True) if not s.cut_off]
    if not cut:
        return
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


def _fine_picture(photo: Photo, solved: Solved, piece: CoarsePiece) -> tuple[FlatPicture, np.ndarray]:
    rows, columns = np.nonzero(piece.mask)
    box = piece.window.to_mm(np.array([[columns.min(), rows.max()], [columns.max(), rows.min()]], dtype=float))
    low, high = box[0] - 14, box[1] + 14
    middle = (low + high) / 2
    here = solved.view.to_pixels(np.array([middle, middle + [1, 0], middle + [0, 1]]))
    px_per_mm = float(np.sqrt(abs(np.linalg.det(here[1:] - here[0]))))
    mm_per_px = max(FINEST_MM_PER_PX, 0.8 / px_per_mm, float(np.max(high - low)) / 6000)
    window = Window.around(low, high, mm_per_px)
    picture = lay_flat(photo.pixels, solved.view, window)
    ratio = mm_per_px / piece.window.mm_per_px
    origin = piece.window.to_px(np.array([[window.left, window.top]]))[0]
    matrix = np.array([[ratio, 0, origin[0]], [0, ratio, origin[1]]], dtype=np.float32)
    soft = cv2.warpAffine(
        piece.mask.astype(np.float32), matrix, (window.columns, window.rows),
        flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
    )  # fmt: skip
    return picture, soft > 0.5


def _finish(
    seen: Sequence[SeenSheet],
    solved: Solved,
    papers: Sequence[Array],
    found: FoundOutline,
    fine: FlatPicture,
) -> Capture:
    step = max(1, round(OUTLINE_STEP_MM / fine.window.mm_per_px))
    outline, holes = found.outline[::step], [h[::step] for h in found.holes]
    error_mm, warnings = _error(seen, solved, papers, found, fine.window.mm_per_px)
    # turn so that the photo's right is +x, and put the origin at the box's lower left
    middle = outline.mean(axis=0)
    px = solved.view.to_pixels(np.array([middle]))[0]
    right = solved.view.to_table(np.array([px - [50, 0], px + [50, 0]]))
    angle = float(np.arctan2(*(right[1] - right[0])[::-1]))
    c, s = np.cos(-angle), np.sin(-angle)
    R = np.array([[c, -s], [s, c]])
    shift = -(outline @ R.T).min(axis=0)
    M = np.block([[R, shift[:, None]], [np.zeros((1, 2)), np.ones((1, 1))]])

    def moved(points: Array) -> Ring:
        return _as_ring(points @ R.T + shift)

    sheets = tuple(
        SheetOnTable(p.sheet_id, tuple(tuple(map(float, row)) for row in M @ p.matrix()))  # type: ignore[misc]
        for p in solved.placements
    )
    hull = np.asarray(shapely.MultiPoint(np.vstack(papers)).convex_hull.exterior.coords)[:-1]
    view = solved.view.moved(angle, -R.T @ shift)
    return Capture(
        moved(outline), tuple(moved(h) for h in holes), round(error_mm, 3), fine.window.mm_per_px,
        sheets, moved(hull), tuple(warnings), view,
    )  # fmt: skip


def _error(
    seen: Sequence[SeenSheet], solved: Solved, papers: Sequence[Array], found: FoundOutline, mm_per_px: float
) -> tuple[float, list[str]]:
    """What 95 % of the outline keeps within, and what the maker should know about it.

    Camera, lens and sheets: the adjustment's covariance along the outline. Edge: a share of its
    smear. Paper: what the sheets bow moves the table by about a seventh of the bow. All at two
    standard deviations, added in squares.
    """
    ring = found.outline[:: max(1, len(found.outline) // 200)]
    along = np.roll(ring, -1, axis=0) - np.roll(ring, 1, axis=0)
    normal = np.column_stack([along[:, 1], -along[:, 0]]) / np.maximum(np.hypot(*along.T), 1e-9)[:, None]
    variance = np.einsum("ni,nij,nj->n", normal, solved.doubt(ring), normal)
    camera = float(np.percentile(np.sqrt(np.maximum(variance, 0)), 95))
    edge = 0.12 * found.edge_mm + 0.1 * mm_per_px
    size = float(np.ptp(ring, axis=0).max())
    bow = max(solved.bows_mm)
    paper = 0.14 * bow
    printing = 0.00008 * size
    warnings: list[str] = []
    hull = shapely.MultiPoint(np.vstack(papers)).convex_hull
    outside = ~shapely.contains_xy(hull, ring[:, 0], ring[:, 1])
    far = 0.0
    if outside.any():
        distance = shapely.distance(hull, shapely.points(ring[outside]))
        far = 0.002 * float(distance.max())
        warnings.append(
            f"{100 * outside.mean():.0f} % of the outline lies outside the ring of sheets, up to {distance.max():.0f} mm; "
            "it is less sure there. Lay sheets on all sides of the piece."
        )
    if bow > BOW_WARNING_MM:
        worst = seen[int(np.argmax(solved.bows_mm))].sheet.id.upper()
        warnings.append(f"Sheet {worst} is not flat: it seems to bow by {bow:.1f} mm. Press the sheets down.")
    if solved.view.tilt_deg > TILT_WARNING_DEG:
        warnings.append(f"The photo is tilted by {solved.view.tilt_deg:.0f}°; straight from above is better.")
    for s in seen:
        if s.cut_off:
            warnings.append(
                f"Sheet {s.sheet.id.upper()} is cut off by the edge of the picture; the rest of it was used."
            )
    if len(seen) == 1:
        warnings.append("Only one sheet was found; lay sheets on all sides of the piece for a surer outline.")
    total = float(np.sqrt((2 * camera) ** 2 + (2 * edge) ** 2 + (2 * paper) ** 2 + printing**2 + far**2))
    return max(total, 0.05), warnings


def _as_ring(points: Array) -> Ring:
    return tuple((float(x), float(y)) for x, y in points)
