"""The one place that knows status codes."""

from __future__ import annotations

import logging
from typing import Any

from django.core.exceptions import RequestDataTooBig
from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError

from ypsicline.core.errors import Refused
from ypsicline.server.jobs.history import Stale

log = logging.getLogger("ypsicline.api")


def install(api: NinjaAPI) -> None:
    """Every failure becomes a status and a sentence."""

    def answer(request: HttpRequest, status: int, sentence: str, **more: Any) -> HttpResponse:
        return api.create_response(request, {"sentence": sentence, **more}, status=status)

    @api.exception_handler(Refused)
    def refused(request: HttpRequest, e: Refused) -> HttpResponse:
        place = {"panel": e.place.panel, "edge": e.place.edge, "point": e.place.point}
        return answer(request, 422, e.sentence, reason=e.reason, place=place, numbers=e.numbers)

    @api.exception_handler(Stale)
    def stale(request: HttpRequest, e: Stale) -> HttpResponse:
        return answer(
            request,
            409,
            "The job was changed meanwhile, in another window or by somebody else; it is shown afresh.",
        )

    @api.exception_handler(Http404)
    def missing(request: HttpRequest, e: Http404) -> HttpResponse:
        return answer(request, 404, "There is no such thing in this workshop; it may have been put away.")

    @api.exception_handler(AuthenticationError)
    def unknown(request: HttpRequest, e: AuthenticationError) -> HttpResponse:
        return answer(request, 401, "Sign in first.")

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

    @api.exception_handler(RequestDataTooBig)
    def too_big(request: HttpRequest, e: RequestDataTooBig) -> HttpResponse:
        return answer(request, 413, "That is more data than one step may carry.")

    @api.exception_handler(HttpError)
    def http(request: HttpRequest, e: HttpError) -> HttpResponse:
        return answer(request, e.status_code, "The request can't be read; reload the page and try again.")

    @api.exception_handler(Exception)
    def bug(request: HttpRequest, e: Exception) -> HttpResponse:
        number = getattr(request, "request_id", "")
        log.exception("request %s failed", number)
        return answer(request, 500, f"Something went wrong on our side (request {number}); nothing was changed.")
