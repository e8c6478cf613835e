"""A workshop in use: twenty users at once, and a wall of ten thousand tickets."""

from __future__ import annotations

import random
import statistics
import tempfile
import threading
import time
from collections import defaultdict
from pathlib import Path

import requests

from tests.served import Server

__all__ = ["twenty_users", "wall_of_thousands"]

USERS = 20
JOBS = 10_000
# a maker looks and thinks between one call and the next
THINK_S = (0.4, 1.6)
MANY = f"""
from ypsicline.server.jobs.models import Job
from ypsicline.server.jobs.models import Revision
one = Job.objects.get()
state = one.revisions.get()
jobs = Job.objects.bulk_create([
    Job(workshop_id=one.workshop_id, ticket=k, position=1, latest=1, name=f"Job {{k}}", covers="tray", ticket_front=one.ticket_front)
    for k in range(2, {JOBS} + 1)
], batch_size=1000)
Revision.objects.bulk_create(
    [Revision(job=j, number=1, what="Job taken in", document=state.document, by=state.by) for j in jobs], batch_size=1000
)
"""


def twenty_users(seconds: float) -> list[tuple[str, int, float, float, int]]:
    """For each kind of call: how many in so many seconds, median and p95 in ms, and how many weren't answered with 200."""
    taken: dict[str, list[float]] = defaultdict(list)
    wrong: dict[str, int] = defaultdict(int)
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder) / "workshop")
        server.start()
        start = threading.Barrier(USERS)
        users = [threading.Thread(target=_use, args=(server, k, start, seconds, taken, wrong)) for k in range(USERS)]
        for user in users:
            user.start()
        for user in users:
            user.join()
        server.kill()
    return [(what, len(ms), statistics.median(ms), _p95(ms), wrong[what]) for what, ms in sorted(taken.items())]


def _use(
    server: Server,
    number: int,
    start: threading.Barrier,
    seconds: float,
    taken: dict[str, list[float]],
    wrong: dict[str, int],
) -> None:
    luck, window = random.Random(number), requests.Session()  # noqa: S311 - no secret
    server.sign_in(window)

    def call(what: str, method: str, path: str, **more: object) -> requests.Response:
        begun = time.perf_counter()
        answer = server.call(method, path, window=window, **more)
        taken[what].append(1000 * (time.perf_counter() - begun))
        wrong[what] += answer.status_code != 200
        time.sleep(luck.uniform(*THINK_S))
        return answer

    bundle = server.call("GET", "jobs/1/export/job.json", window=window).content
    job = server.call("POST", "job-files", window=window, files={"file": ("job.json", bundle)}).json()
    at, revision = f"jobs/{job['id']}", job["revision"]
    start.wait()
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        call("wall", "GET", "wall")
        call("open a job", "GET", at)
        for _ in range(3):
            body = {"chosen": [[0, 0, luck.randrange(4)]], "allowance": str(luck.randrange(5, 30))}
            answer = call("change", "PUT", f"{at}/edges", json=body, headers={"X-Revision": str(revision)})
            revision = answer.json()["revision"]
        revision = call("undo", "POST", f"{at}/undo", headers={"X-Revision": str(revision)}).json()["revision"]
        call("print", "GET", f"{at}/export/pdf")


def wall_of_thousands(calls: int = 40) -> list[tuple[str, float, float, float]]:
    """For ways of asking for it: median and p95 in ms, and the answer's size in kB; at the end the server's memory in MB."""
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder) / "workshop")
        server.manage("shell", "-v", "0", "-c", MANY)
        server.start()
        rows = []
        asked = {
            "first page": "wall",
            "page 200": "wall?page=200",
            "found by number": "wall?search=7777",
            "found by word": "wall?search=tray",
        }
        for what, path in asked.items():
            ms, size = [], 0
            for _ in range(calls):
                start = time.perf_counter()
                answer = server.call("GET", path)
                ms.append(1000 * (time.perf_counter() - start))
                size = len(answer.content)
            rows.append((what, statistics.median(ms), _p95(ms), size / 1000))
        status = Path(f"/proc/{server.process.pid}/status").read_text()
        memory = int(next(line for line in status.splitlines() if line.startswith("VmRSS")).split()[1]) / 1000
        rows.append(("the server's memory, MB", memory, memory, 0.0))
        server.kill()
    return rows


def _p95(values: list[float]) -> float:
    return sorted(values)[int(0.95 * len(values))]
