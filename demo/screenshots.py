"""The pictures in docs/screenshots, taken of the running demo: `make demo` in one window, `make screenshots` in another."""

from __future__ import annotations

import os
import re
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

OUT = Path(__file__).parents[1] / "docs" / "screenshots"
WIDE, PHONE = (1280, 800), (390, 844)


def main() -> None:
    address = f"http://127.0.0.1:{os.environ.get('PORT', '8377')}"
    with sync_playwright() as p:
        browser = p.chromium.launch(
            executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu", "--enable-unsafe-swiftshader"]
        )
        page = browser.new_page(viewport={"width": WIDE[0], "height": WIDE[1]}, locale="en-GB")
        _shot(page, f"{address}/", "wall")
        _shot(page, f"{address}/jobs/1/brief", "brief")
        _shot(page, f"{address}/jobs/2/shape", "shape")
        page.goto(f"{address}/jobs/1/draft")
        page.get_by_role("heading", name="tray", exact=True).wait_for()
        for _ in range(2):
            page.keyboard.press("ArrowRight")
        _shot(page, None, "draft")
        _tool(page, "Ease")
        _shot(page, None, "ease")
        page.goto(f"{address}/jobs/12/draft")
        page.get_by_role("list", name="Panels").get_by_role("button", name=re.compile("^cushion")).click()
        _tool(page, "Fill")
        page.get_by_role("button", name="Fill it", exact=True).click()
        page.get_by_text("Filling it").wait_for(state="detached", timeout=60_000)
        page.wait_for_timeout(3000)
        _shot(page, None, "pad")
        page.goto(f"{address}/jobs/21/draft")
        _tool(page, "Join")
        page.get_by_role("listitem").get_by_role("button", name=re.compile("join C,")).click()
        _shot(page, None, "joins")
        _tool(page, "Allow")
        page.get_by_role("button", name=re.compile("sums, what to buy$")).click()
        page.get_by_role("button", name="Other measures").click()
        page.get_by_label("girth", exact=True).focus()
        _shot(page, None, "measures")
        page.get_by_role("button", name="Back to the table").click()
        page.get_by_role("button", name="Back", exact=True).click()
        page.get_by_role("button", name="Another cover from measures").click()
        _shot(page, None, "kinds")
        _shot(page, f"{address}/jobs/26/check", "check")
        _shot(page, f"{address}/jobs/1/make", "make")
        _shot(page, f"{address}/jobs/7/shape", "pen-line")
        _shot(page, f"{address}/jobs/8/shape", "several-photos")
        page.goto(f"{address}/jobs/9/shape")
        _tool(page, "Steps")
        _shot(page, None, "old-cover")
        _shot(page, f"{address}/jobs/10/shape", "rolled")
        page.goto(f"{address}/jobs/1/shape")
        _tool(page, "Walk")
        ring = page.locator("path.trace").first.bounding_box()
        for share in (0.62, 0.8, 0.97):
            page.mouse.click(ring["x"] + 2, ring["y"] + share * ring["height"])
            page.wait_for_timeout(700)
        _shot(page, None, "by-hand")
        _shot(page, f"{address}/house", "house")
        _shot(page, f"{address}/help", "help")
        page.set_viewport_size({"width": PHONE[0], "height": PHONE[1]})
        _shot(page, f"{address}/jobs/4/draft", "phone")
        browser.close()


def _tool(page: Page, name: str) -> None:
    page.get_by_role("group", name="Tools on the bench").get_by_role("button", name=name, exact=True).click()


def _shot(page: Page, address: str | None, name: str) -> None:
    if address:
        page.goto(address)
    page.get_by_text("Fetching the ticket").wait_for(state="detached")
    page.wait_for_timeout(1500)
    page.screenshot(path=OUT / f"{name}.png")
    print(f"{name}.png")


if __name__ == "__main__":
    main()
