"""Who belongs to a workshop, passwords, and trying to guess them."""

from __future__ import annotations

import datetime
import re
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.test import Client
from django.utils import timezone

from tests.server.conftest import Api, member
from ypsicline.server.jobs.models import Invitation, Job, Workshop

PHRASE = "a long enough phrase"


@pytest.fixture()
def owner(api: Api, workshop: Workshop, user: Any) -> Api:
    workshop.owner = user
    workshop.save()
    return api


def joins(url: str, **fields: str) -> tuple[Client, Any]:
    client = Client()
    return client, client.post(re.sub(r"^http://[^/]+", "", url), fields)


class TestInvitations:
    def test_one_person_joins_by_it_and_no_second(self, owner: Api, job: Job) -> None:
        url = owner.good("POST", "workshop/invitations")["url"]
        token = url.rpartition("/")[2]
        assert token not in "".join(Invitation.objects.values_list("token_hash", flat=True))
        assert "Otterbeck" in Client().get(f"/join/{token}").content.decode()
        client, answer = joins(url, username="cleo", password1=PHRASE, password2=PHRASE)
        assert (answer.status_code, client.get(f"/api/jobs/{job.pk}").status_code) == (302, 200)
        assert [m["name"] for m in owner.good("GET", "workshop")["members"]] == ["anna", "cleo"]
        assert joins(url, username="dora", password1=PHRASE, password2=PHRASE)[1].status_code == 404
        assert not get_user_model().objects.filter(username="dora").exists()

    def test_one_who_has_an_account_joins_as_such(self, owner: Api, stranger: Api, workshop: Workshop) -> None:
        path = re.sub(r"^http://[^/]+", "", owner.good("POST", "workshop/invitations")["url"])
        assert "signed in as ben" in stranger.client.get(path).content.decode()
        assert stranger.client.post(path, {"join": "yes"}).status_code == 302
        assert workshop.members.filter(username="ben").exists()

    @pytest.mark.parametrize(
        ("password", "said"),
        [("short", "too short"), ("password1234", "too common"), ("92837465", "numeric"), ("cleo-of-clay", "similar")],
    )
    def test_a_poor_password_is_refused_and_the_invitation_still_serves(
        self, owner: Api, password: str, said: str
    ) -> None:
        url = owner.good("POST", "workshop/invitations")["url"]
        _, answer = joins(url, username="cleo-of-clays", password1=password, password2=password)
        assert answer.status_code == 422
        assert said in answer.content.decode()
        assert not get_user_model().objects.filter(username="cleo-of-clays").exists()
        assert joins(url, username="cleo", password1=PHRASE, password2=PHRASE)[1].status_code == 302

    def test_taken_back_or_run_out_it_serves_no_more(self, owner: Api) -> None:
        first = owner.good("POST", "workshop/invitations")["url"]
        assert owner.good("GET", "workshop")["invitations"] == 1
        owner.good("DELETE", "workshop/invitations")
        second = owner.good("POST", "workshop/invitations")["url"]
        Invitation.objects.update(until=timezone.now() - datetime.timedelta(seconds=1))
        for url in (first, second):
            assert joins(url, username="cleo", password1=PHRASE, password2=PHRASE)[1].status_code == 404

    def test_only_the_owner_invites_and_they_are_few(
        self, owner: Api, workshop: Workshop, django_user_model: Any
    ) -> None:
        other = Api(member(django_user_model, "cleo", workshop))
        assert "owner" in other.refused("POST", "workshop/invitations")
        assert "owner" in other.refused("DELETE", "workshop/invitations")
        assert other.good("GET", "workshop")["is_yours"] is False
        for _ in range(20):
            owner.good("POST", "workshop/invitations")
        assert "withdraw some" in owner.refused("POST", "workshop/invitations")


class TestMembers:
    def test_one_taken_off_sees_nothing_any_more(
        self, owner: Api, job: Job, workshop: Workshop, django_user_model: Any
    ) -> None:
        user = member(django_user_model, "cleo", workshop)
        other = Api(user)
        other.good("GET", f"jobs/{job.pk}")
        assert owner.call("DELETE", f"workshop/members/{user.pk}")[0] == 204
        other.refused("GET", f"jobs/{job.pk}", status=404)

    def test_members_leave_by_themselves_but_take_nobody_off(
        self, owner: Api, user: Any, workshop: Workshop, django_user_model: Any
    ) -> None:
        cleo, dora = (member(django_user_model, n, workshop) for n in ("cleo", "dora"))
        assert "owner" in Api(cleo).refused("DELETE", f"workshop/members/{dora.pk}")
        assert Api(cleo).call("DELETE", f"workshop/members/{cleo.pk}")[0] == 204
        assert "hand the workshop over" in owner.refused("DELETE", f"workshop/members/{user.pk}")
        owner.good("PUT", f"workshop/members/{dora.pk}/owner")
        assert owner.call("DELETE", f"workshop/members/{user.pk}")[0] == 204
        assert list(workshop.members.values_list("username", flat=True)) == ["dora"]

    def test_nobody_of_another_workshop_is_touched(self, owner: Api, stranger: Api, workshop: Workshop) -> None:
        ben = get_user_model().objects.get(username="ben")
        for method, path in (("DELETE", "workshop/members/{}"), ("PUT", "workshop/members/{}/owner")):
            owner.refused(method, path.format(ben.pk), status=404)
        stranger.refused("DELETE", f"workshop/members/{workshop.owner_id}", status=404)


class TestPasswords:
    def test_a_new_one_for_who_knows_the_old_one(self, api: Api, user: Any) -> None:
        elsewhere = Api(user)
        wrong = {"old_password": "guess", "new_password1": PHRASE + "!", "new_password2": PHRASE + "!"}
        assert b"incorrect" in api.client.post("/password/", wrong).content
        assert api.client.post("/password/", {**wrong, "old_password": PHRASE}).status_code == 302
        assert api.call("GET", "wall")[0] == 200
        assert elsewhere.call("GET", "wall")[0] == 401
        assert Client().post("/sign-in/", {"username": "anna", "password": PHRASE + "!"}).status_code == 302

    def test_guessing_from_one_place_is_paused_whatever_the_names(self, user: Any, settings: Any) -> None:
        settings.AXES_FAILURE_LIMIT = 4
        for k in range(4):
            last = Client().post("/sign-in/", {"username": f"guess{k}", "password": "x"})
        assert last.status_code == 429
        assert b"quarter of an hour" in last.content
        assert Client().post("/sign-in/", {"username": "anna", "password": PHRASE}).status_code == 429
        elsewhere = Client(REMOTE_ADDR="10.0.0.9")
        assert elsewhere.post("/sign-in/", {"username": "anna", "password": PHRASE}).status_code == 302


def test_answers_are_not_kept_by_the_browser_but_pictures_are(api: Api, job: Job) -> None:
    for path in (f"/api/jobs/{job.pk}", "/api/wall", "/", f"/api/jobs/{job.pk}/export/pdf", "/api/nothing"):
        assert api.client.get(path).headers["Cache-Control"] == "no-store"
