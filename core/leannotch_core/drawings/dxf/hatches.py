"""The edges of hatched areas, where nothing but a hatch says what a shape is."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from ezdxf.lldxf.const import DXFError
from ezdxf.path import Path, from_hatch

from ...geometry.biarc import TOLERANCE, arcs_along, bezier
from ...geometry.segment import Line, Segment
from ..drawing import check_points
from .entities import SOURCE


def edges_of(hatch: Any, scale: float) -> Iterator[list[Segment]]:
    """The closed edges of a hatch, whose unit is ``scale`` mm; none where its numbers make no edge."""
    try:
        paths = list(from_hatch(hatch))
    except (DXFError, ArithmeticError, ValueError, TypeError, AttributeError, IndexError):
        return
    for path in paths:
        edge = list(_along(path, scale))
        if edge:
            yield edge


def _along(path: Path, scale: float) -> Iterator[Segment]:
    """Lines, and the arcs that its Bezier curves are within their tolerance."""
    here = complex(path.start.x, path.start.y) * scale
    first = here
    for command in path.commands():
        end = complex(command.end.x, command.end.y) * scale
        controls = [complex(at.x, at.y) * scale for at in _controls(command)]
        check_points((here, end, *controls))
        if len(controls) == 1:
            # A curve of second degree as one of third.
            controls = [here + (controls[0] - here) * 2 / 3, end + (controls[0] - end) * 2 / 3]
        if controls and here != end:
            first_control, second_control = controls
            yield from arcs_along(bezier(here, first_control, second_control, end), 0, 1, SOURCE, TOLERANCE)
        elif here != end:
            yield Line(here, end, SOURCE)
        here = end
    if abs(here - first) > 1e-9:
        yield Line(here, first, SOURCE)


def _controls(command: Any) -> list[Any]:
    return [at for name in ("ctrl", "ctrl1", "ctrl2") if (at := getattr(command, name, None)) is not None]
