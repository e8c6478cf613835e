"""Panels: made of the shape, their edges, notches and labels."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from django.http import HttpRequest
from ninja import Router, Schema

from ypsicline.core.drafting.draft import draft_panels
from ypsicline.core.drafting.from_shape import add_notch, panel_from_shape, remove_notch, set_edges
from ypsicline.core.drafting.panel import CornerKind, Finish, Hand, Panel
from ypsicline.core.errors import Refused
from ypsicline.core.formats.documents import MOST_PANELS
from ypsicline.core.job import JobDocument, check_text
from ypsicline.core.lengths import parse_length
from ypsicline.server.api.access import apply
from ypsicline.server.jobs.view import JobView
from ypsicline.server.jobs.worked_out import drafted

router = Router()


class PanelName(Schema):
    name: str


class PanelIn(Schema):
    name: str
    cloth: str
    count: int
    hand: Hand
    grain_deg: float
    way_up: str


class EdgesIn(Schema):
    """What to change on edges chosen as [ring, edge], ring 0 the outline; `allowance` as typed."""

    chosen: list[tuple[int, int]]
    allowance: str | None = None
    finish: Finish | None = None
    corner: CornerKind | None = None
    name: str | None = None


class NotchIn(Schema):
    """A notch `along` the edge from its start, as typed; its middle where nothing is."""

    edge: int
    along: str
    double: bool = False


@router.post("/jobs/{job_id}/panels", response=JobView, operation_id="make_panel")
def make_panel(request: HttpRequest, job_id: int, given: PanelName) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        if d.shape is None:
            raise Refused("There is no outline yet to make a panel of; send a photo or read a file at Shape.", "shape")
        if len(d.panels) >= MOST_PANELS:
            raise Refused(f"A job has {MOST_PANELS} panels at most.", "panel")
        check_text("panel's name", given.name, required=True)
        panels = (*d.panels, panel_from_shape(d.shape, given.name.strip()))
        draft_panels(panels, drafted)
        return replace(d, panels=panels)

    return apply(request, job_id, "Panel made of the outline", how)


@router.put("/jobs/{job_id}/panels/{index}", response=JobView, operation_id="set_panel")
def set_panel(request: HttpRequest, job_id: int, index: int, given: PanelIn) -> JobView:
    def how(panel: Panel) -> Panel:
        check_text("panel's name", given.name, required=True)
        if not -360 <= given.grain_deg <= 360:
            raise Refused("The grainline's angle lies between -360° and 360°.", "grain")
        return replace(panel, **{**given.dict(), "name": given.name.strip()})

    return _panel_changed(request, job_id, index, "Label and grain set", how)


@router.delete("/jobs/{job_id}/panels/{index}", response=JobView, operation_id="remove_panel")
def remove_panel(request: HttpRequest, job_id: int, index: int) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        _panel(d, index)
        return replace(d, panels=tuple(p for k, p in enumerate(d.panels) if k != index))

    return apply(request, job_id, "Panel removed", how)


@router.put("/jobs/{job_id}/panels/{index}/edges", response=JobView, operation_id="set_edges")
def change_edges(request: HttpRequest, job_id: int, index: int, given: EdgesIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        typed = None if given.allowance is None else parse_length(given.allowance, d.unit)
        panel = set_edges(
            _panel(d, index),
            given.chosen,
            allowance_mm=typed,
            finish=given.finish,
            corner=given.corner,
            name=given.name,
        )
        return _with_panel(d, index, panel)

    words = [
        w
        for w, v in (
            ("allowance", given.allowance),
            ("finish", given.finish),
            ("corner", given.corner),
            ("name", given.name),
        )
        if v is not None
    ]
    return apply(request, job_id, f"Edge {', '.join(words) or 'left as it was'} set", how)


@router.post("/jobs/{job_id}/panels/{index}/notches", response=JobView, operation_id="add_notch")
def new_notch(request: HttpRequest, job_id: int, index: int, given: NotchIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        along = parse_length(given.along, d.unit)
        return _with_panel(d, index, add_notch(_panel(d, index), given.edge, along, double=given.double))

    return apply(request, job_id, "Notch added", how)


@router.delete("/jobs/{job_id}/panels/{index}/notches/{notch}", response=JobView, operation_id="remove_notch")
def drop_notch(request: HttpRequest, job_id: int, index: int, notch: int) -> JobView:
    return _panel_changed(request, job_id, index, "Notch removed", lambda p: remove_notch(p, notch))


def _panel(d: JobDocument, index: int) -> Panel:
    if not 0 <= index < len(d.panels):
        raise Refused("There is no such panel in this job.", "panel")
    return d.panels[index]


def _with_panel(d: JobDocument, index: int, panel: Panel) -> JobDocument:
    """The job with a panel replaced, provided that all of them can be drafted."""
    panels = tuple(panel if k == index else p for k, p in enumerate(d.panels))
    draft_panels(panels, drafted)
    return replace(d, panels=panels)


def _panel_changed(request: HttpRequest, job_id: int, index: int, what: str, how: Callable[[Panel], Panel]) -> JobView:
    return apply(request, job_id, what, lambda d: _with_panel(d, index, how(_panel(d, index))))
