"""Jobs, their history, and who may see them."""

from __future__ import annotations

from typing import Any

import pytest
from django.test import Client

from tests.server.conftest import Api
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Job, Revision

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
        api.good("PUT", f"jobs/{job['id']}/brief", {"name": name, "due": due, "brief": BRIEF})
    assert [t["name"] for t in api.good("GET", "wall")["tickets"]] == ["soon", "late", "never"]


def test_the_brief_is_kept_and_brings_cautions(api: Api, job: Job) -> None:
    answer = api.good("PUT", f"jobs/{job.pk}/brief", {"name": "Kiln cover", "for_whom": "Otterbeck", "brief": BRIEF})
    assert answer["name"] == "Kiln cover"
    assert "hot" in answer["cautions"][0]


@pytest.mark.parametrize(
    "body",
    [{"name": "", "brief": BRIEF}, {"name": "x" * 81, "brief": BRIEF}, {"name": "a\u0000b", "brief": BRIEF}, {"name": "ok"},
     {"name": "ok", "due": "31.2.2030", "brief": BRIEF}, {"name": "ok", "brief": {**BRIEF, "notes": "x" * 3000}}, [], "x", 7],
)  # fmt: skip
def test_a_wrong_brief_is_refused_and_nothing_is_changed(api: Api, job: Job, body: Any) -> None:
    before = api.good("GET", f"jobs/{job.pk}")
    api.refused("PUT", f"jobs/{job.pk}/brief", body)
    assert api.good("GET", f"jobs/{job.pk}") == before


class TestHistory:
    def test_every_change_can_be_undone_and_redone(self, api: Api, job: Job) -> None:
        edges = f"jobs/{job.pk}/edges"
        api.good("PUT", edges, {"chosen": [[0, 0, 0]], "allowance": "17"})
        changed = api.good("PUT", edges, {"chosen": [[0, 0, 1]], "finish": "bound"})
        assert changed["last_change"] == "Edge finish set"
        back = api.good("POST", f"jobs/{job.pk}/undo")
        assert back["panels"][0]["rings"][0][1]["finish"] == "plain"
        assert back["panels"][0]["rings"][0][0]["allowance"] == "17.0"
        assert (back["can_undo"], back["can_redo"]) == (True, True)
        again = api.good("POST", f"jobs/{job.pk}/redo")
        assert again["panels"] == changed["panels"]
        assert again["can_redo"] is False

    def test_a_change_after_undo_drops_what_could_be_redone(self, api: Api, job: Job) -> None:
        api.good("PUT", f"jobs/{job.pk}/unit", {"unit": "in"})
        api.good("POST", f"jobs/{job.pk}/undo")
        assert api.good("PUT", f"jobs/{job.pk}/unit", {"unit": "cm"})["can_redo"] is False
        api.refused("POST", f"jobs/{job.pk}/redo")

    def test_there_is_nothing_before_the_first_state(self, api: Api, job: Job) -> None:
        assert api.refused("POST", f"jobs/{job.pk}/undo") == "There is nothing to undo."

    def test_a_change_that_changes_nothing_leaves_no_trace(self, api: Api, job: Job) -> None:
        api.good("PUT", f"jobs/{job.pk}/unit", {"unit": "mm"})
        assert Revision.objects.filter(job=job).count() == 1

    def test_a_stale_window_is_told_so(self, api: Api, job: Job) -> None:
        api.good("PUT", f"jobs/{job.pk}/unit", {"unit": "in"}, **{"X-Revision": "1"})
        sentence = api.refused("PUT", f"jobs/{job.pk}/unit", {"unit": "cm"}, 409, **{"X-Revision": "1"})
        assert "changed meanwhile" in sentence

    def test_old_states_are_pruned_but_the_job_lives(self, api: Api, job: Job, monkeypatch: pytest.MonkeyPatch) -> None:
        monkeypatch.setattr(history, "KEPT_REVISIONS", 5)
        for k in range(9):
            api.good("PUT", f"jobs/{job.pk}/unit", {"unit": ("in", "mm")[k % 2]})
        assert Revision.objects.filter(job=job).count() == 5
        for _ in range(4):
            api.good("POST", f"jobs/{job.pk}/undo")
        api.refused("POST", f"jobs/{job.pk}/undo")


class TestAccess:
    PATHS = ("jobs/{id}", "jobs/{id}/export/pdf", "jobs/{id}/export/job.json")

    def test_nobody_outside_the_workshop_sees_or_changes_a_job(self, stranger: Api, job: Job) -> None:
        for path in self.PATHS:
            stranger.refused("GET", path.format(id=job.pk), status=404)
        stranger.refused("PUT", f"jobs/{job.pk}/unit", {"unit": "in"}, status=404)
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
