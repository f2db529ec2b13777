"""How wide a cut is: on both faces, by what was measured, at the speed and power that the stock is cut with."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from contextlib import suppress
from dataclasses import astuple, dataclass

from ..document.setting import CutAt
from ..document.stock import Kerf, KerfAt, Known, MadeFor, OnMachine, PlugKerf, StripKerf, TypedKerf
from .unknown import UnknownFact, field_mm


@dataclass(frozen=True, slots=True)
class Walls:
    """By how much (mm) a cut is wider on the upper and the lower face of a sheet than its file makes up for."""

    above: float = 0.0
    below: float = 0.0

    @property
    def leaning(self) -> bool:
        return self.above != self.below

    @property
    def faces(self) -> tuple[float, float]:
        return self.above, self.below

    def lean(self, thickness: float) -> float:
        """By how many degrees each wall of a cut leans in a sheet so thick (mm).

        >>> round(Walls(-0.05, 0.05).lean(3.0), 2)
        0.95
        """
        return math.degrees(math.atan2(abs(self.below - self.above) / 2, thickness))


STRAIGHT = Walls()

#: A hand's readings of one length scatter by so much (mm, one standard deviation): common practice, no source.
HAND = 0.02

#: So many standard deviations apart things are surely another (95 %).
SURE = 2.0


#: How far from the upper face to the lower one parts are made for (common practice: the middle).
_DOWN: Mapping[MadeFor, float] = {"the upper face": 0.0, "the middle": 0.5, "the lower face": 1.0}


@dataclass(frozen=True, slots=True)
class Reckoned:
    """What a kerf (mm) was reckoned of where its cuts are made ``at`` settings at which none was measured.

    ``near`` are the measured ones beside them; of one alone, nothing was measured ``beyond``.
    """

    at: CutAt
    near: tuple[tuple[CutAt, float], ...]

    @property
    def beyond(self) -> bool:
        return len(self.near) == 1


@dataclass(frozen=True, slots=True)
class CutFacts:
    """The kerf that files make up for (mm), how the walls of a cut lie beside it, and whether it was reckoned.

    ``kerf`` is the mean of that along x of the machine and of that along y, which is more by ``oval``. Where readings
    of the two are no further apart than they scatter, ``even`` are both, and neither way is wider.
    """

    kerf: float
    walls: Walls
    reckoned: Reckoned | None = None
    oval: float = 0.0
    even: tuple[float, float] | None = None


@dataclass(frozen=True, slots=True)
class WideCut:
    """How wide a cut is (mm) on both faces, the mean of both ways, and by how much wider along y than along x."""

    above: float
    below: float
    oval: float = 0.0


@dataclass(frozen=True, slots=True)
class MeasuredKerf:
    """A kerf that was measured on cuts that were made ``at`` some settings."""

    at: CutAt
    cut: WideCut


def cut_of(known: Known) -> CutFacts:
    """What a beam cuts away. Raises `UnknownFact`."""
    now = known.cut_now if isinstance(known, OnMachine) else None
    cut, reckoned = _wide(known), None
    if now and known.at and now != known.at:
        cut, reckoned = _reckoned(now, measured_kerfs(known))
    kerf = cut.above + _DOWN[known.made_for] * (cut.below - cut.above)
    even = None
    if known.up is not None and not cut.oval:
        along = kerf_width(known.kerf), kerf_width(known.up, _UP)
        even = along if along[0] != along[1] else None
    return CutFacts(kerf, Walls(cut.above - kerf, cut.below - kerf), reckoned, cut.oval, even)


def measured_kerfs(known: Known) -> list[MeasuredKerf]:
    """The kerfs of which it is known at what they were measured, the one that is taken first. Raises `UnknownFact`.

    An earlier one that cannot be read says nothing.
    """
    found = [MeasuredKerf(known.at, _wide(known))] if known.at else []
    for one in known.kerfs:
        with suppress(UnknownFact):
            found.append(MeasuredKerf(one.at, _wide(one)))
    return found


_UP = "kerf along y"


def _wide(one: Known | KerfAt) -> WideCut:
    """A cut as it was measured. It is no wider one way where the readings do not tell it. Raises `UnknownFact`."""
    across = kerf_width(one.kerf)
    up = across if one.up is None else kerf_width(one.up, _UP)
    apart = up - across
    told = one.up is not None and abs(apart) > SURE * math.hypot(unsure(one.kerf), unsure(one.up))
    above = (across + up) / 2
    below = above if one.below is None else kerf_width(one.below, "kerf on the lower face")
    if told and below <= abs(apart) / 2:
        raise UnknownFact(
            "kerf on the lower face",
            f"{below:.3f} mm leaves nothing one way, where the cut is {abs(apart):.3f} mm wider the other; "
            "measure both again",
        )
    return WideCut(above, below, round(apart, 9) if told else 0.0)


def unsure(kerf: Kerf) -> float:
    """How far a kerf may be off (mm, one standard deviation), as readings of a hand scatter; 0 where it was typed.

    Both sizes of a plug scatter, and half their difference is the kerf; so do all pieces of a strip, and the strip.
    """
    if isinstance(kerf, TypedKerf):
        return 0.0
    if isinstance(kerf, PlugKerf):
        return HAND / math.sqrt(2)
    return HAND * math.sqrt(len(kerf.pieces) + 1) / len(kerf.pieces)


def _reckoned(now: CutAt, measured: Sequence[MeasuredKerf]) -> tuple[WideCut, Reckoned | None]:
    """Between the two measured cuts whose dose is next to that of now; beyond all of them, as the nearest.

    That a kerf grows evenly with its dose between two that are near is common practice, no source.
    """
    same = next((one for one in measured if one.at == now), None)
    if same:
        return same.cut, None
    less = max((one for one in measured if one.at.dose <= now.dose), key=lambda one: one.at.dose, default=None)
    more = min((one for one in measured if one.at.dose >= now.dose), key=lambda one: one.at.dose, default=None)
    if less is None or more is None or less is more:
        near = less or more
        assert near
        return near.cut, Reckoned(now, ((near.at, near.cut.above),))
    apart = more.at.dose - less.at.dose
    share = (now.dose - less.at.dose) / apart if apart else 0.5
    both = zip(astuple(less.cut), astuple(more.cut), strict=True)
    cut = WideCut(*(a + share * (b - a) for a, b in both))
    return cut, Reckoned(now, ((less.at, less.cut.above), (more.at, more.cut.above)))


def kerf_width(kerf: Kerf, called: str = "kerf") -> float:
    """Full width of the cut in mm. Raises `UnknownFact` when it is not more than zero."""
    if isinstance(kerf, TypedKerf):
        return field_mm(called, kerf.width)
    width = kerf_from_strip(kerf) if isinstance(kerf, StripKerf) else kerf_from_plug(kerf)
    if width <= 0:
        raise UnknownFact(called, f"the measured pieces leave {width:.3f} mm for it; measure them again")
    return width


def kerf_from_strip(kerf: StripKerf) -> float:
    """``(L - sum of pieces) / N``: N pieces between N + 1 cuts, of which the outer two give half each."""
    pieces = [field_mm("measured piece", piece) for piece in kerf.pieces]
    return (field_mm("strip length", kerf.strip) - sum(pieces)) / len(pieces)


def kerf_from_plug(kerf: PlugKerf) -> float:
    """``(H - P) / 2``: the hole gains half a kerf on each side, the plug loses as much."""
    return (field_mm("hole", kerf.hole) - field_mm("plug", kerf.plug)) / 2
