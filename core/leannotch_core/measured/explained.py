"""What readings of parts say together: how far kerf and scale are from what was thought, and how sure that is.

A length L that ran along an angle a of the machine reads ``L (1 + ex cos²a + ey sin²a + g sin a cos a) + s d``: s is
-1 for an outside, which loses half a kerf at each end, and 1 for an opening, which gains it; d is by how much the kerf
is wider than was thought. On the lower face d is larger by the taper, along y by half of ``oval`` and along x as much
smaller. A leg is shorter by half of ``A t`` at each of its bends, were K one more: so much more of the flat went into
the bend. Where a length runs through the sheet it grows with that.

All are found by least squares over all readings and what is usual beforehand (linear regression with a normal prior),
so that what the readings cannot tell apart stays as unsure as it was.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import numpy.typing as npt

from ..document.measured import MeasuredLength, MeasuredSheet
from ..document.sizes import positive
from ..facts.kerf import HAND
from .lengths import Length

Cause = Literal["kerf", "scale x", "scale y", "squareness", "taper", "K", "oval", "thickness"]

#: What each cause is usually off by (one standard deviation; mm, or mm in a mm): common practice, no source.
USUAL: dict[Cause, float] = {
    "kerf": 0.3,
    "scale x": 0.002,
    "scale y": 0.002,
    "squareness": 0.002,
    "taper": 0.1,
    "K": 0.1,
    "oval": 0.05,
    "thickness": 0.1,
}

#: How far a hand's readings scatter is known as well as from so many of them: common practice, no source.
HANDS = 4

#: Least step of a caliper (mm), and its share in a reading's uncertainty: evenly spread over a step (JCGM 100:2008,
#: F.2.2.1).
STEP = 0.01
ROUNDED = STEP / math.sqrt(12)

#: Further off than so much (mm, or this share of it) nothing on a machine makes a length: it was misread.
FAR, SHARE = 0.8, 0.02

#: A reading that lies so many times its uncertainty from what all others say of it is probably misread.
_ALONE = 4.5

Why = Literal["inches", "ten times", "another length", "far off", "disagrees"]


@dataclass(frozen=True, slots=True)
class Estimate:
    """A cause with its value and its expanded uncertainty (95 %), in mm or mm in a mm."""

    cause: Cause
    value: float
    sure: float

    @property
    def known(self) -> bool:
        """Whether the readings made it much surer than it was: then its value is better than none."""
        return self.sure < USUAL[self.cause] / 2

    @property
    def told(self) -> bool:
        """Whether the readings say surely that it is not nothing."""
        return self.known and abs(self.value) > self.sure


@dataclass(frozen=True, slots=True)
class Read:
    """A reading (mm), what all of them say that it should be, and why it was left out, if it was."""

    length: MeasuredLength
    value: float
    explained: float
    left_out: Why | None = None

    @property
    def rest(self) -> float:
        """What nothing explains (mm)."""
        return self.value - self.explained


@dataclass(frozen=True, slots=True)
class Explained:
    """``spread`` is how far readings scatter (mm, one standard deviation) that nothing explains.

    ``beside`` are the days of earlier readings that say the same and are counted in, ``against`` the latest day of
    which they said otherwise.
    """

    reads: tuple[Read, ...]
    estimates: tuple[Estimate, ...]
    spread: float
    beside: tuple[str, ...] = ()
    against: str | None = None

    def of(self, cause: Cause) -> Estimate:
        return next(one for one in self.estimates if one.cause == cause)


Rows = npt.NDArray[np.float64]

CAUSES: tuple[Cause, ...] = tuple(USUAL)
_K, _OVAL = CAUSES.index("K"), CAUSES.index("oval")

#: What is looked for only where the readings can tell it.
_RARE: tuple[Cause, ...] = ("oval", "thickness")

#: Takes them out of rows; and what is of one sheet alone.
_USUALLY = np.array([cause not in _RARE for cause in CAUSES], dtype=np.float64)
_OTHER = np.array([cause != "thickness" for cause in CAUSES], dtype=np.float64)


@dataclass(frozen=True, slots=True)
class _Fitted:
    """Values of the causes, their covariance, the scatter and the freedom that it is known with."""

    values: Rows
    covariance: Rows
    spread: float
    freedom: float


@dataclass(frozen=True, slots=True)
class _Looked:
    """Readings of a sheet (mm) beside what they would be of each cause, and those that were left out."""

    sheet: MeasuredSheet
    values: tuple[float, ...]
    rows: Rows
    off: Rows
    left: dict[int, Why]

    @property
    def kept(self) -> list[int]:
        return [at for at in range(len(self.values)) if at not in self.left]

    def against(self, sheet: MeasuredSheet) -> tuple[Rows, Rows]:
        """What was kept, as if its file had been written for the kerf of another sheet, as oval, and with its K."""
        kept, of_it = self.kept, np.ones(len(CAUSES))
        if sheet is not self.sheet:
            # Another sheet of the stock has its own thickness.
            kept, of_it = [at for at in kept if self.sheet.lengths[at].way != "thickness"], _OTHER
        rows = self.rows[kept].reshape(-1, len(CAUSES)) * of_it
        off = self.off[kept] + rows[:, 0] * (self.sheet.kerf - sheet.kerf)
        off = off + rows[:, _OVAL] * (self.sheet.oval - sheet.oval)
        return rows, off + rows[:, _K] * (self.sheet.k - sheet.k)


def explained(measured: MeasuredSheet, earlier: Sequence[MeasuredSheet] = ()) -> Explained:
    """What the readings of a sheet say together, with ``earlier`` ones of the same stock and machine that agree.

    Raises `SizeError` where a reading is none.
    """
    looked = _looked(measured)
    alone = _fitted(*looked.against(measured))
    beside, against = _agreeing(measured, alone, earlier)
    together = [one.against(measured) for one in (looked, *beside)]
    fitted = _fitted(np.vstack([rows for rows, _ in together]), np.concatenate([off for _, off in together]))
    reads = tuple(
        Read(one, value, one.meant + float(row @ fitted.values), looked.left.get(at))
        for at, (one, value, row) in enumerate(zip(measured.lengths, looked.values, looked.rows, strict=True))
    )
    reach = _student(fitted.freedom)
    estimates = tuple(
        Estimate(cause, float(fitted.values[at]), reach * math.sqrt(float(fitted.covariance[at, at])))
        for at, cause in enumerate(CAUSES)
    )
    return Explained(reads, estimates, fitted.spread, tuple(one.sheet.date for one in beside), against)


def _looked(measured: MeasuredSheet) -> _Looked:
    values = [positive(length.reading, {}) for length in measured.lengths]
    far = {at: _far_off(length, values[at], measured.lengths) for at, length in enumerate(measured.lengths)}
    left: dict[int, Why] = {at: why for at, why in far.items() if why}
    rows = [row_of(one, one.face == "bottom") for one in measured.lengths]
    off = [value - one.meant for value, one in zip(values, measured.lengths, strict=True)]
    looked = _Looked(measured, tuple(values), np.array(rows).reshape(-1, len(CAUSES)), np.array(off), left)
    while (odd := _odd_one(looked.rows, looked.off, looked.kept)) is not None:
        left[odd] = "disagrees"
    return looked


def _agreeing(
    measured: MeasuredSheet, alone: _Fitted, earlier: Sequence[MeasuredSheet]
) -> tuple[list[_Looked], str | None]:
    """Of readings in their order, the latest that say the same kerf, and the day on which they last said another."""
    beside: list[_Looked] = []
    for sheet in reversed(earlier):
        looked = _looked(sheet)
        fitted = _fitted(*looked.against(measured))
        apart = abs(float(fitted.values[0] - alone.values[0]))
        unsure = math.sqrt(float(fitted.covariance[0, 0] + alone.covariance[0, 0]))
        if apart > _student(min(fitted.freedom, alone.freedom)) * unsure:
            return beside, sheet.date
        beside.append(looked)
    return beside, None


def row_of(one: Length | MeasuredLength, below: bool = False) -> list[float]:
    """By how much (mm) each cause, one of it, changes a length; on the lower face where it is ``below``."""
    across, up = math.cos(math.radians(one.along)), math.sin(math.radians(one.along))
    grows, long = one.gains, 0.0 if one.way == "thickness" else one.meant
    scales = [long * across**2, long * up**2, long * across * up]
    return [grows, *scales, grows * below, one.bent, grows * (up**2 - across**2) / 2, one.through]


def _far_off(length: MeasuredLength, value: float, all_of_them: Sequence[MeasuredLength]) -> Why | None:
    def near(reading: float) -> bool:
        return abs(reading - length.meant) <= max(FAR, SHARE * length.meant)

    if near(value):
        return None
    by: tuple[tuple[Why, float], ...] = (("inches", 25.4), ("inches", 1 / 25.4), ("ten times", 10), ("ten times", 0.1))
    for why, factor in by:
        if near(value / factor):
            return why
    others = [one for one in all_of_them if one is not length and abs(value - one.meant) <= FAR]
    return "another length" if others else "far off"


def _fitted(rows: Rows, off: Rows) -> _Fitted:
    """What readings say. That a cut is wider one way, or the sheet thicker, is looked for only where they can tell it
    from all else: a few lengths would leave the kerf, too, as unsure as that.
    """
    fitted = _least_squares(rows, off)
    reach = _student(fitted.freedom)
    told = [
        cause not in _RARE or reach * math.sqrt(float(fitted.covariance[at, at])) < USUAL[cause] / 2
        for at, cause in enumerate(CAUSES)
    ]
    return fitted if all(told) else _least_squares(rows * np.array(told, dtype=np.float64), off)


def _least_squares(rows: Rows, off: Rows) -> _Fitted:
    """Least squares over readings and what is usual; the scatter is that of the hand, made better by what is left."""
    spread, freedom = HAND, float(HANDS)
    for _ in range(4):
        values, covariance = _solved(rows, off, spread)
        left = off - rows @ values
        told = float(np.trace(rows @ covariance @ rows.T)) / spread**2
        freedom = HANDS + max(0.0, len(off) - told)
        spread = max(ROUNDED, math.sqrt((HANDS * HAND**2 + float(left @ left)) / freedom))
    return _Fitted(*_solved(rows, off, spread), spread, freedom)


def _solved(rows: Rows, off: Rows, spread: float) -> tuple[Rows, Rows]:
    """The causes and their covariance, of readings that scatter so far (mm)."""
    weighted = np.vstack([rows / spread, np.diag([1 / USUAL[cause] for cause in CAUSES])])
    covariance = np.linalg.inv(weighted.T @ weighted)
    return covariance @ (rows.T @ off) / spread**2, covariance


def _odd_one(rows: Rows, off: Rows, kept: list[int]) -> int | None:
    """The reading that lies farthest from what all others say of it, where that is too far."""
    if len(kept) < 4:
        return None
    far: list[tuple[float, int]] = []
    for at in kept:
        others = [other for other in kept if other != at]
        fitted = _fitted(rows[others], off[others])
        said = float(rows[at] @ fitted.values)
        unsure = math.sqrt(fitted.spread**2 + float(rows[at] @ fitted.covariance @ rows[at]))
        far.append((abs(off[at] - said) / unsure, at))
    most, at = max(far)
    return at if most > _ALONE else None


def _student(freedom: float) -> float:
    """How many standard deviations hold 95 % where they are known with such a freedom (Student's t)."""
    from scipy.special import stdtrit

    return float(stdtrit(freedom, 0.975))


def telling(lengths: Sequence[Length], most: int = 6) -> list[Length]:
    """The lengths that together tell most of kerf and scale: at most so many, the most telling first."""
    rows = np.array([row_of(one) for one in lengths]).reshape(-1, len(CAUSES)) * _USUALLY
    known = np.diag([USUAL[cause] ** -2.0 for cause in CAUSES])
    chosen: list[int] = []
    say = [at for at in range(len(lengths)) if rows[at].any()]
    while len(chosen) < min(most, len(say)):
        rest = [at for at in say if at not in chosen]
        unsure = {at: _unsure(known + np.outer(rows[at], rows[at]) / HAND**2) for at in rest}
        best = min(rest, key=lambda at: (round(unsure[at], 9), at))
        chosen.append(best)
        known = known + np.outer(rows[best], rows[best]) / HAND**2
    return [lengths[at] for at in chosen]


def one_more(measured: Sequence[MeasuredLength], lengths: Sequence[Length]) -> Length | None:
    """The length, not yet measured, that would make the kerf surer by a third or more; or none."""
    taken = {one.which for one in measured}
    known = np.diag([USUAL[cause] ** -2.0 for cause in CAUSES])
    for one in measured:
        row = np.array(row_of(one, one.face == "bottom")) * _USUALLY
        known = known + np.outer(row, row) / HAND**2
    now = float(np.linalg.inv(known)[0, 0])
    then: list[tuple[float, int]] = []
    for at, length in enumerate(lengths):
        if length.which not in taken:
            row = np.array(row_of(length)) * _USUALLY
            then.append((float(np.linalg.inv(known + np.outer(row, row) / HAND**2)[0, 0]), at))
    best, at = min(then, default=(now, -1))
    return lengths[at] if best < now / 2.25 else None


#: Lengths that parts are put together by are about so long (mm), and a square bend takes so much more of the flat (mm)
#: were K one more: that of a sheet of 2 mm.
_LONG, _BENT = 80.0, 3.0


def _unsure(known: Rows) -> float:
    """How unsure (mm²) what is cut would be: a gap, twice as wide as its kerf, a length both ways, and a bend."""
    kerf, x, y, _square, _taper, bend, *_rare = np.diag(np.linalg.inv(known))
    return float(4 * kerf + _LONG**2 * (x + y) + _BENT**2 * bend)
