"""Who else has a project open, and where they are in it: known for as long as their windows go on saying so."""

from __future__ import annotations

import threading
import time
from collections import defaultdict
from typing import NamedTuple

#: A window that says nothing for so long (s) is closed, or its machine asleep.
KEPT = 25.0


class Somebody(NamedTuple):
    """A window in which a project is open: whose it is, at which station, and when it last said so (s)."""

    name: str
    station: str
    heard: float


_windows: dict[int, dict[str, Somebody]] = defaultdict(dict)
_one_at_a_time = threading.Lock()


def others(project: int, window: str, name: str, station: str) -> list[Somebody]:
    """Notes that a window has a project open; answers who else has, by their names."""
    now = time.monotonic()
    with _one_at_a_time:
        there = _windows[project]
        there[window] = Somebody(name, station, now)
        for key in [key for key, one in there.items() if now - one.heard > KEPT]:
            del there[key]
        found = [one for key, one in there.items() if key != window]
    return sorted(found)
