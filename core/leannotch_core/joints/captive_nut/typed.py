"""Screws into nuts that sit in an edge."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import Literal, Self

from pydantic import Field

from ...document.sizes import Size, positive, shown
from ...parts.standards.threads import SCREWS, Thread
from ..ends import EdgeOf, FaceLine
from ..family import EdgeHeld, Family, SeatedFamily, held
from ..fit import JointCut
from ..given import Given
from ..joint import BaseJoint, line_of
from ..partner import Partner
from ..picked import Picked
from .cut import BEARS, NutSpec, cut_captive_nuts, screw_places


class CaptiveNut(SeatedFamily):
    """Screws through one part's face into nuts that sit in T-slots along another part's edge.

    ``screw`` is the length under the head of a socket screw. Where tabs or fingers join the same two parts, the
    screw's length counts from where they put the face.
    """

    kind: Literal["captive-nut"] = "captive-nut"
    a: EdgeOf
    b: FaceLine
    thread: Thread = "M3"
    screw: Size = Size(text="16")
    screws: int = Field(default=1, ge=1, le=60)
    inset: Size = Size(text="15")

    @property
    def openings(self) -> int:
        return self.screws * self.b.all_lines

    @classmethod
    def begun(cls, joint_id: str, a: Picked, b: Picked, others: Iterable[BaseJoint]) -> Self:
        """One screw in the middle of the edge."""
        line = line_of(others, a.edge, b.part) or b.line(a.along)
        return cls(id=joint_id, a=a.edge, b=line, inset=a.size(a.along / 4))

    def cut(self, given: Given, a: Partner | None, b: Partner | None, beside: Sequence[Family]) -> JointCut | None:
        long = given.size("screw", self.screw, "Length of the screw", reader=positive)
        inset = given.size("inset", self.inset, "Inset of the outer screws")
        if a is None or b is None or long is None or inset is None:
            return None
        line = given.line(self.b, b)
        if line is None:
            return None
        starts, along = line
        fit, clearance = given.fit()
        self._check_screw(given, a, clearance)
        standing = held(given, beside, self.a, a, b)
        self._check_beside(given, a, inset, standing)
        spec = NutSpec(
            joint=self.id,
            side=self.a.side,
            starts=starts,
            along=along,
            thread=self.thread,
            length=long,
            screws=self.screws,
            inset=inset,
            stand_off=standing.inside,
            fit=fit,
            clearance=clearance,
        )
        return cut_captive_nuts(spec, a, b)

    def _check_screw(self, given: Given, edged: Partner, clearance: float) -> None:
        screw = SCREWS[self.thread]
        wing = (screw.flats + clearance - screw.hole) / 2
        # A dog-bone reaches in by its radius and by its centre's share of it along the diagonal.
        taken = edged.relief.radius * (1 + math.sqrt(0.5)) if edged.relief else 0.0
        if taken > wing * (1 - BEARS):
            given.warn(
                "reliefs-take-bearing",
                f"The reliefs for a {self.thread} nut in {edged.name} take {shown(taken)} of the {shown(wing)} that "
                "it bears on beside its screw; use a larger thread or a smaller cutter",
                "relief",
            )
        over = screw.diameter - edged.thickness
        if over > 1e-9:
            given.warn(
                "screw-stands-out",
                f"An {self.thread} screw stands {shown(over)} out of {edged.name}, which is "
                f"{shown(edged.thickness)} thick; use a smaller thread",
                "thread",
            )

    def _check_beside(self, given: Given, edged: Partner, inset: float, standing: EdgeHeld) -> None:
        half = SCREWS[self.thread].hole / 2
        for at in screw_places(edged.frame(self.a.side).length, self.screws, inset):
            if any(low - half < at < high + half for low, high in standing.taken):
                text = f"The screw at {shown(at)} along {edged.name} meets a tab; move it between the tabs"
                given.warn("screw-meets-tab", text, "inset")
                return
