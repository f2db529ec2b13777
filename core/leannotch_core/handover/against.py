"""A project held against what a cutting service offers, before anything is sent; and made for what it offers."""

from __future__ import annotations

from collections.abc import Iterator

from ..bureau.catalogue import OfferedThickness
from ..bureau.quote import GAP
from ..document.model import Model
from ..document.sizes import Size, in_digits
from ..document.stock import Sheet, Stock, TypedKerf
from ..evaluate import EvaluatedPart, Result

#: Thicknesses and kerfs that differ by no more than this (mm) are the same sheet.
SAME = 0.02


class Compared(Model):
    """One thing that was compared: what it is, ours and theirs in mm, and whether that fits."""

    what: str
    ours: str
    theirs: str
    fits: bool
    part: str = ""


def against(result: Result, stock: Stock, offer: OfferedThickness) -> list[Compared]:
    """All that is compared for the parts of one stock; what does not fit first."""
    parts = [part for part in result.parts.values() if part.part.stock == stock.id]
    return sorted(_held(result, stock, offer, parts), key=lambda held: held.fits)


def _held(result: Result, stock: Stock, offer: OfferedThickness, parts: list[EvaluatedPart]) -> Iterator[Compared]:
    facts = result.stocks[stock.id]
    same = abs(facts.thickness - offer.thickness) <= SAME
    yield Compared(what="thickness", ours=_mm(facts.thickness), theirs=_mm(offer.thickness), fits=same)
    yield Compared(what="kerf", ours=_mm(facts.kerf), theirs=_mm(offer.kerf), fits=abs(facts.kerf - offer.kerf) <= SAME)
    for part in parts:
        yield from _of_part(part, offer)


def _of_part(part: EvaluatedPart, offer: OfferedThickness) -> Iterator[Compared]:
    name, (left, bottom, right, top) = part.part.name, part.outline.bounds
    long, short = sorted((right - left, top - bottom), reverse=True)
    room = sorted((offer.width - 2 * GAP, offer.height - 2 * GAP), reverse=True)
    size, bed = f"{right - left:.1f} x {top - bottom:.1f} mm", f"{offer.width:g} x {offer.height:g} mm"
    yield Compared(what="sheet", ours=size, theirs=bed, fits=long <= room[0] and short <= room[1], part=name)
    holes = [2 * circle[1] for loop in part.outline.cutouts if (circle := loop.circle())]
    if holes:
        fits = min(holes) >= offer.smallest_hole
        yield Compared(
            what="smallest hole", ours=_mm(min(holes)), theirs=_mm(offer.smallest_hole), fits=fits, part=name
        )
    if part.finished.web is not None:
        fits = part.finished.web >= offer.smallest_web - 1e-6
        web = part.finished.web
        yield Compared(what="narrowest web", ours=_mm(web), theirs=_mm(offer.smallest_web), fits=fits, part=name)
    for bend in part.bends:
        if bend.half <= 0:
            continue
        called = f"{name}, {bend.name}"
        if offer.bends is None:
            yield Compared(what="bend", ours="bent", theirs="not bent here", fits=False, part=called)
            continue
        same = abs(bend.bend.radius - offer.bends.radius) <= SAME
        radius = _mm(offer.bends.radius)
        yield Compared(what="bend radius", ours=_mm(bend.bend.radius), theirs=radius, fits=same, part=called)


def _mm(value: float) -> str:
    return f"{value:.2f} mm"


def made_for(stock: Stock, name: str, offer: OfferedThickness, machine: str) -> Stock:
    """A stock as the service has it: its thickness, kerf, sheet and bends in place of those in hand."""
    kerf = TypedKerf(width=Size(text=in_digits(offer.kerf)))
    changed = stock.with_known(machine, kerf=kerf) if machine else stock.model_copy(update={"kerf": kerf})
    bends = offer.bends
    bending = changed.bending
    if bends:
        bending = bending.model_validate(
            {
                "radius": f"{bends.radius:g}",
                "die": f"{bends.die:g}",
                "least_flange": f"{bends.least_flange:g}",
                "neutral": {"how": "table", "rows": [row.model_dump() for row in bends.k]},
            }
        )
    return changed.model_copy(
        update={
            "name": name[:80],
            "nominal": Size(text=in_digits(offer.thickness)),
            "readings": [Size(text=in_digits(offer.thickness))],
            "smallest_web": Size(text=in_digits(offer.smallest_web)),
            "sheets": [Sheet(width=Size(text=in_digits(offer.width)), height=Size(text=in_digits(offer.height)))],
            "bending": bending,
        }
    )
