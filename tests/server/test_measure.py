"""Outlines measured in, folded, squared and scaled over the API."""

from __future__ import annotations

from typing import Any

import pytest

from tests.server.conftest import Api
from ypsicline.server.jobs.models import Job, Revision

SIDES = {"ab": "40 cm", "bc": "300", "cd": "400", "da": "300"}


def test_four_sides_as_people_type_them_become_the_outline(api: Api, job: Job) -> None:
    answer = api.do(job.pk, "measure_four_sided", **SIDES, ac="50 cm")
    assert (answer["shape"]["width"], answer["shape"]["height"]) == ("400.0", "300.0")
    assert answer["shape"]["error"] is None
    assert "BD comes to 500.0" in answer["last_change"]


@pytest.mark.parametrize(
    ("what", "measures", "width"),
    [
        ("rectangle", {"width": "120", "length": "80", "radius": "10"}, "120.0"),
        ("rectangle", {"width": "720.4", "length": "442.7", "diagonal": "727.19"}, "720.4"),
        ("round", {"girth": "314.159"}, "100.0"),
        ("stations", {"stations": [{"at": "0", "upper": "0"}, {"at": "60", "lower": "-20", "upper": "30"}, {"at": "100", "upper": "0"}]}, "100.0"),
    ],
)  # fmt: skip
def test_other_measures_become_the_outline(api: Api, job: Job, what: str, measures: Any, width: str) -> None:
    assert api.do(job.pk, f"measure_{what}", **measures)["shape"]["width"] == width


def test_an_outline_is_squared_folded_and_scaled(api: Api, job: Job) -> None:
    base = f"jobs/{job.pk}"
    api.step(base, "move corner", ring=0, corner=2, to=[205, 150])
    squared = api.step(base, "square", ring=0, corner=2)["shape"]["rings"][0]["joints"][2]["point"]
    assert squared == pytest.approx([200, 150], abs=2.5)
    assert api.step(base, "hold edges", ring=0, edge=2, to=0, alike="parallel")["last_change"] == "Edges made parallel"
    assert api.step(base, "hold edges", ring=0, edge=1, to=3, alike="equal")["last_change"] == "Edges made equally long"
    api.do(base, "add_measure", between=[0, 1])
    api.do(base, "set_measure", measure=0, tape="202")
    scaled = api.do(base, "scale_to_tape")
    assert scaled["shape"]["tape"][0]["apart"] == "0.0"
    assert scaled["last_change"].startswith("Scaled to the tape by +")
    folded = api.step(base, "fold", first=0, second=2, keep="average")
    assert folded["last_change"].startswith("Folded: the halves lay up to ")


@pytest.mark.parametrize(
    ("kind", "fields"),
    [
        ("measure_four_sided", SIDES), ("measure_four_sided", {**SIDES, "ac": "2 m"}), ("measure_four_sided", {**SIDES, "ab": "wide"}),
        ("measure_rectangle", {"width": "10", "length": "10", "radius": "9"}), ("measure_round", {"girth": "-4"}),
        ("measure_stations", {"stations": []}), ("scale_to_tape", {}), ("scale_to_tape", {"per_axis": True}),
    ],
)  # fmt: skip
def test_what_makes_no_sense_is_refused_and_nothing_is_changed(api: Api, job: Job, kind: str, fields: Any) -> None:
    api.refuse(job.pk, kind, **fields)
    assert Revision.objects.filter(job=job).count() == 1


@pytest.mark.parametrize(
    ("kind", "fields"),
    [
        ("square", {"ring": 0, "corner": 9}), ("hold edges", {"ring": 0, "edge": 0, "to": 1, "alike": "parallel"}),
        ("hold edges", {"ring": 0, "edge": 0, "to": 0, "alike": "equal"}), ("fold", {"first": 0, "second": 1, "keep": "average"}),
        ("fold", {"first": 0, "second": 2, "keep": "both"}),
    ],
)  # fmt: skip
def test_a_step_that_makes_no_sense_is_refused_and_nothing_is_changed(
    api: Api, job: Job, kind: str, fields: Any
) -> None:
    api.refuse_step(job.pk, kind, **fields)
    assert Revision.objects.filter(job=job).count() == 1
