"""Edits as commands: each is one change of intent, applied to a document to give the next one."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Annotated, Literal, TypeVar

from pydantic import Field

from .document import (
    Fit,
    HandOver,
    Id,
    Joint,
    Layout,
    Model,
    Name,
    NamedSize,
    Part,
    Placement,
    Project,
    Stock,
)
from .sizes import Size, Unit


class CannotApply(ValueError):  # noqa: N818 - it is a statement, and read as one
    """A command that does not fit the document; the message is a sentence for the maker."""


class RenameProject(Model):
    do: Literal["rename project"]
    name: Name


class SetUnit(Model):
    """Which unit sizes are shown in, and bare numbers typed from now on are read in."""

    do: Literal["set unit"]
    unit: Unit


class SetFit(Model):
    """The fit of all joints that have none of their own."""

    do: Literal["set fit"]
    fit: Fit


class PutName(Model):
    do: Literal["put name"]
    name: NamedSize


class RemoveName(Model):
    do: Literal["remove name"]
    name: str


class PutStock(Model):
    do: Literal["put stock"]
    stock: Stock


class RemoveStock(Model):
    do: Literal["remove stock"]
    id: Id


class PutPart(Model):
    """Adds a part, or replaces the one with its id."""

    do: Literal["put part"]
    part: Part


class RemovePart(Model):
    """Takes away a part with its joints and its places on sheets."""

    do: Literal["remove part"]
    id: Id


class PutJoint(Model):
    do: Literal["put joint"]
    joint: Joint


class RemoveJoint(Model):
    do: Literal["remove joint"]
    id: Id


class SetSpacing(Model):
    """Margin to the sheet's edge and gap between parts."""

    do: Literal["set spacing"]
    margin: Size
    gap: Size


class PlaceParts(Model):
    """Puts copies of parts where the maker wants them; they stay there when the rest is laid out again."""

    do: Literal["place parts"]
    placements: list[Placement] = Field(min_length=1, max_length=5000)


class SetLayout(Model):
    do: Literal["set layout"]
    layout: Layout


class SetHandOver(Model):
    do: Literal["set hand-over"]
    hand_over: HandOver


Command = Annotated[
    RenameProject
    | SetUnit
    | SetFit
    | PutName
    | RemoveName
    | PutStock
    | RemoveStock
    | PutPart
    | RemovePart
    | PutJoint
    | RemoveJoint
    | SetSpacing
    | PlaceParts
    | SetLayout
    | SetHandOver,
    Field(discriminator="do"),
]

_Item = TypeVar("_Item", Stock, Part, Joint)


def apply(project: Project, command: Command) -> Project:
    """The document after ``command``. Raises `CannotApply`; the given document is never changed."""
    return _checked(project, _changes(project, command))


def _checked(project: Project, changes: dict[str, object]) -> Project:
    """The project with ``changes``, validated only where the whole document's limits may be broken."""
    for name, most in (("stocks", 40), ("parts", 1000), ("joints", 4000), ("names", 100)):
        items = changes.get(name)
        if isinstance(items, list) and len(items) > most:
            raise CannotApply(f"A project has at most {most} {name}.")
    return project.model_copy(update=changes)


def _changes(project: Project, command: Command) -> dict[str, object]:  # noqa: PLR0911 - one answer a command
    match command:
        case RenameProject(name=name):
            return {"name": name}
        case SetUnit(unit=unit):
            return {"unit": unit}
        case SetFit(fit=fit):
            return {"fit": fit}
        case PutName(name=named):
            return {"names": _put_name(project.names, named)}
        case RemoveName(name=name):
            return {"names": [known for known in project.names if known.name != name]}
        case PutStock(stock=stock):
            return {"stocks": _put(project.stocks, stock)}
        case RemoveStock(id=stock_id):
            return {"stocks": _without_stock(project, stock_id)}
        case PutPart(part=part):
            return {"parts": _put(project.parts, part)}
        case RemovePart(id=part_id):
            return _without_part(project, part_id)
        case PutJoint(joint=joint):
            return {"joints": _put(project.joints, joint)}
        case RemoveJoint(id=joint_id):
            return {"joints": _without(project.joints, joint_id)}
        case SetSpacing(margin=margin, gap=gap):
            return {"layout": project.layout.model_copy(update={"margin": margin, "gap": gap})}
        case PlaceParts(placements=placements):
            return {"layout": _placed(project.layout, placements)}
        case SetLayout(layout=layout):
            return {"layout": layout}
        case SetHandOver(hand_over=hand_over):
            return {"hand_over": hand_over}


def _put(items: Iterable[_Item], item: _Item) -> list[_Item]:
    kept = list(items)
    for place, known in enumerate(kept):
        if known.id == item.id:
            kept[place] = item
            return kept
    return [*kept, item]


def _put_name(names: Iterable[NamedSize], named: NamedSize) -> list[NamedSize]:
    kept = list(names)
    for place, known in enumerate(kept):
        if known.name == named.name:
            kept[place] = named
            return kept
    return [*kept, named]


def _without(items: Iterable[_Item], item_id: str) -> list[_Item]:
    kept = list(items)
    left = [item for item in kept if item.id != item_id]
    if len(left) == len(kept):
        raise CannotApply(f"“{item_id}” is not in the project any more.")
    return left


def _without_stock(project: Project, stock_id: str) -> list[Stock]:
    users = [part.name for part in project.parts if part.stock == stock_id]
    if users:
        raise CannotApply(f"{', '.join(users[:3])} still use this stock; give them another one first.")
    return _without(project.stocks, stock_id)


def _without_part(project: Project, part_id: str) -> dict[str, object]:
    layout = project.layout
    return {
        "parts": _without(project.parts, part_id),
        "joints": [joint for joint in project.joints if part_id not in (joint.a.part, joint.b.part)],
        "layout": layout.model_copy(
            update={
                "placements": [p for p in layout.placements if p.part != part_id],
                "laid": [laid for laid in layout.laid if laid.part != part_id],
            }
        ),
    }


def _placed(layout: Layout, placements: Iterable[Placement]) -> Layout:
    moved = {(p.part, p.copy_number): p.model_copy(update={"by_hand": True}) for p in placements}
    if any(p.sheet >= len(layout.sheets) for p in moved.values()):
        raise CannotApply("That sheet is not in the layout; lay out again.")
    kept = [moved.pop((p.part, p.copy_number), p) for p in layout.placements]
    return layout.model_copy(update={"placements": [*kept, *moved.values()]})


def describe(project: Project, command: Command) -> str:
    """What a command does, for the history: ``Floor changed``, ``Joint removed``."""
    match command:
        case PutPart(part=part):
            return f"{part.name} {'changed' if project.part(part.id) else 'added'}"
        case RemovePart(id=part_id):
            part = project.part(part_id)
            return f"{part.name if part else part_id} removed"
        case PutStock(stock=stock):
            return f"{stock.name} {'changed' if project.stock(stock.id) else 'added'}"
        case PutJoint(joint=joint):
            known = any(other.id == joint.id for other in project.joints)
            return f"{joint.kind.capitalize()} joint {'changed' if known else 'added'}"
        case RemoveJoint():
            return "Joint removed"
        case PlaceParts(placements=placements):
            return f"{len(placements)} placed by hand"
        case SetLayout():
            return "Laid out"
    return command.do.capitalize()
