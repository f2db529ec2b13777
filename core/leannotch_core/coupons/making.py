"""Test coupons: small projects that show kerf and fits of one stock on the maker's own machine."""

from __future__ import annotations

from collections.abc import Sequence

from ..document.hand_over import HandOver
from ..document.machine import Machine
from ..document.sizes import Size, in_digits
from ..document.stock import Stock
from ..document.sums import SizeError
from ..evaluate import evaluate
from ..layout.nest import nest
from ..parts.cut_out import CutOut
from ..parts.part import Part
from ..parts.shapes.rectangle import Rectangle, RectangularHole
from ..parts.shapes.text import TextHole
from ..project.project import Project

#: Distance between the slots of a comb, depth of its slots, and side of the square whose slug is measured (mm).
PITCH, DEPTH, SQUARE = 15, 14, 20


#: Number of pieces of a kerf strip, and their size (mm).
PIECES, PIECE, PIECE_HEIGHT = 10, 10, 30


def clearances_between(low: float, high: float, step: float) -> list[float]:
    """Clearances (mm) from ``low`` to ``high``. Raises `SizeError` where they are none or more than a comb holds."""
    if step <= 0 or high < low:
        raise SizeError(f"from {low:g} to {high:g} mm in steps of {step:g} mm there is nothing to try")
    count = int((high - low) / step + 1e-9) + 1
    if count > 20:
        raise SizeError(f"{count} slots are too many for one comb; at most 20 fit, so take larger steps")
    return [round(low + i * step, 4) for i in range(count)]


def fit_coupon(stock: Stock, clearances: Sequence[float], machine: Machine | None = None) -> Project:
    """A comb with one slot for each clearance (mm), marked with it, a tongue to try, and a square to measure.

    The square's hole and the slug that falls out of it give the kerf: half of their difference.
    """
    count = len(clearances)
    width, height = PITCH * (count + 1), DEPTH + SQUARE + 24
    slots = [_slot(i, clearance) for i, clearance in enumerate(clearances)]
    square = CutOut(
        id="square",
        hole=RectangularHole(width=in_mm(SQUARE), height=in_mm(SQUARE)),
        x=in_mm(8 + SQUARE / 2),
        y=in_mm(6 + SQUARE / 2),
    )
    marks = [
        label(f"clearance_{i + 1}", f"{clearance:g}", PITCH * (i + 1) + 1j * (height - DEPTH - 5), 3)
        for i, clearance in enumerate(clearances)
    ]
    comb = Part(
        id="comb",
        name="Fit comb",
        stock=stock.id,
        shape=Rectangle(width=in_mm(max(width, SQUARE + 16)), height=in_mm(height)),
        cutouts=[*slots, square, *marks],
    )
    tongue = Part(id="tongue", name="Tongue", stock=stock.id, shape=Rectangle(width=in_mm(30), height=in_mm(45)))
    project = Project(
        name=f"Fit coupon for {stock.name}"[:80],
        stocks=[stock],
        parts=[comb, tongue],
        hand_over=HandOver(names="leave out"),
    )
    return laid_out(project, machine)


def strip_coupon(stock: Stock, machine: Machine | None = None) -> Project:
    """Ten pieces of 10 mm, each cut on its own line: laid side by side they are short of 100 mm by ten kerfs."""
    piece = Part(
        id="piece",
        name="Strip piece",
        stock=stock.id,
        count=PIECES,
        shape=Rectangle(width=in_mm(PIECE), height=in_mm(PIECE_HEIGHT)),
    )
    hand_over = HandOver(names="leave out", kerf="at the machine")
    name = f"Kerf strip of {stock.name}"[:80]
    return laid_out(Project(name=name, stocks=[stock], parts=[piece], hand_over=hand_over), machine)


def laid_out(project: Project, machine: Machine | None) -> Project:
    """The coupon on its sheet, to be cut on a machine."""
    if machine:
        project = project.model_copy(update={"machines": [machine], "machine": machine.id})
    first = next(iter(nest(project, evaluate(project), 0)))
    return project.model_copy(update={"layout": first.layout})


def _slot(index: int, clearance: float) -> CutOut:
    """Open at the top edge; as wide as the stock is thick, and the clearance."""
    return CutOut(
        id=f"slot_{index + 1}",
        hole=RectangularHole(width=Size(text=f"thickness + {clearance:g}"), height=in_mm(DEPTH)),
        origin="top left",
        x=in_mm(PITCH * (index + 1)),
        y=in_mm(DEPTH / 2),
    )


def label(label_id: str, text: str, at: complex, height: float) -> CutOut:
    """A scored text, its middle ``at`` a place from the lower left corner of its part (mm)."""
    hole = TextHole(text=text, font="single line", height=in_mm(height))
    return CutOut(id=label_id, hole=hole, x=in_mm(at.real), y=in_mm(at.imag), does="score")


def in_mm(value: float) -> Size:
    """A number of mm as it would be typed."""
    return Size(text=in_digits(value))
