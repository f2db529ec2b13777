"""What the lines of a drawing are for: rows by layer or by colour, each with a first guess and its reason."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal, get_args

from ..document.operations import operation_named
from .bent import bend_named
from .drawing import Drawing, DrawnLine

Purpose = Literal["cut", "score", "engrave", "pocket", "bend up", "bend down", "reference", "left out"]

PURPOSES: tuple[Purpose, ...] = get_args(Purpose)

_DEPTH = re.compile(r"(\d+(?:[.,]\d+)?)\s*mm", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Row:
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


def rows_of(drawing: Drawing) -> list[Row]:
    """The rows of a drawing: by layer where it has several, else by colour."""
    layers = {line.layer for line in drawing.lines}
    found: dict[str, list[DrawnLine]] = {}
    for line in drawing.lines:
        found.setdefault(key_of(line, len(layers) > 1), []).append(line)
    return [_row(key, lines) for key, lines in found.items()]


def key_of(line: DrawnLine, by_layer: bool) -> str:
    return (line.layer if by_layer else line.colour) or "all lines"


def _row(key: str, lines: list[DrawnLine]) -> Row:
    layer, colour = lines[0].layer, lines[0].colour
    said = bend_named(layer) or operation_named(layer)
    purpose: Purpose = next((one for one in PURPOSES if one == said), "cut")
    reason = f"its layer is called “{layer}”" if said else "nothing says otherwise"
    depth = _DEPTH.search(layer) if purpose == "pocket" else None
    return Row(key, layer, colour, len(lines), purpose, reason, float(depth[1].replace(",", ".")) if depth else None)


def purposes_of(rows: list[Row], chosen: Mapping[str, Purpose]) -> dict[str, Purpose]:
    """What each row is for: as chosen, else as guessed."""
    return {row.key: chosen.get(row.key, row.purpose) for row in rows}


def thickness_named(text: str) -> float | None:
    """A thickness in mm that a layer's or a file's name says: ``ply 5.6mm``."""
    match = _DEPTH.search(text)
    return float(match[1].replace(",", ".")) if match else None
