"""Outlines measured in, folded, squared and scaled over the API."""

from __future__ import annotations

from typing import Any

import pytest

from tests.server.conftest import Api
from ypsicline.server.jobs.models import Job, Revision

SIDES = {"ab": "40 cm", "bc": "300", "cd": "400", "da": "300"}


def test_four_sides_as_people_type_them_become_the_outline(api: Api, job: Job) -> None:
    answer = api.good("POST", f"jobs/{job.pk}/measured/four-sided", {**SIDES, "ac": "50 cm"})
    assert (answer["shape"]["width"], answer["shape"]["height"]) == ("400.0", "300.0")
    assert answer["shape"]["error"] is None
    assert "BD comes to 500.0" in answer["last_change"]


@pytest.mark.parametrize(
    ("path", "body", "width"),
    [
        ("rectangle", {"width": "120", "length": "80", "radius": "10"}, "120.0"),
        ("rectangle", {"width": "720.4", "length": "442.7", "diagonal": "727.19"}, "720.4"),
        ("round", {"girth": "314.159"}, "100.0"),
        ("stations", {"stations": [{"at": "0", "upper": "0"}, {"at": "60", "lower": "-20", "upper": "30"}, {"at": "100", "upper": "0"}]}, "100.0"),
    ],
)  # fmt: skip
def test_other_measures_become_the_outline(api: Api, job: Job, path: str, body: Any, width: str) -> None:
    assert api.good("POST", f"jobs/{job.pk}/measured/{path}", body)["shape"]["width"] == width


def test_an_outline_is_squared_folded_and_scaled(api: Api, job: Job) -> None:
    base = f"jobs/{job.pk}"
    api.good("PUT", f"{base}/shape/0/joints/2", {"x": 205, "y": 150})
    squared = api.good("POST", f"{base}/shape/0/joints/2/square")["shape"]["rings"][0]["joints"][2]["point"]
    assert squared == pytest.approx([200, 150], abs=2.5)
    assert (
        api.good("POST", f"{base}/shape/0/hold", {"edge": 2, "to": 0, "alike": "parallel"})["last_change"]
        == "Edges made parallel"
    )
    assert (
        api.good("POST", f"{base}/shape/0/hold", {"edge": 1, "to": 3, "alike": "equal"})["last_change"]
        == "Edges made equally long"
    )
    api.good("POST", f"{base}/tape", {"between": [0, 1]})
    api.good("PUT", f"{base}/tape/0", {"text": "202"})
    scaled = api.good("POST", f"{base}/scale-to-tape", {})
    assert scaled["shape"]["tape"][0]["apart"] == "0.0"
    assert scaled["last_change"].startswith("Scaled to the tape by +")
    folded = api.good("POST", f"{base}/fold", {"first": 0, "second": 2})
    assert folded["last_change"].startswith("Folded: the halves lay up to ")


@pytest.mark.parametrize(
    ("path", "body"),
    [
        ("measured/four-sided", SIDES), ("measured/four-sided", {**SIDES, "ac": "2 m"}), ("measured/four-sided", {**SIDES, "ab": "wide"}),
        ("measured/rectangle", {"width": "10", "length": "10", "radius": "9"}), ("measured/round", {"girth": "-4"}),
        ("measured/stations", {"stations": []}), ("shape/0/joints/9/square", None), ("shape/0/hold", {"edge": 0, "to": 1, "alike": "parallel"}),
        ("shape/0/hold", {"edge": 0, "to": 0, "alike": "equal"}), ("fold", {"first": 0, "second": 1}), ("fold", {"first": 0, "second": 2, "keep": "both"}),
        ("scale-to-tape", {}), ("scale-to-tape", {"per_axis": True}),
    ],
)  # fmt: skip
def test_what_makes_no_sense_is_refused_and_nothing_is_changed(api: Api, job: Job, path: str, body: Any) -> None:
    api.refused("POST", f"jobs/{job.pk}/{path}", body)
    assert Revision.objects.filter(job=job).count() == 1
