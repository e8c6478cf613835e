"""A result that is to be so long, and which measure that takes."""

from __future__ import annotations

import json
from typing import Any

import pytest
from pytest import approx

from tests.families import FAMILIES, cover_of, lot
from ypsicline.core.covers.backwards import measures_for, results_of, with_lengths
from ypsicline.core.covers.family import Family
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.measures_json import read_measures
from ypsicline.core.wording import render

HOUSE = House()
LOTS = range(2)


def family_of(name: str, **parts: Any) -> Family:
    return read_measures(json.dumps({"version": 1, "measures": {}, **parts}).encode(), name)


def offers(family: Family, result: str, length: float) -> dict[str, float]:
    outcome = next(r for r in results_of(family.cover(HOUSE)) if render(r.what) == result)
    return {o.measure: o.length_mm for o in measures_for(family, HOUSE, outcome.id, length)}


def test_wall_out_of_one_width() -> None:
    """Girth + ease + two joins of 12: 1400 of cloth leave 1376 − 10 of ease."""
    drum = family_of("drum", measures={"girth": 1500, "height": 300, "wall_ease": 10}, choices={"usable_width": 1400})
    assert offers(drum, "wall, cloth that it takes in one piece", 1400) == approx({"measures.girth": 1366}, abs=0.03)


def test_cord_at_hand() -> None:
    """812 + 12 round and two tails: a cord of 1224 leaves tails of 200."""
    cap = family_of("cap", measures={"girth": 812, "height": 300, "girth_ease": 12})
    result = offers(cap, "cord, length", 1224)
    assert result["choices.cord_tails"] == approx(200, abs=0.02)
    assert result["measures.girth"] == approx(812 - 100, abs=0.03)


def test_measure_that_can_not_be_is_not_offered() -> None:
    cap = family_of("cap", measures={"girth": 812, "height": 300})
    assert "choices.cord_tails" not in offers(cap, "cord, length", 400)


def test_length_below_zero_in_a_file_is_refused() -> None:
    with pytest.raises(Refusal, match="below zero"):
        family_of("cap", measures={"girth": 812, "height": 300}, choices={"cord_tails": -206})


def test_result_and_measure_that_are_not_there() -> None:
    cap = family_of("cap", measures={"girth": 812, "height": 300})
    with pytest.raises(Refusal):
        measures_for(cap, HOUSE, "term_of_nothing.1", 100)
    with pytest.raises(Refusal):
        with_lengths(cap, {"measures.girdle": 100})
    with pytest.raises(Refusal):
        with_lengths(cap, {"family": 100})


@pytest.mark.parametrize("family", sorted(FAMILIES))
def test_each_offer_leads_there(family: str) -> None:
    """By lot: drafted with the measure that was offered, from its own file, the result is what was asked for."""
    offered = 0
    for k in LOTS:
        file = lot(family, k)
        known = family_of(family, **file)
        for result in results_of(cover_of(family, **file)):
            wanted = 1.01 * result.length_mm + 1
            for offer in measures_for(known, HOUSE, result.id, wanted):
                part, name = offer.measure.split(".")
                changed = file | {part: file[part] | {name: offer.length_mm}}
                came = {r.id: r.length_mm for r in results_of(cover_of(family, **changed))}
                assert came[result.id] == approx(wanted, abs=0.03), (k, offer)
                offered += 1
    if any(results_of(cover_of(family, **lot(family, k))) for k in LOTS):
        assert offered
