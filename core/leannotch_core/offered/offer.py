"""A joint that is offered, with the parts as they would be for it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

from ..document.sizes import Size, in_digits
from ..joints.families import Joint
from ..parts.part import Part
from ..project.project import Project


class OfferKey(NamedTuple):
    """What an offer is known by: the family, and what is joined to what."""

    kind: str
    a: str
    side: str
    b: str
    other: str = ""


def places_of(joint: Joint) -> frozenset[tuple[str, str]]:
    """The two places that a joint takes up: a part, and its side where it is one."""
    return frozenset((end.part, getattr(end, "side", "")) for end in (joint.a, joint.b))


def in_mm(value: float) -> Size:
    """A number in mm as it is typed."""
    return Size(text=in_digits(value, 4))


@dataclass(frozen=True, slots=True)
class JointOffer:
    """A joint; ``parts`` are those that change with it, because the joint cuts now what was drawn; ``why`` in words.

    Those that have ``grown`` at one side are among them.
    """

    joint: Joint
    parts: tuple[Part, ...]
    why: str
    grown: tuple[Part, ...] = ()

    @property
    def key(self) -> OfferKey:
        """What tells it from other offers: its family, and which sides or faces meet."""
        side, other = (getattr(end, "side", "") for end in (self.joint.a, self.joint.b))
        return OfferKey(self.joint.kind, self.joint.a.part, side, self.joint.b.part, other)

    def taken(self, project: Project) -> Project:
        """The project with the joint."""
        changed = {part.id: part for part in self.parts}
        parts = [changed.get(part.id, part) for part in project.parts]
        return project.model_copy(update={"parts": parts, "joints": [*project.joints, self.joint]})
