"""Four walls round a rectangle, and the plate that closes them: what trays, boxes and their lids begin with."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from ..parts.cut_out import CutOut
from .made import Making

_CORNERS = (
    (("front", "right"), ("right", "left")),
    (("front", "left"), ("left", "left")),
    (("back", "right"), ("right", "right")),
    (("back", "left"), ("left", "right")),
)


def walls(making: Making, length: str, width: str, height: str, of: str = "") -> None:
    """Front, right, back and left wall, fingered at the corners; ``of`` names what they are the walls of.

    Front and right are drawn from outside, back and left from inside: so opposite walls have the same drawing.
    """
    sides: dict[str, tuple[str, Literal["outside", "inside"]]] = {
        "front": (length, "outside"),
        "right": (width, "outside"),
        "back": (length, "inside"),
        "left": (width, "inside"),
    }
    ids = {}
    for side, (long, face) in sides.items():
        title = f"{of.capitalize()} {side} wall" if of else f"{side.capitalize()} wall"
        ids[side] = making.part(_role(side, of), title, (long, height), face=face)
    finger = f"{max(making.value(height, 'Height') / 4, 4):.4g}"
    for (a, edge_a), (b, edge_b) in _CORNERS:
        making.finger((ids[a], edge_a), (ids[b], edge_b), finger)


def bottom(
    making: Making, role: str, title: str, size: tuple[str, str], of: str = "", cutouts: Sequence[CutOut] = ()
) -> None:
    """The plate on which the walls stand, drawn from inside."""
    plate = making.part(role, title, size, face="inside", cutouts=cutouts)
    for side, edge in (("front", "bottom"), ("back", "top"), ("left", "left"), ("right", "right")):
        making.finger((f"{making.starter.id}_{_role(side, of)}", "bottom"), (plate, edge), "20")


def _role(side: str, of: str) -> str:
    return f"{of}_{side}" if of else side
