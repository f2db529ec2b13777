"""What is different between two states of a project, as a list for people."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import islice
from typing import Any

from ..document.model import Model
from ..document.sizes import Size
from ..parts.cut_out import called
from ..parts.part import Part
from .project import Project

#: A longer list tells nobody anything.
MOST = 400


@dataclass(frozen=True, slots=True)
class Difference:
    """What is different, where; of what was added or taken away, one of both is empty. ``part`` is the part's id."""

    where: str
    before: str
    after: str
    part: str = ""


def differences(before: Project, after: Project) -> list[Difference]:
    """What ``after`` has otherwise than ``before``: in the order of the document, at most `MOST`."""
    found: list[Difference] = []
    for one in _all(before, after):
        found.append(one)
        if len(found) >= MOST:
            break
    return found


def changed_fields(before: Model, after: Model) -> list[str]:
    """Fields by which two things of the document differ, one phrase each; what they are called and known by is left.

    >>> from ..document.stock import Stock
    >>> birch = Stock.begun("birch", "Birch ply 3 mm")
    >>> changed_fields(birch, birch.model_copy(update={"material": "MDF"}))
    ['material: plywood, now MDF']
    """
    found = _fields("", before, after, ("id", "name"))
    return [f"{one.where.removeprefix(', ')}: {one.before}, now {one.after}" for one in islice(found, MOST)]


def _all(before: Project, after: Project) -> Iterator[Difference]:
    for field, word in (("name", "Name"), ("unit", "Unit"), ("fit", "Fit"), ("machine", "Machine in use")):
        yield from _values(word, getattr(before, field), getattr(after, field))
    yield from _listed("named size", before.names, after.names, "name")
    for word, field in (("machine", "machines"), ("stock", "stocks")):
        yield from _listed(word, getattr(before, field), getattr(after, field), "id")
    yield from _parts(before.parts, after.parts)
    yield from _listed("joint", before.joints, after.joints, "id")
    yield from _listed("starter", before.starters, after.starters, "id")
    yield from _values("Layout: margin", before.layout.margin, after.layout.margin)
    yield from _values("Layout: gap", before.layout.gap, after.layout.gap)
    sheets = len(before.layout.sheets), len(after.layout.sheets)
    yield from _values("Layout: sheets", *map(str, sheets))
    if sheets[0] == sheets[1] and before.layout.placements != after.layout.placements:
        yield Difference("Layout: places of the parts", "as they were", "others")


def _parts(before: Sequence[Part], after: Sequence[Part]) -> Iterator[Difference]:
    old, new = {part.id: part for part in before}, {part.id: part for part in after}
    for part in before:
        if part.id not in new:
            yield Difference(f"Part {part.name}", "there", "", part.id)
    for part in after:
        if part.id not in old:
            yield Difference(f"Part {part.name}", "", "new", part.id)
        elif old[part.id] != part:
            for one in _fields(part.name, old[part.id], part, leave=("id", "cutouts")):
                yield Difference(one.where, one.before, one.after, part.id)
            for one in _shapes(old[part.id], part):
                yield Difference(one.where, one.before, one.after, part.id)


def _shapes(before: Part, after: Part) -> Iterator[Difference]:
    old, new = {cut.id: cut for cut in before.cutouts}, {cut.id: cut for cut in after.cutouts}
    for cut in before.cutouts:
        if cut.id not in new:
            yield Difference(f"{before.name}, {called(before.cutouts, cut.id)}", "there", "")
    for cut in after.cutouts:
        where = f"{after.name}, {called(after.cutouts, cut.id)}"
        if cut.id not in old:
            yield Difference(where, "", "new")
        elif old[cut.id] != cut:
            yield from _fields(where, old[cut.id], cut, leave=("id",))


def _listed(word: str, before: Sequence[Any], after: Sequence[Any], key: str) -> Iterator[Difference]:
    old, new = {getattr(one, key): one for one in before}, {getattr(one, key): one for one in after}
    for name, one in old.items():
        if name not in new:
            yield Difference(f"{word} {_called(one)}".capitalize(), "there", "")
    for name, one in new.items():
        if name not in old:
            yield Difference(f"{word} {_called(one)}".capitalize(), "", _short(one))
        elif old[name] != one:
            yield from _fields(_called(one), old[name], one, leave=("id", "name") if key == "name" else ("id",))


def _called(thing: Any) -> str:
    return str(getattr(thing, "name", "") or getattr(thing, "id", ""))


def _short(thing: Any) -> str:
    size = getattr(thing, "size", None)
    return _said(size) if isinstance(size, Size) else "new"


def _fields(where: str, before: Model, after: Model, leave: tuple[str, ...] = ()) -> Iterator[Difference]:
    """Fields that are different; of models within it theirs, of lists only that they are."""
    if type(before) is not type(after):
        yield Difference(where, _kind(before), _kind(after))
        return
    for field in type(after).model_fields:
        old, new = getattr(before, field), getattr(after, field)
        if field in leave or old == new:
            continue
        within = where if field in ("shape", "hole", "size") else f"{where}, {field.replace('_', ' ')}"
        if isinstance(old, Model) and isinstance(new, Model):
            yield from _fields(within, old, new)
        elif isinstance(old, list) and isinstance(new, list):
            yield from _lists(within, old, new)
        else:
            yield from _values(within, old, new)


def _lists(where: str, before: list[Any], after: list[Any]) -> Iterator[Difference]:
    if len(before) == len(after) and all(isinstance(one, Model) for one in (*before, *after)):
        for number, (old, new) in enumerate(zip(before, after, strict=True), 1):
            if old != new:
                yield from _fields(f"{where} {number}", old, new)
    elif all(isinstance(one, Size) for one in (*before, *after)):
        yield Difference(where, ", ".join(map(_said, before)), ", ".join(map(_said, after)))
    else:
        yield Difference(where, str(len(before)), str(len(after)))


def _values(where: str, before: Any, after: Any) -> Iterator[Difference]:
    if before != after:
        yield Difference(where, _said(before), _said(after))


def _said(value: Any) -> str:
    if isinstance(value, Size):
        bare = value.text.strip().replace(".", "", 1).lstrip("-").isdigit()
        return f"{value.text} {value.unit}" if bare else value.text
    if value is None or value == "":
        return "nothing"
    if isinstance(value, bool):
        return "yes" if value else "no"
    return str(value) if isinstance(value, str | int | float) else _kind(value)


def _kind(value: Any) -> str:
    return str(getattr(value, "kind", "") or getattr(value, "how", "") or "otherwise")
