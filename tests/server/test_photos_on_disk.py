"""What of photos reaches the disk, and what leaves it again."""

from __future__ import annotations

import io
import os
import threading
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from django.core.management import call_command
from PIL import Image

from tests.core.test_private_data import SECRETS, photo
from tests.server.conftest import Api
from ypsicline.core.capture.photo import MAX_PHOTO_PIXELS
from ypsicline.core.changes.captures import WalkRound
from ypsicline.core.job import PhotoOf
from ypsicline.server import files
from ypsicline.server.devices.phones import MOST_PHOTOS
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Job, KeptPhoto, Photo
from ypsicline.server.jobs.sweep import GRACE_S, sweep
from ypsicline.server.locks import STORED_FILES, locked
from ypsicline.server.photos import intake


def on_disk(settings: Any) -> set[str]:
    return {p.name for p in Path(settings.FILES).glob("??/*")}


def age(settings: Any) -> None:
    """Let all files be older than what may still wait for its row."""
    past = time.time() - GRACE_S - 5
    for path in Path(settings.FILES).glob("??/*"):
        os.utime(path, (past, past))


def grey(side: int = 700, kind: str = "JPEG") -> bytes:
    out = io.BytesIO()
    Image.fromarray(np.random.default_rng(side).integers(0, 255, (side, side, 3), dtype=np.uint8)).save(out, kind)
    return out.getvalue()


@pytest.mark.parametrize("path", ["photos", "kept-photos"])
def test_nothing_private_reaches_the_disk(api: Api, job: Job, settings: Any, path: str) -> None:
    assert api.send(f"jobs/{job.pk}/{path}", "photo", "a.jpg", photo("JPEG"))[0] == 200
    for file in Path(settings.FILES).rglob("*"):
        if file.is_file():
            data = file.read_bytes()
            assert not [s for s in SECRETS if s in data]


@pytest.mark.django_db(transaction=True)
def test_removed_photos_leave_the_disk_and_shared_files_stay(api: Api, job: Job, settings: Any) -> None:
    other = api.good("POST", "jobs", {"name": "Other"})["id"]
    for at in (job.pk, other):
        assert api.send(f"jobs/{at}/kept-photos", "photo", "a.jpg", grey())[0] == 200
    first, second = KeptPhoto.objects.order_by("pk")
    assert first.file == second.file
    age(settings)
    api.good("DELETE", f"kept-photos/{first.pk}")
    assert on_disk(settings) == {second.file, second.preview}
    api.good("DELETE", f"kept-photos/{second.pk}")
    assert on_disk(settings) == set()


@pytest.mark.django_db(transaction=True)
def test_a_deleted_job_takes_its_photos_along(
    api: Api, job: Job, settings: Any, tray_photo: Callable[..., bytes]
) -> None:
    sent = api.send(f"jobs/{job.pk}/photos", "photo", "a.jpg", tray_photo())[1]
    assert len(on_disk(settings)) == 3
    age(settings)
    assert "stays" in api.refused("DELETE", f"photos/{sent['id']}")
    api.good("POST", f"jobs/{job.pk}/put-away")
    api.good("DELETE", f"jobs/{job.pk}")
    assert not Photo.objects.exists()
    assert on_disk(settings) == set()


@pytest.mark.django_db(transaction=True)
def test_a_photo_that_nothing_was_found_in_can_be_removed(api: Api, stranger: Api, job: Job, settings: Any) -> None:
    sent = api.send(f"jobs/{job.pk}/photos", "photo", "a.jpg", grey())[1]
    assert api.good("GET", f"photos/{sent['id']}")["status"] == "refused"
    stranger.refused("DELETE", f"photos/{sent['id']}", status=404)
    age(settings)
    api.good("DELETE", f"photos/{sent['id']}")
    assert api.good("GET", f"jobs/{job.pk}")["photos"] == []
    assert on_disk(settings) == set()


def test_a_sweep_takes_what_nothing_refers_to_and_nothing_young(
    api: Api, job: Job, settings: Any, capsys: pytest.CaptureFixture[str]
) -> None:
    api.send(f"jobs/{job.pk}/kept-photos", "photo", "a.jpg", grey())
    kept = on_disk(settings)
    old = files.keep(b"left behind")
    age(settings)
    young = files.keep(b"just written")
    call_command("sweep", "--dry-run")
    assert "1 files of 0.0 MB together, 0 findings and 0 parts of documents would be removed" in capsys.readouterr().out
    assert old in on_disk(settings)
    assert sweep().files == 1
    assert on_disk(settings) == {*kept, young}
    # what is kept again meanwhile is young again
    age(settings)
    files.keep(b"just written")
    assert sweep().files == 0


def test_a_sweep_forgets_findings_that_no_state_of_the_job_shows(api: Api, job: Job, settings: Any) -> None:
    flats = [files.keep(bytes([k]) * 9) for k in range(4)]
    result = [{"flat": {"file": f}, "frame": k} for k, f in enumerate(flats)]
    shown = Photo.objects.create(
        job=job,
        file="0" * 64,
        preview="0" * 64,
        name="x",
        width=1,
        height=1,
        status="done",
        result={"outlines": result},
    )
    for k in (0, 2):
        history.change(job.pk, lambda d, k=k: WalkRound(PhotoOf(shown.pk, k), d.shape), None)
    age(settings)
    assert sweep(dry_run=True).findings == 1
    swept = sweep()
    assert (swept.findings, swept.files) == (1, 1)
    # 0 is a state that undoing leads to, 2 is shown, 3 came last
    assert on_disk(settings) == {flats[0], flats[2], flats[3]}
    assert sweep().findings == 0
    assert api.call("GET", f"photos/{shown.pk}/outlines/1")[0] == 422
    assert api.good("GET", f"photos/{shown.pk}")["status"] == "done"


@pytest.mark.django_db
def test_nothing_is_swept_while_a_backup_is_made(settings: Any) -> None:
    name = files.keep(b"left behind")
    age(settings)
    with locked(settings.FILES.parent, STORED_FILES):
        assert sweep().files == 0
    assert sweep().files == 1
    assert name not in on_disk(settings)


def test_one_photo_of_a_workshop_is_decoded_at_a_time(settings: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    at_once, most, lock = 0, 0, threading.Lock()
    read = intake.read_photo

    def slow(data: bytes) -> Any:
        nonlocal at_once, most
        with lock:
            at_once += 1
            most = max(most, at_once)
        time.sleep(0.15)
        with lock:
            at_once -= 1
        return read(data)

    monkeypatch.setattr(intake, "read_photo", slow)
    threads = [threading.Thread(target=intake.store_photos, args=(7, [("a", grey())])) for _ in range(3)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert most == 1


@pytest.mark.parametrize("kind", ["PNG", "TIFF", "WEBP", "JPEG"])
def test_one_with_more_pixels_than_fit_is_refused_before_it_is_decoded(
    api: Api, job: Job, monkeypatch: pytest.MonkeyPatch, kind: str
) -> None:
    monkeypatch.setitem(MAX_PHOTO_PIXELS, kind, 480_000)
    status, answer = api.send(f"jobs/{job.pk}/photos", "photo", "a", grey(700, kind))
    assert status == 422
    assert "megapixels" in answer["sentence"]


@pytest.mark.django_db(transaction=True)
def test_a_phone_link_brings_so_many_photos_and_can_be_ended(api: Api, job: Job, settings: Any) -> None:
    settings.LAN_URL = "http://192.0.2.7:8377"
    token = api.good("POST", f"jobs/{job.pk}/phone")["url"].rpartition("/")[2]
    phone = Api(None)
    link = job.phone_links.get()
    link.photos_left = 1
    link.save()
    # one that is refused doesn't count
    assert phone.send(f"phone/{token}/photos", "photo", "a.jpg", b"no photo")[0] == 422
    assert phone.send(f"phone/{token}/photos", "photo", "a.jpg", grey())[0] == 200
    status, answer = phone.send(f"phone/{token}/photos", "photo", "b.jpg", grey())
    assert status == 422
    assert str(MOST_PHOTOS) in answer["sentence"]
    again = api.good("POST", f"jobs/{job.pk}/phone")["url"].rpartition("/")[2]
    phone.good("GET", f"phone/{again}")
    api.good("DELETE", f"jobs/{job.pk}/phone")
    phone.refused("GET", f"phone/{again}", status=404)
