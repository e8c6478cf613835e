"""The ticket of a job: written with every change, so that a wall of thousands is read without opening a single job."""

from __future__ import annotations

import datetime
import logging
from dataclasses import asdict, dataclass
from typing import Any, Literal, cast

import numpy as np
import shapely

from ypsicline.core.formats.message_json import as_json, from_json
from ypsicline.core.geometry.edges import Point
from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.job import JobDocument
from ypsicline.core.lengths import Unit
from ypsicline.core.making.progress import NextStep, Station, StationKey, next_step, stations
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.panel import DraftedPanel
from ypsicline.core.wording import render
from ypsicline.server.jobs.models import Job, Photo
from ypsicline.server.jobs.worked_out import drafts_of

__all__ = ["TicketView", "asked_by", "is_written", "station_view", "step_view", "ticket_view", "write_ticket"]

log = logging.getLogger("ypsicline.jobs")
# tickets written by another version of this module are written anew by an upgrade
_VERSION = 2
_LONGEST_COVERS = 200
_FLAT_MM = 0.5
_FINE_SHARE = 1 / 400
_BARE_BOX = (0.0, 0.0, 100.0, 80.0)


@dataclass(frozen=True)
class NextStepView:
    """What to do next, in words; see `NextStep`."""

    sentence: str
    station: StationKey
    severity: Literal["stop", "look", "fine"]


@dataclass(frozen=True)
class StationView:
    """A station of a job in words, see `Station`."""

    key: StationKey
    title: str
    share: float
    note: str


def step_view(step: NextStep, unit: Unit = "mm") -> NextStepView:
    return NextStepView(render(step.message, unit), step.station, step.severity)


def station_view(station: Station, unit: Unit) -> StationView:
    note = render(station.note, unit) if station.note else ""
    return StationView(station.key, render(station.title), station.share, note)


@dataclass(frozen=True)
class TicketView:
    """A ticket on the wall; one whose state can't be read says at which revision, and what it would go back to."""

    id: int
    ticket: int
    name: str
    covers: str
    due: datetime.date | None
    silhouette: str
    box: tuple[float, float, float, float]
    share: float
    station: str
    next_step: NextStepView
    unreadable_at: int | None = None
    back_to: str | None = None


@dataclass(frozen=True)
class _Front:
    """What a ticket shows beside its words; `is_bare` while nothing is captured or drafted."""

    version: int
    silhouette: str
    box: tuple[float, float, float, float]
    share: float
    station: str
    next_step: dict[str, Any]
    is_bare: bool


def write_ticket(job: Job, document: JobDocument) -> None:
    """Put on the job's row, without saving it, what its ticket shows of `document`."""
    drafts = drafts_of(document)
    silhouette, box = _silhouette(document, drafts)
    step, ways = next_step(document, drafts), stations(document, drafts)
    reached = next((k for k, s in enumerate(ways) if s.key == step.station), 0)
    share = (reached + ways[reached].share * 0.9) / len(ways)
    is_bare = document.shape is None and not document.panels
    front = _Front(_VERSION, silhouette, box, round(share, 3), render(ways[reached].title), _step_json(step), is_bare)
    job.name, job.for_whom, job.due = document.name, document.for_whom, document.due
    job.covers = document.brief.covers[:_LONGEST_COVERS]
    job.ticket_front, job.unreadable_at = asdict(front), None


def is_written(job: Job) -> bool:
    """Whether the job's ticket was written by this version."""
    return bool(job.ticket_front.get("version") == _VERSION)


def ticket_view(job: Job, photo_status: str | None, back_to: Any) -> TicketView:
    """The ticket as it hangs, `back_to` the words, as stored, of the state that can be read; a photo that asks for
    something comes first while there is no outline."""
    if job.unreadable_at == job.position:
        step = step_view(NextStep(message("state_cant_be_read"), "brief", "stop"))
        return TicketView(
            job.pk, job.ticket, job.name or render(message("job_by_ticket", ticket=job.ticket)), "", job.due, "", _BARE_BOX, 0.0, "", step,
            unreadable_at=job.position, back_to=render(from_json(back_to)) if back_to else None,
        )  # fmt: skip
    if not is_written(job):
        step = step_view(NextStep(message("next_open"), "brief", "look"))
        return TicketView(
            job.pk,
            job.ticket,
            job.name or render(message("job_by_ticket", ticket=job.ticket)),
            "",
            None,
            "",
            _BARE_BOX,
            0.0,
            "Brief",
            step,
        )
    front = job.ticket_front
    step_of_photo = asked_by(photo_status) if front["is_bare"] else None
    return TicketView(
        job.pk, job.ticket, job.name, job.covers, job.due, front["silhouette"], tuple(front["box"]), front["share"],
        front["station"], step_view(step_of_photo or _step_of(front["next_step"])),
    )  # fmt: skip


def asked_by(photo_status: str | None) -> NextStep | None:
    """What the latest photo of a job without outline asks for, if anything."""
    if photo_status == Photo.Status.CHOOSE:
        return NextStep(message("next_choose_piece"), "shape", "look")
    if photo_status == Photo.Status.STOPPED:
        return NextStep(message("next_measure_again"), "shape", "look")
    if photo_status in (Photo.Status.REFUSED, Photo.Status.FAILED):
        return NextStep(message("next_photo_again"), "shape", "stop")
    return None


def _step_json(step: NextStep) -> dict[str, Any]:
    return {"message": as_json(step.message), "station": step.station, "severity": step.severity}


def _step_of(record: dict[str, Any]) -> NextStep:
    return NextStep(cast(Message, from_json(record["message"])), record["station"], record["severity"])


def _silhouette(document: JobDocument, drafts: list[DraftedPanel]) -> tuple[str, tuple[float, float, float, float]]:
    """The first panel's seam lines, or else the outline on the table, as fine as a ticket shows it."""
    rings: list[list[Point]] = []
    if drafts:
        rings = [list(map(tuple, flatten_ring(r, _FLAT_MM))) for r in drafts[0].rings()]
    elif document.shape:
        rings = [list(r.points) for r in (document.shape.outline, *document.shape.holes)]
    if not rings:
        return "", _BARE_BOX
    corners = np.asarray(rings[0])
    left, low, wide, high = np.round([*corners.min(axis=0), *np.ptp(corners, axis=0)], 1).tolist()
    fine = max(wide, high) * _FINE_SHARE
    outlines = [shapely.get_coordinates(shapely.LinearRing(r).simplify(fine))[:-1] for r in rings if len(r) > 2]
    return " ".join(_path(r) for r in outlines), (left, low, wide, high)


def _path(ring: np.ndarray) -> str:
    return "M" + " ".join(f"{x:.1f} {-y:.1f}" for x, y in ring) + " Z"
