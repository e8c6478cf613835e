"""What would come of something, to be looked at: an outline at another tolerance, a distance on the table, a
finding mended, a measure that a result takes, what a change would save."""

from __future__ import annotations

import math

from django.http import HttpRequest
from ninja import Router, Schema

from ypsicline.core import steps
from ypsicline.core.changes.change import changed
from ypsicline.core.changes.pieces import piece_on_table
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.changes import read_change
from ypsicline.core.lengths import show_length
from ypsicline.core.messages import message
from ypsicline.server.api.access import job_of
from ypsicline.server.api.schema import CHANGE_BODY
from ypsicline.server.jobs import history
from ypsicline.server.views.job import RingView, shape_rings
from ypsicline.server.views.mends import MeasureView, MendView, measure_views, mend_views
from ypsicline.server.views.needs import NeedView, need_views

router = Router()


class Between(Schema):
    """How far two points of the table lie apart, and how far across and up."""

    length: str
    across: str
    up: str


@router.get("/jobs/{job_id}/shape/fit", response=list[RingView], operation_id="try_tolerance")
def try_tolerance(request: HttpRequest, job_id: int, tolerance_mm: float) -> list[RingView]:
    """What the outline would be at another tolerance, to be looked at; nothing is changed."""
    document = history.current(job_of(request, job_id))
    return shape_rings(steps.Find(tolerance_mm).on(piece_on_table(document).shape), document.unit)


@router.get("/jobs/{job_id}/between", response=Between, operation_id="between")
def between(request: HttpRequest, job_id: int, ax: float, ay: float, bx: float, by: float) -> Between:
    """How far two points of the table lie apart."""
    unit = history.current(job_of(request, job_id)).unit
    if not all(math.isfinite(v) and abs(v) < 1e6 for v in (ax, ay, bx, by)):
        raise Refusal(message("points_off_the_table"), "measure")
    return Between(
        length=show_length(math.hypot(bx - ax, by - ay), unit, with_unit=True),
        across=show_length(abs(bx - ax), unit), up=show_length(abs(by - ay), unit),
    )  # fmt: skip


@router.get("/jobs/{job_id}/mends", response=list[MendView], operation_id="mends")
def mends(request: HttpRequest, job_id: int) -> list[MendView]:
    """What would mend the findings that are open, each tried; nothing is changed."""
    return mend_views(history.current(job_of(request, job_id)))


@router.get("/jobs/{job_id}/covers/{cover_id}/measures", response=list[MeasureView], operation_id="measures_for")
def measures_for(request: HttpRequest, job_id: int, cover_id: str, result: str, length: str) -> list[MeasureView]:
    """Which measures of a cover would bring one of its results to a length; nothing is changed."""
    return measure_views(history.current(job_of(request, job_id)), cover_id, result, length)


@router.post(
    "/jobs/{job_id}/compared",
    response=list[NeedView],
    operation_id="compared",
    openapi_extra={"requestBody": CHANGE_BODY},
)
def compared(request: HttpRequest, job_id: int) -> list[NeedView]:
    """What the job takes to make now, and after a change; nothing is changed."""
    document = history.current(job_of(request, job_id))
    return need_views(document, changed(document, read_change(request.body, document.unit)))
