"""How a machine stands between the blocks of a program, what it does in each, and what the program says of itself."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal, NamedTuple

from ...geometry.segment import Line, Point, Segment, Source
from .words import BadBlock

SOURCE = Source("program", "line")

#: What a program waits for in the middle of it.
Stop = Literal["", "pause", "cutter"]


class Home(NamedTuple):
    """Where the machine's own zero lies in the program's coordinates (mm); where nobody told, high above its zero."""

    at: Point = 0
    z: float = 50.0


class ProgramStep(NamedTuple):
    """A move, or a wait of so many s. ``feed`` is in mm/min, None for a rapid move; ``power`` is what S says while the
    beam or spindle is on, else 0. ``z`` and ``from_z`` are heights. ``operation`` is what the program calls it;
    ``begun`` is whether the beam or spindle was switched on just before. ``tool`` is the number of the cutter that is
    in, as the program counts; a step that ``stops`` waits for somebody, with M6 for the cutter that it names.
    ``reverse`` is whether it was switched on the other way round, by M4.
    """

    line: int
    segment: Segment | None
    feed: float | None
    power: float
    operation: str = "cut"
    from_z: float = 0.0
    z: float = 0.0
    wait: float = 0.0
    begun: bool = False
    tool: int = 1
    stops: Stop = ""
    reverse: bool = False


@dataclass(slots=True)
class State:
    """How the machine stands between two blocks: places in mm, with what G92 ``shifted`` them by."""

    home: Home
    without_s: float
    radii: float | None = None
    here: Point = 0
    z: float = 0.0
    shifted: Point = 0
    shifted_z: float = 0.0
    zero: int = 0
    motion: int = 0
    unit: float = 1.0
    digits: int = 0
    relative: bool = False
    centres_at: bool = False
    cycle: dict[str, float] = field(default_factory=dict)
    back_to_r: bool = False
    feed: float | None = None
    s: float | None = None
    on: bool = False
    begun: bool = False
    reverse: bool = False
    operation: str = "cut"
    unit_stated: bool = False
    wanted: int = 0
    tool: int = 1
    worked: bool = False

    @property
    def power(self) -> float:
        """The S in force: 0 where nothing is switched on, and what the machine begins with where none was said."""
        if not self.on:
            return 0.0
        return self.without_s if self.s is None else self.s

    def there(self, words: Mapping[str, float]) -> tuple[Point, float]:
        """The place (mm) that a block names, as it counts."""
        base, up = (self.here, self.z) if self.relative else (self.shifted, self.shifted_z)
        x = words["X"] * self.unit + base.real if "X" in words else self.here.real
        y = words["Y"] * self.unit + base.imag if "Y" in words else self.here.imag
        return complex(x, y), words["Z"] * self.unit + up if "Z" in words else self.z

    def goes(
        self, line: int, there: Point, z: float, feed: float | None, segment: Segment | None = None
    ) -> ProgramStep:
        """The step that takes it there."""
        if segment is None and there != self.here:
            segment = Line(self.here, there, SOURCE)
        step = ProgramStep(
            line,
            segment,
            feed,
            self.power,
            self.operation,
            self.z,
            z,
            begun=self.begun,
            tool=self.tool,
            reverse=self.reverse,
        )
        self.begun = False
        self.worked = self.worked or feed is not None
        self.here, self.z = there, z
        return step

    def waits(self, line: int, seconds: float) -> ProgramStep:
        """A step in which nothing moves for so many seconds."""
        here = self.operation, self.z, self.z
        return ProgramStep(line, None, None, self.power, *here, wait=seconds, tool=self.tool, reverse=self.reverse)

    def works_at(self, line: int, code: str) -> float:
        """The feed. Raises `BadBlock` where there is none."""
        if self.feed is None or self.feed <= 0:
            raise BadBlock(line, f"it works at no speed: {code} needs an F of more than 0 before it")
        return self.feed


@dataclass(slots=True)
class ProgramTold:
    """What a program says of itself beside its moves. ``own`` are the lines that are its machine's own, ``switched``
    what else it switches than a spindle or a beam (M7 to M9), each with the number of its line, and ``worked`` are the
    first and the last line that it moves on. ``notes`` are sentences on what had to be taken as given.
    """

    unit_stated: bool = False
    comments: list[str] = field(default_factory=list)
    ended: bool = False
    own: list[tuple[int, str]] = field(default_factory=list)
    switched: list[tuple[int, str]] = field(default_factory=list)
    worked: tuple[int, int] = (0, 0)
    notes: list[str] = field(default_factory=list)

    def also(self, told: ProgramTold) -> None:
        """Takes over what another program says that is carried out behind this one."""
        self.unit_stated, self.ended = told.unit_stated, told.ended
        self.comments += told.comments
        self.own += told.own
        self.switched += told.switched
        self.worked = self.worked[0] or told.worked[0], told.worked[1] or self.worked[1]
        for text in told.notes:
            self.note(text)

    def note(self, text: str) -> None:
        """Tells something once."""
        if text not in self.notes:
            self.notes.append(text)
