"""A camera with lens distortion, looking at a flat table.

The lens is Brown's model ("Decentering distortion of lenses", Photogrammetric Engineering
32(3), 1966): radial k1, k2, k3 and decentring p1, p2. Pixels are counted from the centre of
the upper left one, x right, y down. The table's frame is in mm, x right, y up, and z towards
the camera.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from scipy.spatial.transform import Rotation

from ypsicline.core.geometry.edges import Array

__all__ = ["Camera", "View"]


@dataclass(frozen=True)
class Camera:
    focal_px: float
    centre_px: tuple[float, float]
    radial: tuple[float, float, float] = (0.0, 0.0, 0.0)
    decentring: tuple[float, float] = (0.0, 0.0)

    def distort(self, x: Array, y: Array) -> tuple[Array, Array]:
        """From the ideal image plane (x/z, y/z) to the distorted one."""
        k1, k2, k3 = self.radial
        p1, p2 = self.decentring
        r2 = x * x + y * y
        radial = 1 + r2 * (k1 + r2 * (k2 + r2 * k3))
        return (
            x * radial + 2 * p1 * x * y + p2 * (r2 + 2 * x * x),
            y * radial + p1 * (r2 + 2 * y * y) + 2 * p2 * x * y,
        )


@dataclass(frozen=True)
class View:
    """A camera placed over the table: camera coordinates = R(`turn`) · table + `shift` (x right, y down, z ahead)."""

    camera: Camera
    turn: tuple[float, float, float]
    shift: tuple[float, float, float]

    @property
    def rotation(self) -> Array:
        return np.asarray(Rotation.from_rotvec(self.turn).as_matrix())

    def to_pixels(self, table_mm: Array) -> Array:
        """Pixels (n, 2) of points (n, 2) or (n, 3) on or above the table."""
        R = self.rotation
        p = table_mm @ R[:, : table_mm.shape[1]].T + np.asarray(self.shift)
        x, y = self.camera.distort(p[:, 0] / p[:, 2], p[:, 1] / p[:, 2])
        return np.column_stack([x, y]) * self.camera.focal_px + np.asarray(self.camera.centre_px)

    def to_table(self, pixels: Array, height_mm: float = 0.0) -> Array:
        """Points (n, 2) at `height_mm` over the table that are seen at `pixels` (n, 2); the inverse of `to_pixels`."""
        cam = self.camera
        d = (np.asarray(pixels, dtype=float) - np.asarray(cam.centre_px)) / cam.focal_px
        x, y = d[:, 0].copy(), d[:, 1].copy()
        for _ in range(20):
            dx, dy = cam.distort(x, y)
            x, y = x + (d[:, 0] - dx), y + (d[:, 1] - dy)
        R, t = self.rotation, np.asarray(self.shift)
        rays = np.column_stack([x, y, np.ones_like(x)]) @ R
        eye = -R.T @ t
        reach = (height_mm - eye[2]) / rays[:, 2]
        return np.asarray(eye[:2] + rays[:, :2] * reach[:, None])

    @property
    def eye_mm(self) -> Array:
        """Where the camera is, in the table's frame."""
        return np.asarray(-self.rotation.T @ np.asarray(self.shift))

    @property
    def tilt_deg(self) -> float:
        """The angle between the optical axis and straight down."""
        return float(np.degrees(np.arccos(np.clip(-self.rotation[2, 2], -1, 1))))

    def moved(self, angle: float, origin: Array) -> View:
        """The same view with the table's frame turned by `angle` and its origin moved to `origin` (old frame, mm)."""
        back = Rotation.from_euler("z", angle).as_matrix()
        R = self.rotation
        shift = np.asarray(self.shift) + R @ np.array([origin[0], origin[1], 0.0])
        turn = Rotation.from_matrix(R @ back).as_rotvec()
        a, b, c = map(float, turn)
        x, y, z = map(float, shift)
        return replace(self, turn=(a, b, c), shift=(x, y, z))
