"""The workshop's house rules and cloths, which new jobs start with."""

from __future__ import annotations

from django.db import transaction
from django.http import HttpRequest
from ninja import Router

from ypsicline.core.changes.change import changed
from ypsicline.core.changes.house import SetCloth, SetHouseRule
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.changes import read_change
from ypsicline.core.job import JobDocument
from ypsicline.core.lengths import Unit
from ypsicline.core.messages import message
from ypsicline.server.api.access import job_of, workshop_of
from ypsicline.server.api.schema import CHANGE_BODY
from ypsicline.server.jobs import history
from ypsicline.server.jobs.house import house_of, keep_house
from ypsicline.server.jobs.models import Workshop
from ypsicline.server.views.house import HouseView, house_view
from ypsicline.server.views.job import JobView, job_view

router = Router()


@router.get("/workshop/house", response=HouseView, operation_id="house")
def house(request: HttpRequest, unit: Unit = "mm") -> HouseView:
    """The rules and cloths that new jobs start with, lengths in a unit."""
    return house_view(house_of(workshop_of(request)), unit)


@router.post(
    "/workshop/house", response=HouseView, operation_id="change_house", openapi_extra={"requestBody": CHANGE_BODY}
)
def change_house(request: HttpRequest, unit: Unit = "mm") -> HouseView:
    """Set a rule or a cloth of the workshop; jobs that are there keep theirs."""
    change = read_change(request.body, unit)
    if not isinstance(change, SetHouseRule | SetCloth):
        raise Refusal(message("not_a_house_rule"), "rule")
    with transaction.atomic():
        workshop = Workshop.objects.select_for_update().get(pk=workshop_of(request).pk)
        after = changed(JobDocument("house", house=house_of(workshop)), change).house
        keep_house(workshop, after)
    return house_view(after, unit)


@router.post("/jobs/{job_id}/house/keep", response=JobView, operation_id="keep_house")
def keep(request: HttpRequest, job_id: int) -> JobView:
    """Let new jobs of the workshop start with this job's rules and cloths."""
    job = job_of(request, job_id)
    keep_house(job.workshop, history.current(job).house)
    return job_view(job)
