"""Files that the shell names, and sizes that it says."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import click
from leannotch_core.document.limits import LARGEST_DRAWING
from leannotch_core.document.sizes import Size
from leannotch_core.document.sums import SizeError
from leannotch_core.drawings.drawing import BrokenFile


def content(path: Path, most: int = LARGEST_DRAWING) -> bytes:
    """The content of a file of at most so many bytes. Raises `BrokenFile`."""
    try:
        if path.stat().st_size > most:
            raise BrokenFile(f"{path} has more than {most / 1e6:.0f} MB, which is not read.")
        return path.read_bytes()
    except (OSError, ValueError) as error:
        if isinstance(error, BrokenFile):
            raise
        why = error.strerror if isinstance(error, OSError) and error.strerror else "it has no such name"
        raise BrokenFile(f"{path} cannot be read: {why}.") from error


class _File(click.ParamType[Path]):
    """A file's name, whatever it is: who opens it says what is wrong with it."""

    name = "file"

    def convert(self, value: object, param: click.Parameter | None, ctx: click.Context | None) -> Path:
        return Path(str(value))


FILE = _File()


class Millimetres(click.ParamType[float]):
    """A size as it is typed in the application, from ``least`` to ``most`` mm."""

    name = "mm"

    def __init__(self, read: Callable[[Size, dict[str, float]], float], most: float, beyond: str) -> None:
        self._read, self._most, self._beyond = read, most, beyond

    def convert(self, value: object, param: click.Parameter | None, ctx: click.Context | None) -> float:
        if isinstance(value, float):
            return value
        try:
            size = self._read(Size(text=str(value)), {})
        except SizeError as error:
            self.fail(str(error), param, ctx)
        if not 0 <= size <= self._most:
            self.fail(self._beyond.format(size), param, ctx)
        return size
