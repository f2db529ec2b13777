"""Lengths worth measuring on parts that were cut, and what their readings say together."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.http import HttpRequest
from leannotch_core.document.measured import CutFace, MeasuredSheet, Way
from leannotch_core.measured.explained import Estimate, explained, one_more, telling
from leannotch_core.measured.gaps import measured_gaps
from leannotch_core.measured.lengths import Length, lengths_of_stock
from leannotch_core.measured.picked_up import bent_back, picked_up
from leannotch_core.measured.sheets import earlier
from leannotch_core.project.cutting import cutter_in_use
from leannotch_core.project.project import Project
from ninja import Router, Schema, Status
from shown.measure import EstimateShown, LengthShown, MeasuredShown, ReadShown, SheetMeasured, StockLengths
from shown.project import Trouble
from shown.prove import GapOnFaces

from workshop.api.answers import found
from workshop.revisions import current_id, document_of, result_of

router = Router()


class PickedUp(Schema):
    """What a caliper reads (mm) of a length of a part."""

    part: str
    cut_out: str
    way: Way
    reading: str


class BentBack(Schema):
    """The angle that came out, as it is typed."""

    got: str


@router.get("/projects/{slug}/measured", response={200: MeasuredShown, 404: Trouble, 422: Trouble})
def get_measured(request: HttpRequest, slug: str) -> MeasuredShown:
    revision = current_id(found(slug))
    document, result = document_of(revision), result_of(revision)
    lengths = {stock.id: lengths_of_stock(document, result, stock.id) for stock in document.stocks}
    return MeasuredShown(
        gaps=[row and GapOnFaces(above=row[0], below=row[1]) for row in measured_gaps(document, result)],
        stocks=[StockLengths(stock=stock, lengths=_shown(of, telling(of))) for stock, of in lengths.items() if of],
        measured=[_sheet(sheet, document, lengths.get(sheet.stock, [])) for sheet in document.measured],
    )


@router.get("/projects/{slug}/picked-up", response={200: list[PickedUp], 404: Trouble, 422: Trouble})
def pick_up(request: HttpRequest, slug: str, stock: str, id: str, face: CutFace = "top") -> Any:
    """What the lengths that tell most read on parts that the machine for practice in use has cut."""
    revision = current_id(found(slug))
    document, result = document_of(revision), result_of(revision)
    machine = document.machine_of(document.machine)
    if machine is None or machine.lies is None:
        called = machine.name if machine else "This machine"
        return Status(404, Trouble(message=f"{called} is real: what it cut is measured with a caliper."))
    asked = telling(lengths_of_stock(document, result, stock))
    if not asked:
        return Status(404, Trouble(message="There is no part of this stock to pick up."))
    known = next((sheet for sheet in document.measured if sheet.id == id), None)
    written = known or result.parts[asked[0].part].stock
    cutter = cutter_in_use(document)
    readings = picked_up(machine.lies, asked, written.kerf, id, face, cutter.shank if cutter else None, written.oval)
    return [
        PickedUp(part=one.part, cut_out=one.cut_out, way=one.way, reading=f"{reading:.2f}")
        for one, reading in zip(asked, readings, strict=True)
    ]


@router.get("/projects/{slug}/bent-back", response={200: BentBack, 404: Trouble})
def bend_back(request: HttpRequest, slug: str, put: float, time: str) -> Any:
    """What a strip that was bent to an angle (degrees) on the machine for practice in use reads."""
    document = document_of(current_id(found(slug)))
    machine = document.machine_of(document.machine)
    if machine is None or machine.lies is None:
        called = machine.name if machine else "This machine"
        return Status(404, Trouble(message=f"{called} is real: what it bent is read with a protractor."))
    return BentBack(got=f"{bent_back(machine.lies, put, time):g}")


def _shown(lengths: Sequence[Length], asked: Sequence[Length]) -> list[LengthShown]:
    """Those that are asked for first, in their order."""
    others = [one for one in lengths if one not in asked]
    return [_length(one, True) for one in asked] + [_length(one, False) for one in others]


def _length(one: Length, asked: bool) -> LengthShown:
    a, b = one.start, one.end
    place = {"x1": a.real, "y1": a.imag, "x2": b.real, "y2": b.imag}
    return LengthShown(
        part=one.part, cut_out=one.cut_out, way=one.way, called=one.called, meant=one.meant, asked=asked, **place
    )


def _sheet(sheet: MeasuredSheet, document: Project, lengths: Sequence[Length]) -> SheetMeasured:
    told = explained(sheet, earlier(document, sheet))
    more = one_more(sheet.lengths, lengths)
    machine = document.machine_of(sheet.machine)
    return SheetMeasured(
        id=sheet.id,
        date=sheet.date,
        stock=sheet.stock,
        machine=sheet.machine,
        kerf=sheet.kerf,
        oval=sheet.oval,
        k=sheet.k,
        routed=machine is not None and machine.kind == "router",
        spread=told.spread,
        beside=list(told.beside),
        against=told.against,
        reads=[
            ReadShown(
                part=one.length.part,
                cut_out=one.length.cut_out,
                way=one.length.way,
                face=one.length.face,
                meant=one.length.meant,
                value=one.value,
                rest=one.rest,
                left_out=one.left_out,
            )
            for one in told.reads
        ],
        estimates=[_estimate(one) for one in told.estimates],
        more=_length(more, False) if more else None,
    )


def _estimate(one: Estimate) -> EstimateShown:
    return EstimateShown(cause=one.cause, value=one.value, sure=one.sure, told=one.told, known=one.known)
