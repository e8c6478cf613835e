"""Panels filled as pads in the background."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from typing import Any

from django.db import transaction
from django_tasks import task
from pydantic import TypeAdapter

from ypsicline.core.changes.features import SetTapers
from ypsicline.core.changes.panels import panel_of
from ypsicline.core.drafting.pad import FilledPad, filling, least_tapers, with_tapers
from ypsicline.core.errors import Refusal
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import message
from ypsicline.core.pattern.panel import Panel
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Job, PadFilling
from ypsicline.server.work.kind import End, Tell, WorkKind

__all__ = ["WORK", "fill", "fill_pad", "filling_of", "pad_of", "propose_tapers"]

STATUS = PadFilling.Status
_GIVEN_AGAIN = (STATUS.WAITING, STATUS.WORKING, STATUS.DONE)
_LEAST_PROGRESS = 0.02
# how high it stands at each place is for the view in space
_STORED: dict[str, Any] = {"filled": {"height_at"}}
_PADS = TypeAdapter(FilledPad)


def fill(job: Job, panel_id: str) -> PadFilling:
    """Queue the filling of a panel as it stands. What is being filled, or is, is given again; of another state of the panel
    nothing more counts. Raises `Refusal` where there is no such panel."""
    row = filling_of(job, panel_id)
    if row is not None and row.status in _GIVEN_AGAIN:
        return row
    return _queued(job, panel_id)


def propose_tapers(job: Job, panel_id: str, edges: Sequence[str], *, curved: bool) -> PadFilling:
    """Queue the search for the least tapers at the ends of these edges that keep the corners in; they are put on at its end.
    Raises `Refusal` where there is no such panel, or none of these corners can be tapered."""
    with_tapers(panel_of(history.current(job), panel_id), edges, curved=curved)
    return _queued(job, panel_id, sought={"edges": list(edges), "curved": curved})


def _queued(job: Job, panel_id: str, **what: Any) -> PadFilling:
    with transaction.atomic():
        job.fillings.filter(panel=panel_id).delete()
        row = PadFilling.objects.create(job=job, panel=panel_id, revision=job.position, **what)
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
    stage, share_so_far = message("stage_filling"), 0.0

    def progress(share: float) -> None:
        nonlocal share_so_far
        if share >= share_so_far + _LEAST_PROGRESS:
            share_so_far = share
            tell(stage, share)

    if row.sought is None:
        for pad in filling(panel, progress):
            row.pad = _PADS.dump_python(pad, mode="json", exclude=_STORED)
            tell(stage, share_so_far, pad=row.pad)
        return End(STATUS.DONE)
    for trial in least_tapers(panel, **row.sought, progress=progress):
        stage = message("stage_trying_tapers", percent=100 * trial.reach_share)
        tell(stage, share_so_far, pad=_PADS.dump_python(trial.pad, mode="json", exclude=_STORED))
    change = SetTapers(row.panel, tuple(row.sought["edges"]), curved=row.sought["curved"], depth=trial.depth)
    return End(STATUS.DONE, store=partial(_put_on, row, panel, change))


def _put_on(row: PadFilling, panel: Panel, tapers: SetTapers) -> None:
    """Put tapers on a panel that is still as it was filled. Raises `Refusal` where it isn't."""

    def unless_changed(document: JobDocument) -> SetTapers:
        if panel_of(document, row.panel) != panel:
            raise Refusal(message("panel_changed_meanwhile"), "panel")
        return tapers

    job = history.change(row.job_id, unless_changed, None)
    PadFilling.objects.filter(pk=row.pk).update(revision=job.position)


def pad_of(row: PadFilling) -> FilledPad | None:
    """The pad as far as it is filled."""
    return None if row.pad is None else _PADS.validate_python(row.pad)
