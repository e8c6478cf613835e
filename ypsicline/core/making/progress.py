"""How far a job is: its stations, what each still wants, and the next step."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ypsicline.core.checks.checked import checked
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["NextStep", "Station", "StationKey", "next_step", "stations"]

StationKey = Literal["brief", "shape", "draft", "check", "make"]


@dataclass(frozen=True)
class Station:
    """A station: `share` from 0 to 1 is how far it is, `note` what the tape says of it."""

    key: StationKey
    title: Message
    share: float
    note: Message | None


@dataclass(frozen=True)
class NextStep:
    """What to do next, at which station, and whether something is wrong (`stop`), to be looked at, or fine."""

    message: Message
    station: StationKey
    severity: Literal["stop", "look", "fine"]


def stations(job: JobDocument, drafts: Sequence[DraftedPanel]) -> tuple[Station, ...]:
    """The job's stations in the order of the work."""
    brief = 1.0 if job.brief.covers else 0.3
    bare = _bare_edges(job)
    findings = [c for c in checked(job, drafts) if c.is_open]
    shape_note = None
    if job.shape:
        error = job.shape.error_mm
        shape_note = message("drawn") if error is None else message("captured_within", error_mm=error)
    draft_note = message("panels", count=len(job.panels)) if job.panels else None
    if bare:
        draft_note = message("allowances_missing", count=bare)
    is_ready = bool(job.panels) and not findings
    check_note = (
        message("to_be_settled", count=len(findings)) if findings else message("ready_to_cut") if is_ready else None
    )
    return (
        Station("brief", message("station_brief"), brief, message("done") if job.brief.covers else None),
        Station("shape", message("station_shape"), 1.0 if job.shape or job.panels else 0.0, shape_note),
        Station(
            "draft",
            message("station_draft"),
            (0.5 if bare else 1.0) if job.panels else 0.0,
            draft_note,
        ),
        Station("check", message("station_check"), (0.5 if findings else 1.0) if job.panels else 0.0, check_note),
        Station("make", message("station_make"), 0.0, message("ready_to_print") if is_ready else None),
    )


def next_step(job: JobDocument, drafts: Sequence[DraftedPanel]) -> NextStep:
    """The one thing that the job wants most."""
    if not job.brief.covers:
        return NextStep(message("next_say_what_is_covered"), "brief", "look")
    if not job.shape and not job.panels:
        return NextStep(message("next_photograph"), "shape", "look")
    if not job.panels:
        return NextStep(message("next_make_panel"), "draft", "look")
    bare = _bare_edges(job)
    if bare:
        return NextStep(message("next_allowances", count=bare), "draft", "stop")
    findings = [c.finding for c in checked(job, drafts) if c.is_open]
    stops = sum(f.severity == "stop" for f in findings)
    if stops:
        return NextStep(message("next_settle", count=stops), "check", "stop")
    if findings:
        return NextStep(message("next_look", count=len(findings)), "check", "look")
    return NextStep(message("next_print"), "make", "fine")


def _bare_edges(job: JobDocument) -> int:
    """Edges that are to be sewn or hemmed but have nothing to do it with."""
    return sum(e.is_bare for p in job.panels for ring in p.rings() for e in ring)
