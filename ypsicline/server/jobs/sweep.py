"""What nothing refers to any more: findings that no state of a job shows, files that deleting left behind, and what an
upload that was broken off began."""

from __future__ import annotations

import re
import time
import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import timedelta
from typing import Any

from django.conf import settings
from django.db import transaction
from django.db.models import Count, F, Manager, TextField
from django.db.models.functions import Cast
from django.utils import timezone
from django_tasks import task

from ypsicline.core.errors import Refusal
from ypsicline.core.formats.stored import parts_of
from ypsicline.server.jobs.models import Camera, DocumentPart, Job, KeptPhoto, Photo, Revision
from ypsicline.server.locks import STORED_FILES, locked

__all__ = ["GRACE_S", "Swept", "sweep", "sweep_soon"]

# a file is written before the row that refers to it: what is as young as this may still be waiting for its row
GRACE_S = 600
_LATELY_DAYS = 7
_DONE_WITH = (Photo.Status.DONE, Photo.Status.REFUSED)
_NAME = re.compile(r"[0-9a-f]{64}")
_FINDING = re.compile(rb'"photo":\s*(\d+),\s*"(?:outline|found)":\s*(\d+)')


@dataclass(frozen=True)
class Swept:
    """How many files are no longer referred to, and their bytes together; how many findings, and parts of documents."""

    files: int
    bytes: int
    findings: int = 0
    parts: int = 0


def sweep(*, dry_run: bool = False) -> Swept:
    """Remove parts of documents that no state needs, findings that no state of their job shows, and files that no photo,
    camera or finding refers to and that were written over ten minutes ago; none while a backup is made. A dry run only
    counts them: the files of findings that would go are not among them yet."""
    with locked(settings.FILES.parent, STORED_FILES, wait=False) as is_held:
        return _swept(dry_run) if is_held else Swept(0, 0)


def _swept(dry_run: bool) -> Swept:
    # a branch of its history that was undone and left has taken its numbers with it, when the job was changed
    lately = timezone.now() - timedelta(days=_LATELY_DAYS)
    with_gaps = (
        Job.objects.filter(changed_at__gte=lately).annotate(states=Count("revisions")).filter(states__lt=F("latest"))
    )
    parts = sum(_forget_parts(pk, dry_run) for pk in with_gaps.values_list("pk", flat=True))
    findings = sum(
        _forget_findings(pk, dry_run) for pk in Photo.objects.exclude(result=None).values_list("pk", flat=True)
    )
    before = time.time() - GRACE_S
    stale = [p for p in settings.FILES.glob("??/*") if p.is_file() and p.stat().st_mtime < before]
    referred = _names_in_use() if stale else set()
    count = size = 0
    for path in stale:
        # one that is kept again meanwhile is young again
        if path.name not in referred and path.stat().st_mtime < before:
            count, size = count + 1, size + path.stat().st_size
            if not dry_run:
                path.unlink(missing_ok=True)
    return Swept(count, size, findings, parts)


def _forget_findings(photo_id: int, dry_run: bool) -> int:
    """How many findings of a photo no state of its job shows; the last one stays, for a hand may be at work on it.
    Their places in the list stay, empty, so that the others keep their numbers."""
    with transaction.atomic():
        photo = Photo.objects.select_for_update().filter(pk=photo_id, status__in=_DONE_WITH).first()
        findings = (photo.result or {}).get("outlines", []) if photo else []
        earlier = [k for k, entry in enumerate(findings[:-1]) if entry]
        if photo is None or not earlier:
            return 0
        in_states = {k for state in _states(photo.job_id) for k in _findings_in(state, photo_id)}
        unused = [k for k in earlier if k not in in_states]
        if unused and not dry_run:
            photo.result = {
                **(photo.result or {}),
                "outlines": [{} if k in unused else entry for k, entry in enumerate(findings)],
            }
            photo.save(update_fields=["result"])
        return len(unused)


def _states(job_id: int) -> Iterator[bytes]:
    """Everything that is stored of a job's states, as it was written."""
    parts = DocumentPart.objects.filter(job=job_id).values_list("content", flat=True)
    states = Revision.objects.filter(job=job_id).values_list("document", flat=True)
    for row in (*parts.iterator(50), *states.iterator(50)):
        yield bytes(row)


def _findings_in(packed: bytes, photo_id: int) -> set[int]:
    # as text: a state that can't be understood any more still holds on to its findings
    plain = packed if packed.startswith(b"{") else zlib.decompress(packed)
    return {int(index) for photo, index in _FINDING.findall(plain) if int(photo) == photo_id}


def _forget_parts(job_id: int, dry_run: bool) -> int:
    """How many parts no state of a job needs any more: those of a change that was undone before another was made."""
    with transaction.atomic():
        Job.objects.select_for_update().filter(pk=job_id).first()
        needed: set[str] = set()
        for state in Revision.objects.filter(job=job_id).values_list("document", flat=True).iterator(50):
            try:
                needed |= parts_of(bytes(state))
            except Refusal:
                return 0  # what a damaged state needs isn't known
        unused = [p for p in DocumentPart.objects.filter(job=job_id).values_list("name", flat=True) if p not in needed]
        if unused and not dry_run:
            DocumentPart.objects.filter(job=job_id, name__in=unused).delete()
        return len(unused)


@task()
def sweep_soon() -> None:
    """Remove what was left behind, beside the server."""
    sweep()


def _names_in_use() -> set[str]:
    names: set[str] = set()
    kept_rows: tuple[Manager[Any], ...] = (Photo.objects, KeptPhoto.objects)
    for rows in kept_rows:
        for pair in rows.values_list("file", "preview").iterator(500):
            names.update(pair)
    # as text: thousands of findings needn't be understood to see which files they name
    told_in: tuple[tuple[Manager[Any], str], ...] = ((Photo.objects, "result"), (Camera.objects, "files"))
    for rows, field in told_in:
        for text in rows.annotate(text=Cast(field, TextField())).values_list("text", flat=True).iterator(50):
            names.update(_NAME.findall(text or ""))
    return names
