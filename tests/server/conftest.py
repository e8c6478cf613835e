"""A workshop with a member, and another with a stranger."""

from __future__ import annotations

import json
import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import pytest
from django.test import Client

from tests import remembered, shapes
from ypsicline.core.drafting.draft import draft_panel
from ypsicline.core.job import Brief, JobDocument
from ypsicline.core.pattern.features.dart import Dart
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.trueing.shape import true_up
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Job, Photo, Workshop
from ypsicline.server.photos import scenes


@pytest.fixture(autouse=True)
def _scenes_read_once(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(scenes, "read_scene", remembered.read_scene)


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
    ).with_outline(true_up(square, error_mm=0.2))
    return history.take_in(workshop, document, user)


def _address(at: str | int) -> str:
    return at if isinstance(at, str) else f"jobs/{at}"


def _number(at: str | int) -> int:
    return int(_address(at).removeprefix("jobs/"))


def _showing(revision: object) -> dict[str, str]:
    return {} if revision is None else {"X-Revision": str(revision)}


# these tell edges of the outline on the table
OUTLINE_CHANGES = {"take_step", "add_measure", "old_cover"}


class Told:
    """The fields of a change with numbers in the place of ids; a number of nothing becomes an id of nothing."""

    def __init__(self, document: JobDocument, kind: str, fields: dict[str, Any]) -> None:
        self.document, self.kind, self.fields = document, kind, fields
        panel = fields.get("panel", 0)
        self.panel = document.panels[panel] if isinstance(panel, int) and 0 <= panel < len(document.panels) else None

    def named(self) -> dict[str, Any]:
        result = {name: self._field(name, value) for name, value in self.fields.items()}
        if self.kind in ("split_edge", "merge_edges", "pivot_dart", "remove_feature"):
            result.pop("panel", None)
        return result

    def _field(self, name: str, value: Any) -> Any:
        of = {
            "panel": lambda v: _id(self.document.panels, v),
            "piece": lambda v: _id(self.document.pieces, v),
            "measure": lambda v: _id(self.document.piece.tape if self.document.piece else (), v),
            "edge": self._edge,
            "from_edge": self._edge,
            "dart": lambda v: _id(self.panel.of(Dart) if self.panel else (), v),
            "feature": self._feature,
            "notch": lambda v: _id([Named(n.of) for n in draft_panel(self.panel).notches] if self.panel else (), v),
        }.get(name)
        if isinstance(value, list):
            whole = {"edges": self._edge, "panels": self._parts, "inside": self._parts}.get(name)
            return [whole(v) for v in value] if whole else value
        return of(value) if of else value

    def _parts(self, value: dict[str, Any]) -> dict[str, Any]:
        return {name: self._field(name, part) for name, part in value.items()}

    def _feature(self, value: Any) -> Any:
        if isinstance(value, dict):
            return self._parts(value)
        return _id([f for f in self.panel.features if f.is_listed] if self.panel else (), value)

    def _edge(self, value: Any) -> Any:
        at = list(value) if isinstance(value, list | tuple) else [0, value] if isinstance(value, int) else None
        if at is None:
            return value
        panels = self.document.panels
        panel = self.panel if len(at) == 2 else panels[at[0]] if 0 <= at[0] < len(panels) else None
        rings = panel.rings() if panel else ()
        return _id(rings[at[-2]], at[-1]) if 0 <= at[-2] < len(rings) else "nothing"


@dataclass(frozen=True)
class Named:
    id: str


def _id(things: Sequence[Any], value: Any) -> Any:
    if not isinstance(value, int):
        return value
    return things[value].id if 0 <= value < len(things) else "nothing"


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
        result = {"job": Job.objects, "photo": Photo.objects}[of[1]].filter(pk=of[2]).first() if of else None
        job = result.job if isinstance(result, Photo) else result
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
        result, answer = self.call(method, path, body, **headers)
        assert result == status, answer
        assert answer["sentence"].endswith((".", "?"))
        return str(answer["sentence"])

    def do(self, job: str | int, /, kind: str, shown: object = None, **fields: Any) -> Any:
        """Make a change of a job (its number, or its address), as a window does that shows it as it is."""
        return self.good("POST", f"{_address(job)}/changes", self.told(job, kind, **fields), **_showing(shown))

    def refuse(self, job: str | int, /, kind: str, status: int = 422, shown: object = None, **fields: Any) -> str:
        """The sentence that a change is refused with."""
        return self.refused(
            "POST", f"{_address(job)}/changes", self.told(job, kind, **fields), status, **_showing(shown)
        )

    def told(self, job: str | int, /, kind: str, **fields: Any) -> dict[str, Any]:
        """A change with the ids of what is told by its number, as it is pointed at: panels, pieces and measures in their
        order, edges of the panel by theirs or as (ring, edge), features and drafted notches."""
        if kind in OUTLINE_CHANGES:
            return {"kind": kind, **fields}
        return {"kind": kind, **Told(history.current(Job.objects.get(pk=_number(job))), kind, fields).named()}

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
