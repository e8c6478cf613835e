"""What every request passes through: an identity for the log, and the demo's own sign-in."""

from __future__ import annotations

import uuid
from collections.abc import Callable

from django.conf import settings
from django.contrib.auth import get_user_model, login
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.http.response import HttpResponseBase
from django.middleware.gzip import GZipMiddleware

from ypsicline.core.wording import render
from ypsicline.server.answers import message_for

Handler = Callable[[HttpRequest], HttpResponse]
LOOPBACK = {"127.0.0.1", "::1"}
DEMO_USER = "demo"
FOR_PHONES = ("/phone/", "/api/phone/", "/static/")


def request_id(handler: Handler) -> Handler:
    """Give each request an identity that the log and the answer share."""

    def handle(request: HttpRequest) -> HttpResponse:
        request.request_id = uuid.uuid4().hex[:12]  # type: ignore[attr-defined]
        response = handler(request)
        response["X-Request-Id"] = request.request_id  # type: ignore[attr-defined]
        return response

    return handle


def api_answers(handler: Handler) -> Handler:
    """What programs ask is never kept by a browser, but for pictures that say so; a refusal that isn't from the
    interface itself (a wrong address or method, a request that can't be read) is a sentence too."""

    def handle(request: HttpRequest) -> HttpResponse:
        response = handler(request)
        is_said = response.headers.get("Content-Type", "").startswith("application/json")
        if request.path.startswith("/api/") and response.status_code >= 400 and not is_said:
            response = JsonResponse(
                {"sentence": render(message_for(response.status_code))}, status=response.status_code
            )
        if not request.path.startswith("/static/"):
            response.headers.setdefault("Cache-Control", "no-store")
        return response

    return handle


class PackedAnswers(GZipMiddleware):
    """Compresses what the interface answers, and nothing that is packed already or is told bit by bit."""

    def process_response(self, request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
        is_said = response.headers.get("Content-Type", "").startswith("application/json")
        return super().process_response(request, response) if is_said and not response.streaming else response


def demo_sign_in(handler: Handler) -> Handler:
    """In the demo, sign in whoever sits at this machine; nobody else is served."""

    def handle(request: HttpRequest) -> HttpResponse:
        if settings.DEMO:
            if request.META.get("REMOTE_ADDR") not in LOOPBACK:
                if settings.LAN_URL and request.path.startswith(FOR_PHONES):
                    return handler(request)
                return HttpResponse("The demo answers this machine only.", status=403, content_type="text/plain")
            if not request.user.is_authenticated:
                user = get_user_model().objects.filter(username=DEMO_USER).first()
                if user:
                    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
        return handler(request)

    return handle
