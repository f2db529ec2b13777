"""The hand goes first: what is only told beside an edit is looked for while nobody's edit is being worked out.

Threads of one interpreter share a processor: with others looking, an edit takes as many times as long.
"""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager

#: So long (s) one step of looking waits for edits: whoever looks gets on too, however many edit.
PATIENCE = 0.3

_changed = threading.Condition()
#: The threads that work an edit out.
_edits: list[int] = []
_look = threading.Lock()
#: Whether this thread looks: what an edit or an opened page looks at as well does not wait.
_here = threading.local()


@contextmanager
def editing() -> Iterator[None]:
    """While an edit is worked out."""
    one = threading.get_ident()
    with _changed:
        _edits.append(one)
    try:
        yield
    finally:
        with _changed:
            _edits.remove(one)
            _changed.notify_all()


@contextmanager
def looking() -> Iterator[None]:
    """While it is looked for what is told beside an edit: one at a time."""
    with _look:
        _here.looks = True
        try:
            yield
        finally:
            _here.looks = False


def let_edits_first() -> None:
    """Waits before a step of looking, where it is one."""
    if getattr(_here, "looks", False):
        with _changed:
            _changed.wait_for(lambda: not _edits, PATIENCE)
