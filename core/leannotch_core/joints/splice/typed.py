"""Boards joined in their plane by keys."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Literal, Self

from pydantic import Field

from ...document.sizes import Size, positive, shown
from ..ends import EdgeOf
from ..family import Family
from ..fit import JointCut
from ..given import Given
from ..joint import BaseJoint
from ..partner import Partner
from ..picked import Picked
from .cut import SpliceShape, SpliceSpec, cut_splice


class Splice(Family):
    """Two boards joined in their plane: keys along the first edge, their sockets along the second.

    The tips of the keys lie on the first edge as it was drawn; ``radius`` rounds their corners for a router.
    """

    kind: Literal["splice"] = "splice"
    a: EdgeOf
    b: EdgeOf
    shape: SpliceShape = "dovetail"
    keys: int = Field(default=1, ge=1, le=60)
    size: Size
    depth: Size
    radius: Size = Size(text="0")
    gap: Literal["split", "in the sockets"] = "split"

    @property
    def openings(self) -> int:
        return self.keys

    @classmethod
    def begun(cls, joint_id: str, a: Picked, b: Picked, others: Iterable[BaseJoint]) -> Self:
        """One key, a third of the edge in size."""
        return cls(id=joint_id, a=a.edge, b=b.edge, size=a.size(a.along / 3), depth=a.size(a.along / 4))

    def cut(self, given: Given, a: Partner | None, b: Partner | None, beside: Sequence[Family]) -> JointCut | None:
        size = given.size("size", self.size, "Key size", reader=positive)
        depth = given.size("depth", self.depth, "Key depth", reader=positive)
        radius = given.size("radius", self.radius, "Corner radius")
        if a is None or b is None or size is None or depth is None or radius is None:
            return None
        if abs(a.thickness - b.thickness) > 1e-6:
            given.warn(
                "unequal-thickness",
                f"{a.name} is {shown(a.thickness)} thick and {b.name} {shown(b.thickness)}; "
                "their faces will not be flush on both sides",
            )
        fit, clearance = given.fit()
        spec = SpliceSpec(
            joint=self.id,
            side_a=self.a.side,
            side_b=self.b.side,
            shape=self.shape,
            keys=self.keys,
            size=size,
            depth=depth,
            radius=radius,
            split=self.gap == "split",
            fit=fit,
            clearance=clearance,
        )
        return cut_splice(spec, a, b)
