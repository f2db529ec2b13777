"""What an edit of a project is, and the plainest one: a single value set where it stands in the document.

Findings offer edits as their mends, so what an edit is stands below everything that has something to say.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError

from ..said import Said
from .faults import first_fault
from .model import Model
from .stock import Stock

#: The fields of the document that an edit changes.
Changes = dict[str, Any]


class CannotApply(Said):
    """An edit that does not fit the document; its message is a sentence to show."""


class Edit(Model):
    """One change of a project: ``do`` tells which. Projects are `Any` here: they hold nouns that know of edits."""

    do: str

    def label(self, project: Any) -> str:
        """What the history calls it, as the project was before."""
        raise NotImplementedError

    def said(self, before: Any, after: Any) -> str:
        """What the maker should be told of it beside that it is done, by the project before and after."""
        return ""

    def changes(self, project: Any) -> Changes:
        """The fields that it changes, with their new values. Raises `CannotApply`."""
        raise NotImplementedError

    def stock_to_keep(self, after: Any) -> Stock | None:
        """A stock of the project as it is ``after`` the edit, whose values are worth knowing in other projects."""
        return None


class SetValue(Edit):
    """Sets one value. ``path`` runs from the project to it: names of fields, and ids or places of items in lists."""

    do: Literal["set value"] = "set value"
    path: list[Annotated[str, Field(max_length=80)]] = Field(min_length=2, max_length=12)
    value: Annotated[str, Field(max_length=120)] | int

    def label(self, project: Any) -> str:
        return f"{self.path[-1].replace('_', ' ').capitalize()} set to {self.value}"

    def changes(self, project: Any) -> Changes:
        name, *path = self.path
        try:
            return {name: with_value(getattr(project, name, None), path, self.value)}
        except ValidationError as error:
            raise CannotApply(f"That cannot be stored: {first_fault(error)}.") from error


def with_value(thing: Any, path: Sequence[str], value: object) -> Any:
    """A model or a list of models with one value of it set. Raises `CannotApply` or `ValidationError`."""
    if not path:
        return value
    step, *rest = path
    if isinstance(thing, list):
        at = next((i for i, item in enumerate(thing) if step in (getattr(item, "id", ""), str(i))), None)
        if at is not None:
            return [*thing[:at], with_value(thing[at], rest, value), *thing[at + 1 :]]
    elif isinstance(thing, Model) and step in type(thing).model_fields:
        fields = {name: getattr(thing, name) for name in type(thing).model_fields}
        return type(thing).model_validate({**fields, step: with_value(fields[step], rest, value)})
    raise CannotApply(f"“{step}” is not in the project any more.")
