"""Photograph → outline → allowances → full-size print, as a maker walks it."""

from __future__ import annotations

import io
import re
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests import shapes
from tests.browser.at_bench import take_tool
from ypsicline.core.formats.documents import PanelsFile, dump
from ypsicline.core.formats.raster import rasterise_page
from ypsicline.core.pattern.panel import Panel

pytestmark = pytest.mark.django_db(transaction=True)

# where on the screen a share of the first edge's length lies
ALONG_THE_FIRST_EDGE = """(share) => {
  const edge = document.querySelector('path.edge')
  const at = edge.getPointAtLength(edge.getTotalLength() * share).matrixTransform(edge.getScreenCTM())
  return [at.x, at.y]
}"""


def take_in(page: Page, name: str, unit: str = "") -> None:
    page.get_by_role("button", name="Take in a job").click()
    page.get_by_label("What is it called?").fill(name)
    if unit:
        page.locator(".v-select").click()
        page.get_by_role("option", name=unit).click()
    page.get_by_role("button", name="Hang the ticket").click()
    expect(page.get_by_label("What is covered?")).to_be_visible()


def send_photo(page: Page, data: bytes, name: str = "tray.jpg") -> None:
    page.get_by_label("Photos", exact=True).set_input_files({"name": name, "mimeType": "image/jpeg", "buffer": data})


def test_from_a_photo_to_a_print_that_measures_true(
    workshop_page: Page, tray_photo: Callable[..., bytes], tmp_path: Path
) -> None:
    page = workshop_page
    expect(page.get_by_text("No tickets hang here yet")).to_be_visible()
    take_in(page, "Splash tray")
    page.get_by_label("What is covered?").fill("splash tray of wheel 3")
    page.get_by_role("button", name="a motor or machine").click()
    expect(page.get_by_text("No cover while the machine runs")).to_be_visible()
    expect(page.get_by_role("link", name=re.compile("1 Brief.*done"))).to_be_visible()

    page.locator("body").press("2")
    send_photo(page, tray_photo())
    expect(
        page.get_by_role("status").filter(has_text=re.compile("waiting|sheets|camera|piece|edge|reading|error"))
    ).to_be_visible()
    expect(page.get_by_role("button", name="True up", exact=True)).to_be_visible(timeout=40_000)
    take_tool(page, "Photo")
    expect(page.get_by_text("Measured by 4 sheets")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^Corner [A-Z]$"))).to_have_count(9)

    take_tool(page, "Tape")
    page.get_by_role("button", name="Corner A", exact=True).press("Enter")
    page.get_by_role("button", name="Corner B", exact=True).press("Enter")
    tape = page.get_by_label("Tape says, A – B")
    tape.fill("20 cm")
    tape.press("Tab")
    expect(tape).to_have_value("200.0")

    page.locator("body").press("3")
    page.get_by_label("Name on its label").fill("tray")
    page.get_by_role("button", name="Make the panel").click()
    expect(page.get_by_text("11 edges need an allowance; shown in red.")).to_be_visible()
    page.locator("body").press("a")
    page.keyboard.type("12")
    page.keyboard.press("Enter")
    expect(page.get_by_text("need an allowance; shown in red")).to_have_count(0)
    page.keyboard.press("Escape")
    page.locator("body").press("Escape")
    page.locator("body").press("ArrowRight")
    page.get_by_role("button", name="hem", exact=True).click()
    expect(page.get_by_role("button", name="hem", exact=True)).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_label("Allowance", exact=True)).to_have_value("25.0")
    page.locator("body").press("ArrowRight")
    page.get_by_role("button", name="bound", exact=True).click()
    expect(page.get_by_label("Allowance", exact=True)).to_have_value("0.0")
    page.locator("body").press("Control+z")
    expect(page.get_by_label("Allowance", exact=True)).to_have_value("12.0")
    page.locator("body").press("Control+Shift+Z")
    expect(page.get_by_label("Allowance", exact=True)).to_have_value("0.0")

    page.reload()
    expect(page.get_by_role("button", name=re.compile("Edge AB.*hem 25.0"))).to_have_count(1)
    page.get_by_role("link", name=re.compile("5 Make")).click()
    with page.expect_download() as download:
        page.get_by_role("link", name="Get the PDF").click()
    path = tmp_path / "print.pdf"
    download.value.save_as(path)
    reads_true(path.read_bytes())
    page.go_back()
    expect(page.get_by_role("heading", name="tray", exact=True)).to_be_visible()


def reads_true(pdf: bytes) -> None:
    """The map names the panel, and on the first page of pattern the 100 mm mark measures 100 mm."""
    reader = PdfReader(io.BytesIO(pdf))
    assert "Splash tray" in reader.pages[0].extract_text()
    assert len(reader.pages) >= 5
    page = rasterise_page(pdf, 1, dpi=300) < 128
    row = page.shape[0] - round(10 * 300 / 25.4)
    line = page[row - 2 : row + 3].any(axis=0)
    edges = np.flatnonzero(np.diff(np.concatenate([[0], line.astype(int), [0]])))
    assert (edges[1::2] - edges[::2]).max() * 25.4 / 300 == pytest.approx(100.25, abs=0.2)


def test_a_photo_without_sheets_says_what_to_do_and_another_can_be_sent(
    workshop_page: Page, tray_photo: Callable[..., bytes]
) -> None:
    from PIL import Image

    page = workshop_page
    take_in(page, "Lid")
    page.get_by_role("link", name=re.compile("2 Shape")).click()
    send_photo(page, b"this is no photo", "notes.jpg")
    expect(page.get_by_role("alert")).to_contain_text("not a photo that can be read")
    out = io.BytesIO()
    Image.new("RGB", (1000, 800), "grey").save(out, "JPEG")
    send_photo(page, out.getvalue(), "table.jpg")
    expect(page.get_by_role("alert").filter(has_text="No reference sheet was found")).to_be_visible(timeout=20_000)
    send_photo(page, b"nor is this", "notes.jpg")
    unread = page.get_by_role("alert").filter(has_text="not a photo that can be read")
    expect(unread).to_be_visible()
    send_photo(page, tray_photo())
    expect(page.get_by_alt_text("The photo that is being measured")).to_be_visible()
    expect(unread).to_have_count(0)
    expect(page.get_by_role("button", name="True up", exact=True)).to_be_visible(timeout=40_000)


def test_of_two_pieces_the_maker_points_at_one(workshop_page: Page, two_pieces_photo: bytes) -> None:
    page = workshop_page
    take_in(page, "Wrist pads", "inches")
    page.locator("body").press("2")
    send_photo(page, two_pieces_photo, "pads.jpg")
    page.get_by_role("button", name="Piece 2").click(timeout=40_000)
    page.get_by_role("button", name="Use this piece").click()
    expect(page.get_by_role("heading", name=re.compile("5 .*in$"))).to_be_visible(timeout=40_000)
    page.get_by_role("button", name="Unit in; change it").click()
    expect(page.get_by_role("heading", name=re.compile(r"14\d\.\d × 16\d\.\d mm"))).to_be_visible()


def test_corners_are_dragged_added_and_removed_and_edges_straightened(
    workshop_page: Page, tray_photo: Callable[..., bytes]
) -> None:
    page = workshop_page
    take_in(page, "Tray")
    page.locator("body").press("2")
    send_photo(page, tray_photo())
    corners = page.get_by_role("button", name=re.compile("^Corner [A-Z]$"))
    expect(corners).to_have_count(9, timeout=40_000)

    corner = page.get_by_role("button", name="Corner A", exact=True)
    before = corner.bounding_box()
    assert before is not None
    x, y = before["x"] + before["width"] / 2, before["y"] + before["height"] / 2
    spot = page.evaluate(
        "() => { const r = document.querySelector('.joint .hit').getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2] }"
    )
    page.mouse.move(*spot)
    page.mouse.down()
    page.mouse.move(spot[0] + 25, spot[1] + 18, steps=6)
    page.mouse.up()
    expect(page.get_by_role("button", name="Undo")).to_have_attribute("title", re.compile("Corner A moved"))
    after = page.evaluate(
        "() => { const r = document.querySelector('.joint .hit').getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2] }"
    )
    assert np.hypot(after[0] - spot[0] - 25, after[1] - spot[1] - 18) < 4, (x, y)

    page.get_by_role("button", name="Remove it").click()
    expect(corners).to_have_count(8)
    page.locator("body").press("Control+z")
    expect(corners).to_have_count(9)
    corner.press("Enter")
    corner.press("Delete")
    expect(corners).to_have_count(8)

    page.get_by_role("button", name="Add a corner").click()
    middle, elsewhere = (page.evaluate(ALONG_THE_FIRST_EDGE, share) for share in (0.4, 0.15))
    page.mouse.click(*middle)
    expect(corners).to_have_count(9)
    page.mouse.click(*elsewhere)
    page.get_by_role("button", name="Straight").click()
    expect(page.get_by_role("button", name="Undo")).to_have_attribute(
        "title", re.compile("Edge straightened|Corner added")
    )


def test_outlines_are_read_from_a_file_and_lengths_refused_with_a_sentence(workshop_page: Page) -> None:
    page = workshop_page
    take_in(page, "Stool pad")
    page.locator("body").press("3")
    expect(page.get_by_text("Draft needs an outline first.")).to_be_visible()
    file = dump(PanelsFile((Panel("pad", shapes.square(300, allowance=12)), Panel("lid", shapes.wave()))))
    page.get_by_label("Outline file").set_input_files(
        {"name": "pad.json", "mimeType": "application/json", "buffer": file}
    )
    expect(page.get_by_role("heading", name="pad", exact=True)).to_be_visible()
    page.locator("body").press("ArrowRight")
    allowance = page.get_by_label("Allowance", exact=True)
    allowance.fill("wide")
    allowance.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("can't be read as a length")
    expect(allowance).to_have_value("wide")
    allowance.fill('1 1/2"')
    allowance.press("Enter")
    expect(allowance).to_have_value("38.1")
    take_tool(page, "Mark")
    page.get_by_label("At, from the start of the edge").fill("40")
    page.get_by_role("button", name="Double", exact=True).click()
    expect(page.get_by_text("double at 40.0 mm")).to_be_visible()
