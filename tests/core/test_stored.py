"""Jobs as they are stored: what was stored by any version reads and drafts to the same points; a change costs what it changes."""

from __future__ import annotations

import json
import math
import zlib
from collections.abc import Collection
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from tests import shapes
from ypsicline.core.changes.change import changed
from ypsicline.core.changes.edges import SetEdges
from ypsicline.core.changes.pieces import TakeStep
from ypsicline.core.drafting.draft import draft_panels
from ypsicline.core.errors import Refusal
from ypsicline.core.formats import stored
from ypsicline.core.formats.message_json import as_json
from ypsicline.core.formats.stored import StoredJob, pack, parts_of, unpack
from ypsicline.core.identified import identified
from ypsicline.core.job import Brief, JobDocument, PhotoOf
from ypsicline.core.messages import Message
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.steps import MoveCorner, replay
from ypsicline.core.trueing.shape import true_up

SAMPLES = Path(__file__).parents[1] / "data" / "stored"
NO_PARTS: dict[str, bytes] = {}


def traced(turn: float = 0.0) -> JobDocument:
    """A job with a captured piece of a thousand points and two panels."""
    at = np.linspace(0, 2 * math.pi, 1000, endpoint=False)
    wave = 200 + 20 * np.sin(3 * at + turn)
    ring = [(round(float(x), 3), round(float(y), 3)) for x, y in zip(wave * np.cos(at), wave * np.sin(at), strict=True)]
    panels = (Panel("tray", shapes.square(100)), Panel("lid", shapes.square(120)))
    return identified(JobDocument("Wave", brief=Brief("lid"), panels=panels).with_outline(true_up(ring, error_mm=0.2)))


class Shelf:
    """Where parts are stored, as a database keeps them."""

    def __init__(self, *all_stored: StoredJob) -> None:
        self.parts: dict[str, bytes] = {}
        self.asked: list[set[str]] = []
        for one in all_stored:
            self.parts |= one.parts(one.names - self.parts.keys())

    def fetch(self, names: Collection[str]) -> dict[str, bytes]:
        self.asked.append(set(names))
        return {n: self.parts[n] for n in names if n in self.parts}


@pytest.fixture(autouse=True)
def forgetful(monkeypatch: pytest.MonkeyPatch) -> None:
    """As after a restart: nothing is known of what was read or written before."""
    monkeypatch.setattr(stored, "_CACHE", stored._Cache())


def read_afresh(one: StoredJob, shelf: Shelf, monkeypatch: pytest.MonkeyPatch) -> JobDocument:
    monkeypatch.setattr(stored, "_CACHE", stored._Cache())
    return unpack(one.manifest, shelf.fetch)


def test_what_is_stored_reads_as_the_same(monkeypatch: pytest.MonkeyPatch) -> None:
    job = traced()
    one = pack(job)
    shelf = Shelf(one)
    assert parts_of(one.manifest) == one.names == set(shelf.parts)
    assert read_afresh(one, shelf, monkeypatch) == job
    assert len(shelf.asked) == 1
    # what is known isn't fetched again
    assert unpack(one.manifest, shelf.fetch) == job
    assert len(shelf.asked) == 1


def test_a_change_stores_what_it_changes_and_a_trace_is_stored_once(monkeypatch: pytest.MonkeyPatch) -> None:
    job = traced()
    first = pack(job)
    wider = changed(job, SetEdges((job.panels[1].seam_line[0].id,), allowance=21.0))
    second = pack(wider)
    (new,) = second.names - first.names
    assert len(second.parts([new])[new]) < 600
    joint = job.pieces[0].shape.outline.joints[0].point
    after = changed(wider, TakeStep(MoveCorner(0, joint, (joint[0] + 3, joint[1]))))
    third = pack(after)
    # the piece's own part; its trace and its captured shape's are one and stay
    assert len(third.names - second.names) == 1
    assert sum(map(len, third.parts(third.names - second.names).values())) < 2_000
    shelf = Shelf(first, second, third)
    for one, document in ((first, job), (second, wider), (third, after)):
        assert read_afresh(one, shelf, monkeypatch) == document


@pytest.mark.parametrize("name", ["captured", "panels"])
def test_what_the_version_before_stored_drafts_to_the_same_points(name: str) -> None:
    job = unpack((SAMPLES / f"version-0-{name}.json.zlib").read_bytes(), lambda _: NO_PARTS)
    asked = json.loads((SAMPLES / f"version-0-{name}.cutting.json").read_text())
    draft = {p.name: p.cutting_points for p in draft_panels(job.panels, job.house)}
    assert draft.keys() == asked.keys()
    for panel, points in asked.items():
        assert np.abs(np.array(points) - np.array(draft[panel])).max() < 1e-6
    one = pack(job)
    assert unpack(one.manifest, Shelf(one).fetch) == job


def test_what_version_1_stored_reads(monkeypatch: pytest.MonkeyPatch) -> None:
    sample = json.loads((SAMPLES / "version-1.json").read_text())
    parts = {n: zlib.compress(json.dumps(p).encode()) for n, p in sample["parts"].items()}
    job = unpack(zlib.compress(json.dumps(sample["manifest"]).encode()), lambda names: {n: parts[n] for n in names})
    assert [p.name for p in job.panels] == ["tray", "lid"]
    assert job.pieces[0].steps[0].words == "Corner A moved"
    assert len(job.pieces[0].trace.outline.points) == 1000
    assert job.due is not None


def test_a_piece_that_version_2_stored_is_the_same_by_todays_names() -> None:
    sample = json.loads(zlib.decompress((SAMPLES / "version-2.json.zlib").read_bytes()))
    parts = {n: zlib.compress(json.dumps(p).encode()) for n, p in sample["parts"].items()}
    job = unpack(zlib.compress(json.dumps(sample["manifest"]).encode()), lambda names: {n: parts[n] for n in names})
    (piece,) = job.pieces
    (as_stored,) = (sample["parts"][name] for name, _ in sample["manifest"]["pieces"])
    assert piece.photo == PhotoOf(as_stored["photo"]["photo"], as_stored["photo"]["found"])
    assert [as_json(s.words) for s in piece.steps if isinstance(s.words, Message)] == [
        s["said"] for s in as_stored["steps"]
    ]
    assert replay(piece.trace, piece.steps) == (piece.shape, piece.steps)
    one = pack(job)
    assert unpack(one.manifest, Shelf(one).fetch) == job


def test_features_that_version_1_had_in_lists_draft_to_the_same_points() -> None:
    sample = json.loads((SAMPLES / "version-1-features.json").read_text())
    parts = {n: zlib.compress(json.dumps(p).encode()) for n, p in sample["parts"].items()}
    job = unpack(zlib.compress(json.dumps(sample["manifest"]).encode()), lambda names: {n: parts[n] for n in names})
    draft = {p.name: p for p in draft_panels(job.panels, job.house)}
    assert draft.keys() == sample["cutting"].keys()
    for name, panel in draft.items():
        assert np.abs(np.array(sample["cutting"][name]) - np.array(panel.cutting_points)).max() < 1e-6
        assert sorted(m.kind for m in panel.marks) == sample["marks"][name]
        placed = np.array(sorted(n.on_cut for n in panel.notches))
        assert np.abs(placed - np.array(sample["notches"][name])).max(initial=0) < 1e-6
    # the table was empty, for a piece yet to be captured; and all have ids of their own
    assert job.piece is None
    assert [m.tape_mm for m in job.pieces[0].tape] == [201.0]
    assert identified(job, job) == job
    one = pack(job)
    assert unpack(one.manifest, Shelf(one).fetch) == job


@pytest.mark.parametrize(
    "damage",
    [
        b"",
        b"x" * 40,
        zlib.compress(b"{"),
        zlib.compress(b'{"version": 1}'),
        zlib.compress(b'{"version": 99}'),
        zlib.compress(b"[]"),
    ],
)
def test_a_damaged_manifest_is_refused(damage: bytes) -> None:
    with pytest.raises(Refusal):
        unpack(damage, lambda _: NO_PARTS)


def test_missing_and_damaged_parts_are_refused() -> None:
    one = pack(traced())
    shelf = Shelf(one)
    stored._CACHE = stored._Cache()
    with pytest.raises(Refusal, match=r"parts .* are missing"):
        unpack(one.manifest, lambda _: NO_PARTS)
    for content in (b"", zlib.compress(b"7"), zlib.compress(b"{}")):
        with pytest.raises(Refusal):
            unpack(one.manifest, lambda names, c=content: dict.fromkeys(names, c))
    assert unpack(one.manifest, shelf.fetch).name == "Wave"


def test_what_couldnt_be_read_again_isnt_stored() -> None:
    job = traced()
    with pytest.raises(Refusal, match="couldn't be read again"):
        pack(replace(job, panels=(replace(job.panels[0], grain_deg=math.nan),)))
    with pytest.raises(Refusal, match="couldn't be read again"):
        pack(replace(job, print_scale=(1, 1), for_whom="half \ud800 a letter"))
