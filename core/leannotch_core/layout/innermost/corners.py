"""A first free place for a thing: from the left and from below, in the corners that others leave."""

from __future__ import annotations

import numpy as np

from ...compiled import compiled, light
from .contact import APART, Counts, Lying, Numbers, Shapes, boxes_meet, lay, meet, outside, shift

#: Sines of the turn at a point, from which on it makes a nook.
_NOOK = 0.3


@light
def barred(shapes: Shapes, bed: Lying, thing: int, before: int = -1) -> int:
    """Something that a thing shares material with, or -1; what barred it ``before`` is asked first."""
    if before >= 0 and meet(shapes, bed, thing, before):
        return before
    box, sheet = bed.box, bed.sheet
    for other in range(len(sheet)):
        near = sheet[other] == sheet[thing] and other != thing and boxes_meet(box, thing, other)
        if near and meet(shapes, bed, thing, other):
            return other
    return -1


@compiled
def _once(places: Numbers, least: float) -> Numbers:
    """Sorted, and of those that differ by less than the ``least`` only the last."""
    places = np.sort(places)
    kept = np.ones(len(places), dtype=np.bool_)
    for n in range(len(places) - 1):
        kept[n] = places[n + 1] - places[n] > least
    return places[kept]


@compiled
def nooks(
    shapes: Shapes, bed: Lying, sheet: int, width: float, height: float, steps: int, movable: int, least: float
) -> tuple[Numbers, Numbers]:
    """Where the left and the lower side of a box of that size could lie: sorted, ``least`` apart, ``steps`` between."""
    count = 1 + steps
    for other in range(len(bed.shape)):
        if bed.sheet[other] == sheet:
            count += 3 + bed.first[other + 1] - bed.first[other]
    across, up = np.empty(count), np.empty(count)
    # Shapes are smaller by half of what they are to be apart, on the side of the frame too.
    across[0], up[0] = bed.frame[sheet, 0] + 0.5 * APART, bed.frame[sheet, 1] + 0.5 * APART
    far_x, far_y = bed.frame[sheet, 2] - width + APART, bed.frame[sheet, 3] - height + APART
    for n in range(1, 1 + steps):
        across[n] = across[0] + (far_x - across[0]) * n / steps
        up[n] = up[0] + (far_y - up[0]) * n / steps
    n = 1 + steps
    for other in range(len(bed.shape)):
        if bed.sheet[other] != sheet:
            continue
        left, bottom, right, top = bed.box[other]
        across[n], up[n] = right + APART, top + APART
        across[n + 1], up[n + 1] = left, bottom
        # To the left of what bars a part of the sheet, not of what was laid from the left.
        across[n + 2], up[n + 2] = (left - width - APART if other >= movable else left), top - height
        n += 3
        start, first = bed.first[other], shapes.first[bed.shape[other]]
        for k in range(first, shapes.first[bed.shape[other] + 1]):
            p, q = start + k - first, start + shapes.following[k] - first
            r = start + shapes.following[shapes.following[k]] - first
            ex, ey = bed.points[q, 0] - bed.points[p, 0], bed.points[q, 1] - bed.points[p, 1]
            fx, fy = bed.points[r, 0] - bed.points[q, 0], bed.points[r, 1] - bed.points[q, 1]
            if ex * fy - ey * fx < -_NOOK * np.sqrt((ex * ex + ey * ey) * (fx * fx + fy * fy)):
                across[n], up[n] = bed.points[q, 0] + APART, bed.points[q, 1] + APART
                n += 1
    across, up = across[:n], up[:n]
    across = across[(across >= bed.frame[sheet, 0]) & (across <= far_x)]
    up = up[(up >= bed.frame[sheet, 1]) & (up <= far_y)]
    return _once(across, least), _once(up, least)


@light
def slid(shapes: Shapes, bed: Lying, thing: int, dx: float, dy: float) -> None:
    """Slides a thing one way until it touches, to a hundredth of its size and then finer."""
    step = 0.5 * shapes.size[bed.shape[thing]]
    while step > 1e-3:
        shift(shapes, bed, thing, dx * step, dy * step)
        if outside(shapes, bed, thing) > 0.0 or barred(shapes, bed, thing) >= 0:
            shift(shapes, bed, thing, -dx * step, -dy * step)
            step *= 0.5


@compiled
def first_free(
    shapes: Shapes,
    bed: Lying,
    square: Counts,
    thing: int,
    sheet: int,
    turn: float,
    least: float,
    most: float,
    steps: int,
    movable: int,
) -> bool:
    """Lays a thing in the first free corner whose right end is at most ``most`` and left end at least ``least``.

    ``square`` tells which things fill their boxes: above them the search goes on at their top. Corners are looked at,
    and so many ``steps`` across and up. The first ``movable`` things were laid from the left.
    """
    lay(shapes, bed, thing, 0.0, 0.0, turn)
    bed.sheet[thing] = sheet
    left, bottom = bed.box[thing, 0], bed.box[thing, 1]
    width, height = bed.box[thing, 2] - left, bed.box[thing, 3] - bottom
    bed.sheet[thing] = -1
    # What does not fill its box slides on from where it is put, and is not put everywhere.
    fine = 0.5 * APART if square[thing] else 0.02 * min(width, height)
    across, up = nooks(shapes, bed, sheet, width, height, steps, movable, fine)
    bed.sheet[thing] = sheet
    other = -1
    for x in across:
        if x < least:
            continue
        if x + width > most:
            break
        n = 0
        while n < len(up):
            lay(shapes, bed, thing, x - left, up[n] - bottom, turn)
            other = barred(shapes, bed, thing, other)
            if other < 0:
                return True
            clear = bed.box[other, 3] if square[other] else up[n]
            n += 1
            while n < len(up) and up[n] < clear:
                n += 1
    bed.sheet[thing] = -1
    return False


@light
def settled(shapes: Shapes, bed: Lying, thing: int) -> None:
    """Slides a thing to the left and down as far as it goes."""
    for _ in range(2):
        slid(shapes, bed, thing, -1.0, 0.0)
        slid(shapes, bed, thing, 0.0, -1.0)
