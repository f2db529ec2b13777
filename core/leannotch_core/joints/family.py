"""What a family of joints answers for itself: what it cuts, and how it holds an edge."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import NamedTuple

from ..document.sizes import Size
from ..facts.reading import Reader
from .ends import EdgeOf
from .fit import JointCut
from .given import Given
from .joint import BaseJoint
from .partner import Partner
from .relief import ReliefKind


class EdgeHeld(NamedTuple):
    """How a joint holds an edge: the other part's near face lies ``inside`` the drawn edge (mm), and these spans of
    the edge (mm along it) are taken up.
    """

    inside: float
    taken: Sequence[tuple[float, float]] = ()


class Family(BaseJoint):
    """A joint that can be cut."""

    def cut(self, given: Given, a: Partner | None, b: Partner | None, beside: Sequence[Family]) -> JointCut | None:
        """What it takes from its parts; None where a size cannot be read or a part not be built.

        ``beside`` are the other joints of the same two parts. Raises `CannotJoin`.
        """
        raise NotImplementedError

    def standing(self, given: Given, edge: EdgeOf, edged: Partner, other: Partner) -> EdgeHeld | None:
        """How it holds an edge of a part on another one; None if it does not."""
        return None


class SeatedFamily(Family):
    """A joint whose openings have inside corners that a square insert has to seat in."""

    relief: ReliefKind = "none"
    cutter: Size = Size(text="kerf")

    def relief_wanted(self) -> tuple[ReliefKind, Size] | None:
        return self.relief, self.cutter


def held(given: Given, beside: Sequence[Family], edge: EdgeOf, edged: Partner, other: Partner) -> EdgeHeld:
    """How joints beside one hold an edge; without any, the other part lies against the drawn edge."""
    for joint in beside:
        # What cannot be read of it is told once, where it is cut itself.
        unheard = replace(given, joint=joint, reader=Reader(given.reader.names))
        found = joint.standing(unheard, edge, edged, other)
        if found:
            return found
    return EdgeHeld(0.0)
