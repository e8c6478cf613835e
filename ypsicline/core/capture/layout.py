"""How the unknowns of a capture lie in one vector, and what the photos should show for a given one.

The vector holds, in this order: eight numbers of every camera (log focal length and centre as
shares of the picture's longer side, k1 k2 k3, p1 p2), seven of every photo (turn, shift, and by
how much its log focal length differs from its camera's: a lens focuses afresh), three of every sheet but the first (x, y,
turn on the table), and of every sheet the sizes of the shapes that its paper has (`paper`).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
import scipy
from numpy.typing import NDArray

from ypsicline.core.capture import paper
from ypsicline.core.capture.camera import Camera, View
from ypsicline.core.geometry.edges import Array

__all__ = ["CAMERA", "Layout", "Sight", "lens_of"]

CAMERA, PLACE, SHEET = 8, 7, 3
FOCUS = 6
# steps of the numeric derivatives, in the vector's order
_CAMERA_STEP, _PLACE_STEP = (1e-6,) * CAMERA, (1e-6,) * 3 + (1e-3,) * 3 + (1e-6,)
_SHEET_STEP, _PAPER_STEP = (1e-3, 1e-3, 1e-6), (1e-3,) * paper.SHAPES


@dataclass(frozen=True)
class Sight:
    """A sheet in a photo: its corners (n, 2) as printed, mm, its middle, and where they are seen, px."""

    photo: int
    sheet: int
    board: Array
    centre: Array
    px: Array

    def enlarged(self, times: float) -> Sight:
        """The sight of a sheet that was printed so many times as large."""
        return replace(self, board=self.board * times, centre=self.centre * times)


def lens_of(camera: Camera, width: int, height: int) -> Array:
    """A camera's eight numbers, for a picture of `width` × `height` px."""
    scale = float(max(width, height))
    cx, cy = camera.centre_px
    return np.array(
        [
            np.log(camera.focal_px / scale), (cx - (width - 1) / 2) / scale, (cy - (height - 1) / 2) / scale,
            *camera.radial, *camera.decentring,
        ]
    )  # fmt: skip


@dataclass(frozen=True)
class _Corners:
    """Every corner of every sight: (n, 2) on its board, how each shape lifts it (n, shapes), and whose it is (n,)."""

    board: Array
    of_shapes: Array
    sheet: NDArray[np.intp]
    photo: NDArray[np.intp]
    camera: NDArray[np.intp]


@dataclass(frozen=True)
class Layout:
    """`sizes` are the photos' (width, height), `camera_of` the camera that took each; `sights` what they show.

    `soft_mm` is over how many mm a bow may turn from one side to the other.
    """

    sizes: tuple[tuple[int, int], ...]
    camera_of: tuple[int, ...]
    sheets: int
    sights: tuple[Sight, ...]
    soft_mm: float = 0.05

    @property
    def cameras(self) -> int:
        return max(self.camera_of) + 1

    @property
    def places_at(self) -> int:
        return CAMERA * self.cameras

    @property
    def sheets_at(self) -> int:
        return self.places_at + PLACE * len(self.sizes)

    @property
    def paper_at(self) -> int:
        return self.sheets_at + SHEET * (self.sheets - 1)

    @property
    def unknowns(self) -> int:
        return self.paper_at + paper.SHAPES * self.sheets

    @property
    def observations(self) -> Array:
        return np.vstack([s.px for s in self.sights])

    def view(self, p: Array, photo: int) -> View:
        width, height = self.sizes[photo]
        scale = float(max(width, height))
        lens = p[CAMERA * self.camera_of[photo] :][:CAMERA]
        centre = (float((width - 1) / 2 + lens[1] * scale), float((height - 1) / 2 + lens[2] * scale))
        place = p[self.places_at + PLACE * photo :][:PLACE]
        camera = Camera(
            float(np.exp(lens[0] + place[FOCUS]) * scale), centre, (float(lens[3]), float(lens[4]), float(lens[5])),
            (float(lens[6]), float(lens[7])),
        )  # fmt: skip
        a, b, c, x, y, z = map(float, place[:FOCUS])
        return View(camera, (a, b, c), (x, y, z))

    def own_unknowns(self, photo: int) -> Array:
        """Where in the vector the camera and the place of a photo stand."""
        camera, place = CAMERA * self.camera_of[photo], self.places_at + PLACE * photo
        return np.concatenate([np.arange(camera, camera + CAMERA), np.arange(place, place + PLACE)])

    def places(self, p: Array) -> Array:
        """Every sheet's x, y, turn (sheets, 3); the first lies at the origin."""
        others = _each(p[..., self.sheets_at : self.paper_at], SHEET)
        return np.concatenate([np.zeros((*p.shape[:-1], 1, SHEET)), others], axis=-2)

    @cached_property
    def _corners(self) -> _Corners:
        counts = [len(s.px) for s in self.sights]
        photo = np.repeat([s.photo for s in self.sights], counts)
        sheet = np.repeat([s.sheet for s in self.sights], counts)
        of_shapes = np.vstack([paper.shapes(*(s.board / s.centre / 2).T) for s in self.sights])
        return _Corners(
            np.vstack([s.board for s in self.sights]), of_shapes, sheet, photo, np.asarray(self.camera_of)[photo]
        )

    def project(self, p: Array) -> Array:
        """Where every corner of every sight should be seen (n, 2), px; of several vectors (k, unknowns) at once, (k, n, 2)."""
        all_of = self._corners
        lens = _each(p[..., : self.places_at], CAMERA)[..., all_of.camera, :]
        places = _each(p[..., self.places_at : self.sheets_at], PLACE)
        rotations = (
            scipy.spatial.transform.Rotation.from_rotvec(places[..., :3].reshape(-1, 3))
            .as_matrix()
            .reshape(*places.shape[:-1], 3, 3)
        )
        place = places[..., all_of.photo, :]
        at = np.einsum("...nij,...nj->...ni", rotations[..., all_of.photo, :, :], self._table(p)) + place[..., 3:FOCUS]
        k = np.moveaxis(lens, -1, 0)
        x, y = Camera.through_lens(at[..., 0] / at[..., 2], at[..., 1] / at[..., 2], (k[3], k[4], k[5]), (k[6], k[7]))
        size = np.asarray(self.sizes, dtype=float)[all_of.photo]
        scale = size.max(axis=1)
        focal = np.exp(k[0] + place[..., FOCUS]) * scale
        middle = (size - 1) / 2
        return np.stack([x * focal + middle[:, 0] + k[1] * scale, y * focal + middle[:, 1] + k[2] * scale], axis=-1)

    def on_table(self, p: Array, sights: Sequence[Sight]) -> Array:
        """The corners of some sights on the table and lifted as their paper is (n, 3), mm."""
        table = self._table(p)
        ends = np.cumsum([len(s.px) for s in self.sights])
        parts = dict(zip(map(id, self.sights), np.split(table, ends[:-1]), strict=True))
        return np.vstack([parts[id(s)] for s in sights])

    def lifts(self, p: Array) -> Array:
        """How far each sheet is lifted at most where its corners are seen (sheets,), mm."""
        height = self._table(p)[:, 2]
        return np.array([height[self._corners.sheet == k].max() for k in range(self.sheets)])

    def _table(self, p: Array) -> Array:
        all_of = self._corners
        places = self.places(p)[..., all_of.sheet, :]
        sizes = _each(p[..., self.paper_at :], paper.SHAPES)[..., all_of.sheet, :]
        lift = paper.lift(all_of.of_shapes, sizes, self.soft_mm)
        c, s = np.cos(places[..., 2]), np.sin(places[..., 2])
        bx, by = all_of.board.T
        return np.stack([c * bx - s * by + places[..., 0], s * bx + c * by + places[..., 1], lift], axis=-1)

    def jacobian(self, p: Array) -> Array:
        """The derivative of `project`, flattened (2n, unknowns), by forward differences.

        A number of one kind is moved for all cameras, photos or sheets at once: each corner
        depends on one of each only.
        """
        sheet, photo, camera = self._corners.sheet, self._corners.photo, self._corners.camera
        kinds = [
            (0, CAMERA, self.cameras, camera, _CAMERA_STEP),
            (self.places_at, PLACE, len(self.sizes), photo, _PLACE_STEP),
            (self.sheets_at, SHEET, self.sheets - 1, sheet - 1, _SHEET_STEP),
            (self.paper_at, paper.SHAPES, self.sheets, sheet, _PAPER_STEP),
        ]
        moves = [
            (start + k, start + each * count, each, owner, steps[k])
            for start, each, count, owner, steps in kinds
            for k in range(each if count else 0)
        ]
        parameters = np.tile(p, (len(moves) + 1, 1))
        for row, (start, stop, each, _, step) in zip(parameters[1:], moves, strict=True):
            row[start:stop:each] += step
        base, *projections = self.project(parameters)
        slopes = (np.array(projections) - base) / np.array([step for *_, step in moves])[:, None, None]
        owners = np.array([owner for *_, owner, _ in moves])
        columns = np.array([start for start, *_ in moves])[:, None] + np.array([m[2] for m in moves])[:, None] * owners
        move, corner = np.nonzero(owners >= 0)
        J = np.zeros((len(base), 2, self.unknowns))
        J[corner, :, columns[move, corner]] = slopes[move, corner]
        return J.reshape(-1, self.unknowns)


def _each(numbers: Array, size: int) -> Array:
    """The last axis in groups of `size` numbers."""
    return numbers.reshape(*numbers.shape[:-1], -1, size)


def matrix_of(place: Sequence[float] | Array) -> Array:
    """The 3 × 3 matrix from a sheet's frame to the table's."""
    x, y, turn = place
    M = np.eye(3)
    M[:2, :2] = scipy.spatial.transform.Rotation.from_euler("z", turn).as_matrix()[:2, :2]
    M[:2, 2] = x, y
    return M
