"""Carries out the long work of one queue until its server ends: ``work QUEUE --parent PID``."""

import logging
import os
import threading
import time
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser
from django.db import OperationalError, connection
from django_tasks_db.management.commands.db_worker import Worker

from workshop.beside import end_with
from workshop.runs import beat_until, this_worker

log = logging.getLogger(__name__)

#: By how much a worker steps back where a workshop is served, in the levels of the system.
_BEHIND_HANDS = 10


class Command(BaseCommand):
    help = __doc__
    #: The server that starts it has made them, and a worker answers no calls.
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("queue")
        parser.add_argument("--parent", type=int, required=True)

    def handle(self, *args: Any, queue: str, parent: int, **options: Any) -> None:
        end_with(parent)
        if settings.HOST and hasattr(os, "nice"):
            # The hands of many go before what each of them waits for anyway.
            os.nice(_BEHIND_HANDS)
        threading.Thread(target=beat_until, args=(threading.Event(),), daemon=True).start()
        while os.getppid() == parent:
            try:
                _worker(queue).run()
            except OperationalError:
                # Somebody writes for long, or the disk is full: the work waits until that is over.
                log.warning("the database refused the worker; it tries again", exc_info=True)
                connection.close()
                time.sleep(1)


def _worker(queue: str) -> Worker:
    return Worker(
        queue_names=[queue],
        interval=0.25,
        batch=False,
        backend_name="default",
        startup_delay=False,
        max_tasks=None,
        worker_id=this_worker(),
        excluded_queue_names=[],
    )
