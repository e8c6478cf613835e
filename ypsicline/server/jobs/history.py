"""A job's document: read at its position, changed by adding a revision, undone and redone by moving the position."""

from __future__ import annotations

import logging
import zlib
from collections.abc import Callable
from functools import lru_cache
from typing import TYPE_CHECKING

from django.db import transaction

from ypsicline.core.changes.change import Change
from ypsicline.core.errors import Refused
from ypsicline.core.formats.documents import dump, load_job
from ypsicline.core.job import JobDocument
from ypsicline.server.jobs.models import Job, Revision, Workshop
from ypsicline.server.jobs.ticket import write_ticket

if TYPE_CHECKING:
    from django.contrib.auth.models import AbstractBaseUser

__all__ = ["after", "before", "change", "current", "redo", "take_in", "undo"]

log = logging.getLogger("ypsicline.jobs")
KEPT_REVISIONS = 200
_TRIES = 5
_LONGEST_WORDS = 120
# what a change writes of a job; that it is put away, for one, is none of its business
_OWN = ("position", "latest", "changed_at", "name", "for_whom", "covers", "due", "ticket_front", "unreadable_at")
Read = Callable[[JobDocument], Change]


class Stale(Exception):
    """Somebody changed the job meanwhile."""


def current(job: Job) -> JobDocument:
    """The job's document as it stands. Raises `Refused` where what is stored can't be read, and marks the job so."""
    revision = job.revisions.filter(number=job.position).first()
    try:
        if revision is None:
            raise Refused("The state that this job stands at is missing.", "document")
        return _unpacked(bytes(revision.document))
    except Refused as e:
        if job.unreadable_at != job.position:
            log.warning("job %s can't be read at %s: %s", job.pk, job.position, e.sentence)
            Job.objects.filter(pk=job.pk, position=job.position).update(unreadable_at=job.position)
        raise


def _packed(document: JobDocument) -> bytes:
    """The document as it is stored, once it is known that it can be read again; raises `Refused` where it can't."""
    packed = zlib.compress(dump(document), 1)
    try:
        _unpacked(packed)
    except Refused as e:
        raise Refused(
            "The job couldn't be read again after this change, so it isn't made: "
            f"{e.sentence[0].lower()}{e.sentence[1:]}",
            "document",
        ) from e
    return packed


@lru_cache(maxsize=16)
def _unpacked(stored: bytes) -> JobDocument:
    # what was stored before it was packed is plain JSON
    try:
        plain = stored if stored.startswith(b"{") else zlib.decompress(stored)
    except zlib.error as e:
        raise Refused("What is stored of this job is damaged.", "document") from e
    return load_job(plain)


def take_in(
    workshop: Workshop, document: JobDocument, user: AbstractBaseUser | None, what: str = "Job taken in"
) -> Job:
    """A new job with the workshop's next ticket."""
    packed = _packed(document)
    job = Job(workshop=workshop, position=1, latest=1)
    write_ticket(job, document)
    with transaction.atomic():
        last = Workshop.objects.select_for_update().get(pk=workshop.pk).last_ticket
        Workshop.objects.filter(pk=workshop.pk).update(last_ticket=last + 1)
        job.ticket = last + 1
        job.save()
        Revision.objects.create(job=job, number=1, what=what, document=packed, by=user)
    return job


def change(job_id: int, change: Change | Read, user: AbstractBaseUser | None, expected: int | None = None) -> Job:
    """Make a change, or the one that is read for the document as it stands, and keep the result as a new revision, all or
    nothing.

    It is computed before the database is locked, and again where somebody else changed the job meanwhile.
    Raises `Stale` where the job is no longer at revision `expected`, and whatever the change raises.
    A change that changes nothing leaves no trace.
    """
    for _ in range(_TRIES):
        job = Job.objects.get(pk=job_id)
        if expected is not None and expected != job.position:
            raise Stale
        before = current(job)
        asked = change(before) if callable(change) else change
        after = asked.on(before)
        if after == before:
            return job
        packed = _packed(after)
        write_ticket(job, after)
        if _stored(job, asked.words(before, after)[:_LONGEST_WORDS], packed, user):
            return job
    raise Stale


def _stored(now: Job, what: str, document: bytes, user: AbstractBaseUser | None) -> bool:
    """Add a revision to the job; not where it isn't any more as it was when `now` was read."""
    with transaction.atomic():
        if not Job.objects.select_for_update().filter(pk=now.pk, position=now.position, latest=now.latest).exists():
            return False
        now.revisions.filter(number__gt=now.position).delete()
        # numbers never come back, so that a window that shows one which was undone is told so
        now.position = now.latest = now.latest + 1
        Revision.objects.create(job=now, number=now.position, what=what, document=document, by=user)
        oldest = now.revisions.order_by("-number").values_list("number", flat=True)[:KEPT_REVISIONS][
            KEPT_REVISIONS - 1 :
        ]
        if oldest:
            now.revisions.filter(number__lt=oldest[0]).delete()
        now.save(update_fields=_OWN)
    return True


def before(job: Job) -> Revision | None:
    """The state that undoing leads to."""
    return job.revisions.filter(number__lt=job.position).order_by("-number").first()


def after(job: Job) -> Revision | None:
    """The state that redoing leads to."""
    return job.revisions.filter(number__gt=job.position).order_by("number").first()


def undo(job_id: int, expected: int) -> Job:
    """Back to the state before. Raises `Stale` where the job isn't at revision `expected`, `Refused` where there is none."""
    return _move(job_id, expected, before, "There is nothing to undo.")


def redo(job_id: int, expected: int) -> Job:
    """On to the state that was undone last; raises as `undo` does."""
    return _move(job_id, expected, after, "There is nothing to redo.")


def _move(job_id: int, expected: int, to: Callable[[Job], Revision | None], else_sentence: str) -> Job:
    job = Job.objects.get(pk=job_id)
    if expected != job.position:
        raise Stale
    state = to(job)
    if state is None:
        raise Refused(else_sentence, "history")
    job.position = state.number
    try:
        write_ticket(job, _unpacked(bytes(state.document)))
    except Refused:
        job.unreadable_at = job.position
    with transaction.atomic():
        if not Job.objects.select_for_update().filter(pk=job_id, position=expected, latest=job.latest).exists():
            raise Stale
        job.save(update_fields=_OWN)
    return job
