"""A server with its worker in processes of their own, on data of their own, as a maker starts it."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
from pathlib import Path
from typing import Any

import requests

__all__ = ["Server"]

ROOT = Path(__file__).parents[1]
PHRASE = "a long enough phrase"
SET_UP = f"""
from django.contrib.auth import get_user_model
from tests import shapes
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.job import JobDocument
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Workshop
user = get_user_model().objects.create_user("anna", password={PHRASE!r})
workshop = Workshop.objects.create(name="Otterbeck Clay Rooms", owner=user)
workshop.members.add(user)
history.take_in(workshop, JobDocument("Tray", panels=(Panel("tray", shapes.square(100)),)), user)
"""


class Server:
    """A server with its worker on data of its own, one job on its wall, and a window that is signed in to it."""

    def __init__(self, data: Path) -> None:
        self.environment = {**os.environ, "YPSICLINE_DATA": str(data)}
        self.data = data
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.port = free.getsockname()[1]
        self.manage("migrate", "-v", "0")
        self.manage("shell", "-v", "0", "-c", SET_UP)
        self.process: subprocess.Popen[bytes]
        self.window = requests.Session()

    def manage(self, *words: str) -> None:
        subprocess.run([sys.executable, "manage.py", *words], cwd=ROOT, env=self.environment, check=True)

    def start(self) -> None:
        command = [sys.executable, "manage.py", "serve", "--port", str(self.port)]
        self.process = subprocess.Popen(command, cwd=ROOT, env=self.environment, stdout=subprocess.PIPE)
        assert self.process.stdout
        while b"Ypsicline is at" not in (line := self.process.stdout.readline()):
            assert line, "the server didn't start"
        if not self.window.cookies.get("ypsicline"):
            self.sign_in(self.window)

    def sign_in(self, window: requests.Session) -> None:
        """Sign another window in, too."""
        page = f"http://127.0.0.1:{self.port}/sign-in/"
        window.get(page)
        form = {"username": "anna", "password": PHRASE, "csrfmiddlewaretoken": window.cookies["ypsicline_csrf"]}
        assert window.post(page, form).status_code < 400

    def call(self, method: str, path: str, *, window: requests.Session | None = None, **more: Any) -> requests.Response:
        """One call of the API, from the server's own window or another."""
        window = window or self.window
        headers = {"X-CSRFToken": window.cookies["ypsicline_csrf"], **more.pop("headers", {})}
        return window.request(method, f"http://127.0.0.1:{self.port}/api/{path}", headers=headers, timeout=30, **more)

    def kill(self) -> None:
        self.process.send_signal(signal.SIGKILL)
        self.process.wait()

    def workers(self) -> list[int]:
        """Workers on this data that live."""
        own = f"YPSICLINE_DATA={self.data}\0".encode()
        result = []
        for process in Path("/proc").glob("[0-9]*"):
            try:
                if b"db_worker" in (process / "cmdline").read_bytes() and own in (process / "environ").read_bytes():
                    result.append(int(process.name))
            except OSError:
                continue
        return result
