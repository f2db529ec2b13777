"""Whole parts mirrored or scaled: new intent from old, with the joints on the edges that they were on."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, TypeVar

from .document import (
    Brought,
    CaptiveNut,
    CrossLap,
    Curve,
    CutOut,
    EdgeOf,
    FaceLine,
    FingerJoint,
    Housing,
    Joint,
    Knot,
    KnotAt,
    Mark,
    Model,
    Part,
    Rectangle,
    TabAndSlot,
    Vertex,
)
from .geometry.biarc import bezier_bounds, smooth_through
from .sizes import Size, SizeError, length

M = TypeVar("M", bound=Model)

_OTHER_HAND = {"left": "right", "right": "left"}


def through_knots(part: Part, knots: Sequence[KnotAt]) -> Part:
    """The part as the curve through ``knots``, which are in mm from its lower left corner; its size follows them.

    Sizes that stay as they were keep what was typed. Raises `ValueError` where all knots lie on one line.
    """
    pieces = smooth_through([(complex(knot.x, knot.y), knot.corner) for knot in knots])
    left, bottom, right, top = bezier_bounds(pieces)
    width, height = right - left, top - bottom
    if min(width, height) < 0.01:
        raise ValueError("all its points lie on one line")
    shares = [
        Knot(x=round((knot.x - left) / width, 6), y=round((knot.y - bottom) / height, 6), corner=knot.corner)
        for knot in knots
    ]
    shape = Curve(
        width=_unless_same(part.shape.width, width), height=_unless_same(part.shape.height, height), knots=shares
    )
    return part.model_copy(update={"shape": shape})


def _unless_same(size: Size, value: float) -> Size:
    try:
        same = abs(length(size, {}) - value) < 0.005
    except SizeError:
        same = False
    return size if same else Size(text=f"{value:.2f}")


def mirrored(part: Part) -> Part:
    """The part turned over, left to right: the drawing shows its other face.

    Scored texts stay readable; letters that are cut out are turned over.
    """
    shape: Any = part.shape
    if isinstance(shape, Rectangle):
        corners = [cut.model_copy(update={"corner": _swapped(cut.corner)}) for cut in shape.corners]
        shape = shape.model_copy(update={"corners": corners})
    elif isinstance(shape, Curve):
        knots = [knot.model_copy(update={"x": 1 - knot.x}) for knot in reversed(shape.knots)]
        shape = shape.model_copy(update={"knots": knots})
    elif isinstance(shape, Brought):
        shape = shape.model_copy(update={"rings": [_mirrored_ring(ring) for ring in shape.rings]})
    update = {
        "shape": shape,
        "face": "inside" if part.face == "outside" else "outside",
        "cutouts": [_mirrored_cut(cut) for cut in part.cutouts],
        "marks": [_mirrored_mark(mark) for mark in part.marks],
    }
    return part.model_copy(update=update)


def _mirrored_ring(ring: Sequence[Vertex]) -> list[Vertex]:
    """Run through backwards, which turns a bulge round twice: by its direction and by the mirror."""
    bulges = [vertex.bulge for vertex in ring]
    return [Vertex(x=-ring[i].x, y=ring[i].y, bulge=bulges[i - 1]) for i in range(len(ring) - 1, -1, -1)]


def _swapped(corner: str) -> str:
    """A corner or side as it is called once left and right are exchanged."""
    return " ".join(_OTHER_HAND.get(word, word) for word in corner.split(" "))


def _mirrored_cut(cut: CutOut) -> CutOut:
    update: dict[str, Any] = {
        "origin": _swapped(cut.origin),
        "turn": _negative(cut.turn),
        "mirrored": not cut.mirrored,
    }
    if cut.origin == "middle":
        update["x"] = _negative(cut.x)
        update["repeat"] = cut.repeat.model_copy(update={"step_x": _negative(cut.repeat.step_x)})
    return cut.model_copy(update=update)


def _mirrored_mark(mark: Mark) -> Mark:
    return mark.model_copy(update={"x": _from_right(mark.x), "turn": _negative(mark.turn)})


def _half_turn(turn: Size) -> Size:
    text = turn.text.strip()
    if text in ("", "0", "180"):
        return Size(text="0" if text == "180" else "180")
    return _taken_from("180", turn)


def mirrored_joint(joint: Joint, part: str, lengths: Mapping[str, complex]) -> Joint:
    """The joint after ``part`` was turned over; ``lengths`` are widths and heights (mm) by part, as complex numbers."""
    ends: dict[str, Any] = _other_way_round(joint, part, lengths) if isinstance(joint, FingerJoint) else {}
    for which in ("a", "b"):
        end = getattr(joint, which)
        if end.part != part:
            continue
        if isinstance(end, FaceLine):
            line = {"x": _from_right(end.x), "turn": _half_turn(end.turn), "step": _negative(end.step)}
            ends[which] = end.model_copy(update={**line, "at_x": [_from_right(x) for x in end.at_x]})
            continue
        update: dict[str, Any] = {"side": _swapped(end.side)}
        if isinstance(joint, CrossLap) and end.side in ("bottom", "top"):
            also = [_from_right(at) for at in end.also_at]
            update |= {"at": _from_right(end.at), "step": _negative(end.step), "also_at": also}
        ends[which] = end.model_copy(update=update)
    return joint.model_copy(update=ends)


def _other_way_round(joint: FingerJoint, part: str, lengths: Mapping[str, complex]) -> dict[str, Any]:
    """Insets and the beginning of the shorter edge, where the edge that they are measured along is turned round."""
    update: dict[str, Any] = {}
    turned = [end.part == part and end.side in ("bottom", "top") for end in (joint.a, joint.b)]
    if turned[0]:
        update |= {"inset_start": joint.inset_end, "inset_end": joint.inset_start}
    long_a, long_b = (_edge_length(end, lengths) for end in (joint.a, joint.b))
    if abs(long_a - long_b) > 1e-6 and turned[0 if long_a > long_b else 1]:
        text = joint.shift.text.strip()
        spare = f"{abs(long_a - long_b):.6g} mm"
        turned_round = _taken_from(spare, joint.shift)
        update["shift"] = Size(text=spare) if text == "0" else Size(text="0") if text == spare else turned_round
    return update


def _edge_length(end: EdgeOf, lengths: Mapping[str, complex]) -> float:
    size = lengths.get(end.part, 0j)
    return size.real if end.side in ("bottom", "top") else size.imag


def _negative(size: Size) -> Size:
    text = size.text.strip()
    if text in ("", "0"):
        return size
    if text[1:].replace(".", "", 1).isdigit() and text[0] == "-":
        return Size(text=text[1:], unit=size.unit)
    bare = text.replace(".", "", 1).isdigit()
    return Size(text=f"-{text}", unit=size.unit) if bare else _taken_from("", size)


def _from_right(size: Size) -> Size:
    return _taken_from("width", size)


def _taken_from(whole: str, size: Size) -> Size:
    """``whole - (size)``. Of a size that is already so, what was taken: mirrored twice, it is as it was typed."""
    text = size.text.strip()
    begins = f"{whole} - (" if whole else "-("
    if text.startswith(begins) and _closes_at_end(text[len(begins) - 1 :]):
        return Size(text=text[len(begins) : -1], unit=size.unit)
    return Size(text=f"{begins}{text})", unit=size.unit)


def _closes_at_end(text: str) -> bool:
    """Whether the bracket that a text begins with is closed by its last character."""
    depth = 0
    for place, character in enumerate(text):
        depth += (character == "(") - (character == ")")
        if depth == 0:
            return place == len(text) - 1
    return False


def scaled(part: Part, factor: float) -> Part:
    """Every size of the part that is a number multiplied by ``factor``; turns and counts stay."""
    return _scaled(part, factor, skip=("turn",))


def scaled_joint(joint: Joint, part: str, factor: float) -> Joint:
    """The joint with its places on ``part`` moved as the part was scaled; its own sizes stay."""
    if not isinstance(joint, CrossLap | TabAndSlot | CaptiveNut | Housing):
        return joint
    ends = {w: _scaled(getattr(joint, w), factor, skip=("turn",)) for w in ("a", "b") if getattr(joint, w).part == part}
    return joint.model_copy(update=ends)


def _scaled(model: M, factor: float, skip: tuple[str, ...]) -> M:
    update: dict[str, Any] = {}
    for name in type(model).model_fields:
        value = getattr(model, name)
        if name in skip:
            continue
        if isinstance(value, Size):
            update[name] = _times(value, factor)
        elif isinstance(value, Model):
            update[name] = _scaled(value, factor, skip)
        elif isinstance(value, list) and value and isinstance(value[0], Size):
            update[name] = [_times(size, factor) for size in value]
        elif isinstance(value, list) and value and isinstance(value[0], Model):
            update[name] = [_scaled(item, factor, skip) for item in value]
    return model.model_copy(update=update)


def _times(size: Size, factor: float) -> Size:
    try:
        return Size(text=f"{length(size, {}) * factor:.6g}")
    except SizeError:
        return size
