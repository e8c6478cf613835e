"""Read by a machine, held in a hand, worked by keys alone."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests import shapes
from tests.browser.test_whole_path import take_in
from ypsicline.core.formats.documents import PanelsFile, dump
from ypsicline.core.pattern.panel import Panel

pytestmark = pytest.mark.django_db(transaction=True)
AXE = Path(__file__).parents[2] / "frontend" / "node_modules" / "axe-core" / "axe.min.js"

# what is touched and isn't 44 px high and wide, text smaller than 13 px, and what a field would hold that is fainter than text
SMALL = """() => {
  const shown = [...document.querySelectorAll('*')].filter(e => e.checkVisibility() && !e.closest('svg'))
  const touched = shown.filter(e => e.matches('button, a.v-btn, nav a, summary, select, input.typed, .v-field, label:has(> input)'))
  const sizes = touched.map(e => [e.ariaLabel ?? e.innerText, e.getBoundingClientRect()]).filter(([, r]) => r.height)
  const low = sizes.filter(([, r]) => Math.min(r.height, r.width) < 43.5).map(([name, r]) => `${name}: ${r.width} x ${r.height}`)
  const worded = shown.filter(e => [...e.childNodes].some(n => n.nodeType === Node.TEXT_NODE && n.textContent.trim()))
  const fine = worded.map(e => [e.textContent, parseFloat(getComputedStyle(e).fontSize)]).filter(([, px]) => px < 13)
  const soft = getComputedStyle(document.querySelector('.soft') ?? document.body).color
  const held = shown.filter(e => e.placeholder && e.value === '').map(e => [e, getComputedStyle(e, '::placeholder')])
  const faint = held.filter(([e, style]) => style.opacity !== '1' || style.color !== soft && style.color !== getComputedStyle(e).color)
  return [...low, ...fine, ...faint.map(([e]) => e.placeholder)]
}"""


def pad_job(page: Page) -> None:
    take_in(page, "Stool pad")
    page.locator("body").press("3")
    file = dump(PanelsFile((Panel("pad", shapes.square(300, allowance=12)),)))
    page.get_by_label("Outline file").set_input_files(
        {"name": "pad.json", "mimeType": "application/json", "buffer": file}
    )
    expect(page.get_by_role("heading", name="pad", exact=True)).to_be_visible()


def violations(page: Page) -> list[str]:
    # the page's policy lets no script in but its own; the debugger's channel may
    page.evaluate(AXE.read_text())
    result = page.evaluate("async () => (await axe.run(document)).violations")
    return [f"{v['id']}: {n['target']} {n['failureSummary'][:200]}" for v in result for n in v["nodes"][:3]]


@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_axe_finds_nothing_at_any_station(workshop_page: Page, scheme: str) -> None:
    page = workshop_page
    page.emulate_media(color_scheme=scheme, reduced_motion="reduce")  # type: ignore[arg-type]
    page.reload()
    pad_job(page)
    assert violations(page) == []
    page.locator("body").press("ArrowRight")
    assert violations(page) == []
    for key, seen in (
        ("1", "What is covered?"),
        ("2", "Lay the piece flat"),
        ("4", "Joins, walked"),
        ("5", "Print the pattern"),
    ):
        page.locator("body").press("Escape")
        page.locator("body").press(key)
        expect(page.get_by_text(seen).first).to_be_visible()
        page.wait_for_timeout(250)
        assert violations(page) == []
    for path in ("/", "/help"):
        page.goto(re.sub(r"(https?://[^/]+).*", r"\1", page.url) + path)
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        assert violations(page) == []


@pytest.mark.parametrize(("width", "height"), [(390, 844), (1280, 800), (1024, 700)])
def test_nothing_sticks_out_sideways_and_targets_are_large(workshop_page: Page, width: int, height: int) -> None:
    page = workshop_page
    pad_job(page)
    page.set_viewport_size({"width": width, "height": height})
    for station in ("brief", "shape", "draft", "make"):
        page.goto(re.sub(r"/(brief|shape|draft|make)$", f"/{station}", page.url))
        expect(page.get_by_role("navigation", name="Stations of the job")).to_be_visible()
        assert page.evaluate("() => document.documentElement.scrollWidth - window.innerWidth") <= 0
        assert page.evaluate(SMALL) == []


def test_the_whole_wall_and_a_job_are_reached_by_keys_alone(workshop_page: Page) -> None:
    page = workshop_page
    for _ in range(12):
        page.keyboard.press("Tab")
        if page.evaluate("() => document.activeElement.textContent").strip() == "Take in a job":
            break
    page.keyboard.press("Enter")
    expect(page.get_by_label("What is it called?")).to_be_focused()
    page.keyboard.type("Clay bin cap")
    page.keyboard.press("Enter")
    expect(page.get_by_label("The job is called")).to_have_value("Clay bin cap")
    page.get_by_role("heading", level=1).click()
    for key, station in (("3", "draft"), ("4", "check"), ("5", "make"), ("2", "shape"), ("1", "brief")):
        page.keyboard.press(key)
        expect(page).to_have_url(re.compile(f"{station}$"))


def test_a_ticket_that_isnt_there_leads_back_to_the_wall(workshop_page: Page) -> None:
    page = workshop_page
    page.goto(page.url.rstrip("/") + "/jobs/4711/draft")
    expect(page.get_by_text("This ticket is not on your wall")).to_be_visible()
    page.get_by_role("link", name="Back to the wall").click()
    expect(page.get_by_role("button", name="Take in a job")).to_be_visible()


def test_two_windows_on_one_job_dont_overwrite_each_other(workshop_page: Page) -> None:
    page = workshop_page
    pad_job(page)
    other = page.context.new_page()
    other.goto(page.url)
    expect(other.get_by_role("heading", name="pad", exact=True)).to_be_visible()
    other.locator("body").press("a")
    expect(other.get_by_label("Allowance", exact=True)).to_be_visible()
    page.locator("body").press("a")
    page.keyboard.type("20")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Allowance", exact=True)).to_have_value("20.0")
    other.get_by_label("Allowance", exact=True).fill("7")
    other.keyboard.press("Enter")
    expect(other.get_by_role("alert")).to_contain_text("changed meanwhile")
    expect(other.get_by_label("Allowance", exact=True)).to_have_value("7")
    other.keyboard.press("Enter")
    expect(other.get_by_label("Allowance", exact=True)).to_have_value("7.0")


def test_a_window_taken_in_hand_again_shows_what_another_did(workshop_page: Page) -> None:
    page = workshop_page
    pad_job(page)
    job, wall = page.context.new_page(), page.context.new_page()
    job.goto(page.url)
    wall.goto(page.url.split("/jobs")[0])
    for window in (job, wall):
        expect(window.get_by_role("heading", level=1)).to_be_visible()
    job.get_by_role("heading", name="pad", exact=True).wait_for()
    page.get_by_role("button", name="Mirror image").click()
    expect(page.locator("g.panel")).to_have_count(2)
    page.locator("body").press("1")
    page.get_by_label("The job is called").fill("Clay bin cap")
    page.keyboard.press("Enter")
    expect(page.get_by_label("The job is called")).to_have_value("Clay bin cap")
    for window in (job, wall):
        expect(window.get_by_text("Clay bin cap")).to_have_count(0)
        window.evaluate("() => window.dispatchEvent(new Event('blur'))")
        # the browser may have given it a focus of its own before
        window.evaluate("() => window.dispatchEvent(new Event('focus'))")
        expect(window.get_by_role("heading", name="Clay bin cap")).to_be_visible()
    expect(job.locator("g.panel")).to_have_count(2)


def focused(page: Page) -> str:
    return page.evaluate("() => document.activeElement.getAttribute('aria-label') ?? ''")


def tab_to(page: Page, name: str) -> None:
    for _ in range(60):
        if focused(page).startswith(name):
            return
        page.keyboard.press("Tab")
    raise AssertionError(f"Tab doesn't lead to {name}")


def test_edges_and_panels_are_reached_named_and_pressed_by_keys_alone(workshop_page: Page) -> None:
    page = workshop_page
    pad_job(page)
    expect(page.get_by_role("group", name=re.compile("^Panel pad, cut 1"))).to_be_visible()
    tab_to(page, "Edge ")
    first = focused(page)
    page.keyboard.press("Enter")
    edge = page.get_by_role("button", name=first, exact=True)
    expect(edge).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("ArrowRight")
    expect(edge).to_have_attribute("aria-pressed", "false")
    assert focused(page).startswith("Edge ")
    assert focused(page) != first
    page.keyboard.press("Shift+Tab")
    page.keyboard.press("Tab")
    assert focused(page) != first
    page.keyboard.type("17")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Allowance", exact=True)).to_have_value("17.0")
    page.get_by_label("Allowance", exact=True).press("Escape")
    page.keyboard.press("m")
    at = page.locator("g.panel").first
    before = at.get_attribute("transform")
    page.keyboard.press("ArrowUp")
    expect(at).not_to_have_attribute("transform", before or "")


def test_corners_and_edges_of_an_outline_are_named_and_pressed_by_keys_alone(workshop_page: Page) -> None:
    page = workshop_page
    take_in(page, "Board")
    page.get_by_role("link", name=re.compile("2 Shape")).click()
    page.get_by_role("button", name="rectangle").click()
    page.get_by_label("width", exact=True).fill("300")
    page.get_by_label("length", exact=True).fill("200")
    page.get_by_role("button", name="Draw it").click()
    tab_to(page, "Edge AB")
    page.keyboard.press("Space")
    expect(page.get_by_role("heading", name="Edge AB")).to_be_visible()
    assert page.evaluate("() => document.activeElement.getAttribute('aria-pressed')") == "true"
    tab_to(page, "Corner B")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Corner B")).to_be_visible()
    expect(page.get_by_role("button", name="Corner B", exact=True)).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("Shift+ArrowRight")
    expect(page.get_by_role("button", name="Undo")).to_have_attribute("title", re.compile("Corner B moved"))
