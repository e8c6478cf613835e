"""Pointing at the piece in a photo, and settling what the photo leaves in doubt."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from tests.conftest import DARK, SMALL, TRAY, flat_scene
from tests.remembered import take_photo
from tests.server.conftest import Api
from ypsicline.core.capture.scene import read_scene
from ypsicline.server.jobs.models import Job, Photo
from ypsicline.server.photos import scenes
from ypsicline.standins.camera import Piece, project


def sent(api: Api, job: Job, data: bytes) -> dict[str, object]:
    answer = api.client.post(f"/api/jobs/{job.pk}/photos", {"photo": [SimpleUploadedFile("a.jpg", data)]})
    assert answer.status_code == 200, answer.content
    return api.good("GET", f"photos/{answer.json()['id']}")


def pointed(api: Api, photo: dict[str, object], place: tuple[float, float]) -> dict[str, object]:
    api.good("POST", f"photos/{photo['id']}/taps", {"piece": [place]})
    return api.good("GET", f"photos/{photo['id']}")


@pytest.mark.django_db(transaction=True)
class TestPointing:
    def test_a_tap_settles_which_piece_is_meant(self, api: Api, job: Job, two_pieces_photo: bytes) -> None:
        photo = sent(api, job, two_pieces_photo)
        assert photo["status"] == "choose"
        x, y = project(SMALL, np.array([[110.0, 0.0]]))[0] / np.array(SMALL.size)
        assert pointed(api, photo, (x, y))["status"] == "done"
        shape = api.good("GET", f"jobs/{job.pk}")["shape"]
        assert (float(shape["width"]), float(shape["height"])) == pytest.approx((140, 160), abs=3)
        assert Photo.objects.get(pk=photo["id"]).taps["piece"] == [[x, y]]

    def test_the_photo_that_was_measured_last_isnt_read_anew_to_be_pointed_at(
        self, api: Api, job: Job, two_pieces_photo: bytes, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        read: list[float] = []
        monkeypatch.setattr(scenes, "_last", scenes._Last())
        monkeypatch.setattr(
            scenes, "read_scene", lambda *a, **how: read.append(how["height_mm"]) or read_scene(*a, **how)
        )
        photo = sent(api, job, two_pieces_photo)
        x, y = project(SMALL, np.array([[110.0, 0.0]]))[0] / np.array(SMALL.size)
        pointed(api, photo, (x, y))
        at_once = api.good("GET", f"jobs/{job.pk}")["shape"]
        assert read == [0.0]
        # told another height it is measured anew, and then gives just what it gives anyway
        api.good("PUT", f"photos/{photo['id']}/wanted", {"height": "10 mm"})
        api.good("PUT", f"photos/{photo['id']}/wanted", {"height": ""})
        assert read == [0.0, 10.0, 0.0]
        afresh = api.good("GET", f"jobs/{job.pk}")["shape"]
        assert [r["edges"] for r in afresh["rings"]] == [r["edges"] for r in at_once["rings"]]

    def test_a_height_that_comes_back_as_it_was_shown_stays_exact(
        self, api: Api, job: Job, two_pieces_photo: bytes
    ) -> None:
        photo = sent(api, job, two_pieces_photo)
        api.good("PUT", f"photos/{photo['id']}/wanted", {"height": "10 mm"})
        api.do(job.pk, "set_unit", unit="in")
        shown = api.good("GET", f"photos/{photo['id']}")["height"]
        assert shown == "≈ 25/64"
        api.good("PUT", f"photos/{photo['id']}/wanted", {"height": shown, "by_profile": False})
        assert Photo.objects.get(pk=photo["id"]).height_mm == 10.0

    def test_a_tap_on_the_bare_table_is_answered_and_leaves_the_table_to_walk_on(
        self, api: Api, job: Job, two_pieces_photo: bytes
    ) -> None:
        photo = sent(api, job, two_pieces_photo)
        x, y = project(SMALL, np.array([[0.0, -285.0]]))[0] / np.array(SMALL.size)
        answer = pointed(api, photo, (x, y))
        assert answer["status"] == "refused"
        assert "where you pointed" in answer["sentence"]
        assert answer["by_hand"] is not None

    def test_impossible_taps_are_refused_and_nothing_changes(self, api: Api, job: Job, two_pieces_photo: bytes) -> None:
        photo = sent(api, job, two_pieces_photo)
        path = f"photos/{photo['id']}/taps"
        for taps in ({}, {"piece": [[1.5, 0.2]]}, {"table": [[0.1, 0.1]] * 50}, {"piece": [[-1e308, 0.5]]}):
            api.refused("POST", path, taps)
        assert api.good("GET", f"photos/{photo['id']}")["status"] == "choose"

    def test_strangers_cant_point(self, api: Api, stranger: Api, job: Job, two_pieces_photo: bytes) -> None:
        photo = sent(api, job, two_pieces_photo)
        stranger.refused("POST", f"photos/{photo['id']}/taps", {"piece": [[0.5, 0.5]]}, status=404)


@pytest.mark.django_db(transaction=True)
def test_no_panel_is_made_before_a_doubtful_edge_is_settled(api: Api, job: Job) -> None:
    scene = flat_scene(Piece(TRAY, (), DARK))
    covered = replace(scene, sheets=(replace(scene.sheets[0], centre=(255.0, 0.0)), *scene.sheets[1:]))
    photo = sent(api, job, take_photo(covered, SMALL))
    assert photo["status"] == "refused"
    assert "lies against or over the piece" in photo["sentence"]
    assert pointed(api, photo, (0.5, 0.5))["status"] == "done"
    base = f"jobs/{job.pk}"
    of = f"photos/{photo['id']}/outlines/{api.good('GET', base)['shape']['outline']}"
    doubts = api.good("GET", of)["doubtful"]
    assert doubts
    assert not any(d["is_settled"] for d in doubts)
    assert "in doubt" in api.refuse(base, "make_panel", name="top")
    for k in range(len(doubts)):
        steps = api.good("POST", f"{of}/right", {"stretches": [k]})["shape"]["steps"]
        assert "it is right" in steps[-1]["words"]
    assert all(d["is_settled"] for d in api.good("GET", of)["doubtful"])
    assert api.do(base, "make_panel", name="top")["panels"][-1]["name"] == "top"
    api.refused("POST", f"{of}/right", {"stretches": [99]})
    api.good("POST", f"{base}/undo")
    api.good("POST", f"{base}/undo")
    assert [d["is_settled"] for d in api.good("GET", of)["doubtful"]].count(False) == 1
