"""What was worked out of things of the document, so that an edit has only that done again which it touched."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from threading import Lock
from typing import Generic, TypeVar

from .reading import Reader

T = TypeVar("T")

#: What is kept of each kind: enough for a few of the largest projects there can be.
MOST = 8192


class Remembered(Generic[T]):
    """What one kind of work came to, each outcome kept with the very thing that it was done for.

    Edits leave the things that they do not change as they are, so being the same thing is told by identity; what
    else the work is given is compared.
    """

    def __init__(self) -> None:
        self._kept: OrderedDict[int, tuple[object, tuple[object, ...], T]] = OrderedDict()
        self._turn = Lock()

    def of(self, thing: object, given: tuple[object, ...], work: Callable[[], T]) -> T:
        """The outcome of ``work`` for a thing; ``given`` is everything else that it depends on."""
        kept = self._kept.get(id(thing))
        if kept is None or kept[0] is not thing or not _same(kept[1], given):
            kept = thing, given, work()
        with self._turn:
            self._kept[id(thing)] = kept
            self._kept.move_to_end(id(thing))
            if len(self._kept) > MOST:
                self._kept.popitem(last=False)
        return kept[2]


def _same(one: object, other: object) -> bool:
    """Whether two things given are equal. Parts that an edit left alone are one thing; arrays are not looked into."""
    if one is other:
        return True
    if type(one) is not type(other):
        return False
    if isinstance(one, tuple | list) and isinstance(other, tuple | list):
        return len(one) == len(other) and all(map(_same, one, other))
    try:
        return bool(one == other)
    except ValueError:
        # Somewhere in them are arrays, of which nobody says whether all of them or any is meant.
        return False


class Step(Generic[T]):
    """A step of an evaluation: what it read and told is read and told again with its outcome."""

    def __init__(self) -> None:
        self._done = Remembered[tuple[T, Reader]]()

    def of(self, thing: object, given: tuple[object, ...], reader: Reader, work: Callable[[Reader], T]) -> T:
        """The outcome of ``work`` for a thing; ``given`` is all else that it depends on, but for the reader's names."""

        def done() -> tuple[T, Reader]:
            told = reader.beside()
            return work(told), told

        outcome, told = self._done.of(thing, (given, reader.names), done)
        reader.take(told)
        return outcome
