"""What ten tasks of a maker take in the real interface: every click and every field or key typed, counted by doing them."""

from __future__ import annotations

import re
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page

from bench.clicks import MEASURED
from bench.hand import Hand, signed_in
from tests import shapes
from ypsicline.core.formats.documents import PanelsFile, dump
from ypsicline.core.pattern.panel import Panel

__all__ = ["captured_job", "job_of_panels", "tasks"]

# clicks, and keys and fields, of that interface, which had no stations but Brief, Shape, Draft and Make
BEFORE = "the photo to a print 3 + 7, six panels 5 + 7, the hem and dart 4 + 6"

PHOTO = Path(__file__).parents[1] / "frontend" / "public" / "guide" / "splash-tray.jpg"


def tasks() -> list[str]:
    """The section of the bench."""
    return [
        "## Clicks of ten tasks",
        "",
        "Each done in the real interface, from where the maker is when the task comes up (said in the first column); a photo chosen from the",
        "disk is one click, a key is one, a field typed is one.",
        "",
        "| task | clicks | keys and fields | together |",
        "|---|---|---|---|",
        *(f"| {title} | {n} | {m} | {n + m} |" for title, n, m in _counted()),
        "",
        "The three that take more than six were counted in the same way, by driving it, in the interface of 9a9779c, before the bench was",
        f"rebuilt: {BEFORE}.",
        "",
    ]


def _counted() -> list[tuple[str, int, int]]:
    counts = []
    with signed_in() as page:
        for title, before, task in TASKS:
            before(page)
            hand = Hand(page)
            task(hand)
            counts.append((title, hand.clicks, hand.typed))
    return counts


def _job(page: Page, station: str = "2 Shape") -> None:
    page.goto(re.sub(r"(https?://[^/]+).*", r"\1/", page.url))
    page.get_by_role("button", name="Take in a job").click()
    page.get_by_label("What is it called?").fill("Task")
    page.get_by_role("button", name="Hang the ticket").click()
    page.get_by_role("link", name=re.compile(station)).click()


def captured_job(page: Page) -> None:
    """A new job with the guide's photo measured, at Shape."""
    _job(page)
    page.get_by_label("Photos", exact=True).set_input_files(PHOTO)
    page.get_by_role("button", name="True up", exact=True).wait_for(timeout=MEASURED)


def _leaning(page: Page) -> None:
    _job(page)
    for label, text in (
        ("A to B", "400"),
        ("B to C", "300"),
        ("C to D", "404"),
        ("D to A", "300"),
        ("diagonal A to C", "500"),
    ):
        page.get_by_label(label, exact=True).fill(text)
    page.get_by_role("button", name="Draw it").click()
    page.get_by_role("button", name="True up", exact=True).wait_for()


def job_of_panels(page: Page, *panels: Panel) -> None:
    """A new job with these panels, at Draft."""
    _job(page, "3 Draft")
    file = {"name": "panels.json", "mimeType": "application/json", "buffer": dump(PanelsFile(panels))}
    page.get_by_label("Outline file").set_input_files(file)
    page.get_by_role("heading", name=panels[0].name, exact=True).wait_for()


def _square(page: Page) -> None:
    job_of_panels(page, Panel("lid", shapes.square(300, allowance=12)))


def _six(page: Page) -> None:
    job_of_panels(page, *(Panel(f"panel {k}", shapes.square(100 + 20 * k)) for k in range(1, 7)))


def _corner(hand: Hand, letter: str) -> None:
    hand.page.get_by_role("button", name=f"Corner {letter}", exact=True).press("Enter")
    hand.clicks += 1


def _edge(hand: Hand, name: str) -> None:
    hand.page.get_by_role("button", name=re.compile(f"^Edge {name},")).first.press("Enter")
    hand.clicks += 1


def _tool(hand: Hand, name: str) -> None:
    tools = hand.page.get_by_role("group", name="Tools on the bench")
    hand.click(tools.get_by_role("button", name=name, exact=True))


def _photo_to_print(hand: Hand) -> None:
    page = hand.page
    page.get_by_label("Photos", exact=True).set_input_files(PHOTO)
    hand.clicks += 1
    page.get_by_role("button", name="True up", exact=True).wait_for(timeout=MEASURED)
    hand.press("3")
    hand.click(page.get_by_role("button", name="Make the panel"))
    page.get_by_role("heading", name="panel", exact=True).wait_for()
    hand.press("a")
    hand.type_figures("12")
    page.get_by_text("need an allowance;").wait_for(state="detached")
    hand.press("Escape")
    hand.press("5")
    with page.expect_download():
        hand.click(page.get_by_role("link", name="Get the PDF"))


def _said(hand: Hand, what: str) -> None:
    """It was done: the interface says so."""
    hand.page.locator("span[role=status]").filter(has_text=what).first.wait_for()


def _trued(hand: Hand) -> None:
    _edge(hand, "DE")
    hand.click(hand.page.get_by_role("button", name="Straight", exact=True))
    _corner(hand, "A")
    hand.click(hand.page.get_by_role("button", name="Make it square"))
    hand.page.locator('[title^="Undo: Corner A"]').wait_for()


def _taped(hand: Hand) -> None:
    _tool(hand, "Tape")
    _corner(hand, "A")
    _corner(hand, "D")
    hand.type(hand.page.get_by_label("The tape says"), "512")
    hand.press("Enter")
    hand.click(hand.page.get_by_role("button", name="Scale to the tape"))
    _said(hand, "Scaled to the tape")


def _old_cover(hand: Hand) -> None:
    _tool(hand, "Old cloth")
    hand.type(hand.page.get_by_label("allowance still on every edge"), "12")
    hand.click(hand.page.get_by_role("button", name="Draw its seam line"))
    hand.page.locator("path.before").first.wait_for(state="attached")


def _four_sides(hand: Hand) -> None:
    page = hand.page
    for label, text in (("A to B", "17 1/2 in"), ("B to C", "16 in"), ("C to D", "15 1/4 in"), ("D to A", "16 in")):
        hand.type(page.get_by_label(label, exact=True), text)
    hand.type(page.get_by_label("diagonal A to C"), "22 3/8 in")
    hand.click(page.get_by_role("button", name="Draw it"))
    page.get_by_role("button", name="True up", exact=True).wait_for()


def _folded(hand: Hand) -> None:
    _tool(hand, "Fold")
    _corner(hand, "A")
    _corner(hand, "C")
    hand.click(hand.page.get_by_role("button", name="Both, averaged"))
    _said(hand, "Folded: the halves lay")


def _walked(hand: Hand) -> None:
    page = hand.page
    x, y, high = page.locator("path.trace").first.evaluate(
        "e => { const b = e.getBoundingClientRect(); return [b.x, b.y, b.height] }"
    )
    _tool(hand, "Walk")
    for share in (0.55, 0.7, 0.85):
        page.mouse.click(x + 3, y + share * high)
        hand.clicks += 1
        page.wait_for_timeout(400)
    hand.click(page.get_by_role("button", name="Use this edge"))
    page.get_by_role("button", name="Use this edge").wait_for(state="detached")


def _pad(hand: Hand) -> None:
    page = hand.page
    _tool(hand, "Fill")
    hand.click(page.get_by_role("button", name="Fill it", exact=True))
    page.get_by_text("Filling it").wait_for(state="detached", timeout=MEASURED)
    hand.click(page.get_by_role("button", name="Propose"))
    page.get_by_text("won’t show as ears").wait_for(timeout=2 * MEASURED)


def _labelled(hand: Hand) -> None:
    page = hand.page
    for k in range(1, 7):
        if k > 1:
            # on the table, which keeps what was typed of the one before
            box = page.locator("g.panel path.grab").nth(k - 1).bounding_box() or {}
            page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
            hand.clicks += 1
            page.get_by_role("heading", name=f"panel {k}", exact=True).wait_for()
        hand.type(page.get_by_label("How many", exact=True), "2")
    hand.press("Enter")
    for k in range(1, 7):
        page.get_by_role("group", name=re.compile(f"^Panel panel {k}, cut 2")).wait_for(state="attached")


def _hemmed(hand: Hand) -> None:
    page = hand.page
    _edge(hand, "a")
    hand.click(page.get_by_role("button", name="hem", exact=True))
    hand.type_figures("30")
    _tool(hand, "Take in")
    hand.click(page.get_by_role("button", name="Dart", exact=True))
    for label, text in (("from the edge’s start", "150"), ("intake", "30"), ("length", "90")):
        hand.type(page.get_by_label(label, exact=True), text)
    hand.press("Enter")
    page.get_by_role("group", name="What is chosen").wait_for()


TASKS: tuple[tuple[str, Callable[[Page], None], Callable[[Hand], None]], ...] = (
    ("A photo to a print at true size (at Shape, its photo on the disk)", _job, _photo_to_print),
    ("An edge straightened and a corner made square (at Shape)", captured_job, _trued),
    ("An outline held against the tape and scaled to it (at Shape)", captured_job, _taped),
    ("Old cloth: its allowance taken off (at Shape)", captured_job, _old_cover),
    ("Four sides and a diagonal in inches (at Shape)", _job, _four_sides),
    ("Both halves folded alike (at Shape)", _leaning, _folded),
    ("A stretch of the edge walked by hand (at Shape)", captured_job, _walked),
    ("A pad filled, and tapers that keep its corners in (at Draft)", _square, _pad),
    ("Six panels, how many of each (at Draft)", _six, _labelled),
    ("An edge hemmed by 30 and a dart in it (at Draft)", _square, _hemmed),
)
