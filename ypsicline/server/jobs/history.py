"""A job's document: read at its position, changed by adding a revision, undone and redone by moving the position."""

from __future__ import annotations

import zlib
from collections.abc import Callable
from functools import lru_cache
from typing import TYPE_CHECKING

from django.db import transaction

from ypsicline.core.errors import Refused
from ypsicline.core.formats.documents import dump, load_job
from ypsicline.core.job import JobDocument
from ypsicline.server.jobs.models import Job, Revision, Workshop

if TYPE_CHECKING:
    from django.contrib.auth.models import AbstractBaseUser

__all__ = ["change", "current", "redo", "take_in", "undo"]

KEPT_REVISIONS = 200
Change = Callable[[JobDocument], JobDocument]
What = str | Callable[[], str]


class Stale(Exception):
    """Somebody changed the job meanwhile."""


def current(job: Job) -> JobDocument:
    """The job's document as it stands."""
    revision = job.revisions.get(number=job.position)
    return _unpacked(bytes(revision.document))


def _packed(document: JobDocument) -> bytes:
    return zlib.compress(dump(document), 1)


@lru_cache(maxsize=16)
def _unpacked(stored: bytes) -> JobDocument:
    # what was stored before it was packed is plain JSON
    return load_job(stored if stored.startswith(b"{") else zlib.decompress(stored))


def take_in(
    workshop: Workshop, document: JobDocument, user: AbstractBaseUser | None, what: str = "Job taken in"
) -> Job:
    """A new job with the workshop's next ticket."""
    with transaction.atomic():
        last = Job.objects.filter(workshop=workshop).order_by("-ticket").values_list("ticket", flat=True).first()
        job = Job.objects.create(workshop=workshop, ticket=(last or 0) + 1, position=1)
        Revision.objects.create(job=job, number=1, what=what, document=_packed(document), by=user)
    return job


def change(job_id: int, what: What, how: Change, user: AbstractBaseUser | None, expected: int | None = None) -> Job:
    """Apply `how` to the job's document and keep the result as a new revision, all or nothing.

    `what` says the change in words, before or, where it tells what came of it, after it is done.
    Raises `Stale` where the job is no longer at revision `expected`, and whatever `how` raises.
    A change that changes nothing leaves no trace.
    """
    with transaction.atomic():
        job = Job.objects.select_for_update().get(pk=job_id)
        if expected is not None and expected != job.position:
            raise Stale
        before = current(job)
        after = how(before)
        if after == before:
            return job
        job.revisions.filter(number__gt=job.position).delete()
        number = job.position + 1
        Revision.objects.create(
            job=job,
            number=number,
            what=(what if isinstance(what, str) else what())[:120],
            document=_packed(after),
            by=user,
        )
        job.revisions.filter(number__lte=number - KEPT_REVISIONS).delete()
        job.position = number
        job.save()
    return job


def undo(job_id: int) -> Job:
    return _move(job_id, -1, "There is nothing to undo.")


def redo(job_id: int) -> Job:
    return _move(job_id, 1, "There is nothing to redo.")


def _move(job_id: int, by: int, else_sentence: str) -> Job:
    with transaction.atomic():
        job = Job.objects.select_for_update().get(pk=job_id)
        if not job.revisions.filter(number=job.position + by).exists():
            raise Refused(else_sentence, "history")
        job.position += by
        job.save()
    return job
