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
from ypsicline.server.jobs.models import DocumentPart, Job, Revision
one = Job.objects.get()
state = one.revisions.get()
jobs = Job.objects.bulk_create([
    Job(workshop_id=one.workshop_id, ticket=k, position=1, latest=1, name=f"Job {{k}}", covers="tray", ticket_front=one.ticket_front)
    for k in range(2, {JOBS} + 1)
], batch_size=1000)
Revision.objects.bulk_create(
    [Revision(job=j, number=1, what="Job taken in", document=state.document, by=state.by) for j in jobs], batch_size=1000
)
parts = one.parts.all()
DocumentPart.objects.bulk_create(
    [DocumentPart(job=j, name=p.name, content=p.content) for j in jobs for p in parts], batch_size=1000
)
"""


def served(seconds: float = 300) -> list[str]:
    """The section of the bench."""
    users, walls, drawings = twenty_users(seconds), wall_of_thousands(), while_drawings_are_read()
    return [
        "## A workshop in use",
        "",
        f"{USERS} users for {seconds:.0f} s, each on a job of one panel, thinking {THINK_S[0]} to {THINK_S[1]} s between calls, on one "
        "server with its worker; the same machine makes the calls.",
        "",
        "| call | made | ms (median) | ms (p95) | not answered with 200 |",
        "|---|---|---|---|---|",
        *(f"| {what} | {n} | {median:.0f} | {p95:.0f} | {wrong} |" for what, n, median, p95, wrong in users),
        "",
        f"A wall of {JOBS} tickets, {len(walls) - 1} ways of asking for a page of it:",
        "",
        "| asked for | ms (median) | ms (p95) | kB |",
        "|---|---|---|---|",
        *(f"| {what} | {median:.0f} | {p95:.0f} | {size:.0f} |" for what, median, p95, size in walls[:-1]),
        "",
        f"The server's memory after that: {walls[-1][1]:.0f} MB.",
        "",
        "Drawings that are made to stop a server, and the slowest change that another window made meanwhile:",
        "",
        "| drawing | answer | s | slowest change, ms |",
        "|---|---|---|---|",
        *(f"| {what} | {status} | {s:.1f} | {slowest:.0f} |" for what, status, s, slowest in drawings),
        "",
    ]


def while_drawings_are_read() -> list[tuple[str, int, float, float]]:
    """For each of some heavy drawings the answer's status, seconds, and the slowest change meanwhile, ms."""
    rows = []
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder) / "workshop")
        server.start()
        bundle = server.call("GET", "jobs/1/export/job.json").content
        job = server.call("POST", "job-files", files={"file": ("job.json", bundle)}).json()
        reader = requests.Session()
        server.sign_in(reader)
        for what, (name, data) in _heavy_drawings().items():
            slowest, revision = 0.0, job["revision"]
            answer: list[tuple[int, float]] = []

            def read(name: str = name, data: bytes = data, answer: list[tuple[int, float]] = answer) -> None:
                at = server.call("GET", "jobs/1", window=reader).json()["revision"]
                begun = time.perf_counter()
                result = server.call(
                    "POST", "jobs/1/read", window=reader, files={"file": (name, data)}, headers={"X-Revision": str(at)}
                )
                answer.append((result.status_code, time.perf_counter() - begun))

            thread = threading.Thread(target=read)
            thread.start()
            while thread.is_alive():
                begun = time.perf_counter()
                body = {"kind": "set_unit", "unit": random.choice(["mm", "in"])}  # noqa: S311 - no secret
                job = server.call(
                    "POST", f"jobs/{job['id']}/changes", json=body, headers={"X-Revision": str(revision)}
                ).json()
                revision = job["revision"]
                slowest = max(slowest, 1000 * (time.perf_counter() - begun))
                time.sleep(0.05)
            thread.join()
            rows.append((what, *answer[0], slowest))
        server.kill()
    return rows


def _heavy_drawings() -> dict[str, tuple[str, bytes]]:
    head = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="900mm" height="900mm" viewBox="0 0 900 900">'
    circles = "".join(f'<circle cx="{10 + 12 * (k % 70)}" cy="{10 + 12 * (k // 70)}" r="4"/>' for k in range(4900))
    points = " ".join(f"{k % 900} {(k * 7) % 900}" for k in range(1_500_000))
    groups = ['<g id="a0"><path d="M0 0h9v9z"/></g>']
    groups += [f'<g id="a{k}">' + 10 * f'<use xlink:href="#a{k - 1}"/>' + "</g>" for k in range(1, 5)]
    nested = "".join(groups)
    lines = "".join(f"0\nLINE\n8\n0\n10\n{k}\n20\n0\n11\n{k}.5\n21\n9\n" for k in range(19_000))
    return {
        "4 900 circles (SVG)": ("a.svg", f"{head}{circles}</svg>".encode()),
        "a path of 1.5 million points (SVG)": ("b.svg", f'{head}<path d="M{points}Z"/></svg>'.encode()),
        "uses nested to 10⁴ (SVG)": ("c.svg", f"{head}{nested}</svg>".encode()),
        "19 000 loose lines (DXF)": ("d.dxf", f"0\nSECTION\n2\nENTITIES\n{lines}0\nENDSEC\n0\nEOF\n".encode()),
    }


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
    edges = sorted({e["of"] for e in job["panels"][0]["rings"][0]})
    start.wait()
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        call("wall", "GET", "wall")
        call("open a job", "GET", at)
        for _ in range(3):
            edge, wide = luck.choice(edges), luck.randrange(5, 30)
            body = {"kind": "set_edges", "edges": [edge], "allowance": str(wide)}
            answer = call("change", "POST", f"{at}/changes", json=body, headers={"X-Revision": str(revision)})
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
