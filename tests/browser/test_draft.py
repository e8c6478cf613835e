"""The Draft station as a maker uses it: details, ease, house rules, the table, all edges at once, a pad filled."""

from __future__ import annotations

import re
import threading
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests import shapes
from tests.browser.at_bench import leave_all, take_tool
from tests.browser.test_whole_path import take_in
from ypsicline.core.drafting.pad import FilledPad
from ypsicline.core.formats.documents import PanelsFile, dump
from ypsicline.core.pattern.panel import Panel
from ypsicline.server.jobs import fillings

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture()
def draft(workshop_page: Page) -> Page:
    """A job with two panels, at Draft."""
    page = workshop_page
    take_in(page, "Drying cart")
    page.get_by_role("link", name=re.compile("3 Draft")).click()
    panels = (
        Panel("lid", shapes.square(300, allowance=12)),
        Panel("strip", shapes.polygon([(0, 0), (200, 0), (200, 60), (0, 60)])),
    )
    file = {"name": "cart.json", "mimeType": "application/json", "buffer": dump(PanelsFile(panels))}
    page.get_by_label("Outline file").set_input_files(file)
    expect(page.get_by_role("heading", name="lid", exact=True)).to_be_visible()
    return page


def box_of(page: Page, name: str) -> dict[str, float]:
    result = page.get_by_role("button", name=re.compile(f"^Edge {name},")).first.bounding_box()
    assert result
    return result


def test_a_dart_and_an_aperture_are_put_on_changed_and_undone(draft: Page) -> None:
    page = draft
    page.locator("body").press("ArrowRight")
    take_tool(page, "Take in")
    page.get_by_role("button", name="Dart", exact=True).click()
    expect(page.get_by_role("heading", name="Dart on a")).to_be_visible()
    for label, text in (("from the edge’s start", "150"), ("intake", "30"), ("length", "90")):
        page.get_by_label(label, exact=True).fill(text)
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("button", name="dart on a at 150: intake 30, 90 long", exact=True)).to_be_visible()
    tag = page.get_by_role("group", name="What is chosen")
    tag.get_by_label("intake", exact=True).fill("3000")
    tag.get_by_label("intake", exact=True).press("Enter")
    expect(tag.get_by_role("alert")).to_contain_text("runs from")
    expect(tag.get_by_label("intake", exact=True)).to_have_value("3000")
    tag.get_by_label("intake", exact=True).fill("40")
    tag.get_by_label("intake", exact=True).press("Enter")
    expect(page.get_by_role("button", name=re.compile("^dart on a at 150: intake 40"))).to_be_visible()

    take_tool(page, "Open")
    page.get_by_role("button", name="Aperture").click()
    left, right = box_of(page, "d"), box_of(page, "b")
    page.mouse.click((left["x"] + right["x"]) / 2, left["y"] + left["height"] / 2)
    expect(page.get_by_label("across", exact=True)).not_to_have_value("")
    page.get_by_label("what passes, across").fill("40")
    page.get_by_label("finish", exact=True).select_option("faced")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("button", name="post: round 40.0, faced", exact=True)).to_be_visible()
    page.locator("body").press("Control+z")
    expect(page.get_by_role("button", name=re.compile("^post"))).to_have_count(0)
    take_tool(page, "Take in")
    expect(page.get_by_role("button", name=re.compile("^dart on a")).first).to_be_visible()


def test_ease_and_house_rules_reach_the_panel(draft: Page) -> None:
    page = draft
    take_tool(page, "Ease")
    field = page.get_by_label("clearance all round")
    field.fill("10")
    field.press("Tab")
    expect(page.get_by_text("seam line 320.0 × 320.0", exact=True)).to_be_visible()
    take_tool(page, "Allow")
    page.get_by_role("button", name="All edges", exact=True).click()
    page.get_by_role("button", name="Back to the rule").click()
    leave_all(page)
    page.get_by_role("link", name="House rules and cloths").click()
    seam = page.get_by_label("plain seam")
    seam.fill("15 mm")
    seam.press("Tab")
    expect(seam).to_have_value("15.0")
    page.get_by_role("button", name="Let new jobs start with these").click()
    expect(page.get_by_text("New jobs start with these rules and cloths.")).to_be_visible()
    page.get_by_role("link", name="Back to the job").click()
    expect(page.get_by_role("button", name=re.compile("^Edge a, .* plain 15.0$"))).to_have_count(1)


def test_the_workshops_rules_are_what_a_new_job_starts_with(workshop_page: Page) -> None:
    page = workshop_page
    page.get_by_role("link", name="Workshop").click()
    page.get_by_role("link", name="House rules and cloths").click()
    hem = page.get_by_label("hem", exact=True)
    hem.fill("3 km wide")
    hem.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("can't be read as a length")
    expect(hem).to_have_value("3 km wide")
    hem.fill("3 cm")
    hem.press("Enter")
    expect(hem).to_have_value("30.0")
    page.reload()
    expect(page.get_by_label("hem", exact=True)).to_have_value("30.0")
    page.get_by_role("link", name="The wall", exact=True).click()
    take_in(page, "Lid")
    page.get_by_role("link", name=re.compile("3 Draft")).click()
    file = {
        "name": "cart.json",
        "mimeType": "application/json",
        "buffer": dump(PanelsFile((Panel("lid", shapes.square(300)),))),
    }
    page.get_by_label("Outline file").set_input_files(file)
    page.get_by_role("button", name="All edges", exact=True).click()
    page.get_by_role("button", name="hem", exact=True).click()
    page.get_by_role("button", name="Back to the rule").click()
    expect(page.get_by_role("button", name=re.compile("^Edge a, .* hem 30.0$"))).to_have_count(1)


def test_panels_are_dragged_nudged_turned_and_measured(draft: Page) -> None:
    page = draft
    before = box_of(page, "a")
    page.locator("body").press("m")
    expect(page.get_by_role("button", name="Move", exact=True)).to_have_attribute("aria-pressed", "true")
    x, y = before["x"] + before["width"] * 0.25, before["y"] - 60
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 30, y - 40, steps=5)
    page.mouse.up()
    expect(page.get_by_role("button", name="Undo")).to_be_enabled()
    for key in ("Shift+ArrowUp", "r", "x"):
        with page.expect_response("**/changes"):
            page.keyboard.press(key)
    page.keyboard.press("Escape")
    # a quarter turn and a flip: edge a lies on the right or left now
    expect(page.locator(".tag").first).to_be_visible()
    turned = box_of(page, "a")
    assert turned["height"] > 3 * turned["width"]
    page.reload()
    take_tool(page, "Measure")
    kept = box_of_corner(page)
    page.mouse.click(*kept[0])
    page.mouse.click(*kept[1])
    expect(page.locator(".tag").filter(has_text="300.0 mm")).to_be_visible()


def box_of_corner(page: Page) -> list[tuple[float, float]]:
    """Where the first two corners of the first panel are on the screen."""
    result = page.locator("g.panel").first.locator("g.corner path")
    boxes = [result.nth(k).bounding_box() for k in (0, 1)]
    return [(b["x"] + b["width"] / 2, b["y"] + b["height"] / 2) for b in boxes if b]


def test_many_edges_are_set_at_once_in_the_table(draft: Page) -> None:
    page = draft
    page.get_by_role("button", name="In a table", exact=True).click()
    page.get_by_role("checkbox", name="lid, a").check()
    page.get_by_role("checkbox", name="strip, c").check()
    page.get_by_label("Finish of the ticked edges").select_option("double_hem")
    expect(page.get_by_role("row").filter(has_text="double hem")).to_have_count(2)
    expect(page.get_by_role("row").filter(has_text="by rule")).to_have_count(0)
    page.get_by_label("Corner of the ticked edges").select_option("by_rule")
    expect(page.get_by_role("row").filter(has_text="turned · by rule")).to_have_count(2)
    page.get_by_role("button", name="Back to the table").click()
    page.get_by_role("button", name="folded", exact=True).click()
    expect(page.locator("path.folded")).to_have_count(2)


def test_a_pad_is_filled_and_tapers_are_proposed(draft: Page, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    page = draft
    seen, really = threading.Event(), fillings.filling

    def until_seen(*of: Any) -> Iterator[FilledPad]:
        """A quick machine would be done before the page shows that it is at work."""
        for pad in really(*of):
            yield pad
            seen.wait(20)

    monkeypatch.setattr(fillings, "filling", until_seen)
    take_tool(page, "Fill")
    page.get_by_role("button", name="Fill it", exact=True).click()
    page.get_by_role("button", name="Stop").click()
    expect(page.get_by_text("It was stopped.")).to_be_visible()
    page.get_by_role("button", name="Fill it", exact=True).click()
    expect(page.get_by_role("progressbar", name="How far it is: filling it")).to_be_visible()
    page.reload()
    seen.set()
    take_tool(page, "Fill")
    page.get_by_role("button", name="lid", exact=True).click()
    expect(page.get_by_text(re.compile(r"Corners stand out by up to ([5-9](\.\d)?|1\d(\.\d)?) %"))).to_be_visible()
    expect(page.get_by_text("filling it")).to_have_count(0, timeout=30_000)
    page.get_by_role("button", name="Propose").click()
    expect(page.get_by_text("they won’t show as ears")).to_be_visible(timeout=60_000)
    expect(page.get_by_text("trying tapers")).to_have_count(0, timeout=60_000)
    with page.expect_download() as download:
        page.get_by_role("link", name="Corner template").click()
    path = tmp_path / "corner.pdf"
    download.value.save_as(path)
    assert path.read_bytes().startswith(b"%PDF")


def test_a_drawing_of_unknown_size_is_asked_about_and_read_at_the_size_told(workshop_page: Page) -> None:
    page = workshop_page
    take_in(page, "Lid")
    page.locator("body").press("3")
    svg = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 30"><rect width="20" height="10"/></svg>'
    file = {"name": "lid.svg", "mimeType": "image/svg+xml", "buffer": svg}
    page.get_by_label("Outline file").set_input_files(file)
    asked = page.get_by_role("dialog")
    expect(asked).to_contain_text("Type one known measure")
    page.keyboard.press("Escape")
    expect(asked).to_be_hidden()
    page.get_by_label("Outline file").set_input_files(file)
    page.get_by_label("How wide, all together").fill("some")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("can't be read as a length")
    page.get_by_label("Outline file").set_input_files(file)
    page.get_by_label("How wide, all together").fill("31.4 cm")
    page.get_by_role("button", name="Read it").click()
    expect(page.get_by_text("314.0 × 157.0 on the seam line")).to_be_visible()
