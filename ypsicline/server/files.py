"""Files kept by the hash of their content, beside the database."""

from __future__ import annotations

import contextlib
import hashlib
import os
import tempfile
from pathlib import Path

from django.conf import settings

__all__ = ["keep", "path_of"]


def keep(data: bytes) -> str:
    """Store `data` and return its SHA-256: written under a temporary name, synced, then renamed.

    One that is here already becomes young again, so that no sweep takes it for left behind.
    """
    name = hashlib.sha256(data).hexdigest()
    path = path_of(name)
    with contextlib.suppress(FileNotFoundError):
        os.utime(path)
        return name
    path.parent.mkdir(parents=True, exist_ok=True)
    handle, temporary = tempfile.mkstemp(dir=path.parent)
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        Path(temporary).replace(path)
    except BaseException:
        Path(temporary).unlink(missing_ok=True)
        raise
    return name


def path_of(name: str) -> Path:
    """Where the file of this hash lies."""
    if len(name) != 64 or not set(name) <= set("0123456789abcdef"):
        raise ValueError("not the name of a kept file")
    return settings.FILES / name[:2] / name
