"""Whether things on a sheet are in each other's way, and how much: compiled, to be asked a million times.

A thing is a copy of a part, or an obstacle. Shapes are closed rings of straight edges, holes included, already grown
by half the gap; things that only touch are not in each other's way.
"""

from __future__ import annotations

from math import cos, pi, sin, sqrt
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from ...compiled import inlined, light

Numbers = npt.NDArray[np.float64]
Counts = npt.NDArray[np.int64]


#: What lies side by side is this far (mm) apart: shapes are that much smaller than they are.
APART = 4e-7


class Shapes(NamedTuple):
    """All shapes in one: those of shape ``i`` are ``points[first[i]:first[i + 1]]``, in mm about its own middle.

    ``following`` is the point that comes next on the ring. ``poles`` are circles in the material, three rows: x, y and
    radius, ``size`` is the square root of the area.
    """

    points: Numbers
    following: Counts
    first: Counts
    poles: Numbers
    first_pole: Counts
    size: Numbers


class Lying(NamedTuple):
    """What lies where. A thing has a row of each; ``sheet`` is -1 while it lies nowhere.

    ``pose`` is x, y in mm and a turn in degrees. ``frame`` has a row for each sheet: left, bottom, right and top of the
    room on it. The rest follows from these: where the points and poles of a thing are from ``first[thing]`` and
    ``first_pole[thing]`` on, and its box.
    """

    shape: Counts
    sheet: Counts
    pose: Numbers
    frame: Numbers
    first: Counts
    first_pole: Counts
    points: Numbers
    poles: Numbers
    box: Numbers
    near: Counts


@inlined
def turn_of(degrees: float) -> tuple[float, float]:
    """Cosine and sine, exact for quarter turns."""
    quarters = round(degrees / 90.0)
    rest = degrees - 90.0 * quarters
    c, s = (1.0, 0.0) if rest == 0.0 else (cos(rest * pi / 180.0), sin(rest * pi / 180.0))
    way = quarters % 4
    if way == 1:
        return -s, c
    if way == 2:
        return -c, -s
    if way == 3:
        return s, -c
    return c, s


@light
def lay(shapes: Shapes, bed: Lying, thing: int, x: float, y: float, turn: float) -> None:
    """Puts a thing down: turned about its own middle, then moved there."""
    c, s = turn_of(turn)
    shape, start = bed.shape[thing], bed.first[thing]
    own, points, box, pose = shapes.points, bed.points, bed.box, bed.pose
    left = bottom = np.inf
    right = top = -np.inf
    for k in range(shapes.first[shape], shapes.first[shape + 1]):
        px, py = own[k, 0], own[k, 1]
        qx, qy = c * px - s * py + x, s * px + c * py + y
        points[start, 0], points[start, 1] = qx, qy
        start += 1
        left, right = min(left, qx), max(right, qx)
        bottom, top = min(bottom, qy), max(top, qy)
    box[thing, 0], box[thing, 1], box[thing, 2], box[thing, 3] = left, bottom, right, top
    start, circles, poles = bed.first_pole[thing], shapes.poles, bed.poles
    for k in range(shapes.first_pole[shape], shapes.first_pole[shape + 1]):
        px, py = circles[0, k], circles[1, k]
        poles[0, start], poles[1, start] = c * px - s * py + x, s * px + c * py + y
        start += 1
    pose[thing, 0], pose[thing, 1], pose[thing, 2] = x, y, turn


@light
def shift(shapes: Shapes, bed: Lying, thing: int, dx: float, dy: float) -> None:
    """Moves a thing that lies."""
    shape, points, poles, box, pose = bed.shape[thing], bed.points, bed.poles, bed.box, bed.pose
    start = bed.first[thing]
    for k in range(start, start + shapes.first[shape + 1] - shapes.first[shape]):
        points[k, 0] += dx
        points[k, 1] += dy
    start = bed.first_pole[thing]
    for k in range(start, start + shapes.first_pole[shape + 1] - shapes.first_pole[shape]):
        poles[0, k] += dx
        poles[1, k] += dy
    box[thing, 0], box[thing, 1] = box[thing, 0] + dx, box[thing, 1] + dy
    box[thing, 2], box[thing, 3] = box[thing, 2] + dx, box[thing, 3] + dy
    pose[thing, 0], pose[thing, 1] = pose[thing, 0] + dx, pose[thing, 1] + dy


@inlined
def boxes_meet(box: Numbers, a: int, b: int) -> bool:
    """Whether the boxes about two things share more than an edge."""
    across = box[a, 0] < box[b, 2] and box[b, 0] < box[a, 2]
    return bool(across and box[a, 1] < box[b, 3] and box[b, 1] < box[a, 3])


@light
def meet(shapes: Shapes, bed: Lying, a: int, b: int) -> bool:
    """Whether two things share material."""
    sheet, box = bed.sheet, bed.box
    return sheet[a] == sheet[b] and boxes_meet(box, a, b) and _share(shapes, bed, a, b)


@light
def _share(shapes: Shapes, bed: Lying, a: int, b: int) -> bool:
    """Whether two things whose boxes meet share material: poles, edges that cross, or a ring in the other."""
    shape, poles, first_pole = bed.shape, bed.poles, bed.first_pole
    points, box, near = bed.points, bed.box, bed.near
    following, first, radii, first_radius = shapes.following, shapes.first, shapes.poles, shapes.first_pole
    p, q = first_pole[a], first_pole[b]
    ax, ay, bx, by = poles[0, p], poles[1, p], poles[0, q], poles[1, q]
    reach = radii[2, first_radius[shape[a]]] + radii[2, first_radius[shape[b]]] - APART
    if reach > 0.0 and (ax - bx) ** 2 + (ay - by) ** 2 < reach * reach:
        return True
    first_a, end_a, start_a = first[shape[a]], first[shape[a] + 1], bed.first[a]
    first_b, end_b, start_b = first[shape[b]], first[shape[b] + 1], bed.first[b]
    return (
        _edges_cross(points, following, box, near, a, start_a, first_a, end_a, b, start_b, first_b, end_b)
        or _ring_inside(points, following, start_a, first_a, end_a, start_b, first_b, end_b)
        or _ring_inside(points, following, start_b, first_b, end_b, start_a, first_a, end_a)
    )


@light
def _edges_cross(
    points: Numbers,
    following: Counts,
    box: Numbers,
    near: Counts,
    a: int,
    start_a: int,
    first_a: int,
    end_a: int,
    b: int,
    start_b: int,
    first_b: int,
    end_b: int,
) -> bool:
    """Whether an edge of one crosses an edge of the other."""
    left, bottom = max(box[a, 0], box[b, 0]), max(box[a, 1], box[b, 1])
    right, top = min(box[a, 2], box[b, 2]), min(box[a, 3], box[b, 3])
    count = 0
    for k in range(first_b, end_b):
        p, q = start_b + k - first_b, start_b + following[k] - first_b
        if (
            max(points[p, 0], points[q, 0]) >= left
            and min(points[p, 0], points[q, 0]) <= right
            and max(points[p, 1], points[q, 1]) >= bottom
            and min(points[p, 1], points[q, 1]) <= top
        ):
            near[2 * count], near[2 * count + 1] = p, q
            count += 1
    if count == 0:
        return False
    for k in range(first_a, end_a):
        p, q = start_a + k - first_a, start_a + following[k] - first_a
        px, py, qx, qy = points[p, 0], points[p, 1], points[q, 0], points[q, 1]
        if max(px, qx) < left or min(px, qx) > right or max(py, qy) < bottom or min(py, qy) > top:
            continue
        ex, ey = qx - px, qy - py
        for n in range(count):
            r, t = near[2 * n], near[2 * n + 1]
            rx, ry, tx, ty = points[r, 0], points[r, 1], points[t, 0], points[t, 1]
            # Ends that lie on the other edge cross it too: what may touch is further apart than that.
            one = (ex * (ry - py) - ey * (rx - px)) * (ex * (ty - py) - ey * (tx - px))
            if one > 0.0:
                continue
            fx, fy = tx - rx, ty - ry
            two = (fx * (py - ry) - fy * (px - rx)) * (fx * (qy - ry) - fy * (qx - rx))
            if two < 0.0 or (two == 0.0 and (one < 0.0 or _side_by_side(px, py, qx, qy, rx, ry, tx, ty))):
                return True
    return False


@inlined
def _side_by_side(px: float, py: float, qx: float, qy: float, rx: float, ry: float, tx: float, ty: float) -> bool:
    """Whether two edges on one line have more than nothing in common."""
    return (
        max(px, qx) >= min(rx, tx)
        and max(rx, tx) >= min(px, qx)
        and max(py, qy) >= min(ry, ty)
        and max(ry, ty) >= min(py, qy)
    )


@light
def _ring_inside(
    points: Numbers,
    following: Counts,
    start_a: int,
    first_a: int,
    end_a: int,
    start_b: int,
    first_b: int,
    end_b: int,
) -> bool:
    """Whether of two things whose edges do not cross a ring of the first lies in the material of the second."""
    for k in range(first_a, end_a):
        begins = k == first_a or following[k - 1] != k
        p = start_a + k - first_a
        if begins and _holds(points, following, start_b, first_b, end_b, points[p, 0], points[p, 1]):
            return True
    return False


@light
def _holds(points: Numbers, following: Counts, start: int, first: int, end: int, x: float, y: float) -> bool:
    """Whether a point lies in the material that some rings enclose."""
    inside = False
    for k in range(first, end):
        p, q = start + k - first, start + following[k] - first
        py, qy = points[p, 1], points[q, 1]
        if (py > y) != (qy > y):
            px, qx = points[p, 0], points[q, 0]
            if x < px + (y - py) * (qx - px) / (qy - py):
                inside = not inside
    return inside


@light
def in_the_way(shapes: Shapes, bed: Lying, a: int, b: int) -> float:
    """How much two things on one sheet whose boxes meet are in each other's way, mm²; 0 if they share nothing.

    Pairs of poles are added up by how deep they lie in each other; those that do not, give the less the farther they
    are, so that what only crosses knows where to go.
    """
    shape, first, size, poles, radii = bed.shape, shapes.first_pole, shapes.size, bed.poles, shapes.poles
    fa, fb = first[shape[a]], first[shape[b]]
    na, nb = first[shape[a] + 1] - fa, first[shape[b] + 1] - fb
    sa, sb = bed.first_pole[a], bed.first_pole[b]
    least = 0.01 * min(size[shape[a]], size[shape[b]])
    total, deepest = 0.0, 0.0
    for i in range(na):
        x, y, r = poles[0, sa + i], poles[1, sa + i], radii[2, fa + i]
        for j in range(nb):
            other = radii[2, fb + j]
            dx, dy = x - poles[0, sb + j], y - poles[1, sb + j]
            depth = r + other - sqrt(dx * dx + dy * dy)
            deepest = max(deepest, depth)
            total += (depth if depth >= least else least * least / (2.0 * least - depth)) * min(r, other)
    if deepest < least and not _share(shapes, bed, a, b):
        return 0.0
    return sqrt(total + least * least) * sqrt(size[shape[a]] * size[shape[b]])


@inlined
def outside(shapes: Shapes, bed: Lying, thing: int) -> float:
    """How much a thing lies outside the frame of its sheet, mm²."""
    sheet, frame, box = bed.sheet[thing], bed.frame, bed.box
    over = max(0.0, frame[sheet, 0] - box[thing, 0]) + max(0.0, box[thing, 2] - frame[sheet, 2])
    over += max(0.0, frame[sheet, 1] - box[thing, 1]) + max(0.0, box[thing, 3] - frame[sheet, 3])
    if over <= 0.0:
        return 0.0
    size = shapes.size[bed.shape[thing]]
    return float(sqrt((over + 0.01 * size) * size) * size)
