"""Django's settings. Everything a workshop may set comes from the environment; see README."""

from __future__ import annotations

import os
import secrets
from pathlib import Path

from csp.constants import NONCE, SELF

ROOT = Path(__file__).resolve().parents[2]
DATA = Path(os.environ.get("YPSICLINE_DATA", ROOT / "var" / "workshop")).resolve()
DEMO = os.environ.get("YPSICLINE_DEMO") == "1"
FRONTEND = Path(os.environ.get("YPSICLINE_FRONTEND", ROOT / "frontend" / "dist")).resolve()
FILES = DATA / "files"


def _own_alone() -> None:
    """The data's folder and its database, and every file made from now on, are their owner's alone."""
    os.umask(0o077)
    DATA.mkdir(parents=True, exist_ok=True)
    for path in (DATA, *DATA.glob("ypsicline.sqlite3*")):
        path.chmod(0o700 if path.is_dir() else 0o600)


def _kept_secret() -> str:
    """A secret made at the first start and kept beside the data."""
    path = DATA / "secret_key"
    if not path.exists():
        fresh = path.with_suffix(f".{os.getpid()}")
        fresh.touch(mode=0o600)
        fresh.write_text(secrets.token_urlsafe(50))
        fresh.rename(path)
    return path.read_text()


_own_alone()
SECRET_KEY = _kept_secret()
DEBUG = False
ALLOWED_HOSTS = os.environ.get("YPSICLINE_HOSTS", "127.0.0.1,localhost,[::1]").split(",")
# where phones on the workshop's own network reach the server; set by `serve --lan`, off by default
LAN_URL = ""

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "django.contrib.staticfiles",
    "axes",
    "csp",
    "django_tasks",
    "django_tasks_db",
    "ypsicline.server.jobs",
    "ypsicline.server.operations",
]
MIDDLEWARE = [
    "ypsicline.server.middleware.request_id",
    "ypsicline.server.middleware.api_answers",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "ypsicline.server.middleware.PackedAnswers",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "ypsicline.server.middleware.demo_sign_in",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "csp.middleware.CSPMiddleware",
    "axes.middleware.AxesMiddleware",
]
AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesStandaloneBackend",
    "django.contrib.auth.backends.ModelBackend",
]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {"NAME": "django.contrib.auth.password_validation.NumericPasswordValidator"},
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator"},
]
ROOT_URLCONF = "ypsicline.server.urls"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [ROOT / "ypsicline" / "server" / "templates"],
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
                "csp.context_processors.nonce",
            ]
        },
    }
]
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA / "ypsicline.sqlite3",
        # in a file, so that tests work on it from several threads as the application does
        "TEST": {"NAME": DATA / "test.sqlite3"},
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 20,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=NORMAL;",
        },
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}

USE_TZ = True
TIME_ZONE = os.environ.get("YPSICLINE_TIME_ZONE", "UTC")
STATIC_URL = "/static/"
STATIC_ROOT = DATA / "static"
STATICFILES_DIRS = [FRONTEND] if FRONTEND.exists() else []
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedStaticFilesStorage"},
}
WHITENOISE_IMMUTABLE_FILE_TEST = r"^.+-[0-9A-Za-z_-]{8}\..+$"

LOGIN_URL = "sign_in"
LOGIN_REDIRECT_URL = "/"
LOGOUT_REDIRECT_URL = "sign_in"
SESSION_COOKIE_AGE = 60 * 60 * 24 * 30
SESSION_COOKIE_SAMESITE = "Lax"
# the demo runs beside a real workshop on the same host: cookies of one must not sign out the other
SESSION_COOKIE_NAME = "ypsicline_demo" if DEMO else "ypsicline"
CSRF_COOKIE_NAME = "ypsicline_demo_csrf" if DEMO else "ypsicline_csrf"
AXES_FAILURE_LIMIT = 8
AXES_COOLOFF_TIME = 0.25
# eight wrong tries for one name from one place, or from one place for whatever names
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"], "ip_address"]
AXES_LOCKOUT_TEMPLATE = "registration/paused.html"

X_FRAME_OPTIONS = "DENY"
SECURE_REFERRER_POLICY = "same-origin"
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "style-src": [SELF, NONCE],
        "img-src": [SELF, "data:", "blob:"],
        "object-src": ["'none'"],
        "frame-ancestors": ["'none'"],
        "base-uri": [SELF],
    }
}
FILE_UPLOAD_MAX_MEMORY_SIZE = 5_000_000
DATA_UPLOAD_MAX_MEMORY_SIZE = 25_000_000
DATA_UPLOAD_MAX_NUMBER_FIELDS = 200
DATA_UPLOAD_MAX_NUMBER_FILES = 60
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"line": {"format": "%(asctime)s %(levelname)s %(name)s %(message)s"}},
    "handlers": {"console": {"class": "logging.StreamHandler", "formatter": "line"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
    # that calls wait for one another is no trouble; which were too many for too long, users say
    "loggers": {"ypsicline": {"level": "INFO"}, "waitress.queue": {"level": "ERROR"}},
}
