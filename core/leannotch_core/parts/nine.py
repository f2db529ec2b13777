"""The nine points of a box that things are placed by and measured from."""

from __future__ import annotations

from typing import Literal

from ..geometry.loop import Bounds
from ..geometry.segment import Point

Nine = Literal[
    "bottom left", "bottom", "bottom right", "left", "middle", "right", "top left", "top", "top right"
]  # fmt: skip

#: Where each lies, in shares of the box's width and height.
SHARES: dict[str, complex] = {
    "bottom left": 0, "bottom": 0.5, "bottom right": 1,
    "left": 0.5j, "middle": 0.5 + 0.5j, "right": 1 + 0.5j,
    "top left": 1j, "top": 0.5 + 1j, "top right": 1 + 1j,
}  # fmt: skip

_NAMES: dict[complex, Nine] = {complex(share): name for name, share in SHARES.items()}  # type: ignore[misc]


def point_of(box: Bounds, nine: str) -> Point:
    """One of the nine points of a box."""
    left, bottom, right, top = box
    share = SHARES[nine]
    return complex(left + (right - left) * share.real, bottom + (top - bottom) * share.imag)


def nine_at(across: float, up: float) -> Nine:
    """The point at shares of 0, 1/2 or 1 across and up."""
    return _NAMES[complex(across, up)]


def inward(nine: str) -> complex:
    """Which way positive distances run into a box from one of its points: right and up from its middle."""
    share = SHARES[nine]
    return complex(-1 if share.real == 1 else 1, -1 if share.imag == 1 else 1)


def outward(nine: str) -> complex:
    """Which way positive distances run away from a box at one of its points: right and up from its middle."""
    share = SHARES[nine]
    return complex(-1 if share.real == 0 else 1, -1 if share.imag == 0 else 1)
