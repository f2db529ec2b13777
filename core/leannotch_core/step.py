"""A step of an evaluation, remembered with what it read and told."""

from __future__ import annotations

from collections.abc import Callable
from typing import Generic, TypeVar

from .facts.reading import Reader
from .remembered import Remembered

T = TypeVar("T")


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
