"""Every edit, as it is sent and applied."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, ValidationError

from ..document.edit import CannotApply, SetValue
from ..document.faults import first_fault
from ..project.project import Project, read_back
from .bend import BeginBend, PutBend, RemoveBend
from .bring import BringAgain, BringMotifs, BringParts
from .cutter import PutCutter, RemoveCutter
from .hand_over import SetHandOver
from .joint import BeginJoint, CopySettings, JoinAllOffered, JoinAsOffered, PutJoint, RemoveJoint, SetFits
from .layout import CutAgain, LayAgain, MoveSheet, PlaceExactly, PlaceParts, SetLayout, SetSpacing, SheetCut
from .machine import (
    LetSettingGo,
    PutMachine,
    RemoveMachine,
    SetCutterWidth,
    SetKnown,
    SetSetting,
    SettingsAs,
    UseMachine,
)
from .measured import MeasureParts, RemoveMeasured, TakeK, TakeKerf, TakeReadThickness
from .names import MoveName, PutName, RemoveName, RenameName
from .operation import SetOperation
from .part import (
    BeginPart,
    BringOutline,
    DrawAs,
    MirrorPart,
    PutPart,
    RemovePart,
    ReshapeCurve,
    ScalePart,
)
from .parts import DuplicateParts, RemoveParts, SetParts
from .preparation import LetStartsGo, LetTabsGo, MoveStart, MoveTab, SetPreparation
from .project import RenameProject, SetFit, SetUnit
from .shapes.arranging import AlignShapes, SpaceShapes
from .shapes.begun import BeginCutOut
from .shapes.clearing import ClearOfBends
from .shapes.combining import CombineShapes, TakeApart
from .shapes.copying import DuplicateShapes, PasteShapes, RemoveShapes
from .shapes.drawing import DrawStroke, MovePoint, PlaceKnot, RedrawPiece
from .shapes.fitting import FitInside, ScaleShapes, SpreadShapes
from .shapes.grouping import GroupShapes, UngroupShapes
from .shapes.moving import MoveShapes, TurnAlong, TurnShapes
from .shapes.placing import LeaveOut, PlaceFrom, SetGap
from .shapes.references import SetToScale, TakeHoles
from .starter import LetGo, PutStarter, RemoveStarter
from .stock import BeginStock, PutStock, RecordCoupon, RemoveStock
from .thickness import TakeThickness

Command = Annotated[
    SetValue
    | RenameProject
    | SetUnit
    | SetFit
    | PutName
    | RenameName
    | MoveName
    | RemoveName
    | PutMachine
    | UseMachine
    | RemoveMachine
    | PutCutter
    | RemoveCutter
    | SetCutterWidth
    | SetKnown
    | SetSetting
    | SettingsAs
    | LetSettingGo
    | PutStock
    | BeginStock
    | RemoveStock
    | RecordCoupon
    | MeasureParts
    | RemoveMeasured
    | TakeK
    | TakeKerf
    | TakeReadThickness
    | TakeThickness
    | SetOperation
    | PutPart
    | BeginPart
    | DrawAs
    | BeginCutOut
    | BeginBend
    | PutBend
    | RemoveBend
    | MoveShapes
    | TurnShapes
    | TurnAlong
    | PlaceFrom
    | SetGap
    | LeaveOut
    | DuplicateShapes
    | PasteShapes
    | RemoveShapes
    | AlignShapes
    | SpaceShapes
    | GroupShapes
    | UngroupShapes
    | CombineShapes
    | TakeApart
    | ScaleShapes
    | FitInside
    | SpreadShapes
    | ClearOfBends
    | TakeHoles
    | SetToScale
    | DrawStroke
    | RedrawPiece
    | MovePoint
    | PlaceKnot
    | MirrorPart
    | ScalePart
    | ReshapeCurve
    | BringOutline
    | BringParts
    | BringMotifs
    | BringAgain
    | RemovePart
    | SetParts
    | DuplicateParts
    | RemoveParts
    | PutStarter
    | LetGo
    | RemoveStarter
    | PutJoint
    | BeginJoint
    | JoinAsOffered
    | JoinAllOffered
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
