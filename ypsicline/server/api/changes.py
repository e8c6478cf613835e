"""Changes of a job, each a value with its kind; undone and redone."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from ypsicline.core.changes.change import Change
from ypsicline.core.changes.panels import MakePanel, MakePanels, pieces_without_panel
from ypsicline.core.formats.changes import read_change
from ypsicline.core.job import JobDocument
from ypsicline.server.api.access import apply, changed_view, job_of, shown_revision
from ypsicline.server.api.schema import CHANGE_BODY
from ypsicline.server.jobs import history
from ypsicline.server.photos.photos import check_settled
from ypsicline.server.views.job import JobView

router = Router()


@router.post(
    "/jobs/{job_id}/changes", response=JobView, operation_id="change_job", openapi_extra={"requestBody": CHANGE_BODY}
)
def change_job(request: HttpRequest, job_id: int) -> JobView:
    """Make one change. Lengths are texts as people type them, in the job's unit, or numbers in mm."""

    def read(job: JobDocument) -> Change:
        change = read_change(request.body, job.unit)
        if isinstance(change, MakePanel) and job.piece:
            check_settled(job.piece)
        if isinstance(change, MakePanels):
            for piece in pieces_without_panel(job):
                check_settled(piece)
        return change

    return apply(request, job_id, read)


@router.post("/jobs/{job_id}/undo", response=JobView, operation_id="undo")
def undo(request: HttpRequest, job_id: int) -> JobView:
    """Back to the state before the last change."""
    job = job_of(request, job_id)
    return changed_view(job, lambda: history.undo(job.pk, shown_revision(request)))


@router.post("/jobs/{job_id}/redo", response=JobView, operation_id="redo")
def redo(request: HttpRequest, job_id: int) -> JobView:
    """On to the state that was undone last."""
    job = job_of(request, job_id)
    return changed_view(job, lambda: history.redo(job.pk, shown_revision(request)))
