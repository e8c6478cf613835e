"""Several photos, a pen line, a tape: other ways to an outline, as a maker walks them."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from demo.pieces import circle, with_gaps
from tests.browser.at_bench import take_tool
from tests.browser.test_whole_path import send_photo, take_in
from tests.conftest import SMALL, flat_scene
from tests.remembered import take_photo
from ypsicline.standins.camera import Piece, Stroke

pytestmark = pytest.mark.django_db(transaction=True)
MEASURED = 40_000


def to_shape(page: Page, name: str) -> None:
    take_in(page, name)
    page.locator("body").press("2")
    expect(page.get_by_role("button", name="Send photos")).to_be_visible()


def test_photos_chosen_together_are_measured_together(workshop_page: Page, tray_photo: Callable[..., bytes]) -> None:
    page = workshop_page
    to_shape(page, "Two photos")
    shots = [tray_photo(tilt_towards_deg=float(90 * k), seed=k + 40) for k in range(2)]
    page.get_by_label("Photos", exact=True).set_input_files(
        [{"name": f"tray-{k}.jpg", "mimeType": "image/jpeg", "buffer": data} for k, data in enumerate(shots)]
    )
    size = page.get_by_role("heading", name=re.compile(r"^\d+\.\d × \d+\.\d mm$"))
    expect(size).to_be_visible(timeout=MEASURED)
    wide = float(size.inner_text().split()[0])
    take_tool(page, "Photo")
    expect(page.get_by_role("heading", name="tray-0.jpg and 1 more")).to_be_visible()
    page.get_by_text("What is looked for").click()
    page.get_by_label("it lies above the sheets by").fill("6 mm")
    page.get_by_label("it lies above the sheets by").press("Tab")
    take_tool(page, "True up")
    expect(size).not_to_have_text(re.compile(f"^{wide}"), timeout=MEASURED)
    assert 0.985 * wide < float(size.inner_text().split()[0]) < 0.997 * wide


def test_a_pen_line_is_looked_for_when_it_is_asked_for(workshop_page: Page) -> None:
    ring = circle((0, 0), 150)
    paper = Piece(np.array([[-260, -200], [260, -200], [260, 200], [-260, 200]], float), (), (222, 204, 170), 0.015)
    lines = tuple(Stroke(part, 1.5) for part in with_gaps(ring, (0.2, 0.7), 6))
    scene = replace(flat_scene(paper, gap=75), table=(92, 98, 100), strokes=lines)
    page = workshop_page
    to_shape(page, "Drawn")
    page.get_by_role("button", name="a pen line").click()
    page.get_by_role("button", name="outer").click()
    send_photo(page, take_photo(scene, replace(SMALL, distance_mm=1050)), "drawn.jpg")
    expect(page.get_by_role("heading", name=re.compile(r"^30[12]\.\d × 30[12]\.\d mm$"))).to_be_visible(
        timeout=MEASURED
    )


def test_measured_in_squared_folded_and_scaled(workshop_page: Page) -> None:
    page = workshop_page
    to_shape(page, "Taped")
    for label, text in (("A to B", "40 cm"), ("B to C", "300"), ("C to D", "404"), ("D to A", "300")):
        page.get_by_label(label, exact=True).fill(text)
    page.get_by_label("diagonal A to C").fill("0,5 m")
    page.get_by_role("button", name="Draw it").click()
    expect(page.get_by_text("Measured in with a tape: as exact as its measures.")).to_be_visible()

    page.get_by_role("button", name="Corner D", exact=True).press("Enter")
    page.get_by_role("button", name="Make it square").click()
    take_tool(page, "Tape")
    page.get_by_role("button", name="Corner A", exact=True).press("Enter")
    page.get_by_role("button", name="Corner B", exact=True).press("Enter")
    tape = page.get_by_label("Tape says, A – B")
    expect(page.get_by_role("cell", name="400.0")).to_be_visible()
    tape.fill("408")
    tape.press("Tab")
    page.get_by_role("button", name="Scale to the tape").click()
    expect(
        page.locator("span[role=status]").filter(has_text=re.compile(r"Scaled to the tape by \+2\.00 %"))
    ).to_be_visible()
    expect(page.get_by_role("cell", name="408.0").first).to_be_visible()

    take_tool(page, "Fold")
    page.get_by_role("button", name="Corner A", exact=True).press("Enter")
    page.get_by_role("button", name="Corner C", exact=True).press("Enter")
    page.get_by_role("button", name="Both, averaged").click()
    expect(
        page.locator("span[role=status]").filter(has_text=re.compile(r"Folded: the halves lay up to \d+\.\d mm apart"))
    ).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    take_tool(page, "Tape")
    expect(page.get_by_role("cell", name="408.0").first).to_be_visible()


def test_measures_that_cannot_be_right_are_named_and_nothing_is_lost(workshop_page: Page) -> None:
    page = workshop_page
    to_shape(page, "Slip of the tape")
    page.get_by_role("button", name="rectangle").click()
    page.get_by_label("width", exact=True).fill("400")
    page.get_by_label("length", exact=True).fill("300")
    page.get_by_label("or the diagonal through the round corners").fill("50 cm 1")
    page.get_by_role("button", name="Draw it").click()
    expect(page.get_by_text("can’t be read").or_(page.get_by_text("can't be read"))).to_be_visible()
    page.get_by_label("or the diagonal through the round corners").fill("501")
    page.get_by_role("button", name="Draw it").click()
    expect(page.get_by_text("A diagonal of 501 mm can't be right")).to_be_visible()
    expect(page.get_by_label("width", exact=True)).to_have_value("400")
