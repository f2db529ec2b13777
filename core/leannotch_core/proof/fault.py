"""What a proof finds wrong: which kind of fault it is, in numbers, where on the sheet, and what mends it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

Point = complex

#: Where in the application a kind of fault is mended.
Station = Literal["Measure", "Shape", "Join", "Lay out", "Prepare", "Hand over"]

Code = Literal[
    "unreadable",
    "unit",
    "kerf-statement",
    "no-end",
    "no-cuts",
    "open-line",
    "doubled",
    "crossing",
    "line-count",
    "order",
    "tabs",
    "not-free",
    "differs",
    "openings",
    "no-part",
    "lost",
    "pocket",
    "mark-lost",
    "mark-stray",
    "bend-line",
    "leg",
    "power",
    "passes",
    "beam-on",
    "switches",
    "own-lines",
    "depth",
    "stray-cut",
    "pass-depth",
    "feed",
    "spindle",
    "cutter",
    "direction",
    "danger",
    "z-datum",
    "alarm",
]

_AGAIN = "Write the file again; it is not as it was written"

#: What mends each kind, and at which station.
MENDS: Mapping[Code, tuple[Station, str]] = {
    "unreadable": ("Hand over", _AGAIN),
    "unit": ("Hand over", "State millimetres as the file was written, or write it again"),
    "kerf-statement": ("Hand over", "Write the file again, so that whoever cuts knows who makes up for the kerf"),
    "no-end": ("Hand over", "Write the file again: without its end a machine may stand with the beam or spindle on"),
    "no-cuts": ("Hand over", _AGAIN),
    "open-line": ("Hand over", "Close the line, or write the file again"),
    "doubled": ("Hand over", "Take one of the two lines out, or write the file again"),
    "crossing": ("Lay out", "Lay the parts further apart, or write the file again"),
    "line-count": ("Hand over", _AGAIN),
    "order": ("Prepare", "Put the running order back to its rule, or write the file again"),
    "tabs": ("Prepare", "Look at the holding tabs and the gap between parts, then write the file again"),
    "not-free": ("Hand over", "Look at its outline in the file, or write the file again"),
    "differs": ("Hand over", "Look at the kerf or the cutter, then write the file again"),
    "openings": ("Shape", "Make the cut-out wider than the kerf or the cutter, or write the file again"),
    "no-part": ("Hand over", "Take its outline out of the file, or write the file again"),
    "lost": ("Shape", "Make the cut-out wider than the kerf or the cutter, or use a thinner cutter"),
    "pocket": ("Prepare", "Look at the cutters for pockets and their rest, then write the file again"),
    "mark-lost": ("Hand over", "Put it back where it was, or write the file again"),
    "mark-stray": ("Hand over", "Take it out of the file, or write the file again"),
    "bend-line": ("Hand over", "Write the file again with its bend lines"),
    "leg": ("Shape", "Look at the bend and what its stock says of bends, then write the file again"),
    "power": ("Prepare", "Look at the settings of this row, then write the file again"),
    "passes": ("Prepare", "Look at how often this row is gone over, then write the file again"),
    "beam-on": ("Hand over", "Write the file again: the beam must be off where it only moves"),
    "switches": ("Hand over", "Look at the machine's words for on and off, then write the file again"),
    "own-lines": ("Hand over", "Put the machine's own lines back where its profile has them, or write the file again"),
    "depth": ("Prepare", "Look at thickness, overcut and depths, then write the file again"),
    "stray-cut": ("Hand over", _AGAIN),
    "pass-depth": ("Prepare", "Take smaller steps down, or write the file again"),
    "feed": ("Prepare", "Look at the feeds of this row, then write the file again"),
    "spindle": ("Hand over", "Write the file again: the spindle turns as its cutter does, and is waited for"),
    "cutter": ("Prepare", "Put that cutter on the rack, or write the file again for those that are on it"),
    "direction": ("Prepare", "Choose climb or conventional as it is cut, or write the file again"),
    "danger": ("Prepare", "Write the file again before anything is cut with it"),
    "z-datum": ("Measure", "Touch off where the program says, or set the machine's z datum and write it again"),
    "alarm": ("Prepare", "The machine would stop here: look at the bed, the sheet's place on it, and its settings"),
}


@dataclass(frozen=True, slots=True)
class Fault:
    """One thing that is wrong with a file, as a sentence, and where on the sheet (mm) if there is such a place."""

    code: Code
    text: str
    at: Point | None = None

    @property
    def mend(self) -> str:
        """A sentence on what to do about it."""
        return MENDS[self.code][1]

    @property
    def station(self) -> Station:
        return MENDS[self.code][0]
