"""Edits of the layout."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ..document.edit import CannotApply, Changes, Edit
from ..document.model import Id
from ..document.sheet import CopyOf, Layout, Placement
from ..document.sizes import Size, SizeError, length, number
from ..evaluate import evaluate
from ..layout.again import NoRoom, laid_again
from ..project import Project


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
    copy_number: int = Field(ge=1, le=500)
    sheet: int = Field(ge=0, le=999)
    x: Size
    y: Size
    turn: Size

    def label(self, project: Project) -> str:
        part = project.part(self.part)
        return f"{part.name if part else self.part} placed at {self.x.text}, {self.y.text}"

    def changes(self, project: Project) -> Changes:
        there = (p for p in project.layout.placements if (p.part, p.copy_number) == (self.part, self.copy_number))
        before = next(there, None)
        try:
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
        except SizeError as error:
            raise CannotApply(str(error)) from error
        return PlaceParts(do="place parts", placements=[placement]).changes(project)


class MoveSheet(Edit):
    """Takes a sheet (from 0) to another place in the order of sheets; all that lies on it goes with it."""

    do: Literal["move sheet"]
    sheet: int = Field(ge=0, le=999)
    to: int = Field(ge=0, le=999)

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


class LayAgain(Edit):
    """Lays a few copies anew from a sheet (from 0) on, where there is room; all others stay where they lie."""

    do: Literal["lay again"] = "lay again"
    copies: list[CopyOf] = Field(min_length=1, max_length=200)
    sheet: int = Field(default=0, ge=0, le=999)

    def label(self, project: Project) -> str:
        first = project.part(self.copies[0].part)
        more = f" and {len(self.copies) - 1} more" if len(self.copies) > 1 else ""
        return f"{first.name if first else self.copies[0].part}{more} laid out again"

    def changes(self, project: Project) -> Changes:
        try:
            return {"layout": laid_again(project, evaluate(project), self.copies, self.sheet)}
        except (NoRoom, SizeError) as error:
            raise CannotApply(str(error)) from error


class SetLayout(Edit):
    """Takes over a whole layout, as the nesting found it."""

    do: Literal["set layout"]
    layout: Layout

    def label(self, project: Project) -> str:
        return "Laid out"

    def changes(self, project: Project) -> Changes:
        return {"layout": self.layout}
