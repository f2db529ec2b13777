"""What a joint asks of its two parts, and what it predicts: notches to cut, and pairs that mate."""

from __future__ import annotations

from dataclasses import dataclass

from ..geometry.loop import Outline
from ..geometry.segment import Point
from ..parts.sides import Beyond, SideFrame, side_frame
from .relief import Relief


@dataclass(frozen=True, slots=True)
class Gauge:
    """Where to put the calipers: a point in a part's frame and the direction to measure across it."""

    part: str
    point: Point
    direction: complex


@dataclass(frozen=True, slots=True)
class Mating:
    """One opening and what goes into it, in mm. ``insert_at`` is None where the insert is not cut: the sheet's own
    thickness, or ``hardware``, a bought screw or nut.

    ``gap`` is finished opening less finished insert; ``tightest`` the same with the thickest reading.
    """

    joint: str
    kind: str
    fit: str
    opening_part: str
    insert_part: str
    opening: float
    insert: float
    tightest: float
    opening_at: Gauge
    insert_at: Gauge | None
    hardware: str = ""

    @property
    def gap(self) -> float:
        return self.opening - self.insert


@dataclass(frozen=True, slots=True)
class Pocket:
    """A recess in a face, ``depth`` mm deep."""

    outline: Outline
    depth: float


@dataclass(frozen=True, slots=True)
class JointCut:
    """What a joint takes from its partners: ``(part id, notch)`` pairs, pockets likewise, and the pairs that mate."""

    notches: tuple[tuple[str, Outline], ...]
    matings: tuple[Mating, ...]
    pockets: tuple[tuple[str, Pocket], ...] = ()


@dataclass(frozen=True, slots=True)
class Partner:
    """A part as its joints know it: drawn size, thickness from the caliper readings, kerf (mm), and its relief.

    ``beyond`` is what joints drawn at the inside face add outside the drawn size. ``silhouette`` is its base region
    if that is not simply its rectangle.
    """

    id: str
    name: str
    width: float
    height: float
    thickness: float
    thickest: float
    kerf: float
    relief: Relief | None = None
    beyond: Beyond = (0.0, 0.0, 0.0, 0.0)
    silhouette: tuple[Outline, ...] = ()

    def frame(self, side: str) -> SideFrame:
        """The side as joints see it: where the part ends, with what lies beyond its drawn size."""
        return side_frame(self.width, self.height, side, self.beyond)


class CannotJoin(ValueError):  # noqa: N818 - it is a statement, and read as one
    """A joint that cannot be cut; the message is a sentence, with the field and value that would mend it."""

    def __init__(self, text: str, field: str = "", value: str = "", mend: str = "") -> None:
        super().__init__(text)
        self.field, self.value, self.mend = field, value, mend
