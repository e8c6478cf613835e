"""Whose job it is: members of its workshop see it, nobody else does."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, cast

from django.http import HttpRequest
from django.shortcuts import get_object_or_404

from ypsicline.core.changes.change import Change
from ypsicline.core.errors import Refusal
from ypsicline.core.lengths import Unit
from ypsicline.core.messages import message
from ypsicline.server.jobs import history
from ypsicline.server.jobs.history import Read
from ypsicline.server.jobs.models import Job, Photo, Workshop
from ypsicline.server.views.job import JobView, job_view

if TYPE_CHECKING:
    from django.contrib.auth.models import User

__all__ = ["apply", "changed_view", "job_of", "photo_of", "shown_revision", "unit_shown", "user_of", "workshop_of"]


def user_of(request: HttpRequest) -> User:
    """Who is signed in, as everybody is who comes this far."""
    return cast("User", request.user)


def workshop_of(request: HttpRequest) -> Workshop:
    workshop = Workshop.objects.filter(members=request.user.pk).order_by("pk").first()
    if workshop is None:
        raise Refusal(message("belongs_to_no_workshop"), "workshop")
    return workshop


def job_of(request: HttpRequest, job_id: int) -> Job:
    return get_object_or_404(Job, pk=job_id, workshop__members=request.user.pk)


def photo_of(request: HttpRequest, photo_id: int) -> Photo:
    return get_object_or_404(Photo, pk=photo_id, job__workshop__members=request.user.pk)


def unit_shown(request: HttpRequest) -> Unit:
    """The unit of the job that a request is about; mm where it is about none, or none that the user may see."""
    arguments = request.resolver_match.kwargs if request.resolver_match else {}
    jobs = Job.objects.filter(workshop__members=request.user.pk)
    if "job_id" in arguments:
        job = jobs.filter(pk=arguments["job_id"]).first()
    else:
        job = jobs.filter(photos__pk=arguments["photo_id"]).first() if "photo_id" in arguments else None
    return history.unit_of(job) if job else "mm"


def apply(request: HttpRequest, job_id: int, change: Change | Read) -> JobView:
    """Change a job that the user may change, from the revision that their window shows; what changed of it."""
    job = job_of(request, job_id)
    return changed_view(job, lambda: history.change(job.pk, change, user_of(request), shown_revision(request)))


def changed_view(job: Job, change: Callable[[], Job]) -> JobView:
    """What a change left of a job that a window shows as it stands."""
    try:
        before = history.current(job)
    except Refusal:
        before = None  # undoing leads away from what can't be read
    return job_view(change(), before)


def shown_revision(request: HttpRequest) -> int:
    """The revision that the window shows which sent this (header X-Revision); refused where it doesn't say."""
    header = request.headers.get("X-Revision", "")
    if not (header.isascii() and header.isdigit() and len(header) < 10):
        raise Refusal(message("revision_missing"), "revision")
    return int(header)
