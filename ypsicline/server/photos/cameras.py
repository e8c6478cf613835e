"""The workshop's cameras: calibrated in the background, and found again by what a photo says of its camera."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction
from django_tasks import task

from ypsicline.core.capture.calibrate import calibrate
from ypsicline.core.capture.photo import Photo as ReadPhoto
from ypsicline.core.capture.photo import read_photo
from ypsicline.core.capture.profile import CameraProfile
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.camera_json import camera_json, read_camera_json
from ypsicline.core.messages import message
from ypsicline.server import files
from ypsicline.server.jobs.models import Camera, Workshop
from ypsicline.server.photos.intake import store_photos
from ypsicline.server.work.kind import End, Tell, WorkKind

__all__ = ["WORK", "calibrate_camera", "profile_of", "take_camera_in"]

MOST_PHOTOS = 12
_SAME_FOCAL = 0.01
STATUS = Camera.Status


def take_camera_in(workshop: Workshop, photos: Sequence[tuple[str, bytes]]) -> Camera:
    """Check and keep photos of the sheets, to calibrate their camera by."""
    if not 1 <= len(photos) <= MOST_PHOTOS:
        raise Refusal(message("calibration_photos_out_of_range", most_photos=MOST_PHOTOS, count=len(photos)), "camera")
    kept_photos = store_photos(workshop.pk, photos, with_preview=False)
    first = kept_photos[0]
    with transaction.atomic():
        camera = Camera.objects.create(
            workshop=workshop, files=[p.file for p in kept_photos], name=first.camera, width=first.width, height=first.height,
            focal_px=first.focal_px,
        )  # fmt: skip
        WORK.queue(camera)
    return camera


@task()
def calibrate_camera(camera_id: int) -> None:
    """Work the camera's profile out; an earlier one of the same camera gives way to it."""
    WORK.carry_out(camera_id, _calibrated)


WORK = WorkKind(
    Camera, calibrate_camera, failure=message("calibrating_failed"), broken_off=message("calibrating_broken_off")
)


def _calibrated(camera: Camera, tell: Tell) -> End:
    photos = []
    for k, file in enumerate(camera.files):
        tell(message("stage_reading_photo"), 0.3 * k / len(camera.files))
        photos.append(read_photo(files.path_of(file).read_bytes()))
    profile = calibrate(photos, progress=lambda stage, share: tell(stage, 0.3 + 0.7 * share))
    camera.profile = camera_json(profile).decode()
    return End(STATUS.DONE, store=lambda: camera.save(update_fields=["profile"]))


def profile_of(workshop_id: int, photo: ReadPhoto) -> CameraProfile | None:
    """The newest profile of the camera that took a photo: same make, model, picture size and focal length."""
    if not photo.camera:
        return None
    size = {photo.width, photo.height}
    for camera in Camera.objects.filter(workshop=workshop_id, status=STATUS.DONE, name=photo.camera).order_by("-pk"):
        if {camera.width, camera.height} == size and _same_focal(camera.focal_px, photo.focal_px):
            return read_camera_json(camera.profile.encode())
    return None


def _same_focal(one: float | None, two: float | None) -> bool:
    if one is None or two is None:
        return one is two
    return abs(one / two - 1) < _SAME_FOCAL
