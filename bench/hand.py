"""A hand at the interface of a workshop that is served for it."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from playwright.sync_api import Locator, Page, sync_playwright

from tests.served import PHRASE, Server

__all__ = ["Hand", "signed_in"]


class Hand:
    """A hand at the page that counts what it does."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.clicks = self.typed = 0

    def click(self, what: Locator) -> None:
        what.click()
        self.clicks += 1

    def type(self, field: Locator, text: str) -> None:
        if field.evaluate("e => e.tagName") == "SELECT":
            field.select_option(text)
        else:
            field.fill(text)
        self.typed += 1

    def press(self, key: str) -> None:
        """A key, wherever the hand is."""
        self.page.keyboard.press(key)
        self.typed += 1

    def type_figures(self, figures: str) -> None:
        """Figures typed to what is chosen, and kept."""
        self.page.keyboard.type(figures)
        self.page.keyboard.press("Enter")
        self.typed += 2


@contextmanager
def signed_in() -> Iterator[Page]:
    """The wall of an empty workshop, in a browser of 1280 × 800."""
    with tempfile.TemporaryDirectory() as data, sync_playwright() as p:
        server = Server(Path(data))
        server.manage("collectstatic", "--noinput", "-v", "0")
        server.start()
        try:
            browser = p.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu"])
            page = browser.new_page(viewport={"width": 1280, "height": 800}, locale="en-GB")
            page.set_default_timeout(20_000)
            page.goto(f"http://127.0.0.1:{server.port}/")
            page.get_by_label("Name").fill("anna")
            page.get_by_label("Password").fill(PHRASE)
            page.get_by_role("button", name="Sign in").click()
            page.get_by_role("button", name="Take in a job").wait_for()
            yield page
        finally:
            server.kill()
