"""What every kind of shape tells of itself, and what it is given to be drawn with."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from typing import Protocol, Self

from ...document.model import Model
from ...document.sizes import Size, length, number
from ...document.sums import Unit
from ...facts.codes import FindingCode
from ...facts.findings import Mend, Place, mend
from ...facts.reading import Names, Reader
from ...facts.stock import StockFacts
from ...geometry.loop import Loop, Outline
from ...geometry.segment import Motion, Segment
from ...geometry.stroke import Knot
from ..sides import Beyond

SizeReader = Callable[[Size, Names], float]


def plain(size: Size, _: Names) -> float:
    """Reads a plain number, such as an angle in degrees, whatever names there are."""
    return number(size)


class ReadSize(Protocol):
    """Reads one size of something in mm; None, with a finding, where it cannot be read."""

    def __call__(self, name: str, size: Size, reader: SizeReader = length, called: str = "") -> float | None: ...


@dataclass(frozen=True, slots=True)
class Pen:
    """What a shape is drawn with. ``name`` is its name in sources, ``called`` begins what is told of it, ``path`` leads
    to it from the project, ``at`` gives the place of one of its fields; ``kept``: a starter keeps its sizes. ``others``
    are the outlines of the parts that its part has as shapes, by their ids; ``standards`` those of standard things.
    """

    name: str
    called: str
    path: tuple[str, ...]
    at: Callable[[str], Place]
    read: ReadSize
    reader: Reader
    stock: StockFacts
    kept: bool = False
    others: Mapping[str, tuple[Outline, ...]] = field(default_factory=dict)
    standards: Mapping[str, tuple[Outline, ...]] = field(default_factory=dict)

    def error(self, code: FindingCode, text: str, at: str, *mends: Mend) -> None:
        self.reader.error(code, f"{self.called}: {text}", self.at(at), *mends)

    def set(self, label: str, at: str, value: str) -> Mend:
        """A mend that sets a field of the shape; of fields in fields with a slash between."""
        return mend(label, (*self.path, *at.split("/")), value)


def under(pen: Pen, inside: str, whose: str) -> Pen:
    """The pen for a shape that stands in a field of another one."""
    read, at = pen.read, pen.at

    def read_there(name: str, size: Size, reader: SizeReader = length, called: str = "") -> float | None:
        return read(f"{inside}/{name}", size, reader, " ".join(filter(None, (whose, called or name))))

    return replace(
        pen,
        name=f"{pen.name}/{inside}",
        called=", ".join(filter(None, (pen.called, whose))),
        path=(*pen.path, *inside.split("/")),
        at=lambda name: at(f"{inside}/{name}"),
        read=read_there,
    )


class BaseShape(Model):
    """A kind of shape: typed here, and drawn by itself."""

    @property
    def lines(self) -> int:
        """About how many lines and arcs it comes to."""
        raise NotImplementedError

    def mirrored(self) -> Self:
        """The shape turned over, left to right; most are alike on both hands."""
        return self

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        """A new one, as it is first put on a part, in sizes that suit the unit."""
        raise NotImplementedError


@dataclass(frozen=True, slots=True)
class Extent:
    """Width and height (mm) that a part's shape fills, and what joints drawn at the inside face add outside it."""

    width: float
    height: float
    beyond: Beyond = (0.0, 0.0, 0.0, 0.0)


@dataclass(frozen=True, slots=True)
class LineShape:
    """A line on a part, in the part's frame (mm): scored, engraved, or drawn as a reference."""

    operation: str
    segments: tuple[Segment, ...]
    closed: bool

    def moved(self, motion: Motion) -> LineShape:
        return LineShape(self.operation, tuple(segment.moved(motion) for segment in self.segments), self.closed)


class BaseOutline(BaseShape):
    """A shape that a part can have: it fills a width and a height."""

    width: Size
    height: Size

    def outline(self, pen: Pen, extent: Extent) -> list[Loop] | None:
        """The outer loop from the part's lower left corner, then openings of its own; None, with findings, if none."""
        raise NotImplementedError

    def drawn_on(self, extent: Extent) -> tuple[LineShape, ...]:
        """Lines that belong to the shape and are not cut through."""
        return ()

    @classmethod
    def filling(cls, width: Size, height: Size) -> Self:
        """A new one of a given size."""
        return cls(width=width, height=height)


class BaseHole(BaseShape):
    """A shape on a part: cut out, added, kept, sunk or marked on it."""

    def drawn_in(self, outlines: tuple[Outline, ...]) -> tuple[LineShape, ...]:
        """Lines that belong to the shape beside its outlines, about its middle, each with an operation of its own."""
        return ()

    def through(self, pen: Pen) -> list[Knot]:
        """The points that it was drawn through, about its middle; none of shapes that are no lines through points."""
        return []

    def open_lines(self, pen: Pen) -> tuple[tuple[Segment, ...], ...] | None:
        """Lines of the shape that enclose nothing, about its middle; what the shape does is done along them."""
        return ()

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        """Its outlines about their middle; None, with findings, where it cannot be drawn."""
        raise NotImplementedError

    @property
    def only_shown(self) -> bool:
        """Whether it is there to design round, and no machine ever sees it."""
        return False

    @property
    def as_large_as(self) -> str:
        """What else decides how large it is, so that it cannot be made larger by itself; mostly nothing."""
        return ""

    @classmethod
    def of(cls, unit: Unit, what: str) -> Self:
        """A new one that shows something else, by its name; of shapes that show nothing but themselves, as begun."""
        return cls.begun(unit)

    def islands(self, outlines: tuple[Outline, ...]) -> int:
        """How many pieces fall out of it beside what was meant to, where it is cut out: the insides of letters."""
        return 0

    def tell_islands(self, pen: Pen, lost: int) -> None:
        """Warns of so many islands that are lost."""

    @property
    def title(self) -> str:
        """What findings call it."""
        return "cut-out"
