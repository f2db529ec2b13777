"""How fast and how strong: the setting of each operation on a stock, its own or one to start with."""

from __future__ import annotations

from collections.abc import Mapping

from ..document.cutter import Cutter
from ..document.machine import Machine
from ..document.operations import BY_NAME, MARKS, WORKS, Work
from ..document.setting import Setting
from ..document.sizes import Size
from ..document.stock import Material, Stock
from ..facts.cutters import DEEP, TURNS, USUAL_TURNS, chip_load, cutter_facts, feed
from ..facts.stock import thickness_of

#: All that a machine does along lines, in the order in which it is done.

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


def setting_of(
    stock: Stock, machine: Machine, operation: Work, cutter: Cutter | None = None, depth: float = 0.0
) -> Setting:
    """The stock's own setting on the machine, with a cutter if it has one, ``depth`` mm deep; else one to start with.

    Raises `SizeError` where the stock's thickness cannot be read, `NoCutter` where the cutter cannot.
    """
    known = stock.own(machine.id)
    own = known.settings if known else []
    with_it = cutter.id if cutter else ""
    typed = next((s for s in own if s.operation == operation and s.cutter == with_it), None)
    return typed or starting(stock, machine, operation, cutter, depth)


def starting(
    stock: Stock, machine: Machine, operation: Work, cutter: Cutter | None = None, depth: float = 0.0
) -> Setting:
    """What is common practice for a stock of this material and thickness. Raises `SizeError` or `NoCutter`."""
    if machine.kind == "router":
        return _routed(stock, machine, operation, cutter or _ANY, depth)
    thickness = thickness_of(stock)
    # What is never burned has no setting of its own; it is refused before it is asked for.
    marks = operation in MARKS
    speed, power = BY_NAME[operation].usual if marks else _CUTS.get(stock.material, _CUTS["other"])
    if not marks:
        speed /= max(thickness, 0.3)
    return Setting(operation=operation, speed=round(min(speed, machine.working.speed), 1), power=power)


#: What a router is told of before a cutter is chosen.
_ANY = Cutter(id="any", name="a cutter of 3 mm", diameter=Size(text="3"), cutting_length=Size(text="12"))


def _routed(stock: Stock, machine: Machine, operation: Work, cutter: Cutter, depth: float) -> Setting:
    """Feed and speed of the middle of the chip loads that are good for the cutter in this material, so deep (mm)."""
    facts = cutter_facts(cutter)
    turns = min(TURNS.get(stock.material, USUAL_TURNS), facts.top_rpm, machine.most)
    turns = max(turns, machine.least)
    stepdown = min(DEEP.get(stock.material, 1.0) * facts.diameter, facts.cutting_length)
    chip = sum(chip_load(cutter, facts, stock.material, min(depth or stepdown, stepdown))) / 2
    # Where the machine does not go so fast, the cutter turns slower, so that it does not rub.
    turns = max(min(turns, machine.working.speed * 60 / (facts.flutes * chip)), machine.least)
    speed = feed(turns, facts.flutes, chip)
    return Setting(
        operation=operation,
        cutter="" if cutter is _ANY else cutter.id,
        speed=round(min(speed, machine.working.speed), 1),
        power=round(turns, -2),
        stepdown=round(stepdown, 2),
    )


#: Down a slope, and straight down, a cutter goes at such a share of its feed to start with: common practice, no source.
SLOPED, STRAIGHT = 0.5, 0.3


def ramp_speed(setting: Setting) -> float:
    """How fast (mm/s) it goes down a slope."""
    return setting.ramp or SLOPED * setting.speed


def plunge_speed(setting: Setting) -> float:
    """How fast (mm/s) it goes straight down."""
    return setting.plunge or STRAIGHT * setting.speed


def copied(like: Stock, stock: Stock, machine: Machine) -> list[Setting]:
    """Settings of another stock for this one: a beam goes through slower by as much as it is thicker.

    They are starting values again, whatever they were. Raises `SizeError`.
    """
    if machine.kind == "router":
        # A cutter takes as much with each tooth however thick the sheet is.
        known = like.own(machine.id)
        own = known.settings if known else []
        return [setting.model_copy(update={"note": f"as {like.name}"[:200], "tried": ""}) for setting in own]
    slower = thickness_of(like) / thickness_of(stock)
    found = []
    for operation in WORKS:
        setting = setting_of(like, machine, operation)
        speed = setting.speed * slower if operation not in MARKS else setting.speed
        note = f"as {like.name}"[:200]
        speed = round(min(max(speed, 0.1), machine.working.speed), 1)
        found.append(setting.model_copy(update={"speed": speed, "note": note, "tried": ""}))
    return found
