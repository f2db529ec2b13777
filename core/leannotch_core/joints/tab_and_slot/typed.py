"""Tabs along an edge, through or into another part."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Literal, Self

from pydantic import Field

from ...document.sizes import Size, positive
from ..ends import EdgeOf, FaceLine
from ..family import EdgeHeld, Family, SeatedFamily
from ..fit import JointCut
from ..given import Given
from ..joint import BaseJoint, line_of
from ..partner import Partner
from ..picked import Picked
from .cut import TabSpec, cut_tabs


class TabAndSlot(SeatedFamily):
    """Tabs along an edge that go through slots along a line on another part's face.

    The edge is drawn to the tips of its tabs less ``proud``; its shoulders are cut back to the near face. With a
    ``pocket`` the tabs are blind: they end in pockets of that depth instead of going through.
    """

    kind: Literal["tab-and-slot"] = "tab-and-slot"
    a: EdgeOf
    b: FaceLine
    tabs: int = Field(default=2, ge=1, le=60)
    width: Size
    inset: Size = Size(text="10")
    proud: Size = Size(text="0")
    pocket: Size | None = None

    @property
    def openings(self) -> int:
        return self.tabs * self.b.all_lines

    @classmethod
    def begun(cls, joint_id: str, a: Picked, b: Picked, others: Iterable[BaseJoint]) -> Self:
        line = line_of(others, a.edge, b.part) or b.line(a.along)
        return cls(id=joint_id, a=a.edge, b=line, width=a.size(a.along / 5), inset=a.size(a.along / 8))

    def standing(self, given: Given, edge: EdgeOf, edged: Partner, other: Partner) -> EdgeHeld | None:
        spec = self._spec(given, other) if edge == self.a else None
        return EdgeHeld(spec.depth(other), spec.spans(edged.frame(edge.side).length)) if spec else None

    def cut(self, given: Given, a: Partner | None, b: Partner | None, beside: Sequence[Family]) -> JointCut | None:
        spec = self._spec(given, b)
        return None if spec is None or a is None or b is None else cut_tabs(spec, a, b)

    def _spec(self, given: Given, on: Partner | None) -> TabSpec | None:
        """The joint in numbers; None where one of them cannot be read."""
        width = given.size("width", self.width, "Tab width", reader=positive)
        inset = given.size("inset", self.inset, "Inset of the outer tabs")
        proud = given.size("proud", self.proud, "Proud")
        if on is None or width is None or inset is None or proud is None:
            return None
        line, pocket = given.line(self.b, on), None
        if self.pocket is not None:
            pocket = given.size("pocket", self.pocket, "Pocket depth", given.names(on), positive)
        if line is None or (pocket is None) != (self.pocket is None):
            return None
        starts, along = line
        fit, clearance = given.fit()
        return TabSpec(
            joint=self.id,
            side=self.a.side,
            starts=starts,
            along=along,
            tabs=self.tabs,
            width=width,
            inset=inset,
            proud=proud,
            pocket=pocket,
            fit=fit,
            clearance=clearance,
        )
