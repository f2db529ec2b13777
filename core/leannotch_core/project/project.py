"""The project document: what the maker said, and nothing that follows from it.

One typed JSON document; the same shape in the database, in the API, in the browser and in a saved file.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, Literal

from pydantic import Field, ValidationError, model_validator
from pydantic_core import from_json

from ..document.carried import carried_forward
from ..document.cutter import Cutter
from ..document.faults import first_fault
from ..document.hand_over import HandOver
from ..document.limits import LARGEST_FILE, MOST_COPIES, MOST_LINES
from ..document.machine import Machine
from ..document.measured import MeasuredSheet
from ..document.model import Fit, Id, Model, Name
from ..document.preparation import Preparation
from ..document.sheet import Layout
from ..document.starter import NamedSize, Starter
from ..document.stock import Stock
from ..document.sums import Unit
from ..joints.families import Joint
from ..parts.part import Part
from ..said import Said

#: The version of the document that this program writes; older ones are carried forward when they are read.
VERSION: Literal[6] = 6


class Project(Model):
    format: Literal["lean-notch project"] = "lean-notch project"
    version: Literal[6] = VERSION
    name: Name
    unit: Unit = "mm"
    fit: Fit = "glue"
    names: list[NamedSize] = Field(default=[], max_length=200)
    machines: list[Machine] = Field(default=[], max_length=20)
    machine: Literal[""] | Id = ""
    cutters: list[Cutter] = Field(default=[], max_length=40)
    stocks: list[Stock] = Field(default=[], max_length=40)
    parts: list[Part] = Field(default=[], max_length=1000)
    joints: list[Joint] = Field(default=[], max_length=4000)
    starters: list[Starter] = Field(default=[], max_length=20)
    layout: Layout = Layout()
    preparation: Preparation = Preparation()
    hand_over: HandOver = HandOver()
    measured: list[MeasuredSheet] = Field(default=[], max_length=100)

    @model_validator(mode="after")
    def _unique_ids(self) -> Project:
        named: list[tuple[str, Iterable[str]]] = [
            ("id", (machine.id for machine in self.machines)),
            ("id", (cutter.id for cutter in self.cutters)),
            ("id", (stock.id for stock in self.stocks)),
            ("id", (part.id for part in self.parts)),
            ("id", (joint.id for joint in self.joints)),
            ("id", (starter.id for starter in self.starters)),
            ("id", (sheet.id for sheet in self.measured)),
            ("name", (name.name for name in self.names)),
        ]
        for what, given in named:
            known: set[str] = set()
            for word in given:
                if word in known:
                    raise ValueError(f"the {what} “{word}” is used twice")
                known.add(word)
        if self.machine and self.machine_of(self.machine) is None:
            raise ValueError(f"the machine in use, “{self.machine}”, is not among its machines")
        return self

    @model_validator(mode="after")
    def _not_too_much(self) -> Project:
        copies = sum(part.count for part in self.parts)
        if copies > MOST_COPIES:
            raise ValueError(f"its parts come to {copies} copies; a project has at most {MOST_COPIES}")
        holes = sum(cut.lines for part in self.parts for cut in part.cutouts)
        drawn = sum(part.shape.lines for part in self.parts)
        joined = sum(joint.lines for joint in self.joints)
        if drawn + holes + joined > MOST_LINES:
            copies = sum(cut.copies for part in self.parts for cut in part.cutouts)
            raise ValueError(
                f"its {copies} cut-outs, counted with all repeats, come to about {holes} lines and arcs with their "
                f"letters, its joints to {joined} and its outlines to {drawn}; a project has at most "
                f"{MOST_LINES} in all. Use fewer repeats or letters, or divide it"
            )
        return self

    def machine_of(self, machine_id: str) -> Machine | None:
        return next((machine for machine in self.machines if machine.id == machine_id), None)

    def cutter(self, cutter_id: str) -> Cutter | None:
        return next((cutter for cutter in self.cutters if cutter.id == cutter_id), None)

    def stock(self, stock_id: str) -> Stock | None:
        return next((stock for stock in self.stocks if stock.id == stock_id), None)

    def part(self, part_id: str) -> Part | None:
        return next((part for part in self.parts if part.id == part_id), None)


class NotAProject(Said):
    """A file that is not a project this program can open; its message is a sentence to show."""


def read_project(data: bytes | str) -> Project:
    """A project from its JSON, whether stored or brought as a file; older versions are carried forward.

    Raises `NotAProject`.
    """
    if len(data) > LARGEST_FILE:
        megabytes = len(data) / 1e6
        raise NotAProject(f"The file has {megabytes:.1f} MB; a project file has at most {LARGEST_FILE / 1e6:g} MB.")
    text = data.encode("utf-8", "surrogatepass") if isinstance(data, str) else data
    try:
        raw: Any = from_json(text, allow_inf_nan=True)
    except ValueError as error:
        if b"lean-notch project" in text[:4000]:
            raise NotAProject("The project file is damaged: it breaks off or holds what is no JSON.") from error
        raw = None
    if not isinstance(raw, dict) or raw.get("format") != "lean-notch project":
        raise NotAProject("The file is not a Lean Notch project: save one with “Save to file” and open that.")
    # Pictures that lie under parts are handed on in the same file; who keeps them has taken them out before.
    raw.pop("pictures", None)
    version = raw.get("version")
    if isinstance(version, int) and version > VERSION:
        raise NotAProject(
            f"The file is of version {version}; this program reads up to version {VERSION}. "
            "Open it with a newer Lean Notch."
        )
    try:
        return Project.model_validate(carried_forward(raw))
    except ValidationError as error:
        raise NotAProject(f"The project file is damaged: {first_fault(error)}.") from error


def read_back(project: Project, stored: Project | None = None) -> Project:
    """The project as it will be read once it is stored. Raises `ValidationError` where it could not be.

    What it has in common with one that was ``stored`` was read back then, and stays the same thing.
    """
    old = {id(thing) for name in Project.model_fields for thing in _things(getattr(stored, name, None))}
    old |= {id(cut) for part in (stored.parts if stored else ()) for cut in part.cutouts}
    try:
        fields = {name: _again(getattr(project, name), old) for name in Project.model_fields}
    except ValidationError:
        # Read as a whole it is refused likewise, and told where in the project the fault stands.
        return Project.model_validate_json(project.model_dump_json(warnings=False))
    return Project.model_validate(fields)


def _things(value: object) -> list[object]:
    return value if isinstance(value, list) else [value]


def _again(value: object, old: set[int]) -> object:
    if isinstance(value, list):
        return [_again(thing, old) for thing in value]
    if id(value) in old or not isinstance(value, Model):
        return value
    if isinstance(value, Part):
        return _part_again(value, old)
    # What is wrong in it is told by reading it.
    return type(value).model_validate_json(value.model_dump_json(warnings=False))


def _part_again(part: Part, old: set[int]) -> Part:
    """A part read again, its shapes that were read before left as they are: it may have hundreds of them."""
    fresh = [cut for cut in part.cutouts if id(cut) not in old]
    plain = part.model_copy(update={"cutouts": fresh})
    read = Part.model_validate_json(plain.model_dump_json(warnings=False))
    again = iter(read.cutouts)
    cutouts = [cut if id(cut) in old else next(again) for cut in part.cutouts]
    return Part.model_validate({**{name: getattr(read, name) for name in Part.model_fields}, "cutouts": cutouts})


def write_project(project: Project) -> bytes:
    """The bytes of the project's JSON file; the same project gives the same bytes."""
    return (project.model_dump_json(indent=1) + "\n").encode()
