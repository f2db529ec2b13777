"""Items of the document by their id: put, told, taken away."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TypeVar

from ..document.cutter import Cutter
from ..document.edit import CannotApply
from ..document.machine import Machine
from ..document.measured import MeasuredSheet
from ..document.starter import Starter
from ..document.stock import Stock
from ..joints.families import Joint
from ..parts.part import Part
from ..project.project import Project

Item = TypeVar("Item", Machine, Cutter, Stock, Part, Joint, Starter, MeasuredSheet)


def known(items: Iterable[Item], item_id: str) -> str:
    """The word for what putting a thing of this id does: it is ``added``, or ``changed``."""
    return "changed" if any(item.id == item_id for item in items) else "added"


def put(items: Iterable[Item], item: Item) -> list[Item]:
    """The things with one in place of that of its id, or at the end."""
    kept: list[Item] = list(items)
    for place, known in enumerate(kept):
        if known.id == item.id:
            kept[place] = item
            return kept
    kept.append(item)
    return kept


def without(items: Iterable[Item], item_id: str) -> list[Item]:
    """The things but for the one of an id. Raises `CannotApply` where there is none."""
    left: list[Item] = []
    found = False
    for item in items:
        if item.id == item_id:
            found = True
        else:
            left.append(item)
    if not found:
        raise CannotApply(f"“{item_id}” is not in the project any more.")
    return left


def part_of(project: Project, part_id: str) -> Part:
    """The part of an id. Raises `CannotApply` where it is gone."""
    part = project.part(part_id)
    if part is None:
        raise CannotApply(f"“{part_id}” is not in the project any more.")
    return part


def name_of(project: Project, part_id: str) -> str:
    """What a part is called; its id where it is gone."""
    part = project.part(part_id)
    return part.name if part else part_id
