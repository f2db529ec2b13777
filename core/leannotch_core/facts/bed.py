"""The bed: where its coordinates run from and to, and where the sheet lies on it.

A bed is looked at as one stands before it: x right and y up from its lower left corner, whatever the machine counts.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from ..document.machine import Machine
from ..document.model import Corner
from ..document.preparation import OnBed
from ..document.sizes import Size, length, positive
from ..document.sums import SizeError
from ..geometry.segment import Motion, Point, move
from ..said import Said


class NoBed(Said):
    """A bed or a datum that cannot be worked with; the message is a sentence to show."""


@dataclass(frozen=True, slots=True)
class Bed:
    """A bed in numbers (mm). ``axes`` takes what is seen of it to the machine's coordinates."""

    width: float
    height: float
    axes: Motion


def bed_of(machine: Machine) -> Bed:
    """Raises `NoBed`."""
    width, height = (
        _read(f"{machine.name}, {what} of the bed", size, positive)
        for what, size in (("width", machine.bed_width), ("height", machine.bed_height))
    )
    datum = corner(machine.datum, width, height)
    across, up = (1 if machine.x_runs == "right" else -1), (1 if machine.y_runs == "up" else -1)
    mirrored = across != up
    shift = -across * (datum.conjugate() if mirrored else datum)
    return Bed(width, height, Motion(across, shift, mirrored))


def lying(on_bed: OnBed, machine: Machine, bed: Bed, width: float, height: float) -> tuple[Motion, Point]:
    """What takes a sheet of a width and height (mm) to the bed that it lies on, as it is seen, and where it is held.

    Raises `NoBed`.
    """
    at = bed.axes.back(complex(_read("datum, x", on_bed.x), _read("datum, y", on_bed.y)))
    if on_bed.by == "mark":
        held = complex(_read("mark, x", on_bed.mark_x), _read("mark, y", on_bed.mark_y))
    else:
        held = corner(machine.datum if on_bed.by == "the datum" else on_bed.by, width, height)
    return Motion(1, -held).then(move(on_bed.turn % 360, at)), at


def corner(which: Corner, width: float, height: float) -> Point:
    """A corner of a rectangle of a width and height (mm) whose lower left one is 0."""
    return complex(width if "right" in which else 0, height if "top" in which else 0)


def _read(what: str, size: Size, reader: Callable[[Size, dict[str, float]], float] = length) -> float:
    try:
        return reader(size, {})
    except SizeError as error:
        raise NoBed(f"{what}: {error}.") from error
