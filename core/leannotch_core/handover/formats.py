"""Every format that a sheet's file is written in: a new one is a file beside this one, and its line here."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from ..document.hand_over import HandOver
from ..geometry.segment import Motion
from ..machining.ready import Prepared, on_page
from .gcode import write_gcode
from .svg import write_svg


def _as_seen(ready: Prepared) -> Motion:
    return ready.lies


def _as_the_machine_counts(ready: Prepared) -> Motion:
    return ready.to_machine


def _as_dxf(ready: Prepared, wanted: HandOver) -> bytes:
    # The libraries that know DXF and PDF take longer to load than all else.
    from .dxf import write_dxf

    return write_dxf(on_page(ready), wanted.dxf, ready.machine)


def _as_pdf(ready: Prepared, wanted: HandOver) -> bytes:
    from .pdf import write_pdf

    return write_pdf(on_page(ready), wanted.strokes == "hairline", ready.machine)


@dataclass(frozen=True, slots=True)
class Writer:
    """How a sheet is written in a format; ``frame`` takes the sheet to the coordinates of the file."""

    write: Callable[[Prepared, HandOver], bytes]
    frame: Callable[[Prepared], Motion] = _as_seen


WRITERS: dict[str, Writer] = {
    "svg": Writer(lambda ready, wanted: write_svg(on_page(ready), wanted.strokes == "hairline", ready.machine)),
    "dxf": Writer(_as_dxf),
    "pdf": Writer(_as_pdf),
    "nc": Writer(lambda ready, wanted: write_gcode(ready), _as_the_machine_counts),
}
