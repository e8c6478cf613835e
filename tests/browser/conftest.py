"""The built interface in Debian's Chromium, photos measured by a worker thread beside the server."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from django.db import connection
from django.test import Client
from playwright.sync_api import Page, expect

from tests import remembered
from ypsicline.server.jobs import fillings
from ypsicline.server.jobs.models import Workshop
from ypsicline.server.photos import photos, scenes

CHROMIUM = "/usr/bin/chromium"
# a busy machine may keep a page waiting for longer than the five seconds that are usual
expect.set_options(timeout=15_000)


def pytest_collection_modifyitems(items: list[Any]) -> None:
    for item in items:
        if "browser" in item.path.parts:
            item.add_marker(pytest.mark.browser)


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args: dict[str, Any]) -> dict[str, Any]:
    flags = [
        "--no-sandbox",
        "--disable-gpu",
        "--enable-unsafe-swiftshader",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
    ]
    return {**browser_type_launch_args, "executable_path": CHROMIUM, "args": flags}


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args: dict[str, Any]) -> dict[str, Any]:
    return {**browser_context_args, "viewport": {"width": 1280, "height": 800}, "locale": "en-GB"}


@pytest.fixture()
def workers(monkeypatch: pytest.MonkeyPatch) -> Iterator[list[threading.Thread]]:
    """Long work is done in threads, as the worker does it in a process; other tasks are done at once."""
    threads: list[threading.Thread] = []

    def enqueue(task: Any, *what: int) -> None:
        if task.func not in (photos.measure.func, fillings.fill_pad.func):
            task.call(*what)
            return

        def work() -> None:
            try:
                task.call(*what)
            finally:
                connection.close()

        threads.append(threading.Thread(target=work))
        threads[-1].start()

    monkeypatch.setattr(type(photos.measure), "enqueue", enqueue)
    monkeypatch.setattr(scenes, "read_scene", remembered.read_scene)
    yield threads
    for t in threads:
        t.join(60)


@pytest.fixture()
def workshop_page(
    page: Page, live_server: Any, settings: Any, tmp_path: Path, django_user_model: Any, workers: list[threading.Thread]
) -> Iterator[Page]:
    """A member of an empty workshop before the wall; any error in the page's console fails the test."""
    settings.FILES = tmp_path / "files"
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
    user = django_user_model.objects.create_user(username="anna", password="a long enough phrase")
    Workshop.objects.create(name="Otterbeck Clay Rooms").members.add(user)
    client = Client()
    client.force_login(user)
    cookie = client.cookies[settings.SESSION_COOKIE_NAME]
    page.context.add_cookies([{"name": cookie.key, "value": cookie.value, "url": live_server.url}])
    errors: list[str] = []
    page.on("pageerror", lambda e: errors.append(str(e)))
    page.on(
        "console",
        lambda m: (
            errors.append(m.text)
            if m.type == "error" and not any(code in m.text for code in ("422", "409", "404", "ERR_FAILED"))
            else None
        ),
    )
    page.set_default_timeout(15_000)
    page.goto(live_server.url)
    yield page
    assert errors == []
