"""The worker processes of a server: one for each queue, and another in the place of one that ends."""

from __future__ import annotations

import logging
import os
import secrets
import subprocess
import sys
import threading
from dataclasses import dataclass

from django.conf import settings
from django.db import DatabaseError, connection

from workshop.long_work import carry_on
from workshop.runs import silent_workers, worker_is_gone

log = logging.getLogger(__name__)

#: How often it is looked whether all workers are there (s).
_LOOK = 0.5


class Workers:
    """Started beside a server; a thread of their own sees that they stay there."""

    def __init__(self) -> None:
        carry_on()
        self._over = threading.Event()
        self._workers = {queue: _started(queue) for queue in settings.QUEUES}
        self._watch = threading.Thread(target=self._see_to_them, daemon=True)
        self._watch.start()

    def stop(self) -> None:
        """Ends them at once; what they were doing is said to have been stopped."""
        self._over.set()
        self._watch.join()
        for worker in self._workers.values():
            worker.process.kill()
        for worker in self._workers.values():
            worker.process.wait()
            worker_is_gone(worker.name, stopped=True)

    def _see_to_them(self) -> None:
        while not self._over.wait(_LOOK):
            try:
                self._look()
            except DatabaseError:
                log.warning("the workers could not be looked after", exc_info=True)
        connection.close()

    def _look(self) -> None:
        silent = silent_workers()
        for queue, worker in self._workers.items():
            if worker.name in silent:
                worker.process.kill()
                worker.process.wait()
            if worker.process.poll() is None:
                continue
            log.error("the worker for %s ended with %s; another takes its place", queue, worker.process.returncode)
            worker_is_gone(worker.name)
            carry_on()
            self._workers[queue] = _started(queue)


@dataclass(frozen=True, slots=True)
class _Worker:
    """A worker's name in its runs, and its process."""

    name: str
    process: subprocess.Popen[bytes]


def _started(queue: str) -> _Worker:
    manage = str(settings.ROOT / "server" / "manage.py")
    command = [sys.executable, manage, "work", queue, "--parent", str(os.getpid())]
    own = {"NOTCH_WORKER": f"{queue} {secrets.token_hex(6)}", "NOTCH_LOG": f"work-{queue}"}
    return _Worker(own["NOTCH_WORKER"], subprocess.Popen(command, env={**os.environ, **own}))
