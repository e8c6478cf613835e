"""Links by which a phone on the workshop's network sends photos to one job, for a short while."""

from __future__ import annotations

import datetime
from collections.abc import Iterator
from contextlib import contextmanager

from django.conf import settings
from django.db.models import F
from django.http import Http404
from django.utils import timezone

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message
from ypsicline.server.accounts.tokens import hash_of, new_token
from ypsicline.server.jobs.models import Job, PhoneLink

__all__ = ["LASTS", "MOST_PHOTOS", "end_links", "job_of_token", "new_link", "sending"]

LASTS = datetime.timedelta(minutes=30)
MOST_PHOTOS = 40


def new_link(job: Job) -> tuple[str, datetime.datetime]:
    """The address for the phone, and until when it works. Raises `Refusal` where the server isn't on the network."""
    if not settings.LAN_URL:
        raise Refusal(message("no_network_for_phones"), "phone")
    token, until = new_token(), timezone.now() + LASTS
    PhoneLink.objects.filter(until__lt=timezone.now()).delete()
    PhoneLink.objects.create(job=job, token_hash=hash_of(token), until=until, photos_left=MOST_PHOTOS)
    return f"{settings.LAN_URL}/phone/{token}", until


def end_links(job: Job) -> None:
    """No phone's link to this job serves any more."""
    job.phone_links.all().delete()


@contextmanager
def sending(token: str, count: int) -> Iterator[Job]:
    """The job that so many photos are sent to; they count only if they are taken in. Raises `Refusal` beyond the limit."""
    job, link = job_of_token(token), PhoneLink.objects.filter(token_hash=hash_of(token))
    if not link.filter(photos_left__gte=count).update(photos_left=F("photos_left") - count):
        raise Refusal(message("phone_link_used_up", most_photos=MOST_PHOTOS), "phone")
    try:
        yield job
    except BaseException:
        link.update(photos_left=F("photos_left") + count)
        raise


def job_of_token(token: str) -> Job:
    """The job that a phone's token opens; as if it weren't there once the token has run out."""
    link = PhoneLink.objects.select_related("job").filter(token_hash=hash_of(token), until__gt=timezone.now()).first()
    if link is None:
        raise Http404
    return link.job
