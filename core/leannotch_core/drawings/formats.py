"""Every format that a drawing is read in: a new one is a file beside this one, and its line here."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from ..document.formats import format_named
from ..document.limits import MOST_READ
from .drawing import Drawing
from .gcode import read_gcode
from .meshes.cut import Cut
from .svg import read_svg


def _read_dxf(data: bytes, most: int) -> Drawing:
    # The libraries that know DXF and PDF take longer to load than most drawings take to read.
    from .dxf import read_dxf

    return read_dxf(data, most)


def _read_pdf(data: bytes, most: int) -> Drawing:
    from .pdf import read_pdf

    return read_pdf(data, most)


@dataclass(frozen=True, slots=True)
class FormatReader:
    """How files of a format begin, and how they are read, of so many lines at the most."""

    begins: tuple[bytes, ...]
    read: Callable[[bytes, int], Drawing]


#: By the ending of their files. A program begins with a percent sign, a comment or a word.
#: A file that begins like none is read as the last.
READERS: dict[str, FormatReader] = {
    "svg": FormatReader((b"<", b"\x1f\x8b"), read_svg),
    "pdf": FormatReader((b"%PDF",), _read_pdf),
    "nc": FormatReader((b"%", b"(", b"G", b"g", b"N", b"n"), read_gcode),
    "dxf": FormatReader((b"",), _read_dxf),
}

#: Meshes are known by the endings of their files alone.
MESHES = ("stl", "obj", "ply", "3mf", "glb")


def is_mesh(name: str) -> bool:
    """Whether a file of this name is read as a mesh."""
    return _ending(name) in MESHES


def _ending(name: str) -> str:
    return format_named(name) or Path(name).suffix.lower().lstrip(".")


def read_drawing(data: bytes, name: str = "", most: int = MOST_READ, cut: Cut | None = None) -> Drawing:
    """Reads a file by its name's ending, or by what it begins with; a mesh is laid flat, or ``cut``.

    Raises `BrokenFile`.
    """
    ending = _ending(name)
    if ending in MESHES:
        # What reads meshes takes longer to load than a drawing takes to read.
        from .meshes.reader import cut_at, lay_flat

        return cut_at(data, ending, cut, most) if cut else lay_flat(data, ending, most)
    known = READERS.get(ending)
    # A mark of the byte order, and the zeros of UTF-16, say nothing of the format.
    begins = data[:64].lstrip(b"\xef\xbb\xbf\xff\xfe").replace(b"\0", b"").lstrip()
    found = known or next(one for one in READERS.values() if begins.startswith(one.begins))
    return found.read(data, most)
