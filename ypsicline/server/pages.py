"""The page that the built interface runs in, at every address that it routes itself."""

from __future__ import annotations

import re

from django.conf import settings
from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe


@require_safe
@login_required
@ensure_csrf_cookie
def application(request: HttpRequest) -> HttpResponse:
    return _page(request)


@require_safe
@ensure_csrf_cookie
def phone(request: HttpRequest) -> HttpResponse:
    """The page for a phone, which its token signs in, for one job only."""
    return _page(request)


def _page(request: HttpRequest) -> HttpResponse:
    page = settings.FRONTEND / "index.html"
    if not page.exists():
        return HttpResponse("The interface has not been built; run make demo.", status=503, content_type="text/plain")
    nonce = re.sub(r"[^\w+/=-]", "", str(getattr(request, "csp_nonce", "")))
    # a demo beside a workshop on one machine shares its cookies: the page is told which is its own
    text = page.read_text().replace("__NONCE__", nonce).replace("__CSRF_COOKIE__", settings.CSRF_COOKIE_NAME)
    return HttpResponse(text)
