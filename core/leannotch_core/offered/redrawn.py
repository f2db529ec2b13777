"""Brought outlines drawn anew, for a joint that cuts from now on what they had or lacked."""

from __future__ import annotations

from collections.abc import Sequence

from ..document.sizes import Size, in_digits
from ..drawings.following import Follow, RingPlace
from ..drawings.mending.arcs import straightened
from ..drawings.taken import ring, vertices
from ..geometry.boolean import union
from ..geometry.loop import Loop, Outline
from ..geometry.segment import dot
from ..parts.cut_out import CutOut
from ..parts.nine import SHARES
from ..parts.part import Part
from ..parts.shapes.brought import Brought, Following
from ..parts.shapes.rectangle import rectangle
from ..parts.sides import side_frame
from ..parts.standing import Standing

#: A place that follows the sheet is the one that it was where it lies this near (mm).
_NEAR = 0.05


def as_drawn(part: Part) -> Outline | None:
    """The outline of a brought part that is as large as it was drawn, in its own frame; None for others."""
    shape = part.shape
    if not isinstance(shape, Brought):
        return None
    drawn = shape.drawn
    for size, was in ((shape.width, drawn.real), (shape.height, drawn.imag)):
        try:
            if abs(float(size.text) - was) > 0.01:
                return None
        except ValueError:
            return None
    return shape.as_drawn(part.id)


def redrawn(part: Part, outline: Outline, shift: complex = 0) -> Part:
    """The part with another outline; ``shift`` is where its lower left corner is now in its old frame."""
    shape = part.shape
    assert isinstance(shape, Brought)
    left, bottom, right, top = outline.bounds
    # Where a strip was added, straight sides come in pieces.
    loops = [Loop(tuple(straightened(list(loop.segments), closed=True))) for loop in outline.loops]
    outline = Outline(loops[0], tuple(loops[1:]))
    rings = [ring(loop, -shape.corner) for loop in loops]
    fresh = shape.model_copy(
        update={
            "rings": rings,
            "width": Size(text=in_digits(right - left)),
            "height": Size(text=in_digits(top - bottom)),
            "follows": _still_following(shape, part.id, outline),
        }
    )
    update = {"shape": fresh, "stands": [_shifted(stand, shift) for stand in part.stands]}
    return part.model_copy(update=update)


def _still_following(shape: Brought, name: str, outline: Outline) -> list[Following]:
    """The places that followed the sheet and are there still."""
    before, kept = shape.as_drawn(name), []
    for drawn in {place.drawn for place in shape.follows}:
        old = {
            RingPlace(one.kind, one.ring, one.first, one.second, one.drawn).at(before): one
            for one in shape.follows
            if one.drawn == drawn
        }
        for place, _ in Follow(drawn).places(outline):
            at = place.at(outline)
            was = next((one for where, one in old.items() if abs(where - at) < _NEAR), None)
            if was is not None:
                index = vertices(outline.loops[place.ring].segments)
                now = {"ring": place.ring, "first": index[place.first], "second": index[place.second]}
                kept.append(was.model_copy(update=now))
    return kept


def _shifted(stand: Standing, shift: complex) -> Standing:
    rows = list(stand.rows)
    for row in (0, 4, 8):
        rows[row + 3] += rows[row] * shift.real + rows[row + 1] * shift.imag
    return Standing(rows=rows, thick=stand.thick)


def filled(part: Part, outline: Outline, strips: Sequence[Outline], without: Sequence[Loop] = ()) -> Part:
    """The part with strips added to its outline and some openings closed."""
    kept = Outline(outline.outer, tuple(loop for loop in outline.cutouts if loop not in without))
    whole = union([kept], strips) if strips else [kept]
    return redrawn(part, max(whole, key=lambda one: one.area))


def lengthened(part: Part, outline: Outline, side: str, by: float) -> Part | None:
    """The part with a straight side moved out by so many mm, and what is on it where it was.

    None where the side is not straight, or where what is on the part is placed by more than numbers.
    """
    left, bottom, right, top = outline.bounds
    frame = side_frame(right - left, top - bottom, side)
    along = [
        segment
        for segment in outline.outer
        if all(abs(dot(end - frame.start, frame.inward)) < _NEAR for end in (segment.start, segment.end))
    ]
    if len(along) != 1 or along[0].length < frame.length - 1.0:
        return None
    ends = [dot(end - frame.start, frame.along) for end in (along[0].start, along[0].end)]
    low, high = min(ends), max(ends)
    corners = [frame.point(low, 0), frame.point(high, 0), frame.point(high, -by), frame.point(low, -by)]
    base = complex(min(c.real for c in corners), min(c.imag for c in corners))
    size = complex(max(c.real for c in corners), max(c.imag for c in corners)) - base
    strip = Outline(rectangle("edge", size.real, size.imag, base=base))
    whole = union([outline], [strip])
    shift = frame.inward * -by if side in ("left", "bottom") else 0
    cutouts = [moved for cut in part.cutouts if (moved := _replaced(cut, side, by))]
    if len(whole) != 1 or len(cutouts) < len(part.cutouts):
        return None
    return redrawn(part, whole[0], shift).model_copy(update={"cutouts": cutouts})


def _replaced(cut: CutOut, side: str, by: float) -> CutOut | None:
    """A cut-out that stays where it is, though a side of its part moved; None where it is not placed by numbers."""
    across, low = side in ("left", "right"), side in ("left", "bottom")
    name, share = ("x", SHARES[cut.origin].real) if across else ("y", SHARES[cut.origin].imag)
    more = by / 2 * (1 if low else -1) if share == 0.5 else by * (share == (0 if low else 1))
    if not more or (cut.x_of if across else cut.y_of):
        return cut
    try:
        return cut.model_copy(update={name: Size(text=in_digits(float(getattr(cut, name).text) + more))})
    except ValueError:
        return None
