"""Every format that a sheet's file is written in: a new one is a file beside this one, and its line here."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from ..document.hand_over import HandOver
from ..machining.plan import SheetPlan
from .dxf import write_dxf
from .svg import write_svg


@dataclass(frozen=True, slots=True)
class Format:
    """A format by the ending of its files: what it is on the net (IANA's media types), and how a sheet is written."""

    media: str
    write: Callable[[SheetPlan, HandOver], bytes]


FORMATS: dict[str, Format] = {
    "svg": Format("image/svg+xml", lambda plan, wanted: write_svg(plan, hairline=wanted.strokes == "hairline")),
    "dxf": Format("image/vnd.dxf", lambda plan, wanted: write_dxf(plan, wanted.dxf)),
}
