"""Messages in words: every code has its words, lengths in the reader's unit."""

from __future__ import annotations

import ast
import json
import string
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import pytest

import ypsicline
from tests import shapes
from tests.core.test_carried import FULL
from tests.words import sums_of
from ypsicline.core.changes.change import changed
from ypsicline.core.changes.pieces import TakeStep
from ypsicline.core.drafting.draft import draft_panel
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.documents import PanelsFile, dump, dump_bundle, load_bundle, load_panels
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.features.aperture import Aperture
from ypsicline.core.pattern.features.dart import Dart
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.steps import Smooth
from ypsicline.core.trueing.shape import true_up
from ypsicline.core.wording import render
from ypsicline.core.wording.english import WORDS

EVERYWHERE = Path(ypsicline.__file__).parent


def messages_in_the_code() -> Iterator[tuple[str, set[str] | None]]:
    """The code of each call of `message`, or all that it is chosen from, with the names of its values where they can be
    read off."""
    for path in EVERYWHERE.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "message":
                names = {k.arg for k in node.keywords}
                for one in _chosen_from(node.args[0]):
                    assert isinstance(one, ast.Constant), ast.unparse(node)
                    yield str(one.value), None if None in names else {n for n in names if n}


def names_in(code: str) -> set[str]:
    return {name for _, name, _, _ in string.Formatter().parse(WORDS[code]) if name}


def _chosen_from(node: ast.expr) -> list[ast.expr]:
    return [*_chosen_from(node.body), *_chosen_from(node.orelse)] if isinstance(node, ast.IfExp) else [node]


def test_every_code_has_words_and_all_words_are_said() -> None:
    assert {code for code, _ in messages_in_the_code()} == WORDS.keys()


def test_every_message_brings_the_values_of_its_words() -> None:
    without = {code: names_in(code) - names for code, names in messages_in_the_code() if names is not None}
    assert {code: names for code, names in without.items() if names} == {}


@pytest.mark.parametrize("code", WORDS)
def test_words_can_be_written_in_every_unit(code: str) -> None:
    names = {name: spec for _, name, spec, _ in string.Formatter().parse(WORDS[code]) if name}
    values = {n: 12.7 if n.endswith("_mm") or spec else "it" for n, spec in names.items()}
    shows_millimetres = code.startswith("length_typed_in")
    for unit in ("mm", "cm", "in"):
        text = render(message(code, **values), unit)  # type: ignore[arg-type]
        assert "{" not in text
        assert unit == "mm" or shows_millimetres or (unit == "cm" and "^" in WORDS[code]) or " mm" not in text


@pytest.mark.parametrize(
    ("template", "mm", "unit", "text"),
    [
        ("{x_mm}", 12.7, "mm", "12.7 mm"), ("{x_mm}", 12.7, "in", "1/2 in"), ("{x_mm}", 12.0, "cm", "1.2 cm"),
        ("{x_mm:0}", 12.0, "mm", "12.0"), ("{x_mm:0g}", 12.0, "mm", "12"), ("{x_mm:g}", 12.5, "mm", "12.5 mm"),
        ("{x_mm:+0g}", 3.0, "mm", "+3"), ("{x_mm:+0g}", -3.0, "mm", "-3"), ("{x_mm:0.2}", 1.9099, "mm", "1.91"),
        ("{x_mm:0.2}", 1.9099, "in", "5/64"), ("{x_mm:+0g}", 6.35, "in", "+1/4"), ("{x_mm:g}", 0.5, "in", "≈ 1/64 in"),
            ("{x_mm:0g}", 12.0, "mm", "12"), ("{x_mm:0g}", 12.0, "in", "≈ 15/32"), ("{x_mm:0g}", 12.7, "in", "1/2"),
            ("{x_mm:~}", 2784.1, "mm", "2790 mm"), ("{x_mm:~}", 2784.1, "cm", "279 cm"), ("{x_mm:~}", 2784.1, "in", "110 in"),
    ],
)  # fmt: skip
def test_a_length_is_written_as_its_template_asks(
    monkeypatch: pytest.MonkeyPatch, template: str, mm: float, unit: str, text: str
) -> None:
    monkeypatch.setitem(WORDS, "x", template)
    assert render(message("x", x_mm=mm), unit) == text  # type: ignore[arg-type]


def nested(levels: int) -> dict[str, object]:
    within: object = "canvas"
    for _ in range(levels):
        within = {"code": "mark_with_text", "values": [["text", within]]}
    return within  # type: ignore[return-value]


@pytest.mark.parametrize(
    "words",
    [
        {"code": "no_such_code", "values": []},
        {"code": "smoothed", "values": []},
        {"code": "smoothed", "values": [["by_mm", "wide"]]},
        {"code": "smoothed", "values": [["by_mm", [nested(1)]]]},
        nested(150),
    ],
)
def test_a_message_out_of_a_file_that_has_no_words_is_refused(words: dict[str, object]) -> None:
    """On a panel, and on a step of a job."""
    panels = json.loads(dump(PanelsFile((Panel("lid", shapes.square(100)),))))
    panels["panels"][0]["way_up"] = words
    with pytest.raises(Refusal):
        load_panels(json.dumps(panels).encode())
    square = [(0.0, 0.0), (100.0, 0.0), (100.0, 80.0), (0.0, 80.0)]
    job = changed(JobDocument("lid").with_outline(true_up(square)), TakeStep(Smooth(0.5)))
    bundle = json.loads(dump_bundle(job))
    bundle["job"]["pieces"][0]["steps"][0]["words"] = words
    with pytest.raises(Refusal):
        load_bundle(json.dumps(bundle).encode())


def test_messages_in_messages_and_their_figures() -> None:
    taken = (message("dart_taken", taken_mm=30), message("pleat_taken", taken_mm=12.7))
    sewn = message("edge_sewn", edge="front {x}", length_mm=400, taken=taken, left_mm=357.3)
    assert render(sewn) == "front {x} sewn: 400.0 − 30.0 dart − 12.7 pleat = 357.3"
    assert sewn.numbers == {"length_mm": 400.0, "left_mm": 357.3}
    assert isinstance(sewn, Message)


def test_a_finding_is_known_by_what_it_is_and_where_whatever_its_figures() -> None:
    draft = draft_panel(FULL)
    assert sums_of(draft)
    ids = {f.id for f in draft.findings}
    assert all(f.id.startswith(f.message.code) for f in draft.findings)
    assert all("full" in i for i in ids)
    assert len(ids) == len(draft.findings)


def test_an_edge_in_several_parts_is_said_once_and_two_openings_are_told_apart() -> None:
    bow = replace(shapes.circle(150, allowance=0)[0], allowance=40.0, finish="hem")
    ring = (bow, *shapes.circle(150, allowance=0)[1:])
    said_of = draft_panel(Panel("p", ring, features=(Dart("edge1", 200, 20, 60),))).findings
    assert [f.message.code for f in said_of].count("hem_longer") == 1
    near = [Aperture("round", (20, y), (20, 20), "raw", name) for name, y in (("post", 100), ("tap", 300))]
    result = draft_panel(Panel("tray", shapes.square(400, allowance=12), features=tuple(near))).findings
    assert [f.message.names for f in result] == [("post", "d"), ("tap", "d")]
