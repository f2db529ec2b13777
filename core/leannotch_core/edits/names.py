"""Named sizes: put, renamed, ordered, removed, and where each is used."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from typing import Any, Literal

from pydantic import Field

from ..document.edit import CannotApply, Changes, Edit
from ..document.model import Model
from ..document.sizes import Size, names_in, renamed
from ..document.starter import NamedSize
from ..parts.cut_out import CutOut, called
from ..parts.part import Part
from ..project.project import Project


class PutName(Edit):
    """Adds a named size, or gives a known name another size or note."""

    do: Literal["put name"]
    name: NamedSize

    def label(self, project: Project) -> str:
        return f"{self.name.name} = {self.name.size.text}"

    def changes(self, project: Project) -> Changes:
        names = {known.name: known for known in project.names}
        before = names.get(self.name.name)
        # A size that a starter made stays the starter's, whoever changes it.
        names[self.name.name] = self.name.model_copy(update={"starter": before.starter if before else ""})
        return {"names": list(names.values())}


class RenameName(Edit):
    """Calls a named size otherwise, wherever it is used."""

    do: Literal["rename name"]
    name: str
    to: str = Field(pattern=r"^[a-z][a-z0-9_]{0,29}$")

    def label(self, project: Project) -> str:
        return f"{self.name} is called {self.to}"

    def changes(self, project: Project) -> Changes:
        _own(project, self.name)
        if any(known.name == self.to for known in project.names):
            raise CannotApply(f"“{self.to}” is the name of another size; choose one that is free.")
        named = [n.model_copy(update={"name": self.to}) if n.name == self.name else n for n in project.names]
        fields = {field: getattr(project, field) for field in type(project).model_fields}
        changed = {field: _renamed(value, self.name, self.to) for field, value in (fields | {"names": named}).items()}
        return {field: value for field, value in changed.items() if value is not fields[field]}


class MoveName(Edit):
    """Lists a named size at another place."""

    do: Literal["move name"]
    name: str
    place: int = Field(ge=0, le=200)

    def label(self, project: Project) -> str:
        return f"{self.name} listed elsewhere"

    def changes(self, project: Project) -> Changes:
        moved = next((known for known in project.names if known.name == self.name), None)
        if moved is None:
            raise CannotApply(f"“{self.name}” is not in the project any more.")
        others = [known for known in project.names if known is not moved]
        return {"names": [*others[: self.place], moved, *others[self.place :]]}


class RemoveName(Edit):
    """Removes a named size that nothing uses."""

    do: Literal["remove name"]
    name: str

    def label(self, project: Project) -> str:
        return f"{self.name} removed"

    def changes(self, project: Project) -> Changes:
        _own(project, self.name)
        used = uses(project).get(self.name, [])
        if used:
            more = f" and {len(used) - 4} more" if len(used) > 4 else ""
            places = "; ".join(used[:4])
            raise CannotApply(f"“{self.name}” is used by {places}{more}. Give those another size first.")
        return {"names": [known for known in project.names if known.name != self.name]}


def uses(project: Project) -> dict[str, list[str]]:
    """Where each name is used that a size may use, as words for people."""
    found: dict[str, list[str]] = defaultdict(list)
    for place, size in _sizes(project):
        for name in dict.fromkeys(names_in(size)):
            found[name].append(place)
    return dict(found)


def _own(project: Project, name: str) -> None:
    known = next((one for one in project.names if one.name == name), None)
    if known is None:
        raise CannotApply(f"“{name}” is not in the project any more.")
    if known.starter:
        raise CannotApply(f"“{name}” is a starter's and follows from its numbers; let the starter go first.")


def _sizes(project: Project) -> Iterator[tuple[str, Size]]:
    for named in project.names:
        yield f"the named size {named.name}", named.size
    for part in project.parts:
        yield from _under(part.name, part, part)
    for starter in project.starters:
        yield from _under(f"starter {starter.id}", starter)
    for joint in project.joints:
        yield from _under(f"joint {joint.id}", joint)
    yield from _under("the layout", project.layout)
    yield from _under("the preparation", project.preparation)


def _under(where: str, thing: Any, part: Part | None = None) -> Iterator[tuple[str, Size]]:
    if isinstance(thing, Size):
        yield where, thing
    elif isinstance(thing, CutOut) and part:
        where = f"{part.name}, {called(part.cutouts, thing.id)}"
        for field in type(thing).model_fields:
            yield from _under(_said(where, field), getattr(thing, field))
    elif isinstance(thing, Model):
        for field in type(thing).model_fields:
            yield from _under(_said(where, field), getattr(thing, field), part)
    elif isinstance(thing, dict):
        for key, value in thing.items():
            yield from _under(_said(where, str(key)), value)
    elif isinstance(thing, list):
        for item in thing:
            yield from _under(where, item, part)


def _said(where: str, field: str) -> str:
    """A place with a field of it; those that only hold others say nothing."""
    return where if field in ("shape", "hole", "cutouts", "sizes", "a", "b") else f"{where} {field.replace('_', ' ')}"


def _renamed(value: Any, old: str, new: str) -> Any:
    """A value of the document with one name for another; what does not use it stays the thing that it is."""
    if isinstance(value, Size):
        return renamed(value, old, new)
    if isinstance(value, Model):
        fields = {name: getattr(value, name) for name in type(value).model_fields}
        changed = {name: now for name, was in fields.items() if (now := _renamed(was, old, new)) is not was}
        return value.model_copy(update=changed) if changed else value
    if isinstance(value, list):
        items = [_renamed(item, old, new) for item in value]
        return items if any(a is not b for a, b in zip(items, value, strict=True)) else value
    if isinstance(value, dict):
        items_of = {key: _renamed(item, old, new) for key, item in value.items()}
        return items_of if any(items_of[key] is not item for key, item in value.items()) else value
    return value
