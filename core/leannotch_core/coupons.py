"""Test coupons: a small project that shows the kerf and the fits of one stock on the maker's own machine."""

from __future__ import annotations

from collections.abc import Sequence

from .document import CutOut, HandOver, Mark, Part, Project, Rectangle, RectangularHole, Stock
from .sizes import Size

#: Distance between the slots of a comb, depth of its slots, and side of the square whose slug is measured (mm).
PITCH, DEPTH, SQUARE = 15, 14, 20


def fit_coupon(stock: Stock, clearances: Sequence[float]) -> Project:
    """A comb with one slot for each clearance (mm), marked with it, a tongue to try, and a square to measure.

    The square's hole and the slug that falls out of it give the kerf: half of their difference.
    """
    count = len(clearances)
    width, height = PITCH * (count + 1), DEPTH + SQUARE + 24
    slots = [_slot(i, clearance) for i, clearance in enumerate(clearances)]
    square = CutOut(
        id="square",
        hole=RectangularHole(width=_mm(SQUARE), height=_mm(SQUARE)),
        x=_mm(8 + SQUARE / 2),
        y=_mm(6 + SQUARE / 2),
    )
    marks = [
        Mark(text=f"{clearance:g}", x=_mm(PITCH * (i + 1)), y=_mm(height - DEPTH - 5), height=_mm(3))
        for i, clearance in enumerate(clearances)
    ]
    comb = Part(
        id="comb",
        name="Fit comb",
        stock=stock.id,
        shape=Rectangle(width=_mm(width), height=_mm(height)),
        cutouts=[*slots, square],
        marks=marks,
    )
    tongue = Part(id="tongue", name="Tongue", stock=stock.id, shape=Rectangle(width=_mm(30), height=_mm(45)))
    return Project(
        name=f"Coupon for {stock.name}"[:80],
        stocks=[stock],
        parts=[comb, tongue],
        hand_over=HandOver(names="leave out"),
    )


def _slot(index: int, clearance: float) -> CutOut:
    """Open at the top edge; as wide as the stock is thick, and the clearance."""
    return CutOut(
        id=f"slot_{index + 1}",
        hole=RectangularHole(width=Size(text=f"thickness + {clearance:g}"), height=_mm(DEPTH)),
        origin="top left",
        x=_mm(PITCH * (index + 1)),
        y=_mm(DEPTH / 2),
    )


def _mm(value: float) -> Size:
    return Size(text=f"{value:g}")
