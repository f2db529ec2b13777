"""Settings of the one deployment there is: a maker's own machine, served on the loopback address."""

import os
import secrets
from pathlib import Path

from platformdirs import user_data_path

ROOT = Path(__file__).resolve().parents[2]

#: A checkout keeps its data within itself; what was installed keeps them where the system has data of programs.
IN_CHECKOUT = (ROOT / "notch").exists()
#: How its commands are called.
CALLED = "./notch" if IN_CHECKOUT else "lean-notch"
#: Everything a maker would lose, and the logs. Kept out of the source tree's history.
DATA = Path(
    os.environ.get("NOTCH_DATA") or (ROOT / ".notch" if IN_CHECKOUT else user_data_path("lean-notch", appauthor=False))
).absolute()

# Nothing is signed that has to outlive the server; the processes beside it are given what it signs with.
SECRET_KEY = os.environ.get("NOTCH_SIGNED_BY") or secrets.token_urlsafe(50)
DEBUG = False
#: The address at which others reach this machine; nothing, and only this machine itself is answered.
HOST = os.environ.get("NOTCH_HOST", "")
ALLOWED_HOSTS = ["127.0.0.1", "localhost", *([f"[{HOST.strip('[]')}]" if ":" in HOST else HOST] if HOST else [])]
#: Who said a word is known until the browser is closed, the word is changed, or the server is started anew.
SESSION_ENGINE = "django.contrib.sessions.backends.db"
SESSION_EXPIRE_AT_BROWSER_CLOSE = True
SESSION_COOKIE_SAMESITE = "Strict"
CSRF_FAILURE_VIEW = "workshop.page.forged"
APPEND_SLASH = False

INSTALLED_APPS = [
    "django.contrib.contenttypes", "django.contrib.auth", "django.contrib.sessions", "ninja", "django_tasks",
    "django_tasks_db", "people", "workshop", "device", "bureau", "handin", "served",
]  # fmt: skip
#: Words are kept by a function that takes memory besides time; those that were kept by another before still hold.
PASSWORD_HASHERS = [
    "django.contrib.auth.hashers.ScryptPasswordHasher",
    "django.contrib.auth.hashers.PBKDF2PasswordHasher",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "workshop.guard.Guard",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "handin.gate.CallsToo",
    "handin.gate.Gate",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "django.middleware.common.CommonMiddleware",
]
ROOT_URLCONF = "leannotch.urls"

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA / "notch.sqlite3",
        "OPTIONS": {
            # Acknowledged means stored: every commit reaches the disk, and readers never wait for a writer.
            "timeout": 10,
            # The log beside the database does not stay as large as it once was.
            "init_command": "PRAGMA busy_timeout=10000; PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; "
            "PRAGMA journal_size_limit=4194304;",
            "transaction_mode": "IMMEDIATE",
        },
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
USE_TZ = True
TIME_ZONE = "UTC"

#: Long work waits in queues with a worker each, so that one project's nesting does not hold up another's proof.
QUEUES = ["nesting", "checks"]
TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend", "QUEUES": QUEUES}}

WEB = ROOT / "web" / "dist"
WHITENOISE_ROOT = WEB if WEB.exists() else None
#: Files whose name changes with their content are kept by the browser for good; all else is asked for again.
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+-[\w-]{8}\.\w+$"
WHITENOISE_MAX_AGE = 0
WHITENOISE_ALLOW_ALL_ORIGINS = False
STATIC_URL = "/static/"
DATA_UPLOAD_MAX_MEMORY_SIZE = 10_000_000

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"dated": {"format": "{asctime} {levelname} {name}: {message}", "style": "{"}},
    "handlers": {
        "console": {"class": "logging.StreamHandler", "level": "ERROR"},
        "file": {
            "class": "leannotch.logs.LogFile",
            "formatter": "dated",
            # A file for each process that writes: two that turn over one file lose lines.
            "filename": DATA / "log" / f"{os.environ.get('NOTCH_LOG', 'commands')}.log",
        },
    },
    "root": {"handlers": ["console", "file"], "level": "WARNING"},
    # A refusal is an answer and no fault.
    "loggers": {"django.request": {"level": "ERROR"}, "django.security.DisallowedHost": {"level": "CRITICAL"}},
}
