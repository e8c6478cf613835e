"""Tickets on the wall, a job and its brief, undo and redo."""

from __future__ import annotations

import datetime
from dataclasses import replace

from django.conf import settings
from django.http import HttpRequest
from ninja import Router, Schema

from ypsicline.core.job import Brief, JobDocument
from ypsicline.core.lengths import Unit
from ypsicline.core.making.cautions import CAUTIONS
from ypsicline.server.api.access import apply, job_of, shown_revision, workshop_of
from ypsicline.server.jobs import history
from ypsicline.server.jobs.house import house_of
from ypsicline.server.jobs.models import Job
from ypsicline.server.jobs.view import JobView, TicketView, job_view, ticket_view

router = Router()


class Wall(Schema):
    workshop: str
    user: str
    demo: bool
    tickets: list[TicketView]
    cautions: dict[str, str]


class NewJob(Schema):
    name: str
    unit: Unit = "mm"


class BriefIn(Schema):
    name: str
    for_whom: str = ""
    due: datetime.date | None = None
    brief: Brief


class UnitIn(Schema):
    unit: Unit


@router.get("/wall", response=Wall, operation_id="wall")
def wall(request: HttpRequest) -> Wall:
    workshop = workshop_of(request)
    tickets = [ticket_view(j) for j in Job.objects.filter(workshop=workshop).order_by("ticket")]
    tickets.sort(key=lambda t: (t.due is None, t.due or datetime.date.max, t.ticket))
    return Wall(
        workshop=workshop.name,
        user=request.user.get_username(),
        demo=settings.DEMO,
        tickets=tickets,
        cautions=CAUTIONS,
    )


@router.post("/jobs", response=JobView, operation_id="take_in_job")
def take_in_job(request: HttpRequest, new: NewJob) -> JobView:
    workshop = workshop_of(request)
    document = JobDocument(name=new.name, unit=new.unit, house=house_of(workshop))
    return job_view(history.take_in(workshop, document, request.user))


@router.get("/jobs/{job_id}", response=JobView, operation_id="job")
def job(request: HttpRequest, job_id: int) -> JobView:
    return job_view(job_of(request, job_id))


@router.put("/jobs/{job_id}/brief", response=JobView, operation_id="set_brief")
def set_brief(request: HttpRequest, job_id: int, given: BriefIn) -> JobView:
    return apply(
        request, job_id, "Brief changed",
        lambda d: replace(d, name=given.name, for_whom=given.for_whom, due=given.due, brief=given.brief),
    )  # fmt: skip


@router.put("/jobs/{job_id}/unit", response=JobView, operation_id="set_unit")
def set_unit(request: HttpRequest, job_id: int, given: UnitIn) -> JobView:
    return apply(request, job_id, f"Shown in {given.unit}", lambda d: replace(d, unit=given.unit))


@router.post("/jobs/{job_id}/undo", response=JobView, operation_id="undo")
def undo(request: HttpRequest, job_id: int) -> JobView:
    return job_view(history.undo(job_of(request, job_id).pk, shown_revision(request)))


@router.post("/jobs/{job_id}/redo", response=JobView, operation_id="redo")
def redo(request: HttpRequest, job_id: int) -> JobView:
    return job_view(history.redo(job_of(request, job_id).pk, shown_revision(request)))
