"""The wall: a workshop's tickets, in the order in which they are due, found by what stands on them, a page at a time."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import Count, F, OuterRef, Q, QuerySet, Subquery
from django.utils import timezone

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Job, Photo, Revision, Workshop
from ypsicline.server.jobs.sweep import sweep_soon
from ypsicline.server.jobs.ticket import TicketView, is_written, ticket_view, write_ticket

__all__ = ["PAGE", "Page", "delete", "page_of", "put_away", "put_back", "renew_tickets"]

PAGE = 48
LONGEST_SEARCH = 100


@dataclass(frozen=True)
class Page:
    """A page of tickets, and how many there are on all of them."""

    tickets: list[TicketView]
    count: int


def page_of(workshop: Workshop, search: str = "", page: int = 1, *, is_put_away: bool = False) -> Page:
    """Page `page`, from 1, of the tickets on the wall or put away that `search` finds."""
    jobs = _matches(Job.objects.filter(workshop=workshop, put_away_at__isnull=not is_put_away), search)
    first = (max(page, 1) - 1) * PAGE
    # what is looked up beside each ticket is looked up for these alone
    here = jobs.order_by(*_order()).values("pk")[first : first + PAGE]
    photos = Photo.objects.filter(job=OuterRef("pk"), leader=None).order_by("-pk").values("status")[:1]
    before = (
        Revision.objects.filter(job=OuterRef("pk"), number__lt=OuterRef("position"))
        .order_by("-number")
        .values("what")[:1]
    )
    count = jobs.order_by().values("workshop").annotate(count=Count("pk")).values("count")
    jobs_here: Any = Job.objects.filter(pk__in=here).annotate(
        photo_status=Subquery(photos), back_to=Subquery(before), count=Subquery(count)
    )
    rows = list(jobs_here.order_by(*_order()))
    tickets = [ticket_view(j, j.photo_status, j.back_to) for j in rows]
    return Page(tickets, rows[0].count if rows else 0)


def _order() -> tuple[Any, ...]:
    return F("due").asc(nulls_last=True), "ticket"


def _matches(jobs: QuerySet[Job], search: str) -> QuerySet[Job]:
    words = search[:LONGEST_SEARCH].replace("\0", "").split()
    for word in words:
        matches = Q(name__icontains=word) | Q(for_whom__icontains=word) | Q(covers__icontains=word)
        if word.isascii() and word.isdigit() and len(word) < 10:
            matches |= Q(ticket=int(word))
        jobs = jobs.filter(matches)
    return jobs


def copy(job: Job, user: User | None) -> Job:
    """A new job like this one as it stands, with a ticket of its own, due no day yet. Its photos stay with the one that they
    were taken for."""
    document = history.current(job)
    pieces = tuple(replace(p, photo=None) for p in document.pieces)
    like = replace(document, name=f"{document.name[:72]} again", due=None, pieces=pieces, sheet_distances=())
    return history.take_in(job.workshop, like, user, message("job_copied", ticket=job.ticket))


def put_away(job: Job) -> None:
    """Take the ticket off the wall; everything stays as it is."""
    Job.objects.filter(pk=job.pk, put_away_at=None).update(put_away_at=timezone.now())


def put_back(job: Job) -> None:
    """Hang the ticket on the wall again."""
    Job.objects.filter(pk=job.pk).update(put_away_at=None)


def delete(job: Job) -> None:
    """Delete a job that is put away, with its history and photos. Raises `Refusal` for one that hangs on the wall."""
    with transaction.atomic():
        if not Job.objects.select_for_update().get(pk=job.pk).put_away_at:
            raise Refusal(message("job_hangs_on_wall"), "job")
        job.delete()
        transaction.on_commit(lambda: sweep_soon.enqueue())


def renew_tickets(*, all_of_them: bool = False) -> int:
    """Write tickets anew that another version wrote or couldn't read, or every one; returns how many jobs can't be read."""
    unreadable = 0
    for job in Job.objects.order_by("pk").iterator(100):
        if not all_of_them and is_written(job) and job.unreadable_at is None:
            continue
        try:
            write_ticket(job, history.current(job))
        except Refusal:
            unreadable += 1
            continue
        Job.objects.filter(pk=job.pk, position=job.position).update(
            **{f: getattr(job, f) for f in ("name", "for_whom", "covers", "due", "ticket_front", "unreadable_at")}
        )
    return unreadable
