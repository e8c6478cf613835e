"""Who belongs to a workshop: its owner invites members by links that serve once, and takes them off again."""

from __future__ import annotations

import datetime
from typing import TYPE_CHECKING

from django.db import transaction
from django.http import Http404
from django.utils import timezone

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message
from ypsicline.server.accounts.tokens import hash_of, new_token
from ypsicline.server.jobs.models import Invitation, Workshop

if TYPE_CHECKING:
    from django.contrib.auth.models import User

__all__ = ["LASTS", "accept", "hand_over", "invite", "remove", "workshop_of_token"]

LASTS = datetime.timedelta(days=7)
MOST_OPEN = 20
MOST_MEMBERS = 200


def invite(workshop: Workshop, by: User) -> tuple[str, datetime.datetime]:
    """A token by which one person joins, and until when. Raises `Refusal` unless `by` owns the workshop."""
    _by_owner(workshop, by, "invite somebody")
    workshop.invitations.filter(until__lt=timezone.now()).delete()
    if workshop.invitations.count() >= MOST_OPEN:
        raise Refusal(message("too_many_invitations", most_open=MOST_OPEN), "invitation")
    token, until = new_token(), timezone.now() + LASTS
    Invitation.objects.create(workshop=workshop, token_hash=hash_of(token), until=until)
    return token, until


def workshop_of_token(token: str) -> Workshop:
    """The workshop that a token invites to; as if it weren't there once it is used up or has run out."""
    invitations = Invitation.objects.select_related("workshop")
    invitation = invitations.filter(token_hash=hash_of(token), until__gt=timezone.now()).first()
    if invitation is None:
        raise Http404
    return invitation.workshop


def accept(token: str, user: User) -> Workshop:
    """Make the user a member; the invitation is used up."""
    with transaction.atomic():
        workshop = workshop_of_token(token)
        if workshop.members.count() >= MOST_MEMBERS:
            raise Refusal(message("too_many_members", most_members=MOST_MEMBERS), "members")
        Invitation.objects.filter(token_hash=hash_of(token)).delete()
        workshop.members.add(user)
    return workshop


def remove(workshop: Workshop, user: User, by: User) -> None:
    """Take a member off. Members may leave by themselves; the owner hands the workshop over first."""
    if user.pk != by.pk:
        _by_owner(workshop, by, "remove members")
    with transaction.atomic():
        if Workshop.objects.select_for_update().get(pk=workshop.pk).owner_id == user.pk:
            raise Refusal(message("owner_stays"), "members")
        workshop.members.remove(user)


def hand_over(workshop: Workshop, user: User, by: User) -> None:
    """Make another member the owner."""
    _by_owner(workshop, by, "hand it over")
    Workshop.objects.filter(pk=workshop.pk).update(owner=user)


def _by_owner(workshop: Workshop, by: User, what: str) -> None:
    if workshop.owner_id != by.pk:
        raise Refusal(message("only_owner_can", what=what), "owner")
