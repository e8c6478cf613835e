"""The one place that knows status codes."""

from __future__ import annotations

import logging
from collections.abc import Callable
from typing import Any

from django.core.exceptions import RequestDataTooBig, SuspiciousOperation, TooManyFieldsSent, TooManyFilesSent
from django.db import OperationalError
from django.http import Http404, HttpRequest, HttpResponse, UnreadablePostError
from django.http.multipartparser import MultiPartParserError
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message
from ypsicline.core.wording import render
from ypsicline.server.answers import is_full_disk, message_for
from ypsicline.server.api.access import unit_shown
from ypsicline.server.jobs.history import Stale

log = logging.getLogger("ypsicline.api")


def install(api: NinjaAPI) -> None:
    """Every failure becomes a status and a sentence."""

    def answer(request: HttpRequest, status: int, sentence: str, **more: Any) -> HttpResponse:
        return api.create_response(request, {"sentence": sentence, **more}, status=status)

    def known(status: int) -> Callable[[HttpRequest, Any], HttpResponse]:
        return lambda request, _: answer(request, status, render(message_for(status)))

    @api.exception_handler(Refusal)
    def refused(request: HttpRequest, e: Refusal) -> HttpResponse:
        place = {"panel": e.place.panel, "edge": e.place.edge, "point": e.place.point}
        return answer(request, 422, e.render(unit_shown(request)), reason=e.reason, place=place, numbers=e.numbers)

    @api.exception_handler(Stale)
    def stale(request: HttpRequest, e: Stale) -> HttpResponse:
        return answer(request, 409, render(message("job_changed_meanwhile")))

    @api.exception_handler(ValidationError)
    def wrong(request: HttpRequest, e: ValidationError) -> HttpResponse:
        first = e.errors[0]
        where = ".".join(str(p) for p in first.get("loc", ()) if p not in ("body", "data", "query", "path"))
        return answer(
            request,
            422,
            f"{where or 'What was sent'} can't be used: {first.get('msg', 'it is wrong')}.",
            reason="wrong_input",
        )

    for kind, status in (
        (Http404, 404), (AuthenticationError, 401), (RequestDataTooBig, 413), (TooManyFieldsSent, 413),
        (TooManyFilesSent, 413), (MultiPartParserError, 400), (SuspiciousOperation, 400), (UnreadablePostError, 400),
    ):  # fmt: skip
        api.add_exception_handler(kind, known(status))

    @api.exception_handler(HttpError)
    def http(request: HttpRequest, e: HttpError) -> HttpResponse:
        return answer(request, e.status_code, render(message_for(e.status_code)))

    @api.exception_handler(OperationalError)
    def stored_nothing(request: HttpRequest, e: OperationalError) -> HttpResponse:
        return answer(request, 503, render(message_for(503))) if "locked" in str(e) else not_written(request, e)

    @api.exception_handler(OSError)
    def not_written(request: HttpRequest, e: Exception) -> HttpResponse:
        if is_full_disk(e):
            log.error("the disk is full: %s", e)
            return answer(request, 507, render(message_for(507)))
        return bug(request, e)

    @api.exception_handler(Exception)
    def bug(request: HttpRequest, e: Exception) -> HttpResponse:
        number = getattr(request, "request_id", "")
        log.exception("request %s failed", number)
        return answer(request, 500, render(message("bug_of_request", number=number)))
