"""Mends that are offered, results worked backwards and choices compared, as a window asks for them."""

from __future__ import annotations

import json
import re
from typing import Any

import pytest

from tests.server.conftest import Api
from ypsicline.server.jobs.models import Job


def cap(job: Job, api: Api, **measures: Any) -> dict[str, Any]:
    asked = {"family": "cap", "measures": {"girth": 812, "height": 300} | measures}
    result: dict[str, Any] = api.do(job.pk, "draft_cover", cover=asked)
    return result


@pytest.mark.django_db()
def test_a_mend_is_applied_as_it_was_offered(api: Api, job: Job) -> None:
    result = cap(job, api, girth_ease=2)
    stop = next(c for c in result["checks"] if "slide over" in c["sentence"] and c["severity"] == "stop")
    mend = next(m for m in api.good("GET", f"jobs/{job.pk}/mends") if m["finding"] == stop["id"])
    assert mend["words"].startswith("Take ease on the girth")
    assert api.call("GET", f"jobs/{job.pk}")[1]["checks"] == result["checks"]
    after = api.good("POST", f"jobs/{job.pk}/changes", mend["change"])
    assert stop["id"] not in [c["id"] for c in after["checks"]]


@pytest.mark.django_db()
def test_a_result_in_the_jobs_unit_is_worked_backwards(api: Api, job: Job) -> None:
    result = cap(job, api)
    cover = result["covers"][0]
    cord = next(r for r in cover["results"] if r["what"] == "cord, length")
    asked = f"jobs/{job.pk}/covers/{cover['id']}/measures?result={cord['id']}&length="
    offers = api.good("GET", f"{asked}1.212 m")
    assert "cord tails 200.0 mm instead of 250.0 mm" in [o["words"] for o in offers]
    after = api.good("POST", f"jobs/{job.pk}/changes", offers[-1]["change"])
    assert next(r for r in after["covers"][0]["results"] if r["id"] == cord["id"])["length"] == "1212.0"
    assert api.refused("GET", f"{asked}long")
    assert api.refused("GET", f"jobs/{job.pk}/covers/none/measures?result={cord['id']}&length=9")


@pytest.mark.django_db()
def test_two_sets_of_choices_are_held_against_one_another(api: Api, job: Job) -> None:
    """On cloth 500 wide a body of 812 comes out of two pieces: one more to cut and one more join of 300."""
    result = cap(job, api)
    choices = {"usable_width": 500}
    change = {"kind": "draft_cover", "of": result["covers"][0]["id"]} | {
        "cover": {"family": "cap", "measures": {"girth": 812, "height": 300}, "choices": choices}
    }
    needs = {n["what"]: n for n in api.good("POST", f"jobs/{job.pk}/compared", change)}
    pieces, joins, seams = (needs[what] for what in ("pieces to cut", "joins", "seams to sew"))
    assert int(pieces["then"][0]) == int(pieces["now"][0]) + 1
    assert (joins["now"], joins["then"]) == (["2"], ["3"])
    assert (seams["now"], seams["then"]) == (["1112.0 mm"], ["1412.0 mm"])
    assert api.call("GET", f"jobs/{job.pk}")[1]["covers"] == result["covers"]
    assert api.refused("POST", f"jobs/{job.pk}/compared", {"kind": "remove_join", "join": "none"})


@pytest.mark.django_db()
def test_in_inches_no_other_unit_is_said(api: Api, job: Job) -> None:
    cap(job, api, girth_ease=2)
    outcome = api.do(job.pk, "set_unit", unit="in")
    cover = outcome["covers"][0]
    told = [api.good("GET", f"jobs/{job.pk}/mends"), cover["results"]]
    for result in cover["results"]:
        asked = f"jobs/{job.pk}/covers/{cover['id']}/measures?result={result['id']}&length=40"
        told.append([offer["words"] for offer in api.good("GET", asked)])
    again = {"cover": cover["id"], "lengths": [{"measure": "measures.girth", "length": "30"}]}
    told.append(api.good("POST", f"jobs/{job.pk}/compared", {"kind": "change_measures", **again}))
    assert all(told)
    assert not re.search(r"\d\s*(mm|cm)\b", json.dumps(told, ensure_ascii=False))


@pytest.mark.django_db()
def test_a_stranger_sees_nothing_of_it(stranger: Api, job: Job) -> None:
    assert stranger.call("GET", f"jobs/{job.pk}/mends")[0] == 404
    assert stranger.call("POST", f"jobs/{job.pk}/compared", {"kind": "remove_join", "join": "j"})[0] == 404
    assert stranger.call("GET", f"jobs/{job.pk}/covers/x/measures?result=a&length=1")[0] == 404


@pytest.mark.django_db()
def test_what_the_brief_suggests_is_in_the_jobs_unit(api: Api, job: Job) -> None:
    brief = {"looseness": "easy", "goes_on": "cord under"}
    api.do(job.pk, "set_brief", name="Oven cover", brief=brief)
    api.do(job.pk, "set_unit", unit="in")
    families = {f["family"]: f["suggested"] for f in api.good("GET", f"jobs/{job.pk}/families")}
    typed = {s["name"]: s["value"] for s in families["box_cover"]}
    assert typed == {"ease_width": "25/32", "ease_depth": "25/32", "ease_height": "25/64", "foot": "casing"}
    assert not re.search(r"\b(mm|cm)\b", json.dumps(families))
    assert families["drum"] == []
