"""What takes long is told of on a screen, and never in a file."""

from __future__ import annotations

import sys
from collections.abc import Iterator
from contextlib import contextmanager

import click
from leannotch_core.drawings.apart import Heard

#: A file of so many bytes takes long.
_LONG = 1_000_000


@contextmanager
def told_on_a_screen(what: str, size: int) -> Iterator[Heard]:
    """A bar for work on a file of so many bytes; what hears of its share goes to the work."""
    hidden = size < _LONG or not sys.stderr.isatty()
    with click.progressbar(length=100, label=what, file=sys.stderr, hidden=hidden) as bar:

        def heard(share: float) -> bool:
            bar.update(max(0, int(100 * share) - bar.pos))
            return False

        yield heard
