"""What a brief makes of a cover's eases and finishes."""

from __future__ import annotations

import math
from dataclasses import fields
from typing import Any, get_args, get_type_hints

import pytest
import shapely

from tests.families import FAMILIES, lot
from ypsicline.core.changes.briefing import SetBrief, SetUnit
from ypsicline.core.covers.family import family_kinds
from ypsicline.core.covers.form import part_of
from ypsicline.core.drafting.draft import draft_panel
from ypsicline.core.drafting.house import Cloth, House
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.measures_json import family_adapter, family_names
from ypsicline.core.job import Brief, JobDocument
from ypsicline.core.looseness import clearance_mm, show_looseness
from ypsicline.core.making.cautions import CAUTIONS
from ypsicline.core.making.from_brief import suggestions
from ypsicline.core.wording import render

AGAINST = {"dust", "weather", "wear", "padding", "looks"}
GOES_ON = {"lifts off", "pulled over", "tied under", "cord under", "zipped"}


def of(family: str, **brief: Any) -> dict[str, Any]:
    result = suggestions(family_names()[family], Brief(**brief), House(), "mm")
    return {s.name: s.value for s in reversed(result)}


@pytest.mark.parametrize("kind", family_kinds(), ids=lambda kind: kind.__name__)
def test_what_suits_is_a_choice_that_the_family_has(kind: Any) -> None:
    """Held against its own fields; each answer is one that the brief's page offers."""
    choices, measures = part_of(kind, "choices"), part_of(kind, "measures")
    hints = get_type_hints(choices)
    for suits in kind.suits:
        assert suits.answered in {"against": AGAINST, "goes_on": GOES_ON, "near": set(CAUTIONS)}[suits.question]
        allowed = get_args(hints[suits.choice])
        assert suits.value in allowed if allowed else isinstance(suits.value, hints[suits.choice])
        assert render(suits.why)
    names = {f.name for f in fields(measures)}
    assert {name for name, _ in kind.eased_by} <= names
    assert {n for n in names if "ease" in n} - dict(kind.eased_by).keys() <= {"wall_ease"}


def test_ease_from_how_loose_it_is_to_be() -> None:
    assert of("cap", looseness="easy") == {"girth_ease": round(20 * math.pi, 1)}
    assert of("box_cover", looseness="8") == {"ease_width": 16, "ease_depth": 16, "ease_height": 8}
    assert of("cap", looseness="so that it slides") == {}
    assert of("cap") == {}
    (why,) = suggestions(family_names()["cap"], Brief(looseness="easy"), House(), "in")
    assert render(why.why, "in") == "ease on the girth 2 1/2 in: easy, 3/8 in off it all round"


def test_how_loose_it_is_to_be_means_the_same_in_another_unit() -> None:
    job = SetBrief("lid", Brief(looseness="6")).on(JobDocument("lid"))
    inches = SetUnit("in").on(job)
    shown = show_looseness(inches.brief.looseness, "in")
    assert shown == "≈ 15/64"
    again = SetBrief("lid", Brief(looseness=shown, cloth="canvas")).on(inches)
    assert clearance_mm(again.brief.looseness, "in") == 6
    assert clearance_mm(SetBrief("lid", Brief(looseness="1/4")).on(inches).brief.looseness, "mm") == 6.35
    assert SetBrief("lid", Brief(looseness="so that it slides")).on(job).brief.looseness == "so that it slides"


@pytest.mark.parametrize("typed", ["1,250 mm", "6 of them", "-3"])
def test_a_figure_that_is_no_length_is_asked_back_and_not_taken_for_words(typed: str) -> None:
    with pytest.raises(Refusal):
        SetBrief("lid", Brief(looseness=typed)).on(JobDocument("lid"))


@pytest.mark.parametrize("family", ["cap", "box_cover", "lined_shell"])
def test_that_ease_lies_so_far_off_all_round(family: str) -> None:
    """By shapely: the panel with the ease against the one without, moved onto its middle."""
    file = {"cap": {"girth": 900, "height": 300}, "box_cover": {"width": 500, "depth": 300, "height": 200}}.get(
        family, {"width": 400, "height": 300}
    )
    bare, eased = (
        family_adapter()
        .validate_python({"family": family, "measures": file | ease}, context={"unit": "mm"})
        .cover(House())
        for ease in ({}, of(family, looseness="loose"))
    )
    one, other = (shapely.Polygon(draft_panel(c.panels[0]).seam_points).bounds for c in (bare, eased))
    assert (other[2] - other[0]) - (one[2] - one[0]) == pytest.approx(50, abs=0.1)


def test_finishes_from_the_answers() -> None:
    assert of("box_cover", goes_on="cord under") == {"foot": "casing"}
    assert of("drum", near=("filling",), goes_on="zipped") == {"inner_bag": True, "closure": "zip"}
    # against wear before against dust: a bound edge does for both
    assert of("flat_panel", against=("dust", "wear"))["finish"] == "bound"


def test_the_briefs_cloth_where_the_house_knows_it() -> None:
    house = House(cloths=(Cloth("duck 12"),))
    result = suggestions(family_names()["cap"], Brief(cloth=" duck 12 "), house, "mm")
    assert [(s.name, s.value) for s in result] == [("cloth", "duck 12")]


@pytest.mark.parametrize("name", FAMILIES)
def test_all_of_it_can_be_drafted(name: str) -> None:
    brief = Brief(against=tuple(AGAINST), goes_on="zipped", looseness="close", near=tuple(CAUTIONS))
    file = lot(name, 1)
    for s in suggestions(family_names()[name], brief, House(), "mm"):
        file[s.part][s.name] = s.value
    family_adapter().validate_python({"family": name, **file}, context={"unit": "mm"}).cover(House())
