"""Every view of a job in inches, looked over for other units: what is read, typed in fields, and told to a screen reader."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest
from playwright.sync_api import Page, expect

from tests import shapes
from tests.browser.at_bench import choose_panel, leave_all, take_tool
from tests.core.test_carried import FULL
from ypsicline.core.changes.pieces import AddMeasure, TakeStep
from ypsicline.core.drafting.house import Cloth, House
from ypsicline.core.job import Brief, JobDocument
from ypsicline.core.pattern.features.layer import Layer
from ypsicline.core.pattern.fit import Fit
from ypsicline.core.steps import Find, Smooth
from ypsicline.core.trueing.shape import true_up
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Workshop

FILES_IN_MM = re.compile(r"(SVG|DXF), in mm")
READ_ALL = """() => {
  const texts = [document.body.innerText]
  for (const e of document.body.querySelectorAll('*')) {
    for (const name of ['aria-label', 'title', 'placeholder', 'aria-description']) texts.push(e.getAttribute(name) ?? '')
    if ('value' in e && e.checkVisibility()) texts.push(String(e.value))
    if (e.tagName === 'text') texts.push(e.textContent)
  }
  return texts
}"""


SCROLLED = "[...document.querySelectorAll('.slip .inner')].some((e) => e.scrollHeight > e.clientHeight + 1)"


def in_another_unit(page: Page) -> list[str]:
    lines = {line for text in page.evaluate(READ_ALL) for line in text.splitlines()}
    return [line for line in lines if re.search(r"\bmm\b|\bcm\b|millimet|centimet", FILES_IN_MM.sub("", line))]


@pytest.fixture()
def inches(workshop_page: Page) -> Page:
    """A job that was begun in millimetres, with a step of each kind that says a length, and is in inches now."""
    square = [(float(x), float(y)) for x, y in ((0, 0), (300, 0), (300, 200), (0, 200))]
    lining = Layer("lining", "lining", grown=-1.5, allowance=12, cut_larger=6)
    full = replace(FULL, features=(*FULL.features, lining), fit=Fit(clearance=6, girth=20, over=3))
    tight = replace(shapes.circle(90, allowance=40)[0], finish="hem")
    shirred = replace(FULL, name="wide", seam_line=(tight, *shapes.circle(90)[1:]), features=())
    house = House(cloths=(Cloth("canvas", 0.8, warp_shrinks=0.02),))
    job = JobDocument("Wheel cover", brief=Brief("the wheel", looseness="6"), panels=(full, shirred), house=house)
    job = job.with_outline(true_up(square, error_mm=0.4))
    workshop = Workshop.objects.get()
    row = history.take_in(workshop, job, None)
    for change in (TakeStep(Smooth(0.5)), TakeStep(Find(0.3)), AddMeasure(edge=0), AddMeasure(between=(0, 2))):
        history.change(row.pk, change, None)
    row.refresh_from_db()
    page = workshop_page
    page.goto(f"{page.url.rstrip('/')}/jobs/{row.pk}/shape")
    unit = page.get_by_role("button", name=re.compile("^Unit "))
    take_tool(page, "Steps")
    expect(page.get_by_text("Smoothed by up to 0.5 mm")).to_be_visible()
    assert len(in_another_unit(page)) > 5
    for shown in ("cm", "in"):
        unit.click()
        expect(unit).to_have_text(shown)
    return page


@pytest.mark.parametrize("station", ["brief", "shape", "draft", "make"])
def test_a_job_in_inches_shows_no_other_unit_and_its_slips_need_no_scrolling(inches: Page, station: str) -> None:
    page = inches
    page.get_by_role("link", name=re.compile(station.title())).click()
    expect(page.get_by_role("button", name="Undo")).to_be_enabled()
    shown, scrolled = {"as it opens": in_another_unit(page)}, []
    opened = {"shape": _at_shape, "draft": _at_draft}.get(station)
    for what in opened(page) if opened else ():
        shown[what] = in_another_unit(page)
        # what was opened besides may be longer
        if "opened" not in what and page.evaluate(SCROLLED):
            scrolled.append(what)
    assert {k: v for k, v in shown.items() if v} == {}
    assert not scrolled, scrolled
    assert len(shown) > {"shape": 3, "draft": 15}.get(station, 0)


def _at_shape(page: Page):  # type: ignore[no-untyped-def]
    take_tool(page, "True up")
    for name in ("Corner A", "Edge BC", "Corner B"):
        page.get_by_role("button", name=re.compile(f"^{name}")).first.focus()
        page.keyboard.press("Enter")
        yield name
    page.keyboard.press("Escape")
    for name in ("Tape", "Fold", "Old cloth", "Steps", "Photo", "Type in"):
        take_tool(page, name)
        yield name
        for summary in page.locator("details:not([open]) > summary").all():
            if summary.is_visible():
                summary.click()
                yield f"opened {summary.inner_text()}"
    take_tool(page, "True up")
    page.get_by_text("How closely edges follow").click()
    slider = page.get_by_label("Try a tolerance")
    slider.focus()
    slider.press("ArrowRight")
    page.wait_for_timeout(300)
    yield "a tolerance tried"


def _at_draft(page: Page):  # type: ignore[no-untyped-def]
    for name in ("full", "wide"):
        choose_panel(page, name)
        for look in ("as sewn", "folded", "as cut"):
            page.get_by_role("button", name=look, exact=True).click()
            yield f"{name} {look}"
        for tool in ("Allow", "Ease", "Take in", "Open", "Mark", "Layer", "Join", "Fill", "Move", "Measure"):
            take_tool(page, tool)
            yield f"{name} {tool}"
            for summary in page.locator("details:not([open]) > summary").all():
                if summary.is_visible():
                    summary.click()
            yield f"{name} {tool}, opened"
            features = page.locator("button.words")
            for k in range(features.count() if tool != "Join" else 0):
                features.nth(k).click()
                yield f"{name} {tool} {k}"
                page.get_by_role("button", name="All of them", exact=True).click()
        choose_panel(page, name)
        page.locator("body").press("ArrowRight")
        yield f"{name}, an edge"
        page.keyboard.press("Escape")
        page.get_by_role("button", name="In a table", exact=True).click()
        yield f"{name}, all edges"
        page.get_by_role("button", name="Back to the table").click()
    leave_all(page)
    yield "the table"
    page.get_by_role("link", name="House rules and cloths").click()
    page.get_by_label("plain seam").wait_for()
    yield "house rules"
