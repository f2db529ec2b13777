"""A typed size of a stock in numbers, or what cannot be read of it."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from ..document.sizes import Size, positive
from ..document.sums import SizeError


class UnknownFact(SizeError):  # noqa: N818 - it is a statement, and read as one
    """A size of a stock that cannot be read; ``field`` names it."""

    def __init__(self, field: str, why: str) -> None:
        super().__init__(f"{field}: {why}")
        self.field = field


def field_mm(what: str, size: Size, reader: Callable[[Size, Mapping[str, float]], float] = positive) -> float:
    """A size by its name, in mm. Raises `UnknownFact`."""
    try:
        return reader(size, {})
    except SizeError as error:
        raise UnknownFact(what, str(error)) from error
