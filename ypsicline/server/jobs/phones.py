"""Links by which a phone on the workshop's network sends photos to one job, for a short while."""

from __future__ import annotations

import datetime
import hashlib
import secrets

from django.conf import settings
from django.http import Http404
from django.utils import timezone

from ypsicline.core.errors import Refused
from ypsicline.server.jobs.models import Job, PhoneLink

__all__ = ["LASTS", "job_of_token", "new_link"]

LASTS = datetime.timedelta(minutes=30)


def new_link(job: Job) -> tuple[str, datetime.datetime]:
    """The address for the phone, and until when it works. Raises `Refused` where the server isn't on the network."""
    if not settings.LAN_URL:
        raise Refused(
            "A phone can't reach this server: it answers this machine only. Start it for the workshop's own network "
            "with make serve LAN=1.",
            "phone",
        )
    token, until = secrets.token_urlsafe(24), timezone.now() + LASTS
    PhoneLink.objects.filter(until__lt=timezone.now()).delete()
    PhoneLink.objects.create(job=job, token_hash=_hash(token), until=until)
    return f"{settings.LAN_URL}/phone/{token}", until


def job_of_token(token: str) -> Job:
    """The job that a phone's token opens; as if it weren't there once the token has run out."""
    link = PhoneLink.objects.select_related("job").filter(token_hash=_hash(token), until__gt=timezone.now()).first()
    if link is None:
        raise Http404
    return link.job


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()
