"""What is told of a stock as it is cut: what was not measured, was measured otherwise, or cannot be right."""

from __future__ import annotations

from ..document.machine import Machine
from ..document.sizes import shown
from ..document.stock import NEVER_BURNED, Stock
from .findings import Place
from .kerf import Reckoned
from .moisture import HOLDS
from .reading import Reader
from .stock import StockFacts

#: Walls that lean by more degrees in sheets at least so thick (mm) are told: common practice, no source.
LEANS, THICK = 1.0, 5.0


def check_stock(stock: Stock, found: StockFacts, machine: Machine | None, reader: Reader) -> None:
    """Tells what is odd about a stock in numbers, as a machine cuts it, or none in particular."""
    if not found.routed:
        _check_kerf(stock, found, reader)
    why = NEVER_BURNED.get(stock.material)
    if why and (machine is None or machine.kind == "beam"):
        text = f"{stock.name} is {stock.material}, which is never cut by a beam: {why}"
        reader.warn("never-burned", text, _at(stock, "material"))
    if machine and not found.routed and stock.known(machine.id) is stock:
        text = f"{stock.name}: nothing is known of it on {machine.name}; its kerf of {shown(found.kerf)} is another's"
        # Where a cutter takes the kerf's place, a beam's kerf makes every part too small.
        (reader.warn if machine.kind == "router" else reader.note)("not-known-on-machine", text, _at(stock, "kerf"))
    for got, put in found.bending.misread:
        text = f"{stock.name}: {got:g}° came out of {put:g}°, which no sheet does; it is left out. Measure it again"
        reader.warn("spring-misread", text, _at(stock, "springback"))
    if found.wood and found.wood.beyond:
        moist = (found.wood.driest.moisture, found.wood.moisture, found.wood.dampest.moisture)
        text = (
            f"{stock.name}: it takes on {min(moist):.1f} to {max(moist):.1f} % of moisture; how it swells is known "
            f"from {HOLDS[0]:g} to {HOLDS[1]:g} %, and is only reckoned beyond"
        )
        reader.note("wood-beyond", text, _at(stock, "wood"))
    if found.readings == 0:
        text = f"{stock.name} has no caliper reading; the nominal {shown(found.thickness)} is used"
        reader.note("no-reading", text, _at(stock, "readings"))


def _check_kerf(stock: Stock, found: StockFacts, reader: Reader) -> None:
    if found.kerf >= found.thickness:
        text = (
            f"{stock.name}: a kerf of {shown(found.kerf)} is not less than the thickness of {shown(found.thickness)}; "
            "check which was measured"
        )
        reader.warn("kerf-over-thickness", text, _at(stock, "kerf"))
    lean = found.walls.lean(found.thickness)
    if lean > LEANS and found.thickness >= THICK:
        above, below = (shown(found.kerf + wider) for wider in found.walls.faces)
        text = f"{stock.name}: walls of cuts lean by {lean:.1f}°, {above} above and {below} below. Look at the focus"
        reader.note("walls-lean", text, _at(stock, "kerf"))
    if found.even:
        across, up = (shown(width) for width in found.even)
        text = (
            f"{stock.name}: a kerf of {across} along x and {up} along y are no further apart than readings scatter; "
            f"{shown(found.kerf)} is used both ways. Measure parts that were cut, several each way"
        )
        reader.note("kerf-even", text, _at(stock, "kerf"))
    if found.reckoned:
        _tell_reckoned(stock, found.kerf, found.reckoned, reader)


def _tell_reckoned(stock: Stock, kerf: float, by: Reckoned, reader: Reader) -> None:
    measured = " and ".join(f"{shown(width)} at {at}" for at, width in by.near)
    if by.beyond:
        text = (
            f"{stock.name}: no kerf was measured at {by.at}, nor beyond it. That of {measured} is taken; measure parts "
            "that were cut so"
        )
        reader.warn("kerf-beyond", text, _at(stock, "kerf"))
        return
    text = f"{stock.name}: the kerf of {shown(kerf)} at {by.at} is reckoned between {measured}"
    reader.note("kerf-reckoned", text, _at(stock, "kerf"))


def _at(stock: Stock, field: str) -> Place:
    return Place(kind="stock", id=stock.id, field=field)
