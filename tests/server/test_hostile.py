"""Whatever is sent, the answer is a sentence, nothing of it stays behind, and the workshop goes on."""

from __future__ import annotations

import errno
import json
import os
import sqlite3
import subprocess
from dataclasses import asdict
from itertools import groupby
from pathlib import Path
from types import SimpleNamespace
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import OperationalError, transaction

from tests import hostile, shapes
from tests.server.conftest import Api
from ypsicline.core.formats.documents import JobBundle, dump
from ypsicline.core.job import JobDocument
from ypsicline.core.pattern.panel import Panel
from ypsicline.server import files
from ypsicline.server.jobs import history, read_child
from ypsicline.server.jobs.models import Camera, Job, KeptPhoto, Photo, Revision
from ypsicline.server.operations.management.commands.export_schema import schema_text

BUNDLE = dump(JobBundle(JobDocument("Tray", panels=(Panel("tray", shapes.square(100)),))))
# every value in every operation belongs to the long form
EVERY = 1 if "YPSICLINE_LOTS" in os.environ else 3
CORPUS = [*hostile.values(json.loads(schema_text()), EVERY), *hostile.files(BUNDLE)]
# all that is sent to one operation, for one kind of change
BY_OPERATION = {
    (path, what): list(group)
    for (path, what), group in groupby(sorted(CORPUS, key=lambda c: (c.path, c.what)), key=lambda c: (c.path, c.what))
}
TABLES = (Job, Revision, Photo, KeptPhoto, Camera)


def stored(settings: Any) -> Any:
    """Everything that a request could leave behind."""
    kept = sorted(p for p in Path(settings.FILES).rglob("*") if p.is_file())
    return [t.objects.count() for t in TABLES], list(Job.objects.values("pk", "position", "latest")), kept


def test_the_corpus_is_large() -> None:
    assert len(CORPUS) >= 500
    assert len({(c.name, c.path) for c in CORPUS}) == len(CORPUS)


def read_here(_command: list[str], *, input: bytes, **_how: Any) -> SimpleNamespace:
    """A drawing read without a process of its own, which others test (`test_hostile_drawings_stop_only_themselves`)."""
    question, data = input.split(b"\n", 1)
    return SimpleNamespace(stdout=json.dumps(asdict(read_child.answer(json.loads(question), data))).encode())


@pytest.mark.parametrize(("path", "what"), BY_OPERATION)
def test_what_is_hostile_is_refused_in_a_sentence_and_leaves_nothing(
    api: Api, job: Job, settings: Any, monkeypatch: pytest.MonkeyPatch, path: str, what: str
) -> None:
    monkeypatch.setattr(subprocess, "run", read_here)
    for sent in BY_OPERATION[path, what]:
        with transaction.atomic():
            _send(api, job, settings, sent)
            transaction.set_rollback(True)
    _goes_on(api, job)


def _send(api: Api, job: Job, settings: Any, sent: hostile.Hostile) -> None:
    before = stored(settings)
    path = sent.path.format(job=job.pk)
    if sent.field:
        form = {sent.field: SimpleUploadedFile("x", sent.data)}
        form[sent.field].__dict__["_name"] = sent.file
        answer = api.client.post(f"/api/{path}", form, headers=Api.shown("POST", path))
    else:
        headers = Api.shown(sent.method, path)
        answer = api.client.generic(
            sent.method, f"/api/{path}", sent.data, content_type="application/json", headers=headers
        )
    assert answer.status_code < 500, (sent.name, answer.content)
    if answer.status_code < 400:
        _goes_on(api, job)
    else:
        assert answer.json()["sentence"].rstrip("”").endswith((".", "?")), (sent.name, answer.content)
        assert stored(settings) == before, sent.name


def _goes_on(api: Api, job: Job) -> None:
    assert api.call("GET", "wall")[0] == 200
    assert api.call("GET", f"jobs/{job.pk}")[0] == 200


@pytest.mark.parametrize("name", hostile.multiparts())
@pytest.mark.parametrize("path", ["jobs/{}/photos", "jobs/{}/read", "job-files", "cameras"])
def test_a_form_that_isnt_one_is_refused_in_a_sentence(api: Api, job: Job, settings: Any, name: str, path: str) -> None:
    before = stored(settings)
    kind, data = hostile.multiparts()[name]
    path = path.format(job.pk)
    answer = api.client.generic("POST", f"/api/{path}", data, content_type=kind, headers=Api.shown("POST", path))
    assert 400 <= answer.status_code < 500
    assert answer.json()["sentence"].endswith(".")
    assert stored(settings) == before


class TestFullDisk:
    def test_of_files_is_said_and_nothing_is_stored(
        self, api: Api, job: Job, settings: Any, monkeypatch: pytest.MonkeyPatch, tray_photo: Any
    ) -> None:
        def full(_: bytes) -> str:
            raise OSError(errno.ENOSPC, "No space left on device")

        before = stored(settings)
        monkeypatch.setattr(files, "keep", full)
        status, answer = api.send(f"jobs/{job.pk}/photos", "photo", "a.jpg", tray_photo())
        assert (status, stored(settings)) == (507, before)
        assert "disk" in answer["sentence"]

    @pytest.mark.django_db(transaction=True)
    def test_while_a_photo_is_measured_is_said_of_the_photo(
        self, api: Api, job: Job, monkeypatch: pytest.MonkeyPatch, tray_photo: Any
    ) -> None:
        keep = files.keep

        def full(data: bytes) -> str:
            if Photo.objects.exists():
                raise OSError(errno.ENOSPC, "No space left on device")
            return keep(data)

        monkeypatch.setattr(files, "keep", full)
        sent = api.send(f"jobs/{job.pk}/photos", "photo", "a.jpg", tray_photo())[1]
        shown = api.good("GET", f"photos/{sent['id']}")
        assert shown["status"] == "failed"
        assert "disk" in shown["sentence"]
        assert Revision.objects.count() == 1

    def test_of_the_database_is_said_and_nothing_is_changed(
        self, api: Api, job: Job, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        def full(*_: Any) -> bool:
            raise OperationalError("database or disk is full") from sqlite3.OperationalError()

        monkeypatch.setattr(history, "_store", full)
        assert "disk" in api.refuse(job.pk, "set_unit", unit="in", status=507)
        assert Revision.objects.count() == 1

    def test_a_busy_database_asks_to_try_again(self, api: Api, job: Job, monkeypatch: pytest.MonkeyPatch) -> None:
        def locked(*_: Any) -> bool:
            raise OperationalError("database is locked")

        monkeypatch.setattr(history, "_store", locked)
        assert "busy" in api.refuse(job.pk, "set_unit", unit="in", status=503)
