"""What a cut file holds, whatever its format: lines by operation, with the unit and what it says of itself."""

from __future__ import annotations

from dataclasses import dataclass, field

from ..geometry.segment import Segment


class BrokenFile(ValueError):  # noqa: N818 - it is a statement, and read as one
    """A file that cannot be read as a drawing; its message is a sentence to show."""


#: How a file of ours states its unit in words: the only way there is in DXF R12, which has no $INSUNITS.
IN_MILLIMETRES = "Sizes in millimetres."

#: Layers that are never cut through, by what the names this program gives them begin with.
NOT_CUT = ("engrave", "score", "pocket", "reference", "labels", "notes")

#: The largest drawing that is read, in bytes.
LARGEST_FILE = 30_000_000


@dataclass(frozen=True, slots=True)
class DrawnLine:
    """One entity of a file: its layer or group, and its segments in order (mm, y up)."""

    layer: str
    segments: tuple[Segment, ...]


@dataclass(slots=True)
class Drawing:
    """A drawing that was read. ``notes`` are sentences on what had to be assumed or was left out.

    ``unit_stated`` is whether the file itself says how large it is.
    """

    lines: list[DrawnLine] = field(default_factory=list)
    width: float | None = None
    height: float | None = None
    says: str = ""
    notes: list[str] = field(default_factory=list)
    unit_stated: bool = True


def compensation_note(kerf: float, compensated: bool) -> str:
    """What a file says of its own unit and kerf."""
    if compensated:
        return f"{IN_MILLIMETRES} Kerf of {kerf:g} mm compensated in this file: cut on the line, no machine offset."
    return f"{IN_MILLIMETRES} Kerf not compensated in this file: offset by {kerf / 2:g} mm at the machine."
