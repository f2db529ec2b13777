"""What was worked out of things of the document, so that an edit has only that done again which it touched.

It is bounded by bytes: whenever what is in use has grown by `MOST_BYTES`, all that was not used since the last time
goes.
"""

from __future__ import annotations

import ctypes
import sys
from collections.abc import Callable
from functools import update_wrapper
from threading import Lock
from typing import Generic, ParamSpec, TypeVar

P = ParamSpec("P")
T = TypeVar("T")

#: By how much (bytes) what is in use may grow before what lies idle goes.
MOST_BYTES = 64 * 1024 * 1024

#: What is kept of each kind: enough for a few of the largest projects there can be.
MOST = 8192

#: After so many new outcomes the memory is looked at.
_EVERY = 64


class _Lately(Generic[T]):
    """Outcomes by their keys in two ages: those used since the last turn, and those used in the age before it."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._used: dict[object, T] = {}
        self._before: dict[object, T] = {}
        _LEVEL.watch(self)

    def get(self, key: object) -> T | None:
        found = self._used.get(key)
        if found is None:
            found = self._before.get(key)
            if found is not None:
                self._used[key] = found
        return found

    def put(self, key: object, outcome: T) -> None:
        if len(self._used) >= self._most:
            self.turn()
        self._used[key] = outcome
        _LEVEL.look()

    def turn(self) -> None:
        """A new age begins: what was not used in the last one is forgotten."""
        self._before, self._used = self._used, {}

    def clear(self) -> None:
        self._before, self._used = {}, {}


class _Level:
    """Sees to it that what is remembered does not grow without end."""

    def __init__(self) -> None:
        self._kinds: list[_Lately[object]] = []
        self._new = 0
        self._lowest = 0
        self._turn = Lock()

    def watch(self, kind: _Lately[T]) -> None:
        self._kinds.append(kind)  # type: ignore[arg-type]  # nothing is put into it from here

    def look(self) -> None:
        self._new += 1
        if self._new < _EVERY or not self._turn.acquire(blocking=False):
            return
        try:
            self._new = 0
            now = _bytes_in_use()
            # At first, and after anything else was given back, it is counted from there.
            self._lowest = min(now, self._lowest or now)
            if now - self._lowest > MOST_BYTES:
                for kind in self._kinds:
                    kind.turn()
                self._lowest = _bytes_in_use()
        finally:
            self._turn.release()

    def forget(self) -> None:
        for kind in self._kinds:
            kind.clear()


_LEVEL = _Level()


#: What a small object takes of the memory, about (bytes): Python tells how many there are, not how large.
_SMALL = 80


class _Allocated(ctypes.Structure):
    """What the C library says of its memory (mallinfo(3)); ``mapped`` and ``used`` are bytes in use."""

    _fields_ = [
        (name, ctypes.c_size_t)
        for name in ("arena", "free", "fast", "maps", "mapped", "most", "fast_bytes", "used", "free_bytes", "top")
    ]


#: The C library of Linux tells; elsewhere what the interpreter counts has to do.
_told_by_c = getattr(ctypes.CDLL(None), "mallinfo2", None) if sys.platform == "linux" else None
if _told_by_c:
    _told_by_c.restype = _Allocated


def _bytes_in_use() -> int:
    """What the process uses of its memory, not what it was given: what is let go of is not always given back."""
    large = _told_by_c() if _told_by_c else _Allocated()
    return int(sys.getallocatedblocks() * _SMALL + large.used + large.mapped)


def forget_all() -> None:
    """Forgets everything, so that it is worked out from nothing."""
    _LEVEL.forget()


class _Given:
    """What a function was given, with its hash worked out once: that of a large outline takes long."""

    __slots__ = ("hashed", "values")

    def __init__(self, values: tuple[object, ...]) -> None:
        self.values, self.hashed = values, hash(values)

    def __hash__(self) -> int:
        return self.hashed

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Given) and self.values == other.values


class Function(Generic[P, T]):
    """A function whose outcomes are remembered by the values that it was given."""

    def __init__(self, work: Callable[P, T], most: int) -> None:
        self._work = work
        self._lately = _Lately[tuple[T]](most)
        update_wrapper(self, work)

    def __call__(self, *args: P.args, **kwargs: P.kwargs) -> T:
        key = _Given((args, *kwargs.items()) if kwargs else args)
        found = self._lately.get(key)
        if found is None:
            # None is an outcome too.
            found = (self._work(*args, **kwargs),)
            self._lately.put(key, found)
        return found[0]

    def forget(self) -> None:
        self._lately.clear()


def remembered(most: int) -> Callable[[Callable[P, T]], Function[P, T]]:
    """For a function whose outcome follows from what it is given alone; about ``most`` of them are kept.

    >>> @remembered(most=2)
    ... def square(length: float) -> float:
    ...     return length * length
    >>> square(3)
    9
    """
    return lambda work: Function(work, most)


class Remembered(Generic[T]):
    """What one kind of work came to, each outcome kept with the very thing that it was done for.

    Edits leave the things that they do not change as they are, so being the same thing is told by identity; what
    else the work is given is compared.
    """

    def __init__(self) -> None:
        self._lately = _Lately[tuple[object, tuple[object, ...], T]](MOST)

    def of(self, thing: object, given: tuple[object, ...], work: Callable[[], T]) -> T:
        """The outcome of ``work`` for a thing; ``given`` is everything else that it depends on."""
        kept = self._lately.get(id(thing))
        if kept is None or kept[0] is not thing or not _same(kept[1], given):
            kept = thing, given, work()
            self._lately.put(id(thing), kept)
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
