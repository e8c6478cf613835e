"""Long work: claimed once, stopped, taken up again when its worker falls silent; two workers on one store."""

from __future__ import annotations

import datetime
import subprocess
import sys
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from django.utils.timezone import now

from tests.server.conftest import Api
from ypsicline.core.drafting.pad import FilledPad, filling
from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message
from ypsicline.core.pattern.panel import Panel
from ypsicline.server.jobs import fillings, history
from ypsicline.server.jobs.models import Job, Photo
from ypsicline.server.photos import photos
from ypsicline.server.work.kind import LOST_S, End, WorkStopped

pytestmark = pytest.mark.django_db(transaction=True)
STATUS = Photo.Status
READING = message("stage_reading_photo")


@pytest.fixture()
def photo(job: Job) -> Photo:
    """A photo that waits, without a task."""
    return Photo.objects.create(job=job, file="0" * 64, preview="0" * 64, name="p", width=1, height=1)


def test_what_waits_is_stopped_at_once_and_not_begun(api: Api, photo: Photo) -> None:
    stopped = api.good("POST", f"photos/{photo.pk}/stop")
    assert (stopped["status"], stopped["sentence"]) == ("stopped", "It was stopped.")
    photos.WORK.carry_out(photo.pk, lambda _row, _tell: pytest.fail("it was stopped"))
    assert "finished already" in api.refused("POST", f"photos/{photo.pk}/stop")


def test_of_work_that_was_stopped_nothing_counts(
    api: Api, job: Job, tray_photo: Callable[..., bytes], monkeypatch: pytest.MonkeyPatch
) -> None:
    real = photos.capture_in

    def stopped_in_the_middle(*given: Any, **how: Any) -> Any:
        result = real(*given, **how)
        api.good("POST", f"photos/{Photo.objects.get().pk}/stop")
        return result

    monkeypatch.setattr(photos, "capture_in", stopped_in_the_middle)
    before = api.good("GET", f"jobs/{job.pk}")["revision"]
    api.send(f"jobs/{job.pk}/photos", "photo", "tray.jpg", tray_photo())
    shown = api.good("GET", f"jobs/{job.pk}")
    assert (shown["photos"][0]["status"], shown["photos"][0]["share"]) == ("stopped", 0)
    assert shown["revision"] == before
    monkeypatch.undo()
    api.good("PUT", f"photos/{shown['photos'][0]['id']}/wanted", {})
    assert api.good("GET", f"jobs/{job.pk}")["photos"][0]["status"] == "done"


def test_a_row_is_worked_on_by_one_worker_at_a_time(photo: Photo) -> None:
    def again(_row: Photo, tell: Any) -> End:
        photos.WORK.carry_out(photo.pk, lambda _row, _tell: pytest.fail("it is claimed already"))
        tell(READING, 0.5)
        photo.refresh_from_db()
        assert (photo.status, photo.share) == (STATUS.WORKING, 0.5)
        return End(STATUS.DONE)

    photos.WORK.carry_out(photo.pk, again)
    photo.refresh_from_db()
    assert (photo.status, photo.tries, photo.share) == (STATUS.DONE, 1, 1.0)


def test_what_a_silent_worker_left_is_anothers_and_the_silent_ones_end_counts_no_more(photo: Photo) -> None:
    def fell_silent(row: Photo, tell: Any) -> End:
        assert photos.WORK.resume() == 0
        Photo.objects.update(beat=now() - datetime.timedelta(seconds=LOST_S + 1))
        # taken up and refused at once, as there is no such file; then the first one wakes up again
        assert photos.WORK.resume() == 1
        with pytest.raises(WorkStopped):
            tell(READING, 0.9)
        raise Refusal(message("photo_broken"), "photo")

    photos.WORK.carry_out(photo.pk, fell_silent)
    photo.refresh_from_db()
    assert (photo.status, photo.tries) == (STATUS.FAILED, 2)
    assert photo.sentence["code"] == "measuring_failed"


def test_a_photo_removed_meanwhile_ends_its_work_quietly(photo: Photo) -> None:
    def removed(row: Photo, _tell: Any) -> End:
        Photo.objects.all().delete()
        raise ZeroDivisionError

    photos.WORK.carry_out(photo.pk, removed)
    assert not Photo.objects.exists()


Looked = Callable[[str], dict[str, Any]]


@pytest.fixture()
def at_pad(api: Api, job: Job) -> Looked:
    """Asks something of the job's first panel as a pad."""
    path = f"jobs/{job.pk}/panels/{history.current(job).panels[0].id}/pad"
    return lambda what: api.good(*(("GET", path) if what == "look" else ("POST", f"{path}{what}")))


@pytest.fixture()
def between_rough_and_fine(monkeypatch: pytest.MonkeyPatch) -> list[Callable[[], object]]:
    """What is done each time a filling has been shown, roughly and at its end."""
    done: list[Callable[[], object]] = []

    def interrupted(panel: Panel, progress: Any) -> Iterator[FilledPad]:
        for pad in filling(panel, progress):
            yield pad
            for do in done:
                do()

    monkeypatch.setattr(fillings, "filling", interrupted)
    return done


def test_a_pad_is_seen_roughly_while_it_is_filled_then_finely(
    at_pad: Looked, between_rough_and_fine: list[Callable[[], object]]
) -> None:
    seen: list[dict[str, Any]] = []
    between_rough_and_fine.append(lambda: seen.append(at_pad("look")))
    filled = at_pad("")
    rough, fine = seen
    assert (rough["status"], fine["status"], filled["status"]) == ("working", "working", "done")
    assert 0 < rough["share"] < fine["share"] <= filled["share"] == 1
    assert rough["pad"]["plan"] != fine["pad"]["plan"]
    assert fine["pad"] == filled["pad"] == at_pad("look")["pad"]
    assert rough["pad"]["worst_percent"] == pytest.approx(fine["pad"]["worst_percent"], abs=1.5)


def test_a_filling_that_is_stopped_keeps_what_was_seen_and_can_be_begun_again(
    at_pad: Looked, between_rough_and_fine: list[Callable[[], object]]
) -> None:
    between_rough_and_fine.append(lambda: at_pad("/stop"))
    stopped = at_pad("")
    assert (stopped["status"], stopped["sentence"]) == ("stopped", "It was stopped.")
    assert stopped["pad"]["worst_percent"] > 0
    between_rough_and_fine.clear()
    assert at_pad("")["status"] == "done"


def test_a_filling_goes_with_the_panel_as_it_was_filled(api: Api, job: Job, at_pad: Looked) -> None:
    filled = at_pad("")
    api.do(job.pk, "set_sheet_distance", first="a4-01", second="a4-02", tape="300")
    assert at_pad("look") == filled
    api.do(job.pk, "set_tapers", panel=0, edges=[0, 1, 2, 3])
    assert at_pad("look") is None
    api.good("POST", f"jobs/{job.pk}/undo")
    assert at_pad("look") == at_pad("") == filled
    assert job.fillings.count() == 1


MANY_PHOTOS = """
from pathlib import Path
from ypsicline.server import files
from ypsicline.core.job import JobDocument
from ypsicline.server.jobs import history
from ypsicline.server.photos import photos
from ypsicline.server.jobs.models import Photo, Workshop
job = history.take_in(Workshop.objects.create(name="Otterbeck Clay Rooms"), JobDocument("Tray"), None)
for k in range(32):
    # most are refused in no time, so that the two workers often reach for the same
    kept = files.keep(Path({photo!r}).read_bytes() if k in (9, 10) else b"no photo")
    row = Photo.objects.create(job=job, file=kept, preview=kept, name=str(k), width=1, height=1)
    photos.measure.enqueue(row.pk)
    photos.measure.enqueue(row.pk)
"""
OUTCOME = """
from ypsicline.server.jobs.models import Photo, Revision
print(sorted(Photo.objects.values_list("status", "tries")), Revision.objects.count())
"""


def test_two_workers_on_one_store_do_each_thing_once(tmp_path: Path, tray_photo: Callable[..., bytes]) -> None:
    root = Path(__file__).parents[2]
    (tmp_path / "tray.jpg").write_bytes(tray_photo())
    environment = {"YPSICLINE_DATA": str(tmp_path / "data"), "PATH": "/usr/bin:/bin"}

    def manage(*words: str) -> subprocess.Popen[str]:
        command = [sys.executable, "-W", "ignore", "manage.py", *words]
        return subprocess.Popen(command, cwd=root, env=environment, stdout=subprocess.PIPE, text=True)

    for words in (
        ("migrate", "-v", "0"),
        ("shell", "-v", "0", "-c", MANY_PHOTOS.format(photo=str(tmp_path / "tray.jpg"))),
    ):
        assert manage(*words).wait(120) == 0
    workers = [manage("db_worker", "--batch", "--interval", "0.1", "--no-reload") for _ in range(2)]
    assert [w.wait(240) for w in workers] == [0, 0]
    told, _ = manage("shell", "-v", "0", "-c", OUTCOME).communicate(timeout=60)
    assert told.strip().splitlines()[-1] == f"{[('done', 1)] * 2 + [('refused', 1)] * 30} 3"
