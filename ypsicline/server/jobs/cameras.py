"""The workshop's cameras: calibrated in the background, and found again by what a photo says of its camera."""

from __future__ import annotations

import logging
from collections.abc import Sequence

from django.db import transaction
from django_tasks import task

from ypsicline.core.capture.calibrate import calibrate
from ypsicline.core.capture.photo import Photo as ReadPhoto
from ypsicline.core.capture.photo import read_photo
from ypsicline.core.capture.profile import CameraProfile
from ypsicline.core.errors import Refused
from ypsicline.core.formats.camera_json import camera_json, read_camera_json
from ypsicline.core.formats.message_json import as_json
from ypsicline.core.messages import message
from ypsicline.server import files
from ypsicline.server.answers import is_full_disk, message_for
from ypsicline.server.jobs.intake import store_photos
from ypsicline.server.jobs.models import Camera, Photo, Workshop

__all__ = ["calibrate_camera", "give_up_unfinished", "profile_of", "take_camera_in"]

log = logging.getLogger("ypsicline.cameras")
MOST_PHOTOS = 12
_SAME_FOCAL = 0.01
STATUS = Photo.Status


def take_camera_in(workshop: Workshop, sent: Sequence[tuple[str, bytes]]) -> Camera:
    """Check and keep photos of the sheets, to calibrate their camera by."""
    if not 1 <= len(sent) <= MOST_PHOTOS:
        raise Refused(message("calibration_photos_out_of_range", most_photos=MOST_PHOTOS, count=len(sent)), "camera")
    stored = store_photos(workshop.pk, sent, with_preview=False)
    first = stored[0]
    with transaction.atomic():
        camera = Camera.objects.create(
            workshop=workshop, files=[p.file for p in stored], name=first.camera, width=first.width, height=first.height,
            focal_px=first.focal_px,
        )  # fmt: skip
        transaction.on_commit(lambda: calibrate_camera.enqueue(camera.pk))
    return camera


@task()
def calibrate_camera(camera_id: int) -> None:
    """Work the camera's profile out; an earlier one of the same camera gives way to it."""
    camera = Camera.objects.filter(pk=camera_id, status=STATUS.WAITING).first()
    if camera is None:
        return
    camera.status = STATUS.WORKING
    camera.save()
    try:
        profile = calibrate([read_photo(files.path_of(f).read_bytes()) for f in camera.files])
        camera.profile, camera.status = camera_json(profile).decode(), STATUS.DONE
    except Refused as e:
        camera.status, camera.sentence = STATUS.REFUSED, as_json(e.message)
    except Exception as e:
        log.exception("calibrating camera %s failed", camera_id)
        why = message_for(507) if is_full_disk(e) else message("calibrating_failed")
        camera.status, camera.sentence = STATUS.FAILED, as_json(why)
    camera.save()


def give_up_unfinished() -> None:
    """What a stopped worker left half done is given up with a reason, for its photos are quickly sent again; what waits
    without a task is queued. To be called while no worker runs."""
    sentence = as_json(message("calibrating_broken_off"))
    Camera.objects.filter(status=STATUS.WORKING).update(status=STATUS.FAILED, sentence=sentence)
    for camera in Camera.objects.filter(status=STATUS.WAITING):
        calibrate_camera.enqueue(camera.pk)


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
