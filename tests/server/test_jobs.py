"""Jobs, their history, and who may see them."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest
from django.test import Client

from tests.server.conftest import Api
from ypsicline.core.changes.briefing import SetBrief, SetUnit
from ypsicline.core.errors import Refusal
from ypsicline.core.formats import documents, stored
from ypsicline.core.job import Brief, JobDocument
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Job, Revision
from ypsicline.server.jobs.sweep import sweep

BRIEF = {
    "covers": "tray",
    "against": ["dust"],
    "goes_on": "",
    "looseness": "",
    "sticks_out": "",
    "cloth": "",
    "near": ["heat"],
    "notes": "",
}


def test_a_job_is_taken_in_with_the_next_ticket_and_hangs_on_the_wall(api: Api) -> None:
    first = api.good("POST", "jobs", {"name": "Tray", "unit": "in"})
    second = api.good("POST", "jobs", {"name": "Lid"})
    assert (first["ticket"], second["ticket"]) == (1, 2)
    wall = api.good("GET", "wall")
    assert [t["name"] for t in wall["tickets"]] == ["Tray", "Lid"]
    assert wall["workshop"] == "Otterbeck Clay Rooms"
    assert wall["tickets"][0]["next_step"]["sentence"] == "say what is covered"


def test_tickets_due_first_hang_first(api: Api) -> None:
    for name, due in (("late", "2030-05-01"), ("soon", "2030-01-01"), ("never", None)):
        job = api.good("POST", "jobs", {"name": name})
        api.do(job["id"], "set_brief", name=name, due=due, brief=BRIEF)
    assert [t["name"] for t in api.good("GET", "wall")["tickets"]] == ["soon", "late", "never"]


def test_the_brief_is_kept_and_brings_cautions(api: Api, job: Job) -> None:
    answer = api.do(job.pk, "set_brief", name="Kiln cover", for_whom="Otterbeck", brief=BRIEF)
    assert answer["name"] == "Kiln cover"
    assert "hot" in answer["cautions"][0]


@pytest.mark.parametrize(
    "body",
    [{"name": "", "brief": BRIEF}, {"name": "x" * 81, "brief": BRIEF}, {"name": "a\u0000b", "brief": BRIEF}, {"name": "ok"},
     {"name": "ok", "due": "31.2.2030", "brief": BRIEF}, {"name": "ok", "brief": {**BRIEF, "notes": "x" * 3000}}, {"name": 7, "brief": 7}],
)  # fmt: skip
def test_a_wrong_brief_is_refused_and_nothing_is_changed(api: Api, job: Job, body: Any) -> None:
    before = api.good("GET", f"jobs/{job.pk}")
    api.refuse(job.pk, "set_brief", **body)
    assert api.good("GET", f"jobs/{job.pk}") == before


class TestHistory:
    def test_every_change_can_be_undone_and_redone(self, api: Api, job: Job) -> None:
        api.do(job.pk, "set_edges", edges=[[0, 0, 0]], allowance="17")
        changed = api.do(job.pk, "set_edges", edges=[[0, 0, 1]], finish="bound")
        assert changed["last_change"] == "Edge finish set"
        back = api.good("POST", f"jobs/{job.pk}/undo")
        assert back["panels"][0]["rings"][0][1]["finish"] == "plain"
        assert back["panels"][0]["rings"][0][0]["allowance"] == "17.0"
        assert (back["can_undo"], back["can_redo"]) == (True, True)
        again = api.good("POST", f"jobs/{job.pk}/redo")
        assert again["panels"] == changed["panels"]
        assert again["can_redo"] is False

    def test_a_change_after_undo_drops_what_could_be_redone(self, api: Api, job: Job) -> None:
        api.do(job.pk, "set_unit", unit="in")
        api.good("POST", f"jobs/{job.pk}/undo")
        assert api.do(job.pk, "set_unit", unit="cm")["can_redo"] is False
        api.refused("POST", f"jobs/{job.pk}/redo")

    def test_there_is_nothing_before_the_first_state(self, api: Api, job: Job) -> None:
        assert api.refused("POST", f"jobs/{job.pk}/undo") == "There is nothing to undo."

    def test_a_change_that_changes_nothing_leaves_no_trace(self, api: Api, job: Job) -> None:
        api.do(job.pk, "set_unit", unit="mm")
        assert Revision.objects.filter(job=job).count() == 1

    def test_a_stale_window_is_told_so(self, api: Api, job: Job) -> None:
        api.do(job.pk, "set_unit", unit="in", shown=1)
        sentence = api.refuse(job.pk, "set_unit", unit="cm", status=409, shown=1)
        assert "changed meanwhile" in sentence

    def test_history_keeps_every_change_and_costs_what_changed(self, api: Api, job: Job) -> None:
        outline = JobDocument("x", panels=history.current(job).panels).panels[0]
        many = tuple(replace(outline, name=f"panel {k}", id="") for k in range(40))
        document = JobDocument("Many", panels=many, pieces=history.current(job).pieces)
        large = history.take_in(job.workshop, document, None)
        begun = stored_bytes(large)
        for k in range(30):
            api.do(large.pk, "set_edges", edges=[[k % 40, 0, 0]], allowance=str(11 + k))
        assert (stored_bytes(large) - begun) / 30 < 20_000
        assert Revision.objects.filter(job=large).count() == 31
        for _ in range(30):
            back = api.good("POST", f"jobs/{large.pk}/undo")
        assert back["panels"][3]["rings"][0][0]["allowance"] == "10.0"
        api.refused("POST", f"jobs/{large.pk}/undo")

    def test_parts_of_a_branch_that_was_left_are_swept_and_the_rest_reads(self, api: Api, job: Job) -> None:
        for wide in ("17", "18"):
            api.do(job.pk, "set_edges", edges=[[0, 0, 0]], allowance=wide)
        for _ in range(2):
            api.good("POST", f"jobs/{job.pk}/undo")
        api.do(job.pk, "set_edges", edges=[[0, 0, 0]], allowance="19")
        assert sweep(dry_run=True).parts == sweep().parts == 2
        assert sweep().parts == 0
        assert api.good("POST", f"jobs/{job.pk}/undo")["panels"][0]["rings"][0][0]["allowance"] == "10.0"
        assert api.good("POST", f"jobs/{job.pk}/redo")["panels"][0]["rings"][0][0]["allowance"] == "19.0"


def stored_bytes(job: Job) -> int:
    """What a job's states take on the disk."""
    rows = [*job.revisions.values_list("document", flat=True), *job.parts.values_list("content", flat=True)]
    return sum(map(len, rows))


class TestAnswers:
    def test_after_a_change_only_what_it_changed_is_told(self, api: Api, job: Job) -> None:
        def told(kind: str, **fields: Any) -> Any:
            return api.call("POST", f"jobs/{job.pk}/changes", api.told(job.pk, kind, **fields))[1]

        copied = told("copy_panel", panel=0)
        assert [p.get("same", p.get("name")) for p in copied["panels"]] == [0, "tray 2"]
        assert (copied["shape"], copied["pieces"]) == ({"same": 0}, [{"same": 0}])
        edged = told("set_edges", edges=[[1, 0, 0]], allowance="21")
        assert [p.get("same", p.get("name")) for p in edged["panels"]] == [0, "tray 2"]
        assert told("remove_panel", panel=0)["panels"] == [{"same": 1}]
        stepped = told("take_step", step={"kind": "turn over"})
        assert stepped["shape"]["steps"]
        assert stepped["panels"] == [{"same": 0}]
        # in another unit every figure is another
        assert "width" in told("set_unit", unit="in")["panels"][0]
        back = api.call("POST", f"jobs/{job.pk}/undo")[1]
        assert back["panels"][0]["width"] == "100.0"
        eased = told("set_brief", name="ok", brief={**BRIEF, "looseness": "6"})
        assert "ease of 6.0 mm" in eased["shape"]["verdict"]

    def test_a_job_of_forty_panels_answers_in_little(self, api: Api, job: Job) -> None:
        panel = history.current(job).panels[0]
        many = tuple(replace(panel, name=f"panel {k}", id="") for k in range(40))
        large = history.take_in(job.workshop, JobDocument("Many", panels=many), None)
        change = api.told(large.pk, "set_edges", edges=[[7, 0, 0]], allowance="21")
        answer = api.client.post(
            f"/api/jobs/{large.pk}/changes", change, content_type="application/json", headers={"X-Revision": "1"}
        )
        assert len(answer.content) < 60_000
        packed = api.client.get(f"/api/jobs/{large.pk}", headers={"Accept-Encoding": "gzip"})
        assert packed.headers["Content-Encoding"] == "gzip"


class TestAccess:
    PATHS = ("jobs/{id}", "jobs/{id}/export/pdf", "jobs/{id}/export/job.json")

    def test_nobody_outside_the_workshop_sees_or_changes_a_job(self, stranger: Api, job: Job) -> None:
        for path in self.PATHS:
            stranger.refused("GET", path.format(id=job.pk), status=404)
        stranger.refuse(job.pk, "set_unit", unit="in", status=404)
        stranger.refused("POST", f"jobs/{job.pk}/undo", status=404)
        assert stranger.send(f"jobs/{job.pk}/photos", "photo", "p.jpg", b"x")[0] == 404
        assert stranger.good("GET", "wall")["tickets"] == []
        assert Revision.objects.filter(job=job).count() == 1

    def test_without_signing_in_there_is_nothing(self, job: Job) -> None:
        nobody = Api(None)
        nobody.refused("GET", "wall", status=401)
        nobody.refused("GET", f"jobs/{job.pk}", status=401)
        page = Client().get("/")
        assert page.status_code == 302
        assert page.headers["Location"].startswith("/sign-in/")

    def test_a_user_without_workshop_is_told_so(self, db: None, django_user_model: Any) -> None:
        lonely = Api(django_user_model.objects.create_user(username="cleo"))
        assert "no workshop" in lonely.refused("GET", "wall")

    @pytest.mark.usefixtures("user")
    def test_signing_in_and_out(self) -> None:
        client = Client()
        wrong = client.post("/sign-in/", {"username": "anna", "password": "guess"})
        assert b"match" in wrong.content
        assert client.post("/sign-in/", {"username": "anna", "password": "a long enough phrase"}).status_code == 302
        assert client.get("/api/wall").status_code == 200
        client.post("/sign-out/")
        assert client.get("/api/wall").status_code == 401

    def test_forged_requests_are_turned_away(self, user: Any, job: Job) -> None:
        client = Client(enforce_csrf_checks=True)
        client.force_login(user)
        assert client.post(f"/api/jobs/{job.pk}/undo").status_code == 403

    def test_the_demo_signs_in_this_machine_and_nobody_else(
        self, workshop: Any, django_user_model: Any, settings: Any
    ) -> None:
        settings.DEMO = True
        workshop.members.add(django_user_model.objects.create_user(username="demo"))
        assert Client().get("/api/wall").status_code == 200
        assert Client(REMOTE_ADDR="10.1.2.3").get("/api/wall").status_code == 403


@pytest.mark.parametrize("path", ["jobs/999", "jobs/abc", "jobs/0/export/pdf", "photos/77", "nothing"])
def test_what_isnt_there_is_404_or_422_never_500(api: Api, path: str) -> None:
    assert api.call("GET", path)[0] in {404, 422}


class TestWhatCantBeRead:
    def broken(self, job: Job) -> None:
        api_state = job.revisions.get(number=1)
        Revision.objects.create(job=job, number=2, what="Hidden hand", document=b'{"name": 7}', by=api_state.by)
        job.position = job.latest = 2
        job.save()

    def test_a_job_that_cant_be_read_hides_no_other_and_goes_back(self, api: Api, job: Job) -> None:
        sound = api.good("POST", "jobs", {"name": "Sound"})
        self.broken(job)
        assert "can't be read" in api.refused("GET", f"jobs/{job.pk}")
        tickets = {t["id"]: t for t in api.good("GET", "wall")["tickets"]}
        assert tickets[sound["id"]]["name"] == "Sound"
        damaged = tickets[job.pk]
        assert (damaged["unreadable_at"], damaged["back_to"]) == (2, "Job taken in")
        assert "can't be read" in damaged["next_step"]["sentence"]
        assert api.good("POST", f"jobs/{job.pk}/undo", **{"X-Revision": "2"})["name"] == "Splash tray"

    def test_a_job_too_large_to_be_read_isnt_stored(self, api: Api, job: Job, monkeypatch: pytest.MonkeyPatch) -> None:
        monkeypatch.setattr(stored, "MAX_DOCUMENT_BYTES", 2_000)
        assert "isn't made" in api.refuse(job.pk, "set_brief", name="ok", brief={**BRIEF, "notes": "x" * 1900})
        assert Revision.objects.filter(job=job).count() == 1

    def test_a_bundle_too_large_to_be_read_isnt_written(
        self, api: Api, job: Job, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        monkeypatch.setattr(documents, "MAX_DOCUMENT_BYTES", 1_000)
        assert "that can be read again" in api.refused("GET", f"jobs/{job.pk}/export/job.json")

    def test_a_change_that_couldnt_be_read_again_isnt_made(self, api: Api, job: Job) -> None:
        class Endless(SetUnit):
            def on(self, d: JobDocument) -> JobDocument:
                return replace(d, panels=(replace(d.panels[0], grain_deg=float("nan")), *d.panels[1:]))

        with pytest.raises(Refusal, match="couldn't be read again"):
            history.change(job.pk, Endless("in"), None)
        assert Revision.objects.filter(job=job).count() == 1
        assert api.good("GET", "wall")["tickets"][0]["unreadable_at"] is None

    @pytest.mark.parametrize(
        "text",
        [
            '{"a": NaN}',
            '{"a": -Infinity}',
            '{"a": 1e308}',
            '{"a": 1e999}',
            '{"a": "\\ud800"}',
            "[" * 100_000,
            '{"a":' * 50_000,
            "",
        ],
    )
    def test_hostile_bundles_and_panels_are_refused_and_nothing_is_stored(self, api: Api, job: Job, text: str) -> None:
        bundle = api.good("GET", f"jobs/{job.pk}/export/job.json").decode()
        for data in (text, bundle.replace('"name":"Splash tray"', f'"more": {text or 1}, "name":"Splash tray"')):
            if text or data is text:
                assert api.send("job-files", "file", "job.json", data.encode())[0] == 422
        assert api.send(f"jobs/{job.pk}/read", "file", "panels.json", text.encode())[0] == 422
        assert Job.objects.count() == Revision.objects.count() == 1


class TestRevisions:
    def test_numbers_never_come_back(self, api: Api, job: Job) -> None:
        seen = [api.do(job.pk, "set_unit", unit="in")["revision"]]
        back = api.good("POST", f"jobs/{job.pk}/undo")["revision"]
        seen.append(api.do(job.pk, "set_unit", unit="cm")["revision"])
        assert back == 1
        assert len({*seen, back}) == 3
        # a window that still shows what was undone is told so
        api.refuse(job.pk, "set_unit", unit="mm", status=409, shown=seen[0])
        assert api.good("POST", f"jobs/{job.pk}/undo")["revision"] == 1

    @pytest.mark.parametrize("way", ["undo", "redo"])
    def test_undo_and_redo_are_bound_to_what_is_seen(self, api: Api, job: Job, way: str) -> None:
        api.do(job.pk, "set_unit", unit="in")
        api.refused("POST", f"jobs/{job.pk}/{way}", None, 409, **{"X-Revision": "1"})
        assert "reload the page" in api.refused("POST", f"jobs/{job.pk}/{way}", None, 422, **{"X-Revision": ""})
        assert "reload the page" in api.refuse(job.pk, "set_unit", unit="cm", status=422, shown="x")

    def test_a_change_is_computed_outside_the_lock_and_anew_where_another_came_first(self, job: Job) -> None:
        names = iter(["first", "second"])

        def slow(_: JobDocument) -> SetBrief:
            name = next(names)
            if name == "first":
                history.change(job.pk, SetUnit("in"), None)
            return SetBrief(name, Brief())

        history.change(job.pk, slow, None)
        document = history.current(Job.objects.get(pk=job.pk))
        assert (document.name, document.unit) == ("second", "in")
