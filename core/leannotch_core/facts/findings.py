"""What the maker should know: each finding tied to its place, in numbers, with the mend where there is one."""

from __future__ import annotations

from typing import Literal

from pydantic import SerializeAsAny

from ..document.edit import Edit, SetValue
from ..document.model import Model
from ..document.sheet import CopyOf
from .codes import FindingCode

Kind = Literal["project", "stock", "part", "cut-out", "joint", "layout", "sheet", "preparation", "file"]


class Place(Model):
    """Where a finding belongs. ``x`` and ``y`` are mm in the frame of the part or the sheet.

    On a sheet ``copies`` are the copies it is about. ``file`` is what was written of a sheet, by the sheet's place.
    """

    kind: Kind
    id: str = ""
    field: str = ""
    part: str = ""
    x: float | None = None
    y: float | None = None
    copies: list[CopyOf] = []


class Mend(Model):
    """An edit that would settle a finding, ready to be applied, and what to call it."""

    label: str
    command: SerializeAsAny[Edit]


def mend(label: str, path: tuple[str, ...], value: str | int) -> Mend:
    """A mend that sets one value, by its path from the project."""
    return Mend(label=label, command=SetValue(path=list(path), value=value))


class Finding(Model):
    """``error``: cannot be built; ``warning``: would cut wrong; ``note``: worth knowing.

    ``code`` names the kind of finding for programs; the text is for people alone.
    """

    level: Literal["error", "warning", "note"]
    code: FindingCode
    text: str
    place: Place
    mends: tuple[Mend, ...] = ()
