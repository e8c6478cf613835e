"""A workshop with a member, and another with a stranger."""

from __future__ import annotations

import json
import re
from typing import Any

import pytest
from django.test import Client

from tests import shapes
from ypsicline.core.drafting.panel import Panel
from ypsicline.core.job import Brief, JobDocument
from ypsicline.core.trueing.shape import true_up
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Job, Photo, Workshop


@pytest.fixture(autouse=True)
def _own_files(settings: Any, tmp_path: Any) -> None:
    settings.FILES = tmp_path / "files"
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
    settings.TASKS = {"default": {"BACKEND": "django_tasks.backends.immediate.ImmediateBackend"}}


def member(django_user_model: Any, name: str, workshop: Workshop) -> Any:
    user = django_user_model.objects.create_user(username=name, password="a long enough phrase")
    workshop.members.add(user)
    return user


@pytest.fixture()
def workshop(db: None) -> Workshop:
    return Workshop.objects.create(name="Otterbeck Clay Rooms")


@pytest.fixture()
def user(workshop: Workshop, django_user_model: Any) -> Any:
    return member(django_user_model, "anna", workshop)


@pytest.fixture()
def api(user: Any) -> Api:
    return Api(user)


@pytest.fixture()
def stranger(db: None, django_user_model: Any) -> Api:
    return Api(member(django_user_model, "ben", Workshop.objects.create(name="Elsewhere")))


@pytest.fixture()
def job(workshop: Workshop, user: Any) -> Job:
    """A job with an outline and a panel."""
    square = [(0.0, 0.0), (200.0, 0.0), (200.0, 150.0), (0.0, 150.0)]
    document = JobDocument(
        "Splash tray",
        brief=Brief("tray"),
        panels=(Panel("tray", shapes.square(100)),),
    ).captured(true_up(square, error_mm=0.2))
    return history.take_in(workshop, document, user)


def _address(at: str | int) -> str:
    return at if isinstance(at, str) else f"jobs/{at}"


def _showing(revision: object) -> dict[str, str]:
    return {} if revision is None else {"X-Revision": str(revision)}


class Api:
    """Calls as the interface makes them; every answer is JSON unless it is a file."""

    def __init__(self, user: Any) -> None:
        self.client = Client(raise_request_exception=False)
        if user is not None:
            self.client.force_login(user)

    def call(self, method: str, path: str, body: Any = None, **headers: str) -> tuple[int, Any]:
        data = b"" if body is None else json.dumps(body).encode()
        headers = {**self.shown(method, path), **headers}
        answer = self.client.generic(method, f"/api/{path}", data, content_type="application/json", headers=headers)
        is_json = answer.headers.get("Content-Type", "").startswith("application/json")
        is_file = "attachment" in answer.headers.get("Content-Disposition", "")
        content = answer.getvalue()
        return answer.status_code, json.loads(content) if content and is_json and not is_file else content

    @staticmethod
    def shown(method: str, path: str) -> dict[str, str]:
        """The revision that a window would show that is up to date."""
        of = re.match(r"(job|photo)s/(\d+)/", path) if method != "GET" else None
        found = {"job": Job.objects, "photo": Photo.objects}[of[1]].filter(pk=of[2]).first() if of else None
        job = found.job if isinstance(found, Photo) else found
        return {"X-Revision": str(job.position)} if job else {}

    def good(self, method: str, path: str, body: Any = None, **headers: str) -> Any:
        status, answer = self.call(method, path, body, **headers)
        assert status in (200, 204), answer
        return self._whole(answer) if isinstance(answer, dict) and "open_piece" in answer else answer

    def _whole(self, answer: dict[str, Any]) -> dict[str, Any]:
        """A job as it stands, once it is known that the answer says the same of all that it doesn't leave out."""
        whole = self.call("GET", f"jobs/{answer['id']}")[1]
        for name, value in answer.items():
            told, now = (v if isinstance(v, list) else [v] for v in (value, whole[name]))
            assert len(told) == len(now)
            for one, other in zip(told, now, strict=True):
                assert one == other or (isinstance(one, dict) and one.keys() == {"same"}), name
        return whole

    def refused(self, method: str, path: str, body: Any = None, status: int = 422, **headers: str) -> str:
        found, answer = self.call(method, path, body, **headers)
        assert found == status, answer
        assert answer["sentence"].endswith((".", "?"))
        return str(answer["sentence"])

    def do(self, job: str | int, /, kind: str, shown: object = None, **fields: Any) -> Any:
        """Make a change of a job (its number, or its address), as a window does that shows it as it is."""
        return self.good("POST", f"{_address(job)}/changes", {"kind": kind, **fields}, **_showing(shown))

    def refuse(self, job: str | int, /, kind: str, status: int = 422, shown: object = None, **fields: Any) -> str:
        """The sentence that a change is refused with."""
        return self.refused("POST", f"{_address(job)}/changes", {"kind": kind, **fields}, status, **_showing(shown))

    def step(self, job: str | int, /, kind: str, **fields: Any) -> Any:
        """One step of trueing up; corners may be told by their number, as they are pointed at."""
        return self.do(job, "take_step", step={"kind": kind, **self._pointed(job, fields)})

    def refuse_step(self, job: str | int, /, kind: str, **fields: Any) -> str:
        return self.refuse(job, "take_step", step={"kind": kind, **self._pointed(job, fields)})

    def _pointed(self, job: str | int, fields: dict[str, Any]) -> dict[str, Any]:
        shape = self.good("GET", _address(job))["shape"]
        rings = shape["rings"] if shape else []
        ring = fields.get("ring", 0)
        joints = rings[ring]["joints"] if 0 <= ring < len(rings) else []

        def place(k: Any) -> Any:
            return k if not isinstance(k, int) else joints[k]["point"] if 0 <= k < len(joints) else [1e6, 1e6]

        return {
            n: place(v) if n in ("corner", "edge", "to", "first", "second", "start") else v for n, v in fields.items()
        }

    def send(self, path: str, field: str, name: str, data: bytes, **fields: str) -> tuple[int, Any]:
        from django.core.files.uploadedfile import SimpleUploadedFile

        sent = {field: SimpleUploadedFile(name, data), **fields}
        answer = self.client.post(f"/api/{path}", sent, headers=self.shown("POST", path))
        return answer.status_code, answer.json()
