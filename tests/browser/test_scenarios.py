"""Jobs of the Otterbeck Clay Rooms done in the interface from ticket to ready to cut, each with its trap walked into first."""

from __future__ import annotations

import re
from dataclasses import replace
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from bench.clicks import ask_for, draft_cover, settle
from bench.hand import Hand
from demo.covers import COVERS, DemoCover
from tests.browser.at_bench import choose_panel, cover_slip

pytestmark = pytest.mark.django_db(transaction=True)


def job(name: str, **other: object) -> DemoCover:
    return replace(next(c for c in COVERS if c.name == name), **other)  # type: ignore[arg-type]


def at(page: Page, station: str) -> None:
    page.get_by_role("link", name=re.compile(station)).click()


def test_a_sleeve_whose_ends_hardly_differ_is_printed_with_its_top(workshop_page: Page, tmp_path: Path) -> None:
    page = workshop_page
    draft_cover(Hand(page), job("Hood throat sleeve"))
    at(page, "4 Check")
    expect(page.get_by_text(re.compile("put on upside down it binds"))).to_be_visible()
    settle(Hand(page))
    at(page, "5 Make")
    expect(page.get_by_role("cell", name="TOP at the top")).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("link", name="Get the PDF").click()
    download.value.save_as(tmp_path / "sleeve.pdf")
    pages = PdfReader(tmp_path / "sleeve.pdf").pages
    assert any("TOP" in p.extract_text() for p in pages[1:])


def test_a_pads_gap_too_small_for_a_hand_and_its_corners_left_square(workshop_page: Page) -> None:
    page = workshop_page
    pad = job("Kneeling pads")
    wrong = {"taper": "none", "closing_gap": 90}
    draft_cover(Hand(page), replace(pad, choices=pad.choices | wrong))
    at(page, "4 Check")
    expect(page.get_by_text(re.compile("stand out like ears"))).to_be_visible()
    gap = page.get_by_role("article").filter(has_text="An opening of 90.0 mm")
    gap.get_by_role("button", name=re.compile("^Take closing gap")).click()
    expect(gap).to_have_count(0)
    expect(page.get_by_text("Ready to cut.")).to_have_count(0)
    at(page, "3 Draft")
    cover_slip(page)
    page.get_by_role("button", name="Other measures").click()
    page.get_by_label("taper", exact=True).select_option("straight")
    page.get_by_role("button", name="Draft it again").click()
    at(page, "4 Check")
    expect(page.get_by_text("Ready to cut.")).to_be_visible()


def test_rough_pieces_of_a_slip_are_no_pattern_yet(workshop_page: Page) -> None:
    page = workshop_page
    slip = job("Glaze booth screen")
    draft_cover(Hand(page), slip)
    # 820 and 80 on either side by 610 and the same
    expect(page.get_by_text("width: width 820.0 + margin 160.0 = 980.0 mm").first).to_be_visible()
    at(page, "4 Check")
    expect(page.get_by_text("5 pieces to cut from 4 panels.")).to_be_visible()
    expect(page.get_by_text(re.compile("aren't a pattern yet"))).to_be_visible()
    at(page, "5 Make")
    expect(page.get_by_text(re.compile("outer: about .* of cloth"))).to_be_visible()


def test_four_sides_in_inches_dont_fix_a_pad(workshop_page: Page) -> None:
    page = workshop_page
    pad = job("Wheel seat pads")
    ask_for(Hand(page), replace(pad, measures={k: v for k, v in pad.measures.items() if k != "diagonal"}))
    page.get_by_role("button", name="Draft the panels").click()
    expect(page.get_by_text(re.compile("Four sides alone"))).to_be_visible()
    expect(page.get_by_label("front", exact=True)).to_have_value("17 1/2")
    page.get_by_label("diagonal", exact=True).fill("22 3/8")
    page.get_by_role("button", name="Draft the panels").click()
    page.get_by_role("button", name="Other measures").wait_for()
    expect(page.get_by_role("group", name=re.compile("frill 1 of 2"))).to_be_visible()
    at(page, "4 Check")
    expect(page.get_by_text("Ready to cut.")).to_be_visible()


def test_six_trolleys_of_which_a_wall_is_forgotten(workshop_page: Page) -> None:
    page = workshop_page
    draft_cover(Hand(page), job("Glaze trolleys"))
    for name in ("top", "front wall", "right wall", "back wall", "left wall"):
        choose_panel(page, name)
        page.get_by_label("How many", exact=True).fill("5" if name == "left wall" else "6")
        page.get_by_label("How many", exact=True).press("Enter")
        expect(page.get_by_text(f"cut {5 if name == 'left wall' else 6} · outer").first).to_be_visible()
    at(page, "4 Check")
    expect(page.get_by_text("“left wall” is cut 5 times, and 6 pieces are sewn.")).to_be_visible()
    page.get_by_role("button", name="Cut 6 pieces").click()
    expect(page.get_by_text("Ready to cut.")).to_be_visible()
    expect(page.get_by_text("30 pieces to cut from 5 panels.")).to_be_visible()
