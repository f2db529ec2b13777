"""Edits of how thick parts are where they lie on a sheet that is not of one thickness."""

from __future__ import annotations

from typing import Literal

from ..coupons.making import in_mm
from ..document.edit import CannotApply, Changes, Edit
from ..document.model import Id
from ..document.sheet import LaidPart
from ..evaluate import Result, evaluate
from ..layout.sheets import laid_parts
from ..measured.over_sheet import where_parts_lie
from ..parts.part import OwnThickness
from ..project.project import Project


class TakeThickness(Edit):
    """Gives each part of a stock that is laid out the thickness of the sheet where it lies, as it was read over that.

    With ``mean`` all of its parts are as thick as the stock again.
    """

    do: Literal["take thickness"]
    stock: Id
    mean: Literal[True] | None = None

    def label(self, project: Project) -> str:
        return "Parts as thick as their stock" if self.mean else "Thickness where parts lie"

    def changes(self, project: Project) -> Changes:
        stock = project.stock(self.stock)
        if stock is None:
            raise CannotApply(f"“{self.stock}” is not in the project any more.")
        was = evaluate(project)
        taken: dict[str, OwnThickness | None] = {}
        if self.mean:
            taken = {part.id: None for part in project.parts if part.stock == stock.id}
        else:
            lie = where_parts_lie(project, was, stock)
            taken = {one.part: OwnThickness(stock=stock.id, size=in_mm(round(one.mean, 2))) for one in lie}
        if not taken:
            raise CannotApply(
                f"{stock.name}: read the sheet in several places and lay its parts out; then what is there is known."
            )
        parts = [
            part.model_copy(update={"thickness": taken[part.id]}) if part.id in taken else part
            for part in project.parts
        ]
        now = evaluate(project.model_copy(update={"parts": parts}))
        return {"parts": parts, "layout": project.layout.model_copy(update={"laid": _laid(project, was, now)})}


def _laid(project: Project, was: Result, now: Result) -> list[LaidPart]:
    """The parts as they were laid out. Those that lay as they were lie as they are: slots change by less than the gap,
    and the parts lie where they were read.
    """
    before = {one.part: one for one in laid_parts(was)}
    after = {one.part: one for one in laid_parts(now)}
    return [after.get(one.part, one) if one == before.get(one.part) else one for one in project.layout.laid]
