"""Edits of joints."""

from __future__ import annotations

from typing import Literal

from ..document.edit import CannotApply, Changes, Edit
from ..document.model import Fit, Id, Model, Side
from ..evaluate import evaluate
from ..joints.families import FAMILIES, Joint
from ..joints.picked import Picked
from ..offered.offer import OfferKey
from ..offered.offers import all_joined, joined
from ..project.project import Project
from .items import known, name_of, part_of, put, without


class PutJoint(Edit):
    """Adds a joint, or replaces the one with its id."""

    do: Literal["put joint"]
    joint: Joint

    def label(self, project: Project) -> str:
        return f"{self.joint.kind.capitalize()} joint {known(project.joints, self.joint.id)}"

    def changes(self, project: Project) -> Changes:
        return {"joints": put(project.joints, self.joint)}


class Pick(Model):
    """What was picked of a part to join it: one of its sides, or the part as a whole."""

    part: Id
    side: Side | None = None


class BeginJoint(Edit):
    """Adds a joint of a family between what was picked, in sizes that suit it."""

    do: Literal["begin joint"]
    id: Id
    kind: str
    a: Pick
    b: Pick

    def label(self, project: Project) -> str:
        return f"{self.kind.capitalize()} joint added"

    def changes(self, project: Project) -> Changes:
        family, sizes = FAMILIES.get(self.kind), evaluate(project).parts
        if family is None:
            raise CannotApply(f"There is no joint of the kind “{self.kind}”.")

        def picked(pick: Pick) -> Picked:
            drawn = sizes.get(pick.part)
            if drawn is None:
                raise CannotApply(f"{part_of(project, pick.part).name} cannot be built as it is; mend it first.")
            return Picked(pick.part, pick.side, drawn.width, drawn.height, project.unit)

        begun = family.begun(self.id, picked(self.a), picked(self.b), project.joints)
        return {"joints": [*project.joints, begun]}


class JoinAsOffered(Edit):
    """Adds a joint that is offered for brought parts, and draws their outlines without what the joint cuts now."""

    do: Literal["join as offered"]
    kind: str
    a: Id
    side: str = ""
    b: Id
    other: str = ""

    def label(self, project: Project) -> str:
        return f"{self.kind.capitalize()} joint of {name_of(project, self.a)} and {name_of(project, self.b)}"

    def changes(self, project: Project) -> Changes:
        with_joint = joined(project, OfferKey(self.kind, self.a, self.side, self.b, self.other))
        if with_joint is None:
            raise CannotApply("These parts do not meet so any more; look at what is offered now.")
        return {"parts": with_joint.parts, "joints": with_joint.joints}


class JoinAllOffered(Edit):
    """Adds every joint that is offered for brought parts, one after the other, in one step."""

    do: Literal["join all offered"]

    def label(self, project: Project) -> str:
        return "All offered joints"

    def changes(self, project: Project) -> Changes:
        with_joints = all_joined(project)
        if len(with_joints.joints) == len(project.joints):
            raise CannotApply("No joint is offered any more: these parts do not meet so.")
        return {"parts": with_joints.parts, "joints": with_joints.joints}


class RemoveJoint(Edit):
    do: Literal["remove joint"]
    id: Id

    def label(self, project: Project) -> str:
        return "Joint removed"

    def changes(self, project: Project) -> Changes:
        return {"joints": without(project.joints, self.id)}


class SetFits(Edit):
    """Sets the fit of all joints, or of those that a stock takes part in; None leaves it to the project."""

    do: Literal["set fits"]
    fit: Fit | None
    stock: Id | None = None

    def label(self, project: Project) -> str:
        return f"All fits: {self.fit or 'as the project'}"

    def changes(self, project: Project) -> Changes:
        stocks = {part.id: part.stock for part in project.parts}

        def meant(joint: Joint) -> bool:
            return self.stock is None or self.stock in (stocks.get(part) for part in joint.parts)

        joints = [joint.model_copy(update={"fit": self.fit}) if meant(joint) else joint for joint in project.joints]
        return {"joints": joints}


class CopySettings(Edit):
    """Gives every other joint of the same kind the settings of one: all but what it joins and where."""

    do: Literal["copy settings"]
    id: Id

    def label(self, project: Project) -> str:
        return "Joint settings copied"

    def changes(self, project: Project) -> Changes:
        model = next((joint for joint in project.joints if joint.id == self.id), None)
        if model is None:
            raise CannotApply(f"“{self.id}” is not in the project any more.")
        alike = [j.with_settings_of(model) if j.kind == model.kind else j for j in project.joints]
        return {"joints": alike}
