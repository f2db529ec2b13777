"""Bend lines on a sheet: drawn for those who bend, never for the machine; with what is written beside them."""

from __future__ import annotations

import cmath
import math
from collections.abc import Iterator
from dataclasses import dataclass

from ..bends.laid import LaidBend
from ..document.sheet import Placement
from ..document.sizes import shown
from ..evaluate import EvaluatedPart
from ..geometry.segment import Line, Motion, Point, Source
from ..layout.sheets import motion
from .path import CutPath


@dataclass(frozen=True, slots=True)
class WrittenWords:
    """Words beside a line, for people: their left end on the baseline (mm), degrees turned, and height of capitals."""

    words: str
    at: Point
    turn: float
    height: float

    def moved(self, place: Motion) -> WrittenWords:
        turned = math.degrees(cmath.phase(place.turn))
        return WrittenWords(self.words, place(self.at), self.turn + turned, self.height)


def bend_lines(part: EvaluatedPart, placement: Placement, tangents: bool) -> Iterator[CutPath]:
    """The middle lines of a copy's bends on its sheet, and where each begins and ends if those are wanted.

    A copy that lies on its face is bent the other way, as one sees it there.
    """
    place = motion(placement)
    for bend in part.bends:
        if bend.half <= 0:
            continue
        yield _line(bend, "bend-up" if bend.up != placement.mirrored else "bend-down", bend.start, bend.end, place)
        for start, end in bend.tangents if tangents else ():
            yield _line(bend, "bend-tangent", start, end, place)


def bend_words(part: EvaluatedPart, placement: Placement) -> Iterator[WrittenWords]:
    """What is to be known of each bend, beside its line on the sheet."""
    place = motion(placement)
    for bend in part.bends:
        if bend.half > 0:
            at, along = place(bend.start), place(bend.end) - place(bend.start)
            # Words are read from below or from the right, whichever way their line was drawn.
            if (along.real, along.imag) < (0.0, 0.0):
                at, along = at + along, -along
            lifted = along / abs(along) * (1 + 1j)
            up = bend.up != placement.mirrored
            yield WrittenWords(told(bend, up), at + lifted, math.degrees(cmath.phase(along)), 2.5)


def told(bend: LaidBend, up: bool) -> str:
    """A bend in words: ``90° up, R 2 mm, K 0.40, BD 3.61 mm``."""
    numbers = bend.bend
    way = "up" if up else "down"
    return f"{numbers.angle:g}° {way}, R {shown(numbers.radius)}, K {numbers.k:.3f}, BD {shown(numbers.deduction)}"


def _line(bend: LaidBend, operation: str, start: Point, end: Point, place: Motion) -> CutPath:
    return CutPath(operation, (Line(start, end, Source(bend.id, "bend")).moved(place),), False)
