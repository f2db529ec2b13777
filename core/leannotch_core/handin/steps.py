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


class QueueStep(NamedTuple):
    """From which states a step leads, to which, and as what it is ``logged``; ``alone`` it is taken of a sheet that is
    laid with no others. One that ``leaves`` others has all of them laid alone again.
    """

    before: tuple[State, ...]
    after: State
    logged: str
    alone: bool = False
    leaves: bool = False


STEPS: Mapping[StepName, QueueStep] = {
    "tick": QueueStep(("waiting",), "waiting", "ticked"),
    "set up": QueueStep(("waiting",), "waiting", "set up", alone=True),
    "lay together": QueueStep(("waiting",), "waiting", "laid together", alone=True),
    "lay alone": QueueStep(("waiting",), "waiting", "laid alone again"),
    "return": QueueStep(("waiting",), "returned", "returned", leaves=True),
    "take back": QueueStep(("waiting", "returned"), "taken back", "taken back", leaves=True),
    "hand in anew": QueueStep(("waiting", "returned"), "replaced", "handed in anew", leaves=True),
    "release": QueueStep(("waiting",), "released", "released"),
    "call back": QueueStep(("released",), "waiting", "called back"),
    "cut": QueueStep(("released",), "cut", "cut"),
    "fail": QueueStep(("released",), "waiting", "failed"),
}
