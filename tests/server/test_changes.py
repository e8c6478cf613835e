"""Shape, draft, photos and files over the API."""

from __future__ import annotations

import io
import json
from collections.abc import Callable
from pathlib import Path
from typing import Any

import ezdxf
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from pypdf import PdfReader

from tests.server.conftest import Api
from ypsicline.core.formats.message_json import from_json
from ypsicline.core.wording import render
from ypsicline.server import files
from ypsicline.server.api import api as ninja
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Job, Photo, Revision
from ypsicline.server.photos import photos


class TestShape:
    def test_a_corner_is_added_moved_and_removed(self, api: Api, job: Job) -> None:
        added = api.step(job.pk, "add corner", ring=0, at=[100, 1])
        assert len(added["shape"]["rings"][0]["joints"]) == 5
        corners = api.good("GET", f"jobs/{job.pk}")["shape"]["rings"][0]["joints"]
        k = next(k for k, j in enumerate(corners) if abs(j["point"][0] - 100) < 2)
        after = api.step(job.pk, "move corner", ring=0, corner=k, to=[100, -12])
        assert after["shape"]["rings"][0]["joints"][k]["point"] == [100, -12]
        assert after["last_change"] == f"Corner {chr(65 + k)} moved"
        removed = api.step(job.pk, "remove corner", ring=0, corner=k)
        assert len(removed["shape"]["rings"][0]["edges"]) == 4

    def test_the_tape_list_follows_corners_that_are_numbered_anew(self, api: Api, job: Job) -> None:
        before = api.do(job.pk, "add_measure", between=[1, 3])["shape"]["tape"][0]
        after = api.step(job.pk, "add corner", ring=0, at=[100, 0])["shape"]["tape"][0]
        assert after["outline"] == before["outline"]
        gone = api.step(job.pk, "remove corner", ring=0, corner=ord(after["name"][0]) - 65)
        assert gone["shape"]["tape"] == []

    def test_the_tape_is_typed_as_people_type_it(self, api: Api, job: Job) -> None:
        api.do(job.pk, "add_measure", edge=0)
        said = api.do(job.pk, "set_measure", measure=0, tape="15,0 cm")["shape"]["tape"][0]
        assert said["tape"] == "150.0"
        assert "can't be read" in api.refuse(job.pk, "set_measure", measure=0, tape="lots")
        assert api.do(job.pk, "remove_measure", measure=0)["shape"]["tape"] == []

    def test_an_edge_is_straightened_and_the_tolerance_set(self, api: Api, job: Job) -> None:
        answer = api.step(job.pk, "edge kind", ring=0, edge=2, choice="line")
        assert answer["shape"]["rings"][0]["joints"][2]["next_kind"] == "line"
        assert api.step(job.pk, "find corners", tolerance_mm="1")["shape"]["tolerance"] == "1.0"

    @pytest.mark.parametrize(
        "step",
        [
            {"kind": "add corner", "ring": 5, "at": [1, 1]}, {"kind": "add corner", "ring": 0, "at": ["NaN", 1]},
            {"kind": "add corner", "ring": 0, "at": [1e300, 1e300]}, {"kind": "remove corner", "ring": 0, "corner": 44},
            {"kind": "move corner", "ring": 0, "corner": 0, "to": [1e12, 0]}, {"kind": "edge kind", "ring": 0, "edge": 9, "choice": "line"},
            {"kind": "edge kind", "ring": 0, "edge": 0, "choice": "spiral"}, {"kind": "find corners", "tolerance_mm": "-3"},
            {"kind": "find corners", "tolerance_mm": "90"}, {"kind": "redraw", "moves": []}, {"kind": "remove corner", "ring": -1, "corner": [0, 0]},
        ],
    )  # fmt: skip
    def test_a_step_that_makes_no_sense_is_refused_and_nothing_is_changed(
        self, api: Api, job: Job, step: dict[str, Any]
    ) -> None:
        api.refuse_step(job.pk, **step)
        assert Revision.objects.filter(job=job).count() == 1

    @pytest.mark.parametrize(
        "change",
        [
            {"kind": "add_measure", "between": [0, 99]}, {"kind": "add_measure"}, {"kind": "set_measure", "measure": 7, "tape": "1"},
            {"kind": "remove_measure", "measure": 0}, {"kind": "set_sheet_scale", "across": "50", "up": "100"},
            {"kind": "take_step"}, {"kind": "no_such_change"}, {"kind": 7},
        ],
    )  # fmt: skip
    def test_what_makes_no_sense_is_refused_and_nothing_is_changed(
        self, api: Api, job: Job, change: dict[str, Any]
    ) -> None:
        api.refuse(job.pk, **change)
        assert Revision.objects.filter(job=job).count() == 1

    def test_without_an_outline_there_is_nothing_to_true_up(self, api: Api) -> None:
        bare = api.good("POST", "jobs", {"name": "bare"})
        assert "no outline yet" in api.refuse_step(bare["id"], "add corner", ring=0, at=[1, 1])


LABEL = {"panel": 0, "name": "t", "cloth": "c", "count": 1, "hand": "single", "grain_deg": 0, "way_up": ""}


class TestDraft:
    def test_a_panel_is_made_of_the_outline_and_its_edges_are_set(self, api: Api, job: Job) -> None:
        panels = api.do(job.pk, "make_panel", name="lid")["panels"]
        assert [p["name"] for p in panels] == ["tray", "lid"]
        edge = api.do(
            job.pk,
            "set_edges",
            edges=[[1, 0, 0], [1, 0, 2]],
            allowance='1/2"',
            finish="hem",
            corner="square",
            name="rim",
        )["panels"][1]["rings"][0][2]
        assert (edge["allowance"], edge["finish"], edge["corner"], edge["name"]) == ("12.7", "hem", "square", "rim")
        assert (edge["corner_set"], edge["by_rule"]) == ("square", False)
        assert edge["of"] == history.current(Job.objects.get(pk=job.pk)).panels[1].seam_line[2].id

    def test_lengths_follow_the_unit_of_the_job(self, api: Api, job: Job) -> None:
        api.do(job.pk, "set_unit", unit="in")
        edge = api.do(job.pk, "set_edges", edges=[[0, 0, 0]], allowance="5/8")["panels"][0]["rings"][0][0]
        assert (edge["allowance"], edge["length"]) == ("5/8", "3 15/16")

    def test_label_and_grain(self, api: Api, job: Job) -> None:
        label = {"name": "tray", "cloth": "canvas", "count": 2, "hand": "pair", "grain_deg": 45, "way_up": "TOP"}
        panel = api.do(job.pk, "set_panel", panel=0, **label)["panels"][0]
        assert panel["instruction"] == "cut 2 pairs · canvas"

    def test_notches(self, api: Api, job: Job) -> None:
        added = api.do(
            job.pk, "set_feature", panel=0, feature={"kind": "notch", "edge": 0, "along": "2,5 cm", "double": True}
        )["panels"][0]
        assert added["notch_texts"][-1] == "25.0"
        left = api.do(job.pk, "remove_notch", panel=0, notch=0)["panels"][0]
        assert len(left["draft"]["notches"]) == 4

    @pytest.mark.parametrize(
        ("kind", "fields"),
        [
            ("make_panel", {"name": ""}), ("make_panel", {"name": "tray"}), ("remove_panel", {"panel": 4}),
            ("set_edges", {"edges": [[0, 0, 9]], "allowance": "5"}), ("set_edges", {"edges": [[0, 0, 0]], "allowance": "-5"}),
            ("set_edges", {"edges": [[0, 0, 0]], "allowance": "9 m"}), ("set_edges", {"edges": [[0, 0, 0]], "finish": "glue"}),
            ("set_edges", {"edges": "all"}), ("set_edges", {"edges": [[9, 0, 0]]}),
            ("set_feature", {"panel": 0, "feature": {"kind": "glue"}}), ("set_feature", {"panel": 0, "feature": {"kind": "notch", "edge": 50, "along": "5"}}),
            ("remove_notch", {"panel": 0, "notch": 50}), ("set_panel", {**LABEL, "count": 0}), ("set_panel", {**LABEL, "hand": "third"}),
            ("set_panel", {**LABEL, "grain_deg": 1e9}),
        ],
    )  # fmt: skip
    def test_what_makes_no_sense_is_refused_and_nothing_is_changed(
        self, api: Api, job: Job, kind: str, fields: dict[str, Any]
    ) -> None:
        api.refuse(job.pk, kind, **fields)
        assert Revision.objects.filter(job=job).count() == 1

    def test_a_panel_is_removed(self, api: Api, job: Job) -> None:
        assert api.do(job.pk, "remove_panel", panel=0)["panels"] == []


class TestPhotos:
    def send(self, api: Api, job: Job, data: bytes, name: str = "tray.jpg") -> tuple[int, Any]:
        return api.send(f"jobs/{job.pk}/photos", "photo", name, data)

    @pytest.mark.django_db(transaction=True)
    def test_a_photo_becomes_the_outline_and_can_be_undone(
        self, api: Api, job: Job, tray_photo: Callable[..., bytes]
    ) -> None:
        status, photo = self.send(api, job, tray_photo())
        assert status == 200
        done = api.good("GET", f"photos/{photo['id']}")
        assert (done["status"], done["share"]) == ("done", 1.0)
        shape = api.good("GET", f"jobs/{job.pk}")["shape"]
        assert len(shape["rings"]) == 2
        assert shape["error"].endswith("mm")
        left, bottom, width, height = api.good("GET", f"photos/{photo['id']}/outlines/0")["box"]
        assert left < 0 < 400 < left + width
        assert bottom < 0 < 300 < bottom + height
        assert api.call("GET", f"photos/{photo['id']}/outlines/0/flat.jpg")[1].startswith(b"\xff\xd8")
        assert api.call("GET", f"photos/{photo['id']}/preview.jpg")[1].startswith(b"\xff\xd8")
        assert len(api.good("POST", f"jobs/{job.pk}/undo")["shape"]["rings"]) == 1

    @pytest.mark.django_db(transaction=True)
    def test_a_photo_that_cant_be_used_says_why_and_changes_nothing(self, api: Api, job: Job) -> None:
        from PIL import Image

        out = io.BytesIO()
        Image.new("RGB", (1000, 800), "grey").save(out, "JPEG")
        _, photo = self.send(api, job, out.getvalue())
        refusal = api.good("GET", f"photos/{photo['id']}")
        assert refusal["status"] == "refused"
        assert "No reference sheet" in refusal["sentence"]
        assert Revision.objects.filter(job=job).count() == 1
        api.refused("GET", f"photos/{photo['id']}/outlines/0")

    @pytest.mark.django_db(transaction=True)
    def test_photos_sent_together_are_measured_together_and_again_for_something_else(
        self, api: Api, job: Job, tray_photo: Callable[..., bytes]
    ) -> None:
        sent = [
            SimpleUploadedFile(f"{k}.jpg", tray_photo(tilt_towards_deg=float(90 * k), seed=k + 40)) for k in range(2)
        ]
        answer = api.client.post(f"/api/jobs/{job.pk}/photos", {"photo": sent, "height": "0"}).json()
        (photo,) = api.good("GET", f"jobs/{job.pk}")["photos"]
        assert (photo["id"], photo["status"], len(photo["together"])) == (answer["id"], "done", 2)
        assert "10.0 mm left out" in photo["if_higher"]
        narrow = api.good("GET", f"jobs/{job.pk}")["shape"]["box"][2]
        api.good("PUT", f"photos/{photo['id']}/wanted", {"kind": "piece", "height": "6 mm"})
        wide = api.good("GET", f"jobs/{job.pk}")["shape"]["box"][2]
        # seen at the same place but nearer to the camera, it is smaller
        assert 0.985 * narrow < wide < narrow * 0.997
        assert "above the sheets" in api.refused("PUT", f"photos/{photo['id']}/wanted", {"height": "3 m"})
        api.refused("PUT", f"photos/{photo['together'][1]}/wanted", {"kind": "line"})

    def test_of_photos_sent_together_the_one_that_is_none_is_named(
        self, api: Api, job: Job, tray_photo: Callable[..., bytes]
    ) -> None:
        sent = [SimpleUploadedFile("good.jpg", tray_photo()), SimpleUploadedFile("bad.jpg", b"nothing")]
        answer = api.client.post(f"/api/jobs/{job.pk}/photos", {"photo": sent})
        assert answer.status_code == 422
        assert answer.json()["sentence"].startswith("bad.jpg: ")
        assert not Photo.objects.exists()

    @pytest.mark.django_db(transaction=True)
    def test_of_several_pieces_one_is_chosen(self, api: Api, job: Job, two_pieces_photo: bytes) -> None:
        _, photo = self.send(api, job, two_pieces_photo)
        asked = api.good("GET", f"photos/{photo['id']}")
        assert asked["status"] == "choose"
        assert len(asked["outlines_px"]) == 2
        api.refused("POST", f"photos/{photo['id']}/pieces", {"names": ["a", "b", "c", "d", "e", "f"]})
        assert api.good("POST", f"photos/{photo['id']}/pieces", {"names": ["left"]})["id"] == photo["id"]
        assert api.good("GET", f"photos/{photo['id']}")["status"] == "done"
        api.refused("POST", f"photos/{photo['id']}/pieces", {"names": ["left"]})

    @pytest.mark.parametrize("data", [b"", b"GIF89a", b"\xff\xd8\xff" + b"\0" * 500, b"<svg/>"])
    def test_what_is_no_photo_is_refused_before_anything_is_kept(
        self, api: Api, job: Job, data: bytes, settings: Any
    ) -> None:
        status, answer = self.send(api, job, data)
        assert status == 422
        assert answer["sentence"]
        assert not Photo.objects.exists()
        assert not Path(settings.FILES).exists() or not any(Path(settings.FILES).rglob("*"))

    @pytest.mark.django_db(transaction=True)
    def test_work_broken_off_is_taken_up_again_once_and_then_given_up(
        self, job: Job, tray_photo: Callable[..., bytes]
    ) -> None:
        def stuck(tries: int, status: str = "working") -> Photo:
            kept = files.keep(tray_photo())
            return Photo.objects.create(
                job=job, file=kept, preview=kept, name="p", width=1, height=1, status=status, tries=tries
            )

        once, twice, without_task = stuck(1), stuck(2), stuck(0, "waiting")
        assert photos.WORK.resume(at_start=True) == 1
        without_task.refresh_from_db()
        assert without_task.status == "done"
        once.refresh_from_db()
        twice.refresh_from_db()
        assert once.status == "done"
        assert twice.status == "failed"
        assert "broken off twice" in render(from_json(twice.sentence))

    @pytest.mark.django_db(transaction=True)
    def test_a_bug_while_measuring_fails_the_photo_with_a_sentence(
        self, api: Api, job: Job, tray_photo: Callable[..., bytes], monkeypatch: pytest.MonkeyPatch
    ) -> None:
        monkeypatch.setattr(photos, "capture_in", lambda *_a, **_k: 1 / 0)
        _, photo = self.send(api, job, tray_photo())
        assert api.good("GET", f"photos/{photo['id']}")["status"] == "failed"

    def test_files_are_kept_by_content_and_only_under_their_own_names(self) -> None:
        first, second = files.keep(b"same"), files.keep(b"same")
        assert first == second
        assert files.path_of(first).read_bytes() == b"same"
        for name in ("../../etc/passwd", "x" * 64, ""):
            with pytest.raises(ValueError, match="not the name"):
                files.path_of(name)


class TestFiles:
    def test_prints_and_files_come_out(self, api: Api, job: Job) -> None:
        pdf = api.good("GET", f"jobs/{job.pk}/export/pdf?paper=letter")
        assert "Splash tray" in PdfReader(io.BytesIO(pdf)).pages[0].extract_text()
        assert api.good("GET", f"jobs/{job.pk}/export/svg").startswith(b"<?xml")
        assert b"SEAM_LINE" in api.good("GET", f"jobs/{job.pk}/export/dxf")
        assert json.loads(api.good("GET", f"jobs/{job.pk}/export/panels.json"))["version"] == 1
        assert api.good("GET", "sheets.pdf?paper=a3&count=2").startswith(b"%PDF")

    def test_panels_are_read_back_from_every_format(self, api: Api, job: Job) -> None:
        for kind in ("svg", "dxf", "panels.json"):
            data = api.good("GET", f"jobs/{job.pk}/export/{kind}")
            status, answer = api.send(f"jobs/{job.pk}/read", "file", f"tray.{kind}", data)
            assert status == 200, answer
        names = [p["name"] for p in api.good("GET", f"jobs/{job.pk}")["panels"]]
        assert len(set(names)) == len(names) > 4

    def test_what_a_drawing_leaves_open_is_asked(self, api: Api, job: Job) -> None:
        svg = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 30"><rect width="20" height="10"/></svg>'
        path, count = f"jobs/{job.pk}/read", len(api.good("GET", f"jobs/{job.pk}")["panels"])
        status, answer = api.send(path, "file", "lid.svg", svg)
        assert (status, answer["reason"]) == (422, "unknown_size")
        assert api.send(path, "file", "lid.svg", svg, width="wide")[0] == 422
        status, answer = api.send(path, "file", "lid.svg", svg, width="20 cm")
        assert status == 200
        assert len(answer["panels"]) == count + 1
        assert (answer["panels"][-1]["width"], answer["panels"][-1]["height"]) == ("200.0", "100.0")
        document = ezdxf.new("R2010", units=4)
        document.layers.add("OLD").off()
        document.modelspace().add_circle((0, 0), 40, dxfattribs={"layer": "OLD"})
        document.modelspace().add_circle((0, 0), 90)
        out = io.StringIO()
        document.write(out)
        dxf = out.getvalue().encode()
        assert api.send(path, "file", "lid.dxf", dxf)[1]["reason"] == "hidden_layers"
        assert api.send(path, "file", "lid.dxf", dxf, hidden="leave")[0] == 200

    def test_hostile_drawings_stop_only_themselves(self, api: Api, job: Job) -> None:
        path = f"jobs/{job.pk}/read"
        head = b'<svg xmlns="http://www.w3.org/2000/svg" width="90mm" viewBox="0 0 90 90">'
        use = "".join(f'<g id="g{k}">{10 * f"""<use href="#g{k - 1}"/>"""}</g>' for k in range(1, 9)).encode()
        nested = head + b'<defs><rect id="g0" width="5" height="5"/>' + use + b'</defs><use href="#g8"/></svg>'
        long = head + b'<path d="M0 0 ' + b"L1 2 L2 1 " * 500_000 + b'Z"/></svg>'
        deep = head + b"<g>" * 50_000 + b"</g>" * 50_000 + b"</svg>"
        many = (
            head
            + b"".join(b'<circle cx="%d" cy="%d" r="2"/>' % (k % 50 * 9, k // 50 * 9) for k in range(300))
            + b"</svg>"
        )
        for data in (nested, long, deep, many):
            status, answer = api.send(path, "file", "lid.svg", data)
            assert status == 422, answer
            assert answer["sentence"].endswith(".")
        assert Revision.objects.filter(job=job).count() == 1

    def test_a_job_bundle_becomes_a_new_job(self, api: Api, job: Job) -> None:
        bundle = api.good("GET", f"jobs/{job.pk}/export/job.json")
        status, fresh = api.send("job-files", "file", "job.json", bundle)
        assert status == 200
        assert fresh["ticket"] == job.ticket + 1
        again = Job.objects.get(pk=fresh["id"])
        assert history.current(again) == history.current(job)

    @pytest.mark.parametrize(
        ("name", "data"), [("a.svg", b"<svg"), ("a.dxf", b"0"), ("a.json", b"{}"), ("a.exe", b"MZ"), ("noname", b"")]
    )
    def test_a_wrong_file_is_refused_and_nothing_is_changed(self, api: Api, job: Job, name: str, data: bytes) -> None:
        for path in (f"jobs/{job.pk}/read", "job-files"):
            status, answer = api.send(path, "file", name, data)
            assert status == 422, answer
        assert Job.objects.count() == 1
        assert Revision.objects.filter(job=job).count() == 1

    def test_the_print_scale_adds_up_over_prints_and_is_cleared(self, api: Api, job: Job) -> None:
        api.do(job.pk, "set_print_scale", across="98", up="100")
        scale = api.do(job.pk, "set_print_scale", across="100,5", up="3.95 in")["print_scale"]
        assert scale == pytest.approx([1 / 0.98 / 1.005, 100 / (3.95 * 25.4)])
        assert api.do(job.pk, "clear_print_scale")["print_scale"] == [1, 1]
        api.refuse(job.pk, "set_print_scale", across="9.8", up="100")

    @pytest.mark.parametrize(
        "path", ["export/gif", "export/pdf?paper=a9", "export/model.pdf?model=3", "export/pdf?model=x"]
    )
    def test_a_print_that_isnt_there_is_refused(self, api: Api, job: Job, path: str) -> None:
        api.refused("GET", f"jobs/{job.pk}/{path}")

    def test_without_panels_there_is_nothing_to_print(self, api: Api) -> None:
        bare = api.good("POST", "jobs", {"name": "bare"})
        assert "no panel to print" in api.refused("GET", f"jobs/{bare['id']}/export/pdf")


def test_the_schema_in_docs_is_the_one_that_is_served() -> None:
    kept = json.loads((Path(__file__).parents[2] / "docs" / "openapi.json").read_text())
    served = json.loads(json.dumps(ninja.get_openapi_schema()))
    assert served == kept, "run make schema"


def test_a_bug_is_answered_with_a_sentence_and_its_number(api: Api, job: Job, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(history, "undo", lambda _id: 1 / 0)
    status, answer = api.call("POST", f"jobs/{job.pk}/undo")
    assert status == 500
    assert "nothing was changed" in answer["sentence"]
