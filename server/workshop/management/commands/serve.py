"""Serves the application on the loopback address, with a worker for long work beside it."""

import ctypes
import signal
import subprocess
import sys
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

#: Linux's prctl option that sends a process a signal when its parent ends, however it ends.
PR_SET_PDEATHSIG = 1


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--port", type=int, default=8000)

    def handle(self, *args: Any, port: int, **options: Any) -> None:
        import waitress
        from leannotch.wsgi import application

        try:
            server = waitress.create_server(
                application, host="127.0.0.1", port=port, threads=8, max_request_body_size=64_000_000
            )
        except OSError as error:
            raise CommandError(f"port {port} cannot be used ({error.strerror}); try --port {port + 1}") from error
        worker = _start_worker()
        # A service manager's stop is as orderly as Ctrl-C.
        signal.signal(signal.SIGTERM, signal.default_int_handler)
        self.stdout.write(f"Lean Notch is at http://127.0.0.1:{port}  (Ctrl-C stops it)")
        self.stdout.flush()
        try:
            server.run()
        finally:
            worker.terminate()
            worker.wait()


def _start_worker() -> subprocess.Popen[bytes]:
    manage = str(settings.ROOT / "server" / "manage.py")
    command = [sys.executable, manage, "db_worker", "--interval", "0.25", "--verbosity", "0"]
    return subprocess.Popen(command, preexec_fn=_end_with_parent)  # noqa: PLW1509 - before any thread is started


def _end_with_parent() -> None:
    ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGTERM)
