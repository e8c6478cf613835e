"""Panels: made of the shape, their edges, notches and labels; copied, laid out on the table."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from django.http import HttpRequest
from ninja import Router, Schema

from ypsicline.core.drafting.draft import draft_panels
from ypsicline.core.drafting.edge_changes import (
    changed_size,
    merge_edges,
    mirrored,
    quarter_notches,
    split_panel_edge,
)
from ypsicline.core.drafting.features import Lies
from ypsicline.core.drafting.from_shape import add_notch, panel_from_shape, remove_notch, set_edges
from ypsicline.core.drafting.in_house import in_house
from ypsicline.core.drafting.panel import CornerKind, Finish, Hand, Panel
from ypsicline.core.errors import Refused
from ypsicline.core.formats.documents import MOST_PANELS
from ypsicline.core.job import JobDocument, check_text
from ypsicline.core.lengths import parse_length, show_error
from ypsicline.server.api.access import apply
from ypsicline.server.jobs.photos import doubts_of
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
    on_fold: bool = False
    grain_deg: float
    way_up: str
    mitre_limit: float = 3.0


class EdgesIn(Schema):
    """What to change on edges chosen as [panel, ring, edge], ring 0 the outline; lengths as typed. `by_rule` goes back
    to the house's allowance."""

    chosen: list[tuple[int, int, int]]
    allowance: str | None = None
    turn_under: str | None = None
    cord: str | None = None
    elastic: str | None = None
    by_rule: bool | None = None
    finish: Finish | None = None
    corner: CornerKind | None = None
    name: str | None = None


class SplitIn(Schema):
    """An edge of a ring, and where along it, as typed."""

    ring: int
    edge: int
    along: str = ""


class NotchIn(Schema):
    """A notch `along` the edge from its start, as typed; its middle where nothing is."""

    edge: int
    along: str
    double: bool = False


class NotchPartsIn(Schema):
    """Into how many parts the whole seam line is notched, from the start of which edge; 0 parts: by the rule again."""

    parts: int
    from_edge: int = 0


class CopyIn(Schema):
    """A copy, of the other hand where `mirror`, and `times` as large."""

    mirror: bool = False
    times: float = 1.0


class LiesIn(Schema):
    """Where panels lie: [panel, x, y, turned by degrees, flipped]."""

    panels: list[tuple[int, float, float, float, bool]]


@router.post("/jobs/{job_id}/panels", response=JobView, operation_id="make_panel")
def make_panel(request: HttpRequest, job_id: int, given: PanelName) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        if d.shape is None:
            raise Refused("There is no outline yet to make a panel of; send a photo or read a file at Shape.", "shape")
        check_text("panel's name", given.name, required=True)
        open_doubts = [s for s in doubts_of(d.piece) if not s["settled"]] if d.piece else []
        if open_doubts:
            raise Refused(
                f"Along {len(open_doubts)} stretch{'es' if len(open_doubts) > 1 else ''} of its edge the photo leaves the outline "
                f"in doubt by up to {show_error(max(s['off_mm'] for s in open_doubts), d.unit)}. Look along each at Shape, and say "
                "that it is right or mend it, before a panel is made of it.",
                "doubtful",
            )
        return with_panels(d, (*d.panels, panel_from_shape(d.shape, given.name.strip())))

    return apply(request, job_id, "Panel made of the outline", how)


@router.put("/jobs/{job_id}/panels/{index}", response=JobView, operation_id="set_panel")
def set_panel(request: HttpRequest, job_id: int, index: int, given: PanelIn) -> JobView:
    def how(panel: Panel) -> Panel:
        check_text("panel's name", given.name, required=True)
        if not -360 <= given.grain_deg <= 360:
            raise Refused("The grainline's angle lies between -360° and 360°.", "grain")
        return replace(panel, **{**given.dict(), "name": given.name.strip()})

    return panel_changed(request, job_id, index, "Label and grain set", how)


@router.delete("/jobs/{job_id}/panels/{index}", response=JobView, operation_id="remove_panel")
def remove_panel(request: HttpRequest, job_id: int, index: int) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        panel_of(d, index)
        return replace(d, panels=tuple(p for k, p in enumerate(d.panels) if k != index))

    return apply(request, job_id, "Panel removed", how)


@router.post("/jobs/{job_id}/panels/{index}/copy", response=JobView, operation_id="copy_panel")
def copy_panel(request: HttpRequest, job_id: int, index: int, given: CopyIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        panel = panel_of(d, index)
        made = mirrored(panel) if given.mirror else panel
        made = changed_size(made, given.times) if given.times != 1 else made
        taken = {p.name for p in d.panels}
        name = next(n for n in (f"{panel.name[:70]} {k}" for k in range(2, MOST_PANELS + 3)) if n not in taken)
        return with_panels(d, (*d.panels, replace(made, name=name, lies=None)))

    return apply(request, job_id, "Mirror image made" if given.mirror else "Panel copied", how)


@router.put("/jobs/{job_id}/lies", response=JobView, operation_id="lay_out")
def lay_out(request: HttpRequest, job_id: int, given: LiesIn) -> JobView:
    """Put panels elsewhere on the table; nothing about them changes."""

    def how(d: JobDocument) -> JobDocument:
        panels = list(d.panels)
        for index, x, y, turn, flipped in given.panels:
            panels[index] = replace(panel_of(d, index), lies=Lies((x, y), turn, flipped))
        return replace(d, panels=tuple(panels))

    return apply(request, job_id, "Panels moved on the table", how)


@router.put("/jobs/{job_id}/edges", response=JobView, operation_id="set_edges")
def change_edges(request: HttpRequest, job_id: int, given: EdgesIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        def typed(text: str | None) -> float | None:
            return None if text is None else parse_length(text, d.unit) if text.strip() else 0.0

        panels = list(d.panels)
        for index in sorted({p for p, _, _ in given.chosen}):
            panels[index] = set_edges(
                panel_of(d, index),
                [(r, k) for p, r, k in given.chosen if p == index],
                allowance_mm=None if given.allowance is None else parse_length(given.allowance, d.unit),
                turn_under_mm=typed(given.turn_under),
                cord_mm=typed(given.cord),
                elastic_mm=typed(given.elastic),
                by_rule=given.by_rule,
                finish=given.finish,
                corner=given.corner,
                name=given.name,
                house=d.house,
            )
        return with_panels(d, tuple(panels))

    words = [w.replace("_", " ") for w, v in given.dict(exclude={"chosen"}).items() if v is not None]
    return apply(request, job_id, f"Edge {', '.join(words) or 'left as it was'} set"[:100], how)


@router.post("/jobs/{job_id}/panels/{index}/split", response=JobView, operation_id="split_edge")
def split(request: HttpRequest, job_id: int, index: int, given: SplitIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        along = parse_length(given.along, d.unit)
        return with_panel(d, index, split_panel_edge(panel_of(d, index), given.ring, given.edge, along))

    return apply(request, job_id, "Edge split", how)


@router.post("/jobs/{job_id}/panels/{index}/merge", response=JobView, operation_id="merge_edges")
def merge(request: HttpRequest, job_id: int, index: int, given: SplitIn) -> JobView:
    return panel_changed(request, job_id, index, "Edges merged", lambda p: merge_edges(p, given.ring, given.edge))


@router.post("/jobs/{job_id}/panels/{index}/notches", response=JobView, operation_id="add_notch")
def new_notch(request: HttpRequest, job_id: int, index: int, given: NotchIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        along = parse_length(given.along, d.unit)
        return with_panel(d, index, add_notch(panel_of(d, index), given.edge, along, double=given.double))

    return apply(request, job_id, "Notch added", how)


@router.put("/jobs/{job_id}/panels/{index}/notches", response=JobView, operation_id="divide_by_notches")
def divide(request: HttpRequest, job_id: int, index: int, given: NotchPartsIn) -> JobView:
    def how(panel: Panel) -> Panel:
        return (
            quarter_notches(panel, given.parts, from_edge=given.from_edge)
            if given.parts
            else replace(panel, notches=None)
        )

    words = f"Notched in {given.parts} parts" if given.parts else "Notches by the rule again"
    return panel_changed(request, job_id, index, words, how)


@router.delete("/jobs/{job_id}/panels/{index}/notches/{notch}", response=JobView, operation_id="remove_notch")
def drop_notch(request: HttpRequest, job_id: int, index: int, notch: int) -> JobView:
    return panel_changed(request, job_id, index, "Notch removed", lambda p: remove_notch(p, notch))


def panel_of(d: JobDocument, index: int) -> Panel:
    if not 0 <= index < len(d.panels):
        raise Refused("There is no such panel in this job.", "panel")
    return d.panels[index]


def with_panels(d: JobDocument, panels: tuple[Panel, ...]) -> JobDocument:
    """The job with these panels by its house rules, provided that all of them can be drafted."""
    if len(panels) > MOST_PANELS:
        raise Refused(f"A job has {MOST_PANELS} panels at most.", "panel")
    housed = tuple(in_house(p, d.house) for p in panels)
    draft_panels(housed, drafted, d.house)
    return replace(d, panels=housed)


def with_panel(d: JobDocument, index: int, panel: Panel) -> JobDocument:
    return with_panels(d, tuple(panel if k == index else p for k, p in enumerate(d.panels)))


def panel_changed(request: HttpRequest, job_id: int, index: int, what: str, how: Callable[[Panel], Panel]) -> JobView:
    return apply(request, job_id, what, lambda d: with_panel(d, index, how(panel_of(d, index))))
