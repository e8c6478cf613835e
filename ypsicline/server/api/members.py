"""The workshop's members, and invitations to become one."""

from __future__ import annotations

import datetime
from typing import Any

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from django.urls import reverse
from ninja import Router, Schema, Status

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message
from ypsicline.server.accounts import members
from ypsicline.server.api.access import workshop_of
from ypsicline.server.jobs.models import Workshop

router = Router()


class MemberView(Schema):
    id: int
    name: str
    is_owner: bool
    is_you: bool


class WorkshopView(Schema):
    """A workshop's name and members; `invitations` is how many are open, which its owner alone is told. Without
    `has_password` one is signed in by the machine, as in the demo."""

    name: str
    is_yours: bool
    members: list[MemberView]
    invitations: int
    has_password: bool


class InvitationView(Schema):
    """The address to hand to one person, and until when it serves."""

    url: str
    until: datetime.datetime


@router.get("/workshop", response=WorkshopView, operation_id="workshop")
def workshop(request: HttpRequest) -> WorkshopView:
    """The workshop, its members, and which of them is its owner."""
    return _view(workshop_of(request), request)


@router.post("/workshop/invitations", response=InvitationView, operation_id="invite")
def invite(request: HttpRequest) -> InvitationView:
    """An address by which one person joins the workshop."""
    token, until = members.invite(workshop_of(request), _user(request))
    return InvitationView(url=request.build_absolute_uri(reverse("join", args=[token])), until=until)


@router.delete("/workshop/invitations", response=WorkshopView, operation_id="take_back_invitations")
def take_back(request: HttpRequest) -> WorkshopView:
    """No open invitation serves any more."""
    ours = workshop_of(request)
    if ours.owner_id != request.user.pk:
        raise Refusal(message("owner_takes_invitations_back"), "owner")
    ours.invitations.all().delete()
    return _view(ours, request)


@router.delete("/workshop/members/{member_id}", response={204: None}, operation_id="remove_member")
def remove(request: HttpRequest, member_id: int) -> Status[None]:
    """Take a member off, or leave by oneself; their jobs stay in the workshop."""
    ours = workshop_of(request)
    members.remove(ours, get_object_or_404(ours.members, pk=member_id), _user(request))
    return Status(204, None)


@router.put("/workshop/members/{member_id}/owner", response=WorkshopView, operation_id="hand_over")
def hand_over(request: HttpRequest, member_id: int) -> WorkshopView:
    """Make another member the workshop's owner."""
    ours = workshop_of(request)
    members.hand_over(ours, get_object_or_404(ours.members, pk=member_id), _user(request))
    return _view(workshop_of(request), request)


def _user(request: HttpRequest) -> Any:
    return request.user


def _view(ours: Workshop, request: HttpRequest) -> WorkshopView:
    mine = ours.owner_id == request.user.pk
    return WorkshopView(
        name=ours.name, is_yours=mine, invitations=ours.invitations.count() if mine else 0,
        has_password=_user(request).has_usable_password(),
        members=[
            MemberView(id=m.pk, name=m.get_username(), is_owner=m.pk == ours.owner_id, is_you=m.pk == request.user.pk)
            for m in ours.members.order_by("username")
        ],
    )  # fmt: skip
