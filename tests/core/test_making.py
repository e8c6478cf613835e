"""Progress, cautions and print scale."""

from __future__ import annotations

from dataclasses import replace

import pytest

from tests import shapes
from tests.cases import worked_cases
from ypsicline.core.changes.change import changed
from ypsicline.core.changes.covers import DraftCover
from ypsicline.core.drafting.draft import draft_panel, draft_panels
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.measures_json import family_adapter
from ypsicline.core.job import Brief, JobDocument
from ypsicline.core.making.cautions import CAUTIONS, cautions
from ypsicline.core.making.print_scale import compensation, measured_scale
from ypsicline.core.making.progress import next_step, stations
from ypsicline.core.making.rough_cloth import rough_cloth
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.trueing.shape import true_up
from ypsicline.core.wording import render

SQUARE = [(0.0, 0.0), (100.0, 0.0), (100.0, 100.0), (0.0, 100.0)]


@pytest.mark.parametrize("case", worked_cases("print-compensation"), ids=lambda c: c["name"])
def test_worked_cases_of_print_compensation(case: dict) -> None:
    given, wanted = case["given"], case["expect"]
    assert compensation(given["measured_x"], given["measured_y"]) == pytest.approx(
        (wanted["scale_x"], wanted["scale_y"]), abs=case["tolerance"]
    )


def test_what_no_printer_does_is_refused() -> None:
    for across, up in ((89, 100), (100, 111), (4, 4)):
        with pytest.raises(Refusal, match="can't measure"):
            measured_scale(across, up)


def test_each_answer_in_the_brief_brings_its_caution_and_no_other() -> None:
    assert cautions(Brief("kiln cover", near=("heat",))) == (CAUTIONS["heat"],)
    assert cautions(Brief("pad")) == ()
    assert len(cautions(Brief("all", near=tuple(CAUTIONS)))) == len(CAUTIONS)
    assert all(render(text).endswith(".") for text in CAUTIONS.values())


def test_a_job_says_its_next_step_through_all_its_stages() -> None:
    job = JobDocument("tray")
    assert next_step(job, []).station == "brief"
    job = replace(job, brief=Brief("a tray"))
    assert render(next_step(job, []).message) == "photograph the piece"
    job = job.with_outline(true_up(SQUARE, error_mm=0.12))
    assert render(next_step(job, []).message) == "make a panel of the outline"
    bare = Panel("tray", shapes.square(100, allowance=0))
    job = replace(job, panels=(bare,))
    assert render(next_step(job, [draft_panel(bare)]).message) == "4 edges need an allowance"
    assert next_step(job, [draft_panel(bare)]).severity == "stop"
    hemmed = Panel("disc", shapes.circle(100, allowance=10, finish="hem"))
    job = replace(job, panels=(hemmed,))
    assert next_step(job, [draft_panel(hemmed)]).severity == "look"
    whole = Panel("tray", shapes.square(100))
    job = replace(job, panels=(whole,))
    assert next_step(job, [draft_panel(whole)]).station == "make"


def cloth_for(width: float, height: float, count: int) -> float:
    ring = [(0.0, 0.0), (width, 0.0), (width, height), (0.0, height)]
    panel = Panel("side", shapes.polygon(ring, 0, finish="raw"), cloth="drill", count=count)
    (line,) = rough_cloth(JobDocument("box", panels=(panel,)), [draft_panel(panel)])
    return line.numbers["length_mm"]


@pytest.mark.parametrize(
    ("width", "height", "count", "rows_mm"),
    [(400, 500, 3, 500), (400, 500, 4, 1000), (400, 500, 1, 500), (1500, 300, 2, 1500), (2000, 1600, 1, 3200)],
)
def test_cloth_is_reckoned_in_rows(width: float, height: float, count: int, rows_mm: float) -> None:
    """Along the grain, upright, on cloth 1400 wide: three of 400 go into a row; what is 1500 wide lies along the cloth, and
    two of 300 beside one another; what is wider either way takes two widths."""
    assert cloth_for(width, height, count) == pytest.approx(1.15 * rows_mm, abs=0.1)


def test_inner_bag_takes_cloth_as_wide_as_the_cover_says() -> None:
    asked = {
        "family": "drum",
        "measures": {"girth": 1900, "height": 190},
        "choices": {"inner_bag": True, "usable_width": 2000},
    }
    drum = family_adapter().validate_python(asked, context={"unit": "mm"})
    job = changed(JobDocument("cushion"), DraftCover(drum))
    lines = rough_cloth(job, draft_panels(job.panels, job.house))
    assert [line.numbers["width_mm"] for line in lines] == [2000, 2000]


def test_the_tape_across_the_top_fills_with_the_work() -> None:
    empty = stations(JobDocument("tray"), [])
    assert [s.key for s in empty] == ["brief", "shape", "draft", "check", "make"]
    assert empty[1].share == 0
    panel = Panel("tray", shapes.square(100))
    full = stations(
        JobDocument("tray", brief=Brief("a tray"), panels=(panel,)).with_outline(true_up(SQUARE, error_mm=0.12)),
        [draft_panel(panel)],
    )
    assert [s.share for s in full[:3]] == [1, 1, 1]
    assert render(full[1].note) == "± 0.2 mm"


@pytest.mark.parametrize(
    "how",
    [{"name": ""}, {"name": "x" * 81}, {"for_whom": "a\nb"}, {"print_scale": (2.0, 1.0)}, {"sheet_scale": (1.0, 0.1)}],
)
def test_a_job_that_makes_no_sense_is_refused(how: dict) -> None:
    with pytest.raises(Refusal):
        JobDocument(**{"name": "tray", **how})
