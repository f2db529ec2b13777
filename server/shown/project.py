"""What a browser is told of a project as a whole: as it stands, what an edit changed of it, long work, limits."""

from __future__ import annotations

from typing import Generic, TypeVar

from leannotch_core.document import limits
from leannotch_core.facts.findings import Finding
from leannotch_core.joints.families import Joint
from leannotch_core.parts.part import Part
from leannotch_core.project.project import Project
from ninja import Schema
from pydantic import BaseModel, Field

from shown.join import FitShown, LedgerRow
from shown.lay_out import NestShown, SheetShown
from shown.measure import StockShown
from shown.prove import ProofShown, ProofStands
from shown.shape import PartShown
from shown.starters import StarterFacts


class StateShown(BaseModel):
    """What is told whole of a project; ``looking`` where some mends of its findings have still to be looked for.

    ``said`` is what the maker should know of the edit that brought it there. ``variant_of`` is the slug of the project
    whose design it follows, ``design`` its name. ``only_seen`` says why whoever asks cannot change it.
    """

    slug: str
    version: int
    variant_of: str
    design: str
    stocks: dict[str, StockShown]
    sheets: list[SheetShown]
    layout_out_of_date: bool
    proof: ProofStands | None
    findings: list[Finding]
    looking: bool
    starters: dict[str, StarterFacts]
    said: str = ""
    undo: str | None
    redo: str | None
    only_seen: str


class ProjectShown(StateShown):
    """A project ready to draw."""

    document: Project
    parts: list[PartShown]
    ledger: list[LedgerRow]
    values: dict[str, float]


#: What an edit changes some of.
Thing = TypeVar("Thing", Part, Joint, PartShown)


class Listed(BaseModel, Generic[Thing]):
    """A list of things: the ids of all, in order, and of the things themselves those that are not as they were."""

    ids: list[str]
    changed: list[Thing]


class ProjectChanges(StateShown):
    """What is not as it was at the version ``since``.

    ``document`` is without its parts and joints; ``ledger`` has the rows of each joint whose rows changed, and
    ``values`` None for those that are gone.
    """

    since: int
    document: Project
    document_parts: Listed[Part]
    document_joints: Listed[Joint]
    parts: Listed[PartShown]
    ledger: dict[str, list[LedgerRow]]
    values: dict[str, float | None]


class LimitsShown(Schema):
    """Sizes of files in bytes; counts of copies, and of lines and arcs."""

    project_file: int = limits.LARGEST_FILE
    drawing: int = limits.LARGEST_BROUGHT
    copies: int = limits.MOST_COPIES
    lines: int = limits.MOST_LINES
    lines_of_an_outline: int = limits.MOST_VERTICES


class RunShown(Schema):
    """Long work as it stands; while it waits, so many others are ``ahead`` of it. A layout is ``offered`` where the
    project has changed too much for it to be taken.
    """

    id: int
    kind: str
    state: str
    progress: float
    message: str
    ahead: int
    offered: bool
    nest: NestShown | None
    proof: ProofShown | None
    fit: FitShown | None


class Trouble(Schema):
    """Why something was not done: a sentence, the findings behind it, and the state as it is stored now."""

    message: str
    findings: list[Finding] = Field(default=[])
    current: ProjectShown | None = None
