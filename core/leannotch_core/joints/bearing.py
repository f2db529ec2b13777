"""What an opening really holds by: play that reliefs add and round corners take, and how much of its sides is left."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
import shapely
from shapely import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from ..document.sizes import shown
from ..facts.codes import FindingCode
from ..facts.findings import Mend
from ..geometry.chords import as_polygon
from ..geometry.loop import Outline
from ..geometry.segment import Point
from .fit import Gauge, JointCut, Mating
from .given import Given
from .partner import Partner
from .relief import ReliefKind
from .seat import SEATS

#: The code of what is told of reliefs that take too much.
EATS: FindingCode = "relief-eats-bearing"

#: Sides that keep less than this share of their length bear too little.
ENOUGH = 0.5
#: Round corners that take more than this share of a clearance are told.
_TELLING = 0.5
#: Openings are looked at by chords so near (mm) to their arcs.
_CHORDS = 0.001


class _Opening(NamedTuple):
    """What a joint takes out where it is measured, and the same without its reliefs."""

    whole: Polygon
    square: Polygon


#: Whether a joint holds well with another kind of relief.
Bears = Callable[[ReliefKind], bool]


def with_bearing(given: Given, cut: JointCut, partners: Sequence[Partner], bears: Bears) -> JointCut:
    """The cut with its pairs as they really mate; notes where reliefs or round corners change that."""
    if given.joint.relief_wanted() is None:
        return cut
    by_id = {partner.id: partner for partner in partners}
    matings = tuple(_mating(given, mating, cut, by_id[mating.opening_part], bears) for mating in cut.matings)
    return replace(cut, matings=matings)


def _mating(given: Given, mating: Mating, cut: JointCut, own: Partner, bears: Bears) -> Mating:
    opening = _opening(cut, mating.opening_at)
    if opening is None or mating.gap <= 0:
        return mating
    if own.relief is None:
        return _with_roots(given, mating, opening, own)
    eased = _across(opening.whole, mating.opening_at) - mating.opening
    share = _share(opening, mating)
    if share < ENOUGH or eased > 0.01:
        _tell_relief(given, mating, own, (share, eased), bears)
    return replace(mating, eased=eased) if eased > 1e-3 else mating


def _opening(cut: JointCut, at: Gauge) -> _Opening | None:
    """What is cut out in one piece round a gauge."""
    own = [outline for part, outline in cut.notches if part == at.part]
    own += [pocket.outline for part, pocket in cut.pockets if part == at.part]
    whole = shapely.union_all([as_polygon(outline, _CHORDS) for outline in own])
    spot = shapely.Point(at.point.real, at.point.imag)
    found = next((piece for piece in shapely.get_parts(whole) if piece.intersects(spot)), None)
    if found is None:
        return None
    square = shapely.MultiPoint(_square(own, found)).minimum_rotated_rectangle
    return _Opening(found, square) if isinstance(square, Polygon) else None


def _square(outlines: Sequence[Outline], within: Polygon) -> npt.NDArray[np.float64]:
    """Ends of all sides of an opening that are no relief's: rows of x and y."""
    ends = {
        (end.real, end.imag)
        for outline in outlines
        for segment in outline.outer
        if segment.source.side != "relief"
        for end in (segment.start, segment.end)
    }
    spots = np.array(sorted(ends)).reshape(-1, 2)
    shapely.prepare(within)
    near: npt.NDArray[np.bool_] = shapely.dwithin(within, shapely.points(spots), _CHORDS)
    return spots[near]


def _across(shape: BaseGeometry, at: Gauge) -> float:
    """How wide (mm) it is where the calipers are put."""
    far = at.direction * 1000
    a, b = at.point - far, at.point + far
    line = LineString([(a.real, a.imag), (b.real, b.imag)]).intersection(shape)
    spot = shapely.Point(at.point.real, at.point.imag)
    return float(next((part.length for part in shapely.get_parts(line) if part.distance(spot) < 1e-6), 0.0))


def _share(opening: _Opening, mating: Mating) -> float:
    """The share that is left of a side that bears; reliefs take as much of one as of the other."""
    along = mating.opening_at.direction * 1j
    middle = mating.opening_at.point + mating.opening_at.direction * mating.opening / 2
    a, b = middle - along * 1000, middle + along * 1000
    strip = LineString([(a.real, a.imag), (b.real, b.imag)]).buffer(2 * _CHORDS)
    meant = opening.square.boundary.intersection(strip).length
    return float(opening.whole.boundary.intersection(strip).length / meant) if meant > 0.1 else 1.0


def _tell_relief(given: Given, mating: Mating, own: Partner, left_of: tuple[float, float], bears: Bears) -> None:
    assert own.relief
    share, eased = left_of
    left = f"leave {100 * share:.0f} % of the sides that bear" if share < ENOUGH else "take the sides that bear"
    more = f"; {shown(eased)} of play come to it" if eased > 0.01 else ""
    kind = own.relief.kind
    text = f"{mating.kind}: {kind} reliefs of {shown(2 * own.relief.radius)} in {own.name} {left}{more}"
    place = given.place("relief").model_copy(
        update={"part": own.id, "x": mating.opening_at.point.real, "y": mating.opening_at.point.imag}
    )
    others: tuple[ReliefKind, ...] = ("T-bone, long side", "T-bone, short side", "dog-bone")
    mends: list[Mend] = [given.set(f"Cut it as {one}", "relief", one) for one in others if one != kind and bears(one)]
    given.reader.warn(EATS, f"{text}. A smaller cutter leaves more", place, *mends)


def _with_roots(given: Given, mating: Mating, opening: _Opening, own: Partner) -> Mating:
    """The pair with what the round corners of its opening take: play of a slot, depth of a notch."""
    radius, clearance = own.kerf / 2, mating.opening - mating.insert
    corners = _inside(opening.square, own)
    if corners >= 4:
        left = play(clearance, radius)
        # Where nothing seats at all, that is told already.
        seats = radius * (math.sqrt(2) - 1) <= SEATS
        if seats and clearance - left > _TELLING * clearance:
            _tell_root(given, mating, own, f"take {shown(clearance - left)} of {shown(clearance)} of its play")
        return replace(mating, root=clearance - left)
    if corners == 2:
        return replace(mating, short=stops_short(clearance, radius))
    return mating


def _tell_root(given: Given, mating: Mating, own: Partner, what: str) -> None:
    text = f"{mating.kind}: corners of {shown(own.kerf / 2)} radius in {own.name} {what}"
    at = mating.opening_at.point
    place = given.place("relief").model_copy(update={"part": own.id, "x": at.real, "y": at.imag})
    given.reader.note("root-takes-play", text, place, given.set("Cut dog-bones", "relief", "dog-bone"))


def _inside(square: Polygon, own: Partner) -> int:
    """How many corners of an opening lie within its part."""
    spots = [complex(*xy) for xy in square.exterior.coords[:-1]]
    return sum(_within(spot, own) for spot in spots)


def _within(spot: Point, own: Partner) -> bool:
    left, bottom, right, top = own.beyond
    across = -left + 1e-6 < spot.real < own.width + right - 1e-6
    return across and -bottom + 1e-6 < spot.imag < own.height + top - 1e-6


def play(clearance: float, radius: float) -> float:
    """What is left of a clearance (mm) all round, between a square insert and an opening with corners of a radius.

    Moved aside by s, the insert's corner lies a - s and a from the middle of the round, with a = r - c/2, and touches
    it at r: s = sqrt(r² - a²) - a to either hand. Negative where it does not go in at all.

    >>> play(clearance=0.1, radius=0.05)
    0.1
    >>> round(play(clearance=0.1, radius=0.08), 4)
    0.0883
    """
    a = radius - clearance / 2
    return clearance if a <= 0 else min(clearance, 2 * (math.sqrt(max(0.0, radius**2 - a * a)) - a))


def stops_short(clearance: float, radius: float) -> float:
    """How far (mm) from the floor of a notch a square insert stops, in the middle between two corners of a radius.

    Its corner touches the round where it is r - c/2 aside of the middle of that: r - sqrt(r² - (r - c/2)²).
    """
    aside = min(radius, max(0.0, radius - clearance / 2))
    return radius - math.sqrt(radius**2 - aside**2)
