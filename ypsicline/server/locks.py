"""Locks between the server's processes and threads: a file of the data's folder that the kernel lets one of them hold."""

from __future__ import annotations

import fcntl
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

__all__ = ["STORED_FILES", "locked"]

# whoever holds this one may take files away, or wants none to be taken away
STORED_FILES = "files"


@contextmanager
def locked(data: Path, name: str, *, wait: bool = True) -> Iterator[bool]:
    """Hold the lock `name` of the workshop whose data lies in `data`; whether it is held, which it always is with `wait`.
    It is given up when its holder ends, however that comes about."""
    folder = data / "locks"
    folder.mkdir(parents=True, exist_ok=True)
    with (folder / name).open("w") as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX if wait else fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            yield False
            return
        yield True
