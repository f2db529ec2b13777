"""Metric screws, nuts and washers, as seen along their axis."""

from __future__ import annotations

from ...geometry.loop import Outline, circle
from ...geometry.segment import Source
from ..shapes.polygon import regular_polygon
from .thing import StandardThing
from .threads import SCREWS

#: Hole and outer diameter of plain washers, normal series (mm).
WASHERS: dict[str, tuple[float, float]] = {
    "M2": (2.2, 5), "M2.5": (2.7, 6), "M3": (3.2, 7), "M4": (4.3, 9), "M5": (5.3, 10), "M6": (6.4, 12), "M8": (8.4, 16),
}  # fmt: skip

_WALL = Source("standard", "wall")


def fasteners() -> list[StandardThing]:
    """Screws, nuts, washers and what goes with them; each with its standard."""
    found = []
    for thread, screw in SCREWS.items():
        hole = circle(0, screw.hole / 2, _WALL).reversed()
        found.append(
            StandardThing(
                name=f"{thread} socket screw",
                group="Screws, nuts and washers",
                source="head ISO 4762, hole ISO 273 (medium); from memory",
                says=f"head {screw.head:g} wide and {screw.head_height:g} high, its hole {screw.hole:g}",
                outlines=(Outline(circle(0, screw.head / 2, _WALL), (hole,)),),
            )
        )
    for thread, screw in SCREWS.items():
        found.append(
            StandardThing(
                name=f"{thread} hexagon nut",
                group="Screws, nuts and washers",
                source="ISO 4032; from memory",
                says=f"{screw.flats:g} over its flats, at most {screw.nut:g} high",
                outlines=(
                    Outline(
                        regular_polygon("standard", 6, screw.flats, flats=True),
                        (circle(0, screw.diameter / 2, _WALL).reversed(),),
                    ),
                ),
            )
        )
    for size, (hole_width, width) in WASHERS.items():
        found.append(
            StandardThing(
                name=f"{size} washer",
                group="Screws, nuts and washers",
                source="ISO 7089; from memory",
                says=f"{width:g} wide, its hole {hole_width:g}",
                outlines=(Outline(circle(0, width / 2, _WALL), (circle(0, hole_width / 2, _WALL).reversed(),)),),
            )
        )
    return found
