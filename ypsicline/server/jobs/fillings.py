"""Panels filled as pads in the background."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django_tasks import task
from pydantic import TypeAdapter

from ypsicline.core.changes.panels import panel_of
from ypsicline.core.drafting.pad import FilledPad, deeper, filling
from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Job, PadFilling
from ypsicline.server.work.kind import End, Tell, WorkKind

__all__ = ["WORK", "fill", "fill_pad", "filling_of", "pad_of"]

STATUS = PadFilling.Status
_GIVEN_AGAIN = (STATUS.WAITING, STATUS.WORKING, STATUS.DONE)
_LEAST_PROGRESS = 0.02
# how high it stands at each place is for the view in space
_STORED: dict[str, Any] = {"filled": {"height_at"}}
_PADS = TypeAdapter(FilledPad)


def fill(job: Job, panel_id: str) -> PadFilling:
    """Queue the filling of a panel as it stands. What is being filled, or is, is given again; of another state of the panel
    nothing more counts. Raises `Refusal` where there is no such panel."""
    panel = panel_of(history.current(job), panel_id)
    row = filling_of(job, panel_id)
    if row is not None and row.status in _GIVEN_AGAIN:
        return row
    with transaction.atomic():
        job.fillings.filter(panel=panel_id).delete()
        row = PadFilling.objects.create(
            job=job, panel=panel_id, revision=job.position, can_go_deeper=deeper(panel) is not None
        )
        WORK.queue(row)
    return row


def filling_of(job: Job, panel_id: str) -> PadFilling | None:
    """The filling of a panel as it stands, None where that was not begun. Raises `Refusal` where there is no such panel."""
    panel = panel_of(history.current(job), panel_id)
    row = job.fillings.filter(panel=panel_id).order_by("-pk").first()
    if row is None or row.revision == job.position:
        return row
    try:
        before = panel_of(history.at(job, row.revision), panel_id)
    except Refusal:
        return None
    return row if before == panel else None


@task()
def fill_pad(filling_id: int) -> None:
    """Fill a pad, and show it as soon as it can be seen roughly."""
    WORK.carry_out(filling_id, _fill)


WORK = WorkKind(PadFilling, fill_pad, failure=message("filling_failed"), broken_off=message("filling_broken_off"))


def _fill(row: PadFilling, tell: Tell) -> End:
    panel = panel_of(history.at(row.job, row.revision), row.panel)
    share_so_far = 0.0

    def progress(share: float) -> None:
        nonlocal share_so_far
        if share >= share_so_far + _LEAST_PROGRESS:
            share_so_far = share
            tell(message("stage_filling"), share)

    for pad in filling(panel, progress):
        row.pad = _PADS.dump_python(pad, mode="json", exclude=_STORED)
        tell(message("stage_filling"), share_so_far, pad=row.pad)
    return End(STATUS.DONE)


def pad_of(row: PadFilling) -> FilledPad | None:
    """The pad as far as it is filled."""
    return None if row.pad is None else _PADS.validate_python(row.pad)
