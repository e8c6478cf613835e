"""Photos of one table whose cameras and sheets are known, ready to be looked at in millimetres."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import shapely
from numpy.typing import NDArray

from ypsicline.core.capture.camera import View
from ypsicline.core.capture.detect import find_sheets
from ypsicline.core.capture.distances import SheetDistance
from ypsicline.core.capture.mosaic import exposures, lay_flat_together
from ypsicline.core.capture.photo import Photo
from ypsicline.core.capture.profile import CameraProfile
from ypsicline.core.capture.rectify import SIDE_OF_PIXEL, FlatPicture, Window
from ypsicline.core.capture.sheets import Sheet
from ypsicline.core.capture.solve import SheetPhoto, Solution, solve
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.messages import Message, message

__all__ = [
    "COARSE_MM_PER_PX",
    "HIGHEST_MM",
    "MOST_PHOTOS",
    "Progress",
    "Scene",
    "fine_window",
    "read_scene",
    "whole_window",
]

Progress = Callable[[Message, float], None]

COARSE_MM_PER_PX = 1.0
FINEST_MM_PER_PX = 0.1
LARGEST_SIDE_PX = 6000
MOST_PHOTOS = 12
HIGHEST_MM = 500.0
REACH_SPANS, REACH_MM, COARSEST = 3.0, 600.0, 2.5
MOST_COARSE_PX = 3000


@dataclass(frozen=True, eq=False)
class Scene:
    """Photos whose cameras and sheets are known; each is like no other.

    `papers` are the corners (4, 2) on the table of the sheets that were used, `all_papers` of those
    left out too; `gains` even out the photos' exposures.
    """

    photos: tuple[NDArray[np.uint8], ...]
    sheet_photos: tuple[SheetPhoto, ...]
    solution: Solution
    papers: tuple[Array, ...]
    all_papers: tuple[Array, ...]
    height_mm: float
    gains: Array

    def flat(self, window: Window) -> FlatPicture:
        return lay_flat_together(self.photos, self.solution.views, window, height_mm=self.height_mm, gains=self.gains)

    def ring_of_sheets(self) -> Array:
        """The corners (n, 2), mm, of what the sheets that were used lie round."""
        return np.asarray(shapely.MultiPoint(np.vstack(self.papers)).convex_hull.exterior.coords)[:-1]

    def covers(self) -> tuple[Array, ...]:
        """Where the sheets' papers appear in a flat picture, which lies `height_mm` above them."""
        if not self.height_mm:
            return self.all_papers
        eye = self.solution.view.eye_mm
        shrink = (eye[2] - self.height_mm) / eye[2]
        return tuple(eye[:2] + (p - eye[:2]) * shrink for p in self.all_papers)


def read_scene(
    photos: Sequence[Photo],
    *,
    known_sheets: tuple[Sheet, ...] | None = None,
    print_scale: tuple[float, float] = (1.0, 1.0),
    height_mm: float = 0.0,
    profile: CameraProfile | None = None,
    distances: Sequence[SheetDistance] = (),
    progress: Progress = lambda _stage, _share: None,
) -> Scene:
    """Find the sheets in one or several photos of the same table and work out cameras and sheets.

    `height_mm` is how far the wanted outline lies above the sheets. Raises `Refusal`: no_sheet,
    sheet_cut_off, sheet_too_small, blurred, sheets_disagree, photos_apart, too_oblique, camera,
    height; with several photos the sentence names the photo.
    """
    if not 1 <= len(photos) <= MOST_PHOTOS:
        raise Refusal(message("too_many_photos_together", most_photos=MOST_PHOTOS, count=len(photos)), "photo")
    if not 0 <= height_mm <= HIGHEST_MM:
        raise Refusal(message("height_out_of_range", highest_mm=HIGHEST_MM, height_mm=height_mm), "height")
    photos_of_sheets = []
    for k, photo in enumerate(photos):
        progress(message("stage_finding_sheets"), 0.05 + 0.2 * k / len(photos))
        photos_of_sheets.append(_sheet_photo(photo, k, len(photos), known_sheets, profile))
    progress(message("stage_solving_camera"), 0.25)
    solution = solve(photos_of_sheets, print_scale=print_scale, distances=distances)
    scale = np.asarray(print_scale)
    on_table = list(zip(solution.sheets, solution.matrices, strict=True))
    papers, all_papers = (
        tuple(np.asarray(sheet.paper_corners() * scale @ M[:2, :2].T + M[:2, 2]) for sheet, M in sheets)
        for sheets in (on_table, [*on_table, *solution.left_out])
    )
    if height_mm >= 0.8 * min(view.eye_mm[2] for view in solution.views):
        raise Refusal(message("height_of_the_camera"), "height")
    unread = [
        view.to_table(u.corners_px) for view, t in zip(solution.views, photos_of_sheets, strict=True) for u in t.unread
    ]
    all_papers = (*all_papers, *unread)
    pixels = tuple(p.pixels for p in photos)
    whole = _whole_window(photos_of_sheets, solution, papers, height_mm, COARSE_MM_PER_PX)
    rough = Window.around(
        np.array([whole.left, whole.top - whole.rows * whole.mm_per_px]),
        np.array([whole.left + whole.columns * whole.mm_per_px, whole.top]),
        max(4.0, whole.mm_per_px),
    )
    gains = exposures(pixels, solution.views, rough, height_mm)
    return Scene(pixels, tuple(photos_of_sheets), solution, papers, all_papers, height_mm, gains)


def _sheet_photo(
    photo: Photo, k: int, count: int, known_sheets: tuple[Sheet, ...] | None, profile: CameraProfile | None
) -> SheetPhoto:
    try:
        sheets = find_sheets(cv2.cvtColor(photo.pixels, cv2.COLOR_RGB2GRAY), known_sheets)
    except Refusal as e:
        if count > 1:
            e.message = message("in_photo", photo=k + 1, refusal=e.message)
        raise
    return SheetPhoto(sheets.sheets, photo.width, photo.height, photo.focal_px, photo.camera, profile, sheets.unread)


def whole_window(
    scene: Scene, mm_per_px: float = COARSE_MM_PER_PX, *, reach: tuple[float, float] = (REACH_SPANS, REACH_MM)
) -> Window:
    """The part of the table that the photos show, at `mm_per_px` or coarser; not where a slanting view grows coarse,
    nor farther from the sheets' middle than `reach`, so many times as far as they lie apart and so many mm."""
    return _whole_window(scene.sheet_photos, scene.solution, scene.papers, scene.height_mm, mm_per_px, reach)


def _whole_window(
    photos: Sequence[SheetPhoto], solution: Solution, papers: Sequence[Array], height_mm: float, mm_per_px: float,
    reach: tuple[float, float] = (REACH_SPANS, REACH_MM),
) -> Window:  # fmt: skip
    corners = np.vstack(papers)
    middle, span = corners.mean(axis=0), float(np.ptp(corners, axis=0).max())
    farthest = reach[0] * span + reach[1]
    photo_corners = np.vstack(
        [_in_picture(v, t, middle, height_mm) for v, t in zip(solution.views, photos, strict=True)] + [corners]
    )
    low = np.maximum(photo_corners.min(axis=0), middle - farthest)
    high = np.minimum(photo_corners.max(axis=0), middle + farthest)
    return Window.around(low, high, max(mm_per_px, float(np.max(high - low)) / MOST_COARSE_PX))


def _in_picture(view: View, photo: SheetPhoto, middle: Array, height_mm: float) -> Array:
    """Places (n, 2) on the table all over a photo, as far as the lens is known there and they are seen at least `COARSEST` times as
    small as `middle`."""
    x, y = np.meshgrid(np.linspace(0, photo.width - 1, 33), np.linspace(0, photo.height - 1, 33))
    at = view.to_table(np.column_stack([x.ravel(), y.ravel()]), height_mm)

    def above(places: Array) -> Array:
        return np.column_stack([places, np.full(len(places), height_mm)])

    def depth(places: Array) -> Array:
        return np.asarray(above(places) @ view.rotation[2] + view.shift[2])

    away, usual = depth(at), float(depth(middle[None])[0])
    is_known = view.ideal_radius(above(at)) < view.camera.widest(photo.width, photo.height)
    return at[np.isfinite(at).all(axis=1) & is_known & (away > 0) & (away < COARSEST * usual)]


def fine_window(scene: Scene, low: Array, high: Array) -> Window:
    """A window over a part of the table at about the photos' own resolution."""
    as_fine = SIDE_OF_PIXEL / scene.solution.view.px_per_mm((low + high) / 2)
    mm_per_px = max(FINEST_MM_PER_PX, as_fine, float(np.max(high - low)) / LARGEST_SIDE_PX)
    return Window.around(low, high, mm_per_px)
