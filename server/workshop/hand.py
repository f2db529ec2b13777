"""The hand goes first: what is only told beside an edit is looked for while nobody's edit is being worked out.

Threads of one interpreter share a processor: with others looking, an edit takes as many times as long.
"""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager

#: So long (s) a look waits for edits in all its steps together: whoever looks gets on too, however many edit.
PATIENCE = 0.5

_changed = threading.Condition()
#: The threads that work an edit out.
_edits: list[int] = []
_look = threading.Lock()
#: How long this thread's look has still to wait: what an edit or an opened page looks at as well does not.
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
        _here.patience = PATIENCE
        try:
            yield
        finally:
            _here.patience = 0.0


def let_edits_first() -> None:
    """Waits before a step of looking, where it is one."""
    patience = getattr(_here, "patience", 0.0)
    if patience > 0:
        began = time.monotonic()
        with _changed:
            _changed.wait_for(lambda: not _edits, patience)
        _here.patience = patience - (time.monotonic() - began)
