"""What is seen to while it is served: a backup each day, what is over goes, and the file gives back what it left."""

from __future__ import annotations

import logging
import sqlite3
import threading
from collections.abc import Callable

from django.db import DatabaseError, connection

from workshop import backups, deletion, history, long_work, storage

log = logging.getLogger(__name__)

#: How often (s) it is seen to.
_EVERY = 900.0

_ALL: tuple[Callable[[], object], ...] = (
    long_work.forget_done_tasks,
    deletion.take_away_what_is_over,
    history.thin,
    storage.give_back,
    backups.back_up,
)


def begin(*more: Callable[[], object]) -> None:
    """Sees to it now, and again while this process runs; and to what ``more`` there is in the house."""
    threading.Thread(target=_watch, args=(more,), daemon=True, name="upkeep").start()


def _watch(more: tuple[Callable[[], object], ...]) -> None:
    while True:
        see_to_it(more)
        connection.close()
        threading.Event().wait(_EVERY)


def see_to_it(more: tuple[Callable[[], object], ...] = ()) -> None:
    """Each of them for itself: what cannot be done now is done another time, and the work goes on meanwhile."""
    for one in (*more, *_ALL):
        try:
            one()
        except (DatabaseError, sqlite3.Error, OSError, storage.StorageTrouble):
            log.error("%s could not be done", one.__name__, exc_info=True)
