"""The web server and its worker, side by side, until stopped."""

from __future__ import annotations

import ctypes
import signal
import socket
import subprocess
import sys
import threading
import time
from argparse import ArgumentParser
from pathlib import Path
from types import FrameType
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError
from django.db import connection
from waitress.server import create_server

from ypsicline.server.devices.tablet import listen
from ypsicline.server.jobs.sweep import sweep_soon
from ypsicline.server.operations.collector import settle
from ypsicline.server.operations.long_work import resume_all

MANAGE = Path(__file__).resolve().parents[5] / "manage.py"
MAX_REQUEST_BYTES = 240_000_000
_PR_SET_PDEATHSIG = 1
_LOOK_EVERY_S = 4.0
_SWEEP_EVERY_S = 3600


class Command(BaseCommand):
    help = "Serve the workshop on this machine, with one worker that measures photos."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--host", default="127.0.0.1")
        parser.add_argument("--port", type=int, default=8377)
        parser.add_argument(
            "--lan", action="store_true", help="answer the local network too, so that phones can send photos"
        )

        parser.add_argument("--tablet", type=int, metavar="PORT", help="listen for a digitising tablet on this machine")

    def handle(self, *args: Any, host: str, port: int, lan: bool, tablet: int | None, **options: Any) -> None:
        from ypsicline.server.wsgi import application

        if lan:
            host, own = "0.0.0.0", _own_address()  # noqa: S104 - asked for
            settings.ALLOWED_HOSTS = [*settings.ALLOWED_HOSTS, own]
            settings.LAN_URL = f"http://{own}:{port}"
        again = resume_all(at_start=True)
        if again:
            self.stdout.write(f"{again} photos or cameras whose work was broken off are worked on again.")
        try:
            server = create_server(
                application,
                host=host,
                port=port,
                threads=6,
                max_request_body_size=MAX_REQUEST_BYTES,
                ident="Ypsicline",
            )
        except OSError as e:
            raise CommandError(f"Port {port} can't be used ({e.strerror}); choose another with PORT=…") from e
        if tablet:
            self._listen(tablet)
        threading.Thread(target=_sweep_now_and_then, daemon=True).start()
        worker = _Worker()
        worker.start()
        settle()
        signal.signal(signal.SIGTERM, _stop)
        self.stdout.write(self.style.SUCCESS(f"Ypsicline is at http://{host}:{port}/ (stop it with Ctrl-C)"))
        if lan:
            self.stdout.write(
                f"Phones on this network reach it at {settings.LAN_URL}/. The network can listen in: use your own."
            )
        self.stdout.flush()
        try:
            server.run()
        finally:
            worker.stop()

    def _listen(self, port: int) -> None:
        try:
            listen(port)
        except OSError as e:
            self.stdout.write(
                f"No tablet is listened for: port {port} can't be used ({e.strerror}); choose another with TABLET=…"
            )
        else:
            self.stdout.write(f"A digitising tablet is listened for on port {port}.")


def _sweep_now_and_then() -> None:
    while True:
        sweep_soon.enqueue()
        connection.close()
        time.sleep(_SWEEP_EVERY_S)


def _own_address() -> str:
    """This machine's address on the local network: that from which it would send to a private address."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            probe.connect(("10.255.255.255", 9))
        except OSError as e:
            raise CommandError("This machine is on no network that a phone could reach it by.") from e
        return str(probe.getsockname()[0])


def _stop(_signal: int, _frame: FrameType | None) -> None:
    raise KeyboardInterrupt


def _ends_with_its_parent() -> None:
    """Have the kernel end this process at once when the server is gone, however that came about (prctl's
    PR_SET_PDEATHSIG): the next server takes up what was broken off, and no two work on it."""
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGKILL)


class _Worker:
    """A worker process, started again should it die."""

    def __init__(self) -> None:
        self._stopping = threading.Event()
        self._process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        self._process = self._spawn()
        threading.Thread(target=self._watch, daemon=True).start()

    def stop(self) -> None:
        self._stopping.set()
        if self._process and self._process.poll() is None:
            self._process.terminate()
            try:
                self._process.wait(10)
            except subprocess.TimeoutExpired:
                self._process.kill()

    def _spawn(self) -> subprocess.Popen[bytes]:
        command = [sys.executable, str(MANAGE), "db_worker", "--interval", "0.3", "--no-reload"]
        return subprocess.Popen(command, preexec_fn=_ends_with_its_parent)  # noqa: S603 - our own script

    def _watch(self) -> None:
        looked = time.monotonic()
        while not self._stopping.wait(1):
            if self._process and self._process.poll() is not None:
                self._process = self._spawn()
            if time.monotonic() - looked > _LOOK_EVERY_S:
                looked = time.monotonic()
                resume_all()
                connection.close()
