"""The one truth about long work: who carries out a run, whether that is still there, and how it ended."""

from __future__ import annotations

import os
import threading
import time
from datetime import timedelta
from typing import Any

from django.db import DatabaseError, close_old_connections, connection
from django.db.models import Max
from django.utils import timezone
from people.asking import maker_asking

from workshop.models import BroughtFile, Run, StoredProject

#: How often a worker is heard of, and after which silence it counts as lost. One step of the work may take long.
BEAT, SILENCE = 2.0, timedelta(seconds=120)

#: So many runs of a project are kept.
_KEPT = 20

_STOPPED = "The server was stopped meanwhile. The project is as it was; ask for it again."
_LOST = "Its worker ended before it was done. The project is as it was; ask for it again."


def this_worker() -> str:
    """The name of this process among the workers."""
    return os.environ.get("NOTCH_WORKER", f"process {os.getpid()}")


def wait_for_worker(project: StoredProject, kind: str, seconds: float, file: BroughtFile | None = None) -> Run:
    """A run that waits for its worker; the oldest of the project's are let go of."""
    run = Run.objects.create(
        project=project, kind=kind, seconds=seconds, version=project.version, file=file, by_id=maker_asking.get()
    )
    newest = Run.objects.filter(project=project).aggregate(newest=Max("id"))["newest"]
    Run.objects.filter(project=project, id__lt=newest - _KEPT).exclude(state__in=["waiting", "running"]).delete()
    return run


def begin(run_id: int) -> bool:
    """Takes a run that waits; False where it does not wait any more."""
    waiting = Run.objects.filter(id=run_id, state="waiting")
    return bool(waiting.update(state="running", worker=this_worker(), beat=timezone.now(), message=""))


def end(run: Run, state: str, message: str = "", **more: Any) -> None:
    """Ends a run that goes on; one that was given up meanwhile stays so."""
    Run.objects.filter(id=run.id, state="running").update(state=state, message=message, **more)


def stop(run_id: int) -> None:
    """Ends a run that waits, and asks one that goes on to end."""
    Run.objects.filter(id=run_id, state="waiting").update(state="stopped", message="Stopped before it began.")
    Run.objects.filter(id=run_id, state="running").update(stop_asked=True)


def worker_is_gone(worker: str, stopped: bool = False) -> int:
    """Says of the runs of a worker that is no more that they have ended; answers how many."""
    running = Run.objects.filter(worker=worker, state="running")
    return running.update(state="failed", message=_STOPPED if stopped else _LOST)


def silent_workers() -> list[str]:
    """Workers with a run that were not heard of for too long."""
    silent = Run.objects.filter(state="running", beat__lt=timezone.now() - SILENCE)
    return list(silent.values_list("worker", flat=True).distinct())


def server_starts() -> None:
    """Nobody works yet: what was going on has ended, and what waits is carried out now."""
    Run.objects.filter(state="running").update(state="failed", message=_STOPPED)
    Run.objects.filter(state="waiting").update(message="It has waited since before the server was started again.")


class StopAsked:
    """Asks the database a few times a second whether the maker has pressed stop.

    Work that is given a time says meanwhile how much of it is used up: it may look long for a better layout.
    """

    def __init__(self, run: Run) -> None:
        self._run, self._next, self._answer = run, 0.0, False
        self._began = time.monotonic()

    def __call__(self) -> bool:
        if not self._answer and time.monotonic() >= self._next:
            self._next = time.monotonic() + 0.25
            self._answer = Run.objects.filter(id=self._run.id, stop_asked=True).exists()
            if self._run.seconds:
                used = (time.monotonic() - self._began) / self._run.seconds
                Run.objects.filter(id=self._run.id).update(progress=min(used, 1.0))
        return self._answer


def beat_until(over: threading.Event) -> None:
    """Says every two seconds that this worker is there."""
    while not over.wait(BEAT):
        try:
            close_old_connections()
            Run.objects.filter(worker=this_worker(), state="running").update(beat=timezone.now())
        except DatabaseError:
            continue
    connection.close()
