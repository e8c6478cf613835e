"""Camera, lens and table from the corners of loose sheets: one adjustment of everything at once.

Unknown are the camera (focal length, centre, five lens coefficients), its place over the
table, where each sheet lies on the table (position and turn), and how much each sheet bows.
Known are the squares' sizes and that the sheets lie on one table. What one photograph leaves
in doubt is held by weak expectations of ordinary cameras and of paper; the covariance of the
solution tells how far each point of the table may be off.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from scipy.optimize import least_squares
from scipy.spatial.transform import Rotation

from ypsicline.core.capture.camera import Camera, View
from ypsicline.core.capture.detect import SeenSheet
from ypsicline.core.errors import Refused
from ypsicline.core.geometry.edges import Array

__all__ = ["Placement", "Solved", "solve"]

TILT_AT_MOST_DEG = 50.0
CORNER_SIGMA_PX = 0.05
_CAMERA, _PLACE = 8, 6
# expectations (one standard deviation): log focal length without and with EXIF, centre as a share
# of the width, k1 k2 k3, p1 p2, and a sheet's bow in mm
_SIGMA_FOCAL, _SIGMA_FOCAL_EXIF, _SIGMA_CENTRE = 0.35, 0.05, 0.01
_SIGMA_RADIAL, _SIGMA_DECENTRING, _SIGMA_BOW = (0.2, 0.2, 0.1), 5e-4, 0.4
_USUAL_FOCAL = 0.85


@dataclass(frozen=True)
class Placement:
    """A sheet on the table: table = R(`turn`) · sheet + (`x`, `y`)."""

    sheet_id: str
    x: float
    y: float
    turn: float

    def matrix(self) -> Array:
        c, s = np.cos(self.turn), np.sin(self.turn)
        return np.array([[c, -s, self.x], [s, c, self.y], [0, 0, 1.0]])


@dataclass(frozen=True)
class Solved:
    """The view, where the sheets lie, and how sure that is.

    `residual_px` is the root mean square of the corners' misses. `doubt(points)` gives one
    standard deviation of each table point (n, 2), as x and y in mm (n, 2, 2 covariance).
    """

    view: View
    placements: tuple[Placement, ...]
    bows_mm: tuple[float, ...]
    residual_px: float
    _layout: _Layout
    _parameters: Array
    _covariance: Array

    def doubt(self, points: Array) -> Array:
        """Covariances (n, 2, 2) in mm² of where table points, held fast in the photo, come to lie.

        What a shift or a turn of the whole table does is taken out: it moves the outline, it
        doesn't change its shape.
        """
        pixels = self.view.to_pixels(points)
        count = _CAMERA + _PLACE
        steps = np.sqrt(np.diag(self._covariance)[:count]) * 1e-2 + 1e-9
        moves = np.empty((count, len(points), 2))
        for k in range(count):
            up, down = self._parameters.copy(), self._parameters.copy()
            up[k] += steps[k]
            down[k] -= steps[k]
            moves[k] = (self._layout.view(up).to_table(pixels) - self._layout.view(down).to_table(pixels)) / (
                2 * steps[k]
            )
        centred = points - points.mean(axis=0)
        spun = np.column_stack([-centred[:, 1], centred[:, 0]])
        moves -= moves.mean(axis=1, keepdims=True)
        angle = (moves * spun).sum(axis=(1, 2)) / (spun**2).sum()
        moves -= angle[:, None, None] * spun
        C = self._covariance[:count, :count]
        return np.asarray(np.einsum("kni,kl,lnj->nij", moves, C, moves))


@dataclass(frozen=True)
class _Layout:
    """How the unknowns lie in one vector: camera, place, then for each sheet but the first x, y, turn; then bows."""

    width: int
    height: int
    sheets: int

    def view(self, p: Array) -> View:
        scale = float(max(self.width, self.height))
        centre = ((self.width - 1) / 2 + p[1] * scale, (self.height - 1) / 2 + p[2] * scale)
        camera = Camera(
            float(np.exp(p[0])) * scale,
            (float(centre[0]), float(centre[1])),
            (float(p[3]), float(p[4]), float(p[5])),
            (float(p[6]), float(p[7])),
        )
        turn, shift = p[_CAMERA : _CAMERA + 3], p[_CAMERA + 3 : _CAMERA + 6]
        return View(camera, tuple(map(float, turn)), tuple(map(float, shift)))  # type: ignore[arg-type]

    def place(self, p: Array, k: int) -> tuple[float, float, float]:
        if k == 0:
            return 0.0, 0.0, 0.0
        start = _CAMERA + _PLACE + 3 * (k - 1)
        return float(p[start]), float(p[start + 1]), float(p[start + 2])

    @property
    def bows_at(self) -> int:
        return _CAMERA + _PLACE + 3 * (self.sheets - 1)

    @property
    def unknowns(self) -> int:
        return self.bows_at + 2 * self.sheets


def solve(
    seen: Sequence[SeenSheet],
    width: int,
    height: int,
    *,
    focal_px: float | None = None,
    print_scale: tuple[float, float] = (1.0, 1.0),
) -> Solved:
    """Adjust camera, lens, table and sheets to the corners seen in one photo of `width` × `height` px.

    `print_scale` is how large the sheets came out of the printer, per axis (measured ÷ nominal).
    The table's frame is that of the first sheet. Raises `Refused`: `too_oblique` beyond 50° of
    tilt, `sheets_disagree` where no flat table explains what is seen.
    """
    layout = _Layout(width, height, len(seen))
    scale = float(max(width, height))
    boards = [s.corners_mm * np.asarray(print_scale) for s in seen]
    centres = [np.asarray(s.sheet.size_mm) * np.asarray(print_scale) / 2 for s in seen]
    observed = np.vstack([s.corners_px for s in seen])
    expected = np.zeros(layout.unknowns)
    expected[0] = np.log((focal_px or _USUAL_FOCAL * scale) / scale)
    sigma = np.full(layout.unknowns, np.inf)
    sigma[:_CAMERA] = [
        _SIGMA_FOCAL_EXIF if focal_px else _SIGMA_FOCAL,
        _SIGMA_CENTRE, _SIGMA_CENTRE, *_SIGMA_RADIAL, _SIGMA_DECENTRING, _SIGMA_DECENTRING,
    ]  # fmt: skip
    sigma[layout.bows_at :] = _SIGMA_BOW
    start = _first_guess(layout, seen, boards, expected)

    def residuals(p: Array) -> Array:
        view = layout.view(p)
        points = np.vstack([_on_table(layout, p, k, boards[k], centres[k]) for k in range(len(seen))])
        misses = (view.to_pixels(points) - observed) / CORNER_SIGMA_PX
        return np.concatenate([misses.ravel(), (p - expected) / sigma])

    rough = least_squares(residuals, start, method="trf", x_scale="jac", loss="soft_l1", f_scale=10.0, max_nfev=60)
    fit = least_squares(residuals, rough.x, method="trf", x_scale="jac", max_nfev=60)
    misses = fit.fun[: observed.size] * CORNER_SIGMA_PX
    residual_px = float(np.sqrt((misses**2).mean() * 2))
    view = layout.view(fit.x)
    tilt = view.tilt_deg
    if tilt > TILT_AT_MOST_DEG:
        raise Refused(
            f"The photo was taken too obliquely, {tilt:.0f}° from straight above; {TILT_AT_MOST_DEG:.0f}° is the most. "
            "Hold the camera over the middle of the piece and look straight down.",
            "too_oblique", numbers={"tilt_deg": tilt},
        )  # fmt: skip
    if residual_px > max(3.0, 0.08 * min(s.square_px for s in seen)):
        raise Refused(
            f"The sheets don't lie on one flat table: their corners miss by {residual_px:.1f} pixels. "
            "Press curled sheets flat, and lay all of them on the surface that the piece lies on.",
            "sheets_disagree", numbers={"residual_px": residual_px},
        )  # fmt: skip
    spread = max(1.0, residual_px / np.sqrt(2) / CORNER_SIGMA_PX) ** 2
    covariance = np.linalg.pinv(fit.jac.T @ fit.jac) * spread
    placements = tuple(Placement(s.sheet.id, *layout.place(fit.x, k)) for k, s in enumerate(seen))
    bows = tuple(float(b) for b in np.abs(fit.x[layout.bows_at :]).reshape(-1, 2).max(axis=1))
    return Solved(view, placements, bows, residual_px, layout, fit.x, covariance)


def _on_table(layout: _Layout, p: Array, k: int, board: Array, centre: Array) -> Array:
    """A sheet's corners on the table (n, 3): placed, and lifted by its bow, a parabola along each side."""
    x, y, turn = layout.place(p, k)
    c, s = np.cos(turn), np.sin(turn)
    bow_x, bow_y = p[layout.bows_at + 2 * k : layout.bows_at + 2 * k + 2]
    u = (board - centre) / centre
    lift = bow_x * (1 - u[:, 0] ** 2) + bow_y * (1 - u[:, 1] ** 2)
    return np.column_stack([c * board[:, 0] - s * board[:, 1] + x, s * board[:, 0] + c * board[:, 1] + y, lift])


def _first_guess(layout: _Layout, seen: Sequence[SeenSheet], boards: list[Array], expected: Array) -> Array:
    """A camera without distortion over the largest sheet, and every sheet placed by it."""
    p = expected.copy()
    view = layout.view(p)
    K = np.array(
        [
            [view.camera.focal_px, 0, view.camera.centre_px[0]],
            [0, view.camera.focal_px, view.camera.centre_px[1]],
            [0, 0, 1],
        ]
    )
    flat = np.column_stack([boards[0], np.zeros(len(boards[0]))])
    ok, turn, shift = cv2.solvePnP(flat, seen[0].corners_px, K, None, flags=cv2.SOLVEPNP_IPPE)
    if not ok:
        raise Refused("The sheet can't be measured: its corners fit no view of a flat sheet.", "no_sheet")
    p[_CAMERA : _CAMERA + 3] = turn.ravel()
    p[_CAMERA + 3 : _CAMERA + 6] = shift.ravel()
    view = layout.view(p)
    for k in range(1, len(seen)):
        on_table = view.to_table(seen[k].corners_px)
        a, b = boards[k] - boards[k].mean(axis=0), on_table - on_table.mean(axis=0)
        angle = float(np.arctan2((a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]).sum(), (a * b).sum()))
        R = Rotation.from_euler("z", angle).as_matrix()[:2, :2]
        x, y = on_table.mean(axis=0) - R @ boards[k].mean(axis=0)
        start = _CAMERA + _PLACE + 3 * (k - 1)
        p[start : start + 3] = x, y, angle
    return p
