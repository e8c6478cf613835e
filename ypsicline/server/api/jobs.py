"""Tickets on the wall, and jobs: taken in, looked at, put away, deleted."""

from __future__ import annotations

import math
from typing import Annotated

from django.conf import settings
from django.http import HttpRequest
from ninja import Field, Router, Schema, Status

from ypsicline.core.job import JobDocument
from ypsicline.core.lengths import Unit
from ypsicline.core.making.cautions import CAUTIONS
from ypsicline.core.wording import render
from ypsicline.server.api.access import job_of, user_of, workshop_of
from ypsicline.server.jobs import history
from ypsicline.server.jobs import wall as wall_of_jobs
from ypsicline.server.jobs.house import house_of
from ypsicline.server.jobs.ticket import TicketView
from ypsicline.server.jobs.wall import PAGE, page_of
from ypsicline.server.views.assembled import AssembledView, assembled_view
from ypsicline.server.views.cover import FamilyView, family_views
from ypsicline.server.views.job import JobView, job_view

router = Router()
PageNumber = Annotated[int, Field(ge=1, le=1_000_000)]


class Wall(Schema):
    """A page of tickets, and how many there are on all pages."""

    workshop: str
    user: str
    demo: bool
    tickets: list[TicketView]
    count: int
    pages: int


class NewJob(Schema):
    name: str
    unit: Unit = "mm"


@router.get("/wall", response=Wall, operation_id="wall")
def wall(request: HttpRequest, search: str = "", page: PageNumber = 1, put_away: bool = False) -> Wall:
    """Tickets by what is due first; `search` finds words in what stands on them, or a ticket's number."""
    workshop = workshop_of(request)
    page_of_jobs = page_of(workshop, search, page, is_put_away=put_away)
    return Wall(
        workshop=workshop.name, user=request.user.get_username(), demo=settings.DEMO, tickets=page_of_jobs.tickets,
        count=page_of_jobs.count, pages=max(1, math.ceil(page_of_jobs.count / PAGE)),
    )  # fmt: skip


@router.get("/jobs/{job_id}/families", response=list[FamilyView], operation_id="families")
def families(request: HttpRequest, job_id: int) -> list[FamilyView]:
    """The families of covers, what each asks, and what the job's brief suggests; lengths in the job's unit."""
    return family_views(history.current(job_of(request, job_id)))


@router.get("/jobs/{job_id}/assembled", response=AssembledView, operation_id="assembled")
def assembled(request: HttpRequest, job_id: int) -> AssembledView:
    """The covers of a job put together in space, as far as they can be."""
    return assembled_view(history.current(job_of(request, job_id)))


@router.get("/cautions", response=dict[str, str], operation_id="cautions")
def cautions(request: HttpRequest) -> dict[str, str]:
    """What to mind with each of the things that a brief may name."""
    return {key: render(text) for key, text in CAUTIONS.items()}


@router.post("/jobs/{job_id}/copy", response=JobView, operation_id="copy_job")
def copy_job(request: HttpRequest, job_id: int) -> JobView:
    """A new job like this one, with a ticket of its own."""
    return job_view(wall_of_jobs.copy(job_of(request, job_id), user_of(request)))


@router.post("/jobs/{job_id}/put-away", response={204: None}, operation_id="put_away")
def put_away(request: HttpRequest, job_id: int) -> Status[None]:
    """Take a job's ticket off the wall; everything of it stays."""
    wall_of_jobs.put_away(job_of(request, job_id))
    return Status(204, None)


@router.delete("/jobs/{job_id}/put-away", response={204: None}, operation_id="put_back")
def put_back(request: HttpRequest, job_id: int) -> Status[None]:
    """Hang a job's ticket on the wall again."""
    wall_of_jobs.put_back(job_of(request, job_id))
    return Status(204, None)


@router.delete("/jobs/{job_id}", response={204: None}, operation_id="delete_job")
def delete_job(request: HttpRequest, job_id: int) -> Status[None]:
    """Delete a job that is put away, with its history and photos, for good."""
    wall_of_jobs.delete(job_of(request, job_id))
    return Status(204, None)


@router.post("/jobs", response=JobView, operation_id="take_in_job")
def take_in_job(request: HttpRequest, new: NewJob) -> JobView:
    """Hang a new job on the wall, by its name."""
    workshop = workshop_of(request)
    document = JobDocument(name=new.name, unit=new.unit, house=house_of(workshop))
    return job_view(history.take_in(workshop, document, user_of(request)))


@router.get("/jobs/{job_id}", response=JobView, operation_id="job")
def job(request: HttpRequest, job_id: int) -> JobView:
    """A job as it stands, with everything that follows from it."""
    return job_view(job_of(request, job_id))
