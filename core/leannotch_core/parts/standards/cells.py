"""Batteries: round and prismatic cells, lying and standing."""

from __future__ import annotations

from ...geometry.loop import Outline, circle
from ...geometry.segment import Source
from ..shapes.rectangle import rectangle
from .thing import StandardThing

#: Largest diameter and height (mm) of round cells, with their everyday names.
ROUND: dict[str, tuple[float, float, str]] = {
    "LR03": (10.5, 44.5, "AAA"),
    "LR6": (14.5, 50.5, "AA"),
    "LR14": (26.2, 50.0, "C"),
    "LR20": (34.2, 61.5, "D"),
    "CR2032": (20.0, 3.2, "coin"),
}

#: Largest thickness, width and height (mm) of prismatic cells; the designation of IEC 61960 is made of them.
PRISMATIC: dict[str, tuple[float, float, float]] = {
    "ICP5/34/50": (5, 34, 50),
    "ICP6/34/50": (6, 34, 50),
    "ICP10/34/50": (10, 34, 50),
}

_GROUP = "Cells"


def cells() -> list[StandardThing]:
    """Round and prismatic cells at their largest, end on and lying; each with its standard."""
    found = []
    for name, (diameter, height, usual) in ROUND.items():
        source = "IEC 60086-2, largest size; from memory"
        says = f"{diameter:g} wide and {height:g} high"
        found.append(StandardThing(f"{name} cell ({usual}), end on", _GROUP, source, says, (_disc(diameter),)))
        found.append(StandardThing(f"{name} cell ({usual}), lying", _GROUP, source, says, (_box(height, diameter),)))
    # ICR19/66: up to 19 mm wide and 66 high, which is what the figures of the designation say.
    says, source = "19 wide and 66 high", "IEC 61960-3, largest size by its designation; from memory"
    found.append(StandardThing("ICR19/66 cell, end on", _GROUP, source, says, (_disc(19),)))
    found.append(StandardThing("ICR19/66 cell, lying", _GROUP, source, says, (_box(66, 19),)))
    for name, (thick, width, height) in PRISMATIC.items():
        says = f"{width:g} x {height:g}, {thick:g} thick"
        found.append(StandardThing(f"{name} cell", _GROUP, source, says, (_box(width, height),)))
    return found


def _disc(diameter: float) -> Outline:
    return Outline(circle(0, diameter / 2, Source("standard", "wall")))


def _box(width: float, height: float) -> Outline:
    return Outline(rectangle("standard", width, height, base=complex(-width, -height) / 2))
