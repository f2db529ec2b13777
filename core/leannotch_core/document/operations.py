"""What a machine does along a line, in the order in which it is done: a new operation is a row here."""

from __future__ import annotations

from typing import NamedTuple


class Operation(NamedTuple):
    """``name`` is also that of its layer. ``stroke`` is its colour in SVG, ``aci`` that in DXF (the DXF reference's
    colour index); ``through`` is whether the sheet is cut through.
    """

    name: str
    stroke: str
    aci: int
    through: bool = False


#: Strokes are solid: a machine that is driven like a printer would cut dashes. References are never cut.
OPERATIONS = (
    Operation("engrave", "#5b4a8a", 6),
    Operation("score", "#8a5a00", 30),
    Operation("pocket", "#2f6f6a", 4),
    Operation("cut", "#151515", 7, through=True),
    Operation("reference", "#9a9a9a", 8),
)

BY_NAME = {operation.name: operation for operation in OPERATIONS}
#: The names in the order in which the machine does them.
ORDER = tuple(BY_NAME)
#: Layers that are never cut through, by what their names begin with; the last two are of drawings of others.
NOT_CUT = (*(operation.name for operation in OPERATIONS if not operation.through), "labels", "notes")
