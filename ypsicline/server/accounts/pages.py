"""Pages of an account: joining a workshop by an invitation, and a new password. Signing in and out are Django's own."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import login
from django.contrib.auth.forms import UserCreationForm
from django.contrib.auth.views import PasswordChangeView
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render

from ypsicline.core.errors import Refusal
from ypsicline.server.accounts.members import accept, workshop_of_token

__all__ = ["NewPassword", "join"]

_BACKEND = "django.contrib.auth.backends.ModelBackend"


class NewPassword(PasswordChangeView):
    """A new password, for whoever knows the old one; other devices are signed out by it."""

    template_name = "registration/password.html"
    success_url = "/"


def join(request: HttpRequest, token: str) -> HttpResponse:
    """Where an invitation leads: a new account, or the one that is signed in, becomes a member of the workshop."""
    try:
        workshop = workshop_of_token(token)
    except Http404:
        return render(request, "registration/join.html", {"gone": True}, status=404)
    form: Any = UserCreationForm(request.POST or None)
    is_signed_in = request.user.is_authenticated
    sentence = ""
    if request.method == "POST" and (is_signed_in or form.is_valid()):
        try:
            user: Any = request.user if is_signed_in else form.save()
            accept(token, user)
        except Refusal as e:
            sentence = e.sentence
        else:
            if not is_signed_in:
                login(request, user, backend=_BACKEND)
            return redirect("/")
    context = {"workshop": workshop, "form": form, "known": is_signed_in, "sentence": sentence}
    return render(request, "registration/join.html", context, status=200 if request.method == "GET" else 422)
