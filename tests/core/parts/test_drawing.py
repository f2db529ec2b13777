"""Shapes and their corners, strokes drawn by hand, borders, gaps: judged by shapely, by sums and by hand formulas."""

import cmath
import math
import re

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.edits.command import apply
from leannotch_core.evaluate import evaluate
from leannotch_core.geometry.corner import CornerTooLarge, chamfered, is_corner, rounded
from leannotch_core.geometry.loop import Loop, Outline, polygon
from leannotch_core.geometry.segment import Arc, Line, Motion, Source
from leannotch_core.geometry.stroke import knots_of_stroke
from leannotch_core.parts.corners import corners_of
from leannotch_core.parts.gaps import narrow_places
from leannotch_core.parts.shapes.round_hole import round_hole
from leannotch_core.said import Said

from ...judges.shapes import judge
from ...projects import part, project, stock
from ...properties import tried
from .test_placing import COMMAND, board, box, boxes, do, shapes

S = Source("a", "side")


def hole(kind, **sizes):
    return {"kind": kind, **sizes}


def area_of(*cutouts, **more):
    document = board(*cutouts, **more)
    [shape, *_] = shapes(document).values()
    return sum(outline.area for outline in shape.loops)


# Shapes by their formulas


@pytest.mark.parametrize("sides", [3, 5, 6, 12])
def test_regular_polygons_have_their_handbook_areas(sides):
    """Area n/4 d² tan(pi/n) over flats, n/8 D² sin(2 pi/n) over corners (Bronstein's handbook; from memory)."""
    flats = area_of(box("a", hole=hole("polygon", width="20", sides=sides)))
    corners = area_of(box("a", hole=hole("polygon", width="20", sides=sides, across="corners")))
    assert flats == pytest.approx(sides / 4 * 400 * math.tan(math.pi / sides))
    assert corners == pytest.approx(sides / 8 * 400 * math.sin(2 * math.pi / sides))
    # Each rounded corner of radius r loses r² (tan(pi/n) - pi/n).
    lost = sides * 4 * (math.tan(math.pi / sides) - math.pi / sides)
    assert area_of(box("a", hole=hole("polygon", width="20", sides=sides, radius="2"))) == pytest.approx(flats - lost)


def test_rings_sectors_and_arc_slots_have_their_areas():
    assert area_of(box("a", hole=hole("annulus", diameter="30", inner="20"))) == pytest.approx(math.pi / 4 * 500)
    ring = math.pi / 4 * (30**2 - 12**2)
    for angle in (40, 180, 300):
        sector = box("a", x="100", y="60", hole=hole("sector", diameter="30", inner="12", angle=str(angle)))
        assert area_of(sector) == pytest.approx(ring * angle / 360)
        slot = box("a", x="100", y="60", hole=hole("arc slot", radius="20", width="5", angle=str(angle)))
        assert area_of(slot) == pytest.approx(math.radians(angle) * 20 * 5 + math.pi * 2.5**2)


APART = [
    {"hole": hole("round", diameter="4")},
    {"hole": hole("round", diameter="2"), "x": "9", "how": "in common"},
]


@pytest.mark.parametrize(
    ("shape", "says"),
    [
        (hole("annulus", diameter="10", inner="10"), "inner diameter of 10 mm is not less than the outer one of 10 mm"),
        (hole("sector", diameter="10", angle="360"), "an angle of 360 degrees is no sector"),
        (hole("arc slot", radius="10", width="20"), "does not go round a radius of 10 mm"),
        (hole("arc slot", radius="10", width="5", angle="340"), "not between 0 and the 331.0 at which its ends meet"),
        (hole("polygon", width="20", sides=6, radius="11"), "the largest that fits is 10 mm"),
        (hole("points", points=[{"x": "0", "y": "0"}, {"x": "5", "y": "0"}]), "2 points enclose nothing"),
        (hole("points", points=[{"x": "0", "y": "0"}] * 2, closed=False), "all its points lie on one another"),
        (
            hole("points", points=[{"x": x, "y": y} for x, y in (("0", "0"), ("9", "9"), ("9", "0"), ("0", "9"))]),
            "crosses itself",
        ),
        (
            hole("points", points=[{"x": "0", "y": "0"}, {"x": "5", "y": "0"}], closed=False),
            "A encloses nothing, so it cannot be what it is said to be .cut out.; close it, or score or engrave it",
        ),
        (hole("combined", members=APART), "nothing is left of the shapes"),
        (hole("part", part="gone"), "“gone”, whose outline it has, is not there"),
    ],
)  # fmt: skip
def test_a_shape_that_cannot_be_says_why_with_its_number(shape, says):
    [finding] = evaluate(board(box("a", hole=shape))).errors
    assert re.search(says, finding.text) and finding.text.startswith("Board, A")


def test_a_half_is_mirrored_live_and_a_line_may_be_open():
    half = [
        {"x": "0", "y": "-10"},
        {"x": "8", "y": "-10"},
        {"x": "gauge", "y": "0", "smooth": True},
        {"x": "0", "y": "10"},
    ]
    document = board(
        box("a", x="100", y="60", hole=hole("points", points=half, half="right half")),
        names=[{"name": "gauge", "size": "12"}],
    )
    [shape] = shapes(document).values()
    assert shape.box[0] + shape.box[2] == pytest.approx(200) and shape.box[2] >= 112 - 1e-6
    drawn = judge(shape.loops)
    assert drawn.symmetric_difference(shapely.affinity.scale(drawn, -1, 1, origin=(100, 60))).area < 1e-6
    line = hole("points", points=[{"x": "0", "y": "0"}, {"x": "30", "y": "0"}, {"x": "30", "y": "40"}], closed=False)
    scored = evaluate(board(box("a", hole=line, does="score"))).parts["board"]
    [drawn_line] = scored.lines
    assert not drawn_line.closed and sum(s.length for s in drawn_line.segments) == pytest.approx(70)


# Corners


turns = st.floats(0.35, 2.6)


@settings(max_examples=tried(40), deadline=None)
@given(turns, st.floats(5, 40), st.floats(5, 40), st.floats(0.2, 8), st.booleans(), st.booleans())
def test_a_rounded_corner_is_tangent_to_lines_and_arcs_or_names_the_largest_that_fits(
    turn, one, other, radius, bulged, hollow
):
    """Between straight sides the largest radius is the shorter one times the tangent of half the angle there."""
    tip = 0j
    start, end = -one + 0j, cmath.rect(other, math.pi - turn)
    sides = [Line(start, tip, S), Line(tip, end, S)]
    if bulged:
        # A side that leaves the corner as an arc of four times its length about.
        centre = end / 2 + end * 1j * (2 if hollow else -2)
        sides[1] = Arc(tip, end, centre, hollow, S)
    loop = Loop((*sides, Line(end, start, S)))
    if loop.area < 0:
        loop = Loop(tuple(s.reversed() for s in reversed(loop.segments)))
    at = next(i for i, s in enumerate(loop.segments) if abs(s.start - tip) < 1e-9)
    if not is_corner(loop, at):
        return
    try:
        found = rounded(loop, at, radius, Source("a", "corner"))
    except CornerTooLarge as error:
        assert error.largest < radius
        if not bulged:
            fits = min(one, other) * math.tan(turn / 2)
            assert error.largest == pytest.approx(fits, abs=0.02)
        if error.largest > 0.05:
            rounded(loop, at, error.largest, S)
        return
    corner = next(s for s in found if s.source.side == "corner")
    index = found.segments.index(corner)
    before, after = found.segments[index - 1], found.segments[(index + 1) % len(found.segments)]
    assert corner.radius == pytest.approx(radius)
    assert before.end_tangent == pytest.approx(corner.start_tangent, abs=1e-5)
    assert after.start_tangent == pytest.approx(corner.end_tangent, abs=1e-5)


def test_chamfers_take_their_legs_and_say_what_fits():
    loop = polygon([0, 40, 40 + 30j, 30j], [S] * 4)
    cut = chamfered(loop, 2, 5, 8, S)
    assert cut.area == pytest.approx(1200 - 20)
    with pytest.raises(CornerTooLarge, match="the largest that fits is 30 mm"):
        chamfered(loop, 2, 31, 5, S)


def test_any_corner_of_the_outline_is_taken_off_where_shapes_meet_and_follows_them():
    added = box("tab", 40, 30, x="width", y="60", does="add")
    document = board(added)
    drawn = evaluate(document).parts["board"]
    inner = [
        c for c in corners_of([drawn.outline], "board") if {c.before.shape, c.after.shape} == {"", "tab"}
    ]  # fmt: skip
    assert sorted((c.at.real, c.at.imag) for c in inner) == [(200, 45), (200, 75)]
    taken = [
        {"before": c.before.model_dump(), "after": c.after.model_dump(), "number": c.number, "size": "6"} for c in inner
    ]

    def rounded_board(size, y, **more):
        cut = box("tab", 40, 30, x="width", y=y, does="add")
        corners = [one | {"size": size} for one in taken]
        return project([part("board", 200, 120, cutouts=[cut], **more) | {"corners": corners}])

    for y in ("60", "70"):
        found = evaluate(rounded_board("6", y)).parts["board"].outline
        # Two inside corners filled: each gains r² (1 - pi/4).
        assert found.area == pytest.approx(200 * 120 + 20 * 30 + 2 * 36 * (1 - math.pi / 4))
    [error, _] = evaluate(rounded_board("25", "60")).errors
    assert "the largest that fits is 20 mm" in error.text
    assert len(evaluate(rounded_board("20", "60")).parts["board"].finished.pieces) == 1
    # Turned over, the corners are where they were, and once more all is as it was typed.
    once = do(rounded_board("6", "70"), do="mirror part", id="board")
    mirrored = evaluate(once).parts["board"].outline
    wanted = shapely.affinity.scale(
        judge([evaluate(rounded_board("6", "70")).parts["board"].outline]), -1, 1, origin=(100, 0)
    )
    assert judge([mirrored]).symmetric_difference(wanted).area < 1e-3 and len(once.parts[0].corners) == 2
    assert do(once, do="mirror part", id="board").parts == rounded_board("6", "70").parts
    gone = project([part("board", 200, 120) | {"corners": taken}])
    assert "its sides do not meet there" in evaluate(gone).findings[0].text


def test_two_parts_are_joined_taken_away_and_shared_live_and_a_circle_of_them_is_refused():
    other = part("other", 60, 40, cutouts=[box("hole", x="30", y="20", hole=hole("round", diameter="10"))])

    def both(does, width="60"):
        wide = other | {"shape": other["shape"] | {"width": width}}
        shape = box("shape", x="200", y="60", hole=hole("part", part="other"), does=does)
        pieces = evaluate(project([part("board", 200, 120, cutouts=[shape]), wide])).parts["board"].finished.pieces
        return sum(piece.area for piece in pieces)

    for width, ring in (("60", math.pi * 25 / 2), ("90", math.pi * 25)):
        half = int(width) / 2 * 40
        # The hole stands 30 from the left side: half of it on the board, or all of it.
        assert both("add", width) == pytest.approx(24000 + half - (math.pi * 25 / 2 if width == "60" else 0))
        assert both("cut out", width) == pytest.approx(24000 - half + ring)
        assert both("keep", width) == pytest.approx(half - ring)
    circle = [
        part("a", 30, 30, cutouts=[box("s", hole=hole("part", part="b"))]),
        part("b", 30, 30, cutouts=[box("s", hole=hole("part", part="a"))]),
    ]
    told = [finding.text for finding in evaluate(project(circle)).errors]
    assert any("of a part that has its own" in text for text in told)


# By hand


def stroke_of(curve, count=300, tremble=0.0):
    return [curve(math.tau * i / count) + tremble * cmath.rect(1, i * 2.4) for i in range(count)]


def drawn_by_hand(stroke, smoothing, **more):
    spots = [{"x": p.real, "y": p.imag} for p in stroke]
    return do(board(), do="draw stroke", part="board", id="wing", stroke=spots, smoothing=smoothing, **more)


@pytest.mark.parametrize("tremble", [0.0, 0.15])
def test_a_stroke_becomes_a_smooth_curve_of_few_points_that_stays_by_it(tremble):
    stroke = stroke_of(lambda a: 100 + 60j + cmath.rect(30 + 8 * math.cos(3 * a), a), tremble=tremble)
    counts = []
    for smoothing in (0.2, 0.8, 2.0):
        document = drawn_by_hand(stroke, smoothing)
        [shape] = shapes(document).values()
        counts.append(len(document.parts[0].cutouts[0].hole.points))
        outline = judge(shape.loops).exterior
        off = max(outline.distance(shapely.Point(p.real, p.imag)) for p in stroke)
        assert off < 3 * smoothing + 2 * tremble
    assert counts[0] > counts[1] >= counts[2] and counts[1] < 30


def test_sharp_turns_stay_corners_and_a_short_stroke_is_refused():
    corners = [60 + 30j, 140 + 30j, 140 + 90j, 60 + 90j]
    stroke = [a + (b - a) * i / 50 for a, b in zip(corners, corners[1:] + corners[:1], strict=True) for i in range(50)]
    knots = knots_of_stroke(stroke, 0.5, closed=True)
    sharp = [p for p, corner in knots if corner]
    assert len(sharp) == 4 and all(min(abs(p - c) for c in corners) < 1 for p in sharp)
    with pytest.raises(Said, match="too short to follow"):
        drawn_by_hand([1 + 1j, 1 + 1j], 0.5)


def test_a_piece_is_redrawn_and_a_bottom_made_flat_and_the_rest_stays():
    stroke = stroke_of(lambda a: 100 + 60j + cmath.rect(40, a))
    document = drawn_by_hand(stroke, 0.3)
    [round_one] = shapes(document).values()
    flat = do(
        document, do="redraw piece", part="board", id="wing", straight=True,
        stroke=[{"x": 80, "y": 60 - 34.64}, {"x": 120, "y": 60 - 34.64}],
    )  # fmt: skip
    [cut] = shapes(flat).values()
    assert cut.box[1] == pytest.approx(60 - 34.64, abs=0.4)
    before, after = judge(round_one.loops), judge(cut.loops)
    segment = 40**2 / 2 * (math.radians(60) - math.sin(math.radians(60)))
    assert before.area - after.area == pytest.approx(segment, rel=0.12)
    upper = shapely.box(0, 60, 200, 120)
    assert before.intersection(upper).symmetric_difference(after.intersection(upper)).area < 12
    bump = []
    for turn in (0.9 + i * 0.02 for i in range(70)):
        up = (40 + 15 * math.sin(2 * (turn - 0.9))) * math.sin(turn)
        bump.append({"x": 100 + 40 * math.cos(turn), "y": 60 + up})
    grown = judge(
        shapes(do(document, do="redraw piece", part="board", id="wing", smoothing=0.3, stroke=bump))["wing"].loops
    )
    assert grown.bounds[3] > before.bounds[3] + 5
    lower = shapely.box(0, 0, 200, 60)
    assert before.intersection(lower).symmetric_difference(grown.intersection(lower)).area < 12


@pytest.mark.parametrize("kind", ["points", "curve"])
@pytest.mark.parametrize("mirrored", [False, True])
def test_a_point_is_dragged_where_the_pointer_goes_and_the_others_stay(kind, mirrored):
    knots = [(0, 0), (1, 0), (0.8, 0.6), (0.5, 1), (0.1, 0.5)]
    if kind == "curve":
        shape = hole("curve", width="60", height="40", knots=[{"x": x, "y": y} for x, y in knots])
    else:
        shape = hole(
            "points", points=[{"x": f"{60 * x - 30:g}", "y": f"{40 * y - 20:g}", "smooth": True} for x, y in knots]
        )
    document = board(box("a", x="100", y="60", turn="25", mirrored=mirrored, hole=shape))

    def spots(of):
        [placed] = shapes(of).values()
        cut = of.parts[0].cutouts[0]
        frame = placed.frame
        own = (
            cut.hole.knots_at(float(cut.hole.width.text), float(cut.hole.height.text))
            if kind == "curve"
            else [(complex(float(p.x.text), float(p.y.text)), False) for p in cut.hole.points]
        )
        return [frame(complex(-p.real, p.imag) if mirrored else p) for p, _ in own]

    before = spots(document)
    after = spots(do(document, do="move point", part="board", id="a", index=2, x=4.0, y=7.0))
    flat = do(
        document, do="redraw piece", part="board", id="a", straight=True,
        stroke=[{"x": before[at].real, "y": before[at].imag} for at in (2, 4)],
    )  # fmt: skip
    edge = shapely.LineString([(p.real, p.imag) for p in (before[2], before[4])])
    # The piece between two of its points is straight, on the side where it was pressed.
    assert judge(shapes(flat)["a"].loops).exterior.buffer(0.05).intersection(edge).length == pytest.approx(edge.length)
    for at, (was, now) in enumerate(zip(before, after, strict=True)):
        assert now - was == pytest.approx(4 + 7j if at == 2 else 0, abs=2e-3)


# Borders and gaps


def fabric(**more):
    return [stock("ply", smallest_web="3", **more)]


circles = st.lists(st.tuples(st.integers(6, 74), st.integers(6, 54), st.integers(2, 9)), min_size=2, max_size=14)


@settings(max_examples=tried(20), deadline=None)
@given(circles)
def test_every_gap_that_is_too_narrow_is_found_with_its_distance(found):
    edge = Outline(polygon([0, 80, 80 + 60j, 60j], [S] * 4))

    holes = tuple(round_hole("h", d).moved(Motion(shift=complex(x, y))) for x, y, d in found)
    outline = Outline(edge.outer, tuple(h.reversed() for h in holes))
    wanted = []
    for i, (x, y, d) in enumerate(found):
        wanted += [max(0.0, min(x, 80 - x, y, 60 - y) - d / 2)]
        for x2, y2, d2 in found[i + 1 :]:
            apart = math.hypot(x - x2, y - y2)
            # Those that lie in one another are as far apart as their walls are.
            wanted.append(max(0.0, apart - (d + d2) / 2) if apart >= abs(d - d2) / 2 else abs(d - d2) / 2 - apart)
    told = [place.distance for place in narrow_places(outline, 3.0)]
    assert told == pytest.approx(sorted(w for w in wanted if w < 3 - 1e-6), abs=1e-6)


def shells(count, x0, y0, step, size):
    leaf = [{"x": 0, "y": 0, "bulge": 0.5}, {"x": 20, "y": 20, "bulge": 0.5}]
    return [
        box(f"s{i}", x=str(x0 + step * (i % 6)), y=str(y0 + step * (i // 6)), turn=str(17 * i % 360),
            hole={"kind": "brought", "width": str(size), "height": str(size), "rings": [leaf]})
        for i in range(count)
    ]  # fmt: skip


def test_motifs_are_fitted_inside_the_border_in_proportion_and_spread_until_no_gap_is_too_narrow():
    pennant = part("board", 200, 160, cutouts=shells(36, 14, 14, 31, 31)) | {"border": {"margin": "15"}}
    document = project([pennant], stocks=fabric())
    assert any("over the border of 15 mm" in f.text for f in evaluate(document).findings)
    ids = [f"s{i}" for i in range(36)]
    document = do(document, do="fit inside", part="board", ids=ids)
    result = evaluate(document)
    assert not any(f.code == "crosses-border" for f in result.findings)
    sizes = [cut.hole for cut in document.parts[0].cutouts]
    assert all(float(h.width.text) == pytest.approx(float(h.height.text)) for h in sizes)
    assert result.parts["board"].narrow
    spread = do(document, do="spread shapes", part="board")
    after = evaluate(spread)
    assert not after.parts["board"].narrow and not after.findings
    assert len(after.parts["board"].outline.cutouts) == 36


def test_what_cannot_be_spread_is_named():
    crowd = [box(f"c{i}", 18, 18, x=str(12 + 19 * (i % 5)), y=str(12 + 19 * (i // 5))) for i in range(10)]
    fixed = [one | {"repeat": {"kind": "grid", "columns": 2, "step_x": "18.5"}} for one in crowd[:1]]
    document = project([part("board", 60, 45, cutouts=[*fixed, *crowd[1:]])], stocks=fabric())
    command = COMMAND.validate_python({"do": "spread shapes", "part": "board"})
    said = command.said(document, apply(document, command))
    assert "Still nearer than 3 mm: " in said and "C0" in said
    free = project([part("board", 200, 160, cutouts=[crowd[0]])], stocks=fabric())
    with pytest.raises(Said, match="Nothing of Board needs to be spread"):
        do(free, do="spread shapes", part="board")


def test_shapes_are_made_larger_about_the_middle_of_all_or_each_about_its_own():
    document = board(
        box("a", "gauge", 6, x="40", y="50"), box("b", 8, 8, x="80", y="60"), names=[{"name": "gauge", "size": "10"}]
    )
    each = boxes(do(document, do="scale shapes", part="board", ids=["a", "b"], by="1.5", each=True))
    assert each["a"] == pytest.approx((32.5, 45.5, 47.5, 54.5))
    whole = boxes(do(document, do="scale shapes", part="board", ids=["a", "b"], by="2"))
    lefts = boxes(document)
    middle = ((lefts["a"][0] + lefts["b"][2]) / 2, (lefts["a"][1] + lefts["b"][3]) / 2)
    for cut_id in "ab":
        wanted = [m + 2 * (v - m) for v, m in zip(lefts[cut_id], middle * 2, strict=True)]
        assert whole[cut_id] == pytest.approx(wanted)
    with pytest.raises(Said, match="0 times as large cannot be made"):
        do(document, do="scale shapes", part="board", ids=["a"], by="0")
