"""Edits as commands: each is one change of intent, applied to a document to give the next one."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Annotated, Any, Literal, TypeVar

from pydantic import Field, ValidationError

from .coupons import Contradiction, with_results
from .document import (
    Brought,
    Felt,
    Fit,
    HandOver,
    Id,
    Joint,
    Kerf,
    KnotAt,
    Layout,
    MachineName,
    Model,
    Name,
    NamedSize,
    Part,
    Placement,
    Project,
    Starter,
    Stock,
    read_back,
)
from .evaluate import evaluate
from .faults import first_fault
from .reshaping import mirrored, mirrored_joint, scaled, scaled_joint, through_knots
from .sizes import Size, SizeError, Unit, length, number
from .starters.live import KINDS, let_go, put_starter, remove_starter, with_silhouette
from .starters.made import CannotMake

#: The fields of the document that a command changes.
Changes = dict[str, Any]


class CannotApply(ValueError):  # noqa: N818 - it is a statement, and read as one
    """A command that does not fit the document; its message is a sentence to show."""


class RenameProject(Model):
    do: Literal["rename project"]
    name: Name

    def label(self, project: Project) -> str:
        return f"Renamed to {self.name}"

    def changes(self, project: Project) -> Changes:
        return {"name": self.name}


class SetUnit(Model):
    """Which unit sizes are shown in, and bare numbers typed from now on are read in."""

    do: Literal["set unit"]
    unit: Unit

    def label(self, project: Project) -> str:
        return f"Shown in {self.unit}"

    def changes(self, project: Project) -> Changes:
        return {"unit": self.unit}


class SetFit(Model):
    """The fit of all joints that have none of their own."""

    do: Literal["set fit"]
    fit: Fit

    def label(self, project: Project) -> str:
        return f"Fit: {self.fit}"

    def changes(self, project: Project) -> Changes:
        return {"fit": self.fit}


class PutName(Model):
    """Adds a named size, or gives a known name another size."""

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


class RemoveName(Model):
    do: Literal["remove name"]
    name: str

    def label(self, project: Project) -> str:
        return f"{self.name} removed"

    def changes(self, project: Project) -> Changes:
        return {"names": [known for known in project.names if known.name != self.name]}


class PutStock(Model):
    """Adds a stock, or replaces the one with its id."""

    do: Literal["put stock"]
    stock: Stock

    def label(self, project: Project) -> str:
        return f"{self.stock.name} {_known(project.stocks, self.stock.id)}"

    def changes(self, project: Project) -> Changes:
        return {"stocks": _put(project.stocks, self.stock)}


class RecordCoupon(Model):
    """Takes over what a coupon showed: a kerf measured on it, and how its pairs felt."""

    do: Literal["record coupon"]
    stock: Id
    date: str = Field(pattern=r"^\d{4}-\d{2}-\d{2}$")
    machine: MachineName = ""
    kerf: Kerf | None = None
    felt: list[Felt] = Field(default=[], max_length=40)

    def label(self, project: Project) -> str:
        return f"Coupon of {self.date}"

    def changes(self, project: Project) -> Changes:
        stock = project.stock(self.stock)
        if stock is None:
            raise CannotApply(f"“{self.stock}” is not in the project any more.")
        try:
            measured = with_results(stock, self.date, self.machine, self.kerf, self.felt)
        except (Contradiction, SizeError) as error:
            raise CannotApply(str(error)) from error
        return {"stocks": _put(project.stocks, measured)}


class RemoveStock(Model):
    do: Literal["remove stock"]
    id: Id

    def label(self, project: Project) -> str:
        stock = project.stock(self.id)
        return f"{stock.name if stock else self.id} removed"

    def changes(self, project: Project) -> Changes:
        users = [part.name for part in project.parts if part.stock == self.id]
        if users:
            raise CannotApply(f"{', '.join(users[:3])} still use this stock; give them another one first.")
        return {"stocks": _without(project.stocks, self.id)}


class PutPart(Model):
    """Adds a part, or replaces the one with its id."""

    do: Literal["put part"]
    part: Part

    def label(self, project: Project) -> str:
        return f"{self.part.name} {_known(project.parts, self.part.id)}"

    def changes(self, project: Project) -> Changes:
        return {"parts": _put(project.parts, self.part)}


class MirrorPart(Model):
    """Turns a part over, left to right; its joints stay on the edges that they are on."""

    do: Literal["mirror part"]
    id: Id

    def label(self, project: Project) -> str:
        return f"{_named(project, self.id)} mirrored"

    def changes(self, project: Project) -> Changes:
        part = _part(project, self.id)
        lengths = {known: complex(p.width, p.height) for known, p in evaluate(project).parts.items()}
        joints = [mirrored_joint(joint, self.id, lengths) for joint in project.joints]
        return {"parts": _put(project.parts, mirrored(part)), "joints": joints}


class ScalePart(Model):
    """Multiplies every size of a part that is a number; sizes given by names follow what they name."""

    do: Literal["scale part"]
    id: Id
    factor: float = Field(gt=0.001, lt=1000, allow_inf_nan=False)

    def label(self, project: Project) -> str:
        return f"{_named(project, self.id)} scaled by {self.factor:g}"

    def changes(self, project: Project) -> Changes:
        part = _part(project, self.id)
        joints = [scaled_joint(joint, self.id, self.factor) for joint in project.joints]
        return {"parts": _put(project.parts, scaled(part, self.factor)), "joints": joints}


class ReshapeCurve(Model):
    """Draws a part as the curve through knots, in mm from its lower left corner."""

    do: Literal["reshape curve"]
    id: Id
    knots: list[KnotAt] = Field(min_length=3, max_length=200)

    def label(self, project: Project) -> str:
        return f"{_named(project, self.id)} reshaped"

    def changes(self, project: Project) -> Changes:
        part = _part(project, self.id)
        try:
            return {"parts": _put(project.parts, through_knots(part, self.knots))}
        except ValueError as error:
            raise CannotApply(f"{part.name}: {error}; leave a point aside of it.") from error


class BringOutline(Model):
    """Draws a part as an outline that was brought from a file, as large as there; a starter's part keeps its height."""

    do: Literal["bring outline"]
    id: Id
    outline: Brought

    def label(self, project: Project) -> str:
        return f"{_named(project, self.id)} drawn from a file"

    def changes(self, project: Project) -> Changes:
        try:
            return _all_of_a_starter(with_silhouette(project, _part(project, self.id), self.outline))
        except CannotMake as error:
            raise CannotApply(str(error)) from error


class RemovePart(Model):
    """Takes away a part with its joints and its places on sheets."""

    do: Literal["remove part"]
    id: Id

    def label(self, project: Project) -> str:
        part = project.part(self.id)
        return f"{part.name if part else self.id} removed"

    def changes(self, project: Project) -> Changes:
        return {
            "parts": _without(project.parts, self.id),
            "joints": [joint for joint in project.joints if self.id not in (joint.a.part, joint.b.part)],
            "layout": project.layout.without({self.id}),
        }


class PutStarter(Model):
    """Adds a starter, or changes one: its parts follow, and what the maker added to them stays."""

    do: Literal["put starter"]
    starter: Starter

    def label(self, project: Project) -> str:
        title = KINDS[self.starter.kind][0].title
        return f"{title} {_known(project.starters, self.starter.id)}"

    def changes(self, project: Project) -> Changes:
        try:
            after = put_starter(project, self.starter)
        except CannotMake as error:
            raise CannotApply(str(error)) from error
        return _all_of_a_starter(after)


class RemoveStarter(Model):
    """Takes away a starter with its parts, their joints and its named sizes."""

    do: Literal["remove starter"]
    id: Id

    def label(self, project: Project) -> str:
        return "Starter removed"

    def changes(self, project: Project) -> Changes:
        return _all_of_a_starter(remove_starter(project, self.id))


def _all_of_a_starter(project: Project) -> Changes:
    return {name: getattr(project, name) for name in ("names", "parts", "joints", "starters", "layout")}


class LetGo(Model):
    """Turns what a starter made into plain parts."""

    do: Literal["let go"]
    id: Id

    def label(self, project: Project) -> str:
        return "Starter let go"

    def changes(self, project: Project) -> Changes:
        after = let_go(project, self.id)
        return _all_of_a_starter(after)


class PutJoint(Model):
    """Adds a joint, or replaces the one with its id."""

    do: Literal["put joint"]
    joint: Joint

    def label(self, project: Project) -> str:
        return f"{self.joint.kind.capitalize()} joint {_known(project.joints, self.joint.id)}"

    def changes(self, project: Project) -> Changes:
        return {"joints": _put(project.joints, self.joint)}


class RemoveJoint(Model):
    do: Literal["remove joint"]
    id: Id

    def label(self, project: Project) -> str:
        return "Joint removed"

    def changes(self, project: Project) -> Changes:
        return {"joints": _without(project.joints, self.id)}


class SetFits(Model):
    """Sets the fit of all joints, or of those that a stock takes part in; None leaves it to the project."""

    do: Literal["set fits"]
    fit: Fit | None
    stock: Id | None = None

    def label(self, project: Project) -> str:
        return f"All fits: {self.fit or 'as the project'}"

    def changes(self, project: Project) -> Changes:
        stocks = {part.id: part.stock for part in project.parts}

        def meant(joint: Joint) -> bool:
            return self.stock is None or self.stock in (stocks.get(joint.a.part), stocks.get(joint.b.part))

        joints = [joint.model_copy(update={"fit": self.fit}) if meant(joint) else joint for joint in project.joints]
        return {"joints": joints}


class CopySettings(Model):
    """Gives every other joint of the same kind the settings of one: all but what it joins and where."""

    do: Literal["copy settings"]
    id: Id

    def label(self, project: Project) -> str:
        return "Joint settings copied"

    def changes(self, project: Project) -> Changes:
        model = next((joint for joint in project.joints if joint.id == self.id), None)
        if model is None:
            raise CannotApply(f"“{self.id}” is not in the project any more.")
        own = ("id", "starter", "a", "b")
        settings = {name: getattr(model, name) for name in type(model).model_fields if name not in own}
        joints = [joint.model_copy(update=settings) if joint.kind == model.kind else joint for joint in project.joints]
        return {"joints": joints}


class SetSpacing(Model):
    """Margin to the sheet's edge and gap between parts."""

    do: Literal["set spacing"]
    margin: Size
    gap: Size

    def label(self, project: Project) -> str:
        return f"Margin {self.margin.text}, gap {self.gap.text}"

    def changes(self, project: Project) -> Changes:
        return {"layout": project.layout.model_copy(update={"margin": self.margin, "gap": self.gap})}


class PlaceParts(Model):
    """Puts copies of parts where the maker wants them; they stay there when the rest is laid out again."""

    do: Literal["place parts"]
    placements: list[Placement] = Field(min_length=1, max_length=5000)

    def label(self, project: Project) -> str:
        return f"{len(self.placements)} placed by hand"

    def changes(self, project: Project) -> Changes:
        layout = project.layout
        moved = {(p.part, p.copy_number): p for p in self.placements}
        if any(p.sheet >= len(layout.sheets) for p in moved.values()):
            raise CannotApply("That sheet is not in the layout; lay out again.")
        kept = [moved.pop((p.part, p.copy_number), p) for p in layout.placements]
        return {"layout": layout.model_copy(update={"placements": [*kept, *moved.values()]})}


class PlaceExactly(Model):
    """Puts one copy of a part at typed numbers: sums and units are worked out here, once."""

    do: Literal["place exactly"]
    part: Id
    copy_number: int = Field(ge=1, le=500)
    sheet: int = Field(ge=0, le=999)
    x: Size
    y: Size
    turn: Size

    def label(self, project: Project) -> str:
        part = project.part(self.part)
        return f"{part.name if part else self.part} placed at {self.x.text}, {self.y.text}"

    def changes(self, project: Project) -> Changes:
        try:
            placement = Placement(
                part=self.part,
                copy_number=self.copy_number,
                sheet=self.sheet,
                x=length(self.x, {}),
                y=length(self.y, {}),
                turn=number(self.turn) % 360,
                by_hand=True,
            )
        except SizeError as error:
            raise CannotApply(str(error)) from error
        return PlaceParts(do="place parts", placements=[placement]).changes(project)


class SetLayout(Model):
    """Takes over a whole layout, as the nesting found it."""

    do: Literal["set layout"]
    layout: Layout

    def label(self, project: Project) -> str:
        return "Laid out"

    def changes(self, project: Project) -> Changes:
        return {"layout": self.layout}


class SetHandOver(Model):
    do: Literal["set hand-over"]
    hand_over: HandOver

    def label(self, project: Project) -> str:
        return "Hand-over changed"

    def changes(self, project: Project) -> Changes:
        return {"hand_over": self.hand_over}


Command = Annotated[
    RenameProject
    | SetUnit
    | SetFit
    | PutName
    | RemoveName
    | PutStock
    | RemoveStock
    | RecordCoupon
    | PutPart
    | MirrorPart
    | ScalePart
    | ReshapeCurve
    | BringOutline
    | RemovePart
    | PutStarter
    | LetGo
    | RemoveStarter
    | PutJoint
    | RemoveJoint
    | SetFits
    | CopySettings
    | SetSpacing
    | PlaceParts
    | PlaceExactly
    | SetLayout
    | SetHandOver,
    Field(discriminator="do"),
]

_Item = TypeVar("_Item", Stock, Part, Joint, Starter)


def apply(project: Project, command: Command) -> Project:
    """The document after ``command``, as it will be read once it is stored.

    Raises `CannotApply`, also where the change would go beyond what a project can hold; the given document is never
    changed.
    """
    try:
        return read_back(project.model_copy(update=command.changes(project)))
    except ValidationError as error:
        raise CannotApply(f"That cannot be stored: {first_fault(error)}.") from error


def _part(project: Project, part_id: str) -> Part:
    part = project.part(part_id)
    if part is None:
        raise CannotApply(f"“{part_id}” is not in the project any more.")
    return part


def _named(project: Project, part_id: str) -> str:
    part = project.part(part_id)
    return part.name if part else part_id


def _known(items: Iterable[_Item], item_id: str) -> str:
    return "changed" if any(item.id == item_id for item in items) else "added"


def _put(items: Iterable[_Item], item: _Item) -> list[_Item]:
    kept: list[_Item] = list(items)
    for place, known in enumerate(kept):
        if known.id == item.id:
            kept[place] = item
            return kept
    kept.append(item)
    return kept


def _without(items: Iterable[_Item], item_id: str) -> list[_Item]:
    left: list[_Item] = []
    found = False
    for item in items:
        if item.id == item_id:
            found = True
        else:
            left.append(item)
    if not found:
        raise CannotApply(f"“{item_id}” is not in the project any more.")
    return left
