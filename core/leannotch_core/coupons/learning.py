"""What came out of a coupon, taken over by its stock."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import pairwise

from ..document.model import Fit
from ..document.sizes import Size
from ..document.stock import MOST_RESULTS, Clearances, CouponResult, Feel, Felt, Stock
from ..facts.stock import facts
from ..said import Said
from .making import in_mm

#: How a fit feels in the hand, the tightest first (common practice, no source).
FEELS: Mapping[Feel, Fit] = {"stiff": "press", "firm": "glue", "holds until tapped": "sliding", "falls apart": "loose"}


class Contradiction(Said):
    """A looser pair that felt tighter; the message is a sentence to show."""


def felt_clearances(felt: Sequence[Felt], shift: float = 0.0) -> dict[Fit, float]:
    """The clearance (mm) of each fit that was felt: the middle one of its pairs, of those that fall apart the least.

    ``shift`` is by how much the slots came out wider than marked, because the kerf is larger than was thought.
    Raises `Contradiction`.
    """
    order = list(FEELS)
    pairs = sorted(felt, key=lambda pair: pair.clearance)
    for tighter, looser in pairwise(pairs):
        if order.index(tighter.feel) > order.index(looser.feel):
            raise Contradiction(
                f"The pair marked {looser.clearance:g} felt {looser.feel}, but {tighter.clearance:g} {tighter.feel}; "
                "a wider slot cannot be tighter, so try these two again."
            )
    found: dict[Fit, float] = {}
    for feel, fit in FEELS.items():
        alike = [pair.clearance for pair in pairs if pair.feel == feel]
        if alike:
            found[fit] = round((alike[0] if fit == "loose" else alike[len(alike) // 2]) + shift, 4)
    return found


def with_results(stock: Stock, date: str, machine: str, felt: Sequence[Felt], **measured: object) -> Stock:
    """The stock with what a coupon showed of it on a machine, and a line of history; ``measured`` are fields of what is
    known, the kerf among them.

    The comb was cut with the old kerf: a larger one made its slots wider by the difference, which the clearances
    take up. Raises `Contradiction` or `SizeError`.
    """
    before = facts(stock, machine)
    known = stock.with_known(machine, **measured) if measured else stock
    shift = facts(known, machine).kerf - before.kerf
    sizes: dict[str, Size] = {fit: in_mm(value) for fit, value in felt_clearances(felt, shift).items()}
    clearances: Clearances = stock.known(machine).clearances.model_copy(update=sizes)
    changed = known.with_known(machine, clearances=clearances)
    after = facts(changed, machine)
    result = CouponResult(
        date=date,
        kerf=round(after.kerf + after.walls.above, 6),
        below=round(after.kerf + after.walls.below, 6) if after.walls.leaning else None,
        loose=after.clearance["loose"],
        sliding=after.clearance["sliding"],
        glue=after.clearance["glue"],
        press=after.clearance["press"],
    )
    return changed.with_known(machine, history=[*changed.known(machine).history, result][-MOST_RESULTS:])
