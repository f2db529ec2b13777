"""Edits of the layout."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ..document.edit import CannotApply, Changes, Edit
from ..document.limits import MOST_OF_A_PART, MOST_SHEETS
from ..document.model import Id
from ..document.sheet import CopyOf, LaidSheet, Layout, Placement
from ..document.sizes import Size, length, number
from ..document.stock import Sheet, Stock
from ..document.sums import SizeError
from ..evaluate import evaluate
from ..layout.again import laid_again
from ..project.project import Project


class SetSpacing(Edit):
    """Margin to the sheet's edge and gap between parts."""

    do: Literal["set spacing"]
    margin: Size
    gap: Size

    def label(self, project: Project) -> str:
        return f"Margin {self.margin.text}, gap {self.gap.text}"

    def changes(self, project: Project) -> Changes:
        return {"layout": project.layout.model_copy(update={"margin": self.margin, "gap": self.gap})}


class PlaceParts(Edit):
    """Puts copies of parts where the maker wants them; they stay there when the rest is laid out again."""

    do: Literal["place parts"]
    placements: list[Placement] = Field(min_length=1, max_length=5000)

    def label(self, project: Project) -> str:
        return f"{len(self.placements)} placed by hand"

    def changes(self, project: Project) -> Changes:
        layout = project.layout
        moved = {(p.part, p.copy_number): p for p in self.placements}
        if any(p.sheet >= len(layout.sheets) for p in moved.values()):
            raise CannotApply("That sheet is not in the layout; lay out again.")
        kept = [moved.pop((p.part, p.copy_number), p) for p in layout.placements]
        return {"layout": layout.model_copy(update={"placements": [*kept, *moved.values()]})}


class PlaceExactly(Edit):
    """Puts one copy of a part at typed numbers: sums and units are worked out here, once."""

    do: Literal["place exactly"]
    part: Id
    copy_number: int = Field(ge=1, le=MOST_OF_A_PART)
    sheet: int = Field(ge=0, lt=MOST_SHEETS)
    x: Size
    y: Size
    turn: Size

    def label(self, project: Project) -> str:
        part = project.part(self.part)
        return f"{part.name if part else self.part} placed at {self.x.text}, {self.y.text}"

    def changes(self, project: Project) -> Changes:
        there = (p for p in project.layout.placements if (p.part, p.copy_number) == (self.part, self.copy_number))
        before = next(there, None)
        placement = Placement(
            part=self.part,
            copy_number=self.copy_number,
            sheet=self.sheet,
            x=length(self.x, {}),
            y=length(self.y, {}),
            turn=number(self.turn) % 360,
            by_hand=True,
            mirrored=before is not None and before.mirrored,
            cut=before is not None and before.cut,
        )
        return PlaceParts(do="place parts", placements=[placement]).changes(project)


class MoveSheet(Edit):
    """Takes a sheet (from 0) to another place in the order of sheets; all that lies on it goes with it."""

    do: Literal["move sheet"]
    sheet: int = Field(ge=0, lt=MOST_SHEETS)
    to: int = Field(ge=0, lt=MOST_SHEETS)

    def label(self, project: Project) -> str:
        return f"Sheet {self.sheet + 1} made sheet {self.to + 1}"

    def changes(self, project: Project) -> Changes:
        layout = project.layout
        order = list(range(len(layout.sheets)))
        if max(self.sheet, self.to) >= len(order):
            raise CannotApply("That sheet is not in the layout; lay out again.")
        order.insert(self.to, order.pop(self.sheet))
        placements = [
            p.model_copy(update={"sheet": order.index(p.sheet)}) if p.sheet < len(order) else p
            for p in layout.placements
        ]
        sheets = [layout.sheets[before] for before in order]
        return {"layout": layout.model_copy(update={"sheets": sheets, "placements": placements})}


class SheetCut(Edit):
    """Counts all that lies on a sheet (from 0) as cut. The sheet is gone, and one less of its size is at hand."""

    do: Literal["sheet cut"]
    sheet: int = Field(ge=0, lt=MOST_SHEETS)

    def label(self, project: Project) -> str:
        return f"Sheet {self.sheet + 1} cut"

    def check(self, project: Project) -> None:
        """Raises `CannotApply` where there is no such sheet, or nothing lies on it."""
        if self.sheet >= len(project.layout.sheets):
            raise CannotApply("That sheet is not in the layout; lay out again.")
        if not any(p.sheet == self.sheet for p in project.layout.placements):
            raise CannotApply(f"Nothing lies on sheet {self.sheet + 1}, so nothing was cut from it.")

    def changes(self, project: Project) -> Changes:
        self.check(project)
        layout, gone = project.layout, project.layout.sheets[self.sheet]
        cut = [p for p in layout.placements if p.sheet == self.sheet]
        fresh = [CopyOf(part=p.part, copy_number=p.copy_number) for p in cut]
        later = [p for p in layout.placements if p.sheet != self.sheet]
        update = {
            "sheets": [sheet for at, sheet in enumerate(layout.sheets) if at != self.sheet],
            "placements": [p.model_copy(update={"sheet": p.sheet - (p.sheet > self.sheet)}) for p in later],
            "done": [*(copy for copy in layout.done if copy not in fresh), *fresh],
        }
        stocks = [_less(stock, gone) if stock.id == gone.stock else stock for stock in project.stocks]
        return {"layout": layout.model_copy(update=update), "stocks": stocks}


def _less(stock: Stock, gone: LaidSheet) -> Stock:
    """The stock with one sheet less of a size, where these are counted; an offcut that is used is no more."""
    sheets = list(stock.sheets)
    for at, sheet in enumerate(sheets):
        if sheet.at_hand and (sheet.outline or _is_size(sheet, gone)) and sheet.outline == gone.outline:
            left = sheet.model_copy(update={"at_hand": sheet.at_hand - 1})
            sheets[at : at + 1] = [] if sheet.outline and len(sheets) > 1 else [left]
            break
    return stock.model_copy(update={"sheets": sheets})


def _is_size(sheet: Sheet, gone: LaidSheet) -> bool:
    try:
        return (length(sheet.width, {}), length(sheet.height, {})) == (gone.width, gone.height)
    except SizeError:
        return False


class CutAgain(Edit):
    """Counts copies as not cut any more: one failed, or was lost, and is laid out and cut again."""

    do: Literal["cut again"]
    copies: list[CopyOf] = Field(min_length=1, max_length=5000)

    def label(self, project: Project) -> str:
        return f"{len(self.copies)} to be cut again"

    def changes(self, project: Project) -> Changes:
        done = [copy for copy in project.layout.done if copy not in self.copies]
        gathered = [copy for copy in project.preparation.gathered if copy not in self.copies]
        return {
            "layout": project.layout.model_copy(update={"done": done}),
            "preparation": project.preparation.model_copy(update={"gathered": gathered}),
        }


class LayAgain(Edit):
    """Lays a few copies anew from a sheet (from 0) on, where there is room; all others stay where they lie."""

    do: Literal["lay again"] = "lay again"
    copies: list[CopyOf] = Field(min_length=1, max_length=200)
    sheet: int = Field(default=0, ge=0, lt=MOST_SHEETS)

    def label(self, project: Project) -> str:
        first = project.part(self.copies[0].part)
        more = f" and {len(self.copies) - 1} more" if len(self.copies) > 1 else ""
        return f"{first.name if first else self.copies[0].part}{more} laid out again"

    def changes(self, project: Project) -> Changes:
        return {"layout": laid_again(project, evaluate(project), self.copies, self.sheet)}


class SetLayout(Edit):
    """Takes over a whole layout, as the nesting found it."""

    do: Literal["set layout"]
    layout: Layout

    def label(self, project: Project) -> str:
        return "Laid out"

    def changes(self, project: Project) -> Changes:
        return {"layout": self.layout}
