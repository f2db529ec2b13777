"""Blocks of G-code: the words of a line, and which of them exclude each other (NISTIR 6556, 3.3 and 3.4)."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import NamedTuple

from ...document.machine import Machine

#: A line has at most so many characters (NISTIR 6556, 3.3).
LONGEST = 256

_WORD = re.compile(r"([A-Z])([+-]?(?:\d+\.?\d*|\.\d+))")
_NUMBER = re.compile(r"^N\d+\s*", re.IGNORECASE)
_COMMENT = re.compile(r"\(([^()]*)\)|;(.*)$")

#: Codes by modal group: of one group only one may stand on a line (NISTIR 6556, table 4). In tenths: G38.2 is 382.
_GROUPS: Mapping[str, Mapping[str, frozenset[int]]] = {
    "G": {
        "what is done once": frozenset({40, 530}),
        "motion": frozenset({0, 10, 20, 30, 800}),
        "plane": frozenset({170}),
        "distance": frozenset({900, 910}),
        "feed": frozenset({940}),
        "unit": frozenset({200, 210}),
        "cutter compensation": frozenset({400}),
        "tool length": frozenset({490}),
        "coordinates": frozenset({540}),
        "path": frozenset({610, 640}),
    },
    "M": {
        "stop": frozenset({0, 10, 20, 300}),
        "tool change": frozenset({60}),
        "spindle": frozenset({30, 40, 50}),
        "coolant": frozenset({70, 80, 90}),
    },
}
_GROUP_OF = {(letter, code): name for letter, all_ in _GROUPS.items() for name, codes in all_.items() for code in codes}

#: Letters whose numbers are taken; others are unknown words.
_LETTERS = frozenset("FGIJKMNPRSTXYZ")


class BadBlock(ValueError):  # noqa: N818 - it is a statement, and read as one
    """A line that cannot be carried out: its number in the file, and a sentence to show."""

    def __init__(self, line: int, text: str) -> None:
        super().__init__(f"Line {line}: {text}")
        self.line, self.text = line, text


@dataclass(frozen=True, slots=True)
class Block:
    """The words of a line: G and M codes in tenths, all others by their letters, and what is in its comments.

    One that is the machine's ``own`` has no words: it stands in the program as its profile has it.
    """

    line: int
    g: frozenset[int] = frozenset()
    m: frozenset[int] = frozenset()
    words: Mapping[str, float] = field(default_factory=dict)
    comments: tuple[str, ...] = ()
    own: str = ""

    def __bool__(self) -> bool:
        return bool(self.g or self.m or self.words or self.comments or self.own)


class Dialect(NamedTuple):
    """What a machine says in place of the standard: whole lines of its own, and how it switches on and off."""

    own: frozenset[str] = frozenset()
    on: str = "M3"
    off: str = "M5"

    @classmethod
    def of(cls, machine: Machine) -> Dialect:
        own = frozenset(line.strip() for line in (*machine.begins, *machine.ends))
        return cls(own, machine.switches_on.strip(), machine.switches_off.strip())

    def is_own(self, line: str) -> bool:
        """Whether a line is the machine's own: it says nothing of where it goes."""
        return _unnumbered(line) in self.own

    def read(self, line: str) -> str:
        """A line in standard words. To a machine with a word of its own for M3 that is another way round, as M4 is."""
        bare = _unnumbered(line)
        words = [(self.on, "M3"), (self.off, "M5"), *([("M3", "M4")] if self.on != "M3" else [])]
        for said, standard in words:
            if bare == said or bare.startswith(f"{said} "):
                return standard + bare.removeprefix(said)
        return line


def _unnumbered(line: str) -> str:
    """A line without the number that it may begin with."""
    return _NUMBER.sub("", line.strip())


def blocks(text: str, dialect: Dialect) -> Iterator[Block]:
    """The blocks of a program. Raises `BadBlock` at the first line that cannot be read."""
    for number, line in enumerate(text.splitlines(), 1):
        if dialect.own and dialect.is_own(line):
            yield Block(number, own=_unnumbered(line))
            continue
        block = _block(number, dialect.read(line))
        if block:
            yield block


def _block(number: int, line: str) -> Block:
    if len(line) > LONGEST:
        raise BadBlock(number, f"it has {len(line)} characters; at most {LONGEST} are read")
    comments = tuple((match[1] if match[1] is not None else match[2]).strip() for match in _COMMENT.finditer(line))
    bare = "".join(_COMMENT.sub("", line).split()).upper()
    if bare in ("", "%"):
        return Block(number, comments=comments)
    codes: dict[str, set[int]] = {"G": set(), "M": set()}
    groups: dict[tuple[str, str], int] = {}
    words: dict[str, float] = {}
    place = 0
    while place < len(bare):
        match = _WORD.match(bare, place)
        if not match:
            raise BadBlock(number, f"“{bare[place : place + 12]}” is no word of a letter and a number")
        letter, value, place = match[1], float(match[2]), match.end()
        if letter in codes:
            _take_code(number, letter, value, codes[letter], groups)
        elif letter not in _LETTERS:
            raise BadBlock(number, f"the word {letter}{match[2]} is not known to this machine")
        elif letter in words:
            raise BadBlock(number, f"{letter} stands on it twice")
        else:
            words[letter] = value
    return Block(number, frozenset(codes["G"]), frozenset(codes["M"]), words, comments)


def _take_code(number: int, letter: str, value: float, taken: set[int], groups: dict[tuple[str, str], int]) -> None:
    code = round(value * 10)
    if abs(code - value * 10) > 1e-6 or (letter, code) not in _GROUP_OF:
        raise BadBlock(number, f"the word {letter}{value:g} is not known to this machine")
    group = _GROUP_OF[letter, code]
    if (letter, group) in groups:
        before = groups[letter, group] / 10
        raise BadBlock(
            number, f"{letter}{before:g} and {letter}{value:g} exclude each other on one line: both say {group}"
        )
    groups[letter, group] = code
    taken.add(code)
