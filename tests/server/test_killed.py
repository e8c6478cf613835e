"""The server killed in the middle of changing, uploading and measuring: what was acknowledged is there, the rest is whole
or not there, and work that was begun comes to an end.

`YPSICLINE_KILLS=50` makes it the long form.
"""

from __future__ import annotations

import hashlib
import os
import sqlite3
import threading
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import requests

from tests.served import Server

KILLS = int(os.environ.get("YPSICLINE_KILLS", "1"))


def until_killed(act: Callable[[], None]) -> threading.Thread:
    """Act again and again on a thread until the server is gone."""

    def run() -> None:
        while True:
            try:
                act()
            except (requests.ConnectionError, requests.exceptions.ChunkedEncodingError):
                return

    thread = threading.Thread(target=run, daemon=True)
    thread.start()
    return thread


def test_killed_while_changing_uploading_and_measuring_nothing_acknowledged_is_lost(
    tmp_path: Path, tray_photo: Callable[..., bytes]
) -> None:
    server = Server(tmp_path / "workshop")
    server.start()
    photo, rng = tray_photo(), np.random.default_rng(11)
    seen: dict[str, Any] = {"revision": 1, "kept": set(), "sent": set()}

    def change() -> None:
        unit = ("in", "mm")[int(rng.integers(2))]
        answer = server.call(
            "POST",
            "jobs/1/changes",
            json={"kind": "set_unit", "unit": unit},
            headers={"X-Revision": str(seen["revision"])},
        )
        if answer.status_code == 409:
            answer = server.call("GET", "jobs/1")
        assert answer.status_code == 200, answer.text
        seen["revision"] = answer.json()["revision"]

    def upload() -> None:
        answer = server.call("POST", "jobs/1/kept-photos", files={"photo": ("a.jpg", photo + os.urandom(3))})
        if answer.status_code == 200:
            seen["kept"].update(p["id"] for p in answer.json())
        # sixty are the most
        for p in answer.json()[:-20] if answer.status_code == 200 else ():
            if server.call("DELETE", f"kept-photos/{p['id']}").status_code == 200:
                seen["kept"].discard(p["id"])

    def send() -> None:
        answer = server.call("POST", "jobs/1/photos", files={"photo": ("a.jpg", photo)})
        assert answer.status_code == 200, answer.text
        seen["sent"].add(answer.json()["id"])
        time.sleep(6)

    for _ in range(KILLS):
        threads = [until_killed(a) for a in (change, upload, send)]
        time.sleep(rng.uniform(0.3, 5))
        server.kill()
        for thread in threads:
            thread.join(40)
        for _ in range(50):
            if not server.workers():
                break
            time.sleep(0.1)
        assert not server.workers()
        with sqlite3.connect(server.data / "ypsicline.sqlite3") as database:
            assert database.execute("PRAGMA integrity_check").fetchall() == [("ok",)]
            names = {n for pair in database.execute("SELECT file, preview FROM jobs_keptphoto") for n in pair}
            kept = {i for (i,) in database.execute("SELECT id FROM jobs_keptphoto")}
        # what a row refers to is whole
        for name in names:
            assert hashlib.sha256((server.data / "files" / name[:2] / name).read_bytes()).hexdigest() == name
        server.start()
        # a deletion may have come through unacknowledged
        assert len(seen["kept"] - kept) <= 1
        seen["kept"] &= kept
        job = server.call("GET", "jobs/1").json()
        assert job["revision"] >= seen["revision"]
        seen["revision"] = job["revision"]
        for photo_id in seen["sent"]:
            _comes_to_an_end(server, photo_id)
        assert len(server.workers()) == 1
    server.kill()


def _comes_to_an_end(server: Server, photo_id: int) -> None:
    for _ in range(240):
        answer = server.call("GET", f"photos/{photo_id}").json()
        if answer["status"] not in ("waiting", "working"):
            assert answer["status"] == "done" or "broken off" in answer["sentence"], answer
            return
        time.sleep(0.25)
    pytest.fail(f"photo {photo_id} is {answer['status']} for ever")
