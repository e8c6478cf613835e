"""What a hand does at the bench, whatever is chosen there."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

__all__ = ["choose_panel", "cover_slip", "leave_all", "take_tool"]


def take_tool(page: Page, name: str) -> None:
    """Take a tool off the bench."""
    page.get_by_role("group", name="Tools on the bench").get_by_role("button", name=name, exact=True).click()


def leave_all(page: Page) -> None:
    """Let go of all that is chosen: the slip says what lies on the table."""
    expect(page.get_by_role("group", name="Tools on the bench")).to_be_visible()
    back = page.get_by_role("button", name=re.compile("^← "))
    while back.or_(page.get_by_role("button", name="Back", exact=True)).count():
        back.or_(page.get_by_role("button", name="Back", exact=True)).first.click()
    expect(page.get_by_role("heading", name="On the table")).to_be_visible()


def choose_panel(page: Page, name: str) -> None:
    """Choose a panel by its name."""
    leave_all(page)
    page.get_by_role("list", name="Panels").get_by_role("button", name=re.compile(f"^{re.escape(name)} cut ")).click()
    expect(page.get_by_role("heading", name=name, exact=True)).to_be_visible()


def cover_slip(page: Page) -> None:
    """Choose the cover that was drafted from measures."""
    leave_all(page)
    page.get_by_role("button", name=re.compile("sums, what to buy$")).click()
    expect(page.get_by_role("button", name="Other measures")).to_be_visible()
