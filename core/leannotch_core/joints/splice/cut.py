"""Splices: two boards joined in their plane by keys along one edge and sockets along the other."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from ...geometry.boolean import subtract, union
from ...geometry.loop import Outline, circle, polygon
from ...geometry.offset import grow
from ...geometry.segment import Motion, Source
from ...parts.shapes.rectangle import rectangle
from ...parts.sides import OVERSHOOT, SideFrame
from ...remembered import remembered
from ..fit import REMEMBERED, CannotJoin, Change, Gauge, JointCut, Mating
from ..meeting import Contact, Hold, Meeting, at_height, hand, in_plane, upward
from ..partner import Partner

SpliceShape = Literal["dovetail", "round knob", "straight"]

#: Width of a key's neck as a share of its size.
NECK = {"dovetail": 2 / 3, "round knob": 1 / 2, "straight": 1.0}


@dataclass(frozen=True, slots=True)
class SpliceSpec:
    """A splice in numbers (mm): ``size`` is a key's widest part, ``depth`` its length, ``radius`` its corners'.

    ``split``: both edges give way by half of the gap; else only the sockets do.
    """

    joint: str
    side_a: str
    side_b: str
    shape: SpliceShape
    keys: int
    size: float
    depth: float
    radius: float
    split: bool
    fit: str
    clearance: float


@remembered(REMEMBERED)
def cut_splice(spec: SpliceSpec, a: Partner, b: Partner) -> JointCut:
    """A keeps keys whose tips lie on its drawn edge; B gets their sockets. Raises `CannotJoin`.

    Both edges follow one curve with a gap of half the clearance all along it, so the spliced board is as long
    as both together less ``depth``.
    """
    frame_a, frame_b = a.frame(spec.side_a), b.frame(spec.side_b)
    shared = min(frame_a.length, frame_b.length)
    _check(spec, shared, frame_a, frame_b, a, b)
    pitch = shared / spec.keys
    middles = [pitch * (i + 0.5) for i in range(spec.keys)]
    key = _key(spec)
    give = spec.clearance / 4 if spec.split else 0.0
    keys = _grown(key, -give)
    sockets = _grown(key, spec.clearance / 4 if spec.split else spec.clearance / 2)
    onto_a, onto_b = _place(frame_a, spec.depth, away=True), _place(frame_b, 0.0, away=False)
    kept = [_moved(keys, middle, onto_a) for middle in middles]
    band = frame_a.notch(0, frame_a.length, spec.depth, spec.joint, "shoulder")
    notches = [(a.id, piece) for piece in subtract([band], kept)]
    notches += [(b.id, _moved(sockets, middle, onto_b)) for middle in middles]
    mating = _mating(spec, middles[len(middles) // 2], frame_a, frame_b, a, b)
    return JointCut(tuple(notches), (mating,), (_meeting(spec, shared, a, b),))


def _meeting(spec: SpliceSpec, shared: float, a: Partner, b: Partner) -> Meeting:
    """B's edge lies on the line of A's shoulders, both drawn faces on one side; keys are the same either way round."""
    frame_a, frame_b = a.frame(spec.side_a), b.frame(spec.side_b)
    runs_back = hand(frame_a) == hand(frame_b)
    axes_a = in_plane(frame_a.along), in_plane(-frame_a.inward), upward(1)
    axes_b = in_plane(-frame_b.along if runs_back else frame_b.along), in_plane(frame_b.inward), upward(1)
    begin_b = frame_b.point(shared if runs_back else 0.0, 0.0)
    return Meeting(
        spec.joint,
        Contact(a.id, Hold("edge", spec.side_a), at_height(frame_a.point(0, spec.depth), 0.0), axes_a, (0.0, shared)),
        Contact(b.id, Hold("edge", spec.side_b), at_height(begin_b, 0.0), axes_b, (0.0, shared)),
    )


def _key(spec: SpliceSpec) -> Outline:
    """A key about s = 0, its base at h = 0 and drawn out below it so that it stays on its board."""
    neck, half = spec.size * NECK[spec.shape] / 2, spec.size / 2
    name = f"{spec.joint}/key"
    if spec.shape == "round knob":
        stem = rectangle(name, 2 * neck, spec.depth - half + OVERSHOOT, base=complex(-neck, -OVERSHOOT))
        knob = circle(1j * (spec.depth - half), half, Source(name, "knob"))
        return union([Outline(stem)], [Outline(knob)])[0]
    # The flanks run on straight below the base, so that the shoulder meets them in one corner.
    base = neck - (half - neck) / spec.depth * OVERSHOOT
    points = [
        complex(-base, -OVERSHOOT),
        complex(base, -OVERSHOOT),
        complex(half, spec.depth),
        complex(-half, spec.depth),
    ]
    sides = ("base", "flank", "tip", "flank")
    return _rounded(Outline(polygon(points, [Source(name, side) for side in sides])), spec.radius)


def _rounded(key: Outline, radius: float) -> Outline:
    """Outer corners rounded: shrunk with sharp corners, and grown again by a round cutter."""
    return grow(grow([key], -radius), radius, "round")[0] if radius > 0 else key


def _grown(key: Outline, distance: float) -> Outline:
    return grow([key], distance)[0]


def _place(frame: SideFrame, base: float, away: bool) -> Motion:
    """Takes (s, h) of a key to a part: s along its side, h outward from ``base`` inside it, or inward from there."""
    up = -frame.inward if away else frame.inward
    return Motion(frame.along, frame.point(0, base), mirrored=abs(up - frame.along * 1j) > 1e-9)


def _moved(key: Outline, middle: float, onto: Motion) -> Outline:
    return key.moved(Motion(shift=middle)).moved(onto)


def _mating(spec: SpliceSpec, middle: float, frame_a: SideFrame, frame_b: SideFrame, a: Partner, b: Partner) -> Mating:
    """Measured across a key: through a knob's middle, else at half its depth, where a flank leans by its angle."""
    knob = spec.shape == "round knob"
    neck = spec.size * NECK[spec.shape]
    width, height = (spec.size, spec.depth - spec.size / 2) if knob else ((spec.size + neck) / 2, spec.depth / 2)
    lean = 1.0 if knob else math.hypot((spec.size - neck) / 2, spec.depth) / spec.depth
    insert = width - (spec.clearance / 2 * lean if spec.split else 0)
    opening = insert + spec.clearance * lean
    return Mating(
        joint=spec.joint,
        kind=f"splice, {spec.shape}",
        fit=spec.fit,
        opening_part=b.id,
        insert_part=a.id,
        opening=opening,
        insert=insert,
        tightest=opening - insert,
        opening_at=Gauge(b.id, frame_b.point(middle, height), frame_b.along),
        insert_at=Gauge(a.id, frame_a.point(middle, spec.depth - height), frame_a.along),
        flat=True,
    )


def _check(spec: SpliceSpec, shared: float, frame_a: SideFrame, frame_b: SideFrame, a: Partner, b: Partner) -> None:
    if a.id == b.id and spec.side_a == spec.side_b:
        raise CannotJoin(f"A splice needs two edges; both are the {spec.side_a} edge of {a.name}")
    kerf = max(a.kerf, b.kerf)
    neck = spec.size * NECK[spec.shape]
    if spec.size + spec.clearance + kerf >= shared / spec.keys:
        fits = shared / spec.keys * 0.6
        text = f"{spec.keys} keys of {spec.size:.2f} mm do not fit on {shared:.2f} mm"
        fewer = Change("keys", "1", "Use one key")
        raise CannotJoin(text, "size", f"{fits:.2f}", f"Make them {fits:.2f} mm", fewer)
    if neck - spec.clearance <= kerf:
        raise CannotJoin(
            f"Keys of {spec.size:.2f} mm have a neck of {neck:.2f} mm, not wider than the kerf of {kerf:.2f} mm"
        )
    if spec.depth >= min(frame_a.depth, frame_b.depth):
        raise CannotJoin(f"Keys of {spec.depth:.2f} mm are longer than a board is deep behind its edge")
    if spec.shape == "round knob" and spec.depth < spec.size * 0.75:
        deep = spec.size * 1.1
        text = f"A knob of {spec.size:.2f} mm on {spec.depth:.2f} mm has no neck that could hold"
        raise CannotJoin(text, "depth", f"{deep:.2f}", f"Make it {deep:.2f} mm deep")
    if spec.radius < 0 or spec.radius >= min(neck, spec.depth) / 2:
        most = min(neck, spec.depth) / 2
        text = f"Corners of {spec.radius:.2f} mm are too large for these keys; less than {most:.2f} mm fits"
        raise CannotJoin(text, "radius", "0", "Leave them sharp")
