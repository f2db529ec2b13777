"""What a browser is shown of a project: the document, and everything that follows from it, ready to draw.

Points are in mm with y up, as in the document; path data has y turned down, as SVG wants it.
"""

from __future__ import annotations

from functools import lru_cache, partial
from typing import Any, Literal

from leannotch_core.document.model import Fit
from leannotch_core.document.setting import Setting
from leannotch_core.evaluate import EvaluatedPart, Result
from leannotch_core.findings import Finding
from leannotch_core.geometry.loop import Outline
from leannotch_core.geometry.measure import centroid
from leannotch_core.handover.svg import path_data
from leannotch_core.joints.fit import Mating
from leannotch_core.machining.lettered import marks
from leannotch_core.machining.settings import WORKS, setting_of
from leannotch_core.parts.drawing import knots_of
from leannotch_core.parts.shapes.curve import KnotAt
from leannotch_core.parts.shapes.rectangle import SIDES
from leannotch_core.parts.sides import side_frame
from leannotch_core.project import Project as Document
from leannotch_core.remembered import Remembered
from leannotch_core.starters.in_place import drives_side
from pydantic import BaseModel

from workshop import starters
from workshop.dry_fit import DrivenShown, driven_shown
from workshop.models import Project, Revision
from workshop.notes import is_more_to_look_for, layout_of, notes
from workshop.revisions import current_id, document_of, result_of
from workshop.starters import StarterFacts


class StockShown(BaseModel):
    """A stock in numbers (mm), as the machine in use cuts it, and its settings there."""

    thickness: float
    spread: float
    thickest: float
    readings: int
    kerf: float
    clearance: dict[Fit, float]
    settings: list[Setting] = []


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
    references: str
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


class RestShown(BaseModel):
    """A rectangle of a sheet that is left whole, in mm from its lower left corner."""

    left: float
    bottom: float
    width: float
    height: float


class SheetShown(BaseModel):
    stock: str
    width: float
    height: float
    used: float
    rest: RestShown | None


class StateShown(BaseModel):
    """What is told whole of a project; ``looking`` where some mends of its findings have still to be looked for."""

    slug: str
    version: int
    stocks: dict[str, StockShown]
    sheets: list[SheetShown]
    layout_out_of_date: bool
    findings: list[Finding]
    looking: bool
    starters: dict[str, StarterFacts]
    undo: str | None
    redo: str | None


class ProjectShown(StateShown):
    """A project ready to draw."""

    document: Document
    parts: list[PartShown]
    ledger: list[LedgerRow]
    values: dict[str, float]


def show(project: Project) -> ProjectShown:
    """The current state of a project as the browser draws it."""
    revision = current_id(project)
    result = result_of(revision)
    return ProjectShown(
        **state_of(project),
        document=document_of(revision),
        parts=list(parts_of(revision).values()),
        ledger=[row for rows in ledger_of(result).values() for row in map(partial(ledger_row, result), rows)],
        values=result.values,
    )


def state_of(project: Project) -> dict[str, Any]:
    """The fields of `StateShown` for a project as it stands."""
    revision = current_id(project)
    document, layout, current = document_of(revision), layout_of(revision), project.current
    return {
        "slug": project.slug,
        "version": project.version,
        "stocks": {
            stock_id: StockShown.model_validate(facts, from_attributes=True).model_copy(
                update={"settings": _settings(document, stock_id)}
            )
            for stock_id, facts in result_of(revision).stocks.items()
        },
        "sheets": [SheetShown.model_validate(sheet, from_attributes=True) for sheet in layout.sheets],
        "layout_out_of_date": layout.out_of_date,
        "findings": notes(revision),
        "looking": is_more_to_look_for(revision),
        "starters": starters.facts(document),
        "undo": current.label if current and current.parent_id else None,
        "redo": Revision.objects.filter(parent_id=revision).values_list("label", flat=True).first(),
    }


def _settings(document: Document, stock_id: str) -> list[Setting]:
    """How the machine in use works a stock, its own settings and those to start with; none without a machine."""
    machine, stock = document.machine_of(document.machine), document.stock(stock_id)
    return [setting_of(stock, machine, work) for work in WORKS] if machine and stock else []


def outline_path(outline: Outline) -> str:
    return "".join(path_data(loop) for loop in outline.loops)


@lru_cache(maxsize=32)
def parts_of(revision_id: int) -> dict[str, PartShown]:
    """The parts of a revision ready to draw, by their ids."""
    document, result = document_of(revision_id), result_of(revision_id)
    shown = {}
    for part_id, part in result.parts.items():
        driven = _driven(document, result, part)
        shown[part_id] = _READY.of(part, driven, partial(_part, part, *driven))
    return shown


_READY = Remembered[PartShown]()


def _driven(document: Document, result: Result, part: EvaluatedPart) -> tuple[DrivenShown | None, DrivenShown | None]:
    """The numbers of its starter that a part's width and height are."""
    if not part.part.starter:
        return None, None
    width, height = (driven_shown(drives_side(document, result, part.part, side)) for side in ("width", "height"))
    return width, height


def _part(part: EvaluatedPart, width_of: DrivenShown | None, height_of: DrivenShown | None) -> PartShown:
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
        references="".join(
            path_data(line.segments, closed=line.closed) for line in part.lines if line.operation == "reference"
        ),
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
        width_of=width_of,
        height_of=height_of,
    )


def _box(outline: Outline) -> BoxShown:
    left, bottom, right, top = outline.bounds
    return BoxShown(left=left, bottom=bottom, right=right, top=top)


def _side(part: EvaluatedPart, side: Literal["bottom", "right", "top", "left"]) -> SideShown:
    frame = side_frame(part.width, part.height, side, part.beyond)
    start, end = frame.start, frame.point(frame.length, 0)
    return SideShown(side=side, x1=start.real, y1=start.imag, x2=end.real, y2=end.imag)


def ledger_of(result: Result) -> dict[str, list[Mating]]:
    """The mating pairs of each joint that are both there."""
    found: dict[str, list[Mating]] = {}
    for mating in result.ledger:
        if mating.opening_part in result.parts and mating.insert_part in result.parts:
            found.setdefault(mating.joint, []).append(mating)
    return found


def ledger_row(result: Result, mating: Mating) -> LedgerRow:
    return LedgerRow(
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
