"""How far a job is: its stations, what each still wants, and the next step."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ypsicline.core.job import JobDocument
from ypsicline.core.lengths import show_error
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["NextStep", "Station", "StationKey", "next_step", "stations"]

StationKey = Literal["brief", "shape", "draft", "make"]


@dataclass(frozen=True)
class Station:
    """A station: `share` from 0 to 1 is how far it is, `note` what it says on the tape."""

    key: StationKey
    title: str
    share: float
    note: str


@dataclass(frozen=True)
class NextStep:
    """What to do next, at which station, and whether something is wrong (`stop`), to be looked at, or fine."""

    sentence: str
    station: StationKey
    severity: Literal["stop", "look", "fine"]


def stations(job: JobDocument, drafted: Sequence[DraftedPanel]) -> tuple[Station, ...]:
    """The job's stations in the order of the work."""
    brief = 1.0 if job.brief.covers else 0.3
    bare = _bare_edges(job)
    worst = _worst(drafted)
    shape_note = ""
    if job.shape:
        error = job.shape.error_mm
        shape_note = "drawn" if error is None else f"± {show_error(error, job.unit)}"
    draft_note = f"{bare} want allowance" if bare else _count(len(job.panels), "panel") if job.panels else ""
    return (
        Station("brief", "Brief", brief, "done" if job.brief.covers else ""),
        Station("shape", "Shape", 1.0 if job.shape or job.panels else 0.0, shape_note),
        Station("draft", "Draft", (0.5 if bare or worst == "stop" else 1.0) if job.panels else 0.0, draft_note),
        Station("make", "Make", 0.0, "ready to print" if job.panels and not bare and worst != "stop" else ""),
    )


def next_step(job: JobDocument, drafted: Sequence[DraftedPanel]) -> NextStep:
    """The one thing that the job wants most."""
    if not job.brief.covers:
        return NextStep("say what is covered", "brief", "look")
    if not job.shape and not job.panels:
        return NextStep("photograph the piece", "shape", "look")
    if not job.panels:
        return NextStep("make a panel of the outline", "draft", "look")
    bare = _bare_edges(job)
    if bare:
        return NextStep(f"{_count(bare, 'edge')} {'wants' if bare == 1 else 'want'} an allowance", "draft", "stop")
    stops = [f for p in drafted for f in p.findings if f.severity == "stop"]
    if stops:
        return NextStep(f"{_count(len(stops), 'finding')} to settle", "draft", "stop")
    looks = [f for p in drafted for f in p.findings if f.severity == "look"]
    if looks:
        return NextStep(f"{_count(len(looks), 'finding')} to look at, then print", "draft", "look")
    return NextStep("print and cut", "make", "fine")


def _bare_edges(job: JobDocument) -> int:
    """Edges that are to be sewn or hemmed but have nothing to do it with."""
    return sum(e.is_bare for p in job.panels for ring in p.rings() for e in ring)


def _worst(drafted: Sequence[DraftedPanel]) -> str:
    severities = {f.severity for p in drafted for f in p.findings}
    return "stop" if "stop" in severities else "look" if "look" in severities else "fine"


def _count(n: int, what: str) -> str:
    return f"{n} {what}{'' if n == 1 else 's'}"
