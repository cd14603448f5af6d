"""Settings, all from the environment; the `fletcher` command provides it.

FLETCHER_SECRET_KEY, FLETCHER_DB_PASSWORD and FLETCHER_DB_PORT are required. FLETCHER_DEMO=1 signs every visitor in
to the demo account and relaxes cookie security for plain HTTP on loopback; without it every default is the safe one.
"""

from __future__ import annotations

import os
import re
from pathlib import Path

from django.core.exceptions import ImproperlyConfigured

from fletcher.devices.serving import FIRST_PORT
from fletcher.devices.simulated import KINDS


def _required(name: str) -> str:
    value = os.environ.get(name, "")
    if not value:
        raise ImproperlyConfigured(f"{name} is not set; start the server with ./fletcher demo or ./fletcher run")
    return value


def _instruments(told: str) -> dict[str, tuple[str, str, float]]:
    """Address, unit and step of every instrument by its name."""
    found = {}
    for one in filter(None, told.split(";")):
        try:
            name, url, unit, step = (part.strip() for part in one.split(","))
            found[name] = url, unit, float(step)
        except ValueError:
            raise ImproperlyConfigured(
                f"FLETCHER_INSTRUMENTS: {one!r} is not “name, address, unit, step”, such as "
                "“scale, socket://127.0.0.1:4710, g, 0.1”"
            ) from None
    return found


SIMULATED = ";".join(
    f"{k.name},socket://127.0.0.1:{FIRST_PORT + n},{k.unit},{k.step:g}" for n, k in enumerate(KINDS.values())
)
ROOT = Path(__file__).resolve().parents[3]
DEMO = os.environ.get("FLETCHER_DEMO") == "1"
DEBUG = False
SECRET_KEY = _required("FLETCHER_SECRET_KEY")
ALLOWED_HOSTS = os.environ.get("FLETCHER_HOSTS", "127.0.0.1,localhost").split(",")
INSTRUMENTS = _instruments(os.environ.get("FLETCHER_INSTRUMENTS", SIMULATED if DEMO else ""))
"""Instruments on the bench: name, address, unit, step; several parted by semicolons. In the demo the simulated ones."""
CSRF_TRUSTED_ORIGINS = [o for o in os.environ.get("FLETCHER_ORIGINS", "").split(",") if o]

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "axes",
    "fletcher.server.accounts",
    "fletcher.server.airframes",
    "fletcher.server.joints",
    "fletcher.server.crash",
    "fletcher.server.build",
    "fletcher.server.stock",
]

MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "fletcher.server.middleware.content_security_policy",
    "fletcher.server.middleware.no_store",
    "fletcher.server.middleware.body_limit",
    "fletcher.server.middleware.reader",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "fletcher.server.accounts.demo.sign_in_demo" if DEMO else "fletcher.server.accounts.demo.no_demo",
    "fletcher.server.common.computing.fair_shares",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "axes.middleware.AxesMiddleware",
]

ROOT_URLCONF = "fletcher.server.urls"
WSGI_APPLICATION = "fletcher.server.wsgi.application"
TEMPLATES: list[dict[str, object]] = []

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "NAME": os.environ.get("FLETCHER_DB_NAME", "fletcher"),
        "USER": os.environ.get("FLETCHER_DB_USER", "fletcher"),
        "PASSWORD": _required("FLETCHER_DB_PASSWORD"),
        "HOST": os.environ.get("FLETCHER_DB_HOST", "127.0.0.1"),
        "PORT": _required("FLETCHER_DB_PORT"),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesStandaloneBackend",
    "fletcher.server.accounts.names.ByName",
]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.Argon2PasswordHasher"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": f"django.contrib.auth.password_validation.{name}"}
    for name in ("UserAttributeSimilarityValidator", "MinimumLengthValidator", "CommonPasswordValidator")
]
AXES_FAILURE_LIMIT = 5
AXES_COOLOFF_TIME = 0.25  # hours
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_LOCKOUT_CALLABLE = "fletcher.server.accounts.lockout.locked_out"
AXES_VERBOSE = False
AXES_USERNAME_CALLABLE = "fletcher.server.accounts.names.tried_name"

SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_SECURE = not DEMO
CSRF_COOKIE_SECURE = not DEMO
CSRF_COOKIE_SAMESITE = "Lax"
CSRF_FAILURE_VIEW = "fletcher.server.common.faults.no_csrf"
SECURE_REFERRER_POLICY = "same-origin"
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_HSTS_SECONDS = 0 if DEMO else 31_536_000
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if os.environ.get("FLETCHER_BEHIND_TLS") == "1" else None
X_FRAME_OPTIONS = "DENY"
DATA_UPLOAD_MAX_MEMORY_SIZE = 600_000

LANGUAGE_CODE = "en-gb"
TIME_ZONE = "UTC"
USE_TZ = True

STATIC_URL = "/static/"
FRONTEND_DIST = ROOT / "frontend" / "dist"
STATICFILES_DIRS = [FRONTEND_DIST] if FRONTEND_DIST.is_dir() else []
STATIC_ROOT = Path(os.environ.get("FLETCHER_STATIC_ROOT", ROOT / ".data" / "static"))
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedStaticFilesStorage"},
}
WHITENOISE_USE_FINDERS = True


def WHITENOISE_IMMUTABLE_FILE_TEST(_path: str, url: str) -> bool:
    """The front end's build puts a hash into the names of its assets."""
    return re.search(r"/assets/.+-[\w-]{8}\.\w+$", url) is not None


LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
