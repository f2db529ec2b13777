"""What a machine does along a line, in the order in which it is done: a new operation is a row here."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Literal, NamedTuple, get_args

#: What a machine does along a line, but for what it never sees.
Work = Literal["fill", "engrave", "score", "pocket", "drill", "cut"]

#: What is done to a copy of a part. Cut-outs come before the outline that frees it; the rest of a pocket is what a
#: smaller cutter clears of it.
Stage = Literal["fill", "engrave", "score", "pocket", "rest", "drill", "inner", "outer"]


class OnScreen(NamedTuple):
    """How its lines are drawn: ``width`` and ``dashes`` in px, and how a border of the same kind is called in CSS."""

    width: float
    dashes: str = ""
    key: str = "2px solid"


class Operation(NamedTuple):
    """``name`` is also that of its layer. ``stroke`` is its colour in SVG, ``aci`` that in DXF (the DXF reference's
    colour index); ``through`` is whether the sheet is cut through, ``beside`` whether it is for people alone.

    It is ``asked`` for at the head of a row, and what it was done to is ``done``. ``filled`` is whether a beam clears
    an area line by line, as it has no cutter to do it with; ``marks`` whether it only marks the face. ``usual`` is the
    speed (mm/s) and the power (percent) of a beam for what nothing else is known of: common practice for 3 mm plywood,
    no source.
    """

    name: str
    stroke: str
    aci: int
    line: OnScreen
    asked: str = ""
    done: str = ""
    usual: tuple[float, float] = (0, 0)
    through: bool = False
    filled: bool = False
    marks: bool = False
    beside: bool = False


#: Strokes are solid: a machine that is driven like a printer would cut dashes. References are never cut.
OPERATIONS = (
    Operation(
        "fill",
        "#3f5f9a",
        5,
        OnScreen(0.6, key="8px double"),
        "Engrave, filled",
        "engraved, filled",
        (250, 25),
        filled=True,
        marks=True,
    ),
    Operation("engrave", "#5b4a8a", 6, OnScreen(1.0), "Engrave", "engraved", (150, 20), marks=True),
    Operation("score", "#8a5a00", 30, OnScreen(1.0, "2.4 1", "2px dashed"), "Score", "scored", (120, 15), marks=True),
    Operation(
        "pocket",
        "#2f6f6a",
        4,
        OnScreen(0.9, "6 2 1 2", "3px double"),
        "Pocket",
        "sunk as pockets",
        (100, 50),
        filled=True,
    ),
    Operation("drill", "#7a3b52", 12, OnScreen(1.3, "1 2", "2px dotted"), "Drill", "drilled", (15, 75)),
    Operation("cut", "#151515", 7, OnScreen(1.3), "Cut", "cut through", (15, 75), through=True),
    Operation("bend-up", "#b0492e", 32, OnScreen(1.0, "14 5", "2px dashed"), beside=True),
    Operation("bend-down", "#6b6f1d", 52, OnScreen(1.0, "14 4 2 4 2 4", "2px dotted"), beside=True),
    Operation("bend-tangent", "#c9b8a0", 33, OnScreen(0.5, key="1px solid"), beside=True),
    Operation("reference", "#9a9a9a", 8, OnScreen(1.0, "1 3", "2px dotted"), beside=True),
)  # fmt: skip

BY_NAME = {operation.name: operation for operation in OPERATIONS}
#: The names in the order in which the machine does them.
ORDER = tuple(BY_NAME)
#: Those that a machine does.
WORKS: tuple[Work, ...] = get_args(Work)
#: What a beam clears line by line, and what only marks the face.
FILLED = tuple(work for work in WORKS if BY_NAME[work].filled)
MARKS = tuple(work for work in WORKS if BY_NAME[work].marks)


def work_of(operation: str) -> Work:
    """An operation that a machine does; what is none is cut."""
    return next((work for work in WORKS if work == operation), "cut")


class StageRow(NamedTuple):
    """A stage's operation, how it is called in a sentence, and how at the head of a row."""

    work: Work
    called: str
    asked: str


#: In the order of the trade.
STAGES: Mapping[Stage, StageRow] = {
    "fill": StageRow("fill", "filled engraving", "Engrave, filled"),
    "engrave": StageRow("engrave", "engraving", "Engrave"),
    "score": StageRow("score", "scoring", "Score"),
    "pocket": StageRow("pocket", "pockets", "Pocket"),
    "rest": StageRow("pocket", "rest of pockets", "Rest of the pocket"),
    "drill": StageRow("drill", "drilling", "Drill"),
    "inner": StageRow("cut", "inner cuts", "Cut inside"),
    "outer": StageRow("cut", "outline", "Cut out"),
}
#: The place of each stage in that order.
TURN: Mapping[Stage, int] = {stage: turn for turn, stage in enumerate(STAGES)}

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
