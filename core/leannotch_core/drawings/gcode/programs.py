"""Programs within a program: called by M98 with their number, ended by M99 (common practice, no source)."""

from __future__ import annotations

import re
from collections.abc import Iterator

from .words import BadBlock, Block, Dialect, blocks

#: Programs call one another no deeper, and all calls together come to no more lines.
_DEEPEST, _MOST = 10, 300_000

_CALLS = re.compile(r"M\s*0*98(?!\d)", re.IGNORECASE)

_CALL, _RETURN, _ENDS = 980, 990, frozenset({20, 300})

#: A call may say with one number which program and how often: 30012 is program 12, three times.
_TIMES = 10_000


def called_through(text: str, dialect: Dialect) -> Iterator[Block]:
    """The blocks of a program with those of the programs that it calls where they are called.

    Raises `BadBlock` where there is no such program, or where calls never end.
    """
    if not _CALLS.search(text):
        for block in blocks(text, dialect):
            _check_return(block)
            yield block
        return
    whole = list(blocks(text, dialect))
    yield from _Calls(whole).main()


def _check_return(block: Block) -> None:
    """Raises `BadBlock` where a program that nobody called would go back."""
    if _RETURN in block.m:
        raise BadBlock(block.line, "M99 stands in no program that is called: it would begin again without end")


class _Calls:
    def __init__(self, whole: list[Block]) -> None:
        self._whole = whole
        begins = {block.program: at for at, block in enumerate(whole) if block.program is not None}
        self._bodies = {number: body for number, at in begins.items() if (body := self._body(at)) is not None}
        self._carried_out = 0

    def main(self) -> Iterator[Block]:
        """What is no part of a program that is called."""
        within = {at for body in self._bodies.values() for at in body}
        for at, block in enumerate(self._whole):
            if at not in within:
                yield from self._through(block, ())

    def _body(self, begin: int) -> range | None:
        """From where a program begins to its M99; the main one has none before it ends."""
        for at in range(begin, len(self._whole)):
            block = self._whole[at]
            if block.m & _ENDS or (at > begin and block.program is not None):
                return None
            if _RETURN in block.m:
                return range(begin, at + 1)
        return None

    def _through(self, block: Block, within: tuple[int, ...]) -> Iterator[Block]:
        self._carried_out += 1
        if self._carried_out > _MOST:
            raise BadBlock(block.line, f"its calls come to more than {_MOST} lines")
        if not within:
            _check_return(block)
        if _CALL not in block.m:
            yield block
            return
        number, times = self._called(block)
        if number in within or len(within) >= _DEEPEST:
            raise BadBlock(block.line, f"program {number} calls itself, or calls go deeper than {_DEEPEST}")
        for _ in range(times):
            for at in self._bodies[number]:
                yield from self._through(self._whole[at], (*within, number))

    def _called(self, block: Block) -> tuple[int, int]:
        """Which program is called, and how often."""
        if "P" not in block.words:
            raise BadBlock(block.line, "M98 does not say with P which program is called")
        number, times = int(block.words["P"]), int(block.words.get("L", block.words.get("K", 1)))
        if number not in self._bodies and number % _TIMES in self._bodies:
            number, times = number % _TIMES, number // _TIMES
        if number not in self._bodies:
            raise BadBlock(block.line, f"M98 calls program {number}, which is not in the file or has no M99")
        return number, max(0, times)
