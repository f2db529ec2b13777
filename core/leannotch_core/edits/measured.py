"""Edits of what was measured on parts that were cut, and what is learnt of it."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ..coupons.learning import with_results
from ..coupons.making import in_mm
from ..document.bend import KAt, KFromTable, KTyped
from ..document.edit import CannotApply, Changes, Edit
from ..document.measured import LengthOf, MeasuredLength, MeasuredSheet, Reading
from ..document.model import Day, Id
from ..document.routing import RoutedAt
from ..document.setting import CutAt
from ..document.sizes import positive
from ..document.stock import CutterWidth, Kerf, Known, Stock, TypedKerf
from ..document.sums import SizeError
from ..evaluate import Result, evaluate
from ..facts.kerf import kerf_width
from ..facts.stock import facts
from ..measured.explained import Estimate, explained
from ..measured.lengths import Length, as_it_lies
from ..measured.sheets import earlier
from ..project.cutting import cutter_in_use, goes_round
from ..project.project import Project
from .items import put, without

#: So many caliper readings a stock keeps.
MOST_READINGS = 40


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
        if not self.readings:
            raise CannotApply("Nothing was measured yet; type a reading first.")
        before = next((sheet for sheet in project.measured if sheet.id == self.id), None)
        result = evaluate(project)
        parts = result.parts
        lengths = [_measured(project, result, before, reading) for reading in self.readings]
        stocks = {part.stock for reading in self.readings if (part := project.part(reading.part))}
        if len(stocks | ({before.stock} if before else set())) > 1:
            raise CannotApply("These parts are of several stocks; what a machine does to each is measured by itself.")
        if before is not None:
            return {"measured": put(project.measured, before.model_copy(update={"lengths": lengths}))}
        cut = parts[self.readings[0].part]
        at, routed = _cut_with(project, cut.part.stock)
        sheet = MeasuredSheet(
            id=self.id,
            date=self.date,
            stock=stocks.pop(),
            machine=project.machine,
            kerf=cut.stock.kerf,
            oval=cut.stock.oval,
            k=cut.stock.bending.own_k(cut.stock.thickness),
            lengths=lengths,
            at=at,
            routed=routed,
        )
        return {"measured": put(project.measured, sheet)}


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
        sheet, stock = _read_of(project, self.id)
        says = explained(sheet, earlier(project, sheet))
        told = says.of("kerf")
        if not told.known:
            raise CannotApply(
                f"The readings do not tell the kerf yet: {sheet.kerf + told.value:.3f} mm is no surer than "
                f"± {told.sure:.3f}. Measure more lengths, openings among them."
            )
        kerf = round(sheet.kerf + told.value, 3)
        if kerf <= 0:
            raise CannotApply(f"The readings leave {kerf:.3f} mm for the kerf; measure them again.")
        machine = project.machine_of(sheet.machine)
        if machine is not None and machine.kind == "router":
            return {"stocks": put(project.stocks, _with_width(stock, sheet, kerf))}
        told_too: dict[str, object] = {"below": _below(stock.known(sheet.machine), kerf, says.of("taper"))}
        if sheet.at:
            told_too["at"] = sheet.at
        oval = oval_taken(sheet, says.of("oval"))
        if kerf <= abs(oval) / 2:
            raise CannotApply(
                f"A kerf of {kerf:.3f} mm leaves nothing one way, where it is {abs(oval):.3f} mm wider the other; "
                "measure both ways again."
            )
        wide, up = (TypedKerf(width=in_mm(round(kerf + by, 4))) for by in (-oval / 2, oval / 2))
        told_too["up"] = up if oval else None
        measured = with_results(stock, sheet.date, sheet.machine, [], kerf=wide, **told_too)
        return {"stocks": put(project.stocks, measured)}

    def stock_to_keep(self, after: Project) -> Stock | None:
        """What a machine does to a stock is worth knowing everywhere."""
        return after.stock(sheet_of(after, self.id).stock)


class TakeK(Edit):
    """Takes over to their stock by how much its K factor is another than was thought, as legs of bent parts tell."""

    do: Literal["take measured K"]
    id: Id

    def label(self, project: Project) -> str:
        return "K of bent parts taken"

    def changes(self, project: Project) -> Changes:
        sheet, stock = _read_of(project, self.id)
        told = explained(sheet, earlier(project, sheet)).of("K")
        if not told.known:
            raise CannotApply(
                f"The readings do not tell K yet: it is no surer than ± {told.sure:.3f}. Measure legs of bent parts."
            )
        now = facts(stock, sheet.machine)
        by = sheet.k + told.value - now.bending.own_k(now.thickness)
        neutral = stock.bending.neutral
        rows = neutral.rows if isinstance(neutral, KFromTable) else [KAt(ratio=1, k=now.bending.own_k(now.thickness))]
        shifted = [round(row.k + by, 3) for row in rows]
        if not all(0 < k < 1 for k in shifted):
            raise CannotApply(f"The readings put K at {min(shifted):.3f}, outside the sheet; measure the legs again.")
        moved = [row.model_copy(update={"k": k}) for row, k in zip(rows, shifted, strict=True)]
        taken = KFromTable(rows=moved) if isinstance(neutral, KFromTable) else KTyped(k=shifted[0])
        bending = stock.bending.model_copy(update={"neutral": taken})
        return {"stocks": put(project.stocks, stock.model_copy(update={"bending": bending}))}

    def stock_to_keep(self, after: Project) -> Stock | None:
        """How a stock is bent is worth knowing everywhere."""
        return after.stock(sheet_of(after, self.id).stock)


class TakeReadThickness(Edit):
    """Takes what parts of a sheet measured in thickness for the caliper readings of their stock."""

    do: Literal["take read thickness"]
    id: Id

    def label(self, project: Project) -> str:
        return "Thickness of cut parts taken"

    def changes(self, project: Project) -> Changes:
        sheet, stock = _read_of(project, self.id)
        reads = explained(sheet).reads
        sound = [one.length.reading for one in reads if one.length.way == "thickness" and one.left_out is None]
        if not sound:
            raise CannotApply("No part was read for its thickness yet; choose the length, and type what it measures.")
        return {"stocks": put(project.stocks, stock.model_copy(update={"readings": sound[-MOST_READINGS:]}))}


def sheet_of(project: Project, sheet_id: str) -> MeasuredSheet:
    """Readings by their id. Raises `CannotApply`."""
    found = next((sheet for sheet in project.measured if sheet.id == sheet_id), None)
    if found is None:
        raise CannotApply("These readings are not in the project any more.")
    return found


def _read_of(project: Project, sheet_id: str) -> tuple[MeasuredSheet, Stock]:
    """Readings by their id, and the stock that they are of. Raises `CannotApply`."""
    sheet = sheet_of(project, sheet_id)
    stock = project.stock(sheet.stock)
    if stock is None:
        raise CannotApply("The stock of these readings is not in the project any more.")
    return sheet, stock


def _cut_with(project: Project, stock_id: str) -> tuple[CutAt | None, RoutedAt | None]:
    """What a beam was set to for parts of a stock, or how a cutter went round them."""
    stock, cutter = project.stock(stock_id), cutter_in_use(project, stock_id)
    if cutter is not None:
        return None, goes_round(project, stock, cutter.id)
    own = stock.own(project.machine) if stock else None
    return own.cut_now if own else None, None


def _with_width(stock: Stock, sheet: MeasuredSheet, width: float) -> Stock:
    """The stock with what a cutter really cuts in it (mm), in place of what was known of it going round so."""
    if sheet.routed is None:
        raise CannotApply("Nobody knows which cutter cut these parts; measure them again with the cutter chosen.")
    new = CutterWidth(at=sheet.routed, width=TypedKerf(width=in_mm(width)))
    return stock.with_width(sheet.machine, new)


def oval_taken(sheet: MeasuredSheet, told: Estimate) -> float:
    """By how much (mm) a cut is wider along y than along x, as readings tell; where they do not, as it was thought."""
    if told.told:
        return round(sheet.oval + told.value, 3)
    return sheet.oval


def _below(known: Known, kerf: float, taper: Estimate) -> Kerf | None:
    """The kerf of the lower face beside a new one (mm) of the upper: by the taper that was measured, else as before."""
    if taper.known:
        wider = taper.value if taper.told else 0.0
    elif known.below is not None:
        wider = kerf_width(known.below) - kerf_width(known.kerf)
    else:
        return None
    return TypedKerf(width=in_mm(round(kerf + wider, 3))) if wider else None


def _measured(project: Project, result: Result, before: MeasuredSheet | None, reading: Reading) -> MeasuredLength:
    """A reading with what its length was meant to be: as it was kept before, else as the part is now."""
    known = next((one for one in before.lengths if one.which == reading.which), None) if before else None
    if known is None:
        length: Length | MeasuredLength = _found(project, result, reading)
    else:
        length = known
    try:
        positive(reading.reading, {})
    except SizeError as error:
        raise CannotApply(f"The reading of {length.meant:.2f} mm: {error}.") from error
    kept = {name: getattr(length, name) for name in ("meant", "along", "grows", "bent", "through")}
    return MeasuredLength(**dict(reading), **kept)


def _found(project: Project, result: Result, wanted: LengthOf) -> Length:
    part = result.parts.get(wanted.part)
    for length in as_it_lies(project, result, part) if part else []:
        if length.which == wanted.which:
            return length
    raise CannotApply("This length is not on the parts any more; choose another one.")
