"""A camera with lens distortion, looking at a flat table.

The lens is Brown's model ("Decentering distortion of lenses", Photogrammetric Engineering
32(3), 1966): radial k1, k2, k3 and decentring p1, p2. Pixels are counted from the centre of
the upper left one, x right, y down. The table's frame is in mm, x right, y up, and z towards
the camera.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
import scipy

from ypsicline.core.geometry.edges import Array

__all__ = ["Camera", "View"]

_WIDEST = 2.0


@dataclass(frozen=True)
class Camera:
    focal_px: float
    centre_px: tuple[float, float]
    radial: tuple[float, float, float] = (0.0, 0.0, 0.0)
    decentring: tuple[float, float] = (0.0, 0.0)

    @staticmethod
    def through_lens(x: Array, y: Array, radial: Sequence[Any], decentring: Sequence[Any]) -> tuple[Array, Array]:
        """From the ideal image plane (x/z, y/z) to the distorted one; coefficients are numbers or arrays like x."""
        k1, k2, k3 = radial
        p1, p2 = decentring
        r2 = x * x + y * y
        stretch = 1 + r2 * (k1 + r2 * (k2 + r2 * k3))
        return (
            x * stretch + 2 * p1 * x * y + p2 * (r2 + 2 * x * x),
            y * stretch + p1 * (r2 + 2 * y * y) + 2 * p2 * x * y,
        )

    def widest(self, width: int, height: int) -> float:
        """The largest ideal radius √(x² + y²)/z that a picture of this size shows.

        Beyond it the lens's polynomial turns back or leaves the picture: what it says there is not seen.
        """
        farthest = max(
            float(np.hypot(x - self.centre_px[0], y - self.centre_px[1])) for x in (0, width) for y in (0, height)
        )
        r = np.linspace(0, _WIDEST, 401)
        seen_at, _ = self.distort(r, np.zeros_like(r))
        ends = np.flatnonzero((np.diff(seen_at) <= 0) | (seen_at[1:] * self.focal_px > 1.02 * farthest))
        return float(r[ends[0]]) if len(ends) else _WIDEST

    def distort(self, x: Array, y: Array) -> tuple[Array, Array]:
        return self.through_lens(x, y, self.radial, self.decentring)


@dataclass(frozen=True)
class View:
    """A camera placed over the table: camera coordinates = R(`turn`) · table + `shift` (x right, y down, z ahead)."""

    camera: Camera
    turn: tuple[float, float, float]
    shift: tuple[float, float, float]

    @property
    def rotation(self) -> Array:
        return np.asarray(scipy.spatial.transform.Rotation.from_rotvec(self.turn).as_matrix())

    def to_pixels(self, table_mm: Array) -> Array:
        """Pixels (n, 2) of points (n, 2) or (n, 3) on or above the table."""
        R = self.rotation
        p = table_mm @ R[:, : table_mm.shape[1]].T + np.asarray(self.shift)
        x, y = self.camera.distort(p[:, 0] / p[:, 2], p[:, 1] / p[:, 2])
        return np.column_stack([x, y]) * self.camera.focal_px + np.asarray(self.camera.centre_px)

    def ideal_radius(self, table_mm: Array) -> Array:
        """√(x² + y²)/z (n,) of points (n, 3), without the lens; infinite behind the camera."""
        p = table_mm @ self.rotation.T + np.asarray(self.shift)
        return np.where(p[:, 2] > 0, np.hypot(p[:, 0], p[:, 1]) / np.maximum(p[:, 2], 1e-9), np.inf)

    def to_table(self, pixels: Array, height_mm: float = 0.0) -> Array:
        """Points (n, 2) at `height_mm` over the table that are seen at `pixels` (n, 2); the inverse of `to_pixels`."""
        cam = self.camera
        d = (np.asarray(pixels, dtype=float) - np.asarray(cam.centre_px)) / cam.focal_px
        x, y = d[:, 0].copy(), d[:, 1].copy()
        for _ in range(20):
            dx, dy = cam.distort(x, y)
            # a lens that is only known near the middle may have no inverse at the picture's rim
            x = np.clip(x + (d[:, 0] - dx), -_WIDEST, _WIDEST)
            y = np.clip(y + (d[:, 1] - dy), -_WIDEST, _WIDEST)
        R, t = self.rotation, np.asarray(self.shift)
        rays = np.column_stack([x, y, np.ones_like(x)]) @ R
        eye = -R.T @ t
        reach = (height_mm - eye[2]) / rays[:, 2]
        return np.asarray(eye[:2] + rays[:, :2] * reach[:, None])

    @property
    def eye_mm(self) -> Array:
        """Where the camera is, in the table's frame."""
        return np.asarray(-self.rotation.T @ np.asarray(self.shift))

    def px_per_mm(self, at: Array) -> float:
        """How large a millimetre of the table at `at` (2,) is seen, as the root of its area."""
        seen = self.to_pixels(np.array([at, at + [1, 0], at + [0, 1]]))
        return float(np.sqrt(abs(np.linalg.det(seen[1:] - seen[0]))))

    @property
    def tilt_deg(self) -> float:
        """The angle between the optical axis and straight down."""
        return float(np.degrees(np.arccos(np.clip(-self.rotation[2, 2], -1, 1))))

    def moved(self, angle: float, origin: Array) -> View:
        """The same view with the table's frame turned by `angle` and its origin moved to `origin` (old frame, mm)."""
        back = scipy.spatial.transform.Rotation.from_euler("z", angle).as_matrix()
        R = self.rotation
        shift = np.asarray(self.shift) + R @ np.array([origin[0], origin[1], 0.0])
        turn = scipy.spatial.transform.Rotation.from_matrix(R @ back).as_rotvec()
        a, b, c = map(float, turn)
        x, y, z = map(float, shift)
        return replace(self, turn=(a, b, c), shift=(x, y, z))
