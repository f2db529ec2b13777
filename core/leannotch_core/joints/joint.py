"""What every joint has, as it was typed."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any, Self

from ..document.model import Fit, Id, Model, Owner
from ..document.sizes import Size
from ..document.turned_over import scaled
from .ends import EdgeOf, End, FaceLine
from .picked import Picked
from .relief import ReliefKind


class BaseJoint(Model):
    """What every joint has: the fit of its own, if it has one, and the ``starter`` that made it."""

    id: Id
    fit: Fit | None = None
    starter: Owner = ""
    a: End
    b: End

    # What it is

    @property
    def parts(self) -> tuple[str, str]:
        return self.a.part, self.b.part

    @property
    def openings(self) -> int:
        """How many openings it cuts, as far as they were typed."""
        return 1

    @property
    def lines(self) -> int:
        """About how many lines its openings and their inserts come to."""
        return 8 * self.openings

    @classmethod
    def begun(cls, joint_id: str, a: Picked, b: Picked, others: Iterable[BaseJoint]) -> Self:
        """A new one between what was picked, in sizes that suit it; ``others`` are there already."""
        raise NotImplementedError

    # What follows from it

    def relief_wanted(self) -> tuple[ReliefKind, Size] | None:
        """The relief of its openings and its cutter; None where no square insert has to seat in a corner."""
        return None

    def drawn_inside(self, names: Mapping[str, float]) -> float | None:
        """How far (mm) its edges stand beyond the other part's face, where they are drawn at the inside one."""
        return None

    # Seen anew

    def turned_over(self, part: str, lengths: Mapping[str, complex]) -> Self:
        """The joint after ``part`` was turned over; ``lengths`` are widths and heights (mm) as complex numbers."""
        return self.model_copy(update={w: end.turned_over() for w, end in self._ends if end.part == part})

    def scaled(self, part: str, factor: float) -> Self:
        """The joint with its places on ``part`` moved as the part was scaled; its own sizes stay."""
        return self.model_copy(update={w: scaled(end, factor) for w, end in self._ends if end.part == part})

    def with_settings_of(self, model: BaseJoint) -> Self:
        """The joint with all the settings of another one: all but what it joins and where."""
        own = BaseJoint.model_fields.keys() - {"fit"}
        settings: dict[str, Any] = {n: getattr(model, n) for n in type(model).model_fields if n not in own}
        return self.model_copy(update=settings)

    def between(self, joint_id: str, parts: Mapping[str, str]) -> Self:
        """The same joint between copies of its parts, which are given by the parts' ids; no starter keeps it."""
        ends = {which: end.model_copy(update={"part": parts[end.part]}) for which, end in self._ends}
        return self.model_copy(update={"id": joint_id, "starter": "", **ends})

    @property
    def _ends(self) -> tuple[tuple[str, End], tuple[str, End]]:
        return ("a", self.a), ("b", self.b)


def line_of(joints: Iterable[BaseJoint], edge: EdgeOf, on: str) -> FaceLine | None:
    """The line of another joint of the same edge on the same face: screws go where the tabs already are."""
    return next((j.b for j in joints if isinstance(j.b, FaceLine) and j.a == edge and j.b.part == on), None)
