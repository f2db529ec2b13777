"""Whole parts mirrored or drawn anew through points: new intent from old."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from ..document.bend import Bend, BendLine
from ..document.sizes import Angle, Size, length
from ..document.sums import SizeError
from ..document.turned_over import negative, other_hand
from ..geometry.biarc import bezier_bounds, smooth_through
from .cut_out import LINED, CutOut
from .nine import SHARES
from .part import Part
from .shapes.curve import Curve, Knot, KnotAt
from .shapes.text import TextHole


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

    Marked texts stay readable; letters that are cut out are turned over.
    """
    update = {
        "shape": part.shape.mirrored(),
        "face": "inside" if part.face == "outside" else "outside",
        "cutouts": [_mirrored_cut(cut) for cut in part.cutouts],
        "bends": [_mirrored_bend(bend) for bend in part.bends],
    }
    return part.model_copy(update=update)


def _mirrored_cut(cut: CutOut) -> CutOut:
    from_middle = SHARES[cut.origin].real == 0.5
    marked = isinstance(cut.hole, TextHole) and cut.does in LINED
    update: dict[str, Any] = {
        "origin": other_hand(cut.origin),
        "point": other_hand(cut.point),
        "x": negative(cut.x) if from_middle else cut.x,
        "turn": negative(cut.turn),
        "mirrored": cut.mirrored if marked else not cut.mirrored,
        "repeat": cut.repeat.mirrored(from_middle),
    }
    return cut.model_copy(update=update)


def _mirrored_bend(bend: Bend) -> Bend:
    """A bend as the other face shows it: towards that one it is bent the other way."""
    way = "down" if bend.way == "up" else "up"
    if isinstance(bend, BendLine):
        turn = Angle.model_validate(negative(bend.turn).model_dump())
        return bend.model_copy(update={"way": way, "runs": other_hand(bend.runs), "turn": turn})
    update: dict[str, Any] = {"way": way, "side": other_hand(bend.side)}
    if bend.side in ("top", "bottom"):
        update |= {"start": bend.end, "end": bend.start}
    return bend.model_copy(update=update)
