"""Calibrating a camera once, so that single photos of it leave less in doubt."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from ypsicline.core.capture.layout import CAMERA
from ypsicline.core.capture.photo import Photo
from ypsicline.core.capture.profile import CameraProfile
from ypsicline.core.capture.scene import Progress, read_scene
from ypsicline.core.capture.sheets import Sheet
from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message

__all__ = ["calibrate"]

LEAST_PHOTOS = 3
FOCAL_IN_DOUBT = 0.01
LEAST_SPREAD_DEG = 15.0


def calibrate(
    photos: Sequence[Photo],
    known_sheets: tuple[Sheet, ...] | None = None,
    *,
    progress: Progress = lambda _stage, _share: None,
) -> CameraProfile:
    """The profile of the camera that took these photos of reference sheets from several sides.

    The sheets' size doesn't matter, only that they are flat: one on a screen will do. Raises
    `Refusal` (reason `camera`) for fewer than three photos, photos of different cameras, sizes or
    focal lengths, photos all from one side, and a focal length left in doubt by over 1 %; and
    whatever `read_scene` refuses.
    """
    if len(photos) < LEAST_PHOTOS:
        raise Refusal(message("calibration_needs_photos", least_photos=LEAST_PHOTOS, count=len(photos)), "camera")
    if len({(p.camera, max(p.width, p.height), min(p.width, p.height)) for p in photos}) > 1:
        raise Refusal(message("calibration_of_several_cameras"), "camera")
    if len({p.width for p in photos}) > 1:
        raise Refusal(message("calibration_held_two_ways"), "camera")
    first = photos[0]
    same = [replace(p, camera=first.camera or "one camera", focal_px=first.focal_px) for p in photos]
    scene = read_scene(same, known_sheets=known_sheets, progress=progress)
    axes = np.array([v.rotation[2] for v in scene.solution.views])
    spread = float(np.degrees(np.arccos(np.clip((axes @ axes.T).min(), -1, 1))))
    if spread < LEAST_SPREAD_DEG:
        raise Refusal(
            message("calibration_from_one_side", spread=spread),
            "camera", numbers={"spread_deg": spread},
        )  # fmt: skip
    numbers = scene.solution.parameters[:CAMERA]
    covariance = scene.solution.covariance[:CAMERA, :CAMERA]
    doubt = float(np.sqrt(covariance[0, 0]))
    if doubt > FOCAL_IN_DOUBT:
        raise Refusal(
            message("focal_length_in_doubt", percent=100 * doubt),
            "camera", numbers={"doubt": doubt},
        )  # fmt: skip
    return CameraProfile(
        first.camera, first.width, first.height, tuple(map(float, numbers)),
        tuple(tuple(map(float, row)) for row in covariance), scene.solution.residual_px, len(photos),
    )  # fmt: skip
