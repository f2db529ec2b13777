"""Who asks: the maker whose call is being answered, if it is one who came in by a name."""

from contextvars import ContextVar

#: The number of the maker's account; None for the operator, on this machine, and where there is no list of makers.
maker_asking: ContextVar[int | None] = ContextVar("maker_asking", default=None)
