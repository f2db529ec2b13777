"""Starters of a maker's own: a whole project whose named sizes are asked for, with limits and notes; in one file."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, model_validator
from pydantic_core import from_json

from ..document.carried import carried_forward
from ..document.faults import first_fault
from ..document.limits import LARGEST_FILE
from ..document.model import PRINTABLE, Model, Name
from ..document.sizes import LARGEST, Size, length, shown
from ..document.sums import SizeError
from ..evaluate import evaluate
from ..project.project import NotAProject, Project
from ..starters.made import CannotMake
from .values import with_set


class OwnNumber(Model):
    """A named size that is asked for: what it is called, a note on it, and from where to where (mm) it may go."""

    name: Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,29}$")]
    title: Name
    note: Annotated[str, Field(max_length=200), PRINTABLE] = ""
    least: float | None = Field(default=None, ge=-LARGEST, le=LARGEST)
    most: float | None = Field(default=None, ge=-LARGEST, le=LARGEST)


class OwnStarter(Model):
    format: Literal["lean-notch starter"] = "lean-notch starter"
    version: Literal[1] = 1
    name: Name
    says: Annotated[str, Field(max_length=300), PRINTABLE] = ""
    numbers: list[OwnNumber] = Field(min_length=1, max_length=30)
    project: Project

    @model_validator(mode="after")
    def _numbers_are_names(self) -> OwnStarter:
        known = {named.name for named in self.project.names}
        for number in self.numbers:
            if number.name not in known:
                raise ValueError(f"“{number.name}” is no named size of its project")
            if number.least is not None and number.most is not None and number.least > number.most:
                raise ValueError(f"{number.title} goes from {number.least:g} to {number.most:g} mm, which is nowhere")
        return self


def begun(own: OwnStarter) -> dict[str, Size]:
    """What its numbers are until they are typed."""
    sizes = {named.name: named.size for named in own.project.names}
    return {number.name: sizes[number.name] for number in own.numbers}


def made_of(own: OwnStarter, sizes: Mapping[str, Size], name: str) -> Project:
    """A project of its own with other numbers. Raises `Said`."""
    names = evaluate(own.project.model_copy(update={"parts": [], "joints": []})).names
    given = []
    for number in own.numbers:
        size = sizes.get(number.name)
        if size is None:
            continue
        try:
            value = length(size, names)
        except SizeError as error:
            raise CannotMake(f"{number.title}: {error}.") from error
        low, high = number.least, number.most
        if (low is not None and value < low - 1e-9) or (high is not None and value > high + 1e-9):
            limits = " to ".join(shown(limit) for limit in (low, high) if limit is not None)
            word = "from" if low is not None and high is not None else "at least" if low is not None else "at most"
            raise CannotMake(f"{number.title} is {shown(value)}; it may be {word} {limits}.")
        given.append(f"{number.name}={size.text if size.unit == 'mm' else f'{value:g}'}")
    made = with_set(own.project, given)
    wrong = next(iter(evaluate(made).errors), None)
    if wrong:
        raise CannotMake(f"These numbers cannot be built: {wrong.text}.")
    return made.model_copy(update={"name": name})


def write_starter(own: OwnStarter) -> bytes:
    """A starter as its file."""
    return (own.model_dump_json(indent=1) + "\n").encode()


def read_starter(data: bytes) -> OwnStarter:
    """A starter from its file, its project carried forward. Raises `NotAProject`."""
    if len(data) > LARGEST_FILE:
        raise NotAProject(f"The file has {len(data) / 1e6:.1f} MB; a starter has at most {LARGEST_FILE / 1e6:g} MB.")
    try:
        raw: Any = from_json(data)
    except ValueError as error:
        raise NotAProject("The file is damaged: it is no JSON.") from error
    if not isinstance(raw, dict) or raw.get("format") != "lean-notch starter":
        raise NotAProject("The file is no starter: save one under “Share” at Hand over, and open that.")
    project = raw.get("project")
    try:
        return OwnStarter.model_validate(
            {**raw, "project": carried_forward(project) if isinstance(project, dict) else project}
        )
    except ValidationError as error:
        raise NotAProject(f"The starter cannot be read: {first_fault(error)}.") from error
