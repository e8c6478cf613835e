"""What a digitising tablet has touched, until it is taken into a job."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Schema

from ypsicline.server.api.access import workshop_of
from ypsicline.server.devices.tablet import station

router = Router()


class TabletView(Schema):
    """What the workshop has touched so far, mm on the tablet; `taken` while another workshop uses it."""

    listening: bool
    taken: bool
    connected: bool
    touches: list[tuple[float, float]]
    wrong: str


@router.get("/tablet", response=TabletView, operation_id="tablet")
def tablet(request: HttpRequest) -> TabletView:
    """What the workshop has touched on the tablet so far."""
    at = station()
    state = at.look(workshop_of(request).pk) if at else None
    touches, wrong = state or ([], "")
    return TabletView(
        listening=at is not None, taken=at is not None and state is None, connected=bool(at and at.connected),
        touches=touches, wrong=wrong,
    )  # fmt: skip


@router.delete("/tablet", response=TabletView, operation_id="clear_tablet")
def clear_tablet(request: HttpRequest) -> TabletView:
    """Forget what was touched, and begin again."""
    if at := station():
        at.clear(workshop_of(request).pk)
    return tablet(request)
