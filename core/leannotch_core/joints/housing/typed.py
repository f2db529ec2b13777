"""Edges that stand on a face or are let into it."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Literal, Self

from ...document.sizes import Size, positive
from ..ends import EdgeOf, FaceLine
from ..family import Family, SeatedFamily
from ..fit import JointCut
from ..given import Given
from ..joint import BaseJoint, line_of
from ..partner import Partner
from ..picked import Picked
from ..relief import ReliefKind
from .cut import HousingSpec, cut_housing


class Housing(SeatedFamily):
    """An edge that stands on lines of another part's face: let into grooves, or butted where there is no ``groove``.

    A groove is that deep and as long as the edge; an edge that slides has ``room`` before it, behind it and below it.
    """

    kind: Literal["housing"] = "housing"
    a: EdgeOf
    b: FaceLine
    groove: Size | None = None
    room: Size = Size(text="0")

    @property
    def openings(self) -> int:
        return self.b.all_lines

    def relief_wanted(self) -> tuple[ReliefKind, Size] | None:
        return None if self.groove is None else super().relief_wanted()

    @classmethod
    def begun(cls, joint_id: str, a: Picked, b: Picked, others: Iterable[BaseJoint]) -> Self:
        """Butted; it is let into a groove afterwards."""
        return cls(id=joint_id, a=a.edge, b=line_of(others, a.edge, b.part) or b.line(a.along))

    def cut(self, given: Given, a: Partner | None, b: Partner | None, beside: Sequence[Family]) -> JointCut | None:
        room = given.size("room", self.room, "Room for the edge")
        if a is None or b is None or room is None:
            return None
        line, groove = given.line(self.b, b), None
        if self.groove is not None:
            groove = given.size("groove", self.groove, "Groove depth", given.names(b), positive)
        if line is None or (groove is None) != (self.groove is None):
            return None
        starts, along = line
        fit, clearance = given.fit()
        spec = HousingSpec(
            joint=self.id,
            side=self.a.side,
            starts=starts,
            along=along,
            groove=groove,
            room=room,
            fit=fit,
            clearance=clearance,
        )
        return cut_housing(spec, a, b)
