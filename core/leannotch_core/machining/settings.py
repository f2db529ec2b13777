"""How fast and how strong: the setting of each operation on a stock, its own or one to start with."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import get_args

from ..document.machine import Machine, Work
from ..document.setting import Setting
from ..document.stock import Material, OnMachine, Stock
from ..stock import thickness_of

#: All that a machine does along lines, in the order in which it is done.
WORKS: Sequence[Work] = get_args(Work)

#: Speed (mm/s) times thickness (mm) at which a beam of some 60 W cuts, and the power for it in percent: common
#: practice, no source. A beam of this kind does not cut aluminium; the value is for one that does.
_CUTS: Mapping[Material, tuple[float, float]] = {
    "plywood": (45, 75),
    "solid wood": (40, 75),
    "MDF": (36, 80),
    "acrylic": (36, 70),
    "card": (90, 40),
    "aluminium": (15, 100),
    "fabric": (60, 35),
    "other": (36, 70),
}
#: Speed in mm/s and power in percent of what only marks the face: common practice, no source.
_MARKS: Mapping[Work, tuple[float, float]] = {"fill": (250, 25), "engrave": (150, 20), "score": (120, 15)}

#: Chip load (mm a tooth) of a two-fluted cutter, and revolutions a minute to start with: common practice, no source.
_ROUTED: Mapping[Material, tuple[float, float]] = {
    "plywood": (0.08, 16_000),
    "solid wood": (0.08, 16_000),
    "MDF": (0.1, 16_000),
    "acrylic": (0.06, 14_000),
    "card": (0.1, 14_000),
    "aluminium": (0.03, 12_000),
    "fabric": (0.1, 14_000),
    "other": (0.06, 14_000),
}
_FLUTES = 2
#: How deep (mm) a cutter goes in one pass to start with, by share of a 3 mm cutter: common practice, no source.
_STEPDOWN = 3.0


def setting_of(stock: Stock, machine: Machine, operation: Work) -> Setting:
    """The stock's own setting on the machine; else one to start with, within what the machine does.

    Raises `SizeError` where the stock's thickness cannot be read.
    """
    known = stock.known(machine.id)
    own = known.settings if isinstance(known, OnMachine) else []
    return next((s for s in own if s.operation == operation), None) or starting(stock, machine, operation)


def starting(stock: Stock, machine: Machine, operation: Work) -> Setting:
    """What is common practice for a stock of this material and thickness. Raises `SizeError`."""
    thickness = thickness_of(stock)
    if machine.kind == "router":
        chip, turns = _ROUTED[stock.material]
        turns = min(max(turns, machine.least), machine.most)
        speed, power = turns * _FLUTES * chip / 60, turns
        passes = max(1, -int(-thickness // _STEPDOWN)) if operation == "cut" else 1
    else:
        passes = 1
        speed, power = _MARKS.get(operation, _CUTS[stock.material])
        if operation not in _MARKS:
            speed /= max(thickness, 0.3)
    return Setting(operation=operation, speed=round(min(speed, machine.working.speed), 1), power=power, passes=passes)


def copied(like: Stock, stock: Stock, machine: Machine) -> list[Setting]:
    """Settings of another stock for this one: what goes through is slower by as much as it is thicker.

    They are starting values again, whatever they were. Raises `SizeError`.
    """
    slower = thickness_of(like) / thickness_of(stock)
    found = []
    for operation in WORKS:
        setting = setting_of(like, machine, operation)
        speed = setting.speed * slower if operation in ("cut", "pocket") else setting.speed
        note = f"as {like.name}"[:200]
        speed = round(min(max(speed, 0.1), machine.working.speed), 1)
        found.append(setting.model_copy(update={"speed": speed, "note": note, "tried": ""}))
    return found
