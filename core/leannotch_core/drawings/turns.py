"""Whose turn it is: work on files from elsewhere, a few at a time, shared out among those who ask for it."""

from __future__ import annotations

import threading
from collections import Counter
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field

from .drawing import BrokenFile

#: Who asks for the work of this thread; nobody in particular on the maker's own machine.
asked_by: ContextVar[str] = ContextVar("asked_by", default="")

#: So many of one's files may wait while another is worked on.
MOST_WAITING = 3


@dataclass(eq=False, slots=True)
class _Ticket:
    whose: str


@dataclass(slots=True)
class Turns:
    """At most ``at_once`` works; whoever was served longest ago comes next, with no more than one at a time of his.

    Nobody in particular has all of them, and waits for as long as it takes.
    """

    at_once: int
    _free: threading.Condition = field(default_factory=threading.Condition)
    _waiting: list[_Ticket] = field(default_factory=list)
    _going: Counter[str] = field(default_factory=Counter)
    #: Those who wait or are served, the one that was served last at the end.
    _served: list[str] = field(default_factory=list)

    @contextmanager
    def one(self) -> Iterator[None]:
        """A turn of whoever asks. Raises `BrokenFile` of one who has too many waiting already."""
        ticket = _Ticket(asked_by.get())
        with self._free:
            self._queue(ticket)
            self._free.wait_for(lambda: self._next() is ticket)
            self._waiting.remove(ticket)
            self._going[ticket.whose] += 1
            self._served = [*(whose for whose in self._served if whose != ticket.whose), ticket.whose]
            # There may be room for another one still.
            self._free.notify_all()
        try:
            yield
        finally:
            with self._free:
                self._going -= Counter([ticket.whose])
                self._forget()
                self._free.notify_all()

    def _queue(self, ticket: _Ticket) -> None:
        own = sum(other.whose == ticket.whose for other in self._waiting)
        if ticket.whose and own >= MOST_WAITING:
            raise BrokenFile(f"{own + 1} of your files are being worked on; send this one again once they are done.")
        self._waiting.append(ticket)

    def _next(self) -> _Ticket | None:
        """Whose turn it is now; None while there is no room."""
        if self._going.total() >= self.at_once:
            return None
        may = [ticket for ticket in self._waiting if not ticket.whose or not self._going[ticket.whose]]
        return min(may, key=lambda ticket: self._place(ticket.whose), default=None)

    def _place(self, whose: str) -> int:
        return self._served.index(whose) if whose in self._served else -1

    def _forget(self) -> None:
        here = {*self._going, *(ticket.whose for ticket in self._waiting)}
        self._served = [whose for whose in self._served if whose in here]
