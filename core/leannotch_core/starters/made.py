"""What starters are made of: their numbers as typed, and the parts and joints that follow from them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from copy import copy
from dataclasses import dataclass, field
from typing import Any, Literal

from ..document.bend import Bend
from ..document.sizes import Size, length, number
from ..document.starter import NamedSize, Starter, StarterWord
from ..document.stock import Material
from ..document.sums import SizeError
from ..joints.cross_lap.typed import CrossLap
from ..joints.ends import EdgeOf, FaceLine, SlotAt
from ..joints.families import Joint
from ..joints.finger.typed import FingerJoint
from ..joints.housing.typed import Housing
from ..joints.splice.typed import Splice
from ..joints.tab_and_slot.typed import TabAndSlot
from ..parts.cut_out import CutOut
from ..parts.part import Part
from ..parts.shapes.kinds import Shape
from ..parts.shapes.rectangle import Rectangle
from ..said import Said


@dataclass(frozen=True, slots=True)
class Number:
    """A number of a starter: its name, what to call it and what it begins with.

    It holds a size, a ``plain`` number (a count, an angle), or a ``list`` of sizes. One that ``follows`` another
    number begins as so many times that one, and goes with it until it is typed. An angle ``turns`` the bends of these
    ids.
    """

    name: str
    title: str
    begins: str
    holds: Literal["size", "plain", "list"] = "size"
    follows: str = ""
    turns: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Choice:
    """A choice of a starter: its name, what to call it, and the options, of which it begins with the first."""

    name: str
    title: str
    options: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class StarterKind:
    """A kind of starter: its title, what it is good for, and its numbers and choices in the order to show them.

    It begins with a stock of its ``material`` where there is one.
    """

    key: StarterWord
    title: str
    says: str
    numbers: tuple[Number, ...]
    choices: tuple[Choice, ...] = ()
    second_stock: str = ""
    material: Material | None = None

    def number(self, name: str) -> Number:
        return next(n for n in self.numbers if n.name == name)

    def begins(self, name: str, sizes: Mapping[str, Size]) -> Size:
        """What a number is until it is typed, beside the ``sizes`` that are."""
        number = self.number(name)
        if not number.follows:
            return Size(text=number.begins)
        led = self.given(number.follows, sizes)
        plain = led.text.strip().replace(".", "", 1).isdigit()
        return led.model_copy(update={"text": f"{number.begins} * {led.text.strip() if plain else f'({led.text})'}"})

    def given(self, name: str, sizes: Mapping[str, Size]) -> Size:
        """A number as it was typed, or as it begins."""
        return sizes.get(name) or self.begins(name, sizes)


class CannotMake(Said):
    """Numbers that make no such thing; the message is a sentence to show."""


@dataclass(slots=True)
class Made:
    """What a starter makes. ``notes`` say where given sizes overrule others."""

    names: list[NamedSize] = field(default_factory=list)
    parts: list[Part] = field(default_factory=list)
    joints: list[Joint] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)


class Making:
    """Collects what a starter makes; parts, joints and named sizes get ids of their own under the starter's.

    ``sheet`` is the longest side (mm) of any sheet of its stock.
    """

    def __init__(self, starter: Starter, kind: StarterKind, known: Mapping[str, float], sheet: float) -> None:
        self.starter, self.made, self.sheet = starter, Made(), sheet
        self._kind, self._known, self._second = kind, dict(known), False
        #: Thickness of the walls' stock and of the second stock, as sizes name them.
        self.t, self.u = f"{starter.stock}.thickness", f"{starter.second_stock}.thickness"

    def of_second(self) -> Making:
        """The same, with all that it makes cut from the second stock."""
        other = copy(self)
        other._second = True
        return other

    # What was typed

    def typed(self, name: str) -> Size:
        """A number as it was typed, or as it begins."""
        return self._kind.given(name, self.starter.sizes)

    def text(self, name: str) -> str:
        """A number as other sizes may use it: in brackets where it is a sum, with its unit where that is not mm."""
        return self.usable(self.typed(name), f"{name}_typed")

    def usable(self, size: Size, name: str) -> str:
        """A size as text for other sizes; a sum in inches becomes a named size, which keeps its unit."""
        text = size.text.strip()
        if text.replace(".", "", 1).isdigit():
            return text if size.unit == "mm" else f"{text} in"
        return f"({text})" if size.unit == "mm" else self.name(name, size)

    def value(self, size: Size | str, what: str) -> float:
        """A size, or the text of one, in mm. Raises `CannotMake`."""
        try:
            return length(size if isinstance(size, Size) else Size(text=size), self._known)
        except SizeError as error:
            raise CannotMake(f"{what}: {error}.") from error

    def mm(self, name: str) -> float:
        """A number in mm, more than 0. Raises `CannotMake`."""
        title = self._kind.number(name).title
        value = self.value(self.text(name), title)
        if value <= 0:
            raise CannotMake(f"{title}: {value:g} mm is not more than 0.")
        return value

    def count(self, name: str, least: int, most: int) -> int:
        """A whole number. Raises `CannotMake`."""
        title = self._kind.number(name).title
        text = self.text(name).strip("()")
        if not text.isdigit() or not least <= int(text) <= most:
            raise CannotMake(f"{title}: “{text}” is not a whole number from {least} to {most}.")
        return int(text)

    def degrees(self, name: str, least: float, most: float) -> float:
        """An angle. Raises `CannotMake`."""
        title = self._kind.number(name).title
        try:
            value = number(self.typed(name))
        except SizeError as error:
            raise CannotMake(f"{title}: {error}.") from error
        if not least <= value <= most:
            raise CannotMake(f"{title}: {value:g} is not between {least:g} and {most:g}.")
        return value

    def choice(self, name: str) -> str:
        """What was chosen, or what is chosen to begin with. Raises `CannotMake` of what is no option."""
        choice = next(c for c in self._kind.choices if c.name == name)
        chosen = self.starter.choices.get(name, choice.options[0])
        if chosen not in choice.options:
            raise CannotMake(f"{choice.title}: “{chosen}” is none of {', '.join(choice.options)}.")
        return chosen

    # What is made

    def name(self, name: str, size: Size | str) -> str:
        """A named size of the project that follows from the starter, once; answers what sizes call it."""
        full = f"{self.starter.id}_{name}"
        if all(known.name != full for known in self.made.names):
            size = size if isinstance(size, Size) else Size(text=size)
            self._known[full] = self.value(size, name)
            self.made.names.append(NamedSize(name=full, size=size, starter=self.starter.id))
        return full

    def part(
        self,
        role: str,
        title: str,
        size: tuple[str, str],
        *,
        count: int = 1,
        second: bool = False,
        face: Literal["outside", "inside"] = "outside",
        shape: Shape | None = None,
        cutouts: Sequence[CutOut] = (),
        bends: Sequence[Bend] = (),
    ) -> str:
        """A part, a rectangle unless a shape is given; answers its id."""
        part_id = f"{self.starter.id}_{role}"
        self.made.parts.append(
            Part(
                id=part_id,
                name=title,
                stock=self.starter.second_stock if second or self._second else self.starter.stock,
                count=count,
                shape=shape or Rectangle(width=Size(text=size[0]), height=Size(text=size[1])),
                cutouts=[cut.model_copy(update={"starter": self.starter.id}) for cut in cutouts],
                bends=[bend.model_copy(update={"starter": self.starter.id}) for bend in bends],
                face=face,
                starter=self.starter.id,
            )
        )
        return part_id

    def finger(self, a: tuple[str, str], b: tuple[str, str], width: str) -> None:
        self._join(FingerJoint, f"{a[0]}_{a[1]}", a=_edge(a), b=_edge(b), finger=Size(text=width))

    def tabs(self, a: tuple[str, str], line: FaceLine, tabs: int, width: str, inset: str) -> None:
        self._join(
            TabAndSlot, f"{a[0]}_{a[1]}", a=_edge(a), b=line, tabs=tabs, width=Size(text=width), inset=Size(text=inset)
        )

    def stand(self, a: tuple[str, str], line: FaceLine, **settings: Any) -> None:
        """An edge that stands on a face; with a ``groove`` it is let in, with ``room`` it slides there."""
        self._join(Housing, f"{a[0]}_{a[1]}_on", a=_edge(a), b=line, **settings)

    def lap(self, a: SlotAt, b: SlotAt) -> None:
        self._join(CrossLap, f"{a.part}_lap", a=a, b=b)

    def splice(self, a: tuple[str, str], b: tuple[str, str], size: str, depth: str) -> None:
        self._join(Splice, f"{a[0]}_{a[1]}", a=_edge(a), b=_edge(b), size=Size(text=size), depth=Size(text=depth))

    def _join(self, model: type[Any], joint_id: str, **settings: Any) -> None:
        self.made.joints.append(model(id=joint_id[:40], starter=self.starter.id, **settings))


def _edge(end: tuple[str, str]) -> EdgeOf:
    return EdgeOf.model_validate({"part": end[0], "side": end[1]})


def line_up(part: str, x: Sequence[str], y: str) -> FaceLine:
    """Upright lines on a part, one at each ``x``, beginning at ``y``."""
    first, *others = (Size(text=text) for text in x)
    return FaceLine(part=part, x=first, y=Size(text=y), turn=Size(text="90"), at_x=others)


def slots_at(part: str, side: str, at: Sequence[str]) -> SlotAt:
    """Slots in a side of a part, at places as they are typed."""
    first, *others = (Size(text=text) for text in at)
    return SlotAt.model_validate({"part": part, "side": side, "at": first, "also_at": others})
