"""What a change costs in a job of forty panels and forty captured pieces: time, disk and answer."""

from __future__ import annotations

import gzip
import json
import os
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import numpy as np

from tests import shapes
from ypsicline.core.drafting.from_shape import panel_from_shape
from ypsicline.core.job import JobDocument, Piece
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.trueing.shape import Shape, true_up

__all__ = ["large_job"]

ROOT = Path(__file__).parents[1]
MANY, POINTS, CHANGES = 40, 3000, 200
# from the start of Python to the first answer
STARTED = """
import time
import django
django.setup()
from django.test import Client
assert Client(SERVER_NAME="127.0.0.1").get("/api/wall").status_code == 401
print(time.process_time())
"""


def large_job() -> list[str]:
    """The section of the bench."""
    with tempfile.TemporaryDirectory() as folder:
        os.environ.update(YPSICLINE_DATA=folder, DJANGO_SETTINGS_MODULE="ypsicline.server.settings")
        import django

        django.setup()
        from django.core.management import call_command

        call_command("migrate", verbosity=0)
        rows = [_changed("two panels, one piece", _small()), _changed(f"{MANY} panels, {MANY} pieces", _large())]
        started = [_started() for _ in range(5)]
    return [
        "## A job as it is changed",
        "",
        f"{CHANGES} changes of an allowance, each of another panel, through the whole server in one process; the pieces' traces have "
        f"{POINTS} points each. Time is of computing; the first change after a start, which reads the job, is told by itself.",
        "",
        "| job | first, ms | median, ms | p95, ms | answer, kB | packed, kB | the whole job, packed, kB | taken in, kB | each change on the disk, kB |",
        "|---|---|---|---|---|---|---|---|---|",
        *rows,
        "",
        f"From the start of Python to the server's first answer: {statistics.median(started):.2f} s of computing.",
        "",
    ]  # fmt: skip


def _small() -> JobDocument:
    return JobDocument(
        "small", panels=(Panel("wave", shapes.wave()), Panel("bite", shapes.bitten_square()))
    ).with_outline(_traced(0))


def _large() -> JobDocument:
    traced = [_traced(k) for k in range(MANY)]
    pieces = tuple(Piece(f"piece {k}", s, s) for k, s in enumerate(traced))
    return JobDocument(
        "large", pieces=pieces, panels=tuple(panel_from_shape(s, f"panel {k}") for k, s in enumerate(traced))
    )


def _traced(turn: float) -> Shape:
    at = np.linspace(0, 2 * np.pi, POINTS, endpoint=False)
    far = 250 + 30 * np.sin(3 * at + turn) + 10 * np.sin(7 * at)
    ring = [(round(float(x), 3), round(float(y), 3)) for x, y in zip(far * np.cos(at), far * np.sin(at), strict=True)]
    return true_up(ring, error_mm=0.2)


def _changed(what: str, document: JobDocument) -> str:
    from django.contrib.auth import get_user_model
    from django.test import Client

    from ypsicline.core.drafting.draft import drafted
    from ypsicline.core.formats import stored
    from ypsicline.server.jobs import history
    from ypsicline.server.jobs.models import DocumentPart, Revision, Workshop

    user = get_user_model().objects.create_user(what)
    workshop = Workshop.objects.create(name=what)
    workshop.members.add(user)
    job = history.take_in(workshop, document, user)
    edges = [p.seam_line[0].id for p in history.current(job).panels]
    # as after a start
    stored._KNOWN = stored._Known()
    drafted.cache_clear()
    client = Client(SERVER_NAME="127.0.0.1")
    client.force_login(user)

    def on_disk() -> float:
        kept = (Revision.objects.filter(job=job), "document"), (DocumentPart.objects.filter(job=job), "content")
        return sum(len(v) for rows, name in kept for v in rows.values_list(name, flat=True)) / 1000

    taken_in, ms, sizes = on_disk(), [], []
    for k in range(CHANGES):
        change = {"kind": "set_edges", "edges": [edges[k % len(edges)]], "allowance": str(5 + k)}
        sent = json.dumps(change)
        begun = time.process_time()
        answer = client.post(
            f"/api/jobs/{job.pk}/changes", sent, content_type="application/json", headers={"X-Revision": str(k + 1)}
        )
        ms.append(1000 * (time.process_time() - begun))
        if answer.status_code != 200:
            raise SystemExit(answer.content.decode())
        sizes.append((len(answer.content) / 1000, len(gzip.compress(answer.content, 6)) / 1000))
    each = (on_disk() - taken_in) / CHANGES
    whole = len(gzip.compress(client.get(f"/api/jobs/{job.pk}").content, 6)) / 1000
    first, rest = ms[0], sorted(ms[1:])
    told, packed = (statistics.median(s) for s in zip(*sizes, strict=True))
    return (
        f"| {what} | {first:.0f} | {statistics.median(rest):.0f} | {rest[int(0.95 * len(rest))]:.0f} | {told:.1f} | "
        f"{packed:.1f} | {whole:.0f} | {taken_in:.0f} | {each:.1f} |"
    )


def _started() -> float:
    done = subprocess.run(
        [sys.executable, "-W", "ignore", "-c", STARTED], cwd=ROOT, capture_output=True, text=True, check=True
    )
    return float(done.stdout)
