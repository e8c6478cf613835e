"""What would come of something, to be looked at: an outline at another tolerance, a pad filled, a distance on the table, a
finding mended, a measure that a result takes, what a change would save."""

from __future__ import annotations

import math
from collections.abc import Callable

from django.http import HttpRequest, StreamingHttpResponse
from ninja import Router, Schema

from ypsicline.core import steps
from ypsicline.core.changes.change import changed
from ypsicline.core.changes.panels import panel_of
from ypsicline.core.changes.pieces import piece_on_table
from ypsicline.core.drafting.inflated import bag_volume
from ypsicline.core.drafting.pad import FilledPad, deeper, filling
from ypsicline.core.errors import Refused
from ypsicline.core.formats.changes import read_change
from ypsicline.core.lengths import Unit, show_length
from ypsicline.core.messages import message
from ypsicline.core.pattern.panel import Panel
from ypsicline.server.api.access import job_of
from ypsicline.server.api.schema import CHANGE_BODY
from ypsicline.server.api.streamed import LINES, in_lines
from ypsicline.server.jobs import history
from ypsicline.server.views.drawn import box_of, polyline
from ypsicline.server.views.job import RingView, shape_rings
from ypsicline.server.views.mends import MeasureView, MendView, measure_views, mend_views
from ypsicline.server.views.needs import NeedView, need_views

router = Router()
_LEAST_PROGRESS = 0.02


class PadCorner(Schema):
    at: tuple[float, float]
    stands_out: str
    percent: float


class PadView(Schema):
    """A pad filled: its plan, where its seam lay flat, both as paths; how far it draws in and its corners stand out."""

    plan: str
    flat: str
    box: tuple[float, float, float, float]
    corners: list[PadCorner]
    worst_percent: float
    enough: bool
    can_go_deeper: bool
    thickness: str
    litres: float
    formula_litres: float
    drawn_in: str


class PadStep(Schema):
    """How much of the filling is done, 0 to 1; and the pad, once as it looks roughly and at the end."""

    share: float
    pad: PadView | None = None


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


@router.get(
    "/jobs/{job_id}/panels/{panel_id}/pad",
    response=PadStep,
    operation_id="filled_pad",
    openapi_extra={"responses": {200: {"content": {LINES: {"schema": {"$ref": "#/components/schemas/PadStep"}}}}}},
)
def filled_pad(request: HttpRequest, job_id: int, panel_id: str) -> StreamingHttpResponse:
    """The panel filled as a pad of two plies: a `PadStep` a line, twice with the pad, first roughly and then finely."""
    d = history.current(job_of(request, job_id))
    panel = panel_of(d, panel_id)

    def work(hand_out: Callable[[Schema], None]) -> None:
        told = 0.0

        def progress(share: float) -> None:
            nonlocal told
            if share >= told + _LEAST_PROGRESS:
                told = share
                hand_out(PadStep(share=round(share, 3)))

        for pad in filling(panel, progress):
            hand_out(PadStep(share=round(told, 3), pad=_pad_view(pad, panel, d.unit)))

    return in_lines(work)


def _pad_view(pad: FilledPad, panel: Panel, unit: Unit) -> PadView:
    flat, plan = box_of(pad.filled.flat), box_of(pad.filled.plan)
    return PadView(
        plan=polyline(pad.filled.plan), flat=polyline(pad.filled.flat), box=flat,
        corners=[
            PadCorner(at=c.at, stands_out=show_length(c.stands_out_mm, unit, with_unit=True), percent=round(100 * c.share, 1))
            for c in pad.corners
        ],
        worst_percent=round(100 * pad.worst, 1), enough=pad.is_enough, can_go_deeper=deeper(panel) is not None,
        thickness=show_length(pad.filled.thickness_mm, unit, with_unit=True), litres=round(pad.filled.volume_mm3 / 1e6, 2),
        formula_litres=round(bag_volume(flat[2], flat[3]) / 1e6, 2),
        drawn_in=f"{show_length(flat[2] - plan[2], unit)} × {show_length(flat[3] - plan[3], unit, with_unit=True)}",
    )  # fmt: skip


@router.get("/jobs/{job_id}/between", response=Between, operation_id="between")
def between(request: HttpRequest, job_id: int, ax: float, ay: float, bx: float, by: float) -> Between:
    """How far two points of the table lie apart."""
    unit = history.current(job_of(request, job_id)).unit
    if not all(math.isfinite(v) and abs(v) < 1e6 for v in (ax, ay, bx, by)):
        raise Refused(message("points_off_the_table"), "measure")
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
