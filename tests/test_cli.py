"""The command line, as the contract says: exit 0 and a file, exit 2 and one sentence."""

from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from bench.compare import signed_errors
from tests import shapes
from tests.conftest import TRAY
from ypsicline.cli import main
from ypsicline.core.changes.change import changed
from ypsicline.core.changes.panels import AddPanels
from ypsicline.core.formats.documents import PanelsFile, dump, dump_bundle, load_bundle
from ypsicline.core.job import JobDocument
from ypsicline.core.pattern.features.aperture import Aperture
from ypsicline.core.pattern.features.dart import Dart
from ypsicline.core.pattern.features.layer import Layer
from ypsicline.core.pattern.features.mark_at import MarkAt
from ypsicline.core.pattern.features.pleats import Pleats
from ypsicline.core.pattern.features.taper import Taper
from ypsicline.core.pattern.panel import Panel


@pytest.fixture()
def panels(tmp_path: Path) -> Path:
    path = tmp_path / "panels.json"
    path.write_bytes(
        dump(PanelsFile((Panel("tray", shapes.wave(), holes=(shapes.circle(10, (60, 40), allowance=3),)),)))
    )
    return path


def run(*words: object) -> int:
    try:
        return main([str(w) for w in words])
    except SystemExit as e:
        return int(e.code or 0)


def one_sentence(capsys: pytest.CaptureFixture[str]) -> str:
    said = capsys.readouterr().err
    assert len(said.strip().splitlines()) == 1
    assert "Traceback" not in said
    return said


def test_a_drafted_file_drafts_and_prints_to_the_same(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    fitted = Panel(
        "cover", shapes.square(400, allowance=12),
        features=(
            Dart("edge1", 150, 40, 90),
            Pleats("edge3", 100, 60, 2, 80),
            Taper("edge2", 70, 50, 12),
            Aperture("round", (200, 200), (40, 40), "faced", "post", slit=True, stocked=(250.0,)),
            MarkAt("button", (60, 60)),
            MarkAt("tie", (340, 330)),
            Layer("lining", "cotton", allowance=10)),
    )  # fmt: skip
    set_, once, twice = (tmp_path / f"{n}.json" for n in ("set", "once", "twice"))
    set_.write_bytes(dump(PanelsFile((fitted,))))
    assert run("draft", set_, "--out", once) == 0
    assert run("draft", once, "--out", twice) == 0
    assert once.read_bytes() == twice.read_bytes()
    for kind in ("svg", "dxf", "pdf", "marking"):
        prints = [tmp_path / f"{f.stem}.{kind}" for f in (set_, once)]
        for source, out in zip((set_, once), prints, strict=True):
            assert run("print", source, "--format", kind, "--out", out) == 0
        if kind != "dxf":  # which carries the time of its making
            assert prints[0].read_bytes() == prints[1].read_bytes()
    changed = json.loads(once.read_text())
    changed["panels"][0]["seam_line"][0]["allowance"] = 20
    once.write_text(json.dumps(changed))
    assert run("draft", once, "--out", twice) == 2
    assert "“cover”" in one_sentence(capsys)


def test_sheets_are_written_with_their_pictures_and_list(tmp_path: Path) -> None:
    assert run("sheets", "--paper", "letter", "--count", 2, "--out", tmp_path) == 0
    listed = json.loads((tmp_path / "sheets.json").read_text())["sheets"]
    assert [s["id"] for s in listed] == ["letter-01", "letter-02"]
    picture = Image.open(tmp_path / "sheet-02.png")
    assert picture.size == (2550, 3300)
    assert listed[0]["mm_per_px"] * 2550 == pytest.approx(listed[0]["size_mm"][0], abs=1e-3)
    assert (tmp_path / "sheets.pdf").read_bytes().startswith(b"%PDF")


def test_a_photo_becomes_an_outline_file(tmp_path: Path, tray_photo: Callable[..., bytes]) -> None:
    run("sheets", "--out", tmp_path)
    photo, out, overlay = tmp_path / "p.jpg", tmp_path / "o.json", tmp_path / "o.png"
    photo.write_bytes(tray_photo())
    assert run("outline", photo, "--sheets", tmp_path / "sheets.json", "--out", out, "--overlay", overlay) == 0
    result = json.loads(out.read_text())
    assert set(result) == {
        "version",
        "unit",
        "outline",
        "holes",
        "doubtful",
        "error_mm",
        "mm_per_px",
        "sheets",
        "warnings",
    }
    assert np.abs(signed_errors(np.array(result["outline"]), TRAY)).mean() < 0.2
    assert len(result["sheets"][0]["to_outline"]) == 3
    assert Image.open(overlay).size == (2016, 1512)


def test_a_camera_is_calibrated_and_its_profile_used_with_two_photos(
    tmp_path: Path, tray_photo: Callable[..., bytes]
) -> None:
    run("sheets", "--out", tmp_path)
    photos = []
    for k in range(3):
        photos.append(tmp_path / f"{k}.jpg")
        photos[k].write_bytes(tray_photo(tilt_deg=20.0, tilt_towards_deg=120.0 * k, seed=k + 60))
    sheets, profile, out = tmp_path / "sheets.json", tmp_path / "camera.json", tmp_path / "o.json"
    assert run("calibrate", *photos, "--sheets", sheets, "--out", profile) == 0
    assert run("outline", *photos[:2], "--sheets", sheets, "--camera", profile, "--height", 0, "--out", out) == 0
    assert np.percentile(np.abs(signed_errors(np.array(json.loads(out.read_text())["outline"]), TRAY)), 95) < 0.3


def test_drafting_adds_what_the_contract_names(panels: Path, tmp_path: Path) -> None:
    out = tmp_path / "drafted.json"
    assert run("draft", panels, "--out", out) == 0
    draft = json.loads(out.read_text())
    panel = draft["panels"][0]
    assert {"cutting_line", "cutting_points", "seam_points", "notches", "marks"} <= set(panel)
    assert draft["worked"]
    again = tmp_path / "again.json"
    assert run("draft", out, "--out", again) == 0
    assert json.loads(again.read_text())["panels"][0]["cutting_points"] == panel["cutting_points"]


class TestChange:
    """The same changes as the interface's, made to a job bundle."""

    @pytest.fixture()
    def job(self, tmp_path: Path) -> Path:
        path = tmp_path / "job.json"
        panel = Panel("lid", shapes.square(200, allowance=10))
        path.write_bytes(dump_bundle(changed(JobDocument("Cart"), AddPanels((panel,), "lid.json"))))
        return path

    def changes(self, job: Path, *several: dict) -> Path:
        path = job.with_name("changes.json")
        path.write_text(json.dumps(several[0] if len(several) == 1 else several))
        return path

    def test_lengths_are_read_in_the_unit_that_the_job_has_then(
        self, job: Path, capsys: pytest.CaptureFixture[str]
    ) -> None:
        edge = load_bundle(job.read_bytes()).job.panels[0].seam_line[0].id
        several = ({"kind": "set_unit", "unit": "in"}, {"kind": "set_edges", "edges": [edge], "allowance": "1/2"})
        assert run("change", job, self.changes(job, *several), "--out", job) == 0
        after = load_bundle(job.read_bytes()).job
        assert [e.allowance for e in after.panels[0].seam_line] == [12.7, 10, 10, 10]
        printed = capsys.readouterr().out.splitlines()
        assert len(printed) == 2
        assert printed[1] == "Edge allowance set"

    def test_one_that_cant_be_is_told_by_its_number_and_nothing_is_written(
        self, job: Path, capsys: pytest.CaptureFixture[str]
    ) -> None:
        several = ({"kind": "set_unit", "unit": "cm"}, {"kind": "set_edges", "edges": ["none"], "allowance": 5})
        assert run("change", job, self.changes(job, *several), "--out", job.with_name("after.json")) == 2
        assert one_sentence(capsys).startswith("Change 2: ")
        assert not job.with_name("after.json").exists()


class TestCover:
    def drum(self, tmp_path: Path, **measures: object) -> Path:
        path = tmp_path / "measures.json"
        path.write_text(json.dumps({"version": 1, "measures": {"girth": 812, "height": "15 cm"} | measures}))
        return path

    def test_a_drum_from_its_measures_to_a_print(self, tmp_path: Path) -> None:
        out, draft, printed = (tmp_path / n for n in ("drum.json", "again.json", "drum.pdf"))
        assert run("cover", "drum", "--measures", self.drum(tmp_path), "--out", out) == 0
        file = json.loads(out.read_text())
        assert [p["name"] for p in file["panels"]] == ["top", "bottom", "wall"]
        assert all(j["walk"]["verdict"] == "equal" for j in file["joins"])
        assert {n["kind"] for n in file["notions"]} == {"zip", "filling"}
        assert any("÷ π = 258.5 mm across the seam line" in line for line in file["worked"])
        assert run("draft", out, "--out", draft) == 0
        assert json.loads(draft.read_text())["joins"] == file["joins"]
        assert run("print", out, "--format", "pdf", "--out", printed) == 0

    def test_choices_come_from_a_file_of_their_own(self, tmp_path: Path) -> None:
        choices, out = tmp_path / "choices.json", tmp_path / "drum.json"
        choices.write_text(json.dumps({"closure": "none", "filled": False}))
        assert run("cover", "drum", "--measures", self.drum(tmp_path), "--choices", choices, "--out", out) == 0
        assert json.loads(out.read_text())["notions"] == []

    @pytest.mark.parametrize(
        ("family", "measures", "says"),
        [
            ("tent", {}, "drum"),
            ("drum", {"diameter": 200}, "one of them"),
            ("drum", {"height": None}, "height"),
            ("drum", {"girth": -5}, "girth"),
            ("drum", {"girth": "wide"}, "wide"),
            ("cap", {}, "“ease”"),
        ],
    )
    def test_what_is_unknown_or_cant_be_is_refused_by_name(
        self, tmp_path: Path, capsys: pytest.CaptureFixture[str], family: str, measures: dict[str, object], says: str
    ) -> None:
        given = measures or {"ease": 3}
        out = tmp_path / "out.json"
        assert run("cover", family, "--measures", self.drum(tmp_path, **given), "--out", out) == 2
        assert says in capsys.readouterr().err
        assert not out.exists()

    def test_a_join_that_names_a_panel_that_isnt_there_is_refused(
        self, tmp_path: Path, capsys: pytest.CaptureFixture[str]
    ) -> None:
        out = tmp_path / "drum.json"
        run("cover", "drum", "--measures", self.drum(tmp_path), "--out", out)
        file = json.loads(out.read_text())
        file["joins"][0]["first"][0]["panel"] = "lid"
        out.write_text(json.dumps(file))
        assert run("draft", out, "--out", tmp_path / "x.json") == 2
        assert "lid" in capsys.readouterr().err


@pytest.mark.parametrize(
    ("kind", "start"), [("pdf", b"%PDF"), ("svg", b"<?xml"), ("dxf", b"  0"), ("marking", b"%PDF")]
)
def test_prints_in_every_format(kind: str, start: bytes, panels: Path, tmp_path: Path) -> None:
    out = tmp_path / f"out.{kind}"
    assert run("print", panels, "--format", kind, "--out", out) == 0
    assert out.read_bytes().startswith(start)
    assert run("print", panels, "--format", kind, "--scale", "1:10", "--out", out) == 0


REFUSED = [
    ("sheets", "--count", 13, "--out", "{tmp}"),
    ("sheets", "--paper", "a9", "--out", "{tmp}"),
    ("draft", "{tmp}/missing.json", "--out", "{tmp}/x"),
    ("draft", "{tmp}", "--out", "{tmp}/x"),
    ("draft", "{tmp}/bad.json", "--out", "{tmp}/x"),
    ("change", "{panels}", "{panels}", "--out", "{tmp}/x"),
    ("change", "{tmp}/bad.json", "{panels}", "--out", "{tmp}/x"),
    ("print", "{panels}", "--format", "pdf", "--scale", "0:0", "--out", "{tmp}/x"),
    ("print", "{panels}", "--format", "pdf", "--scale", "abc", "--out", "{tmp}/x"),
    ("print", "{panels}", "--format", "pdf", "--print-scale", "9", "9", "--out", "{tmp}/x"),
    ("print", "{panels}", "--format", "gif", "--out", "{tmp}/x"),
    ("print", "{panels}", "--format", "pdf", "--out", "{tmp}/no/such/place"),
    ("outline", "{tmp}/bad.json", "--sheets", "{tmp}/bad.json", "--out", "{tmp}/x"),
    ("outline", "{tmp}/a.jpg", "{tmp}/b.jpg", "--sheets", "{tmp}/bad.json", "--out", "{tmp}/x"),
    ("stitch",),
    (),
]


@pytest.mark.parametrize("words", REFUSED, ids=lambda w: " ".join(map(str, w))[:50])
def test_refusals_exit_2_with_one_sentence(
    words: tuple, tmp_path: Path, panels: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    (tmp_path / "bad.json").write_text("{")
    filled = [str(w).format(tmp=tmp_path, panels=panels) for w in words]
    assert run(*filled) == 2
    one_sentence(capsys)
    assert not (tmp_path / "x").exists()


def test_several_pieces_are_named_by_their_place(
    tmp_path: Path, two_pieces_photo: bytes, capsys: pytest.CaptureFixture[str]
) -> None:
    run("sheets", "--out", tmp_path)
    (tmp_path / "p.jpg").write_bytes(two_pieces_photo)
    ask = ("outline", tmp_path / "p.jpg", "--sheets", tmp_path / "sheets.json", "--out", tmp_path / "x")
    assert run(*ask) == 2
    assert "2 pieces" in one_sentence(capsys)
    assert run(*ask, "--piece", 2) == 0


def test_a_scan_is_measured_by_its_dots_per_inch(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    from demo.pieces import circle
    from tests.core.test_by_hand import DPI, scanned

    Image.fromarray(scanned(circle((200, 150), 90)).pixels).save(tmp_path / "scan.png")
    scan, out = str(tmp_path / "scan.png"), tmp_path / "o.json"
    assert main(["outline", scan, "--dpi", str(DPI), "--out", str(out)]) == 0
    ring = json.loads(out.read_text())["outline"]
    assert max(x for x, _ in ring) - min(x for x, _ in ring) == pytest.approx(180, abs=0.4)
    assert main(["outline", scan, "--out", str(out)]) == 2
    assert "--sheets" in capsys.readouterr().err
    assert main(["outline", scan, "--dpi", "150", "--height", "3", "--out", str(out)]) == 2
