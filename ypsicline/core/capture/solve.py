"""Cameras, lenses and table from the corners of loose sheets: one adjustment of everything at once.

Unknown are the cameras (focal length, centre, five lens coefficients), where each photo was
taken from, where each sheet lies on the table, and how its paper is lifted. Known are the squares'
sizes and that the sheets lie on one table. What the photos leave in doubt is held by weak
expectations of ordinary cameras and of paper, or by the camera's profile; the covariance of the
solution tells how far each point of the table may be off.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
import scipy

from ypsicline.core.capture.adjust import CORNER_SIGMA_PX, adjust, first_guess, from_other_focals, laid_by
from ypsicline.core.capture.camera import View
from ypsicline.core.capture.detect import SeenSheet, UnreadSheet
from ypsicline.core.capture.distances import SheetDistance, spans_of
from ypsicline.core.capture.layout import CAMERA, Layout, Sight, matrix_of
from ypsicline.core.capture.paper import EXPECTED_MM
from ypsicline.core.capture.profile import CameraProfile, Expectation, expected_camera
from ypsicline.core.capture.sheet_sizes import SheetSize, sheet_sizes
from ypsicline.core.capture.sheets import Sheet
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.messages import Message, message

__all__ = ["SheetPhoto", "Solution", "solve"]

TILT_AT_MOST_DEG = 50.0
LEFT_OUT_AT_MOST = 2
# corners that miss by so many px, or times the median of their sheet, are left out; a sheet keeps so many
STRAY_PX, STRAY_TIMES, LEAST_CORNERS = 0.6, 5.0, 8
# standard deviations that a lens is usually pulled by, and from which the sheets are doubted
PULL_USUAL, PULL_DOUBTFUL = 2.5, 4.0
# how many sheets may be the one that moved, and how much less the others' corners miss without it, at least
MOVED_TRIED, MOVED_MISSES = 3, 0.5
# by what share a sheet's size may seem to differ that was printed as the others were
SAME_SIZE = 0.003


@dataclass(frozen=True)
class SheetPhoto:
    """A photo as the adjustment needs it: the sheets seen, its size in px, what is known of its camera, and the sheets
    that it shows too badly to be used.

    Photos of the same `camera` (make, model; empty if unknown), size and focal length share one
    set of unknowns.
    """

    sheets: tuple[SeenSheet, ...]
    width: int
    height: int
    focal_px: float | None = None
    camera: str = ""
    profile: CameraProfile | None = None
    unread: tuple[UnreadSheet, ...] = ()


@dataclass(frozen=True)
class Solution:
    """Where every photo was taken from and where each of `sheets` lies.

    `matrices` take a sheet's printed mm (its own print scale undone by the caller) to the
    table's, the frame of the first sheet. `residual_px` is the root mean square of the corners'
    misses. `left_out` are sheets that disagreed with the rest, and where each photo shows them;
    `slips` typed distances that the photos contradict, with what they show (photos − tape, mm).
    `pull` is by how many standard deviations the lens had to be bent away from an ordinary one's to
    explain the sheets, and `doubts` what that may come from, in sentences.
    """

    views: tuple[View, ...]
    sheets: tuple[Sheet, ...]
    matrices: tuple[Array, ...]
    lifts_mm: tuple[float, ...]
    residual_px: float
    left_out: tuple[tuple[Sheet, Array], ...]
    layout: Layout
    parameters: Array
    covariance: Array
    slips: tuple[tuple[SheetDistance, float], ...] = ()
    pull: float = 0.0
    doubts: tuple[Message, ...] = ()

    @property
    def view(self) -> View:
        """The first photo's view."""
        return self.views[0]

    def doubt(self, points: Array, photo_of: Array | None = None) -> Array:
        """Covariances (n, 2, 2) in mm² of where table points, held fast in their photo, come to lie.

        `photo_of` (n,) tells which photo each point is taken from; all from the first by default.
        What a shift or a turn of the whole table does is taken out: it moves the outline, it
        doesn't change its shape.
        """
        source = np.zeros(len(points), dtype=int) if photo_of is None else photo_of
        sources = np.unique(source)
        columns = np.unique(np.concatenate([self.layout.own_unknowns(int(k)) for k in sources]))
        sigma = np.sqrt(np.diag(self.covariance))
        moves = np.zeros((len(columns), len(points), 2))
        for photo in sources:
            own = source == photo
            pixels = self.views[photo].to_pixels(points[own])
            for unknown in self.layout.own_unknowns(int(photo)):
                step = sigma[unknown] * 1e-2 + 1e-9
                up, down = self.parameters.copy(), self.parameters.copy()
                up[unknown] += step
                down[unknown] -= step
                ends = [self.layout.view(p, int(photo)).to_table(pixels) for p in (up, down)]
                moves[np.searchsorted(columns, unknown), own] = (ends[0] - ends[1]) / (2 * step)
        centred = points - points.mean(axis=0)
        spun = np.column_stack([-centred[:, 1], centred[:, 0]])
        moves -= moves.mean(axis=1, keepdims=True)
        angle = (moves * spun).sum(axis=(1, 2)) / (spun**2).sum()
        moves -= angle[:, None, None] * spun
        C = self.covariance[np.ix_(columns, columns)]
        return np.asarray(np.einsum("kni,kl,lnj->nij", moves, C, moves))


def solve(
    photos: Sequence[SheetPhoto],
    *,
    print_scale: tuple[float, float] = (1.0, 1.0),
    distances: Sequence[SheetDistance] = (),
) -> Solution:
    """Adjust cameras, table and sheets to the corners seen in one or several photos of the same scene.

    `print_scale` is how large the sheets came out of the printer, per axis (measured ÷ nominal).
    A sheet that disagrees (moved between photos, curled) is left out where the rest does without
    it. Of the taped `distances`, those between sheets that are seen are met as well as a tape is
    read; one that the photos contradict is left out. Raises `Refusal`: `too_oblique` beyond 50° of tilt, `sheets_disagree` where no flat table
    explains what is seen, `photos_apart` where a photo shares no sheet with the others.
    """
    attempt = _first_attempt(photos, print_scale)
    left_out = [s for s in _sheets_of(photos) if s not in attempt.sheets]
    while len(left_out) < LEFT_OUT_AT_MOST:
        worst = _worst_sheet(attempt.layout, attempt.misses)
        if worst is None or not _does_without(attempt.photos, attempt.sheets[worst]):
            break
        left_out.append(attempt.sheets[worst])
        attempt = _fitted([_without(t, left_out) for t in photos], print_scale)
    attempt, doubts = _told_apart(attempt, print_scale)
    left_out = [s for s in _sheets_of(photos) if s not in attempt.sheets]
    layout, fit, sheets, residual_px = attempt.layout, attempt.fit, attempt.sheets, attempt.residual_px
    _check(layout, fit, residual_px, attempt.photos)
    spans, slips = spans_of(layout, fit.x, sheets, np.asarray(print_scale), distances)
    if spans:
        fit = adjust(layout, attempt.expectations, fit.x, spans)
    covariance = np.linalg.pinv(fit.jac.T @ fit.jac) * attempt.spread * attempt.strain**2
    changes = [attempt.sizes[k].change for k in attempt.unlike]
    if changes:
        covariance += np.mean([np.outer(change, change) for change in changes], axis=0)
    views = tuple(layout.view(fit.x, k) for k in range(len(photos)))
    scale = np.asarray(print_scale)
    aside = tuple(
        (s.sheet, matrix_of(laid_by(view, s.corners_mm * scale, s.corners_px)))
        for view, t in zip(views, photos, strict=True)
        for s in t.sheets
        if s.sheet in left_out
    )
    return Solution(
        views,
        tuple(sheets),
        tuple(matrix_of(place) for place in layout.places(fit.x)),
        tuple(map(float, layout.lifts(fit.x))),
        residual_px,
        aside,
        layout,
        fit.x,
        covariance,
        slips,
        attempt.pull,
        doubts,
    )


@dataclass(frozen=True)
class _Fitted:
    """One adjustment: of which photos and sheets, what was expected of the cameras, and how it came out."""

    photos: tuple[SheetPhoto, ...]
    sheets: list[Sheet]
    layout: Layout
    expectations: list[Expectation]
    fit: scipy.optimize.OptimizeResult

    @property
    def misses(self) -> Array:
        return np.asarray(self.fit.fun[: self.layout.observations.size] * CORNER_SIGMA_PX).reshape(-1, 2)

    @property
    def residual_px(self) -> float:
        return float(np.sqrt((self.misses**2).sum() / len(self.misses)))

    @property
    def pull(self) -> float:
        """How far a lens number lies from what is expected, at most, in standard deviations; the focal length aside."""
        start = self.layout.observations.size
        own = np.asarray(self.fit.fun[start : start + CAMERA * len(self.expectations)]).reshape(-1, CAMERA)
        return float(np.abs(own[:, 1:]).max())

    @cached_property
    def sizes(self) -> Sequence[SheetSize]:
        """How large each sheet seems beside the others; none for a sheet alone."""
        return sheet_sizes(self.layout, self.fit, CORNER_SIGMA_PX, self.spread)

    @property
    def unlike(self) -> list[int]:
        """The sheets that seem of another size than the others, the surest first."""
        sizes = self.sizes
        return sorted(
            (k for k, size in enumerate(sizes) if size.differs), key=lambda k: -abs(sizes[k].excess) / sizes[k].sigma
        )

    @property
    def spread(self) -> float:
        return _spread(self.layout, self.misses)

    @property
    def strain(self) -> float:
        """By how much more than is usual lens or paper had to be bent, 1 or more."""
        paper = self.fit.x[self.layout.paper_at :].reshape(-1, len(EXPECTED_MM)) / EXPECTED_MM
        return max(1.0, self.pull / PULL_USUAL, float(np.sqrt((paper**2).mean())))


def _first_attempt(photos: Sequence[SheetPhoto], print_scale: tuple[float, float]) -> _Fitted:
    """All sheets adjusted; of several photos that show no camera together, without the sheet that moved between them, if there
    is one without which they do."""
    if len(photos) == 1:
        return _fitted(photos, print_scale)
    attempt = _fitted(photos, print_scale, tries_focals=False)
    if attempt.pull < PULL_DOUBTFUL:
        return attempt
    for k in np.argsort(-_misses_by_sheet(attempt.layout, attempt.misses))[:MOVED_TRIED]:
        sheet = attempt.sheets[k]
        if not _is_seen_twice(photos, sheet) or not _does_without(photos, sheet):
            continue
        rest = _fitted([_without(t, [sheet]) for t in photos], print_scale, tries_focals=False)
        fits = rest.pull < PULL_DOUBTFUL and rest.residual_px < MOVED_MISSES * attempt.residual_px
        if fits and abs(_size_beside(rest, attempt, sheet, print_scale) - 1) < SAME_SIZE:
            return rest
    return _fitted(photos, print_scale)


def _is_seen_twice(photos: Sequence[SheetPhoto], sheet: Sheet) -> bool:
    return sum(any(s.sheet == sheet for s in t.sheets) for t in photos) > 1


def _sheets_of(photos: Sequence[SheetPhoto]) -> list[Sheet]:
    return sorted({s.sheet for t in photos for s in t.sheets}, key=lambda s: s.id)


def _fitted(
    photos: Sequence[SheetPhoto],
    print_scale: tuple[float, float],
    *,
    centre_free: bool = False,
    tries_focals: bool = True,
) -> _Fitted:
    """Adjust, leave out the corners that lie otherwise than the rest of their sheet, and adjust again."""
    for last in (False, True):
        sheets = _sheets_of(photos)
        layout, expectations = _layout(photos, sheets, print_scale)
        if centre_free:
            expectations = [e.with_free_centre() for e in expectations]
        attempt = _Fitted(
            tuple(photos),
            sheets,
            layout,
            expectations,
            adjust(layout, expectations, first_guess(layout, expectations)),
        )
        if tries_focals and attempt.pull >= PULL_DOUBTFUL:
            attempt = replace(
                attempt, fit=min([attempt.fit, *from_other_focals(layout, expectations)], key=lambda fit: fit.cost)
            )
        fewer = None if last else _trimmed(attempt)
        if fewer is None:
            return attempt
        photos = fewer
    return attempt


def _trimmed(attempt: _Fitted) -> list[SheetPhoto] | None:
    """The photos without corners that miss by far more than most of their sheet's: a lifted corner of paper, a finger."""
    away = np.hypot(*attempt.misses.T)
    parts = np.split(away, np.cumsum([len(s.px) for s in attempt.layout.sights])[:-1])
    has_fewer, fewer = False, []
    at = iter(parts)
    for t in attempt.photos:
        sheets = []
        for s in t.sheets:
            own = next(at)
            good = own <= max(STRAY_PX, STRAY_TIMES * float(np.median(own)))
            if good.all() or good.sum() < LEAST_CORNERS:
                sheets.append(s)
                continue
            has_fewer = True
            sheets.append(replace(s, corners_mm=s.corners_mm[good], corners_px=s.corners_px[good]))
        fewer.append(replace(t, sheets=tuple(sheets)))
    return fewer if has_fewer else None


def _spread(layout: Layout, misses: Array) -> float:
    """By how much the corners' variance exceeds what is expected. Neighbours that miss alike (paper that isn't flat) count
    as fewer: with correlation ρ from corner to corner, along both axes, (1 + ρ)²/(1 - ρ)² times."""
    ratio = max(1.0, float((misses**2).sum() / (2 * len(misses))) / CORNER_SIGMA_PX**2)
    products, squares = 0.0, 0.0
    for sight, own in zip(
        layout.sights, np.split(misses, np.cumsum([len(s.px) for s in layout.sights])[:-1]), strict=True
    ):
        pairs = scipy.spatial.cKDTree(sight.board).query_pairs(1.2 * float(_pitch(sight.board)), output_type="ndarray")
        products += float((own[pairs[:, 0]] * own[pairs[:, 1]]).sum())
        squares += float((own[pairs] ** 2).sum()) / 2
    alike = float(np.clip(products / max(squares, 1e-12), 0, 0.6))
    return 1.0 + (ratio - 1.0) * ((1 + alike) / (1 - alike)) ** 2


def _pitch(board: Array) -> float:
    return float(np.median(scipy.spatial.cKDTree(board).query(board, k=2)[0][:, 1]))


def _told_apart(attempt: _Fitted, print_scale: tuple[float, float]) -> tuple[_Fitted, tuple[Message, ...]]:
    """Where a sheet seems of another size or the lens had to be bent: what it comes from, if the sheets can tell, and the
    adjustment without that."""
    unlike = attempt.unlike
    if not unlike and attempt.pull < PULL_DOUBTFUL:
        return attempt, ()
    for sheet in [attempt.sheets[k] for k in unlike] if len(attempt.sheets) > 2 else []:
        if not _does_without(attempt.photos, sheet):
            continue
        rest = _fitted([_without(t, [sheet]) for t in attempt.photos], print_scale)
        if rest.pull < PULL_DOUBTFUL and not rest.unlike:
            size = _size_beside(rest, attempt, sheet, print_scale)
            if abs(size - 1) < SAME_SIZE:
                return rest, ()  # it only lies otherwise
            return rest, (message("sheet_printed_at_another_scale", sheet=sheet.id.upper(), percent=100 * size),)
    if attempt.pull >= PULL_DOUBTFUL:
        free = _fitted(attempt.photos, print_scale, centre_free=True)
        if free.pull < 0.5 * attempt.pull and free.pull < PULL_DOUBTFUL and not free.unlike:
            return free, (message("photo_seems_cropped"),)
    if not unlike:
        return attempt, (message("sheets_fit_no_camera"),)
    larger, smaller = (f(range(len(attempt.sheets)), key=lambda k: attempt.sizes[k].excess) for f in (max, min))
    percent = 100 * max(abs(attempt.sizes[k].excess) for k in (larger, smaller))
    names = {"larger": attempt.sheets[larger].id.upper(), "smaller": attempt.sheets[smaller].id.upper()}
    return attempt, (message("sheets_of_unlike_size", percent=percent, **names),)


def _size_beside(rest: _Fitted, attempt: _Fitted, sheet: Sheet, print_scale: tuple[float, float]) -> float:
    """How large a sheet that was left out measures, of what it should be."""
    scale = np.asarray(print_scale)
    sizes = []
    for k, t in enumerate(attempt.photos):
        for s in t.sheets:
            if s.sheet == sheet:
                table, board = rest.layout.view(rest.fit.x, k).to_table(s.corners_px), s.corners_mm * scale
                sizes.append(np.sqrt((np.var(table, axis=0).sum()) / np.var(board, axis=0).sum()))
    return float(np.mean(sizes))


def _without(photo: SheetPhoto, left_out: Sequence[Sheet]) -> SheetPhoto:
    if not left_out:
        return photo
    sheets = tuple(s for s in photo.sheets if s.sheet not in left_out)
    return replace(photo, sheets=sheets)


def _does_without(photos: Sequence[SheetPhoto], sheet: Sheet) -> bool:
    """Whether every photo still shows a sheet, and all hang together by them, without this one."""
    reached, *rest = [{s.sheet for s in t.sheets} - {sheet} for t in photos]
    while near := [own for own in rest if own & reached]:
        reached = reached.union(*near)
        rest = [own for own in rest if own not in near]
    return bool(reached) and not rest


def _layout(
    photos: Sequence[SheetPhoto], sheets: Sequence[Sheet], print_scale: tuple[float, float]
) -> tuple[Layout, list[Expectation]]:
    keys: dict[tuple[object, ...], int] = {}
    camera_of, expectations = [], []
    for k, t in enumerate(photos):
        same = (t.camera or k, t.width, t.height, None if t.focal_px is None else round(t.focal_px))
        if same not in keys:
            keys[same] = len(keys)
            expectations.append(expected_camera(t.width, t.height, t.focal_px, t.profile))
        camera_of.append(keys[same])
    scale = np.asarray(print_scale)
    sights = tuple(
        Sight(k, sheets.index(s.sheet), s.corners_mm * scale, np.asarray(s.sheet.size_mm) * scale / 2, s.corners_px)
        for k, t in enumerate(photos)
        for s in t.sheets
    )
    return Layout(tuple((t.width, t.height) for t in photos), tuple(camera_of), len(sheets), sights), expectations


def _worst_sheet(layout: Layout, misses: Array) -> int | None:
    """The sheet whose corners miss by far more than the others', by more than a pixel and a half."""
    own = _misses_by_sheet(layout, misses)
    worst = int(own.argmax())
    rest = np.delete(own, worst)
    if len(rest) < 2 or own[worst] < 1.5 or own[worst] < 1.8 * np.median(rest):
        return None
    return worst


def _misses_by_sheet(layout: Layout, misses: Array) -> Array:
    """By how much each sheet's corners miss, the root of their mean square (sheets,), px."""
    sheet = np.repeat([s.sheet for s in layout.sights], [len(s.px) for s in layout.sights])
    return np.array([np.sqrt((misses[sheet == k] ** 2).sum(axis=1).mean()) for k in range(layout.sheets)])


def _check(
    layout: Layout, fit: scipy.optimize.OptimizeResult, residual_px: float, photos: Sequence[SheetPhoto]
) -> None:
    for k in range(len(photos)):
        tilt = layout.view(fit.x, k).tilt_deg
        if tilt > TILT_AT_MOST_DEG:
            raise Refusal(
                message("photo_too_oblique", photo=_photo(k, photos), tilt=tilt, tilt_at_most_deg=TILT_AT_MOST_DEG),
                "too_oblique", numbers={"tilt_deg": tilt},
            )  # fmt: skip
    if residual_px > max(3.0, 0.08 * min(s.square_px for t in photos for s in t.sheets)):
        raise Refusal(
            message("sheets_not_flat", residual_px=residual_px),
            "sheets_disagree", numbers={"residual_px": residual_px},
        )  # fmt: skip


def _photo(k: int, photos: Sequence[object]) -> str:
    return "The photo" if len(photos) == 1 else f"Photo {k + 1}"
