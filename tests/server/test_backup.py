"""Copies of a workshop: whole, checked, and safe from being killed in the middle."""

from __future__ import annotations

import contextlib
import hashlib
import os
import signal
import sqlite3
import subprocess
import sys
import tarfile
import threading
import time
from pathlib import Path

import numpy as np
import pytest

from ypsicline.core.errors import Refusal
from ypsicline.server.operations.backup import back_up, restore

ROOT = Path(__file__).resolve().parents[2]
KILLS = int(os.environ.get("YPSICLINE_KILLS", "6"))


def rows_of(database: Path) -> list[str]:
    with contextlib.closing(sqlite3.connect(database)) as open_:
        return list(open_.iterdump())


def files_of(folder: Path) -> dict[str, bytes]:
    return {p.name: p.read_bytes() for p in (folder / "files").rglob("*") if p.is_file()}


@pytest.fixture()
def workshop_folder(tmp_path: Path) -> Path:
    """A workshop's folder as the server leaves it, with 30 MB of photos."""
    folder = tmp_path / "workshop"
    folder.mkdir()
    with contextlib.closing(sqlite3.connect(folder / "ypsicline.sqlite3")) as database:
        database.executescript("PRAGMA journal_mode=WAL; CREATE TABLE jobs_job (id INTEGER PRIMARY KEY, name TEXT);")
        database.executemany("INSERT INTO jobs_job (name) VALUES (?)", [(f"job {k}",) for k in range(2000)])
        database.commit()
    for k in range(30):
        data = np.random.default_rng(k).bytes(1_000_000)
        name = hashlib.sha256(data).hexdigest()
        path = folder / "files" / name[:2] / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(data)
    return folder


def test_a_copy_restores_to_the_same_rows_and_bytes(workshop_folder: Path, tmp_path: Path) -> None:
    copy = back_up(workshop_folder, tmp_path / "copies")
    restore(copy, tmp_path / "again")
    assert rows_of(tmp_path / "again" / "ypsicline.sqlite3") == rows_of(workshop_folder / "ypsicline.sqlite3")
    assert files_of(tmp_path / "again") == files_of(workshop_folder)
    with pytest.raises(Refusal, match="isn't empty"):
        restore(copy, workshop_folder)


def test_a_copy_made_while_it_is_written_to_is_of_one_moment(workshop_folder: Path, tmp_path: Path) -> None:
    stop = threading.Event()

    def write() -> None:
        with contextlib.closing(sqlite3.connect(workshop_folder / "ypsicline.sqlite3", timeout=20)) as database:
            while not stop.is_set():
                # two rows at a time: a copy never has one alone
                database.execute("INSERT INTO jobs_job (name) VALUES ('left'), ('right')")
                database.commit()

    writer = threading.Thread(target=write)
    writer.start()
    try:
        for k in range(3):
            restore(back_up(workshop_folder, tmp_path / "copies"), tmp_path / f"again {k}")
    finally:
        stop.set()
        writer.join()
    for k in range(3):
        with contextlib.closing(sqlite3.connect(tmp_path / f"again {k}" / "ypsicline.sqlite3")) as database:
            counts = dict(database.execute("SELECT name, count(*) FROM jobs_job GROUP BY name"))
        assert counts.get("left") == counts.get("right")


def test_only_so_many_copies_stay(workshop_folder: Path, tmp_path: Path) -> None:
    result = [back_up(workshop_folder, tmp_path / "copies", keep=2) for _ in range(4)]
    assert sorted((tmp_path / "copies").iterdir()) == result[-2:]


@pytest.mark.parametrize("harm", ["cut short", "a byte changed", "not a copy", "a file outside"])
def test_a_damaged_copy_is_refused_and_leaves_nothing(workshop_folder: Path, tmp_path: Path, harm: str) -> None:
    copy = back_up(workshop_folder, tmp_path / "copies")
    data = bytearray(copy.read_bytes())
    if harm == "cut short":
        del data[len(data) // 2 :]
    elif harm == "a byte changed":
        data[len(data) // 2] ^= 1
    elif harm == "not a copy":
        data = bytearray(b"hello")
    copy.write_bytes(bytes(data))
    if harm == "a file outside":
        stray = tmp_path / "stray"
        stray.write_text("x")
        with tarfile.open(copy, "w") as tar:
            tar.add(stray, "../stray")
    with pytest.raises(Refusal):
        restore(copy, tmp_path / "again")
    assert sorted(p.name for p in tmp_path.iterdir() if p.name != "stray") == ["copies", "workshop"]


@pytest.mark.parametrize("what", ["backup", "restore"])
def test_killed_in_the_middle_nothing_is_lost(workshop_folder: Path, tmp_path: Path, what: str) -> None:
    copies, into = tmp_path / "copies", tmp_path / "again"
    first = back_up(workshop_folder, copies)
    before = first.read_bytes()
    call = f"back_up(Path({str(workshop_folder)!r}), Path({str(copies)!r}))"
    if what == "restore":
        call = f"restore(Path({str(first)!r}), Path({str(into)!r}))"
    code = f"from pathlib import Path; from ypsicline.server.operations.backup import back_up, restore; print('go', flush=True); {call}"
    rng = np.random.default_rng(7)
    for _ in range(KILLS):
        child = subprocess.Popen([sys.executable, "-c", code], cwd=ROOT, stdout=subprocess.PIPE)
        assert child.stdout
        child.stdout.readline()
        time.sleep(rng.uniform(0, 0.25))
        child.send_signal(signal.SIGKILL)
        child.wait()
        assert first.read_bytes() == before
        if what == "restore" and into.exists():
            # either it came through whole, or it isn't there
            assert files_of(into) == files_of(workshop_folder)
            into.rename(tmp_path / f"whole {rng.random()}")
    if what == "backup":
        last = back_up(workshop_folder, copies)
        assert not list(copies.glob("*.unfinished"))
        for copy in copies.iterdir():
            restore(copy, tmp_path / copy.stem)
        assert last.exists()
    else:
        restore(first, into)
        assert files_of(into) == files_of(workshop_folder)
        assert not list(tmp_path.glob("*.unfinished"))


def test_the_commands_copy_upgrade_and_restore(tmp_path: Path) -> None:
    def manage(*words: str, data: str = "workshop") -> subprocess.CompletedProcess[str]:
        own = {**os.environ, "YPSICLINE_DATA": str(tmp_path / data)}
        command = [sys.executable, str(ROOT / "manage.py"), *words]
        return subprocess.run(command, env=own, capture_output=True, text=True, check=False)

    assert "nothing was copied" in manage("backup").stderr
    assert manage("upgrade").returncode == 0
    assert not (tmp_path / "copies").exists()
    # an upgrade that changes something makes a copy first
    assert manage("migrate", "jobs", "0005", "-v", "0").returncode == 0
    assert "A copy was made" in manage("upgrade").stdout
    (copy,) = (tmp_path / "copies").iterdir()
    assert (tmp_path / "workshop").stat().st_mode & 0o077 == 0
    assert (tmp_path / "workshop" / "ypsicline.sqlite3").stat().st_mode & 0o077 == 0
    told = manage("restore", str(copy), str(tmp_path / "again"), data="elsewhere")
    assert told.returncode == 0, told.stderr
    assert (tmp_path / "again" / "ypsicline.sqlite3").exists()
    assert "isn't empty" in manage("restore", str(copy), str(tmp_path / "again"), data="elsewhere").stderr
