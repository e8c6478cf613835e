"""Whose job it is: members of its workshop see it, nobody else does."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from django.shortcuts import get_object_or_404

from ypsicline.core.errors import Refused
from ypsicline.server.jobs import history
from ypsicline.server.jobs.history import Change, What
from ypsicline.server.jobs.models import Job, Photo, Workshop
from ypsicline.server.jobs.view import JobView, job_view

__all__ = ["apply", "job_of", "photo_of", "workshop_of"]


def workshop_of(request: HttpRequest) -> Workshop:
    workshop = Workshop.objects.filter(members=request.user.pk).order_by("pk").first()
    if workshop is None:
        raise Refused(
            "You are signed in but belong to no workshop; ask whoever keeps the workshop to add you.",
            "workshop",
        )
    return workshop


def job_of(request: HttpRequest, job_id: int) -> Job:
    return get_object_or_404(Job, pk=job_id, workshop__members=request.user.pk)


def photo_of(request: HttpRequest, photo_id: int) -> Photo:
    return get_object_or_404(Photo, pk=photo_id, job__workshop__members=request.user.pk)


def apply(request: HttpRequest, job_id: int, what: What, how: Change) -> JobView:
    """Change a job that the user may change, expecting the revision that their window shows (X-Revision)."""
    job = job_of(request, job_id)
    user: Any = request.user
    return job_view(history.change(job.pk, what, how, user, _expected(request)))


def _expected(request: HttpRequest) -> int | None:
    given = request.headers.get("X-Revision", "")
    return int(given) if given.isascii() and given.isdigit() and len(given) < 10 else None
