"""Panels filled as pads."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Schema

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message
from ypsicline.server.api.access import job_of
from ypsicline.server.jobs import fillings, history
from ypsicline.server.views.pad import FillingView, filling_view

router = Router()
_PATH = "/jobs/{job_id}/panels/{panel_id}/pad"


@router.post(_PATH, response=FillingView, operation_id="fill_pad")
def fill(request: HttpRequest, job_id: int, panel_id: str) -> FillingView:
    """Fill a panel as a pad of two plies, in the background."""
    job = job_of(request, job_id)
    row = fillings.fill(job, panel_id)
    row.refresh_from_db()
    return filling_view(row, history.unit_of(job))


class TapersIn(Schema):
    """Tapers at the ends of these edges, straight or curved."""

    edges: list[str]
    curved: bool = False


@router.post(f"{_PATH}/tapers", response=FillingView, operation_id="propose_tapers")
def propose_tapers(request: HttpRequest, job_id: int, panel_id: str, wish: TapersIn) -> FillingView:
    """Seek the least tapers that keep a filled pad's corners in, in the background, and put them on."""
    job = job_of(request, job_id)
    row = fillings.propose_tapers(job, panel_id, wish.edges, curved=wish.curved)
    row.refresh_from_db()
    return filling_view(row, history.unit_of(job))


@router.get(_PATH, response=FillingView | None, operation_id="filled_pad")
def filled(request: HttpRequest, job_id: int, panel_id: str) -> FillingView | None:
    """The panel filled as a pad as it stands, or how far that is; nothing where it was not begun."""
    job = job_of(request, job_id)
    row = fillings.filling_of(job, panel_id)
    return None if row is None else filling_view(row, history.unit_of(job))


@router.post(f"{_PATH}/stop", response=FillingView, operation_id="stop_filling")
def stop(request: HttpRequest, job_id: int, panel_id: str) -> FillingView:
    """Stop filling a panel; how it looks so far stays."""
    job = job_of(request, job_id)
    row = fillings.filling_of(job, panel_id)
    if row is None:
        raise Refusal(message("work_is_over"), "work")
    fillings.WORK.stop(row)
    return filling_view(row, history.unit_of(job))
