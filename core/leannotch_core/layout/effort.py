"""How long to go on looking: for some seconds, or for a number of rounds, which gives the same answer every time."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass


@dataclass
class Spent:
    """Rounds so far; shared by all parts of one effort."""

    rounds: int = 0


@dataclass
class Effort:
    """Ends ``until`` a moment of the clock, or after so many ``rounds`` in all, or when it is to ``stop``."""

    until: float | None
    rounds: int | None
    stop: Callable[[], bool]
    spent: Spent

    @classmethod
    def of(cls, seconds: float, rounds: int | None, stop: Callable[[], bool]) -> Effort:
        return cls(time.monotonic() + seconds if rounds is None else None, rounds, stop, Spent())

    def part(self, share: float) -> Effort:
        """An effort for a share (0 to 1) of what is left of this one."""
        if self.until is not None:
            now = time.monotonic()
            return Effort(now + share * max(0.0, self.until - now), None, self.stop, self.spent)
        assert self.rounds is not None
        left = max(0, self.rounds - self.spent.rounds)
        return Effort(None, self.spent.rounds + int(share * left), self.stop, self.spent)

    def over(self) -> bool:
        if self.stop():
            return True
        if self.until is not None:
            return time.monotonic() >= self.until
        return self.rounds is not None and self.spent.rounds >= self.rounds
