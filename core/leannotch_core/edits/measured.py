"""Edits of what was measured on parts that were cut, and what is learnt of it."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ..coupons.learning import with_results
from ..coupons.making import in_mm
from ..document.edit import CannotApply, Changes, Edit
from ..document.measured import Day, LengthOf, MeasuredLength, MeasuredSheet
from ..document.model import Id
from ..document.sizes import Size, positive
from ..document.stock import Stock, TypedKerf
from ..document.sums import SizeError
from ..evaluate import EvaluatedPart, evaluate
from ..measured.explained import explained
from ..measured.lengths import Length, lengths_of
from ..measured.sheets import earlier
from ..project.project import Project
from .items import put, without


class Reading(LengthOf):
    """What a caliper read of a length, on one of the faces."""

    reading: Size
    face: Literal["top", "bottom"] = "top"


class MeasureParts(Edit):
    """Keeps what was measured on parts of one stock that were cut with the machine in use.

    What a length was meant to be is kept from when it was measured first: the parts may be changed since.
    """

    do: Literal["measure parts"]
    id: Id
    date: Day
    readings: list[Reading] = Field(max_length=60)

    def label(self, project: Project) -> str:
        return f"Measured on {self.date}"

    def changes(self, project: Project) -> Changes:
        before = next((sheet for sheet in project.measured if sheet.id == self.id), None)
        if before is not None and not self.readings:
            return {"measured": without(project.measured, self.id)}
        if not self.readings:
            raise CannotApply("Nothing was measured yet; type a reading first.")
        parts = evaluate(project).parts
        lengths = [self._length(project, before, parts, reading) for reading in self.readings]
        stocks = {part.stock for reading in self.readings if (part := project.part(reading.part))}
        if before is not None:
            kept = before.model_copy(update={"date": self.date, "lengths": lengths})
        elif len(stocks) != 1:
            raise CannotApply("These parts are of several stocks; what a machine does to each is measured by itself.")
        else:
            stock = parts[self.readings[0].part].stock
            of: dict[str, str] = {"id": self.id, "date": self.date, "stock": stocks.pop(), "machine": project.machine}
            kept = MeasuredSheet(**of, kerf=stock.kerf, lengths=lengths)
        return {"measured": put(project.measured, kept)}

    def _length(
        self,
        project: Project,
        before: MeasuredSheet | None,
        parts: dict[str, EvaluatedPart],
        reading: Reading,
    ) -> MeasuredLength:
        known = next((one for one in before.lengths if _same(one, reading)), None) if before else None
        if known is None:
            length = _found(project, parts, reading)
            known = MeasuredLength(
                part=length.part, cut_out=length.cut_out, way=length.way, meant=length.meant, along=length.along,
                reading=reading.reading,
            )  # fmt: skip
        try:
            positive(reading.reading, {})
        except SizeError as error:
            raise CannotApply(f"The reading of {known.meant:.2f} mm: {error}.") from error
        return known.model_copy(update={"reading": reading.reading, "face": reading.face})


class RemoveMeasured(Edit):
    do: Literal["remove measured"]
    id: Id

    def label(self, project: Project) -> str:
        return "Readings of cut parts removed"

    def changes(self, project: Project) -> Changes:
        return {"measured": without(project.measured, self.id)}


class TakeKerf(Edit):
    """Takes the kerf that readings of cut parts tell over to their stock on their machine, with a line of history."""

    do: Literal["take measured kerf"]
    id: Id

    def label(self, project: Project) -> str:
        return "Kerf of cut parts taken"

    def changes(self, project: Project) -> Changes:
        sheet = self._sheet(project)
        stock = project.stock(sheet.stock)
        if stock is None:
            raise CannotApply("The stock of these readings is not in the project any more.")
        machine = project.machine_of(sheet.machine)
        if machine is not None and machine.kind == "router":
            raise CannotApply("The kerf of a router is its cutter: measure the shank, and type that in its rack.")
        told = explained(sheet, earlier(project, sheet)).of("kerf")
        if not told.known:
            raise CannotApply(
                f"The readings do not tell the kerf yet: {sheet.kerf + told.value:.3f} mm is no surer than "
                f"± {told.sure:.3f}. Measure more lengths, openings among them."
            )
        kerf = round(sheet.kerf + told.value, 3)
        if kerf <= 0:
            raise CannotApply(f"The readings leave {kerf:.3f} mm for the kerf; measure them again.")
        return {
            "stocks": put(
                project.stocks, with_results(stock, sheet.date, sheet.machine, TypedKerf(width=in_mm(kerf)), [])
            )
        }

    def _sheet(self, project: Project) -> MeasuredSheet:
        found = next((sheet for sheet in project.measured if sheet.id == self.id), None)
        if found is None:
            raise CannotApply("These readings are not in the project any more.")
        return found

    def stock_to_keep(self, after: Project) -> Stock | None:
        """What a machine does to a stock is worth knowing everywhere."""
        return after.stock(self._sheet(after).stock)


def _same(a: LengthOf, b: LengthOf) -> bool:
    return (a.part, a.cut_out, a.way) == (b.part, b.cut_out, b.way)


def _found(project: Project, parts: dict[str, EvaluatedPart], wanted: LengthOf) -> Length:
    part = parts.get(wanted.part)
    lengths = lengths_of(part, turn_of(project, wanted.part)) if part else []
    for length in lengths:
        if (length.cut_out, length.way) == (wanted.cut_out, wanted.way):
            return length
    raise CannotApply("This length is not on the parts any more; choose another one.")


def turn_of(project: Project, part_id: str) -> float:
    """How the first copy of a part lies turned on its sheet (degrees); 0 where it lies on none."""
    return next((placed.turn for placed in project.layout.placements if placed.part == part_id), 0.0)
