"""A stock that was measured anew: whether it was, and what is another by it."""

from __future__ import annotations

from collections.abc import Iterator

from ..document.stock import Stock
from .stock import facts
from .unknown import UnknownFact

#: Numbers that are as near to each other (mm) are told as the same: a caliper reads hundredths.
_SAME = 0.0005

#: What of a stock is measured on each machine.
KNOWN = ("kerf", "up", "below", "clearances")


def measured_alike(one: Stock, other: Stock, machine: str = "") -> bool:
    """Whether two stocks have the same readings and, on a machine, the same kerf and clearances.

    >>> birch = Stock.begun("birch", "Birch ply 3 mm")
    >>> measured_alike(birch, birch.model_copy(update={"name": "Birch"}))
    True
    """
    known, others = one.known(machine), other.known(machine)
    return one.readings == other.readings and all(getattr(known, name) == getattr(others, name) for name in KNOWN)


def with_what_was_measured(stock: Stock, anew: Stock, machine: str = "") -> Stock:
    """A stock with what another was measured to: readings, and what is known of it on a machine."""
    known = anew.known(machine)
    fresh = {name: getattr(known, name) for name in (*KNOWN, "history")}
    return stock.with_known(machine, **fresh).model_copy(update={"readings": anew.readings})


def what_changes(before: Stock, after: Stock, machine: str = "") -> list[str]:
    """Thickness, kerf and glue clearance (mm) that become others, one phrase each; nothing of what cannot be read."""
    try:
        return list(_phrases(before, after, machine))
    except UnknownFact:
        return []


def _phrases(before: Stock, after: Stock, machine: str) -> Iterator[str]:
    old, new = facts(before, machine), facts(after, machine)
    for what, was, now in (
        ("thickness", old.thickness, new.thickness),
        ("kerf", old.kerf, new.kerf),
        ("glue clearance", old.clearance["glue"], new.clearance["glue"]),
    ):
        if abs(was - now) > _SAME:
            yield f"{what} {was:.4g} mm becomes {now:.4g} mm"
