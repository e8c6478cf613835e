from django.contrib.auth.views import LoginView, LogoutView
from django.urls import path, re_path

from ypsicline.server.api import api
from ypsicline.server.views import application, phone

urlpatterns = [
    path("api/", api.urls),
    path("sign-in/", LoginView.as_view(redirect_authenticated_user=True), name="sign_in"),
    path("sign-out/", LogoutView.as_view(), name="sign_out"),
    re_path(r"^phone/[\w-]+$", phone, name="phone"),
    re_path(r"^(?!static/|api/).*$", application, name="application"),
]
