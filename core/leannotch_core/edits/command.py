"""Every edit, as it is sent and applied."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, ValidationError

from ..document.edit import CannotApply, SetValue
from ..document.faults import first_fault
from ..project import Project, read_back
from .bring import BringAgain, BringMotifs, BringParts
from .hand_over import SetHandOver
from .joint import BeginJoint, CopySettings, JoinAsOffered, PutJoint, RemoveJoint, SetFits
from .layout import CutAgain, LayAgain, MoveSheet, PlaceExactly, PlaceParts, SetLayout, SetSpacing, SheetCut
from .machine import LetSettingGo, PutMachine, RemoveMachine, SetKnown, SetSetting, SettingsAs, UseMachine
from .operation import SetOperation
from .part import (
    BeginCutOut,
    BeginMark,
    BeginPart,
    BringOutline,
    DrawAs,
    MirrorPart,
    PutPart,
    RemovePart,
    ReshapeCurve,
    ScalePart,
)
from .preparation import LetStartsGo, LetTabsGo, MoveStart, MoveTab, SetPreparation
from .project import PutName, RemoveName, RenameProject, SetFit, SetUnit
from .starter import LetGo, PutStarter, RemoveStarter
from .stock import BeginStock, PutStock, RecordCoupon, RemoveStock

Command = Annotated[
    SetValue
    | RenameProject
    | SetUnit
    | SetFit
    | PutName
    | RemoveName
    | PutMachine
    | UseMachine
    | RemoveMachine
    | SetKnown
    | SetSetting
    | SettingsAs
    | LetSettingGo
    | PutStock
    | BeginStock
    | RemoveStock
    | RecordCoupon
    | SetOperation
    | PutPart
    | BeginPart
    | DrawAs
    | BeginCutOut
    | BeginMark
    | MirrorPart
    | ScalePart
    | ReshapeCurve
    | BringOutline
    | BringParts
    | BringMotifs
    | BringAgain
    | RemovePart
    | PutStarter
    | LetGo
    | RemoveStarter
    | PutJoint
    | BeginJoint
    | JoinAsOffered
    | RemoveJoint
    | SetFits
    | CopySettings
    | SetSpacing
    | PlaceParts
    | PlaceExactly
    | LayAgain
    | MoveSheet
    | SheetCut
    | CutAgain
    | SetLayout
    | SetPreparation
    | MoveStart
    | LetStartsGo
    | MoveTab
    | LetTabsGo
    | SetHandOver,
    Field(discriminator="do"),
]


def apply(project: Project, command: Command) -> Project:
    """The document after ``command``, as it will be read once it is stored.

    Raises `CannotApply`, also where the change would go beyond what a project can hold; the given document is never
    changed.
    """
    try:
        return read_back(project.model_copy(update=command.changes(project)), project)
    except ValidationError as error:
        raise CannotApply(f"That cannot be stored: {first_fault(error)}.") from error
