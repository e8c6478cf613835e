"""Covers from measures in the browser: chosen by its picture, drafted, changed, joined, checked, and what to buy."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.browser.at_bench import choose_panel, cover_slip, take_tool
from tests.browser.test_inches import in_another_unit
from tests.browser.test_whole_path import take_in

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture()
def empty(workshop_page: Page) -> Page:
    """A job without anything, at Draft, asked which kind of cover it is."""
    page = workshop_page
    take_in(page, "Floor cushion")
    page.get_by_role("link", name=re.compile("3 Draft")).click()
    page.get_by_role("button", name="Draft a cover from measures").click()
    return page


def typed(page: Page, **values: str) -> None:
    for label, text in values.items():
        page.get_by_label(label.replace("_", " "), exact=True).fill(text)


@pytest.fixture()
def cushion(empty: Page) -> Page:
    page = empty
    page.get_by_role("button", name=re.compile("^Drum")).click()
    typed(page, girth="1900", height="190")
    page.get_by_role("button", name="Draft the panels").click()
    expect(page.get_by_role("button", name="Other measures")).to_be_visible()
    return page


def test_from_ticket_to_what_to_buy_by_keys_alone(empty: Page) -> None:
    page = empty
    page.get_by_role("button", name=re.compile("^Drum")).press("Enter")
    girth = page.get_by_label("girth", exact=True)
    expect(girth).to_be_visible()
    girth.focus()
    page.keyboard.type("6' 2 3/4\"")
    page.get_by_label("height", exact=True).focus()
    page.keyboard.type("19cm")
    page.keyboard.press("Enter")
    expect(page.get_by_text("disc: girth 1898.7 + ease 0.0 = 1898.7")).to_be_visible()
    page.locator("body").press("5")
    expect(page.get_by_role("heading", name="To buy")).to_be_visible()
    expect(page.get_by_role("cell", name="filling", exact=True)).to_be_visible()


def test_a_measure_that_cant_be_is_said_and_what_was_typed_stays(empty: Page) -> None:
    page = empty
    page.get_by_role("button", name=re.compile("^Box cover")).click()
    typed(page, width="600", depth="wide", height="300")
    page.get_by_role("button", name="Draft the panels").click()
    expect(page.get_by_role("alert")).to_contain_text("wide")
    expect(page.get_by_label("width", exact=True)).to_have_value("600")
    typed(page, depth="400")
    page.get_by_role("button", name="Draft the panels").click()
    expect(page.get_by_text("the walls are 2000.0 mm round")).to_be_visible()


def test_other_measures_keep_what_was_set_by_hand_and_are_undone(cushion: Page) -> None:
    page = cushion
    choose_panel(page, "top")
    page.locator("body").press("ArrowRight")
    page.keyboard.type("20")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name=re.compile("^Edge round 1, .* plain 20.0"))).to_be_visible()
    cover_slip(page)
    page.get_by_role("button", name="Other measures").click()
    expect(page.get_by_label("girth", exact=True)).to_have_value("1900.0")
    typed(page, girth="1500")
    page.get_by_role("button", name="Draft it again").click()
    expect(page.get_by_text("disc: girth 1500.0")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^Edge round 1, 750.0 mm, plain 20.0"))).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("disc: girth 1900.0")).to_be_visible()


def test_joins_are_shown_made_changed_and_taken_off(cushion: Page) -> None:
    page = cushion
    take_tool(page, "Join")
    joins = page.get_by_role("list", name="Joins, in the order of sewing").get_by_role("listitem")
    expect(page.get_by_role("button", name=re.compile("they match")).first).to_be_visible()
    before = joins.count()
    page.locator("body").press("ArrowRight")
    page.get_by_role("button", name=re.compile("^This is one side")).click()
    page.locator("body").press("ArrowRight")
    page.get_by_role("button", name="Join them").click()
    expect(joins).to_have_count(before + 1)
    joins.last.get_by_role("button").click()
    expect(page.get_by_role("img", name=re.compile("laid against"))).to_be_visible()
    page.get_by_role("group", name="The chosen join").get_by_label("Lengths").select_option("gathered")
    page.get_by_label("gathered, times").fill("1.5")
    page.get_by_label("gathered, times").press("Enter")
    expect(page.get_by_role("heading", name=re.compile("gathered 1.00 times, asked for 1.50"))).to_be_visible()
    page.get_by_role("button", name=re.compile("^Sew [A-Z] sooner")).click()
    expect(page.get_by_text(f"sewn as {before} of {before + 1}")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Remove join")).click()
    expect(joins).to_have_count(before)


def test_what_cannot_be_read_stands_below_its_form_until_it_is_mended(cushion: Page) -> None:
    page = cushion
    page.get_by_role("link", name=re.compile("5 Make")).click()
    across = page.get_by_label("mark across measures")
    across.fill("1,250 mm")
    page.get_by_label("mark up the page measures").fill("100")
    save = page.get_by_role("button", name="Save", exact=True)
    save.click()
    refused = page.locator("form").filter(has=save).get_by_role("alert")
    expect(refused).to_contain_text("two ways")
    expect(across).to_have_value("1,250 mm")
    across.fill("100.4")
    expect(refused).to_have_count(0)
    save.click()
    expect(page.get_by_text("Prints are now drawn")).to_be_visible()
    page.get_by_role("button", name="Print true to size again").click()
    expect(page.get_by_text("Prints are now drawn")).to_have_count(0)


def test_scale_model_is_got_for_card(cushion: Page, tmp_path: Path) -> None:
    page = cushion
    page.get_by_role("link", name=re.compile("5 Make")).click()
    page.get_by_text("Scale model", exact=True).click()
    page.get_by_label("size", exact=True).select_option("8")
    with page.expect_download() as download:
        page.get_by_role("link", name="Get the model").click()
    assert download.value.suggested_filename.endswith(".model.pdf")
    download.value.save_as(tmp_path / "model.pdf")
    assert "model 1:8 in card" in PdfReader(tmp_path / "model.pdf").pages[0].extract_text()


def test_what_is_found_is_lived_with_for_a_reason_until_it_changes(empty: Page) -> None:
    page = empty
    page.get_by_role("button", name=re.compile("^Pad")).click()
    typed(page, front="400", right="400", back="400", left="400", diagonal="565.7", closing_gap="90")
    page.get_by_role("button", name="Draft the panels").click()
    expect(page.get_by_role("button", name="Other measures")).to_be_visible()
    page.locator("body").press("4")
    finding = page.get_by_role("article").filter(has_text="An opening of 90.0 mm is too small for a hand")
    expect(finding).to_be_visible()
    finding.get_by_placeholder("or live with it").fill("it is filled with a funnel")
    finding.get_by_role("button", name="Live with it").click()
    expect(page.get_by_text("Ready to cut.")).to_be_visible()
    page.reload()
    expect(page.get_by_text("it is filled with a funnel")).to_be_visible()
    page.get_by_role("link", name=re.compile("3 Draft")).click()
    cover_slip(page)
    page.get_by_role("button", name="Other measures").click()
    typed(page, closing_gap="100")
    page.get_by_role("button", name="Draft it again").click()
    page.locator("body").press("4")
    expect(page.get_by_role("article").filter(has_text="An opening of 100.0 mm")).to_be_visible()
    expect(page.get_by_text("Ready to cut.")).to_have_count(0)


def test_posts_are_typed_in_rows(empty: Page) -> None:
    page = empty
    page.get_by_role("button", name=re.compile("^Openings for posts")).click()
    page.get_by_label("slit", exact=True).uncheck()
    for k, (at, across, name) in enumerate((("300; 200", "60", "left"), ("700; 150", "48", "right")), start=1):
        for column, text in (("place", at), ("diameter", across), ("name", name)):
            page.get_by_label(f"posts {k}, {column}", exact=True).fill(text)
    page.get_by_role("button", name="Draft the panels").click()
    expect(page.get_by_text("“right”: 48.0 + 2 × 10.0 = 68.0 mm finished")).to_be_visible()


def test_in_inches_no_other_unit_is_shown(cushion: Page) -> None:
    page = cushion
    unit = page.get_by_role("button", name=re.compile("^Unit "))
    for shown in ("cm", "in"):
        unit.click()
        expect(unit).to_have_text(shown)
    seen = {"cover": in_another_unit(page)}
    page.get_by_role("button", name="Other measures").click()
    expect(page.get_by_label("girth", exact=True)).to_have_value(re.compile("74"))
    seen["measures"] = in_another_unit(page)
    page.get_by_role("button", name="Back to the table").click()
    take_tool(page, "Join")
    seen["joins"] = in_another_unit(page)
    for key, station in (("4", "check"), ("5", "make")):
        page.locator("body").press(key)
        page.wait_for_timeout(300)
        seen[station] = in_another_unit(page)
    assert {k: v for k, v in seen.items() if v} == {}


def test_a_cover_is_put_together_turned_by_keys_and_opens_where_a_panel_is_wrong(cushion: Page) -> None:
    page = cushion
    page.locator("body").press("4")
    space = page.get_by_role("img", name=re.compile("4 pieces put together"))
    expect(space.locator("canvas")).to_be_visible()
    expect(space.get_by_text("C", exact=True)).to_be_visible()
    space.scroll_into_view_if_needed()
    before = space.screenshot()
    space.focus()
    for _ in range(4):
        page.keyboard.press("ArrowLeft")
    assert space.screenshot() != before
    page.get_by_role("slider").fill("1")
    expect(space.get_by_text("C", exact=True)).to_have_count(0)
    page.get_by_role("link", name=re.compile("3 Draft")).click()
    choose_panel(page, "top")
    take_tool(page, "Ease")
    page.get_by_label(re.compile("all round")).first.fill("8")
    page.keyboard.press("Enter")
    page.get_by_role("link", name=re.compile("4 Check")).click()
    expect(page.get_by_text(re.compile("Join C stays open by"))).to_be_visible()


def test_a_stop_is_mended_at_check_and_a_cord_at_hand_worked_backwards(empty: Page) -> None:
    page = empty
    page.get_by_role("button", name=re.compile("^Cap")).click()
    typed(page, girth="812", height="300", ease_on_the_girth="2")
    page.get_by_role("button", name="Draft the panels").click()
    page.get_by_text("Work it backwards").click()
    page.get_by_label("what", exact=True).select_option("cord, length")
    typed(page, is_to_be="1214")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Take cord tails 200.0 mm instead of 250.0 mm").click()
    expect(page.get_by_text("cord: 814.0 + 2 × 200.0 tails = 1214.0 mm")).to_be_visible()
    page.get_by_role("link", name=re.compile("4 Check")).click()
    stop = page.get_by_role("article").filter(has_text="won't slide over")
    expect(stop).to_be_visible()
    stop.get_by_role("button", name=re.compile("^Take ease on the girth")).click()
    expect(stop).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(stop).to_be_visible()
