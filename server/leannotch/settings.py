"""Settings of the one deployment there is: a maker's own machine, served on the loopback address."""

import os
import secrets
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]

#: Everything a maker would lose: the database and the key. Kept out of the source tree's history.
DATA = Path(os.environ.get("NOTCH_DATA", ROOT / ".notch"))
DATA.mkdir(parents=True, exist_ok=True)


def _secret_key() -> str:
    path = DATA / "secret_key"
    if not path.exists():
        path.touch(mode=0o600)
        path.write_text(secrets.token_urlsafe(50))
    return path.read_text()


SECRET_KEY = _secret_key()
DEBUG = False
ALLOWED_HOSTS = ["127.0.0.1", "localhost"]
APPEND_SLASH = False

INSTALLED_APPS = ["ninja", "django_tasks", "django_tasks_db", "workshop"]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    # Checks the host name, so that no foreign name can be pointed at this address.
    "django.middleware.common.CommonMiddleware",
    "workshop.same_site.SameSite",
]
ROOT_URLCONF = "leannotch.urls"
WSGI_APPLICATION = "leannotch.wsgi.application"

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA / "notch.sqlite3",
        "OPTIONS": {
            # Acknowledged means stored: every commit reaches the disk, and readers never wait for a writer.
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA busy_timeout=10000;",
            "transaction_mode": "IMMEDIATE",
        },
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
USE_TZ = True

TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}

WEB = ROOT / "web" / "dist"
WHITENOISE_ROOT = WEB if WEB.exists() else None
STATIC_URL = "/static/"
DATA_UPLOAD_MAX_MEMORY_SIZE = 10_000_000

LOGGING = {
    "version": 1,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
