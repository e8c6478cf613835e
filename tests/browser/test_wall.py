"""The wall and the workshop's members, as a person uses them."""

from __future__ import annotations

import re
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.test_access import violations
from ypsicline.core.job import Brief, JobDocument
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Job, Workshop
from ypsicline.server.jobs.wall import PAGE


def hang(*names: str) -> None:
    for name in names:
        history.take_in(Workshop.objects.get(), JobDocument(name, brief=Brief("lid")), None)


def test_tickets_are_found_put_away_hung_again_and_deleted(workshop_page: Page) -> None:
    page = workshop_page
    hang("Kiln lid", "Glaze bucket lid", "Wheel tray")
    page.reload()
    tickets = page.get_by_role("list", name="Tickets").get_by_role("listitem")
    expect(tickets).to_have_count(3)
    page.get_by_role("searchbox", name="Find a ticket").fill("lid glaze")
    expect(tickets).to_have_count(1)
    expect(page.get_by_role("status").first).to_have_text("1 cover found")
    page.get_by_role("searchbox", name="Find a ticket").fill("xyz")
    expect(page.get_by_text("No ticket says “xyz”.")).to_be_visible()
    page.get_by_role("searchbox", name="Find a ticket").fill("")
    page.get_by_role("button", name="Put away Wheel tray").click()
    expect(tickets).to_have_count(2)
    page.get_by_role("button", name="Drawer").click()
    expect(tickets).to_have_count(1)
    assert violations(page) == []
    page.get_by_role("button", name="Hang it again: Wheel tray").click()
    expect(page.get_by_text("The drawer is empty.")).to_be_visible()
    page.get_by_role("button", name="Drawer").click()
    page.get_by_role("button", name="Put away Kiln lid").click()
    page.get_by_role("button", name="Drawer").click()
    page.get_by_role("button", name="Delete Kiln lid").click()
    expect(page.get_by_text("goes for good")).to_be_visible()
    page.get_by_role("button", name="Cancel").click()
    expect(tickets).to_have_count(1)
    page.get_by_role("button", name="Delete Kiln lid").click()
    page.get_by_role("button", name="Delete it").click()
    expect(tickets).to_have_count(0)
    assert sorted(Job.objects.values_list("name", flat=True)) == ["Glaze bucket lid", "Wheel tray"]


def test_more_tickets_than_a_page_holds_are_leafed_through(workshop_page: Page) -> None:
    page = workshop_page
    hang(*(f"Job {k:02}" for k in range(PAGE + 2)))
    page.reload()
    pages = page.get_by_role("navigation", name="Pages of tickets")
    expect(pages).to_contain_text("1 of 2")
    pages.get_by_role("button", name="Later").click()
    expect(page.get_by_role("list", name="Tickets").get_by_role("listitem")).to_have_count(2)
    expect(pages.get_by_role("button", name="Later")).to_be_disabled()


@pytest.mark.parametrize("width", [390, 768, 1280])
def test_wall_and_members_fit_the_window(workshop_page: Page, width: int) -> None:
    page = workshop_page
    hang("Kiln lid")
    page.set_viewport_size({"width": width, "height": 844})
    page.reload()
    for path in ("/", "/members"):
        page.goto(re.sub(r"(https?://[^/]+).*", r"\1", page.url) + path)
        expect(page.get_by_role("heading", level=1)).to_have_text("Otterbeck Clay Rooms")
        assert page.evaluate("() => document.documentElement.scrollWidth - window.innerWidth") <= 0


def test_an_invitation_brings_somebody_in_and_the_owner_takes_them_off(
    workshop_page: Page, browser: Browser, django_user_model: Any
) -> None:
    page = workshop_page
    Workshop.objects.update(owner=django_user_model.objects.get())
    page.get_by_role("link", name="Workshop").click()
    page.get_by_role("button", name="Write an invitation").click()
    address = page.locator(".address b").inner_text()
    assert violations(page) == []
    other = browser.new_page()
    other.goto(address)
    other.get_by_label("Username").fill("cleo")
    other.get_by_label("Password", exact=True).fill("short")
    other.get_by_label("Password confirmation").fill("short")
    other.get_by_role("button", name="Join").click()
    expect(other.get_by_text("too short")).to_be_visible()
    other.get_by_label("Password", exact=True).fill("clay and more clay")
    other.get_by_label("Password confirmation").fill("clay and more clay")
    other.get_by_role("button", name="Join").click()
    expect(other.get_by_role("heading", name="Otterbeck Clay Rooms")).to_be_visible()
    page.reload()
    page.get_by_role("button", name="Remove").click()
    page.get_by_role("button", name="Yes").click()
    expect(page.get_by_text("cleo")).to_have_count(0)
    other.reload()
    expect(other.get_by_text("belong to no workshop")).to_be_visible()
    other.close()
