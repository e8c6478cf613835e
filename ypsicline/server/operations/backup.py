"""Copies of a workshop: one tar file of the database as it was at one moment and all files that it refers to.

A copy is written under a temporary name, read back and checked, and only then named; so is what is
restored. Whatever is killed in the middle leaves what was there before, and a leftover that the next
run takes away.
"""

from __future__ import annotations

import contextlib
import datetime
import hashlib
import os
import re
import shutil
import sqlite3
import tarfile
import tempfile
from pathlib import Path

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message
from ypsicline.server.locks import STORED_FILES, locked

__all__ = ["back_up", "restore"]

DATABASE, FILES = "ypsicline.sqlite3", "files"
_OWN = re.compile(rf"{re.escape(DATABASE)}|{FILES}/[0-9a-f]{{2}}/[0-9a-f]{{64}}")
_ENDING, _UNFINISHED = ".ypsicline.tar", ".unfinished"


def back_up(data: Path, target: Path, *, keep: int | None = None) -> Path:
    """A checked copy of the workshop in the folder `data`, in `target`, also while it is served; of earlier copies there the
    `keep` newest stay. Raises `Refusal` where there is no workshop, or the copy doesn't read back."""
    if not (data / DATABASE).exists():
        raise Refusal(message("no_workshop_to_copy", data=str(data)), "backup")
    target.mkdir(parents=True, exist_ok=True, mode=0o700)
    for remnant in target.glob(f"*{_UNFINISHED}"):
        shutil.rmtree(remnant, ignore_errors=True)
    with (
        locked(data, STORED_FILES),
        tempfile.TemporaryDirectory(dir=target, suffix=_UNFINISHED) as folder,
    ):
        snapshot, tar_path = Path(folder) / DATABASE, Path(folder) / "copy.tar"
        with (
            contextlib.closing(sqlite3.connect(data / DATABASE)) as live,
            contextlib.closing(sqlite3.connect(snapshot)) as copy,
        ):
            live.backup(copy)
        with tarfile.open(tar_path, "w") as tar:
            tar.add(snapshot, DATABASE)
            # files are named by their content and never change, and none is swept away meanwhile
            for path in sorted((data / FILES).rglob("*")):
                if path.is_file() and len(path.name) == 64:
                    tar.add(path, f"{FILES}/{path.parent.name}/{path.name}")
        _check(tar_path, Path(folder) / "read")
        _sync(tar_path)
        stamp = datetime.datetime.now(datetime.UTC).strftime("%Y-%m-%d-%H%M%S-%f")
        final = target / f"{stamp}{_ENDING}"
        tar_path.replace(final)
    _sync(target)
    for old in sorted(target.glob(f"*{_ENDING}"))[: -keep if keep else None] if keep else []:
        old.unlink()
    return final


def restore(copy: Path, into: Path) -> None:
    """A copy put into `into`, which must be new or empty.

    Raises `Refusal` where it isn't, or the copy is damaged; nothing is left there then.
    """
    if into.exists() and any(into.iterdir()):
        raise Refusal(message("restore_place_not_empty", into=str(into)), "restore")
    into.parent.mkdir(parents=True, exist_ok=True)
    for remnant in into.parent.glob(f"{into.name}.*{_UNFINISHED}"):
        shutil.rmtree(remnant, ignore_errors=True)
    beside = Path(tempfile.mkdtemp(dir=into.parent, prefix=f"{into.name}.", suffix=_UNFINISHED))
    try:
        _check(copy, beside)
        if into.exists():
            into.rmdir()
        beside.replace(into)
        _sync(into.parent)
    except BaseException:
        shutil.rmtree(beside, ignore_errors=True)
        raise


def _check(copy: Path, folder: Path) -> None:
    """Unpack a copy into a folder and see that the database is sound, and every file what its name says."""
    folder.mkdir(exist_ok=True, mode=0o700)
    try:
        with tarfile.open(copy) as tar:
            _unpack(tar, folder)
        with contextlib.closing(sqlite3.connect(folder / DATABASE)) as database:
            (sound,) = database.execute("PRAGMA integrity_check").fetchone()
            tables = {name for (name,) in database.execute("SELECT name FROM sqlite_master")}
    except (OSError, tarfile.TarError, sqlite3.DatabaseError) as e:
        raise Refusal(message("copy_damaged", copy=copy.name), "restore") from e
    if sound != "ok" or "jobs_job" not in tables:
        raise Refusal(message("copy_database_damaged", copy=copy.name), "restore")
    for path in (folder / FILES).rglob("*"):
        if path.is_file() and hashlib.sha256(path.read_bytes()).hexdigest() != path.name:
            raise Refusal(message("copy_file_changed", copy=copy.name, file=path.name[:12]), "restore")


def _unpack(tar: tarfile.TarFile, folder: Path) -> None:
    """Only what a copy holds: the database, and files under the names of their content."""
    for member in tar:
        if not (member.isreg() and _OWN.fullmatch(member.name)) or (stream := tar.extractfile(member)) is None:
            raise tarfile.TarError(f"{member.name} doesn't belong here")
        path = folder / member.name
        path.parent.mkdir(exist_ok=True, parents=True, mode=0o700)
        with path.open("xb") as file:
            shutil.copyfileobj(stream, file)


def _sync(path: Path) -> None:
    handle = os.open(path, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)
