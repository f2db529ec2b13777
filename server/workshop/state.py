"""What a browser is shown of a project: the document, and everything that follows from it, ready to draw.

Points are in mm with y up, as in the document; path data has y turned down, as SVG wants it.
"""

from __future__ import annotations

from dataclasses import fields
from functools import partial
from typing import Any, Literal

from drawn.part import Drives, part_shown
from leannotch_core.bends.allowance import Allowance
from leannotch_core.document.bend import Bend
from leannotch_core.document.operations import WORKS
from leannotch_core.document.setting import Setting
from leannotch_core.evaluate import EvaluatedPart, Result
from leannotch_core.facts.cutters import NoCutter
from leannotch_core.facts.kerf import measured_kerfs
from leannotch_core.facts.moisture import WoodFacts
from leannotch_core.facts.stock import StockFacts
from leannotch_core.facts.unknown import UnknownFact
from leannotch_core.joints.fit import Mating
from leannotch_core.machining.settings import setting_of
from leannotch_core.measured.over_sheet import where_parts_lie
from leannotch_core.project.cutting import cutter_in_use, goes_round
from leannotch_core.project.project import Project
from leannotch_core.remembered import Remembered, remembered
from leannotch_core.starters.in_place import drives_bend, drives_side
from shown.join import DrivenShown, LedgerRow
from shown.lay_out import SheetShown
from shown.measure import KerfShown, StockShown, SwellingShown, WallsShown, WaysShown, WhereShown, WidthShown, WoodShown
from shown.project import ProjectShown
from shown.shape import PartShown

from workshop import proofs, starters, whose
from workshop.dry_fit import driven_shown
from workshop.models import Revision, StoredProject
from workshop.notes import is_more_to_look_for, layout_of, notes
from workshop.revisions import current_id, document_of, result_of


def show(project: StoredProject) -> ProjectShown:
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


def state_of(project: StoredProject) -> dict[str, Any]:
    """The fields of `StateShown` for a project as it stands."""
    revision = current_id(project)
    document, layout, current = document_of(revision), layout_of(revision), project.current
    return {
        "slug": project.slug,
        "version": project.version,
        "only_seen": "" if whose.may(project, "POST", "/edit") else whose.refusal(project),
        "variant_of": project.variant_of.slug if project.variant_of else "",
        "design": project.variant_of.name if project.variant_of else "",
        "stocks": {
            stock_id: _stock(facts).model_copy(
                update={**_on_machine(document, stock_id), "where": _where(document, revision, stock_id)}
            )
            for stock_id, facts in result_of(revision).stocks.items()
        },
        "sheets": [SheetShown.model_validate(sheet, from_attributes=True) for sheet in layout.sheets],
        "layout_out_of_date": layout.out_of_date,
        "proof": proofs.stands(project, revision),
        "findings": notes(revision),
        "looking": is_more_to_look_for(revision),
        "starters": starters.facts(document),
        "undo": current.label if current and current.parent_id else None,
        "redo": Revision.objects.filter(parent_id=revision).values_list("label", flat=True).first(),
    }


def _where(document: Project, revision: int, stock_id: str) -> list[WhereShown]:
    stock = document.stock(stock_id)
    try:
        found = where_parts_lie(document, result_of(revision), stock) if stock else []
    except UnknownFact:
        return []
    return [WhereShown.model_validate(one, from_attributes=True) for one in found]


def _on_machine(document: Project, stock_id: str) -> dict[str, object]:
    """What is known of a stock on the machine in use."""
    found: dict[str, object] = {"settings": _settings(document, stock_id)}
    stock = document.stock(stock_id)
    if stock is None:
        return found
    kerfs = measured_kerfs(stock.known(document.machine))
    found["kerfs"] = [KerfShown(at=str(one.at), above=one.cut.above, below=one.cut.below) for one in kerfs]
    try:
        cutter = cutter_in_use(document)
    except NoCutter:
        return found
    if cutter:
        goes, own = goes_round(document, stock, cutter.id), stock.own(document.machine)
        ways = [(place, one.at) for place, one in enumerate(own.widths if own else []) if one.at.cutter == cutter.id]
        widths = [WidthShown(place=place, said=str(at), now=at == goes) for place, at in ways]
        found |= {"shank": cutter.shank, "goes": str(goes), "widths": widths}
    return found


def _stock(facts: StockFacts) -> StockShown:
    bending = {field.name: getattr(facts.bending, field.name) for field in fields(facts.bending)}
    k = facts.bending.own_k(facts.thickness)
    bending |= {"k": k, "deduction": Allowance(90, facts.bending.radius, k, facts.thickness).deduction}
    bending["square"] = facts.bending.put(90)
    given = {field.name: getattr(facts, field.name) for field in fields(facts)}
    above, below = (facts.kerf + wider for wider in facts.walls.faces)
    lean = facts.walls.lean(facts.thickness)
    given["walls"] = WallsShown(above=above, below=below, lean=lean) if facts.walls.leaning else None
    given["wood"] = facts.wood and _wood(facts.wood)
    if facts.even:
        given["ways"] = WaysShown(across=facts.even[0], up=facts.even[1], told=False)
    elif facts.oval:
        given["ways"] = WaysShown(across=above - facts.oval / 2, up=above + facts.oval / 2, told=True)
    return StockShown.model_validate({**given, "bending": bending})


def _wood(wood: WoodFacts) -> WoodShown:
    driest, dampest = (
        SwellingShown(humidity=one.humidity, across=one.across, through=one.through)
        for one in (wood.driest, wood.dampest)
    )
    return WoodShown(moisture=wood.moisture, driest=driest, dampest=dampest)


def _settings(document: Project, stock_id: str) -> list[Setting]:
    """How the machine in use works a stock, its own settings and those to start with; none without a machine."""
    machine, stock = document.machine_of(document.machine), document.stock(stock_id)
    return [setting_of(stock, machine, work) for work in WORKS] if machine and stock else []


@remembered(most=32)
def parts_of(revision_id: int) -> dict[str, PartShown]:
    """The parts of a revision ready to draw, by their ids."""
    document, result = document_of(revision_id), result_of(revision_id)
    shown = {}
    for part_id, part in result.parts.items():
        driven = _driven(document, result, part)
        shown[part_id] = _READY.of(part, (driven,), partial(part_shown, part, driven))
    return shown


_READY = Remembered[PartShown]()


def _driven(document: Project, result: Result, part: EvaluatedPart) -> Drives:
    """The numbers of its starter that a part's sizes are."""
    if not part.part.starter:
        return Drives()
    width, height = (driven_shown(drives_side(document, result, part.part, side)) for side in ("width", "height"))

    def drives(bend: Bend, which: Literal["length", "angle"]) -> DrivenShown | None:
        return driven_shown(drives_bend(document, bend, which))

    bends = {bend.id: (drives(bend, "length"), drives(bend, "angle")) for bend in part.part.bends}
    return Drives(width, height, bends)


def ledger_of(result: Result) -> dict[str, list[Mating]]:
    """The mating pairs of each joint that are both there."""
    found: dict[str, list[Mating]] = {}
    for mating in result.pairs:
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
        eased=mating.eased,
        root=mating.root,
        short=mating.short,
        above=mating.gap + mating.above if mating.leaning else None,
        below=mating.gap + mating.below if mating.leaning else None,
    )
