"""Settings coupons: small squares over speed and power, of which the maker picks the best."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import product

from ..document.hand_over import HandOver
from ..document.machine import Machine
from ..document.operations import Work
from ..document.setting import Setting
from ..document.sheet import LaidSheet, Layout, Placement
from ..document.sizes import Size
from ..document.stock import Stock
from ..document.sums import SizeError
from ..evaluate import evaluate
from ..facts.stock import facts
from ..layout.sheets import laid_parts
from ..machining.settings import setting_of
from ..parts.cut_out import CutOut, Does
from ..parts.part import Part
from ..parts.shapes.rectangle import Rectangle, RectangularHole
from ..project.project import Project
from .making import in_mm, label

#: Side of a square, height of the label below it, and gap between squares with their rims, mm.
SQUARE, LABEL, GAP = 8.0, 5.0, 2.0

#: A grid has so many steps of each at the most.
MOST = 8


def steps(what: str, low: float, high: float, count: int) -> list[float]:
    """So many even steps from ``low`` to ``high``. Raises `SizeError` where they are none or too many."""
    if not 1 <= count <= MOST:
        raise SizeError(f"{count} steps of {what} are asked for; 1 to {MOST} are made")
    if low <= 0 or high < low:
        raise SizeError(f"{what} from {low:g} to {high:g} is nothing to try; begin above 0 and end higher")
    return [round(low + (high - low) * at / max(1, count - 1), 1) for at in range(count)]


def settings_coupon(
    stock: Stock, machine: Machine, operation: Work, speeds: Sequence[float], powers: Sequence[float]
) -> Project:
    """A square for each speed (mm/s, from left to right) and power (upwards), marked with both.

    Raises `SizeError` where a value is beyond the machine, or the squares beyond the sheet.
    """
    most = 100 if machine.kind == "beam" else machine.most
    if max(powers) > most or max(speeds) > machine.working.speed:
        raise SizeError(
            f"{machine.name} does at most {machine.working.speed:g} mm/s and {most:g}; "
            f"{max(speeds):g} and {max(powers):g} are asked for"
        )
    usual = setting_of(stock, machine, operation)
    rim = facts(stock, machine.id).smallest_web
    squares = []
    for row, column in product(range(len(powers)), range(len(speeds))):
        setting = usual.model_copy(update={"speed": speeds[column], "power": powers[row], "note": "", "tried": ""})
        squares.append(_square(stock.id, row, column, setting, rim))
    document = Project(
        name=f"Settings coupon for {stock.name}"[:80],
        machines=[machine],
        machine=machine.id,
        stocks=[stock],
        parts=squares,
        hand_over=HandOver(names="leave out"),
    )
    return document.model_copy(update={"layout": _laid(document, len(speeds), len(powers), rim)})


def _does(operation: Work) -> Does:
    """A hole is tried as any that is cut out."""
    return "cut out" if operation == "cut" or operation == "drill" else operation  # noqa: PLR1714 - told apart by mypy


def _square(stock: str, row: int, column: int, setting: Setting, rim: float) -> Part:
    """A square that is worked with a setting of its own, with a rim (mm) round it that stays in the sheet."""
    width, height = _size(rim)
    hole = RectangularHole(width=in_mm(SQUARE), height=in_mm(SQUARE))
    worked = CutOut(
        id="tried",
        hole=hole,
        x=in_mm(width / 2),
        y=in_mm(LABEL + rim + SQUARE / 2),
        does=_does(setting.operation),
        depth=Size(text="thickness/4"),
    )
    labels = [
        label("speed", f"{setting.speed:g}", complex(width / 4, LABEL / 2), 2),
        label("power", f"{setting.power:g}", complex(width * 3 / 4, LABEL / 2), 2),
    ]
    return Part(
        id=f"square_{row + 1}_{column + 1}",
        name=f"{setting.speed:g} mm/s at {setting.power:g}",
        stock=stock,
        shape=Rectangle(width=in_mm(width), height=in_mm(height)),
        cutouts=[worked, *labels],
        edge="nothing",
        settings=[setting],
    )


def _size(rim: float) -> tuple[float, float]:
    """Width and height (mm) of a square with its rim and label."""
    return SQUARE + 2 * rim, SQUARE + LABEL + 2 * rim


def _laid(document: Project, columns: int, rows: int, rim: float) -> Layout:
    result = evaluate(document)
    [stock] = document.stocks
    sheet = max(facts(stock, document.machine).sheets, key=lambda sheet: sheet.width * sheet.height)
    margin = 5.0
    across, up = (side + GAP for side in _size(rim))
    wide, high = columns * across + 2 * margin, rows * up + 2 * margin
    if wide > sheet.width or high > sheet.height:
        size = f"{sheet.width:g} x {sheet.height:g}"
        raise SizeError(f"the squares need {wide:g} x {high:g} mm; the largest sheet has {size}")
    placements = [
        Placement(
            part=f"square_{row + 1}_{column + 1}",
            copy_number=1,
            sheet=0,
            x=margin + column * across,
            y=margin + row * up,
            turn=0,
            by_hand=True,
        )
        for row, column in product(range(rows), range(columns))
    ]
    sheets = [LaidSheet(stock=stock.id, width=sheet.width, height=sheet.height)]
    return Layout(sheets=sheets, placements=placements, laid=laid_parts(result))
