"""Serves the application on the loopback address, with a worker for long work beside it."""

import subprocess
import sys
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--port", type=int, default=8000)

    def handle(self, *args: Any, port: int, **options: Any) -> None:
        import waitress
        from leannotch.wsgi import application

        worker_command = [sys.executable, str(settings.ROOT / "server" / "manage.py"), "db_worker", "--interval", "0.1"]
        worker = subprocess.Popen(worker_command, start_new_session=False)
        self.stdout.write(f"Lean Notch is at http://127.0.0.1:{port}  (Ctrl-C stops it)")
        try:
            waitress.serve(application, host="127.0.0.1", port=port, threads=8, max_request_body_size=12_000_000)
        finally:
            worker.terminate()
            worker.wait()
