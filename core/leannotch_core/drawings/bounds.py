"""What work on a file may take of a processor and of memory, and how it is held to that.

Linux itself ends what takes more. Other systems do not bound a process's memory, or bound nothing: there the one that
began the work looks at it now and then.
"""

from __future__ import annotations

import math
import signal
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from pathlib import Path

import psutil


@dataclass(frozen=True, slots=True)
class Bounds:
    """What work on one file may take: memory, and ``seconds`` of a processor; a busy machine refuses no file."""

    seconds: float
    megabytes: int


READING = Bounds(seconds=8, megabytes=600)

#: Whether the system holds a process to its bounds.
HOLDS = sys.platform == "linux"

#: The signal by which it ends what has had its time.
TIME_IS_OVER = -int(getattr(signal, "SIGXCPU", 0))


def keep_within(bounds: Bounds) -> None:
    """Bounds the memory of this process beyond what it has now, and its processor's time, where the system can."""
    if not HOLDS:
        return
    import resource

    pages = int(Path("/proc/self/statm").read_text().split()[0])
    room = pages * resource.getpagesize() + bounds.megabytes * 1_000_000
    resource.setrlimit(resource.RLIMIT_AS, (room, room))
    seconds = math.ceil(bounds.seconds)
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds + 1))


class Watch:
    """Looks at a process that was begun just now, for systems that hold nothing to bounds."""

    def __init__(self, pid: int, bounds: Bounds) -> None:
        self._bounds, self._process, self._had = bounds, None, 0
        with suppress(psutil.Error):
            self._process = psutil.Process(pid)
            self._had = self._process.memory_info().rss

    def beyond(self) -> str:
        """Which bound it went beyond: ``seconds`` or ``memory``; nothing while it keeps within them, or is gone."""
        if self._process is None:
            return ""
        with suppress(psutil.Error):
            times = self._process.cpu_times()
            if times.user + times.system > self._bounds.seconds + 1:
                return "seconds"
            if self._process.memory_info().rss - self._had > self._bounds.megabytes * 1_000_000:
                return "memory"
        return ""


@contextmanager
def at_most(seconds: float, over: Callable[[], Exception]) -> Iterator[None]:
    """A stretch of work in the main thread that takes at most so much of a processor's time; else ``over`` is raised.

    Where the system has no such signal the bound of the whole work is met instead.
    """
    if not hasattr(signal, "SIGPROF"):
        yield
        return

    def end(*_: object) -> None:
        raise over()

    before = signal.signal(signal.SIGPROF, end)
    signal.setitimer(signal.ITIMER_PROF, seconds)
    try:
        yield
    finally:
        signal.setitimer(signal.ITIMER_PROF, 0)
        signal.signal(signal.SIGPROF, before)
