"""Pieces, steps, hands on a photo, cameras, phones and tablets over the API."""

from __future__ import annotations

import datetime
import json
import socket
import time
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone

from tests.conftest import SMALL, flat_scene
from tests.core.test_by_hand import DPI, scanned
from tests.remembered import take_photo
from tests.server.conftest import Api
from ypsicline.core.capture.photo import read_photo
from ypsicline.server.devices import tablet
from ypsicline.server.jobs.models import Camera, Job, KeptPhoto, PhoneLink, Photo, Revision, Workshop
from ypsicline.server.photos.cameras import WORK, profile_of
from ypsicline.standins.camera import Piece
from ypsicline.standins.tablet import kidney, lines_of, send


def send_photo(api: Api, job: Job, *data: bytes, **fields: str) -> dict[str, Any]:
    sent = [SimpleUploadedFile(f"{k}.jpg", d) for k, d in enumerate(data)]
    answer = api.client.post(f"/api/jobs/{job.pk}/photos", {"photo": sent, **fields})
    assert answer.status_code == 200, answer.content
    return api.good("GET", f"photos/{answer.json()['id']}")


class TestPieces:
    @pytest.mark.django_db(transaction=True)
    def test_an_old_cover_becomes_several_named_pieces_at_once(
        self, api: Api, job: Job, two_pieces_photo: bytes
    ) -> None:
        photo = send_photo(api, job, two_pieces_photo)
        assert photo["status"] == "choose"
        api.refused("POST", f"photos/{photo['id']}/pieces", {"names": ["", " "]})
        api.good("POST", f"photos/{photo['id']}/pieces", {"names": ["seat", "back"]})
        shown = api.good("GET", f"jobs/{job.pk}")
        assert [p["name"] for p in shown["pieces"]] == ["piece", "seat", "back"]
        assert shown["open_piece"] == shown["pieces"][2]["id"]
        assert "2 outlines captured" in shown["last_change"]
        first = api.do(job.pk, "open_piece", piece=1)["shape"]
        assert float(first["width"]) == pytest.approx(160, abs=3)
        assert (first["photo"], first["outline"]) == (photo["id"], 0)
        api.step(job.pk, "turn over")
        api.good("PUT", f"photos/{photo['id']}/wanted", {"height": "3"})
        api.good("POST", f"photos/{photo['id']}/pieces", {"names": ["seat", "flap"]})
        again = api.good("GET", f"jobs/{job.pk}")
        assert [p["name"] for p in again["pieces"]] == ["piece", "seat", "back", "flap"]
        seat = api.do(job.pk, "open_piece", piece=1)["shape"]
        assert seat["outline"] == 2
        assert [s["words"] for s in seat["steps"]] == ["Turned over: the other face is outward"]

    def test_pieces_are_laid_on_the_table_named_and_taken_away(self, api: Api, job: Job) -> None:
        base = f"jobs/{job.pk}"
        assert api.do(base, "new_piece")["shape"] is None
        result = api.do(base, "measure_round", girth="314.159")
        assert [p["name"] for p in result["pieces"]] == ["piece", "piece 2"]
        named = api.do(base, "name_piece", piece=1, name="lid")
        assert [p["name"] for p in named["pieces"]] == ["piece", "lid"]
        assert api.do(base, "open_piece", piece=0)["shape"]["width"] == "200.0"
        left = api.do(base, "remove_piece", piece=0)
        assert [p["name"] for p in left["pieces"]] == ["lid"]
        assert left["shape"]["width"] == "100.0"
        for piece in (5, -1):
            api.refuse(base, "open_piece", piece=piece)
        api.refuse(base, "name_piece", piece=0, name=" ")

    def test_steps_are_read_switched_off_and_replayed(self, api: Api, job: Job) -> None:
        base = f"jobs/{job.pk}"
        api.step(base, "move corner", ring=0, corner=2, to=[206, 153])
        api.step(base, "corner or smooth", ring=0, corner=1, smooth=True)
        both = api.step(base, "turn over")["shape"]
        assert [s["words"] for s in both["steps"]] == [
            "Corner C moved",
            "Corner B made smooth",
            "Turned over: the other face is outward",
        ]
        assert not both["on_photo"]
        off = api.do(base, "switch_step", step=0, counts=False)["shape"]
        assert [s["on"] for s in off["steps"]] == [False, True, True]
        assert [round(j["point"][0]) for j in off["rings"][0]["joints"]] != [
            round(j["point"][0]) for j in both["rings"][0]["joints"]
        ]
        assert api.do(base, "switch_step", step=0, counts=True)["shape"]["rings"] == both["rings"]
        api.refuse(base, "switch_step", step=9, counts=True)

    def test_a_tolerance_is_tried_without_being_kept(self, api: Api, job: Job) -> None:
        base = f"jobs/{job.pk}"
        api.do(base, "measure_round", girth="600")
        before = api.good("GET", base)
        fine, coarse = (api.good("GET", f"{base}/shape/fit?tolerance_mm={mm}") for mm in (0.2, 5))
        assert {e["kind"] for e in fine[0]["edges"]} == {"arc"}
        assert fine[0]["trace"] == coarse[0]["trace"]
        assert api.good("GET", base)["shape"] == before["shape"]
        for mm in ("0", "50", "nan"):
            api.refused("GET", f"{base}/shape/fit?tolerance_mm={mm}")

    def test_the_rest_of_trueing_up(self, api: Api, job: Job) -> None:
        base = f"jobs/{job.pk}"
        api.do(base, "add_measure", between=[0, 1])
        api.do(base, "set_measure", measure=0, tape="201.5")
        bent = api.do(base, "bend_to_tape")
        assert bent["shape"]["tape"][0]["apart"] in ("0.0", "+ 0.0")
        assert bent["last_change"].startswith("Bent to the tape; the outline moved by up to 0.")
        assert len(api.step(base, "divide", start=0, parts=4)["shape"]["parts"]) == 4
        assert api.step(base, "smooth", by_mm="0.5")["last_change"] == "Smoothed by up to 0.5 mm"
        seam = api.do(
            base, "old_cover", rest="10", edges=[{"edge": 0, "was": "whole"}, {"edge": 1, "was": "cut away", "by": "4"}]
        )
        assert float(seam["shape"]["width"]) == pytest.approx(201.5 - 10 + 4, abs=0.3)
        assert float(seam["shape"]["height"]) == pytest.approx(140, abs=0.3)
        # the line as it was captured stays in sight while the piece lies in its photo's frame
        assert not seam["shape"]["on_photo"]
        assert len(seam["shape"]["before"]) == 1
        away = api.do(base, "move_line", by="4", line="inside")
        assert float(away["shape"]["height"]) == pytest.approx(148, abs=0.3)
        assert api.do(base, "make_panel", name="rest")["panels"][-1]["notch_texts"]

    @pytest.mark.parametrize(
        ("kind", "fields"),
        [
            ("bend_to_tape", {}), ("old_cover", {"edges": []}), ("old_cover", {"edges": [{"edge": 9, "was": "whole"}], "rest": "2"}),
            ("old_cover", {"edges": [{"edge": 0, "was": "unpicked", "by": ""}]}), ("move_line", {"by": "9 m"}), ("old_cover", {"edges": [], "rest": "90"}),
            ("measure_on_off", {"width_on": "500", "width_off": "520", "length_on": "400"}), ("measure_touches", {"apart": "500", "touches": []}),
            ("measure_on_off", {"width_on": "500", "length_on": "400", "stretch_across": "lots"}),
        ],
    )  # fmt: skip
    def test_what_makes_no_sense_is_refused_and_nothing_is_changed(
        self, api: Api, job: Job, kind: str, fields: Any
    ) -> None:
        api.refuse(job.pk, kind, **fields)
        assert Revision.objects.filter(job=job).count() == 1

    @pytest.mark.parametrize(
        ("kind", "fields"),
        [("smooth", {"by_mm": "0"}), ("smooth", {"by_mm": "much"}), ("divide", {"start": 9, "parts": 4}), ("divide", {"start": 0, "parts": 3})],
    )  # fmt: skip
    def test_a_step_that_makes_no_sense_is_refused_and_nothing_is_changed(
        self, api: Api, job: Job, kind: str, fields: Any
    ) -> None:
        api.refuse_step(job.pk, kind, **fields)
        assert Revision.objects.filter(job=job).count() == 1

    def test_a_worn_cover_measured_on_and_off(self, api: Api, job: Job) -> None:
        body = {"width_on": "520", "width_off": "500", "length_on": "400", "stretch_along": "2,5"}
        result = api.do(job.pk, "measure_on_off", **body)
        assert (result["shape"]["width"], result["shape"]["height"]) == ("500.0", "390.2")
        assert "4.0 % stretch in use" in result["last_change"]

    def test_the_capture_is_held_against_the_ease_that_the_brief_names(self, api: Api, job: Job) -> None:
        base = f"jobs/{job.pk}"
        brief = {
            "covers": "tray",
            "against": [],
            "goes_on": "",
            "looseness": "6",
            "sticks_out": "",
            "cloth": "",
            "near": [],
            "notes": "",
        }
        body = {"name": "Splash tray", "for_whom": "", "due": None}
        good = api.do(base, "set_brief", **body, brief=brief)
        assert good["shape"]["verdict"] == "Good for the ease of 6.0 mm: the capture's error is 30 times smaller."
        tight = api.do(base, "set_brief", **body, brief={**brief, "looseness": "0.5"})
        assert "a good part of the ease of 0.5 mm" in tight["shape"]["verdict"]


class TestByHand:
    @pytest.mark.django_db(transaction=True)
    def test_strokes_and_walks_mend_the_outline_and_survive_a_new_detection(
        self, api: Api, job: Job, tray_photo: Callable[..., bytes]
    ) -> None:
        photo = send_photo(api, job, tray_photo())
        at = f"photos/{photo['id']}/outlines/0"
        placed = api.good("GET", at)
        assert len(placed["band"]) > 100
        assert all(e > 0 for _, _, e in placed["band"])
        way = api.good("POST", f"{at}/walk", {"points": [[1, 60], [-1, 220]]})["way"]
        assert max(abs(x) for x, _ in way) < 5
        before = api.good("GET", f"jobs/{job.pk}")["revision"]
        # a notch that isn't there is painted off the left edge, which the photo shows to be straight
        mended = api.good(
            "POST",
            f"{at}/strokes",
            {"strokes": [{"points": [[3, 140], [14, 142], [14, 150], [3, 152]], "width": 8, "piece": False}]},
        )
        assert mended["revision"] == before + 1
        assert [s["words"] for s in mended["shape"]["steps"]] == ["Mended by strokes"]
        back = api.good("POST", f"{at}/walked", {"points": [[0, 100], [0, 200]]})
        assert [s["words"] for s in back["shape"]["steps"]] == ["Mended by strokes", "Edge walked by hand"]
        after = api.step(job.pk, "move corner", ring=0, corner=0, to=[-2, -2])
        joints = [j["point"] for j in after["shape"]["rings"][0]["joints"]]
        assert [-2, -2] in joints
        api.good("PUT", f"photos/{photo['id']}/wanted", {"height": "2"})
        again = api.good("GET", f"jobs/{job.pk}")
        assert again["shape"]["outline"] == 1
        assert len(again["shape"]["steps"]) == 3
        assert [-2, -2] in [j["point"] for j in again["shape"]["rings"][0]["joints"]]

    @pytest.mark.django_db(transaction=True)
    def test_what_can_not_be_told_apart_is_walked_round_by_hand(self, api: Api, job: Job) -> None:
        api.do(job.pk, "new_piece")
        plain = np.array([[-150, -100], [150, -100], [150, 100], [-150, 100]], float)
        photo = send_photo(api, job, take_photo(flat_scene(Piece(plain, (), (205, 189, 159), 0.0)), SMALL))
        assert photo["status"] == "refused"
        assert "walk round its edge by hand" in photo["sentence"]
        at = f"photos/{photo['id']}/outlines/{photo['by_hand']}"
        left, bottom, width, height = api.good("GET", at)["box"]
        assert width > 500
        x, y = left + width / 2, bottom + height / 2
        round_it = {
            "points": [[x - 100, y - 70], [x + 100, y - 70], [x + 100, y + 70], [x - 100, y + 70]],
            "closed": True,
        }
        assert "walk all the way round" in api.refused("POST", f"{at}/walked", {**round_it, "closed": False})
        api.refused("POST", f"{at}/strokes", {"strokes": [{"points": [[x, y]], "width": 8, "piece": True}]})
        assert api.good("POST", f"{at}/walk", round_it)["unseen"]
        # measuring stores findings as well, and would take that of a walk away
        Photo.objects.filter(pk=photo["id"]).update(status=Photo.Status.WORKING)
        assert "being measured" in api.refused("POST", f"{at}/walked", round_it)
        Photo.objects.filter(pk=photo["id"]).update(status=Photo.Status.REFUSED)
        result = api.good("POST", f"{at}/walked", round_it)["shape"]
        # where nothing shows the way may go astray, but no farther than a walk reaches: 30 mm on each side, and a pixel
        assert 150 < float(result["width"]) < 200 + 60 + 1
        assert 90 < float(result["height"]) < 140 + 60 + 1
        assert result["photo"] == photo["id"]
        # that is said, and asked about before a panel is made
        assert float(result["error_mm"]) > 5
        placed = api.good("GET", f"photos/{photo['id']}/outlines/{result['outline']}")
        assert placed["doubtful"]
        assert max(e for _, _, e in placed["band"]) == pytest.approx(
            max(s["off_mm"] for s in placed["doubtful"]), abs=0.1
        )
        assert "doubt" in api.refuse(job.pk, "make_panel", name="lid")

    @pytest.mark.django_db(transaction=True)
    def test_strokes_that_change_nothing_say_so(self, api: Api, job: Job, tray_photo: Callable[..., bytes]) -> None:
        photo = send_photo(api, job, tray_photo())
        strokes = {"strokes": [{"points": [[100, 100], [120, 110]], "width": 8, "piece": True}]}
        assert "change nothing" in api.refused("POST", f"photos/{photo['id']}/outlines/0/strokes", strokes)
        api.refused("POST", f"photos/{photo['id']}/outlines/7/strokes", strokes)

    def test_another_workshop_has_no_hand_in_it(self, stranger: Api, job: Job) -> None:
        photo = Photo.objects.create(
            job=job, file="0" * 64, preview="0" * 64, name="x", width=1, height=1, result={"outlines": [{}]}
        )
        for method, path in (
            ("GET", "found/0"),
            ("POST", "found/0/walk"),
            ("POST", "found/0/strokes"),
            ("POST", "found/0/walked"),
        ):
            body = None if method == "GET" else {"points": [], "strokes": []}
            assert stranger.call(method, f"photos/{photo.pk}/{path}", body)[0] == 404


class TestScansAndTapes:
    @pytest.mark.django_db(transaction=True)
    def test_a_scan_is_measured_by_its_dots_per_inch(self, api: Api, job: Job) -> None:
        import io

        from PIL import Image

        from demo.pieces import circle

        out = io.BytesIO()
        Image.fromarray(scanned(circle((200, 150), 90)).pixels).save(out, "PNG")
        photo = send_photo(api, job, out.getvalue(), dpi=f"{DPI:g}")
        assert (photo["status"], photo["dpi"]) == ("done", "150")
        shape = api.good("GET", f"jobs/{job.pk}")["shape"]
        assert float(shape["width"]) == pytest.approx(180, abs=0.4)
        assert api.call("GET", f"photos/{photo['id']}/outlines/0/flat.jpg")[0] == 200

    def test_tapes_between_sheets_are_kept_changed_and_taken_off(self, api: Api, job: Job) -> None:
        def taped(first: str, second: str, tape: str) -> Any:
            return api.do(job.pk, "set_sheet_distance", first=first, second=second, tape=tape)["sheet_distances"]

        assert taped("A4-01", "a4-03", "60 cm") == [{"first": "a4-01", "second": "a4-03", "tape": "600.0"}]
        assert len(taped("a4-03", "a4-01", "601")) == 1
        assert taped("a4-01", "a4-03", "") == []
        for first, tape in (("b5-01", "600"), ("a4-03", "600"), ("a4-01", "long")):
            api.refuse(job.pk, "set_sheet_distance", first=first, second="a4-03", tape=tape)


class TestCameras:
    @pytest.mark.django_db(transaction=True)
    def test_a_camera_is_calibrated_once_and_found_again_by_its_photos(
        self, api: Api, workshop: Workshop, tray_photo: Callable[..., bytes], stranger: Api
    ) -> None:
        shots = [tray_photo(tilt_deg=22.0, tilt_towards_deg=float(90 * k), seed=k + 60) for k in range(5)]
        sent = [SimpleUploadedFile(f"{k}.jpg", d) for k, d in enumerate(shots)]
        assert api.client.post("/api/cameras", {"photo": sent}).status_code == 200
        (camera,) = api.good("GET", "cameras")
        assert camera["status"] == "done", camera
        assert "from 5 photos" in camera["quality"]
        assert stranger.good("GET", "cameras") == []
        same = read_photo(shots[0])
        row = Camera.objects.get()
        row.name = "Otterbeck Mk 1"
        row.save()
        from dataclasses import replace

        assert profile_of(workshop.pk, replace(same, camera="Otterbeck Mk 1")) is not None
        assert profile_of(workshop.pk, replace(same, camera="Otterbeck Mk 2")) is None
        assert profile_of(workshop.pk, replace(same, camera="Otterbeck Mk 1", focal_px=9000.0)) is None
        assert stranger.call("DELETE", f"cameras/{camera['id']}")[0] == 404
        assert api.good("DELETE", f"cameras/{camera['id']}") == []

    @pytest.mark.django_db(transaction=True)
    def test_photos_that_tell_too_little_are_refused_with_a_reason(
        self, api: Api, tray_photo: Callable[..., bytes]
    ) -> None:
        api.client.post("/api/cameras", {"photo": [SimpleUploadedFile("a.jpg", tray_photo())]})
        (camera,) = api.good("GET", "cameras")
        assert camera["status"] == "refused"
        assert "at least 3 photos" in camera["sentence"]
        assert api.client.post("/api/cameras", {"photo": [SimpleUploadedFile("a.jpg", b"nothing")]}).status_code == 422

    def test_a_calibration_that_was_broken_off_is_given_up_with_a_reason(self, api: Api, workshop: Workshop) -> None:
        Camera.objects.create(workshop=workshop, status=Camera.Status.WORKING, tries=2, files=[])
        WORK.resume()
        (camera,) = api.good("GET", "cameras")
        assert (camera["status"], camera["sentence"]) == (
            "failed",
            "Calibrating was broken off twice; send the photos again.",
        )

    def test_a_sheet_can_be_shown_on_a_screen(self, api: Api) -> None:
        status, board = api.call("GET", "board.png")
        assert status == 200
        assert board.startswith(b"\x89PNG")


class TestPhone:
    def test_off_by_default(self, api: Api, job: Job) -> None:
        assert "LAN=1" in api.refused("POST", f"jobs/{job.pk}/phone")

    @pytest.mark.django_db(transaction=True)
    def test_a_phone_sends_photos_to_its_job_and_sees_no_other(
        self, api: Api, job: Job, tray_photo: Callable[..., bytes], settings: Any, workshop: Workshop
    ) -> None:
        settings.LAN_URL = "http://192.0.2.7:8377"
        link = api.good("POST", f"jobs/{job.pk}/phone")
        assert link["picture"].startswith("data:image/svg+xml")
        token = link["url"].rpartition("/")[2]
        assert token not in json.dumps(list(PhoneLink.objects.values("token_hash")))
        phone = Api(None)
        assert phone.good("GET", f"phone/{token}")["name"] == "Splash tray"
        status, sent = phone.send(f"phone/{token}/photos", "photo", "from-phone.jpg", tray_photo())
        assert status == 200
        assert phone.good("GET", f"phone/{token}")["photos"][0]["status"] == "done"
        assert phone.call("GET", f"phone/{token}/photos/{sent['id']}/preview.jpg")[1].startswith(b"\xff\xd8")
        assert phone.call("GET", f"jobs/{job.pk}")[0] == 401
        other = Job.objects.create(workshop=workshop, ticket=77)
        elsewhere = Photo.objects.create(job=other, file="0" * 64, preview="0" * 64, name="x", width=1, height=1)
        assert phone.call("GET", f"phone/{token}/photos/{elsewhere.pk}/preview.jpg")[0] == 404
        assert phone.call("GET", "phone/not-a-token")[0] == 404
        PhoneLink.objects.update(until=timezone.now() - datetime.timedelta(seconds=1))
        assert phone.call("GET", f"phone/{token}")[0] == 404
        assert phone.send(f"phone/{token}/photos", "photo", "late.jpg", tray_photo())[0] == 404


class TestKeptPhotos:
    def test_photos_of_the_dismantling_are_kept_with_numbered_parts(
        self, api: Api, job: Job, tray_photo: Callable[..., bytes], stranger: Api
    ) -> None:
        status, kept = api.send(f"jobs/{job.pk}/kept-photos", "photo", "hinge.jpg", tray_photo())
        assert (status, kept[0]["name"]) == (200, "hinge.jpg")
        at = f"kept-photos/{kept[0]['id']}"
        marked = api.good("PUT", at, {"note": "left side", "parts": [{"x": 0.4, "y": 0.5, "text": "hinge pin"}]})
        assert marked["parts"] == [{"x": 0.4, "y": 0.5, "text": "hinge pin"}]
        assert api.good("GET", f"jobs/{job.pk}/kept-photos") == [marked]
        assert api.call("GET", f"{at}/preview.jpg")[1].startswith(b"\xff\xd8")
        api.refused("PUT", at, {"note": "", "parts": [{"x": 1.4, "y": 0.5, "text": "off"}]})
        api.refused("PUT", at, {"note": "x" * 500, "parts": []})
        assert stranger.call("GET", f"{at}/preview.jpg")[0] == 404
        assert api.send(f"jobs/{job.pk}/kept-photos", "photo", "x.jpg", b"nothing")[0] == 422
        assert api.good("DELETE", at) == []
        assert not KeptPhoto.objects.exists()


class TestTablet:
    def test_touches_over_the_socket_become_the_outline(
        self, api: Api, stranger: Api, job: Job, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        assert api.good("GET", "tablet")["listening"] is False
        server = tablet.listen(0)
        monkeypatch.setattr(tablet, "_station", tablet.station())
        try:
            touches = [(50.0, 40.0), (550.0, 40.0), *kidney()]
            assert api.good("GET", "tablet")["touches"] == []
            send([*lines_of(touches), "T 1 1", "C", "hello"], server.server_address[1])
            for _ in range(100):
                shown = api.good("GET", "tablet")
                if shown["wrong"]:
                    break
                time.sleep(0.05)
            assert len(shown["touches"]) == len(touches)
            assert "something other than touches" in shown["wrong"]
            # another workshop neither sees nor clears them
            assert stranger.good("GET", "tablet") == {
                "listening": True, "taken": True, "connected": False, "touches": [], "wrong": "",
            }  # fmt: skip
            stranger.good("DELETE", "tablet")
            touched = shown["touches"]
            assert "over 5 % apart" in api.refuse(job.pk, "measure_touches", touches=touched, apart="900")
            result = api.do(job.pk, "measure_touches", touches=touched, apart="502")
            assert float(result["shape"]["width"]) == pytest.approx(300 * 502 / 500, abs=0.6)
            assert "+0.40 %" in result["last_change"]
            assert api.good("DELETE", "tablet")["listening"] is True
            assert api.good("GET", "tablet")["touches"] == []
        finally:
            server.shutdown()
            server.server_close()
            tablet._station = None

    def test_its_port_takes_few_connections_and_no_browser(self, monkeypatch: pytest.MonkeyPatch) -> None:
        server = tablet.listen(0)
        station = tablet.station()
        monkeypatch.setattr(tablet, "_station", station)
        assert station is not None
        station.look(1)
        address = server.server_address
        open_ones: list[socket.socket] = []
        try:
            with socket.create_connection(address, 5) as browser:
                browser.sendall(b"POST / HTTP/1.1\r\nHost: x\r\n\r\nT 100 100\r\n")
                assert browser.recv(10) == b""
            assert station.look(1) == ([], "")
            for _ in range(2):
                open_ones.append(socket.create_connection(address, 5))
            for _ in range(100):
                if station.connected == 2:
                    break
                time.sleep(0.02)
            with socket.create_connection(address, 5) as third:
                assert third.recv(10) == b""
            assert station.connected == 2
        finally:
            for one in open_ones:
                one.close()
            server.shutdown()
            server.server_close()
            tablet._station = None
