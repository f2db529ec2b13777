"""Several processes that work for one server: a project has its workplace, which keeps what it worked out of it, and
goes on in another when that one ends.

Threads of one interpreter share a processor, and two processes without care where a call goes keep nothing twice: so
each call of a project goes to one process while it lives.
"""

from __future__ import annotations

import json
import logging
import os
import re
import secrets
import subprocess
import sys
import threading
from collections import Counter, OrderedDict
from collections.abc import Iterable
from http import HTTPStatus
from typing import Any

from django.conf import settings

from served.behind import Answer, CutOff, Environ, Unreached, Wire, Wsgi

log = logging.getLogger(__name__)

#: How often it is looked whether all are there (s).
_LOOK = 0.2
#: So many projects are known by their workplaces; who was not asked for longest is given one anew.
_MOST = 4096

#: What the server answers itself: who comes in is known where all calls come in.
_OWN = re.compile(r"^/api/(?:enter|leave|role|words|makers)(?:/|$)")
#: Whose workplace a call goes to: a project's, or that of its noun.
_WHOSE = re.compile(r"^/api/(projects/[^/]+|[^/]+)")
#: Calls that name the version they stand on, or their order: asked twice, they are done once.
_DONE_ONCE = re.compile(r"^/api/projects/[^/]+/(?:edit|undo|redo|hand-in|sheets/\d+/cut)$")

_CUT_OFF = "What worked on this ended meanwhile, so it may not be stored. Look at it again."


def how_many() -> int:
    """As many as there are processors; with one alone the server does all itself."""
    found = len(os.sched_getaffinity(0)) if sys.platform == "linux" else os.cpu_count() or 1
    return found if found > 1 else 0


class Workplace:
    """A process that works projects out, begun anew whenever it ends."""

    def __init__(self, number: int, key: str) -> None:
        self.number, self._key = number, key
        self.wire: Wire | None = None
        self.begin()

    def begin(self) -> None:
        manage = str(settings.ROOT / "server" / "manage.py")
        own = {
            "NOTCH_LOG": f"workplace-{self.number + 1}",
            "NOTCH_WORKPLACE_KEY": self._key,
            "NOTCH_SIGNED_BY": settings.SECRET_KEY,
        }
        command = [sys.executable, manage, "workplace", "--parent", str(os.getpid())]
        self._process = subprocess.Popen(command, env={**os.environ, **own}, stdout=subprocess.PIPE, text=True)
        threading.Thread(target=self._hear, args=(self._process,), daemon=True).start()

    def _hear(self, process: subprocess.Popen[str]) -> None:
        """It says its port once it can answer."""
        said = process.stdout.readline() if process.stdout else ""
        if process is self._process and said.strip().isdigit():
            self.wire = Wire(int(said), self._key)

    def is_gone(self) -> bool:
        if self._process.poll() is None:
            return False
        self.wire = None
        return True

    def end(self) -> None:
        self.wire = None
        self._process.kill()
        self._process.wait()


class Workplaces:
    """As many workplaces as were asked for; a thread of its own sees that they stay there."""

    def __init__(self, number: int) -> None:
        self.number, self._key = number, secrets.token_urlsafe(32)
        self._all: list[Workplace] = []
        self._homes: OrderedDict[str, int] = OrderedDict()
        self._one_at_a_time = threading.Lock()
        self._over = threading.Event()
        self._watch = threading.Thread(target=self._see_to_them, daemon=True, name="workplaces")

    def begin(self) -> None:
        self._all = [Workplace(number, self._key) for number in range(self.number)]
        self._watch.start()

    def end(self) -> None:
        self._over.set()
        if self._all:
            self._watch.join()
        for one in self._all:
            one.end()

    def _see_to_them(self) -> None:
        while not self._over.wait(_LOOK):
            try:
                self._look()
            except OSError:
                # What is short now, processes or memory, may not be in a moment; until then the others do its work.
                log.exception("a workplace could not be begun")

    def _look(self) -> None:
        for one in self._all:
            if one.is_gone():
                log.error("workplace %s ended; another takes its place", one.number + 1)
                one.begin()

    def wires(self, whose: str) -> list[Wire]:
        """The ways to those who can answer, its own workplace first."""
        home = self._home(whose)
        there = sorted(self._all, key=lambda one: (one.number - home) % self.number)
        return [wire for one in there if (wire := one.wire)]

    def _home(self, whose: str) -> int:
        """Where something is worked out, whether that is there now or not: at first, where the fewest things are."""
        with self._one_at_a_time:
            if whose not in self._homes:
                counts = Counter(self._homes.values())
                self._homes[whose] = min(range(self.number), key=lambda number: counts[number])
                if len(self._homes) > _MOST:
                    self._homes.popitem(last=False)
            self._homes.move_to_end(whose)
            return self._homes[whose]


def shared(application: Wsgi, workplaces: Workplaces) -> Wsgi:
    """An application whose calls are worked out at workplaces, or here where none of them can."""
    if not workplaces.number:
        return application

    def answer(environ: Environ, start_response: Any) -> Iterable[bytes]:
        path = environ["PATH_INFO"]
        whose = _WHOSE.match(path)
        for wire in workplaces.wires(whose[1]) if whose and not _OWN.match(path) else ():
            try:
                return _given(wire.ask(environ), start_response)
            except Unreached:
                continue
            except CutOff:
                if environ["REQUEST_METHOD"] not in ("GET", "HEAD") and not _DONE_ONCE.match(path):
                    return _given(_may_be_done(), start_response)
        if environ.get("CONTENT_LENGTH"):
            environ["wsgi.input"].seek(0)
        return application(environ, start_response)

    return answer


def _may_be_done() -> Answer:
    body = json.dumps({"message": _CUT_OFF}).encode()
    headers = [("Content-Type", "application/json"), ("Content-Length", str(len(body)))]
    return Answer(HTTPStatus.SERVICE_UNAVAILABLE, headers, body)


def _given(answer: Answer, start_response: Any) -> list[bytes]:
    start_response(f"{answer.status} {HTTPStatus(answer.status).phrase}", answer.headers)
    return [answer.body]
