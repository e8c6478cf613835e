"""How much a maker does from an empty ticket to “ready to cut”: every click and every field typed, counted by doing it."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

import numpy as np
from playwright.sync_api import Page

from bench.hand import Hand, signed_in
from demo.covers import COVERS, DemoCover
from ypsicline.core.capture.sheets import make_sheets
from ypsicline.core.covers.form import FormField, asked_by
from ypsicline.core.formats.measures_json import family_names
from ypsicline.core.wording import term
from ypsicline.core.wording.english.families import FAMILIES
from ypsicline.standins.camera import Piece, Scene, Shot, ring_of_sheets, take_photo

__all__ = ["ask_for", "clicks", "draft_cover", "settle"]

# a photo is measured in this time, ms
MEASURED = 60_000
# what is wanted at most
WANTED = 25


def clicks() -> list[str]:
    """The section of the bench."""
    rows = [(c, *count) for c, count in _counted(COVERS)]
    return [
        "## Clicks from a ticket to ready to cut",
        "",
        f"Each of the demo's covers done again in an empty workshop in the real interface, from the wall on: clicks, fields typed and "
        f"choices made, findings mended or lived with among them (wanted: {WANTED} at most). The brief is left empty; pieces that a cover asks",
        "for are captured in one photo, pointed at and named.",
        "",
        "| cover | family | clicks | typed and chosen | together | of these to settle findings |",
        "|---|---|---|---|---|---|",
        *(f"| {c.name} | {c.family} | {n} | {m} | {n + m} | {settled} |" for c, n, m, settled in rows),
        "",
    ]


def _counted(covers: Sequence[DemoCover]) -> list[tuple[DemoCover, tuple[int, int, int]]]:
    counts = []
    with signed_in() as page:
        wall = page.url
        for cover in covers:
            page.goto(wall)
            counts.append((cover, _done(page, cover)))
    return counts


def _done(page: Page, cover: DemoCover) -> tuple[int, int, int]:
    """Clicks, what was typed and chosen, and how many of both went into findings."""
    hand = Hand(page)
    draft_cover(hand, cover)
    hand.click(page.get_by_role("link", name=re.compile("4 Check")))
    before = hand.clicks + hand.typed
    settle(hand)
    return hand.clicks, hand.typed, hand.clicks + hand.typed - before


def draft_cover(hand: Hand, cover: DemoCover) -> None:
    """Take a job in and draft a cover of its measures and choices, from the wall on."""
    ask_for(hand, cover)
    hand.click(hand.page.get_by_role("button", name="Draft the panels"))
    hand.page.get_by_role("button", name="Other measures").wait_for()


def ask_for(hand: Hand, cover: DemoCover) -> None:
    """The same until the panels are to be drafted."""
    page = hand.page
    hand.click(page.get_by_role("button", name="Take in a job"))
    hand.type(page.get_by_label("What is it called?"), cover.name)
    # the unit of the job before stands there
    unit = {"mm": "millimetres", "in": "inches"}[cover.unit]
    if unit not in page.locator(".v-select").inner_text():
        hand.click(page.locator(".v-select"))
        hand.click(page.get_by_role("option", name=unit))
    hand.click(page.get_by_role("button", name="Hang the ticket"))
    captured = [row for rows in cover.shapes.values() for row in rows if isinstance(row, dict)]
    if captured:
        _capture(hand, captured)
    hand.click(page.get_by_role("link", name=re.compile("3 Draft")))
    hand.click(page.get_by_role("button", name="Draft a cover from measures"))
    hand.click(page.locator(".kind", has_text=FAMILIES[cover.family][1]))
    asks = asked_by(family_names()[cover.family])
    for part, given in (("measures", cover.measures), ("shapes", cover.shapes), ("choices", cover.choices)):
        for a in asks[part]:  # type: ignore[index]
            if a.name in given:
                _fill(hand, a, given[a.name])


def _capture(hand: Hand, rows: Sequence[dict[str, Any]]) -> None:
    """The pieces of these rows taken in one photo, pointed at and named."""
    page = hand.page
    hand.click(page.get_by_role("link", name=re.compile("2 Shape")))
    page.get_by_label("Photos", exact=True).set_input_files(
        {"name": "pieces.jpg", "mimeType": "image/jpeg", "buffer": _photo([row["outline"] for row in rows])}
    )
    hand.clicks += 1
    page.get_by_label("Point at the piece").get_by_text("point at those you want").wait_for(timeout=MEASURED)
    for k, row in enumerate(rows, start=1):
        page.get_by_role("button", name=f"Piece {k}").press("Enter")
        hand.clicks += 1
        hand.type(page.get_by_label(f"{k} is called"), row["name"])
    hand.click(page.get_by_role("button", name=f"Use these {len(rows)}"))
    page.get_by_role("button", name="True up", exact=True).wait_for(timeout=MEASURED)


def _photo(outlines: Sequence[Sequence[Sequence[float]]]) -> bytes:
    """The pieces one below the other among four sheets, by the stand-in camera."""
    laid, foot = [], 0.0
    for outline in outlines:
        ring = np.asarray(outline, float)
        low, high = ring.min(axis=0), ring.max(axis=0)
        laid.append(Piece(ring - (low + high) / 2 + (0, foot - (high[1] - low[1]) / 2), (), (72, 96, 84)))
        foot -= high[1] - low[1] + 60
    pieces = [replace(p, outline=p.outline - (0, foot / 2)) for p in laid]
    scene = Scene(ring_of_sheets(make_sheets("a4", 4), 620, -foot, seed=5), tuple(pieces), (206, 190, 160))
    return take_photo(scene, Shot(size=(3024, 2268), focal_px=2290.0, distance_mm=1150, tilt_deg=5))


def _fill(hand: Hand, asked: FormField, value: Any) -> None:
    title, page = term(asked.name), hand.page
    form = page.locator("#measures")
    if asked.kind == "rows":
        for k, row in enumerate(value, start=1):
            for name, cell in row.items():
                if "outline" in row and name in ("name", "outline"):
                    # captured pieces stand in the rows
                    continue
                text = "; ".join(map(str, cell)) if isinstance(cell, list) else str(cell)
                hand.type(form.get_by_label(f"{title} {k}, {term(name)}", exact=True), text)
        return
    field = form.get_by_label(title, exact=True)
    if not field.is_visible():
        hand.click(page.get_by_text("Cloth and seams"))
    if asked.kind == "yes":
        if field.is_checked() != value:
            hand.click(field)
    elif asked.kind == "points":
        hand.type(field, " / ".join(f"{x}; {y}" for x, y in value))
    elif asked.kind == "lengths":
        hand.type(field, "; ".join(map(str, value)))
    else:
        hand.type(field, f"{100 * value:g}" if asked.kind == "percent" else str(value))


def settle(hand: Hand) -> None:
    """Every finding that is open mended by what is offered first, or lived with for a reason."""
    page = hand.page
    for _ in range(12):
        page.wait_for_timeout(1500)
        if page.get_by_text("Ready to cut.").is_visible():
            return
        finding = page.locator("article.finding.stop, article.finding.look").first
        if finding.locator(".mend button").count():
            hand.click(finding.locator(".mend button").first)
        else:
            hand.type(finding.locator(".reason"), "as the object is")
            # Enter keeps it
            page.keyboard.press("Enter")
    raise AssertionError(f"{page.url} is never ready to cut")
