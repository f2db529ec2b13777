"""Serves the application on the loopback address, and on one more for others, with workers for long work beside it."""

from __future__ import annotations

import logging
import signal
from concurrent.futures import ThreadPoolExecutor
from importlib import import_module
from typing import TYPE_CHECKING, Any

from django.conf import settings
from django.contrib.sessions.models import Session
from django.core.handlers.wsgi import WSGIHandler
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection
from handin.gate import others_may_come_in
from leannotch.urls import API
from workshop import runs, storage

from served.behind import Wsgi
from served.workplaces import Workplaces, how_many, shared

if TYPE_CHECKING:
    from workshop.workers import Workers

log = logging.getLogger(__name__)

NOT_YET = (
    "Others are let in once there is an access word for the operator, and a hand-in word or a list of makers: set them "
    "on the page of the queue, and start again. Until then it stays on this machine."
)


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--port", type=int, default=8000)

    def handle(self, *args: Any, port: int, **options: Any) -> None:
        from served import listening

        address = f"http://127.0.0.1:{port}"
        try:
            lock = storage.Lock(address)
        except (OSError, storage.StorageTrouble) as trouble:
            raise CommandError(str(trouble)) from trouble
        # The handler as it is: Django is set up already, and a second time would silence its loggers.
        application: Wsgi = WSGIHandler()
        # One maker alone needs no more than one process.
        workplaces = Workplaces(how_many() if settings.HOST and others_may_come_in() else 0)
        application = shared(application, workplaces)
        try:
            server = listening.here(application, port)
            if settings.HOST:
                self._open_to_others(application, port)
        except listening.CannotListen as trouble:
            raise CommandError(str(trouble)) from trouble
        runs.server_starts()
        # They were signed by the server that let them in, and nobody can read them any more.
        Session.objects.all().delete()
        workplaces.begin()
        behind = ThreadPoolExecutor(1).submit(_begun_behind_the_page)
        # A service manager's stop is as orderly as Ctrl-C.
        signal.signal(signal.SIGTERM, signal.default_int_handler)
        self.stdout.write(f"Lean Notch is at {address}  (Ctrl-C stops it)")
        self.stdout.flush()
        try:
            server.run()
        finally:
            fault = behind.exception()
            if fault is None:
                behind.result().stop()
            workplaces.end()
            lock.release()
        if fault:
            raise CommandError(f"What carries out long work could not be begun: {fault}. The log has more of it.")

    def _open_to_others(self, application: Wsgi, port: int) -> None:
        """Listens at the address for others too, once there are words that let them in."""
        from served import listening

        others = listening.elsewhere(application, settings.HOST, port)
        if others_may_come_in():
            listening.begin(others)
            where = f"http://{listening.address_of(settings.HOST)}:{port}"
            self.stdout.write(f"Others reach it at {where} with the word that they were given.")
        else:
            others.close()
            self.stdout.write(NOT_YET)


def _begun_behind_the_page() -> Workers:
    """What takes long to load: the API first, for makers wait for that; then upkeep, and the workers.

    Where it cannot be begun the server ends, for nothing that it promised would be done.
    """
    try:
        return _begun()
    except Exception:
        log.exception("what stands behind the page could not be begun")
        signal.raise_signal(signal.SIGTERM)
        raise


def _begun() -> Workers:
    import_module(API)
    from bureau import desk as service
    from handin import desk as queue
    from people import log as log_of_deeds
    from workshop import upkeep
    from workshop.workers import Workers

    upkeep.begin(queue.take_away_what_is_over, service.take_away_what_is_over, log_of_deeds.forget_the_oldest)
    workers = Workers()
    connection.close()
    return workers
