"""How far a reader has come, for whoever waits for it: told where reading goes on in a process of its own."""

from __future__ import annotations

import time
from collections.abc import Callable

#: How often it is told at the most (s).
_EVERY = 0.1

_listener: list[Callable[[float], None]] = []
_last = [0.0]


def listen(tell: Callable[[float], None]) -> None:
    """From now on ``tell`` hears which share of the reading is done, from 0 to 1."""
    _listener[:] = [tell]


def done(share: float) -> None:
    """Tells which share is done, if somebody listens and was not told just now."""
    if _listener and time.monotonic() - _last[0] > _EVERY:
        _last[0] = time.monotonic()
        _listener[0](min(1.0, share))
