"""Captive nuts: screws through a part's face into nuts that sit in T-slots along another part's edge."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from ...geometry.loop import Outline
from ...geometry.segment import Motion, Point
from ...parts.shapes.rectangle import rectangle
from ...parts.shapes.round_hole import round_hole
from ...parts.standards.threads import SCREWS, Screw, Thread, longer
from ...remembered import remembered
from ..fit import REMEMBERED, CannotJoin, Change, Gauge, JointCut, Mating, check_on_face
from ..meeting import OnFace, edge_on_face
from ..partner import Partner
from ..relief import notch_reliefs, slot_reliefs

#: The share of a nut's bearing on either side of its screw that must stay, counted from the screw.
BEARS = 0.3


@dataclass(frozen=True, slots=True)
class NutSpec:
    """A captive-nut joint in numbers (mm); ``along`` is the unit direction of the lines on the face.

    ``stand_off`` is how far inside the drawn edge the near face of the screwed-on part lies.
    """

    joint: str
    side: str
    starts: tuple[Point, ...]
    along: complex
    thread: Thread
    length: float
    screws: int
    inset: float
    stand_off: float
    fit: str
    clearance: float


@dataclass(frozen=True, slots=True)
class NutPlace:
    """Inward from the drawn edge (mm): the nut's slot from ``near`` to ``far``, the screw's slot to ``end``."""

    near: float
    far: float
    end: float


def screw_places(length: float, screws: int, inset: float) -> list[float]:
    """Middles of the screws along an edge: the outer two ``inset`` from its ends, one alone in the middle."""
    if screws == 1:
        return [length / 2]
    step = (length - 2 * inset) / (screws - 1)
    return [inset + i * step for i in range(screws)]


def nut_place(screw: Screw, length: float, through: float, stand_off: float, clearance: float) -> NutPlace:
    """The nut as far in as the screw still reaches through it by one pitch; its slot is the nut's height and ``c``.

    ``through`` is the thickness under the screw's head.
    """
    tip = stand_off + length - through
    far = tip - screw.pitch + clearance / 2
    return NutPlace(far - screw.nut - clearance, far, tip + screw.pitch)


@remembered(REMEMBERED)
def cut_captive_nuts(spec: NutSpec, edged: Partner, faced: Partner) -> JointCut:
    """T-slots in the edge, clearance holes in the face, and what mates with the bought parts. Raises `CannotJoin`."""
    if edged.id == faced.id:
        raise CannotJoin(f"{edged.name} cannot be screwed to itself; pick two parts")
    screw, frame = SCREWS[spec.thread], edged.frame(spec.side)
    places = screw_places(frame.length, spec.screws, spec.inset)
    place = nut_place(screw, spec.length, faced.thickness, spec.stand_off, spec.clearance)
    _check(spec, places, place, edged, faced)
    notches = [(edged.id, outline) for at in places for outline in _t_slot(spec, at, place, edged)]
    holes = [
        Outline(round_hole(f"{spec.joint}/hole", screw.hole).moved(Motion(shift=start + spec.along * at)))
        for start in spec.starts
        for at in places
    ]
    check_on_face(holes, faced, "A screw hole")
    matings = _matings(spec, places[len(places) // 2], place, edged, faced)
    meetings = (
        edge_on_face(spec.joint, edged, spec.side, faced, OnFace(start, spec.along, spec.stand_off, -faced.outward))
        for start in spec.starts
    )
    return JointCut((*notches, *((faced.id, hole) for hole in holes)), matings, tuple(meetings))


def _t_slot(spec: NutSpec, at: float, place: NutPlace, edged: Partner) -> list[Outline]:
    """A slot for the screw and one across it for the nut, whose corners get the reliefs."""
    screw, frame = SCREWS[spec.thread], edged.frame(spec.side)
    stem = at - screw.hole / 2, at + screw.hole / 2
    wide, high = screw.flats + spec.clearance, place.far - place.near
    middle = frame.point(at, (place.near + place.far) / 2)
    nut = rectangle(f"{spec.joint}/nut", wide, high, base=complex(-wide / 2, -high / 2))
    return [
        frame.notch(*stem, place.end, spec.joint, "screw slot"),
        Outline(nut.moved(Motion(frame.along, middle))),
        *slot_reliefs(edged.relief, middle, frame.along, wide, high, f"{spec.joint}/nut"),
        *notch_reliefs(edged.relief, frame, *stem, place.end, spec.joint),
    ]


def _matings(spec: NutSpec, at: float, place: NutPlace, edged: Partner, faced: Partner) -> tuple[Mating, ...]:
    """The nut across its flats and over its height, and the screw in its hole; bought parts at their largest."""
    screw, frame = SCREWS[spec.thread], edged.frame(spec.side)
    c, middle = spec.clearance, (place.near + place.far) / 2
    # Close beside the screw's slot, where no relief in the corners of the nut's slot reaches.
    wing = screw.hole / 2 + (screw.flats + c - screw.hole) / 2 * BEARS / 2
    hole = Gauge(faced.id, spec.starts[0] + spec.along * at, spec.along)
    across = Gauge(edged.id, frame.point(at, middle), frame.along)
    high = Gauge(edged.id, frame.point(at + wing, middle), frame.inward)
    rows = (
        ("nut, across flats", edged, screw.flats + c, screw.flats, across, f"{spec.thread} nut"),
        ("nut, its height", edged, screw.nut + c, screw.nut, high, f"{spec.thread} nut"),
        ("screw in its hole", faced, screw.hole, screw.diameter, hole, f"{spec.thread} screw"),
    )
    return tuple(
        Mating(
            joint=spec.joint,
            kind=kind,
            fit=spec.fit,
            opening_part=on.id,
            insert_part=(faced if on is edged else edged).id,
            opening=opening,
            insert=insert,
            tightest=opening - insert,
            opening_at=gauge,
            insert_at=None,
            hardware=bought,
        )
        for kind, on, opening, insert, gauge, bought in rows
    )


def _check(spec: NutSpec, places: Sequence[float], place: NutPlace, edged: Partner, faced: Partner) -> None:
    screw, frame = SCREWS[spec.thread], edged.frame(spec.side)
    name = f"{spec.thread} x {spec.length:g}"
    wall = max(screw.pitch * 2, edged.thickness / 2)
    if place.near - spec.stand_off < wall:
        least = spec.length + wall - (place.near - spec.stand_off)
        fits = longer(spec.thread, least)
        text = f"{name} is too short: its nut would lie {place.near - spec.stand_off:.2f} mm behind {faced.name}"
        if fits:
            raise CannotJoin(text, "screw", f"{fits}", f"Use {spec.thread} x {fits}")
        raise CannotJoin(f"{text}; use a larger thread or thinner stock")
    if place.end >= frame.depth:
        raise CannotJoin(
            f"{name} needs {place.end:.2f} mm behind the edge of {edged.name}, which is {frame.depth:.2f} mm deep; "
            "use a shorter screw"
        )
    half = (screw.flats + spec.clearance) / 2
    apart = min((later - earlier for earlier, later in pairwise(places)), default=frame.length)
    if (
        places[0] - half <= edged.kerf
        or places[-1] + half >= frame.length - edged.kerf
        or apart <= 2 * half + edged.kerf
    ):
        raise CannotJoin(
            f"{spec.screws} nuts of {screw.flats:g} mm with insets of {spec.inset:.2f} mm do not fit on the "
            f"{frame.length:.2f} mm of {edged.name}",
            "inset",
            f"{frame.length / (2 * spec.screws):.2f}",
            "Spread them evenly",
            Change("screws", "1", "Use one screw"),
        )
    if min(screw.nut + spec.clearance, screw.hole) <= edged.kerf:
        raise CannotJoin(f"The slot for an {spec.thread} nut is narrower than the kerf of {edged.kerf:.2f} mm")
