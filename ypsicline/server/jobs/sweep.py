"""Files that nothing refers to any more: what deleting left behind, and what an upload that was broken off began."""

from __future__ import annotations

import re
import time
from dataclasses import dataclass

from django.conf import settings
from django.db.models import TextField
from django.db.models.functions import Cast
from django_tasks import task

from ypsicline.server.jobs.models import Camera, KeptPhoto, Photo
from ypsicline.server.locks import STORED_FILES, locked

__all__ = ["GRACE_S", "Swept", "sweep", "sweep_soon"]

# a file is written before the row that refers to it: what is as young as this may still be waiting for its row
GRACE_S = 600
_NAME = re.compile(r"[0-9a-f]{64}")


@dataclass(frozen=True)
class Swept:
    """How many files are no longer referred to, and their bytes together."""

    files: int
    bytes: int


def sweep(*, dry_run: bool = False) -> Swept:
    """Remove files that no photo, camera or finding refers to and that were written over ten minutes ago; none while a
    backup is made. A dry run only counts them."""
    with locked(settings.FILES.parent, STORED_FILES, wait=False) as is_held:
        return _swept(dry_run) if is_held else Swept(0, 0)


def _swept(dry_run: bool) -> Swept:
    before = time.time() - GRACE_S
    stale = [p for p in settings.FILES.glob("??/*") if p.is_file() and p.stat().st_mtime < before]
    referred = _referred() if stale else set()
    count = size = 0
    for path in stale:
        # one that is kept again meanwhile is young again
        if path.name not in referred and path.stat().st_mtime < before:
            count, size = count + 1, size + path.stat().st_size
            if not dry_run:
                path.unlink(missing_ok=True)
    return Swept(count, size)


@task()
def sweep_soon() -> None:
    """Remove what was left behind, beside the server."""
    sweep()


def _referred() -> set[str]:
    names: set[str] = set()
    for rows in (Photo.objects, KeptPhoto.objects):
        for pair in rows.values_list("file", "preview").iterator(500):  # type: ignore[attr-defined]
            names.update(pair)
    # as text: thousands of findings needn't be understood to see which files they name
    for rows, field in ((Photo.objects, "result"), (Camera.objects, "files")):
        for text in rows.annotate(text=Cast(field, TextField())).values_list("text", flat=True).iterator(50):  # type: ignore[attr-defined]
            names.update(_NAME.findall(text or ""))
    return names
