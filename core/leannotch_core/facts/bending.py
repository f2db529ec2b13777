"""How a stock is bent: its radius by measure or by the die, where its neutral line lies, how far it springs back."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from ..bends.allowance import MOST_TURNED, NoSuchBend, k_from_deduction, k_from_strip, k_from_table
from ..document.bend import Bending, DeductionMeasured, KAt, KTyped, Neutral, StripBent
from ..document.sizes import Size, length, number
from ..document.stock import Material
from .unknown import UnknownFact, field_mm


@dataclass(frozen=True, slots=True)
class BendingFacts:
    """How a stock is bent, mm. ``k`` holds for all radii; without it K goes by the ``rows``.

    ``least_radius`` and ``least_flange`` are what it takes; ``assumed`` is whether no die was typed. ``breaks`` is
    what it is made of where that breaks along a bend. ``by_die`` is whether the radius follows from the die's opening.
    ``springs`` are angles that came out beside those that were set, ``misread`` those that no sheet does.
    """

    radius: float
    least_radius: float
    die: float
    least_flange: float
    rows: tuple[KAt, ...]
    k: float | None
    assumed: bool
    breaks: str
    by_die: bool = False
    springs: tuple[tuple[float, float], ...] = ()
    misread: tuple[tuple[float, float], ...] = ()

    def own_k(self, thickness: float) -> float:
        """The K of a bend of its own radius."""
        return self.k_at(self.radius, thickness)

    def put(self, angle: float) -> float | None:
        """The angle (degrees from flat) to set so that another comes out; None where no springback was measured.

        A sheet springs back by a share of what it is turned, K = got / set (the springback factor of the handbooks,
        from memory): between two angles that were measured in proportion, beyond them as the nearest.
        """
        if not self.springs:
            return None
        got, put = zip(*self.springs, strict=True)
        shares = [one / other for one, other in zip(got, put, strict=True)]
        return angle / float(np.interp(angle, got, shares))

    def k_at(self, radius: float, thickness: float) -> float:
        return k_from_table(self.rows, radius / thickness) if self.k is None else self.k


#: The opening of a die in thicknesses, and the share of it that a flange must reach over: common practice, no source.
_DIE, _REACH = 8.0, 0.7


#: Boards that break along a bend at a press: common practice, no source.
_BREAKS = ("plywood", "solid wood", "MDF")


def bending_facts(bending: Bending, thickness: float, material: Material) -> BendingFacts:
    """How a stock so thick (mm) is bent. Raises `UnknownFact`."""

    def read(what: str, size: Size | None, otherwise: float) -> float:
        return otherwise if size is None else field_mm(what, size)

    die = read("die opening", bending.die, _DIE * thickness)
    neutral, (springs, misread) = bending.neutral, _springs(bending)
    return BendingFacts(
        radius=read("bend radius", bending.radius, _radius(bending, die, thickness, material)),
        least_radius=read("least bend radius", bending.least_radius, 0.0),
        die=die,
        least_flange=read("least flange", bending.least_flange, _REACH * die),
        rows=() if isinstance(neutral, KTyped | DeductionMeasured | StripBent) else tuple(neutral.rows),
        k=_k(neutral, thickness),
        assumed=bending.die is None and bending.least_flange is None,
        breaks=material if material in _BREAKS else "",
        by_die=bending.radius is None and bending.die is not None,
        springs=springs,
        misread=misread,
    )


#: The inside radius of what is bent freely over a die, as a share of its opening: common practice, no source. Soft
#: sheets follow the punch further.
_FREELY: Mapping[Material, float] = {"aluminium": 0.16}
_OTHERWISE = 0.18


def _radius(bending: Bending, die: float, thickness: float, material: Material) -> float:
    """Where no radius was measured: by the opening of the die, if that is known; else the thickness (mm)."""
    return thickness if bending.die is None else _FREELY.get(material, _OTHERWISE) * die


#: What springs back further than to such a share, or onwards by so much, was misread.
_SPRINGS = 0.6, 1.1


def _degrees(size: Size, _: Mapping[str, float]) -> float:
    return number(size)


def _springs(bending: Bending) -> tuple[tuple[tuple[float, float], ...], tuple[tuple[float, float], ...]]:
    """Angles that came out beside those that were set: the sound ones, by what came out, and the others."""
    sound: list[tuple[float, float]] = []
    misread: list[tuple[float, float]] = []
    for one in bending.springs:
        put, got = field_mm("angle set", one.put, _degrees), field_mm("angle that came out", one.got, _degrees)
        good = 0 < put <= MOST_TURNED and _SPRINGS[0] <= got / put <= _SPRINGS[1]
        (sound if good else misread).append((got, put))
    return tuple(sorted(sound)), tuple(misread)


def _k(neutral: Neutral, thickness: float) -> float | None:
    """The K that was typed or measured; None where it goes by a table. Raises `UnknownFact`."""
    if isinstance(neutral, KTyped):
        return neutral.k
    try:
        if isinstance(neutral, DeductionMeasured):
            taken = field_mm("bend deduction", neutral.deduction, length)
            angle, radius = number(neutral.angle), field_mm("bend radius", neutral.radius)
            return k_from_deduction(taken, angle, radius, thickness)
        if isinstance(neutral, StripBent):
            legs = field_mm("leg of the strip", neutral.legs[0]), field_mm("leg of the strip", neutral.legs[1])
            angle, radius = number(neutral.angle), field_mm("bend radius", neutral.radius)
            return k_from_strip(field_mm("flat strip", neutral.flat), legs, angle, radius, thickness)
    except NoSuchBend as error:
        raise UnknownFact("K factor", str(error)) from error
    return None
