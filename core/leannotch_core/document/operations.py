"""What a machine does along a line, in the order in which it is done: a new operation is a row here."""

from __future__ import annotations

import re
from typing import NamedTuple


class Operation(NamedTuple):
    """``name`` is also that of its layer. ``stroke`` is its colour in SVG, ``aci`` that in DXF (the DXF reference's
    colour index); ``through`` is whether the sheet is cut through, ``beside`` whether it is for people alone.
    """

    name: str
    stroke: str
    aci: int
    through: bool = False
    beside: bool = False


#: Strokes are solid: a machine that is driven like a printer would cut dashes. References are never cut.
OPERATIONS = (
    Operation("fill", "#3f5f9a", 5),
    Operation("engrave", "#5b4a8a", 6),
    Operation("score", "#8a5a00", 30),
    Operation("pocket", "#2f6f6a", 4),
    Operation("drill", "#7a3b52", 12),
    Operation("cut", "#151515", 7, through=True),
    Operation("bend-up", "#b0492e", 32, beside=True),
    Operation("bend-down", "#6b6f1d", 52, beside=True),
    Operation("bend-tangent", "#c9b8a0", 33, beside=True),
    Operation("reference", "#9a9a9a", 8, beside=True),
)

BY_NAME = {operation.name: operation for operation in OPERATIONS}
#: The names in the order in which the machine does them.
ORDER = tuple(BY_NAME)
#: Layers of drawings of others that hold nothing for a machine.
BESIDE = ("labels", "notes")

_NAMED = re.compile(rf"({'|'.join((*ORDER, *BESIDE))})[\s_-]*(\d.*)?", re.IGNORECASE)


def operation_named(layer: str) -> str | None:
    """The operation that a layer's name says, alone or with a number behind it: ``Score``, ``pocket 1.5 mm``.

    A name that merely begins with the word says nothing. Of what is there for people, it answers ``reference``.
    """
    match = _NAMED.fullmatch(layer.strip())
    said = match[1].lower() if match else None
    return "reference" if said in BESIDE else said


def is_cut(layer: str) -> bool:
    """Whether the lines of a layer are cut through: all are, unless its name says something else."""
    said = operation_named(layer)
    return said is None or BY_NAME[said].through
