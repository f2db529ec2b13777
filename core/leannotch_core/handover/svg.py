"""SVG written, in millimetres with true arcs."""

from __future__ import annotations

import math
from collections.abc import Iterable
from xml.sax.saxutils import escape

from ..document.machine import Machine
from ..document.statement import statement
from ..geometry.loop import Loop
from ..geometry.segment import Line, Point, Segment
from ..machining.bend_lines import WrittenWords
from ..machining.path import CutPath
from ..machining.plan import SheetPlan, layers
from .told import layer_for, telling


def number(value: float) -> str:
    """A coordinate to a millionth of a millimetre, without needless zeros."""
    text = f"{value:.6f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text


def path_data(segments: Iterable[Segment], height: float = 0.0, closed: bool = True) -> str:
    """SVG path data with y turned down from ``height``; arcs are written as arcs (SVG 2, 9.3.8)."""
    words: list[str] = []
    for segment in segments:
        if not words:
            words.append(f"M{_pair(segment.start, height)}")
        if isinstance(segment, Line):
            words.append(f"L{_pair(segment.end, height)}")
        else:
            large = int(abs(segment.sweep) > math.pi)
            radius = number(segment.radius)
            words.append(f"A{radius} {radius} 0 {large} {int(not segment.ccw)} {_pair(segment.end, height)}")
    if closed:
        words.append("Z")
    return "".join(words)


def _pair(point: Point, height: float) -> str:
    return f"{number(point.real)} {number(height - point.imag)}"


def write_svg(plan: SheetPlan, hairline: bool = False, machine: Machine | None = None) -> bytes:
    """The bytes of a sheet's SVG file: one group for each operation, as a machine wants it, no transforms, no fill.

    Pockets of different depths are groups of their own.
    """
    lines = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{number(plan.width)}mm" height="{number(plan.height)}mm" '
        f'viewBox="0 0 {number(plan.width)} {number(plan.height)}">',
        f"<title>{escape(plan.name)}</title>",
        f"<desc>{escape(statement(plan.kerf, plan.compensated))}</desc>",
    ]
    width = "0.01" if hairline else "0.25"
    for layer, paths in layers(plan, machine.sequence if machine else ()).items():
        operation = paths[0].operation
        colour, name = telling(machine, operation)[0].stroke, layer_for(machine, operation, layer)
        lines.append(f'<g id="{name}" fill="none" stroke="{colour}" stroke-width="{width}">')
        lines += [_element(path, plan.height) for path in paths]
        lines.append("</g>")
    if plan.words:
        lines.append('<g id="notes" font-family="sans-serif" fill="#555555">')
        lines += [_words(one, plan.height) for one in plan.words]
        lines.append("</g>")
    lines.append("</svg>\n")
    return "\n".join(lines).encode()


def _words(one: WrittenWords, height: float) -> str:
    """Words for people, level: a file without transforms turns none."""
    x, y = number(one.at.real), number(height - one.at.imag)
    # Capitals of most typefaces are some seven tenths of the size high.
    return f'<text x="{x}" y="{y}" font-size="{number(one.height / 0.7)}">{escape(one.words)}</text>'


def _element(path: CutPath, height: float) -> str:
    circle = Loop(path.segments).circle() if path.closed else None
    if circle:
        centre, radius = circle
        x, y = number(centre.real), number(height - centre.imag)
        return f'<circle cx="{x}" cy="{y}" r="{number(radius)}"/>'
    return f'<path d="{path_data(path.segments, height, path.closed)}"/>'
