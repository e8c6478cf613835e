"""Pointing at the piece in its photo, and settling a doubtful edge, by hand and by keys."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest
from playwright.sync_api import Page, expect

from tests.browser.at_bench import take_tool
from tests.browser.test_ways_of_capture import MEASURED, to_shape
from tests.browser.test_whole_path import send_photo
from tests.conftest import DARK, SMALL, TRAY, flat_scene
from tests.remembered import take_photo
from ypsicline.standins.camera import Piece

pytestmark = pytest.mark.django_db(transaction=True)


def test_a_piece_is_pointed_at_with_keys_alone(workshop_page: Page, two_pieces_photo: bytes) -> None:
    page = workshop_page
    to_shape(page, "Pointed at")
    send_photo(page, two_pieces_photo, "old.jpg")
    photo = page.get_by_role("application", name="The photo")
    expect(photo).to_be_visible(timeout=MEASURED)
    photo.focus()
    photo.press("Shift+ArrowRight")
    photo.press("Enter")
    page.get_by_role("button", name="Undo the last one").click()
    expect(page.get_by_role("button", name="Measure it")).to_have_count(0)
    photo.focus()
    photo.press("Enter")
    page.get_by_role("button", name="Measure it").click()
    expect(page.get_by_role("heading", name=re.compile(r"^1[34]\d\.\d × 1[56]\d\.\d mm$"))).to_be_visible(
        timeout=MEASURED
    )


def test_a_doubtful_edge_is_shown_and_settled_before_a_panel_is_made(workshop_page: Page) -> None:
    scene = flat_scene(Piece(TRAY, (), DARK))
    covered = replace(scene, sheets=(replace(scene.sheets[0], centre=(255.0, 0.0)), *scene.sheets[1:]))
    page = workshop_page
    to_shape(page, "Half hidden")
    send_photo(page, take_photo(covered, SMALL), "hidden.jpg")
    expect(page.get_by_role("alert")).to_contain_text("lies against or over the piece", timeout=MEASURED)
    take_tool(page, "Point")
    page.get_by_role("application", name="The photo").press("ArrowUp")
    page.get_by_role("application", name="The photo").press("Enter")
    page.get_by_role("button", name="Measure it").click()
    doubts = page.get_by_role("region", name="Where the edge isn’t sure")
    expect(doubts).to_be_visible(timeout=MEASURED)
    page.locator("body").press("3")
    page.get_by_label("Name on its label").fill("top")
    page.get_by_role("button", name="Make the panel").click()
    expect(page.get_by_text("leaves the outline in doubt")).to_be_visible()
    page.locator("body").press("2")
    expect(doubts.get_by_role("button", name="It is right").first).to_be_visible()
    every = doubts.get_by_role("button", name="are right")
    (every if every.count() else doubts.get_by_role("button", name="It is right")).click()
    expect(doubts).to_have_count(0)
    page.locator("body").press("3")
    page.get_by_label("Name on its label").fill("top")
    page.get_by_role("button", name="Make the panel").click()
    expect(page.get_by_role("heading", name="top", exact=True)).to_be_visible()
