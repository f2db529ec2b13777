"""What the maker should know: each finding tied to its place, in numbers, with the mend where there is one."""

from __future__ import annotations

from typing import Literal

from .document import Model

Kind = Literal["project", "stock", "part", "cut-out", "joint", "layout", "sheet"]


class Place(Model):
    """Where a finding belongs. ``x`` and ``y`` are mm in the frame of the part or the sheet.

    On a sheet ``copies`` are the copies it is about, as ``part#number``.
    """

    kind: Kind
    id: str = ""
    field: str = ""
    part: str = ""
    x: float | None = None
    y: float | None = None
    copies: list[str] = []


class Mend(Model):
    """A change that would settle the finding: one size to set."""

    label: str
    field: str
    value: str


class Finding(Model):
    """``error``: cannot be built; ``warning``: would cut wrong; ``note``: worth knowing."""

    level: Literal["error", "warning", "note"]
    text: str
    place: Place
    mend: Mend | None = None
