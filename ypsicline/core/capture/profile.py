"""What is expected of a camera before a photo is measured: an ordinary one, or one with a profile.

A profile is what calibration found of one camera at one setting, with its covariance, in the
eight numbers of `layout`; being shares of the picture's longer side they hold for any size that
the camera stores at the same shape.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ypsicline.core.capture.layout import CAMERA
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.messages import message

__all__ = ["CameraProfile", "Expectation", "expected_camera"]

# one standard deviation each: log focal length without and with EXIF, centre as a share of the longer side,
# k1 k2 k3, p1 p2
_SIGMA_FOCAL, _SIGMA_FOCAL_EXIF, _SIGMA_CENTRE = 0.35, 0.05, 0.01
_SIGMA_RADIAL, _SIGMA_DECENTRING = (0.2, 0.2, 0.1), 5e-4
_USUAL_FOCAL = 0.85
# by how much less a cropped photo's centre is held
_FREE_CENTRE = 0.03
# a phone focuses afresh: its focal length and centre aren't quite those of the calibration
_REFOCUS = np.array([3e-3, 1e-3, 1e-3, 2e-3, 4e-3, 4e-3, 5e-5, 5e-5])
_MOST_PX = 100_000
_DIRECTED = np.array([False, True, True, False, False, False, True, True])


@dataclass(frozen=True)
class CameraProfile:
    """A calibrated camera: `numbers` (8,) and their `covariance` (8, 8), found in photos of `width` × `height` px.

    `camera` is EXIF's make and model; `residual_px` and `photos` tell how well it was found.
    """

    camera: str
    width: int
    height: int
    numbers: tuple[float, ...]
    covariance: tuple[tuple[float, ...], ...]
    residual_px: float
    photos: int

    def __post_init__(self) -> None:
        C = np.asarray(self.covariance, dtype=float)
        if len(self.numbers) != CAMERA or C.shape != (CAMERA, CAMERA) or not np.isfinite(C).all():
            raise Refusal(message("profile_incomplete"), "camera")
        if not np.isfinite(self.numbers).all() or np.linalg.eigvalsh((C + C.T) / 2).min() < -1e-12:
            raise Refusal(message("profile_impossible"), "camera")
        if not (0 < self.width < _MOST_PX and 0 < self.height < _MOST_PX):
            raise Refusal(message("profile_impossible"), "camera")


@dataclass(frozen=True)
class Expectation:
    """The eight numbers expected, and the square root of their inverse covariance (8, 8)."""

    mean: Array
    root: Array

    def with_free_centre(self) -> Expectation:
        """The same of a photo that may have been cropped: its lens may look anywhere."""
        loose = np.ones(len(self.mean))
        loose[1:3] = _FREE_CENTRE
        return Expectation(self.mean, self.root * loose)


def expected_camera(
    width: int, height: int, focal_px: float | None = None, profile: CameraProfile | None = None
) -> Expectation:
    """What to expect of the camera of a photo of `width` × `height` px whose EXIF says `focal_px`.

    Raises `Refusal` where the photo's shape isn't that of the profile: it was cropped, or taken otherwise.
    """
    if profile:
        ratio, own = (
            max(width, height) / min(width, height),
            max(profile.width, profile.height) / min(profile.width, profile.height),
        )
        if abs(ratio / own - 1) > 0.01:
            raise Refusal(
                message(
                    "profile_of_other_photos",
                    profile_width=profile.width,
                    profile_height=profile.height,
                    width=width,
                    height=height,
                ),
                "camera",
            )
        mean = np.asarray(profile.numbers, dtype=float)
        C = np.asarray(profile.covariance, dtype=float) + np.diag(_REFOCUS**2)
        if (width > height) != (profile.width > profile.height):
            # held upright instead of lying, one doesn't know which way: what has a direction isn't known
            C += np.diag(np.where(_DIRECTED, mean**2, 0))
            mean = np.where(_DIRECTED, 0, mean)
        root = np.linalg.cholesky(np.linalg.inv((C + C.T) / 2)).T
        return Expectation(mean, root)
    scale = float(max(width, height))
    mean = np.zeros(CAMERA)
    mean[0] = np.log((focal_px or _USUAL_FOCAL * scale) / scale)
    sigma = np.array(
        [
            _SIGMA_FOCAL_EXIF if focal_px else _SIGMA_FOCAL, _SIGMA_CENTRE, _SIGMA_CENTRE,
            *_SIGMA_RADIAL, _SIGMA_DECENTRING, _SIGMA_DECENTRING,
        ]
    )  # fmt: skip
    return Expectation(mean, np.diag(1 / sigma))
