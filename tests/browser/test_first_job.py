"""The guide through the first job by keys alone, help where it is needed, and the bench in a hand: phone and tablet."""

from __future__ import annotations

import io
import re
from pathlib import Path

import pytest
from PIL import Image
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests import shapes
from tests.browser.at_bench import take_tool
from tests.browser.test_access import SMALL, violations
from tests.browser.test_whole_path import send_photo, take_in
from ypsicline.core.formats.documents import PanelsFile, dump
from ypsicline.core.pattern.panel import Panel

pytestmark = pytest.mark.django_db(transaction=True)


def pressed(page: Page, role: str, name: str) -> None:
    page.get_by_role(role, name=name, exact=True).press("Enter")  # type: ignore[arg-type]


def test_the_first_job_from_its_photo_to_a_print_without_a_mouse(workshop_page: Page, tmp_path: Path) -> None:
    page = workshop_page
    pressed(page, "link", "Help")
    pressed(page, "button", "Begin")
    guide = page.get_by_role("complementary", name="The first job, step by step")
    expect(guide).to_contain_text("Step 1 of 5")
    pressed(page, "button", "Send the photo")
    expect(guide).to_contain_text("Step 2 of 5", timeout=60_000)
    page.get_by_role("button", name=re.compile("^Edge DE,")).press("Enter")
    pressed(page, "button", "Straight")
    expect(guide).to_contain_text("Step 3 of 5")
    # going away and coming back loses nothing of it
    page.reload()
    pressed(page, "link", "To Draft")
    pressed(page, "button", "Make the panel")
    expect(guide).to_contain_text("Step 4 of 5")
    page.locator("body").press("a")
    page.keyboard.type("12")
    page.keyboard.press("Enter")
    expect(guide).to_contain_text("Step 5 of 5")
    page.keyboard.press("Escape")
    page.keyboard.press("5")
    with page.expect_download() as download:
        pressed(page, "link", "Get the PDF")
    download.value.save_as(tmp_path / "print.pdf")
    assert "First job" in PdfReader(tmp_path / "print.pdf").pages[0].extract_text()
    pressed(page, "button", "Done")
    expect(guide).to_have_count(0)
    page.go_back()
    expect(page.get_by_role("group", name="Tools on the bench")).to_be_visible()


@pytest.fixture()
def panel_page(workshop_page: Page) -> Page:
    page = workshop_page
    take_in(page, "Stool pad")
    page.locator("body").press("3")
    panels = (Panel("pad", shapes.square(300, allowance=12)), Panel("lid", shapes.wave()))
    file = {"name": "pad.json", "mimeType": "application/json", "buffer": dump(PanelsFile(panels))}
    page.get_by_label("Outline file").set_input_files(file)
    expect(page.get_by_role("heading", name="pad", exact=True)).to_be_visible()
    return page


@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_axe_finds_nothing_with_any_tool_or_its_help(panel_page: Page, scheme: str) -> None:
    page = panel_page
    page.emulate_media(color_scheme=scheme, reduced_motion="reduce")  # type: ignore[arg-type]
    seen = {}
    for tool in ("Ease", "Take in", "Open", "Mark", "Layer", "Join", "Fill", "Move", "Measure", "Allow"):
        take_tool(page, tool)
        page.wait_for_timeout(150)
        seen[tool] = violations(page)
    page.locator("body").press("ArrowRight")
    seen["an edge"] = violations(page)
    page.get_by_role("button", name=re.compile("^Corner a")).press("Enter")
    seen["a corner"] = violations(page)
    page.get_by_role("button", name=re.compile("^Help: ")).click()
    page.wait_for_timeout(300)
    seen["help"] = violations(page)
    page.get_by_role("button", name="Close", exact=True).click()
    page.goto(re.sub(r"(https?://[^/]+).*", r"\1/house", page.url))
    page.get_by_label("plain seam").wait_for()
    seen["house rules"] = violations(page)
    assert {k: v for k, v in seen.items() if v} == {}


@pytest.mark.parametrize(("width", "height"), [(360, 640), (768, 1024)])
def test_in_a_hand_the_slip_is_a_sheet_that_is_put_down(panel_page: Page, width: int, height: int) -> None:
    page = panel_page
    page.set_viewport_size({"width": width, "height": height})
    page.reload()
    small = width < 600
    slip = page.get_by_label("Name on the label")
    take_up = page.get_by_role("button", name="Take the slip up")
    if small:
        expect(slip).to_be_hidden()
        take_up.click()
    page.get_by_role("list", name="Panels").get_by_role("button", name=re.compile("^pad")).click()
    expect(slip).to_be_visible()
    page.get_by_role("button", name="Put the slip down").click()
    expect(slip).to_be_hidden()
    edge = page.get_by_role("button", name=re.compile("^Edge a,"))
    edge.press("Enter")
    allowance = page.get_by_label("Allowance", exact=True)
    allowance.fill("15")
    allowance.press("Enter")
    expect(page.get_by_role("button", name="Edge a, 300.0 mm, plain 15.0")).to_have_count(1)
    for station in ("brief", "shape", "draft", "check", "make"):
        page.goto(re.sub(r"/(brief|shape|draft|check|make).*", f"/{station}", page.url))
        page.wait_for_timeout(300)
        assert page.evaluate("() => document.documentElement.scrollWidth - window.innerWidth") <= 0
        assert page.evaluate(SMALL) == []


@pytest.mark.parametrize(("width", "height"), [(360, 640), (768, 1024)])
def test_in_a_hand_a_new_job_begins_with_its_photo_or_what_is_typed(
    workshop_page: Page, width: int, height: int
) -> None:
    page = workshop_page
    page.set_viewport_size({"width": width, "height": height})
    take_in(page, "Bin cap")
    page.get_by_role("link", name=re.compile("2 Shape")).click()
    heading = page.get_by_role("heading", name=re.compile("^Lay the piece flat")).bounding_box()
    tools = page.get_by_role("group", name="Tools on the bench").bounding_box()
    assert heading and tools
    assert heading["y"] >= tools["y"] + tools["height"]
    # nothing lies over it
    page.get_by_role("button", name="Send photos").click(trial=True)
    take_tool(page, "Type in")
    page.get_by_label("A to B").fill("300")
    page.get_by_role("button", name="Put the slip down").click()
    expect(page.get_by_label("A to B")).to_be_hidden()
    # why a photo was refused is said on the slip, which comes up for it
    table = io.BytesIO()
    Image.new("RGB", (1400, 1000), "grey").save(table, "JPEG")
    send_photo(page, table.getvalue(), "table.jpg")
    expect(page.get_by_role("alert").filter(has_text="No reference sheet was found")).to_be_visible(timeout=20_000)


def test_the_wall_says_that_the_server_is_away_and_comes_back_by_itself(workshop_page: Page) -> None:
    page = workshop_page
    page.route("**/api/wall*", lambda route: route.abort())
    page.reload()
    expect(page.get_by_text("can’t be reached just now")).to_be_visible()
    page.unroute("**/api/wall*")
    expect(page.get_by_text("can’t be reached just now")).to_have_count(0)
    expect(page.get_by_role("heading", level=1)).to_have_text("Otterbeck Clay Rooms")


def test_close_corners_and_edges_go_by_what_is_nearest_and_the_view_stays(panel_page: Page) -> None:
    page = panel_page
    box = page.get_by_role("button", name=re.compile("^Edge a,")).first.bounding_box()
    assert box
    y = box["y"] + box["height"] / 2
    # 14 px above edge a is still edge a's; the corner is a's own end
    page.mouse.click(box["x"] + box["width"] * 0.4, y - 12)
    expect(page.get_by_role("button", name=re.compile("^Edge a,"))).to_have_attribute("aria-pressed", "true")
    before = page.locator("section.table .drawing").first.get_attribute("viewBox")
    page.keyboard.type("40")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name=re.compile("^Edge a, .* plain 40.0"))).to_have_count(1)
    assert page.locator("section.table .drawing").first.get_attribute("viewBox") == before


def test_double_clicks_do_a_thing_once(workshop_page: Page) -> None:
    page = workshop_page
    take_in(page, "Twice")
    page.locator("body").press("3")
    file = {
        "name": "a.json",
        "mimeType": "application/json",
        "buffer": dump(PanelsFile((Panel("pad", shapes.square(300, allowance=12)),))),
    }
    page.get_by_label("Outline file").set_input_files(file)
    page.get_by_role("button", name="Mirror image").dblclick()
    expect(page.get_by_role("heading", name="pad 2", exact=True)).to_be_visible()
    page.wait_for_timeout(600)
    expect(page.locator("g.panel")).to_have_count(2)


def test_what_is_typed_at_one_panel_is_kept_there_when_the_next_is_chosen(panel_page: Page) -> None:
    page = panel_page
    many = page.get_by_label("How many", exact=True)
    for name in ("pad", "lid"):
        if name == "lid":
            box = page.locator("g.panel path.grab").nth(1).bounding_box()
            assert box
            page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
            expect(page.get_by_role("heading", name="lid", exact=True)).to_be_visible()
            many.fill("two")
            many.press("Enter")
            expect(page.get_by_role("alert")).to_contain_text("“two” isn't a whole number")
        many.fill("3")
    many.press("Enter")
    for name in ("pad", "lid"):
        expect(page.get_by_role("group", name=re.compile(f"^Panel {name}, cut 3"))).to_have_count(1)
