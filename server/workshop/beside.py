"""A process that stands beside the server ends with it, however that ends."""

from __future__ import annotations

import ctypes
import os
import signal
import sys
import threading
import time

import psutil

#: Linux's prctl option that sends a process a signal when its parent ends, however it ends.
PR_SET_PDEATHSIG = 1


def end_with(parent: int) -> None:
    """Ends this process once ``parent`` is gone, which began it."""
    if sys.platform == "linux":
        ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGKILL)
    threading.Thread(target=_watch, args=(parent,), daemon=True).start()


def _watch(parent: int) -> None:
    """For systems that do not do it, and where the parent was gone before it was asked."""
    while psutil.pid_exists(parent) and os.getppid() == parent:
        time.sleep(1)
    os._exit(1)
