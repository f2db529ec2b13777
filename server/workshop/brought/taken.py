"""Taking what a drawing holds into its project: as parts, as an outline, as shapes on a part, or anew."""

from __future__ import annotations

from typing import Literal

from leannotch_core.bring import brought_parts, drawn_thickness, sheet_of
from leannotch_core.document.edit import CannotApply
from leannotch_core.document.ids import free_id
from leannotch_core.document.stock import Stock
from leannotch_core.drawings.again import as_it_is_now, known_again
from leannotch_core.drawings.motifs import motifs_from
from leannotch_core.drawings.recognised import FoundPart
from leannotch_core.drawings.taken import part_from
from leannotch_core.drawings.too_many import too_many
from leannotch_core.edits.bring import BringAgain, BringMotifs, BringParts
from leannotch_core.edits.part import BringOutline
from leannotch_core.parts.part import Part
from leannotch_core.parts.shapes.brought import Brought
from leannotch_core.project.project import Project
from ninja import Schema
from shown.choices import Choices, bringing

from workshop.brought.kept import brought_by, known_as
from workshop.models import BroughtFile
from workshop.revisions import current_id, document_of

#: As what a drawing is taken: parts; the newer state of parts that are there; the outline of a part; shapes on one.
Into = Literal["parts", "again", "outline", "cut out", "pocket", "score", "engrave", "reference"]


#: The edits that take it.
Takes = BringParts | BringAgain | BringOutline | BringMotifs


class TakingParts(Schema):
    """What is taken: all parts, or those of these places in the list; on a stock, or ``onto`` a part that is there.

    ``stocks`` are those of parts of a known thickness, by that; an empty one is a new one of it.
    ``gone`` are parts that a newer drawing has no more, and that are to be removed.
    """

    version: int
    choices: Choices = Choices()
    parts: list[int] | None = None
    into: Into = "parts"
    stock: str = ""
    stocks: dict[str, str] = {}
    onto: str = ""
    gone: list[str] = []


def taking(file: BroughtFile, taken: TakingParts) -> Takes:
    """The edit that takes what is chosen of a drawing. Raises `BrokenFile` or `CannotApply`."""
    document = document_of(current_id(file.project))
    parts = brought_by(file, taken.choices.cut, bringing(taken.choices)).parts
    chosen = parts if taken.parts is None else [parts[i] for i in taken.parts if i < len(parts)]
    if not chosen and not (taken.into == "again" and taken.gone):
        raise CannotApply("Nothing is chosen: choose the parts that are to be taken.")
    whole = taken.into in ("parts", "again")
    if whole and (why := too_many(chosen, sum(part.count for part in document.parts))):
        raise CannotApply(why)
    if taken.into == "parts":
        taken, sheets = _sheets(document, chosen, taken)
        return BringParts(file=file.name, parts=_parts(file, document, chosen, taken), stocks=sheets)
    if taken.into == "again":
        return _again(file, document, parts, chosen, taken)
    return _onto(file, document, chosen, taken)


def _parts(file: BroughtFile, document: Project, chosen: list[FoundPart], taken: TakingParts) -> list[Part]:
    fresh = brought_parts(document, chosen, taken.stock, taken.choices.follow, known_as(file))
    on = [taken.stocks.get(thick_key(drawn_thickness(part)), taken.stock) for part in chosen]
    return [part.model_copy(update={"stock": stock}) for part, stock in zip(fresh, on, strict=True)]


def _sheets(document: Project, chosen: list[FoundPart], taken: TakingParts) -> tuple[TakingParts, list[Stock]]:
    """With a stock for every thickness that is to have a new one. Raises `CannotApply` where a stock is missing."""
    ids = {stock.id for stock in document.stocks}
    wanted = {thick_key(drawn_thickness(part)) for part in chosen}
    fresh = {thick: sheet_of(thick, set(ids)) for thick, stock in taken.stocks.items() if not stock and thick in wanted}
    fresh = {thick: one.model_copy(update={"id": free_id("sheet", ids)}) for thick, one in sorted(fresh.items())}
    stocks = {**taken.stocks, **{thick: stock.id for thick, stock in fresh.items()}}
    if any(stocks.get(thick, taken.stock) not in ids for thick in wanted):
        raise CannotApply("Choose the stock that the parts are cut from.")
    return taken.model_copy(update={"stocks": stocks}), list(fresh.values())


def thick_key(thickness: float | None) -> str:
    """How a thickness (mm) is called; nothing where none is known."""
    return "" if thickness is None else f"{thickness:g}"


def _again(
    file: BroughtFile, document: Project, parts: list[FoundPart], chosen: list[FoundPart], taken: TakingParts
) -> BringAgain:
    name = known_as(file)
    rows = known_again(document.parts, parts, name)
    wanted = {id(part) for part in chosen}
    now = [
        as_it_is_now(row.part, parts[row.found], taken.choices.follow, name)
        for row in rows
        if row.part is not None and row.found is not None and id(parts[row.found]) in wanted
    ]
    news = [parts[row.found] for row in rows if row.what == "new" and row.found is not None]
    fresh = [part for part in news if id(part) in wanted]
    taken, sheets = _sheets(document, fresh, taken)
    gone = {row.part.id for row in rows if row.what == "gone" and row.part}
    return BringAgain(
        file=file.name,
        parts=[*now, *_parts(file, document, fresh, taken)],
        stocks=sheets,
        gone=[part for part in taken.gone if part in gone],
    )


def _onto(file: BroughtFile, document: Project, chosen: list[FoundPart], taken: TakingParts) -> Takes:
    part = document.part(taken.onto)
    if part is None:
        raise CannotApply("Choose the part that it is put on.")
    if taken.into != "outline":
        shapes = motifs_from(chosen, part, taken.into, known_as(file))
        return BringMotifs(file=file.name, part=part.id, shapes=shapes)
    if len(chosen) != 1:
        raise CannotApply(f"A part has one outline, and {len(chosen)} are chosen: choose the one that it is to be.")
    drawn = part_from(chosen[0], part.id, part.stock, taken.choices.follow, known_as(file))
    if not isinstance(drawn.shape, Brought):
        raise CannotApply("The drawing holds no outline.")
    taken_ids = {cut.id for cut in part.cutouts}
    sunk = [cut.model_copy(update={"id": free_id(cut.id, taken_ids)}) for cut in drawn.cutouts]
    return BringOutline(id=part.id, outline=drawn.shape, sunk=sunk)
