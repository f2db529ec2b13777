"""What every noun of the document is made of: ids, names, places, and the words that are chosen from."""

from __future__ import annotations

import unicodedata
from typing import Annotated, Literal

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field

from .sizes import LARGEST


def printable(value: object) -> object:
    """A text without what neither a screen nor an XML file can hold; tabs and line ends become spaces."""
    if not isinstance(value, str):
        return value
    return "".join(" " if c in "\t\n\r" else c for c in value if c in "\t\n\r" or not _unprintable(c))


def _unprintable(character: str) -> bool:
    # Control characters, halves of surrogate pairs, and code points that are no characters: XML 1.0, 2.2.
    return unicodedata.category(character) in ("Cc", "Cs") or ord(character) & 0xFFFE == 0xFFFE


#: Identifiers may stand in a size (``birch.thickness``), so they are words.
Id = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,39}$")]

#: Marks a text that is shown, scored or written into files.
PRINTABLE = BeforeValidator(printable)

Name = Annotated[str, Field(min_length=1, max_length=80), PRINTABLE]

#: What a file is called.
FileName = Annotated[str, Field(min_length=1, max_length=120), PRINTABLE]

#: The id of a starter that made a thing and keeps it, or nothing.
Owner = Annotated[str, Field(pattern=r"^([a-z][a-z0-9_]{0,15})?$")]

#: A place in mm.
Millimetres = Annotated[float, Field(ge=-LARGEST, le=LARGEST)]

#: A day of the calendar.
Day = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")]

Fit = Literal["loose", "sliding", "glue", "press"]

Corner = Literal["bottom left", "bottom right", "top right", "top left"]

Side = Literal["bottom", "right", "top", "left"]

#: Which face of a part its drawing shows.
Face = Literal["outside", "inside"]

Align = Literal["left", "middle", "right"]


class Model(BaseModel):
    # Built when it is first used: a command that shows no queue needs nothing of it.
    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False, defer_build=True)
