"""Features, ease, pads, house rules and the layout of panels, through the server."""

from __future__ import annotations

import io
import re
from typing import Any

import pytest
from pypdf import PdfReader

from tests import shapes
from tests.server.conftest import Api
from ypsicline.core.job import JobDocument
from ypsicline.core.pattern.features.dart import Dart
from ypsicline.core.pattern.panel import Panel
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Job, Workshop

pytestmark = pytest.mark.django_db
# 100 mm inside the first edge and 80 inside the last
INSIDE = [{"edge": 0, "by": "100"}, {"edge": 3, "by": "80"}]


@pytest.fixture
def job(workshop: Workshop) -> Job:
    return history.take_in(
        workshop, JobDocument("cart", panels=(Panel("lid", shapes.square(300, allowance=10)),)), None
    )


def put(kind: str, values: dict[str, Any]) -> dict[str, Any]:
    """The fields of the change that puts a feature on."""
    own = {k: v for k, v in values.items() if k not in ("inside", "outline_of")}
    return {"panel": 0, "feature": {"kind": kind, **own}} | {k: v for k, v in values.items() if k not in own}


def feature(api: Api, job: Job, kind: str, /, **values: Any) -> dict[str, Any]:
    return api.do(job.pk, "set_feature", **put(kind, values))["panels"][0]


def typed(values: dict[str, str]) -> dict[str, Any]:
    """What a form sends of its fields: nothing of empty ones, pairs together."""
    result: dict[str, Any] = {
        k: True if v == "yes" else v for k, v in values.items() if v and k[-2:] not in ("_0", "_1")
    }
    pairs = {k[:-2] for k, v in values.items() if v and k[-2:] in ("_0", "_1")}
    return result | {name: [values[f"{name}_0"], values[f"{name}_1"]] for name in pairs}


def test_features_are_put_on_read_changed_and_taken_off(api: Api, job: Job) -> None:
    panel = feature(api, job, "dart", edge=0, along="150", intake="3 cm", length="100")
    assert [f["words"] for f in panel["features"]] == ["dart on a at 150: intake 30, 100 long"]
    edges = [e.id for e in history.current(job).panels[0].seam_line]
    assert [e["of"] for e in panel["rings"][0]] == [*edges[:1] * 4, *edges[1:]]
    dart = panel["features"][0]
    panel = feature(api, job, "dart", id=dart["id"], **{**typed(dart["values"]), "intake": "40"})
    assert [f["id"] for f in panel["features"]] == [dart["id"]]
    assert "intake 40" in panel["features"][0]["words"]
    gone = api.do(job.pk, "remove_feature", feature=dart["id"])["panels"][0]
    assert gone["features"] == []
    # what comes later has another id, also once the first is gone
    again = feature(api, job, "dart", edge=0, along="150", intake="30", length="100")["features"]
    assert again[0]["id"] != dart["id"]


@pytest.mark.parametrize(
    ("kind", "values"),
    [
        ("pleats", {"edge": 0, "along": "50", "intake": "40", "count": "2", "towards": "box"}),
        ("gather", {"edge": 2, "ratio": "1.5"}),
        ("taper", {"edge": 0, "reach": "80", "inset": "10", "curved": True}),
        ("aperture", {"shape": "slot", "size": ["60", "20"], "at": ["150", "150"], "finish": "faced", "name": "grip"}),
        ("aperture", {"shape": "round", "size": ["30", ""], "at": ["", ""], "depth": "5", "inside": INSIDE, "slit": True, "stocked": "80; 120"}),
        ("mark", {"mark": "hand_sewn", "at": ["20", "20"], "to": ["90", "20"], "text": "by hand"}),
        ("mark", {"mark": "button", "at": ["0", "0"], "inside": INSIDE}),
        ("layer", {"role": "foam", "cloth": "foam 20", "grown": "2", "cut_larger": "15"}),
    ],
)  # fmt: skip
def test_every_kind_of_feature_can_be_typed_and_typed_again(
    api: Api, job: Job, kind: str, values: dict[str, Any]
) -> None:
    panel = feature(api, job, kind, **values)
    (result,) = panel["features"]
    again = feature(api, job, kind, id=result["id"], **typed(result["values"]))
    assert again["features"] == panel["features"]


def test_an_aperture_is_moved_by_its_distances_from_two_edges(api: Api, job: Job) -> None:
    panel = feature(api, job, "aperture", shape="round", at=["", ""], size=["30", ""], depth="5", inside=INSIDE)
    assert (panel["features"][0]["values"]["at_0"], panel["features"][0]["values"]["at_1"]) == ("80.0", "100.0")
    assert panel["rings"][1][0]["of"] is None


@pytest.mark.parametrize(
    ("kind", "values", "words"),
    [
        ("dart", {"edge": 0, "along": "2", "intake": "30", "length": "100"}, "runs from"),
        ("dart", {"edge": 9, "along": "90", "intake": "30", "length": "100"}, "an edge that isn't there"),
        ("dart", {"edge": 0, "along": "150", "length": "100"}, "Type in the intake too"),
        ("dart", {"edge": 0, "along": "150", "length": " ", "intake": "20"}, "Type in the length too"),
        ("aperture", {"shape": "round", "size": ["30", "30"], "at": ["5", "150"]}, "reaches over"),
        ("aperture", {"shape": "round", "at": ["5", "150"]}, "how large what passes"),
        ("aperture", {"size": ["30", "30"], "shape": "star"}, "shape” can't be used"),
        ("gather", {"edge": 0, "ratio": "much"}, "isn't a number"),
        ("taper", {"edge": 0, "reach": "200", "inset": "10"}, "less than half"),
        ("layer", {"role": "sail", "cloth": "x"}, "role” can't be used"),
        ("notch", {"edge": 0, "along": "5000"}, "only 300.0 mm long"),
        ("notch", {"edge": 0, "along": "150.2"}, "a notch here already"),
    ],
)
def test_features_that_cant_be_are_refused_and_nothing_is_kept(
    api: Api, job: Job, kind: str, values: dict[str, str], words: str
) -> None:
    assert words in api.refuse(job.pk, "set_feature", **put(kind, values))
    job.refresh_from_db()
    assert job.position == 1


def test_ease_is_typed_and_its_sum_shown(api: Api, job: Job) -> None:
    panel = api.do(job.pk, "set_fit", panel=0, clearance="5", girth="12", percent="2")["panels"][0]
    assert panel["fit"]["clearance"] == "5.0"
    assert any("girth ease 12 ÷ 2π = 1.91" in w for w in panel["draft"]["workings"])
    assert panel["width"] == "319.8"
    # what isn't told stays; an empty field is nothing
    less = api.do(job.pk, "set_fit", panel=0, girth="", percent="")["panels"][0]
    assert less["width"] == "310.0"
    none = api.do(job.pk, "set_fit", panel=0, clearance="")["panels"][0]
    assert none["width"] == "300.0"


def test_in_inches_what_was_set_in_millimetres_has_a_sign_and_stays_exact(api: Api, job: Job) -> None:
    feature(api, job, "dart", edge=0, along="150", intake="30", length="100")
    api.do(job.pk, "set_edges", edges=[[0, 0, 1]], allowance="12")
    panel = api.do(job.pk, "set_unit", unit="in")["panels"][0]
    assert panel["rings"][0][4]["allowance"] == "≈ 15/32"
    (dart,) = panel["features"]
    assert (dart["values"]["along"], dart["exact"]["along"]) == ("≈ 5 29/32", 150.0)
    # the form sends what it showed rounded as exactly as it was
    shown = typed(dart["values"]) | dart["exact"] | {"intake": "1 1/4"}
    changed = feature(api, job, "dart", id=dart["id"], **shown)["features"][0]
    job.refresh_from_db()
    own = history.current(job).panels[0].features[0]
    assert isinstance(own, Dart)
    assert (own.along, own.intake, own.length) == (150.0, 31.75, 100.0)
    assert (changed["values"]["intake"], "intake" in changed["exact"]) == ("1 1/4", False)
    # and what comes back with its sign is read
    api.do(job.pk, "set_edges", edges=[[0, 0, 2]], allowance="≈ 15/32")
    job.refresh_from_db()
    assert history.current(job).panels[0].seam_line[2].allowance == pytest.approx(15 / 32 * 25.4)


def test_house_rules_reach_every_edge_that_goes_by_them(api: Api, job: Job, workshop: Workshop) -> None:
    api.do(job.pk, "set_edges", edges=[[0, 0, 0], [0, 0, 1]], by_rule=True)
    result = api.do(job.pk, "set_house_rule", rule="seam", length="15 mm")
    assert [e["allowance"] for e in result["panels"][0]["rings"][0]] == ["15.0", "15.0", "10.0", "10.0"]
    cloth = {"name": "drill", "thickness": "0.4", "warp_shrinks": "5", "own_rules": True}
    api.do(job.pk, "set_cloth", **cloth)
    label = {"name": "lid", "cloth": "drill", "count": 1, "hand": "single", "grain_deg": 90, "way_up": ""}
    assert api.do(job.pk, "set_panel", panel=0, **label)["panels"][0]["height"] == "315.8"
    api.do(job.pk, "set_house_rule", rule="seam", length="8 mm", cloth="drill")
    api.good("POST", f"jobs/{job.pk}/house/keep")
    fresh = api.good("POST", "jobs", {"name": "next"})
    assert fresh["house"]["rules"]["seam"] == "15.0"
    assert [c["rules"]["seam"] for c in fresh["house"]["cloths"]] == ["8.0"]
    api.refuse(job.pk, "set_house_rule", rule="felled", length="1 mm")
    assert "no rule called" in api.refuse(job.pk, "set_house_rule", rule="glue", length="1 mm")


def test_the_workshops_rules_are_set_without_a_job_and_jobs_keep_theirs(api: Api, job: Job) -> None:
    rules = api.good("POST", "workshop/house?unit=in", {"kind": "set_house_rule", "rule": "hem", "length": "1 1/2"})[
        "rules"
    ]
    assert rules["hem"] == "1 1/2"
    api.good("POST", "workshop/house", {"kind": "set_cloth", "name": "drill", "thickness": "0.4"})
    assert api.good("GET", f"jobs/{job.pk}")["house"]["rules"]["hem"] == "25.0"
    fresh = api.good("POST", "jobs", {"name": "next"})["house"]
    assert fresh["rules"]["hem"] == "38.1"
    assert "drill" in [c["name"] for c in fresh["cloths"]]
    for change in (
        {"kind": "set_house_rule", "rule": "glue", "length": "1"},
        {"kind": "set_house_rule", "rule": "hem", "length": "wide"},
        {"kind": "set_unit", "unit": "in"},
    ):
        api.refused("POST", "workshop/house", change)
    assert api.good("GET", "workshop/house")["rules"]["hem"] == "38.1"


def test_a_feature_says_where_on_the_drafted_panel_it_lies(api: Api, job: Job) -> None:
    dart = {"kind": "dart", "edge": 0, "along": "60", "intake": "20", "length": "50"}
    (drawn,) = api.do(job.pk, "set_feature", panel=0, feature=dart)["panels"][0]["features"]
    assert drawn["lies_at"] == pytest.approx([60, 0])
    eased = api.do(job.pk, "set_fit", panel=0, width="30")["panels"][0]
    # the edge is 30 longer, half of it on either side
    assert eased["features"][0]["lies_at"][0] == pytest.approx(60 * 330 / 300 - 15, abs=0.1)


def test_edges_of_several_panels_are_set_at_once_split_and_merged(api: Api, job: Job) -> None:
    api.do(job.pk, "copy_panel", panel=0, mirror=True)
    result = api.do(job.pk, "set_edges", edges=[[0, 0, 0], [1, 0, 2]], finish="casing", cord="5")
    assert [result["panels"][p]["rings"][0][k]["finish"] for p, k in ((0, 0), (1, 2))] == ["casing", "casing"]
    split = api.do(job.pk, "split_edge", edge=1, along="100")["panels"][0]
    assert [e["name"] for e in split["rings"][0]] == ["a", "b", "b 2", "c", "d"]
    merged = api.do(job.pk, "merge_edges", edge=1)["panels"][0]
    assert len(merged["rings"][0]) == 4
    api.refuse(job.pk, "merge_edges", edge=0)


def test_panels_lie_where_they_are_put_and_can_be_undone(api: Api, job: Job) -> None:
    lies = {"at": [100.5, -20.0], "turn_deg": 90.0, "flipped": True}
    result = api.do(job.pk, "lay_out", panels=[{"panel": 0, "lies": lies}])
    assert result["panels"][0]["lies"] == lies
    assert api.good("POST", f"jobs/{job.pk}/undo")["panels"][0]["lies"] is None
    api.refuse(job.pk, "lay_out", panels=[{"panel": 3, "lies": lies}])
    between = api.good("GET", f"jobs/{job.pk}/between?ax=0&ay=0&bx=30&by=40")
    assert between == {"length": "50.0 mm", "across": "30.0", "up": "40.0"}


@pytest.mark.django_db(transaction=True)
def test_a_pad_is_filled_its_least_tapers_put_on_and_its_template_printed(api: Api, job: Job) -> None:
    panel = history.current(job).panels[0]
    path = f"jobs/{job.pk}/panels/{panel.id}"
    assert api.good("GET", f"{path}/pad") is None
    bare = api.good("POST", f"{path}/pad")["pad"]
    assert bare["worst_percent"] > 5
    assert not bare["enough"]
    edges = [e.id for e in panel.seam_line]
    proposal = api.good("POST", f"{path}/pad/tapers", {"edges": edges})
    assert proposal["pad"]["enough"]
    assert api.good("GET", f"{path}/pad") == proposal
    tapers = history.current(Job.objects.get(pk=job.pk)).panels[0].features
    assert [f.kind for f in tapers].count("taper") == 4
    undone = api.good("POST", f"jobs/{job.pk}/undo")["panels"][0]["features"]
    assert not any(f["kind"] == "taper" for f in undone)
    api.good("POST", f"jobs/{job.pk}/redo")
    api.refuse(job.pk, "set_tapers", panel=0, edges=[0], depth=17)
    assert "no such panel" in api.refused("POST", f"jobs/{job.pk}/panels/7/pad")
    taper = history.current(Job.objects.get(pk=job.pk)).panels[0].features[1]
    pdf = api.good("GET", f"jobs/{job.pk}/tapers/{taper.id}/corner.pdf")
    assert "corner template" in PdfReader(io.BytesIO(pdf)).pages[0].extract_text()


def test_a_plan_is_let_hang_with_darts_at_its_corners(api: Api, job: Job) -> None:
    panel = api.do(job.pk, "set_drop", panel=0, drop="80", tuck="20")["panels"][0]
    assert panel["width"] == "500.0"
    assert len([f for f in panel["features"] if f["kind"] == "dart"]) == 4
    api.refuse(job.pk, "set_drop", panel=0, drop="2")


def test_layers_and_facings_go_along_to_the_table_and_the_print(api: Api, job: Job) -> None:
    feature(api, job, "layer", role="lining", cloth="ripstop", allowance="12")
    result = api.good("GET", f"jobs/{job.pk}")
    assert [c["name"] for c in result["panels"][0]["companions"]] == ["lid lining"]
    text = PdfReader(io.BytesIO(api.good("GET", f"jobs/{job.pk}/export/pdf"))).pages[0].extract_text()
    assert "lid lining" in text


def test_a_marking_out_drawing_has_every_corner_in_the_makers_unit(api: Api, job: Job) -> None:
    api.do(job.pk, "set_unit", unit="in")
    text = PdfReader(io.BytesIO(api.good("GET", f"jobs/{job.pk}/export/marking.pdf"))).pages[0].extract_text()
    assert "From corner 1: across, up" in text
    assert "12 9/16 across, 12 9/16 up" in text or "12 5/8 across, 12 5/8 up" in text
    assert "Check diagonals" in text


def test_what_is_said_of_a_panel_in_inches_has_no_millimetre(api: Api, job: Job) -> None:
    api.do(job.pk, "set_unit", unit="in")
    api.do(job.pk, "set_fit", panel=0, clearance="1/4", girth="1")
    api.do(job.pk, "set_edges", edges=[[0, 0, 1]], finish="double_hem", by_rule=True)
    api.do(job.pk, "set_edges", edges=[[0, 0, 2]], finish="casing", cord="1/4", by_rule=True)
    feature(api, job, "dart", edge=0, along="6", intake="1 1/2", length="4")
    feature(api, job, "pleats", edge=3, along="2", intake="1")
    hole = {"shape": "round", "at": ["10", "6"], "size": ["1", ""], "depth": "1/4", "slit": True, "stocked": "2; 8"}
    feature(api, job, "aperture", **hole, zip_shows="3/8")
    panel = feature(api, job, "layer", cut_larger="1/2", allowance="1/2")
    draft = panel["draft"]
    texts = [*draft["workings"], *draft["fit"], *(f["sentence"] for f in draft["findings"])]
    texts += [e["rule"] for ring in panel["rings"] for e in ring] + [f["words"] for f in panel["features"]]
    texts += [line for m in draft["marks"] for line in m["lines"]]
    texts += [c["way_up"] for c in panel["companions"]]
    assert len(texts) > 25
    assert any("girth ease 1 ÷ 2π = 5/32" in t for t in texts)
    # a fraction of an inch has no decimals, and neither has anything else here
    assert not [t for t in texts if " mm" in t or re.search(r"\d\.\d", t)]
    reader = PdfReader(io.BytesIO(api.good("GET", f"jobs/{job.pk}/export/pdf")))
    page = reader.pages[1].extract_text() + reader.pages[2].extract_text()
    assert "3/8 plain" in page or "double hem" in page
    assert not re.search(r"· \d+\.\d", page)


@pytest.mark.parametrize(
    ("kind", "fields", "words"),
    [
        ("split_edge", {"edge": 0, "along": "99"}, "is 11 13/16 in long; split it between ≈ 3/64 in and 11 3/4 in"),
        ("set_feature", put("dart", {"edge": 0, "along": "1/4", "intake": "1", "length": "4"}), "it; the edge is 11 13/16 in long"),
        ("set_edges", {"edges": [[0, 0, 0]], "allowance": "40"}, "has an allowance of 40 in; give 0 to ≈ 19 11/16 in"),
        ("set_drop", {"panel": 0, "drop": "1/16"}, "A drop is ≈ 13/64 in to ≈ 118 7/64 in"),
    ],
)  # fmt: skip
def test_a_refusal_in_a_job_in_inches_has_its_figures_in_inches(
    api: Api, job: Job, kind: str, fields: dict[str, Any], words: str
) -> None:
    api.do(job.pk, "set_unit", unit="in")
    assert words in api.refuse(job.pk, kind, **fields)


def test_a_dart_is_turned_about_its_point_and_split(api: Api, job: Job) -> None:
    feature(api, job, "dart", edge=0, along="150", intake="40", length="120")
    body = {"edge": 1, "along": "150", "share": "50"}
    panel = api.do(job.pk, "pivot_dart", panel=0, dart=0, **body)["panels"][0]
    assert [f["kind"] for f in panel["features"]] == ["dart", "dart"]
    again = api.do(job.pk, "pivot_dart", panel=0, dart=1, edge=4, along="100")["panels"][0]
    assert [f["kind"] for f in again["features"]] == ["dart", "dart"]
    said = api.refuse(job.pk, "pivot_dart", panel=0, dart=0, edge=1, along="0.1")
    assert "away from its ends" in said


def test_a_dart_is_turned_with_the_ease_drawn_in(api: Api, job: Job) -> None:
    feature(api, job, "dart", edge=0, along="150", intake="40", length="120")
    api.do(job.pk, "set_fit", panel=0, clearance="10")
    shown = api.do(job.pk, "pivot_dart", panel=0, dart=0, edge=1, along="150")
    assert not any(shown["panels"][0]["fit"].values())
    assert not shown["panels"][0]["has_ease"]
    job.refresh_from_db()
    last = job.revisions.get(number=job.position)
    assert last.what["code"] == "dart_pivoted_ease_drawn_in"
    undone = api.good("POST", f"jobs/{job.pk}/undo")["panels"][0]
    assert undone["fit"]["clearance"] == "10.0"
    assert undone["has_ease"]


def test_an_aperture_takes_the_outline_of_another_panel(api: Api, job: Job) -> None:
    small = api.do(job.pk, "copy_panel", panel=0, times=0.2)["panels"][1]["id"]
    opening = feature(
        api,
        job,
        "aperture",
        shape="outline",
        outline_of={"what": "panel", "id": small},
        at=["150", "150"],
        name="hatch",
    )
    rings = opening["rings"]
    assert len(rings) == 2
    # what it is otherwise may be changed without saying again whose it is
    hatch = opening["features"][0]
    renamed = feature(api, job, "aperture", id=hatch["id"], **{**typed(hatch["values"]), "name": "lid"})
    assert renamed["rings"][1] != rings[1]
    assert [e["path"] for e in renamed["rings"][1]] == [e["path"] for e in rings[1]]
    for of, words in (
        ({"what": "panel", "id": "p9"}, "no such panel"),
        ({"what": "piece", "id": "c9"}, "no longer there"),
        (None, "Choose the captured piece or the panel"),
    ):
        values = {"shape": "outline", "outline_of": of, "at": ["150", "150"]}
        assert words in api.refuse(job.pk, "set_feature", **put("aperture", values))
