from django.contrib.auth.decorators import login_required
from django.contrib.auth.views import LoginView, LogoutView
from django.urls import path, re_path

from ypsicline.server.accounts.pages import NewPassword, join
from ypsicline.server.api import api
from ypsicline.server.pages import application, phone

urlpatterns = [
    path("api/", api.urls),
    path("sign-in/", LoginView.as_view(redirect_authenticated_user=True), name="sign_in"),
    path("sign-out/", LogoutView.as_view(), name="sign_out"),
    path("password/", login_required(NewPassword.as_view()), name="password"),
    re_path(r"^join/(?P<token>[\w-]{20,60})$", join, name="join"),
    re_path(r"^phone/[\w-]+$", phone, name="phone"),
    re_path(r"^(?!static/|api/).*$", application, name="application"),
]
