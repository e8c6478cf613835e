"""A hand on the photo, several pieces, steps switched off, and the devices beside the bench."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from tests.browser.at_bench import take_tool
from tests.browser.test_ways_of_capture import MEASURED, to_shape
from tests.browser.test_whole_path import send_photo, take_in
from tests.conftest import SMALL, flat_scene
from tests.remembered import take_photo
from ypsicline.server.devices import tablet
from ypsicline.standins.camera import Piece
from ypsicline.standins.tablet import kidney, lines_of, send

pytestmark = pytest.mark.django_db(transaction=True)
SIZE = re.compile(r"^\d+\.\d × \d+\.\d mm$")


def measured(page: Page, name: str, data: bytes) -> None:
    to_shape(page, name)
    send_photo(page, data, f"{name}.jpg")
    expect(page.get_by_role("heading", name=SIZE)).to_be_visible(timeout=MEASURED)
    # without the photo there is nothing to paint on
    expect(page.get_by_role("button", name="Paint", exact=True)).to_be_visible()


def on_table(page: Page, x: float, y: float) -> tuple[float, float]:
    """Where a share of the table's width and height is on the screen."""
    box = page.get_by_label("The outline over its photo").bounding_box()
    assert box
    return box["x"] + x * box["width"], box["y"] + y * box["height"]


def test_strokes_mend_the_outline_and_are_a_step_to_switch_off(
    workshop_page: Page, tray_photo: Callable[..., bytes]
) -> None:
    page = workshop_page
    measured(page, "tray", tray_photo())
    corner = page.get_by_role("button", name="Corner A", exact=True).bounding_box()
    assert corner
    take_tool(page, "Paint")
    page.get_by_role("button", name="this is table").click()
    x, y = corner["x"] + corner["width"] / 2, corner["y"] + corner["height"] / 2
    middle = on_table(page, 0.5, 0.5)
    inward = (1 if middle[0] > x else -1, 1 if middle[1] > y else -1)
    page.mouse.move(x, y)
    page.mouse.down()
    for k in range(12):
        page.mouse.move(x + inward[0] * 3 * k, y + inward[1] * 2 * k)
    page.mouse.up()
    expect(page.locator(".hand .table")).to_have_count(1)
    page.get_by_role("button", name="Undo the last stroke").click()
    expect(page.locator(".hand .table")).to_have_count(0)
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + inward[0] * 36, y + inward[1] * 24, steps=8)
    page.mouse.up()
    page.get_by_role("button", name="Mend it").click()
    expect(page.get_by_role("button", name="Undo", exact=True)).to_be_enabled()
    page.get_by_role("group", name="By hand").get_by_role("button", name="Done").click()
    take_tool(page, "Steps")
    page.get_by_label("Mended by strokes").click()
    expect(page.get_by_text("1 step, 1 off.")).to_be_visible()


def test_walking_the_edge_snaps_to_it_and_replaces_that_stretch(
    workshop_page: Page, tray_photo: Callable[..., bytes]
) -> None:
    page = workshop_page
    measured(page, "walked", tray_photo())
    ring = page.locator("path.trace").first.bounding_box()
    assert ring
    take_tool(page, "Walk")
    for share in (0.25, 0.5, 0.75):
        page.mouse.click(ring["x"] + 3, ring["y"] + share * ring["height"])
        page.wait_for_timeout(150)
    way = page.locator("polyline.way")
    expect(way).to_be_visible()
    tall = "least => document.querySelector('polyline.way').getBoundingClientRect().height > least"
    page.wait_for_function(tall, arg=0.4 * ring["height"])
    lengths = way.bounding_box()
    assert lengths
    assert lengths["width"] < 12
    page.keyboard.press("Backspace")
    expect(page.locator("circle.step")).to_have_count(2)
    page.get_by_role("button", name="Use this edge").click()
    take_tool(page, "Steps")
    expect(page.get_by_text("1 step.")).to_be_visible()
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(page.get_by_text("1 step.")).to_have_count(0)


def test_a_piece_that_hardly_shows_is_walked_all_round(workshop_page: Page) -> None:
    plain = np.array([[-150, -100], [150, -100], [150, 100], [-150, 100]], float)
    page = workshop_page
    to_shape(page, "Hidden")
    send_photo(page, take_photo(flat_scene(Piece(plain, (), (204, 188, 158), 0.0)), SMALL), "hidden.jpg")
    expect(page.get_by_role("alert")).to_contain_text("walk round its edge by hand", timeout=MEASURED)
    take_tool(page, "Walk")
    for x, y in ((0.4, 0.4), (0.6, 0.4), (0.6, 0.6), (0.4, 0.6)):
        page.mouse.click(*on_table(page, x, y))
        page.wait_for_timeout(150)
    page.get_by_role("button", name="Round to the start").click()
    expect(page.get_by_text("No edge shows along the dotted parts.")).to_be_visible()
    expect(page.locator("polyline.unseen").first).to_be_visible()
    page.get_by_role("button", name="Use this edge").click()
    expect(page.get_by_role("heading", name=SIZE)).to_be_visible()
    expect(page.get_by_role("region", name="Where the edge isn’t sure")).to_be_visible()
    expect(page.get_by_role("alert")).to_have_count(0)


def test_pieces_of_one_photo_are_named_by_pointing_and_laid_on_the_table_in_turn(
    workshop_page: Page, two_pieces_photo: bytes
) -> None:
    page = workshop_page
    to_shape(page, "Old cover")
    send_photo(page, two_pieces_photo, "old.jpg")
    expect(page.get_by_label("Point at the piece").get_by_text("point at those you want")).to_be_visible(
        timeout=MEASURED
    )
    for k, name in ((1, "seat"), (2, "back")):
        page.get_by_role("button", name=f"Piece {k}").press("Enter")
        page.get_by_label(f"{k} is called").fill(name)
    page.get_by_role("button", name="Use these 2").click()
    rail = page.get_by_role("navigation", name="Pieces")
    expect(rail.get_by_role("button", name="back")).to_have_attribute("aria-current", "true", timeout=MEASURED)
    size = page.get_by_role("heading", name=SIZE).inner_text()
    rail.get_by_role("button", name="seat").click()
    expect(page.get_by_role("heading", name=SIZE)).not_to_have_text(size)
    take_tool(page, "Old cloth")
    page.get_by_label("allowance still on every edge").fill("12")
    page.get_by_role("button", name="Draw its seam line").click()
    take_tool(page, "Steps")
    expect(page.get_by_text("1 step.")).to_be_visible()
    expect(page.get_by_role("button", name="Paint", exact=True)).to_have_count(0)


def test_half_marks_smoothing_and_bending(workshop_page: Page) -> None:
    page = workshop_page
    to_shape(page, "Trued")
    page.get_by_role("button", name="rectangle").click()
    page.get_by_label("width", exact=True).fill("300")
    page.get_by_label("length", exact=True).fill("200")
    page.get_by_role("button", name="Draw it").click()
    page.get_by_role("button", name="Corner A", exact=True).press("Enter")
    page.get_by_role("button", name="Quarters").click()
    expect(page.locator("svg .part")).to_have_count(4)
    page.get_by_label("How it runs").select_option("smooth")
    expect(page.locator("span").filter(has_text="runs on smoothly")).to_be_visible()
    take_tool(page, "Tape")
    page.get_by_role("button", name="Corner A", exact=True).press("Enter")
    page.get_by_role("button", name="Corner C", exact=True).press("Enter")
    page.get_by_label("Tape says, A – C").fill("362")
    page.get_by_label("Tape says, A – C").press("Tab")
    page.get_by_role("button", name="Bend to the tape").click()
    expect(page.locator("span[role=status]").filter(has_text="Bent to the tape; the outline moved")).to_be_visible()
    take_tool(page, "True up")
    page.get_by_text("How closely edges follow").click()
    page.get_by_label("Smooth by up to").fill("0.4")
    page.get_by_label("Smooth by up to").press("Enter")
    take_tool(page, "Steps")
    expect(page.get_by_text("4 steps.")).to_be_visible()
    expect(page.get_by_label("Smoothed by up to 0.4 mm")).to_be_checked()
    take_tool(page, "True up")
    page.get_by_text("How closely edges follow").click()
    slider = page.get_by_label("Try a tolerance")
    slider.focus()
    slider.press("End")
    expect(page.get_by_label("Tolerance", exact=True)).to_have_value("5.0")
    take_tool(page, "Steps")
    expect(page.get_by_text("5 steps.")).to_be_visible()


def test_the_phones_page_sends_photos_to_the_open_job(
    workshop_page: Page, tray_photo: Callable[..., bytes], live_server: Any, settings: Any
) -> None:
    page = workshop_page
    settings.LAN_URL = live_server.url
    to_shape(page, "From the phone")
    page.get_by_role("button", name="Take photos with the phone").click()
    link = page.locator("figcaption b").inner_text()
    expect(page.get_by_alt_text("Point the phone’s camera at this picture")).to_be_visible()
    assert page.context.browser
    phone = page.context.browser.new_context(viewport={"width": 390, "height": 844}).new_page()
    phone.goto(link)
    expect(phone.get_by_role("heading", name="From the phone")).to_be_visible()
    phone.get_by_label("Album").set_input_files({"name": "phone.jpg", "mimeType": "image/jpeg", "buffer": tray_photo()})
    phone.get_by_role("button", name="Send it").click()
    expect(phone.get_by_text("phone.jpg measured")).to_be_visible(timeout=MEASURED)
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390
    phone.goto(f"{live_server.url}/phone/not-a-token")
    expect(phone.get_by_role("heading", name="This link has run out")).to_be_visible()
    phone.context.close()
    # the bench looks for itself
    expect(page.get_by_role("heading", name=SIZE)).to_be_visible(timeout=MEASURED)


def test_a_camera_is_calibrated_on_its_page(workshop_page: Page, tray_photo: Callable[..., bytes]) -> None:
    page = workshop_page
    page.goto(page.url + "cameras")
    shots = [tray_photo(tilt_deg=22.0, tilt_towards_deg=float(90 * k), seed=k + 60) for k in range(4)]
    page.get_by_label("Photos of a sheet").set_input_files(
        [{"name": f"{k}.jpg", "mimeType": "image/jpeg", "buffer": d} for k, d in enumerate(shots)]
    )
    expect(page.get_by_text("from 4 photos")).to_be_visible(timeout=MEASURED)
    page.get_by_role("button", name="Remove").click()
    expect(page.get_by_text("No camera has been calibrated yet")).to_be_visible()


def test_photos_of_the_dismantling_get_numbered_parts(workshop_page: Page, tray_photo: Callable[..., bytes]) -> None:
    page = workshop_page
    take_in(page, "Dismantled")
    page.get_by_label("Photos to add").set_input_files(
        {"name": "hinge.jpg", "mimeType": "image/jpeg", "buffer": tray_photo()}
    )
    photo = page.get_by_alt_text("hinge.jpg")
    expect(photo).to_be_visible()
    photo.click(position={"x": 60, "y": 50})
    page.get_by_label("Part 1 is").fill("hinge pin")
    page.get_by_label("Part 1 is").press("Tab")
    page.reload()
    page.get_by_role("button", name="hinge.jpg, 1 parts").click()
    expect(page.get_by_label("Part 1 is")).to_have_value("hinge pin")


def test_what_a_tablet_touches_is_drawn(workshop_page: Page, monkeypatch: pytest.MonkeyPatch) -> None:
    server = tablet.listen(0)
    try:
        page = workshop_page
        to_shape(page, "Touched")
        page.get_by_role("button", name="tablet", exact=True).click()
        expect(page.get_by_text("Touch two marks whose distance you know.")).to_be_visible()
        send(lines_of([(50.0, 40.0), (550.0, 40.0), *kidney()], shake_mm=0.1), server.server_address[1])
        expect(page.get_by_text("120 places touched round the outline.")).to_be_visible()
        page.get_by_label("the two marks lie apart by").fill("500")
        page.get_by_role("button", name="Draw it").click()
        expect(page.get_by_role("heading", name=re.compile(r"^(299|300)\.\d × "))).to_be_visible()
    finally:
        server.shutdown()
        server.server_close()
        monkeypatch.setattr(tablet, "_station", None)
