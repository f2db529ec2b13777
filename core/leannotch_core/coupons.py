"""Test coupons: small projects that show kerf and fits of one stock on the maker's own machine, and what came out."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import pairwise

from .document import (
    Clearances,
    CouponResult,
    CutOut,
    Feel,
    Felt,
    Fit,
    HandOver,
    Kerf,
    Mark,
    Part,
    Project,
    Rectangle,
    RectangularHole,
    Stock,
)
from .evaluate import evaluate
from .layout.nest import nest
from .sizes import Size, SizeError
from .stock import facts

#: Distance between the slots of a comb, depth of its slots, and side of the square whose slug is measured (mm).
PITCH, DEPTH, SQUARE = 15, 14, 20

#: Number of pieces of a kerf strip, and their size (mm).
PIECES, PIECE, PIECE_HEIGHT = 10, 10, 30

#: How a fit feels in the hand, the tightest first (common practice, no source).
FEELS: Mapping[Feel, Fit] = {"stiff": "press", "firm": "glue", "holds until tapped": "sliding", "falls apart": "loose"}


def clearances_between(low: float, high: float, step: float) -> list[float]:
    """Clearances (mm) from ``low`` to ``high``. Raises `SizeError` where they are none or more than a comb holds."""
    if step <= 0 or high < low:
        raise SizeError(f"from {low:g} to {high:g} mm in steps of {step:g} mm there is nothing to try")
    count = int((high - low) / step + 1e-9) + 1
    if count > 20:
        raise SizeError(f"{count} slots are too many for one comb; at most 20 fit, so take larger steps")
    return [round(low + i * step, 4) for i in range(count)]


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
        shape=Rectangle(width=_mm(max(width, SQUARE + 16)), height=_mm(height)),
        cutouts=[*slots, square],
        marks=marks,
    )
    tongue = Part(id="tongue", name="Tongue", stock=stock.id, shape=Rectangle(width=_mm(30), height=_mm(45)))
    project = Project(
        name=f"Fit coupon for {stock.name}"[:80],
        stocks=[stock],
        parts=[comb, tongue],
        hand_over=HandOver(names="leave out"),
    )
    return _laid_out(project)


def strip_coupon(stock: Stock) -> Project:
    """Ten pieces of 10 mm, each cut on its own line: laid side by side they are short of 100 mm by ten kerfs."""
    piece = Part(
        id="piece",
        name="Strip piece",
        stock=stock.id,
        count=PIECES,
        shape=Rectangle(width=_mm(PIECE), height=_mm(PIECE_HEIGHT)),
    )
    hand_over = HandOver(names="leave out", kerf="at the machine")
    name = f"Kerf strip of {stock.name}"[:80]
    return _laid_out(Project(name=name, stocks=[stock], parts=[piece], hand_over=hand_over))


def _laid_out(project: Project) -> Project:
    first = next(iter(nest(project, evaluate(project), 0)))
    return project.model_copy(update={"layout": first.layout})


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
    return Size(text=f"{value:.6g}")


# What came out


class Contradiction(ValueError):  # noqa: N818 - it is a statement, and read as one
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


def with_results(stock: Stock, date: str, machine: str, kerf: Kerf | None, felt: Sequence[Felt]) -> Stock:
    """The stock with what its coupon showed, and a line of history.

    The comb was cut with the old kerf: a larger one made its slots wider by the difference, which the clearances
    take up. Raises `Contradiction` or `SizeError`.
    """
    before = facts(stock)
    measured = stock if kerf is None else stock.model_copy(update={"kerf": kerf})
    shift = facts(measured).kerf - before.kerf
    sizes: dict[str, Size] = {fit: _mm(value) for fit, value in felt_clearances(felt, shift).items()}
    clearances: Clearances = stock.clearances.model_copy(update=sizes)
    changed = measured.model_copy(update={"clearances": clearances, "machine": machine or stock.machine})
    after = facts(changed)
    result = CouponResult(
        date=date,
        machine=changed.machine,
        kerf=round(after.kerf, 6),
        loose=after.clearance["loose"],
        sliding=after.clearance["sliding"],
        glue=after.clearance["glue"],
        press=after.clearance["press"],
    )
    return changed.model_copy(update={"history": [*stock.history, result][-10:]})
