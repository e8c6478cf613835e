"""How evenly the bench moves under the hand: the time from frame to frame while it pans, zooms and drags."""

from __future__ import annotations

import math
import statistics
from collections.abc import Callable

import numpy as np
from playwright.sync_api import Page

from bench.hand import signed_in
from bench.tasks import captured_job, job_of_panels
from tests import shapes
from ypsicline.core.pattern.panel import Panel

__all__ = ["frames"]

MOVES = 150
START = "() => { window.intervals = []; let last = performance.now(); window.counts = true; const next = (now) => { \
window.intervals.push(now - last); last = now; if (window.counts) requestAnimationFrame(next) }; requestAnimationFrame(next) }"
STOP = "() => { window.counts = false; return window.intervals.slice(3) }"


def frames() -> list[str]:
    """The section of the bench."""
    return [
        "## Frames under the hand",
        "",
        "From frame to frame, ms, at 1280×800 with software rendering, the pointer moved as fast as it goes: a photo of",
        "12 MP with its outline, twelve panels with their allowances, and twelve that have 3 000 points together. The",
        "blank page is what the browser does with nothing to draw; a frame takes 16.7.",
        "",
        "| what | frames | median | p95 | longest |",
        "|---|---|---|---|---|",
        *(f"| {title} | {len(times)} | {_row(times)} |" for title, times in _timed()),
        "",
    ]


def _row(times: list[float]) -> str:
    p95 = statistics.quantiles(times, n=20)[-1]
    return f"{statistics.median(times):.1f} | {p95:.1f} | {max(times):.1f}"


def _timed() -> list[tuple[str, list[float]]]:
    rows = []
    with signed_in() as page:
        captured_job(page)
        page.wait_for_timeout(3000)
        rows.append(("photo panned", _held(page, (300, 500), _about)))
        page.get_by_role("button", name="Show all (f)").click()
        page.wait_for_timeout(600)
        rows.append(("corner dragged over its photo", _held(page, _middle(page, "g.joint .hit"), _about)))
        job_of_panels(page, *(Panel(f"panel {k}", shapes.square(100 + 20 * k, allowance=12)) for k in range(1, 13)))
        page.wait_for_timeout(1000)
        rows.append(("panels panned", _held(page, (880, 720), _about)))
        page.keyboard.press("m")
        rows.append(("a panel dragged", _held(page, _middle(page, "g.panel path.grab"), _about)))
        page.keyboard.press("Escape")
        rows.append(("panels zoomed", _counted(page, lambda k: page.mouse.wheel(0, -30 if k % 40 < 20 else 30))))
        job_of_panels(page, *(Panel(f"panel {k}", _wavy(400 * k)) for k in range(1, 13)))
        page.wait_for_timeout(2000)
        rows.append(("twelve panels of 250 edges panned", _held(page, (880, 720), _about)))
        page.keyboard.press("m")
        rows.append(("one of them dragged", _held(page, _middle(page, "g.panel path.grab"), _about)))
        page.goto("about:blank")
        rows.append(("blank page", _held(page, (300, 500), _about)))
    return rows


def _wavy(x: float) -> shapes.Ring:
    turns = np.linspace(0, 2 * np.pi, 250, endpoint=False)
    reach = 150 + 8 * np.sin(13 * turns)
    return shapes.polygon([(x + r * math.cos(t), r * math.sin(t)) for r, t in zip(reach, turns, strict=True)])


def _middle(page: Page, what: str) -> tuple[float, float]:
    box = page.locator(what).nth(1).bounding_box() or {"x": 0, "y": 0, "width": 0, "height": 0}
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def _about(k: int) -> tuple[float, float]:
    return 2 * k % 60, 3 * k % 50


def _held(page: Page, at: tuple[float, float], way: Callable[[int], tuple[float, float]]) -> list[float]:
    """The frames while the pointer is held down at a place and moved about it."""
    x, y = at
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 8, y + 8)
    times = _counted(page, lambda k: page.mouse.move(x + way(k)[0], y + way(k)[1]))
    page.mouse.move(x, y)
    page.mouse.up()
    page.wait_for_timeout(500)
    return times


def _counted(page: Page, move: Callable[[int], None]) -> list[float]:
    page.evaluate(START)
    for k in range(MOVES):
        move(k)
    times: list[float] = page.evaluate(STOP)
    return times
