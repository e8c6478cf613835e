"""Prints and exchange: sheets, PDF, SVG, DXF, panels files, job bundles; and reading outlines and bundles in."""

from __future__ import annotations

import re
from typing import Literal, cast

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router
from ninja.files import UploadedFile

from ypsicline.core.capture.sheets import PaperName, make_sheets
from ypsicline.core.changes.panels import AddPanels, panel_with
from ypsicline.core.drafting.draft import draft_panel, draft_panels, without_companions
from ypsicline.core.drafting.from_shape import panel_from_rings
from ypsicline.core.drafting.pad import corner_template
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.card_pdf import MODELS, card_pdf
from ypsicline.core.formats.documents import (
    MAX_DOCUMENT_BYTES,
    PanelsFile,
    drafted_file,
    dump,
    dump_bundle,
    load_bundle,
    load_panels,
)
from ypsicline.core.formats.dxf import panels_dxf
from ypsicline.core.formats.marking_pdf import marking_pdf
from ypsicline.core.formats.pdf import panels_pdf
from ypsicline.core.formats.read_outlines import HiddenLayers
from ypsicline.core.formats.sheets_pdf import sheets_pdf
from ypsicline.core.formats.svg import panels_svg
from ypsicline.core.job import MOST_PANELS, JobDocument
from ypsicline.core.joins.corners import draft_joined
from ypsicline.core.messages import message
from ypsicline.core.pattern.features.taper import Taper
from ypsicline.core.pattern.join import Join
from ypsicline.core.pattern.panel import DraftedPanel, Panel
from ypsicline.core.typed_lengths import parse_length
from ypsicline.server.api.access import apply, job_of, user_of, workshop_of
from ypsicline.server.jobs import history
from ypsicline.server.jobs.reading import read_drawing
from ypsicline.server.views.job import JobView, job_view

router = Router()
Format = Literal["pdf", "model.pdf", "svg", "picture.svg", "dxf", "marking.pdf", "panels.json", "job.json"]
_TYPES = {
    "pdf": "application/pdf",
    "model.pdf": "application/pdf",
    "marking.pdf": "application/pdf",
    "svg": "image/svg+xml",
    "picture.svg": "image/svg+xml",
    "dxf": "image/vnd.dxf",
}


@router.get("/sheets.pdf", operation_id="sheets", include_in_schema=False)
def sheets(request: HttpRequest, paper: PaperName = "a4", count: int = 4) -> HttpResponse:
    return _file(sheets_pdf(make_sheets(paper, count)), "application/pdf", f"reference-sheets-{paper}.pdf")


@router.get("/jobs/{job_id}/export/{kind}", operation_id="export", include_in_schema=False)
def export(request: HttpRequest, job_id: int, kind: Format, paper: PaperName = "a4", model: int = 10) -> HttpResponse:
    document = history.current(job_of(request, job_id))
    stem = re.sub(r"[^A-Za-z0-9]+", "-", document.name).strip("-").lower() or "pattern"
    if kind == "job.json":
        return _file(dump_bundle(document), "application/json", f"{stem}.job.json")
    data = _export(document, kind, paper, model)
    return _file(data, _TYPES.get(kind, "application/json"), f"{stem}.{kind}")


def _export(document: JobDocument, kind: Format, paper: PaperName, model: int) -> bytes:
    panels = _drafts(document)
    title, unit, print_scale = document.name, document.unit, document.print_scale
    if kind == "pdf":
        return panels_pdf(panels, paper=paper, print_scale=print_scale, title=title, unit=unit)
    if kind == "model.pdf":
        if model not in MODELS:
            raise Refusal(message("models_to_choose", models=", 1:".join(map(str, MODELS))), "scale")
        # the model shows what is outside
        outside, joins = without_companions(panels, document.panels), document.joins
        return card_pdf(outside, joins, model=model, paper=paper, print_scale=print_scale, title=title, unit=unit)
    if kind == "marking.pdf":
        return marking_pdf(panels, document.unit, paper=paper, title=f"{document.name}: marking out")
    if kind in ("svg", "picture.svg"):
        return panels_svg(panels, unit=document.unit, on_screen=kind == "picture.svg")
    if kind == "dxf":
        return panels_dxf(panels)
    return dump(drafted_file(PanelsFile(document.panels, joins=document.joins, house=document.house)))


def _drafts(document: JobDocument) -> tuple[DraftedPanel, ...]:
    if not document.panels:
        raise Refusal(message("no_panel_to_print"), "panel")
    return draft_joined(document.panels, document.joins, document.house)


@router.get("/jobs/{job_id}/tapers/{taper_id}/corner.pdf", operation_id="corner_template", include_in_schema=False)
def corner_card(request: HttpRequest, job_id: int, taper_id: str) -> HttpResponse:
    d = history.current(job_of(request, job_id))
    panel = panel_with(d, taper_id)
    taper = next((t for t in panel.of(Taper) if t.id == taper_id), None)
    if taper is None:
        raise Refusal(message("corner_without_taper"), "taper")
    draft = draft_panel(panel)
    sides = [k for k, source in enumerate(draft.seam_of) if source == taper.edge]
    at = draft.seam_line[sides[-1]].end
    card = draft_panel(corner_template(draft, at, max(taper.reach, taper.reach_after)))
    data = panels_pdf([card], print_scale=d.print_scale, title=f"{d.name}: corner template", unit=d.unit)
    headers = {"Content-Disposition": 'attachment; filename="corner-template.pdf"'}
    return HttpResponse(data, content_type="application/pdf", headers=headers)


@router.post("/jobs/{job_id}/read", response=JobView, operation_id="read_file")
def read_file(
    request: HttpRequest,
    job_id: int,
    file: File[UploadedFile],
    width: Form[str] = "",
    hidden: Form[HiddenLayers] = "ask",
) -> JobView:
    """Add the panels of an SVG, DXF or panels file to the job.

    `width` is how wide all that is drawn is together, for an SVG that doesn't say its size (refused with
    reason `unknown_size`); `hidden` says what of a DXF's layers that are off (`hidden_layers`).
    """
    data, name = _read_upload(file)
    stem = re.sub(r"\.[^.]*$", "", name)[:60] or "panel"
    width_mm = parse_length(width, history.current(job_of(request, job_id)).unit) if width.strip() else None
    panels, joins = _panels_in(data, name, stem, width_mm, hidden)
    return apply(request, job_id, AddPanels(panels, name, joins))


@router.post("/job-files", response=JobView, operation_id="read_job")
def read_job(request: HttpRequest, file: File[UploadedFile]) -> JobView:
    """A job bundle becomes a new job with a ticket of its own."""
    data, _ = _read_upload(file)
    document = load_bundle(data).job
    draft_panels(document.panels, document.house)
    return job_view(history.take_in(workshop_of(request), document, user_of(request), message("job_read_from_bundle")))


def _read_upload(file: UploadedFile) -> tuple[bytes, str]:
    if (file.size or 0) > MAX_DOCUMENT_BYTES:
        raise Refusal(
            message("file_too_large_here", megabytes=(file.size or 0) / 1000000.0, most=MAX_DOCUMENT_BYTES / 1000000.0),
            "file",
        )
    name = "".join(c for c in file.name or "file" if ord(c) >= 32)[-80:]
    return file.read(), name


def _panels_in(
    data: bytes, name: str, stem: str, width_mm: float | None, hidden_layers: HiddenLayers
) -> tuple[tuple[Panel, ...], tuple[Join, ...]]:
    """The panels of a file, and the joins between them where it has some."""
    ending = name.lower().rpartition(".")[2]
    if ending == "json":
        document = load_panels(data)
        return document.panels, document.joins
    if ending not in ("svg", "dxf"):
        raise Refusal(message("file_kind_unread"), "file")
    drawing = read_drawing(cast(Literal["svg", "dxf"], ending), data, width_mm=width_mm, hidden_layers=hidden_layers)
    if len(drawing) > MOST_PANELS:
        raise Refusal(message("drawing_too_many_outlines", count=len(drawing), most_panels=MOST_PANELS), "file")
    return tuple(panel_from_rings(o.outline, o.holes, stem) for o in drawing), ()


def _file(data: bytes, content_type: str, name: str) -> HttpResponse:
    return HttpResponse(
        data, content_type=content_type, headers={"Content-Disposition": f'attachment; filename="{name}"'}
    )
