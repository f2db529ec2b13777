"""What every kind of shape tells of itself, and what it is given to be drawn with."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Protocol, Self

from ...document.model import Model
from ...document.sizes import Size, Unit, length
from ...findings import Mend, Place, mend
from ...geometry.loop import Loop, Outline
from ...geometry.segment import Motion, Segment
from ...reading import Names, Reader
from ...stock import StockFacts
from ..sides import Beyond

SizeReader = Callable[[Size, Names], float]


class Read(Protocol):
    """Reads one size of something in mm; None, with a finding, where it cannot be read."""

    def __call__(self, name: str, size: Size, reader: SizeReader = length, called: str = "") -> float | None: ...


@dataclass(frozen=True, slots=True)
class Pen:
    """What a shape is drawn with. ``name`` is its name in sources, ``called`` begins what is told of it, ``path`` leads
    to it from the project, ``at`` gives the place of one of its fields; ``kept``: a starter keeps its sizes.
    """

    name: str
    called: str
    path: tuple[str, ...]
    at: Callable[[str], Place]
    read: Read
    reader: Reader
    stock: StockFacts
    kept: bool = False

    def error(self, code: str, text: str, field: str, *mends: Mend) -> None:
        self.reader.error(code, f"{self.called}: {text}", self.at(field), *mends)

    def set(self, label: str, field: str, value: str) -> Mend:
        """A mend that sets a field of the shape; of fields in fields with a slash between."""
        return mend(label, (*self.path, *field.split("/")), value)


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
        """Lines that belong to the shape beside its outlines, about its middle."""
        return ()

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        """Its outlines about their middle; None, with findings, where it cannot be drawn."""
        raise NotImplementedError

    def islands(self, outlines: tuple[Outline, ...]) -> int:
        """How many pieces fall out of it beside what was meant to, where it is cut out: the insides of letters."""
        return 0

    def tell_islands(self, pen: Pen, lost: int) -> None:
        """Warns of so many islands that are lost."""

    @property
    def title(self) -> str:
        """What findings call it."""
        return "cut-out"
