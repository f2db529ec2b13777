"""Who asks: the maker whose call is being answered, if it is one who came in by a name."""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar

#: The number of the maker's account; None for the operator, on this machine, and where there is no list of makers.
maker_asking: ContextVar[int | None] = ContextVar("maker_asking", default=None)


@contextmanager
def asked_for(maker: int | None) -> Iterator[None]:
    """While this lasts, something is done for the maker who asked for it, in whatever process."""
    before = maker_asking.set(maker)
    try:
        yield
    finally:
        maker_asking.reset(before)
