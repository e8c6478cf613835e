"""Cameras, phones, and photos that are kept as they are."""

from __future__ import annotations

import datetime
import io

import segno
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import File, Form, Router, Schema, Status
from ninja.files import UploadedFile
from PIL import Image

from ypsicline.core.capture.sheets import make_sheets
from ypsicline.core.formats.camera_json import read_camera_json
from ypsicline.core.formats.message_json import from_json
from ypsicline.core.formats.raster import rasterise_page
from ypsicline.core.formats.sheets_pdf import sheets_pdf
from ypsicline.core.messages import message
from ypsicline.core.wording import render
from ypsicline.server.api.access import job_of, workshop_of
from ypsicline.server.api.photos import WantedIn, jpeg_of, read_files, wanted
from ypsicline.server.devices.phones import MOST_PHOTOS, end_links, job_of_token, new_link, sending
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Camera, KeptPhoto
from ypsicline.server.jobs.sweep import sweep_soon
from ypsicline.server.photos import photos
from ypsicline.server.photos.cameras import WORK, take_camera_in
from ypsicline.server.photos.kept import keep_photos, mark_parts
from ypsicline.server.views.job import PhotoView, photo_view

router = Router()


class CameraView(Schema):
    """A calibrated camera; `quality` says in words how well it is known."""

    id: int
    name: str
    size: str
    status: str
    stage: str
    share: float
    sentence: str
    quality: str
    at: datetime.datetime


class PartIn(Schema):
    """A place on a photo, as shares of its width and height from the upper left, and what is there."""

    x: float
    y: float
    text: str


class KeptIn(Schema):
    note: str
    parts: list[PartIn]


class KeptView(KeptIn):
    id: int
    name: str
    width: int
    height: int


class PhoneView(Schema):
    """The address for the phone, its picture as an SVG, and until when it works."""

    url: str
    picture: str
    until: datetime.datetime
    photos: int


class PhoneJob(Schema):
    """What a phone may know of the job it sends photos to."""

    name: str
    photos: list[PhotoView]


@router.get("/cameras", response=list[CameraView], operation_id="cameras")
def cameras(request: HttpRequest) -> list[CameraView]:
    """The cameras of the workshop that were calibrated, or are being."""
    return [_camera(c) for c in workshop_of(request).cameras.order_by("-pk")]


@router.post("/cameras", response=CameraView, operation_id="calibrate_camera")
def calibrate(request: HttpRequest, photo: File[list[UploadedFile]]) -> CameraView:
    """Photos of the sheets, or of one on a screen, from several sides by one camera."""
    return _camera(take_camera_in(workshop_of(request), read_files(photo)))


@router.post("/cameras/{camera_id}/stop", response=list[CameraView], operation_id="stop_camera")
def stop(request: HttpRequest, camera_id: int) -> list[CameraView]:
    """Stop calibrating a camera; what is done of it counts no more."""
    WORK.stop(get_object_or_404(Camera, pk=camera_id, workshop=workshop_of(request)))
    return cameras(request)


@router.delete("/cameras/{camera_id}", response=list[CameraView], operation_id="forget_camera")
def forget(request: HttpRequest, camera_id: int) -> list[CameraView]:
    """Forget a camera; photos that were measured by it stay as they are."""
    get_object_or_404(Camera, pk=camera_id, workshop=workshop_of(request)).delete()
    sweep_soon.enqueue()
    return cameras(request)


def _camera(camera: Camera) -> CameraView:
    quality = ""
    if camera.profile:
        profile = read_camera_json(camera.profile.encode())
        doubt = 100 * profile.covariance[0][0] ** 0.5
        quality = render(message("camera_known", percent=doubt, residual_px=profile.residual_px, photos=profile.photos))
    return CameraView(
        id=camera.pk, name=camera.name or render(message("camera_without_name")), size=f"{camera.width} × {camera.height}",
        status=camera.status, stage=render(from_json(camera.stage)), share=camera.share,
        sentence=render(from_json(camera.sentence)), quality=quality, at=camera.at,
    )  # fmt: skip


@router.get("/board.png", operation_id="board", include_in_schema=False)
def board(request: HttpRequest) -> HttpResponse:
    """One reference sheet as a picture, to be shown on a screen: which is flat."""
    out = io.BytesIO()
    Image.fromarray(rasterise_page(sheets_pdf(make_sheets("a4", 1)))).save(out, "PNG")
    return HttpResponse(out.getvalue(), content_type="image/png")


@router.get("/jobs/{job_id}/kept-photos", response=list[KeptView], operation_id="kept_photos")
def kept_photos(request: HttpRequest, job_id: int) -> list[KeptView]:
    """Photos kept with a job as they are, with the numbered places on them."""
    return [_kept_view(p) for p in job_of(request, job_id).kept_photos.order_by("pk")]


@router.post("/jobs/{job_id}/kept-photos", response=list[KeptView], operation_id="keep_photos")
def keep(request: HttpRequest, job_id: int, photo: File[list[UploadedFile]]) -> list[KeptView]:
    """Keep photos with a job as they are, of the dismantling for instance."""
    keep_photos(job_of(request, job_id), read_files(photo))
    return kept_photos(request, job_id)


@router.put("/kept-photos/{photo_id}", response=KeptView, operation_id="mark_parts")
def mark(request: HttpRequest, photo_id: int, body: KeptIn) -> KeptView:
    """Write a note on a kept photo and number places on it."""
    photo = _kept_photo(request, photo_id)
    return _kept_view(mark_parts(photo, body.note, [(p.x, p.y, p.text) for p in body.parts]))


@router.delete("/kept-photos/{photo_id}", response=list[KeptView], operation_id="drop_photo")
def drop(request: HttpRequest, photo_id: int) -> list[KeptView]:
    """Take a kept photo off the job, and off the disk."""
    photo = _kept_photo(request, photo_id)
    job_id = photo.job_id
    photo.delete()
    sweep_soon.enqueue()
    return kept_photos(request, job_id)


@router.get("/kept-photos/{photo_id}/preview.jpg", operation_id="kept_preview", include_in_schema=False)
def kept_preview(request: HttpRequest, photo_id: int) -> HttpResponse:
    return jpeg_of(_kept_photo(request, photo_id).preview)


def _kept_photo(request: HttpRequest, photo_id: int) -> KeptPhoto:
    return get_object_or_404(KeptPhoto, pk=photo_id, job__workshop__members=request.user.pk)


def _kept_view(photo: KeptPhoto) -> KeptView:
    parts = [PartIn(x=x, y=y, text=text) for x, y, text in photo.parts]
    return KeptView(id=photo.pk, name=photo.name, width=photo.width, height=photo.height, note=photo.note, parts=parts)


@router.post("/jobs/{job_id}/phone", response=PhoneView, operation_id="link_phone")
def link_phone(request: HttpRequest, job_id: int) -> PhoneView:
    """An address, as a picture too, by which a phone sends photos to this job for a while."""
    url, until = new_link(job_of(request, job_id))
    return PhoneView(
        url=url, picture=segno.make(url, error="m").svg_data_uri(scale=6, border=3), until=until, photos=MOST_PHOTOS
    )


@router.delete("/jobs/{job_id}/phone", response={204: None}, operation_id="unlink_phones")
def unlink_phones(request: HttpRequest, job_id: int) -> Status[None]:
    """No phone's link to this job serves any more."""
    end_links(job_of(request, job_id))
    return Status(204, None)


@router.get("/phone/{token}", response=PhoneJob, operation_id="phone_job", auth=None)
def phone_job(request: HttpRequest, token: str) -> PhoneJob:
    """The job that a phone sends photos to, by its link."""
    job = job_of_token(token)
    unit = history.current(job).unit
    photos = job.photos.filter(leader=None).order_by("-pk").prefetch_related("followers")[:6]
    return PhoneJob(name=history.current(job).name, photos=[photo_view(p, unit) for p in photos])


@router.post("/phone/{token}/photos", response=PhotoView, operation_id="send_from_phone", auth=None)
def send_from_phone(
    request: HttpRequest, token: str, photo: File[list[UploadedFile]], how: Form[WantedIn]
) -> PhotoView:
    """Take photos from a phone in, to be measured together."""
    with sending(token, len(photo)) as job:
        unit = history.current(job).unit
        return photo_view(photos.take_photos_in(job, read_files(photo), wanted(how, unit)), unit)


@router.get(
    "/phone/{token}/photos/{photo_id}/preview.jpg", operation_id="phone_preview", include_in_schema=False, auth=None
)
def phone_preview(request: HttpRequest, token: str, photo_id: int) -> HttpResponse:
    photo = get_object_or_404(job_of_token(token).photos, pk=photo_id)
    return jpeg_of(photo.preview)
