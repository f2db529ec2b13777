"""Blocks of G-code: the words of a line, and which of them exclude each other (NISTIR 6556, 3.3 and 3.4)."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from types import MappingProxyType
from typing import NamedTuple

from ...document.machine import Machine
from ...said import Said

#: A line has at most so many characters (NISTIR 6556, 3.3).
LONGEST = 256

_WORD = re.compile(r"([A-Z])([+-]?(?:\d+\.?\d*|\.\d+))")
_NUMBER = re.compile(r"^N\d+\s*", re.IGNORECASE)
_COMMENT = re.compile(r"\(([^()]*)\)|;(.*)$")
#: A line may begin with a slash, to be left out where the machine's switch says so, and with its program's number.
_SLASH, _PROGRAM = re.compile(r"^/\d?"), re.compile(r"^(?:N\d+)?[O:](\d+)")

#: What a line without codes or words has.
_NO_CODES: frozenset[int] = frozenset()
_NO_WORDS: Mapping[str, float] = MappingProxyType({})

#: Codes by modal group: of one group only one may stand on a line (NISTIR 6556, table 4). In tenths: G38.2 is 382.
_GROUPS: Mapping[str, Mapping[str, frozenset[int]]] = {
    "G": {
        "what is done once": frozenset({40, 280, 300, 530, 920, 921, 922}),
        "motion": frozenset({0, 10, 20, 30, 800, 810, 820, 830}),
        "plane": frozenset({170}),
        "distance": frozenset({900, 910}),
        "how centres of arcs are told": frozenset({901, 911}),
        "feed": frozenset({940}),
        "unit": frozenset({200, 210}),
        "cutter compensation": frozenset({400}),
        "tool length": frozenset({430, 490}),
        "coordinates": frozenset({540, 550, 560, 570, 580, 590, 591, 592, 593}),
        "path": frozenset({610, 611, 640}),
        "where a cycle ends": frozenset({980, 990}),
    },
    "M": {
        "stop": frozenset({0, 10, 20, 300}),
        "tool change": frozenset({60}),
        "spindle": frozenset({30, 40, 50, 1060, 1070}),
        "coolant": frozenset({70, 80, 90}),
        "override": frozenset({480}),
        "another program": frozenset({980, 990}),
    },
}
_GROUP_OF = {(letter, code): name for letter, all_ in _GROUPS.items() for name, codes in all_.items() for code in codes}

#: A line with one code, as most of those that have any.
_ALONE = {
    (letter, code / 10): (frozenset({code}), _NO_CODES) if letter == "G" else (_NO_CODES, frozenset({code}))
    for letter, code in _GROUP_OF
}

#: Codes that are known and not carried out, and why.
_REFUSED: Mapping[tuple[str, int], str] = {
    **{("G", code): "arcs and cutters are carried out in the plane of x and y alone" for code in (180, 190)},
    **{("G", code): "where the cutter's middle goes is not in the program" for code in (410, 420, 411, 421)},
    **{("G", code): "it changes the machine's own tables" for code in (100, 520, 431, 432)},
    **{("G", code): "what a probe meets is not in the program" for code in (382, 383, 384, 385)},
    **{("G", code): "a rate by time or by turns is none that can be proved" for code in (930, 950, 960)},
    **{
        ("G", code): "only the cycles G81, G82 and G83 are carried out"
        for code in (730, 740, 760, *range(840, 900, 10))
    },
    **{("G", code): "splines are not carried out" for code in (50, 51, 52)},
    ("G", 923): "offsets of another program are not in this one",
    **{("M", code): "it turns the work or swaps the table" for code in (190, 600, 610)},
    ("M", 490): "overrides that are switched off are the machine's own",
}

#: Letters of codes, and those whose numbers are taken; others are unknown words.
_CODED, _LETTERS = frozenset("GM"), frozenset("DFGHIJKLMNPQRSTXYZ")

#: Letters of axes that a machine for sheets does not have.
_AXES = frozenset("ABCUVWE")

#: Letters of places: how finely they are written tells how exact an arc can be.
_PLACES = frozenset("XYIJ")


class BadBlock(Said):
    """A line that cannot be carried out: its number in the file, and a sentence to show."""

    def __init__(self, line: int, text: str) -> None:
        super().__init__(f"Line {line}: {text}")
        self.line, self.text = line, text


class Block(NamedTuple):
    """The words of a line: G and M codes in tenths, all others by their letters, and what is in its comments.

    One that is the machine's ``own`` stands in the program as its profile has it; what of it can be read is carried out
    like any other, and what cannot moves nothing. ``program`` is the number that begins one, ``digits`` how finely its
    places are written, ``slashed`` whether it may be left out.
    """

    line: int
    g: frozenset[int] = _NO_CODES
    m: frozenset[int] = _NO_CODES
    words: Mapping[str, float] = _NO_WORDS
    comments: tuple[str, ...] = ()
    own: str = ""
    program: int | None = None
    digits: int = 0
    slashed: bool = False

    @property
    def says(self) -> bool:
        """Whether anything stands on the line."""
        return bool(self.g or self.m or self.words or self.comments or self.own or self.program is not None)


class Dialect(NamedTuple):
    """What a machine says in place of the standard: whole lines of its own, how it switches on and off, and what is
    meant where a beam is switched on and no S says how much.

    ``radii`` is how far (mm) those of an arc may differ, where it is said.
    """

    own: frozenset[str] = frozenset()
    on: str = "M3"
    off: str = "M5"
    without_s: float = 1.0
    radii: float | None = None

    @classmethod
    def of(cls, machine: Machine) -> Dialect:
        own = frozenset(line.strip() for line in (*machine.begins, *machine.ends))
        full = machine.most if machine.kind == "beam" else 0.0
        return cls(own, machine.switches_on.strip(), machine.switches_off.strip(), full, machine.radii)

    def is_own(self, line: str) -> bool:
        """Whether a line is the machine's own, as its profile has it."""
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
    plain = (dialect.on, dialect.off) == ("M3", "M5")
    for number, line in enumerate(text.removeprefix("\ufeff").splitlines(), 1):
        if dialect.own and dialect.is_own(line):
            yield _own(number, line, dialect)
            continue
        block = _block(number, line if plain else dialect.read(line))
        if block.says:
            yield block


#: Places that a line names.
_SAYS_WHERE = re.compile(r"[XYZIJ]\s*[-+]?\.?\d", re.IGNORECASE)


def _own(number: int, line: str, dialect: Dialect) -> Block:
    """A line of the machine's own: its comments and numbers say nothing to the reader. Raises `BadBlock`."""
    text = _unnumbered(line)
    try:
        block = _block(number, dialect.read(text))
    except BadBlock as error:
        if _SAYS_WHERE.search(_COMMENT.sub("", text)):
            raise BadBlock(number, f"“{text}” of the machine's profile names places, and cannot be read") from error
        block = Block(number)
    return block._replace(own=text, comments=(), program=None)


def _block(number: int, line: str) -> Block:
    if len(line) > LONGEST:
        raise BadBlock(number, f"it has {len(line)} characters; at most {LONGEST} are read")
    comments: tuple[str, ...] = ()
    # Most lines have none, and there are many of them.
    if "(" in line or ";" in line:
        comments = tuple((match[1] if match[1] is not None else match[2]).strip() for match in _COMMENT.finditer(line))
        line = _COMMENT.sub("", line)
    bare = "".join(line.split()).upper().strip("\0")
    if bare in ("", "%"):
        return Block(number, comments=comments)
    slashed, program = False, None
    if bare[0] in "/NO:":
        slashed = bool(_SLASH.match(bare))
        bare = _SLASH.sub("", bare)
        named = _PROGRAM.match(bare)
        program = int(named[1]) if named else None
        bare = bare[named.end() :] if named else bare
    return _of_words(Block(number, comments=comments, program=program, slashed=slashed), bare)


def _of_words(block: Block, bare: str) -> Block:
    """The block with the words of its line, without spaces and comments. Raises `BadBlock`."""
    codes: list[tuple[str, float]] = []
    words: dict[str, float] = {}
    place = digits = 0
    for match in _WORD.finditer(bare):
        if match.start() != place:
            break
        letter, text = match.groups()
        place = match.end()
        if letter in _CODED:
            codes.append((letter, float(text)))
            continue
        if letter in words or letter not in _LETTERS:
            raise _untaken(block.line, letter, text)
        words[letter] = float(text)
        if letter in _PLACES:
            digits = max(digits, len(text) - 1 - text.rfind(".") if "." in text else 0)
    # A code that is not carried out is told before what behind it cannot be read.
    g, m = _codes(block.line, codes) if codes else (_NO_CODES, _NO_CODES)
    if place < len(bare):
        raise _unread(block.line, bare[place : place + 12])
    return block._replace(g=g, m=m, words=words, digits=digits)


def _unread(number: int, text: str) -> BadBlock:
    if "#" in text or "[" in text:
        return BadBlock(number, f"“{text}” is to be worked out; variables and sums of a program are not carried out")
    return BadBlock(number, f"“{text}” is no word of a letter and a number")


def _untaken(number: int, letter: str, text: str) -> BadBlock:
    """Why a word cannot be taken."""
    if letter in _AXES:
        return BadBlock(number, f"the word {letter}{text} moves an axis that a machine for sheets does not have")
    if letter not in _LETTERS:
        return BadBlock(number, f"the word {letter}{text} is not known to this machine")
    return BadBlock(number, f"{letter} stands on it twice")


def _codes(number: int, said: Sequence[tuple[str, float]]) -> tuple[frozenset[int], frozenset[int]]:
    """The G and the M codes of a line. Raises `BadBlock`."""
    if len(said) == 1 and said[0] in _ALONE:
        return _ALONE[said[0]]
    codes: dict[str, set[int]] = {"G": set(), "M": set()}
    groups: dict[tuple[str, str], int] = {}
    for letter, value in said:
        _take_code(number, letter, value, codes[letter], groups)
    return frozenset(codes["G"]), frozenset(codes["M"])


def _take_code(number: int, letter: str, value: float, taken: set[int], groups: dict[tuple[str, str], int]) -> None:
    code = round(value * 10)
    if abs(code - value * 10) > 1e-6 or (letter, code) not in _GROUP_OF:
        why = _REFUSED.get((letter, code))
        raise BadBlock(
            number,
            f"the word {letter}{value:g} is not carried out: {why}"
            if why
            else f"the word {letter}{value:g} is not known to this machine",
        )
    group = _GROUP_OF[letter, code]
    if groups.get((letter, group), code) != code:
        before = groups[letter, group] / 10
        raise BadBlock(
            number, f"{letter}{before:g} and {letter}{value:g} exclude each other on one line: both say {group}"
        )
    groups[letter, group] = code
    taken.add(code)
