"""The states of a sheet at the operator's desk, and the steps from one to the next: every state has a way on."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal, NamedTuple, get_args

State = Literal["waiting", "returned", "released", "cut", "taken back", "replaced"]

STATES: tuple[State, ...] = get_args(State)

#: What nothing follows on: the sheet is made, or nobody wants it any more.
LAST: frozenset[State] = frozenset(("cut", "taken back", "replaced"))

#: What nobody waits for: these can be deleted.
OVER: frozenset[State] = LAST | {"returned"}

StepName = Literal[
    "tick",
    "set up",
    "lay together",
    "lay alone",
    "return",
    "take back",
    "hand in anew",
    "release",
    "call back",
    "cut",
    "fail",
]


class Step(NamedTuple):
    """From which states a step leads, to which, and as what it is ``logged``; ``alone`` it is taken of a sheet that is
    laid with no others. One that ``leaves`` others has all of them laid alone again.
    """

    before: tuple[State, ...]
    after: State
    logged: str
    alone: bool = False
    leaves: bool = False


STEPS: Mapping[StepName, Step] = {
    "tick": Step(("waiting",), "waiting", "ticked"),
    "set up": Step(("waiting",), "waiting", "set up", alone=True),
    "lay together": Step(("waiting",), "waiting", "laid together", alone=True),
    "lay alone": Step(("waiting",), "waiting", "laid alone again"),
    "return": Step(("waiting",), "returned", "returned", leaves=True),
    "take back": Step(("waiting", "returned"), "taken back", "taken back", leaves=True),
    "hand in anew": Step(("waiting", "returned"), "replaced", "handed in anew", leaves=True),
    "release": Step(("waiting",), "released", "released"),
    "call back": Step(("released",), "waiting", "called back"),
    "cut": Step(("released",), "cut", "cut"),
    "fail": Step(("released",), "waiting", "failed"),
}
