"""What a browser is shown of a project: the document, and everything that follows from it, ready to draw.

Points are in mm with y up, as in the document; path data has y turned down, as SVG wants it.
"""

from __future__ import annotations

from functools import lru_cache
from typing import Literal

from leannotch_core.document.model import Fit
from leannotch_core.evaluate import EvaluatedPart, Result
from leannotch_core.findings import Finding
from leannotch_core.geometry.loop import Outline
from leannotch_core.geometry.measure import centroid
from leannotch_core.handover.svg import path_data
from leannotch_core.machining.plan import marks
from leannotch_core.parts.drawing import knots_of
from leannotch_core.parts.shapes.curve import KnotAt
from leannotch_core.parts.shapes.rectangle import SIDES
from leannotch_core.parts.sides import side_frame
from leannotch_core.project import Project as Document
from leannotch_core.starters.in_place import drives_side
from pydantic import BaseModel

from workshop import starters
from workshop.dry_fit import DrivenShown, driven_shown
from workshop.models import Project, Revision
from workshop.notes import is_more_to_look_for, layout_of, notes
from workshop.revisions import current_id, document_of, result_of
from workshop.starters import StarterFacts


class StockShown(BaseModel):
    thickness: float
    spread: float
    thickest: float
    readings: int
    kerf: float
    clearance: dict[Fit, float]


class SideShown(BaseModel):
    side: Literal["bottom", "right", "top", "left"]
    x1: float
    y1: float
    x2: float
    y2: float


class CutOutShown(BaseModel):
    """``path`` has all repeats; ``x`` and ``y`` are the middle of the first one."""

    id: str
    does: str
    path: str
    x: float
    y: float
    width: float
    height: float


class BoxShown(BaseModel):
    left: float
    bottom: float
    right: float
    top: float


class PartShown(BaseModel):
    """A part ready to draw, in mm. ``balance_x`` and ``balance_y`` are its centroid, where it balances.

    ``width_of`` and ``height_of`` are the numbers of its starter that these sizes are, if they are one.
    """

    id: str
    stock: str
    width: float
    height: float
    thickness: float
    area: float
    bounds: BoxShown
    path: str
    base: str
    marks: str
    pockets: str
    edge_length: float
    balance_x: float
    balance_y: float
    narrowest_web: float | None
    knots: list[KnotAt]
    sides: list[SideShown]
    cutouts: list[CutOutShown]
    width_of: DrivenShown | None = None
    height_of: DrivenShown | None = None


class LedgerRow(BaseModel):
    """One opening and its insert, in mm. ``hardware`` names a bought insert."""

    joint: str
    kind: str
    fit: str
    opening_part: str
    insert_part: str
    opening_thickness: float
    insert_thickness: float
    opening: float
    insert: float
    hardware: str
    gap: float
    tightest: float


class SheetShown(BaseModel):
    stock: str
    width: float
    height: float
    used: float


class ProjectShown(BaseModel):
    """A project ready to draw; ``looking`` where some mends of its findings have still to be looked for."""

    slug: str
    version: int
    document: Document
    stocks: dict[str, StockShown]
    parts: list[PartShown]
    ledger: list[LedgerRow]
    sheets: list[SheetShown]
    layout_out_of_date: bool
    findings: list[Finding]
    looking: bool
    values: dict[str, float]
    starters: dict[str, StarterFacts]
    undo: str | None
    redo: str | None


def show(project: Project) -> ProjectShown:
    """The current state of a project as the browser draws it."""
    revision = current_id(project)
    document, result = document_of(revision), result_of(revision)
    layout = layout_of(revision)
    current = project.current
    redo = Revision.objects.filter(parent_id=revision).values_list("label", flat=True).first()
    return ProjectShown(
        slug=project.slug,
        version=project.version,
        document=document,
        stocks={
            stock_id: StockShown.model_validate(facts, from_attributes=True)
            for stock_id, facts in result.stocks.items()
        },
        parts=_parts(document, result, revision, current.parent_id if current else None),
        ledger=_ledger(result),
        sheets=[SheetShown.model_validate(sheet, from_attributes=True) for sheet in layout.sheets],
        layout_out_of_date=layout.out_of_date,
        findings=notes(revision),
        looking=is_more_to_look_for(revision),
        values=result.values,
        starters=starters.facts(document),
        undo=current.label if current and current.parent_id else None,
        redo=redo,
    )


def outline_path(outline: Outline) -> str:
    return "".join(path_data(loop) for loop in outline.loops)


@lru_cache(maxsize=32)
def _drawn(revision_id: int) -> dict[str, tuple[EvaluatedPart, PartShown]]:
    """The parts of a revision that were made ready to draw, with what they were made of."""
    return {}


def _parts(document: Document, result: Result, revision_id: int, parent_id: int | None) -> list[PartShown]:
    """All parts; those that are as they were in the revision before are not made ready again."""
    before = _drawn(parent_id) if parent_id else {}
    drawn = _drawn(revision_id)
    shown = []
    for part in result.parts.values():
        known = drawn.get(part.part.id) or before.get(part.part.id)
        if known is None or known[0] != part:
            known = part, _part(part)
        drawn[part.part.id] = known
        shown.append(_driven(document, result, part, known[1]))
    return shown


def _driven(document: Document, result: Result, part: EvaluatedPart, shown: PartShown) -> PartShown:
    """With the numbers of its starter that its sizes are, which depend on more than the part."""
    if not part.part.starter:
        return shown
    width, height = (driven_shown(drives_side(document, result, part.part, side)) for side in ("width", "height"))
    return shown.model_copy(update={"width_of": width, "height_of": height})


def _part(part: EvaluatedPart) -> PartShown:
    balance = centroid(part.outline)
    return PartShown(
        id=part.part.id,
        stock=part.part.stock,
        width=part.width,
        height=part.height,
        thickness=part.stock.thickness,
        area=part.outline.area,
        bounds=_box(part.outline),
        path="".join(outline_path(piece) for piece in part.finished.pieces),
        base=path_data(part.base),
        marks="".join(path_data(line.segments, closed=line.closed) for line in marks(part)),
        pockets="".join(outline_path(pocket.outline) for pocket in part.pockets),
        edge_length=sum(loop.length for loop in part.outline.loops),
        balance_x=balance.real,
        balance_y=balance.imag,
        narrowest_web=part.finished.web,
        knots=knots_of(part.part, part.width, part.height),
        sides=[_side(part, side) for side in SIDES],
        cutouts=[
            CutOutShown(
                id=cut.id,
                does=cut.does,
                path="".join(outline_path(loop) for loop in cut.loops),
                x=cut.middle.real,
                y=cut.middle.imag,
                width=cut.loops[0].bounds[2] - cut.loops[0].bounds[0],
                height=cut.loops[0].bounds[3] - cut.loops[0].bounds[1],
            )
            for cut in part.cutouts
        ],
    )


def _box(outline: Outline) -> BoxShown:
    left, bottom, right, top = outline.bounds
    return BoxShown(left=left, bottom=bottom, right=right, top=top)


def _side(part: EvaluatedPart, side: Literal["bottom", "right", "top", "left"]) -> SideShown:
    frame = side_frame(part.width, part.height, side, part.beyond)
    start, end = frame.start, frame.point(frame.length, 0)
    return SideShown(side=side, x1=start.real, y1=start.imag, x2=end.real, y2=end.imag)


def _ledger(result: Result) -> list[LedgerRow]:
    return [
        LedgerRow(
            joint=mating.joint,
            kind=mating.kind,
            fit=mating.fit,
            opening_part=mating.opening_part,
            insert_part=mating.insert_part,
            opening_thickness=result.parts[mating.opening_part].stock.thickness,
            insert_thickness=result.parts[mating.insert_part].stock.thickness,
            opening=mating.opening,
            insert=mating.insert,
            hardware=mating.hardware,
            gap=mating.gap,
            tightest=mating.tightest,
        )
        for mating in result.ledger
        if mating.opening_part in result.parts and mating.insert_part in result.parts
    ]
