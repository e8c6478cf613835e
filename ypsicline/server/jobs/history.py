"""A job's document: read at its position, changed by adding a revision, undone and redone by moving the position."""

from __future__ import annotations

import logging
from collections.abc import Callable, Collection
from typing import TYPE_CHECKING

from django.db import transaction

from ypsicline.core.changes.change import Change, changed
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.message_json import as_json
from ypsicline.core.formats.stored import StoredJob, pack, unpack
from ypsicline.core.identified import taken_in
from ypsicline.core.job import JobDocument
from ypsicline.core.lengths import Unit
from ypsicline.core.messages import Message, message
from ypsicline.server.jobs.models import DocumentPart, Job, Revision, Workshop
from ypsicline.server.jobs.ticket import write_ticket

if TYPE_CHECKING:
    from django.contrib.auth.models import User

__all__ = ["after", "at", "before", "change", "current", "redo", "take_in", "undo", "unit_of"]

log = logging.getLogger("ypsicline.jobs")
_TRIES = 5
# what a change writes of a job; that it is put away, for one, is none of its business
_OWN = ("position", "latest", "changed_at", "name", "for_whom", "covers", "due", "ticket_front", "unreadable_at")
Read = Callable[[JobDocument], Change]


class Stale(Exception):
    """Somebody changed the job meanwhile."""


def current(job: Job) -> JobDocument:
    """The job's document as it stands. Raises `Refusal` where what is stored can't be read, and marks the job so."""
    try:
        return at(job, job.position)
    except Refusal as e:
        if job.unreadable_at != job.position:
            log.warning("job %s can't be read at %s: %s", job.pk, job.position, e.sentence)
            Job.objects.filter(pk=job.pk, position=job.position).update(unreadable_at=job.position)
        raise


def at(job: Job, revision: int) -> JobDocument:
    """The job's document as it was at a revision. Raises `Refusal` where there is none, or what is stored can't be read."""
    state = job.revisions.filter(number=revision).first()
    if state is None:
        raise Refusal(message("stored_state_missing"), "document")
    return _unpack(job, bytes(state.document))


def unit_of(job: Job) -> Unit:
    """The unit that a job is shown in; mm where it can't be read."""
    try:
        return current(job).unit
    except Refusal:
        return "mm"


def _unpack(job: Job, packed: bytes) -> JobDocument:
    def fetch(names: Collection[str]) -> dict[str, bytes]:
        rows = job.parts.filter(name__in=names).values_list("name", "content")
        return {name: bytes(content) for name, content in rows}

    return unpack(packed, fetch)


def take_in(workshop: Workshop, document: JobDocument, user: User | None, what: Message | None = None) -> Job:
    """A new job with the workshop's next ticket."""
    document = taken_in(document)
    packed = pack(document)
    parts = packed.parts(packed.names)
    job = Job(workshop=workshop, position=1, latest=1)
    write_ticket(job, document)
    with transaction.atomic():
        last = Workshop.objects.select_for_update().get(pk=workshop.pk).last_ticket
        Workshop.objects.filter(pk=workshop.pk).update(last_ticket=last + 1)
        job.ticket = last + 1
        job.save()
        _store_parts(job, packed, parts)
        Revision.objects.create(
            job=job, number=1, what=as_json(what or message("job_taken_in")), document=packed.manifest, by=user
        )
    return job


def change(job_id: int, change: Change | Read, user: User | None, expected: int | None = None) -> Job:
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
        wish = change(before) if callable(change) else change
        after = changed(before, wish)
        if after == before:
            return job
        packed = pack(after)
        write_ticket(job, after)
        parts = packed.parts(packed.names - _parts_there(job, packed))
        if _store(job, wish.words(before, after), packed, parts, user):
            return job
    raise Stale


def _store(now: Job, what: Message, packed: StoredJob, parts: dict[str, bytes], user: User | None) -> bool:
    """Add a revision to the job; not where it isn't any more as it was when `now` was read."""
    with transaction.atomic():
        if not Job.objects.select_for_update().filter(pk=now.pk, position=now.position, latest=now.latest).exists():
            return False
        now.revisions.filter(number__gt=now.position).delete()
        # numbers never come back, so that a window that shows one which was undone is told so
        now.position = now.latest = now.latest + 1
        _store_parts(now, packed, parts)
        Revision.objects.create(job=now, number=now.position, what=as_json(what), document=packed.manifest, by=user)
        now.save(update_fields=_OWN)
    return True


def _parts_there(job: Job, packed: StoredJob) -> set[str]:
    return set(job.parts.filter(name__in=packed.names).values_list("name", flat=True))


def _store_parts(job: Job, packed: StoredJob, parts: dict[str, bytes]) -> None:
    """Store what a document needs and its job doesn't have yet; `parts` were made before the database was locked."""
    missing = packed.names - _parts_there(job, packed)
    # one that was there a moment ago may have been swept since
    contents = parts | packed.parts(missing - parts.keys())
    DocumentPart.objects.bulk_create([DocumentPart(job=job, name=n, content=contents[n]) for n in missing])


def before(job: Job) -> Revision | None:
    """The state that undoing leads to."""
    return job.revisions.filter(number__lt=job.position).order_by("-number").first()


def after(job: Job) -> Revision | None:
    """The state that redoing leads to."""
    return job.revisions.filter(number__gt=job.position).order_by("number").first()


def undo(job_id: int, expected: int) -> Job:
    """Back to the state before. Raises `Stale` where the job isn't at revision `expected`, `Refusal` where there is none."""
    return _move(job_id, expected, before, message("nothing_to_undo"))


def redo(job_id: int, expected: int) -> Job:
    """On to the state that was undone last; raises as `undo` does."""
    return _move(job_id, expected, after, message("nothing_to_redo"))


def _move(job_id: int, expected: int, to: Callable[[Job], Revision | None], otherwise: Message) -> Job:
    job = Job.objects.get(pk=job_id)
    if expected != job.position:
        raise Stale
    state = to(job)
    if state is None:
        raise Refusal(otherwise, "history")
    job.position = state.number
    try:
        write_ticket(job, _unpack(job, bytes(state.document)))
    except Refusal:
        job.unreadable_at = job.position
    with transaction.atomic():
        if not Job.objects.select_for_update().filter(pk=job_id, position=expected, latest=job.latest).exists():
            raise Stale
        job.save(update_fields=_OWN)
    return job
