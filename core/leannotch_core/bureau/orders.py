"""An order on its way: which day it is in whose hands, and why it may come back."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from ..document.model import Model
from .quote import Rule

State = Literal["received", "sent back", "being cut", "being bent", "being finished", "on its way", "delivered"]


class Progress(Model):
    """Where an order is on a day; ``why`` it was sent back, and on which day it arrives."""

    state: State
    why: str = ""
    arrives: int


def progress(ordered: int, today: int, days: int, bent: bool, finished: bool, told: Sequence[Rule]) -> Progress:
    """Where an order of a day is ``today``, with so many ``days`` promised.

    The day after it is ordered somebody looks at it: what was told of it before and not mended is sent back then.
    """
    gone, arrives = today - ordered, ordered + days
    if gone >= 1 and told:
        return Progress(state="sent back", why=" ".join(rule.text for rule in told[:3]), arrives=arrives)
    if gone < 1:
        return Progress(state="received", arrives=arrives)
    if gone >= days:
        return Progress(state="delivered", arrives=arrives)
    stages: list[State] = ["being cut", *(("being bent",) if bent else ()), *(("being finished",) if finished else ())]
    stages.append("on its way")
    share = (gone - 1) / max(1, days - 1)
    return Progress(state=stages[min(int(share * len(stages)), len(stages) - 1)], arrives=arrives)
