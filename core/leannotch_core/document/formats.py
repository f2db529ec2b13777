"""Formats of files that machines read, by the ending of their names: a new one is a row here, a reader and a writer."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import PurePath
from typing import Literal, NamedTuple

Reads = Literal["svg", "dxf", "pdf", "nc"]


class Format(NamedTuple):
    """How a format is called and what it is on the net (IANA's media types), other endings of its files, and whether it
    is a program: one says how fast and in which order lines are worked, a drawing only where they are.
    """

    called: str
    media: str
    also: tuple[str, ...] = ()
    program: bool = False


FORMATS: Mapping[str, Format] = {
    "svg": Format("SVG", "image/svg+xml", ("svgz",)),
    "dxf": Format("DXF", "image/vnd.dxf"),
    "pdf": Format("PDF", "application/pdf"),
    "nc": Format("G-code", "text/plain", ("ngc", "gcode", "tap"), program=True),
}


def format_named(name: str) -> str | None:
    """The format of a file by its name or by an ending alone; None where it is none of these."""
    ending = PurePath(name).suffix.lower().lstrip(".") or name.lower()
    return next((kind for kind, one in FORMATS.items() if ending in (kind, *one.also)), None)


def is_program(kind: str) -> bool:
    """Whether files of a format are programs; of what is no format too, which are none."""
    return kind in FORMATS and FORMATS[kind].program
