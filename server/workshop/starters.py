"""Starters as the browser shows them: their kinds, and what one would make before it is made."""

from __future__ import annotations

from leannotch_core.assembly.poses import assemble
from leannotch_core.document.sizes import Size
from leannotch_core.document.starter import NamedSize, Starter
from leannotch_core.document.stock import Stock
from leannotch_core.evaluate import evaluate
from leannotch_core.project.project import Project
from leannotch_core.said import Said
from leannotch_core.starters.live import KINDS, make, put_starter
from leannotch_core.starters.made import CannotMake, StarterKind
from ninja import Schema
from shown.starters import ChoiceShown, KindShown, NumberShown, StarterFacts, StarterShown

from workshop.dry_fit import drawn


class StarterWanted(Schema):
    """A starter to be looked at, with the stocks it would be made of, and the named sizes it may use."""

    starter: Starter
    stocks: list[Stock]
    names: list[NamedSize] = []


class TypedInPlace(Schema):
    """A size typed where it stands in space: of which number of the starter; of compartments the one at ``index``."""

    starter: Starter
    number: str
    index: int | None = None
    size: Size


def kinds() -> list[KindShown]:
    return [_kind(kind) for kind, _ in KINDS.values()]


def _kind(kind: StarterKind) -> KindShown:
    return KindShown(
        key=kind.key,
        title=kind.title,
        says=kind.says,
        numbers=[
            NumberShown(name=n.name, title=n.title, begins=kind.begins(n.name, {}), holds=n.holds) for n in kind.numbers
        ],
        choices=[ChoiceShown.model_validate(choice, from_attributes=True) for choice in kind.choices],
        second_stock=kind.second_stock,
        material=kind.material,
    )


def preview(wanted: StarterWanted) -> StarterShown:
    """What the starter makes, in an otherwise empty project. Raises `CannotMake`."""
    empty = Project(name="Preview", stocks=wanted.stocks, names=wanted.names)
    document = put_starter(empty, wanted.starter)
    result = evaluate(document)
    if result.errors:
        raise CannotMake(result.errors[0].text)
    assembly = assemble(document, result)
    return StarterShown(
        fit=drawn(document, result, assembly, 0),
        parts=sum(part.count for part in document.parts),
        joints=len(document.joints),
        area=sum(result.parts[part.id].outline.area * part.count for part in document.parts),
        facts=_facts(document, wanted.starter),
        findings=result.findings,
        stock_of={part.id: part.stock for part in document.parts},
    )


def facts(document: Project) -> dict[str, StarterFacts]:
    """What is to be told of each starter of a project, by its id."""
    return {starter.id: _facts(document, starter) for starter in document.starters}


def _facts(document: Project, starter: Starter) -> StarterFacts:
    kind, _ = KINDS[starter.kind]
    try:
        notes = make(document, starter).notes
    except Said as error:
        # Whatever it cannot be made of: its sizes, its sheets, the cutter in use.
        notes = [str(error)]
    return StarterFacts(begins={n.name: kind.begins(n.name, starter.sizes) for n in kind.numbers}, notes=notes)
