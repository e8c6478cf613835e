"""The least-squares adjustment itself: the corners' misses made least, from a first guess of cameras and places."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import suppress
from dataclasses import replace

import cv2
import numpy as np
import scipy

from ypsicline.core.capture.camera import View
from ypsicline.core.capture.distances import Span
from ypsicline.core.capture.layout import CAMERA, FOCUS, PLACE, SHEET, Layout, Sight, matrix_of
from ypsicline.core.capture.paper import EXPECTED_MM
from ypsicline.core.capture.profile import Expectation
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.messages import message

__all__ = ["CORNER_SIGMA_PX", "adjust", "first_guess", "from_other_focals", "laid_by"]

CORNER_SIGMA_PX = 0.05
# one standard deviation of how a focal length changes between photos of one camera
_SIGMA_FOCUS = 2e-3
# over how many mm a bow may turn, adjustment by adjustment; and how little paper may be bent in the first of all
SOFT_MM, _FLAT_MM = (1.0, 0.3, 0.05), 1e-3
# how flat paper is expected to be, of how flat it proves to be and of how it is expected at first, at least
_AS_FLAT, _FLATTEST = 1.5, 0.2
# beside the one expected, as telephones have them
OTHER_FOCALS = (0.78, 1.3)
_ONLY_FOCAL = np.eye(CAMERA)[0]


def adjust(
    layout: Layout, expectations: Sequence[Expectation], start: Array, spans: Sequence[Span] = ()
) -> scipy.optimize.OptimizeResult:
    """The corners' misses made least, with what is expected of cameras and of paper. The sheets are taken for flat at first,
    when a corner that was read wrong may still pull; their paper is bent once the cameras stand where they should. Paper that
    proves flatter than is expected of paper is expected to be so (empirical Bayes)."""
    observed, shapes = layout.observations, slice(layout.paper_at, None)
    focus = slice(layout.places_at + FOCUS, layout.sheets_at, PLACE)
    roots = [e.root for e in expectations]
    paper = np.tile(EXPECTED_MM, layout.sheets)

    def residuals(p: Array) -> Array:
        misses = (layout.project(p) - observed) / CORNER_SIGMA_PX
        priors = [e.root @ (p[CAMERA * k :][:CAMERA] - e.mean) for k, e in enumerate(expectations)]
        taped = [span.miss(layout.places(p))[0] for span in spans]
        return np.concatenate([misses.ravel(), *priors, p[focus] / _SIGMA_FOCUS, p[shapes] / paper, taped])

    def jacobian(p: Array) -> Array:
        photos = len(layout.sizes)
        count = CAMERA * len(roots) + photos + len(paper) + len(spans)
        J = np.vstack([layout.jacobian(p) / CORNER_SIGMA_PX, np.zeros((count, layout.unknowns))])
        row = observed.size
        for k, root in enumerate(roots):
            J[row : row + CAMERA, CAMERA * k : CAMERA * (k + 1)] = root
            row += CAMERA
        J[row : row + photos, focus] = np.eye(photos) / _SIGMA_FOCUS
        J[row + photos : len(J) - len(spans), shapes] = np.diag(1 / paper)
        for k, span in enumerate(spans, start=len(J) - len(spans)):
            for sheet, slope in zip(span.sheets, span.miss(layout.places(p))[1], strict=True):
                if sheet:
                    at = layout.sheets_at + SHEET * (sheet - 1)
                    J[k, at : at + SHEET] = slope
        return J

    expected, paper = paper, np.full_like(paper, _FLAT_MM)
    layout = replace(layout, soft_mm=SOFT_MM[0])
    fit = scipy.optimize.least_squares(
        residuals, start, jac=jacobian, loss="soft_l1", f_scale=10.0, x_scale="jac", max_nfev=20
    )
    paper = expected
    for soft in SOFT_MM:
        layout = replace(layout, soft_mm=soft)
        fit = scipy.optimize.least_squares(
            residuals, fit.x, method="lm", jac=jacobian, x_scale="jac", ftol=1e-6, max_nfev=30
        )
    bent = float(np.sqrt(((fit.x[shapes] / expected) ** 2).mean()))
    paper = expected * float(np.clip(_AS_FLAT * bent, _FLATTEST, 1))
    return scipy.optimize.least_squares(
        residuals, fit.x, method="lm", jac=jacobian, x_scale="jac", ftol=1e-6, max_nfev=30
    )


def from_other_focals(layout: Layout, expectations: Sequence[Expectation]) -> Iterator[scipy.optimize.OptimizeResult]:
    """The adjustments that begin with other focal lengths: from one far off, lens and paper may bend to what isn't so."""
    for times in OTHER_FOCALS:
        begun = [replace(e, mean=e.mean + np.log(times) * _ONLY_FOCAL) for e in expectations]
        with suppress(Refusal):
            yield adjust(layout, expectations, first_guess(layout, begun))


def first_guess(layout: Layout, expectations: Sequence[Expectation]) -> Array:
    """Cameras as expected; photo by photo, its place from sheets already laid, then the sheets that it adds.

    Raises Refusal where photos share no sheet, or a sheet's corners fit no view of it."""
    p = np.zeros(layout.unknowns)
    for k, e in enumerate(expectations):
        p[CAMERA * k :][:CAMERA] = e.mean
    placed_sheets: set[int] = {0}
    waiting = set(range(len(layout.sizes)))
    while waiting:
        sights = {
            k: sum(len(s.px) for s in layout.sights if s.photo == k and s.sheet in placed_sheets)
            for k in sorted(waiting)
        }
        photo = max(sights, key=lambda k: sights[k])
        if not sights[photo]:
            apart = ", ".join(str(k + 1) for k in sorted(waiting))
            raise Refusal(message("photo_shares_no_sheet", apart=apart), "photos_apart")
        own = [s for s in layout.sights if s.photo == photo]
        _place_photo(layout, p, photo, [s for s in own if s.sheet in placed_sheets])
        view = layout.view(p, photo)
        for s in own:
            if s.sheet not in placed_sheets:
                p[layout.sheets_at + SHEET * (s.sheet - 1) :][:SHEET] = laid_by(view, s.board, s.px)
                placed_sheets.add(s.sheet)
        waiting.remove(photo)
    return p


def _place_photo(layout: Layout, p: Array, photo: int, sights: Sequence[Sight]) -> None:
    camera = layout.view(p, photo).camera
    K = np.array([[camera.focal_px, 0, camera.centre_px[0]], [0, camera.focal_px, camera.centre_px[1]], [0, 0, 1]])
    lens = np.array([*camera.radial[:2], *camera.decentring, camera.radial[2]])
    flat = layout.on_table(p, sights) * [1, 1, 0]
    ok, turn, shift = cv2.solvePnP(flat, np.vstack([s.px for s in sights]), K, lens, flags=cv2.SOLVEPNP_IPPE)
    if not ok:
        raise Refusal(message("sheet_fits_no_view"), "no_sheet")
    p[layout.places_at + PLACE * photo :][:FOCUS] = [*turn.ravel(), *shift.ravel()]


def laid_by(view: View, board: Array, px: Array) -> Array:
    """A sheet's x, y, turn on the table by where a photo shows its corners."""
    on_table = view.to_table(px)
    a, b = board - board.mean(axis=0), on_table - on_table.mean(axis=0)
    angle = float(np.arctan2((a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]).sum(), (a * b).sum()))
    shift = on_table.mean(axis=0) - matrix_of((0, 0, angle))[:2, :2] @ board.mean(axis=0)
    return np.array([*shift, angle])
