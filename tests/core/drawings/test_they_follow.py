"""Drawings made for one thickness follow the sheet: they become what the same drawing code draws for another one."""

import cmath
import io
import json
import math

import ezdxf
import numpy as np
import pytest
import shapely
import trimesh
from leannotch_core.drawings.following import Follow
from leannotch_core.drawings.taken import part_from
from leannotch_core.drawings.way_in import Bringing, bring, read
from leannotch_core.evaluate import evaluate
from leannotch_core.geometry.chords import points

from ...projects import project, stock
from ...shell import of

main = of("bring")

#: A corner of a ring: x, y, and the bulge of what begins there.


def plate(*cut, width=120.0, height=70.0):
    """A plate with what is cut into its upper edge, from the right to the left."""
    return [(0, 0, 0), (width, 0, 0), (width, height, 0), *cut, (0, height, 0)]


def ring(*corners):
    return [(x, y, bulge) for x, y, *rest in corners for bulge in [rest[0] if rest else 0]]


def slot(t, x=40.0, y=20.0, long=24.0):
    return ring((x - t / 2, y), (x - t / 2, y + long), (x + t / 2, y + long), (x + t / 2, y))


def notch(t, x=60.0, deep=30.0, height=70.0):
    return [
        (x + t / 2, height, 0),
        (x + t / 2, height - deep, 0),
        (x - t / 2, height - deep, 0),
        (x - t / 2, height, 0),
    ]


def bone(t, x=40.0, y=20.0, long=24.0, r=1.0):
    """A round relief in each corner, beside the ends of the flanks."""
    left, right, top = x - t / 2, x + t / 2, y + long
    b = math.tan(math.radians(270) / 4)
    return ring(
        (left, y + r), (left, top - r, -b), (left + r, top), (right - r, top, -b), (right, top - r),
        (right, y + r, -b), (right - r, y), (left + r, y, -b),
    )  # fmt: skip


def tee(t, x=60.0, deep=30.0, r=1.0, height=70.0):
    """Reliefs at the ground of a notch that reach out beside its flanks."""
    right, left, ground = x + t / 2, x - t / 2, height - deep
    return [
        (right, height, 0), (right, ground + 2 * r, -1), (right, ground, 0), (left, ground, -1),
        (left, ground + 2 * r, 0), (left, height, 0),
    ]  # fmt: skip


def rounded(t, x=60.0, deep=30.0, r=0.8, height=70.0):
    """A notch with fillets at its ground."""
    right, left, ground, b = x + t / 2, x - t / 2, height - deep, -math.tan(math.radians(90) / 4)
    return [
        (right, height, 0), (right, ground + r, b), (right - r, ground, 0), (left + r, ground, b),
        (left, ground + r, 0), (left, height, 0),
    ]  # fmt: skip


def mouth(t, x=60.0, deep=30.0, c=1.5, height=70.0):
    right, left = x + t / 2, x - t / 2
    return [
        (right + c, height, 0), (right, height - c, 0), (right, height - deep, 0), (left, height - deep, 0),
        (left, height - c, 0), (left - c, height, 0),
    ]  # fmt: skip


def sloped(t):
    """A notch in an edge that falls from 70 to 40 mm."""

    def top(x):
        return 70 - x / 4

    right, left = 60 + t / 2, 60 - t / 2
    return [
        (0, 0, 0),
        (120, 0, 0),
        (120, 40, 0),
        (right, top(right), 0),
        (right, 25, 0),
        (left, 25, 0),
        (left, top(left), 0),
        (0, 70, 0),
    ]


def fingers(t, at, width=15.0, base=70.0, over=120.0):
    """A plate whose upper edge stands out by the thickness between the places ``at``."""
    corners = []
    for begin in sorted(at, reverse=True):
        end = begin + width
        corners += [(end, base, 0), (end, base + t, 0), (begin, base + t, 0), (begin, base, 0)]
    inner = [corner for corner in corners if not (corner[1] == base and corner[0] in (0.0, over))]
    ends = [(over, base, 0)] if over not in [c[0] for c in inner] else []
    begin = [(0, base, 0)] if 0.0 not in [c[0] for c in inner] else []
    return [(0, 0, 0), (over, 0, 0), *ends, *inner, *begin]


def tab(t, tip=0.0, root=0.0):
    """One tab of 30 mm on the upper edge, with chamfers at its tip, or fillets at its roots."""
    b = -math.tan(math.radians(90) / 4)
    right = [(75 + root, 70, b), (75, 70 + root, 0)] if root else [(75, 70, 0)]
    left = [(45, 70 + root, b), (45 - root, 70, 0)] if root else [(45, 70, 0)]
    end = [(75, 70 + t - tip, 0), (75 - tip, 70 + t, 0), (45 + tip, 70 + t, 0), (45, 70 + t - tip, 0)]
    return plate(*right, *(end if tip else [(75, 70 + t, 0), (45, 70 + t, 0)]), *left)


def wall(t, width=90.0, height=60.0):
    """A wall of a box, 90 x 60 inside, with fingers on all four sides: two of them meet in a corner, two do not."""
    across, up = ((0, 18), (36, 54), (72, width)), ((15, 30), (45, height))
    right = [(width, a, width + t, b + t if b == height else b) for a, b in up]
    left = [(-t, a, 0, b) for a, b in ((0, 15), (30, 45))]
    top = [(a, height, b + t if b == width else b, height + t) for a, b in across]
    low = [(a - t if a == 0 else a, -t, b, 0) for a, b in across]
    whole = shapely.union_all([shapely.box(*box) for box in [(0, 0, width, height), *right, *left, *top, *low]])
    return [(x, y, 0) for x, y in shapely.get_coordinates(whole.normalize().simplify(0))[:-1][::-1]]


#: What is drawn for a thickness, and how many places of it follow.
DRAWN = {
    "slot": (lambda t: [plate(), slot(t)], 1),
    "notch": (lambda t: [plate(*notch(t))], 1),
    "two slots": (lambda t: [plate(), slot(t), slot(t, 80)], 2),
    "cross-laps": (lambda t: [plate(*notch(t, 80, 35), *notch(t, 40, 35))], 2),
    "slot with round reliefs": (lambda t: [plate(), bone(t)], 1),
    "notch with reliefs aside": (lambda t: [plate(*tee(t))], 1),
    "notch with fillets": (lambda t: [plate(*rounded(t))], 1),
    "chamfered mouth": (lambda t: [plate(*mouth(t))], 1),
    "in a sloped edge": (lambda t: [sloped(t)], 1),
    "fingers": (lambda t: [fingers(t, (15.0, 45.0, 75.0))], 3),
    "fingers at both corners": (lambda t: [fingers(t, (0.0, 30.0, 60.0, 105.0))], 4),
    "a finger at one corner": (lambda t: [fingers(t, (0.0, 45.0, 75.0))], 3),
    "wall of a box": (lambda t: [wall(t)], 10),
    "tab": (lambda t: [tab(t)], 1),
    "tab with chamfers": (lambda t: [tab(t, tip=0.6)], 1),
    "tab with fillets": (lambda t: [tab(t, root=0.5)], 1),
}  # fmt: skip

#: Turned, mirrored, and in inches.
WAYS = {
    "as drawn": (0, False, 3.0, 5.1),
    "turned": (33, False, 3.0, 2.7),
    "mirrored": (0, True, 4.0, 4.3),
    "inches": (-71, True, 3.175, 6.35),
}


def brought(rings, turn, over, inches):
    document = ezdxf.new(units=1 if inches else 4)
    way, scale = cmath.rect(1, math.radians(turn)), 1 / 25.4 if inches else 1
    for corners in rings:
        placed = [((complex(-x if over else x, y) * way * scale), -bulge if over else bulge) for x, y, bulge in corners]
        document.modelspace().add_lwpolyline([(p.real, p.imag, b) for p, b in placed], format="xyb", close=True)
    stream = io.StringIO()
    document.write(stream)
    (found,) = bring(read(stream.getvalue().encode(), "drawing.dxf"), Bringing(frame=False)).parts
    return found


def shape(outline):
    corner = complex(*outline.bounds[:2])
    rings = [[p - corner for s in loop for p in points(s, 0.0005)] for loop in outline.loops]
    outer, *openings = [[(p.real, p.imag) for p in one] for one in rings]
    return shapely.Polygon(outer, openings)


def corners(outline):
    left, bottom, _, _ = outline.bounds
    return shapely.MultiPoint([(s.start.real - left, s.start.imag - bottom) for loop in outline.loops for s in loop])


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize("what", DRAWN)
def test_a_drawing_for_one_sheet_becomes_that_for_another(what, way):
    draw, count = DRAWN[what]
    turn, over, before, after = WAYS[way]
    part = part_from(brought(draw(before), turn, over, way == "inches"), "part", "sheet", Follow(before))
    assert len(part.shape.follows) == count
    result = evaluate(project([part.model_dump()], [], [stock("sheet", (str(after),), glue="0")]))
    assert not result.errors
    found = result.parts["part"].outline, brought(draw(after), turn, over, way == "inches").outline
    ours, theirs = map(shape, found)
    assert ours.symmetric_difference(theirs).area < 2e-3 * ours.length
    # Each place is exact to 1 µm: every corner of the one is one of the other.
    assert shapely.hausdorff_distance(*(corners(one) for one in found)) < 1e-3


#: A box inside, and in how many pieces each of its edges is shared between two walls, which take turns.
BOX, TURNS = (90.0, 65.0, 50.0), 5

#: By the axis that a wall stands across: which pieces are its own where it meets walls across another axis.
OWN = {(2, 0): 0, (2, 1): 0, (1, 2): 1, (0, 2): 1, (1, 0): 0, (0, 1): 1}


def wall_of_box(t, across):
    """A wall of the box in the plane of its other two axes; the walls above and below have the corners."""
    one, other = [axis for axis in range(3) if axis != across]
    pieces = [shapely.box(0, 0, BOX[one], BOX[other])]
    for beside, along in ((one, other), (other, one)):
        long = BOX[along] / TURNS
        for turn in range(OWN[across, beside], TURNS, 2):
            begin, end = turn * long, (turn + 1) * long
            if across == 2:
                begin, end = begin - t * (turn == 0), end + t * (turn == TURNS - 1)
            for low in (-t, BOX[beside]):
                box = [(begin, low), (end, low + t)] if along == one else [(low, begin), (low + t, end)]
                pieces.append(shapely.box(*box[0], *box[1]))
    whole = shapely.union_all(pieces).normalize().simplify(0)
    return [(x, y, 0) for x, y in shapely.get_coordinates(whole)[:-1][::-1]]


@pytest.mark.parametrize("after", [5.1, 2.4])
def test_a_box_that_follows_closes_without_a_gap_and_without_an_overlap(after):
    walls = []
    for across in range(3):
        part = part_from(brought([wall_of_box(3.0, across)], 0, False, False), "part", "sheet", Follow(3.0))
        made = evaluate(project([part.model_dump()], [], [stock("sheet", (str(after),), glue="0")])).parts["part"]
        plate = trimesh.creation.extrude_polygon(shape(made.outline), after)
        # From the wall's own plane to that of its two axes in space, its corner beyond the room by the thickness.
        one, other = [axis for axis in range(3) if axis != across]
        pose = np.zeros((4, 4))
        pose[one, 0] = pose[other, 1] = pose[across, 2] = pose[3, 3] = 1
        pose[one, 3] = pose[other, 3] = -after
        for at in (-after, BOX[across]):
            pose[across, 3] = at
            wall = plate.copy().apply_transform(pose)
            wall.fix_normals()
            walls.append(wall)
    shell = math.prod(side + 2 * after for side in BOX) - math.prod(BOX)
    assert sum(wall.volume for wall in walls) == pytest.approx(shell, rel=1e-5)
    closed = trimesh.boolean.union(walls, engine="manifold")
    assert closed.volume == pytest.approx(shell, rel=1e-5)


LETTERS = {
    "square hole": [plate(), ring((40, 20), (43, 20), (43, 23), (40, 23))],
    "E": [
        ring((0, 0), (15, 0), (15, 3), (3, 3), (3, 6), (15, 6), (15, 9), (3, 9), (3, 12), (15, 12), (15, 15), (0, 15))
    ],
    "stub": [plate((63, 70, 0), (63, 73, 0), (60, 73, 0), (60, 70, 0))],
    "round slot": [plate(), ring((40, 20), (40, 40, -1), (43, 40), (43, 20, -1))],
    "wide notch": [plate(*notch(3.3))],
    "narrow notch": [plate(*notch(2.9))],
    "step": [ring((0, 0), (120, 0), (120, 60), (60, 60), (60, 63), (0, 63))],
}


@pytest.mark.parametrize("what", LETTERS)
def test_what_is_as_wide_by_chance_does_not_follow(what):
    part = part_from(brought(LETTERS[what], 0, False, False), "part", "sheet", Follow(3.0))
    assert part.shape.follows == []


def test_what_follows_and_what_was_left_is_told_on_the_command_line(tmp_path, capsys):
    document = ezdxf.new(units=4)
    for corners in (plate(*notch(3.0, 80), *notch(3.4, 40)),):
        document.modelspace().add_lwpolyline(corners, format="xyb", close=True)
    document.saveas(tmp_path / "shelf.dxf")
    asked = [str(tmp_path / "shelf.dxf"), "--follow", "3", "--out", str(tmp_path / "shelf.json")]
    assert main([*asked, "--json"]) == 0
    told = json.loads(capsys.readouterr().out)["follows"]
    assert (told["slots"], told["tabs"], told["left"]) == (1, 0, [[3.4, pytest.approx(40), pytest.approx(40)]])
    assert main(asked) == 0
    says = "Following the sheet: 1 slot or notch, 0 tabs. Left as they are: 3.4 mm wide at 40.00, 40.00."
    assert says in capsys.readouterr().out
