"""What is given of one joint: its typed sizes as numbers, its parts as joints know them, its fit, and where to tell."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from ..document.model import Fit
from ..document.sizes import Size, length
from ..facts.codes import FindingCode
from ..facts.findings import Mend, Place, mend
from ..facts.reading import Names, Reader
from ..facts.stock import StockFacts
from ..geometry.segment import Point, move
from .ends import FaceLine
from .joint import BaseJoint
from .partner import Partner


@dataclass(frozen=True, slots=True)
class Parties:
    """The parts of a project, by id: as joints know them, their stocks, and the names of all that were typed.

    ``fit`` is that of joints that have none of their own.
    """

    partners: Mapping[str, Partner]
    stocks: Mapping[str, StockFacts]
    names: Mapping[str, str]
    fit: Fit


@dataclass(frozen=True, slots=True)
class Given:
    """A joint among the parties."""

    joint: BaseJoint
    parties: Parties
    reader: Reader

    # Telling

    def place(self, field_name: str = "") -> Place:
        return Place(kind="joint", id=self.joint.id, part=self.joint.a.part, field=field_name)

    def warn(self, code: FindingCode, text: str, field_name: str = "", *mends: Mend) -> None:
        self.reader.warn(code, text, self.place(field_name), *mends)

    def note(self, code: FindingCode, text: str, field_name: str) -> None:
        self.reader.note(code, text, self.place(field_name))

    def set(self, label: str, field: str, value: str) -> Mend:
        """A mend that sets one field of the joint; of one of its ends with a dot between."""
        return mend(label, ("joints", self.joint.id, *field.split(".")), value)

    # Parts and fit

    def partner(self, part_id: str) -> Partner | None:
        """A part of the joint; None where it cannot be built."""
        partner = self.parties.partners.get(part_id)
        if partner is None and part_id not in self.parties.names:
            text = f"A joint names the part “{part_id}”, which is not there"
            self.reader.error("part-missing", text, self.place())
        return partner

    def fit(self) -> tuple[Fit, float]:
        """The fit class and its clearance; of two stocks the one that gives more room decides.

        A part that cannot be built has no say: its joint is read, but not cut.
        """
        fit = self.joint.fit or self.parties.fit
        known = [stock for part in self.joint.parts if (stock := self.parties.stocks.get(part))]
        return fit, max((stock.clearance[fit] for stock in known), default=0.0)

    # Sizes: None, with a finding, where they cannot be read

    def size(
        self,
        field_name: str,
        size: Size,
        called: str,
        names: Names | None = None,
        reader: Callable[[Size, Names], float] = length,
    ) -> float | None:
        """A typed size in mm, by default with the names of the project alone."""
        path = f"joints/{self.joint.id}/{field_name}"
        return self.reader.size(path, size, names or self.reader.names, lambda: self.place(field_name), reader, called)

    def number(self, field_name: str, size: Size, called: str) -> float | None:
        return self.reader.number(f"joints/{self.joint.id}/{field_name}", size, lambda: self.place(field_name), called)

    def names(self, partner: Partner) -> Names:
        """The names that sizes on a part may use."""
        own = {"width": partner.width, "height": partner.height, "thickness": partner.thickness, "kerf": partner.kerf}
        return {**self.reader.names, **own}

    def line(self, line: FaceLine, on: Partner) -> tuple[tuple[Point, ...], Point] | None:
        """Where the lines on a face begin, and their unit direction."""
        names = self.names(on)
        x = self.size("b.x", line.x, f"Line on {on.name}, across", names)
        y = self.size("b.y", line.y, f"Line on {on.name}, up", names)
        step = self.size("b.step", line.step, "Step between lines", names) if line.lines > 1 else 0.0
        turn = self.number("b.turn", line.turn, "Turn of the line")
        if x is None or y is None or step is None or turn is None:
            return None
        along = move(turn).turn
        evenly = [complex(x, y) + along * 1j * step * i for i in range(line.lines)]
        also = [self.size(f"b.at_x/{i}", size, f"Line on {on.name}, across", names) for i, size in enumerate(line.at_x)]
        return (*evenly, *(complex(place, y) for place in also if place is not None)), along
