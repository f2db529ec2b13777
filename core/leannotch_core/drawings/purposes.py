"""What the lines of a drawing are for: rows by layer or by colour, each with a first guess and its reason."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal, NamedTuple, get_args

from ..document.operations import operation_named
from .bent import bend_named
from .drawing import Drawing, DrawnLine

Purpose = Literal["cut", "score", "engrave", "pocket", "bend up", "bend down", "reference", "left out"]

PURPOSES: tuple[Purpose, ...] = get_args(Purpose)

_DEPTH = re.compile(r"(\d+(?:[.,]\d+)?)\s*mm", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class LinesRow:
    """Lines that belong together in a file. ``key`` names the row, ``reason`` says why its purpose was guessed;
    ``depth`` (mm) is that of a pocket, where its name says one.
    """

    key: str
    layer: str
    colour: str
    lines: int
    purpose: Purpose
    reason: str
    depth: float | None = None


class Keyed(NamedTuple):
    """By what the lines of a drawing are told apart: their layers or their colours, their types, or their widths."""

    by: tuple[Literal["layer", "colour", "style", "weight"], ...]

    def __call__(self, line: DrawnLine) -> str:
        """The key of the row that a line belongs to."""
        said = [(by, getattr(line, by)) for by in self.by]
        words = [f"{value:g} mm wide" if by == "weight" else value for by, value in said if value]
        return ", ".join(dict.fromkeys(words)) or "all lines"


def keyed(lines: Sequence[DrawnLine]) -> Keyed:
    """By what differs among lines: by their layers, else by their colours; by their types too; by widths alone."""
    differ = {by for by in ("layer", "colour", "style", "weight") if len({getattr(line, by) for line in lines}) > 1}
    first: Literal["layer", "colour"] = "layer" if "layer" in differ else "colour"
    if "style" in differ:
        return Keyed((first, "style")) if first in differ else Keyed(("style",))
    return Keyed(("weight",)) if first not in differ and "weight" in differ else Keyed((first,))


def rows_of(drawing: Drawing) -> list[LinesRow]:
    """The rows of a drawing: by layer, or by colour, by types of lines and by their widths, where they differ."""
    key_of = keyed(drawing.lines)
    found: dict[str, list[DrawnLine]] = {}
    for line in drawing.lines:
        found.setdefault(key_of(line), []).append(line)
    return [_row(key, lines) for key, lines in found.items()]


def _row(key: str, lines: list[DrawnLine]) -> LinesRow:
    layer, colour, style = lines[0].layer, lines[0].colour, lines[0].style
    purpose, reason = _guessed(layer, style)
    depth = _DEPTH.search(layer) if purpose == "pocket" else None
    return LinesRow(
        key, layer, colour, len(lines), purpose, reason, float(depth[1].replace(",", ".")) if depth else None
    )


def _guessed(layer: str, style: str) -> tuple[Purpose, str]:
    """What lines are for, and why."""
    if is_centre(style):
        return "reference", f"its line type is “{style}”, as centre lines have it"
    said = bend_named(style) or bend_named(layer) or operation_named(layer)
    found: Purpose | None = next((one for one in PURPOSES if one == said), None)
    if found:
        return found, f"its line type is “{style}”" if bend_named(style) else f"its layer is called “{layer}”"
    if is_centre(layer):
        return "reference", f"its layer is called “{layer}”, as centre lines are"
    return "cut", "nothing says otherwise"


#: What centre lines, and outlines that show where else a thing may be, are called: the long dash and dots of ISO 128-2
#: (types 04, 05 and 08 to 13, as files number them), ASME Y14.2 and DIN 15 (all from memory).
_CENTRE = re.compile(
    r"cent(?:er|re)[ _-]?(?:lines?|marks?)?(?:x?2)?|axis|axes|mittell?inien?|phantom(?:x?2)?|(?:dashdot|divide)(?:x?2)?"
    r"|(?:acad|am)_iso(?:04|05|08|09|1[0-3])w\d+(?:x2)?",
    re.IGNORECASE,
)


def is_centre(name: str) -> bool:
    """Whether a layer or a line type is called as those are that nothing is cut along."""
    return bool(_CENTRE.fullmatch(name.strip()))


def purposes_of(rows: list[LinesRow], chosen: Mapping[str, Purpose]) -> dict[str, Purpose]:
    """What each row is for: as chosen, else as guessed."""
    return {row.key: chosen.get(row.key, row.purpose) for row in rows}


def thickness_named(text: str) -> float | None:
    """A thickness in mm that a layer's or a file's name says: ``ply 5.6mm``."""
    match = _DEPTH.search(text)
    return float(match[1].replace(",", ".")) if match else None
