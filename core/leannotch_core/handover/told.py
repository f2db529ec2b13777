"""How a file tells a machine one operation from another: by colours and layers, ours or those of its profile."""

from __future__ import annotations

from dataclasses import replace

from ..document.machine import Machine, Telling
from ..document.operations import BY_NAME, Operation
from ..drawings.drawing import Drawing, DrawnLine


def telling(machine: Machine | None, operation: str) -> tuple[Operation, str]:
    """The colours of an operation in files for a machine, and the name of its layer."""
    ours = BY_NAME[operation]
    wanted = _wanted(machine).get(operation)
    if wanted is None:
        return ours, ours.name
    return ours._replace(stroke=wanted.stroke, aci=wanted.aci), wanted.layer


def layer_for(machine: Machine | None, operation: str, layer: str) -> str:
    """A layer of ours as it is called for a machine; pockets keep their depth behind it."""
    return telling(machine, operation)[1] + layer.removeprefix(operation)


def as_ours(drawing: Drawing, machine: Machine) -> Drawing:
    """A drawing that was read back, its layers called as ours are again."""
    for wanted in machine.tells:
        drawing.lines = [_as_ours(line, wanted) for line in drawing.lines]
    return drawing


def _as_ours(line: DrawnLine, wanted: Telling) -> DrawnLine:
    rest = line.layer.removeprefix(wanted.layer)
    is_it = line.layer.startswith(wanted.layer) and (not rest or rest.startswith("-"))
    return replace(line, layer=wanted.operation + rest) if is_it else line


def _wanted(machine: Machine | None) -> dict[str, Telling]:
    return {wanted.operation: wanted for wanted in machine.tells} if machine else {}
