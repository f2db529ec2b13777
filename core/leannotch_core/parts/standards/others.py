"""Bearings, the 35 mm rail, cards and paper."""

from __future__ import annotations

from ...geometry.loop import Loop, Outline, circle, polygon
from ...geometry.segment import Source
from ..shapes.rectangle import CORNERS, CornerSize, rectangle
from .thing import StandardThing

#: Bore, outer diameter and width (mm) of deep groove ball bearings.
BEARINGS: dict[str, tuple[float, float, float]] = {"608": (8, 22, 7), "623": (3, 10, 4)}

#: Width, height and corner radius (mm) of an ID-1 card.
CARD = (85.60, 53.98, 3.18)

#: Width and height (mm) of trimmed sheets of the A series.
PAPER: dict[str, tuple[int, int]] = {
    "A3": (297, 420), "A4": (210, 297), "A5": (148, 210), "A6": (105, 148), "A7": (74, 105),
}  # fmt: skip

#: Width over all, width between the walls outside, height and thickness (mm) of the top-hat rail TH 35-7.5.
RAIL = (35.0, 27.0, 7.5, 1.0)

_WALL = Source("standard", "wall")


def others() -> list[StandardThing]:
    """Bearings, rails, cards and sheets of paper; each with its standard."""
    found = []
    for name, (bore, outer, width) in BEARINGS.items():
        ring = Outline(circle(0, outer / 2, _WALL), (circle(0, bore / 2, _WALL).reversed(),))
        says = f"bore {bore:g}, {outer:g} outside, {width:g} wide"
        found.append(StandardThing(f"{name} bearing", "Bearings and rails", "ISO 15; from memory", says, (ring,)))
    found.append(
        StandardThing(
            "35 mm rail, seen along it",
            "Bearings and rails",
            "IEC 60715, TH 35-7.5; from memory",
            "35 wide, 7.5 high, 1 thick",
            (Outline(_rail()),),
        )
    )
    width, height, radius = CARD
    corners = {corner: CornerSize("round", radius) for corner in CORNERS}
    card = rectangle("standard", width, height, corners, base=complex(-width, -height) / 2)
    says = "85.6 x 53.98, 0.76 thick"
    found.append(StandardThing("Card ID-1", "Cards and paper", "ISO/IEC 7810; from memory", says, (Outline(card),)))
    for name, (wide, high) in PAPER.items():
        sheet = Outline(rectangle("standard", wide, high, base=complex(-wide, -high) / 2))
        found.append(StandardThing(f"{name} sheet", "Cards and paper", "ISO 216", f"{wide} x {high}", (sheet,)))
    return found


def _rail() -> Loop:
    """The profile of the rail: a hat that stands on its crown."""
    wide, inner, high, thick = RAIL
    brim, wall, low, top = wide / 2, inner / 2, -high / 2, high / 2
    right = [
        complex(wall, low),
        complex(wall, top - thick),
        complex(brim, top - thick),
        complex(brim, top),
        complex(wall - thick, top),
        complex(wall - thick, low + thick),
    ]
    points = [*right, *(complex(-p.real, p.imag) for p in reversed(right))]
    loop = polygon(points, [_WALL] * len(points))
    return loop if loop.area > 0 else loop.reversed()
