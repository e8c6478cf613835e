"""Changes as values: frozen, named after what they do, read as people type them."""

from __future__ import annotations

import dataclasses
import importlib
import json
import pkgutil
import re
from dataclasses import replace
from typing import Any, get_args

import pytest

from tests import shapes
from tests.hostile import sample
from ypsicline.core import changes, steps
from ypsicline.core.changes.change import changed
from ypsicline.core.changes.edges import SplitEdge
from ypsicline.core.changes.features import RemoveFeature, SetFeature
from ypsicline.core.changes.measuring import MeasureRectangle
from ypsicline.core.changes.panels import AddPanels, CopyPanel, LayOut, MakePanel, MakePanels
from ypsicline.core.changes.pieces import AddMeasure, NamePiece, NewPiece, OldCover, OldEdge, OpenPiece, TakeStep
from ypsicline.core.changes.union import TypedChange
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.changes import change_adapter, read_change
from ypsicline.core.identified import identified, ids_of
from ypsicline.core.job import JobDocument
from ypsicline.core.pattern.features.aperture import Aperture
from ypsicline.core.pattern.features.dart import Dart
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.trueing.shape import true_up
from ypsicline.core.wording import render

TRAY = Panel("tray", shapes.square(200, allowance=10))
JOB = identified(
    JobDocument("Tray", panels=(TRAY,)).with_outline(
        true_up([(0.0, 0.0), (200.0, 0.0), (200.0, 150.0), (0.0, 150.0)], error_mm=0.2)
    )
)
EDGES = [e.id for e in JOB.panels[0].seam_line]
TYPED = get_args(get_args(TypedChange)[0])


def every_change() -> list[type]:
    result = []
    for module in pkgutil.iter_modules(changes.__path__, f"{changes.__name__}."):
        loaded = importlib.import_module(module.name)
        names = [getattr(loaded, n) for n in loaded.__all__]
        result += [c for c in names if dataclasses.is_dataclass(c) and hasattr(c, "on")]
    return result


def read(unit: Any, /, **change: Any) -> Any:
    return read_change(json.dumps(change).encode(), unit)


@pytest.mark.parametrize("change", every_change(), ids=lambda c: c.__name__)
def test_a_change_is_frozen_and_called_by_what_it_does(change: Any) -> None:
    assert change.__dataclass_params__.frozen
    assert change.kind == re.sub(r"(?<!^)(?=[A-Z])", "_", change.__name__).lower()


def test_what_can_be_typed_is_every_change_but_those_that_carry_what_was_read() -> None:
    carried = {c.__name__ for c in every_change()} - {c.__name__ for c in TYPED}
    assert carried == {"AddPanels", "ConfirmEdges", "MendOutline", "TakeFound", "WalkRound"}
    assert len({c.kind for c in TYPED}) == len(TYPED) > 40


@pytest.mark.parametrize("change", TYPED, ids=lambda c: c.kind)
def test_a_change_that_is_written_reads_as_the_same(change: Any) -> None:
    schema = {"components": {"schemas": change_adapter().json_schema(ref_template="{model}")["$defs"]}}
    asked = sample(schema, schema["components"]["schemas"][change.__name__])
    if change is SetFeature:
        asked["feature"] = {"kind": "gather", "edge": "e3", "ratio": "1,5"}
    result = read("mm", **{**asked, "kind": change.kind})
    assert read_change(change_adapter().dump_json(result), "in") == result


@pytest.mark.parametrize(
    ("unit", "typed", "mm"),
    [("mm", "25", 25), ("cm", "2,5", 25), ("in", "1 1/2", 38.1), ("in", "25 mm", 25), ("mm", "1' 2\"", 355.6), ("in", 25, 25)],
)  # fmt: skip
def test_a_text_is_in_the_jobs_unit_and_a_number_in_mm(unit: str, typed: object, mm: float) -> None:
    result = read(unit, kind="split_edge", edge="e3", along=typed)
    assert result.along == pytest.approx(mm)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (
            {"kind": "split_edge", "edge": "e3", "along": ""},
            "Type in the distance along the edge too.",
        ),
        (
            {
                "kind": "set_feature",
                "panel": "p1",
                "feature": {"kind": "dart", "edge": "e3", "along": "9", "length": "90"},
            },
            "Type in the intake too.",
        ),
        (
            {
                "kind": "set_feature",
                "panel": "p1",
                "feature": {"kind": "dart", "edge": "e3", "along": "9", "length": "90", "intake": "-4"},
            },
            "below zero",
        ),
        ({"kind": "set_fit", "panel": 7}, "“panel” can't be used"),
        ({"kind": "set_fit", "panel": "p1", "percent": "lots"}, "isn't a number"),
        ({"kind": "glue"}, "can't be used"),
        ({"kind": "take_step", "step": {"kind": "redraw", "moves": []}}, "can't be used"),
        ({"kind": "set_fit", "panel": "p1", "percent": 1e300}, "nothing here can be"),
    ],
)
def test_what_cant_be_read_says_which_field(change: dict[str, Any], words: str) -> None:
    with pytest.raises(Refusal, match=re.escape(words)):
        read("mm", **change)


def test_words_say_what_came_of_it() -> None:
    after = JOB
    words = []
    for change in (
        TakeStep(steps.MoveCorner(0, (200.0, 150.0), (204.0, 151.0))),
        OldCover((OldEdge(0, "whole"), OldEdge(1, "cut away", 4.0)), 10.0),
        AddMeasure(between=(0, 1)),
        MakePanel("lid"),
        SetFeature(JOB.panels[0].id, Dart(EDGES[0], 100.0, 20.0, 80.0)),
        AddPanels((TRAY, TRAY), "tray.json"),
    ):
        before, after = after, changed(after, change)
        words.append(render(change.words(before, after)))
    assert words == [
        "Corner C moved", "Seam line of the old cover", "Measure added to the tape list", "Panel made of the outline", "Dart set",
        "Panels read from tray.json",
    ]  # fmt: skip
    assert [p.name for p in after.panels] == ["tray", "lid", "tray 2", "tray 3"]
    assert [p.name for p in JOB.panels] == ["tray"]


def test_a_feature_is_put_on_changed_and_taken_off_by_its_id() -> None:
    panel = JOB.panels[0].id
    for feature in (
        Dart(EDGES[0], 100.0, 20.0, 80.0, lean=3.0, towards="end"),
        Aperture("slot", (100.0, 90.0), (60.0, 20.0), "faced", "grip", slit=True, stocked=(120.0,)),
    ):
        put_on = changed(JOB, SetFeature(panel, feature))
        (result,) = put_on.panels[0].features
        assert result == dataclasses.replace(feature, id=result.id)
        again = changed(put_on, SetFeature(panel, result))
        assert again == put_on
        assert changed(put_on, RemoveFeature(result.id)).panels == JOB.panels


def test_what_the_panel_cant_be_drafted_with_is_refused() -> None:
    with pytest.raises(Refusal, match="no such panel"):
        SetFeature("p99", Dart(EDGES[0], 0.0, 20.0, 80.0)).on(JOB)
    with pytest.raises(Refusal):
        SetFeature(JOB.panels[0].id, Dart(EDGES[0], 2.0, 20.0, 80.0)).on(JOB)
    with pytest.raises(Refusal, match="no outline"):
        TakeStep(steps.TurnOver()).on(NewPiece().on(JOB))
    assert LayOut(()).on(JOB) == JOB


def test_ids_stay_through_changes_and_what_is_new_has_one_that_nothing_had() -> None:
    tray = JOB.panels[0].id
    job, had = JOB, set(ids_of(JOB))
    for change in (
        SetFeature(tray, Dart(EDGES[0], 60.0, 20.0, 80.0)),
        SplitEdge(EDGES[1], 120.0),
        AddMeasure(between=(0, 2)),
        CopyPanel(tray, mirror=True),
        MakePanel("lid"),
        SetFeature(tray, Dart(EDGES[2], 100.0, 20.0, 80.0)),
        AddPanels((TRAY, JOB.panels[0]), "tray.json"),
        NewPiece(),
    ):
        before, job = job, changed(job, change)
        now = list(ids_of(job))
        assert len(set(now)) == len(now)
        assert set(ids_of(before)) <= set(now)
        assert not (set(now) - set(ids_of(before))) & had
        had |= set(now)
    # the dart of the copy stands on the copy's edge
    first, copy = job.panels[0], job.panels[1]
    (dart,) = copy.of(Dart)
    assert dart.edge in {e.id for e in copy.seam_line}
    assert dart.edge not in {e.id for e in first.seam_line}
    # an id that is free again isn't given again
    dart = first.of(Dart)[-1]
    job = changed(job, RemoveFeature(dart.id))
    job = changed(job, SetFeature(tray, dataclasses.replace(dart, id="")))
    assert job.panels[0].of(Dart)[-1].id not in had


def test_every_captured_piece_becomes_a_panel_at_once() -> None:
    """By their names, but for the one that a panel is called after already; a second time there is nothing left."""
    job = JobDocument("cart")
    for name, width in (("lid", 300.0), ("side", 200.0), ("end", 150.0)):
        job = changed(job, NewPiece())
        job = changed(job, MeasureRectangle(width, 100.0))
        job = changed(job, NamePiece(job.open, name))
    job = changed(job, OpenPiece(next(p.id for p in job.pieces if p.name == "side")))
    job = changed(job, MakePanel("side"))
    result = changed(job, MakePanels())
    assert [p.name for p in result.panels] == ["side", "lid", "end"]
    widths = {p.name: max(e.end[0] for e in p.seam_line) - min(e.end[0] for e in p.seam_line) for p in result.panels}
    assert widths == pytest.approx({"lid": 300, "side": 200, "end": 150})
    assert render(MakePanels().words(job, result)) == "2 panels made of the captured pieces"
    with pytest.raises(Refusal, match="is a panel already"):
        changed(result, MakePanels())


def test_the_mirror_image_of_a_left_hand_is_a_right_one() -> None:
    left = replace(JOB.panels[0], hand="left")
    job = changed(replace(JOB, panels=(left,)), CopyPanel(left.id, mirror=True))
    assert [p.hand for p in job.panels] == ["left", "right"]


@pytest.mark.parametrize(
    ("corners", "hands"),
    [
        ([(0, 0), (200, 0), (200, 100), (0, 100)], ["single", "single"]),
        ([(0, 0), (200, 0), (240, 100), (-40, 100)], ["single", "single"]),
        ([(0, 0), (200, 0), (240, 100), (40, 100)], ["left", "right"]),
        ([(0, 0), (200, 0), (200, 140), (0, 100)], ["left", "right"]),
    ],
)
def test_only_what_is_not_its_own_mirror_image_has_hands(corners: list[tuple[float, float]], hands: list[str]) -> None:
    before = identified(replace(JOB, panels=(Panel("end", shapes.polygon(corners)),), joins=()))
    job = changed(before, CopyPanel(before.panels[0].id, mirror=True))
    assert [p.hand for p in job.panels] == hands
