"""How a cutter comes down, what is told of its teeth, and what is written beside what it does: number by number."""

import cmath
import math

import pytest
from leannotch_core.document.sheet import Placement
from leannotch_core.document.sizes import Size
from leannotch_core.evaluate import evaluate
from leannotch_core.geometry.loop import polygon
from leannotch_core.geometry.segment import Arc, Line, Source
from leannotch_core.layout.sheets import motion, polygon_of
from leannotch_core.machining.bend_lines import bend_words
from leannotch_core.machining.common_lines import with_common_lines
from leannotch_core.machining.jobs import Job, JobKey
from leannotch_core.machining.lettered import name_of, scored_name
from leannotch_core.machining.path import CutPath
from leannotch_core.machining.prepared import prepare
from leannotch_core.machining.routed.going_down import SHORTEST, down_open, down_round, helix, odd, run_of
from leannotch_core.machining.routed.stroke import ClosedWay
from leannotch_core.machining.routed.zone import Zone
from shapely import LineString

from ...projects import part, project, stock
from ...shipped import laid_out, on_laser
from .test_router import mill, ready_of, routed, sunk

SOURCE = Source("test", "side")
SQUARE = ClosedWay.of(polygon([0, 30, 30 + 30j, 30j], [SOURCE] * 4).segments)


def slope(stroke):
    return math.degrees(math.atan2(stroke.from_z - stroke.z, stroke.segment.length))


def length(strokes):
    return sum(stroke.segment.length for stroke in strokes)


# Down along a slope


def test_a_slope_of_its_angle_round_a_line_that_nothing_stands_on():
    """By hand: 2 mm at 3 degrees are 38.16 mm, more than a side of 30."""
    strokes, on = down_round(SQUARE, 5.0, 0.0, -2.0, 3.0, ())
    assert on == pytest.approx(2 / math.tan(math.radians(3))) == pytest.approx(38.162, abs=1e-3)
    assert length(strokes) == pytest.approx(on) and all(slope(one) == pytest.approx(3) for one in strokes)
    assert strokes[0].segment.start == 5 and strokes[-1].segment.end == pytest.approx(30 + (38.162 - 25) * 1j, abs=1e-3)


@pytest.mark.parametrize(("free", "legs"), [(20.0, 3), (13.0, 3), (12.0, 5), (40.0, 1), (0.4, 39)])
def test_before_a_tab_it_goes_to_and_fro_an_odd_number_of_times(free, legs):
    """No leg is longer than the way to the tab, but for one that is shorter than a mm."""
    strokes, on = down_round(SQUARE, 5.0, 0.0, -2.0, 3.0, [Zone(5.0 + free, 8.0 + free)])
    assert on == pytest.approx(run_of(2.0, 3.0) / legs) and on <= max(free, SHORTEST)
    assert length(strokes) == pytest.approx(run_of(2.0, 3.0))
    assert strokes[-1].z == pytest.approx(-2) and strokes[-1].segment.end == pytest.approx(
        SQUARE.at(5.0 + on), abs=1e-6
    )
    assert {round(slope(one), 6) for one in strokes} == {3.0}


def test_legs_are_odd_so_that_it_ends_where_the_way_goes_on():
    assert [odd(legs) for legs in (0, 1, 2, 3, 4)] == [1, 1, 3, 3, 5]
    # On an open way it comes back to where that begins: an even number of legs.
    way = [Line(0j, 20 + 0j, SOURCE)]
    for deep, legs in ((1.0, 2), (3.0, 4), (0.1, 2)):
        strokes = down_open(way, 0.0, -deep, 3.0)
        assert len(strokes) == legs and abs(strokes[-1].segment.end) < 1e-9
        assert all(slope(one) <= 3 + 1e-9 for one in strokes) and strokes[-1].z == pytest.approx(-deep)


@pytest.mark.parametrize(("deep", "turns"), [(0.9, 1), (0.98, 1), (1.0, 2), (3.0, 4)])
def test_a_helix_goes_round_in_whole_turns_no_steeper_than_its_angle(deep, turns):
    """Round a radius of 3 mm at 3 degrees it comes down 0.988 mm a turn."""
    strokes = helix(3 + 0j, 0j, True, 0.0, -deep, 3.0)
    assert len(strokes) == 2 * turns and strokes[-1].segment.end == 3 and strokes[-1].z == -deep
    assert all(isinstance(one.segment, Arc) and one.segment.ccw and slope(one) <= 3 + 1e-9 for one in strokes)


@pytest.mark.parametrize(("entry", "round_and_round"), [("helix", True), ("ramp", False)])
def test_a_wide_pocket_is_entered_as_it_is_wanted(entry, round_and_round):
    ready, _ = ready_of(routed([part("plate", 90, 70, cutouts=[sunk("well", 60, 40, 6)])], entry=entry))
    strokes = [stroke for run in ready.runs if run.operation == "pocket" for stroke in run.strokes]
    helical = [s for s in strokes if isinstance(s.segment, Arc) and s.segment.source.side == "helix"]
    assert bool(helical) == round_and_round and any(stroke.how == "ramp" for stroke in strokes)


# What is told


def told(least, most, speed, rpm=16000):
    """The codes and texts of what is told of a cutter's teeth, with a range of its own or by common practice."""
    loads = [] if least is None else [{"material": "plywood", "least": least, "most": most}]
    document = routed([part("plate", 60, 40)], [mill(flutes=2, chip_loads=loads)])
    setting = {"operation": "cut", "speed": speed, "power": rpm, "cutter": "mill", "stepdown": "3"}
    parts = [document.parts[0].model_dump() | {"settings": [setting]}]
    changed = document.model_validate(document.model_dump() | {"parts": parts})
    ready, _ = ready_of(changed)
    return [(found.code, found.text) for found in ready.findings if found.code in ("rubs", "chip-load")]


@pytest.mark.parametrize(
    ("chip", "code"),
    [
        (0.05, None),
        (0.0606, "chip-load"),
        (0.0603, None),
        (0.0398, None),
        (0.0394, "chip-load"),
        (0.0198, "rubs"),
        (0.0202, "chip-load"),
    ],
)
def test_each_tooth_takes_what_its_cutter_is_made_for(chip, code):
    """From 0.04 to 0.06 mm a tooth; by less than half it rubs. Half a thousandth either way is let pass."""
    found = told(0.04, 0.06, chip * 2 * 16000 / 60)
    assert [one for one, _ in found] == ([code] if code else [])
    if code:
        assert "its own range" in found[0][1] and f"{chip:.3f} mm a tooth" in found[0][1]


def test_without_a_range_of_its_own_common_practice_is_named():
    [(code, text)] = told(None, None, 400)
    assert code == "chip-load" and "common practice" in text and "Go slower, or turn faster" in text
    [(code, text)] = told(None, None, 2)
    assert code == "rubs" and "common practice" in text and "Go faster, or turn slower" in text


# What is written beside it


def test_a_name_on_a_part_that_is_turned_over_is_no_mirror_image():
    plate = evaluate(project([part("a", 80, 50, both_faces=True)])).parts["a"]
    plain = scored_name("A", plate.outline)
    assert plain and name_of(plate, Placement(part="a", copy_number=1, sheet=0, x=0, y=0, turn=0)) == plain
    over = Placement(part="a", copy_number=1, sheet=0, x=0, y=0, turn=0, mirrored=True)
    seen = [segment.moved(motion(over)) for path in name_of(plate, over) for segment in path.segments]
    # Turned half round, and no mirror image of itself.
    middle = seen[0].start + plain[0].segments[0].start
    for got, meant in zip(seen, (segment for path in plain for segment in path.segments), strict=True):
        assert abs(middle - got.start - meant.start) < 1e-9 and abs(middle - got.end - meant.end) < 1e-9
    # It lies on the part, too.
    left, bottom, right, top = plate.outline.moved(motion(over)).bounds
    assert all(left < s.start.real < right and bottom < s.start.imag < top for s in seen)
    bare = evaluate(project([part("b", 4, 4)])).parts["b"]
    assert name_of(bare, over.model_copy(update={"part": "b"})) == ()


def test_a_name_is_scored_beside_a_bend_and_not_across_it():
    metal = {"material": "aluminium", "nominal": "1.5", "readings": ["1.5"]}
    bend = {"kind": "line", "id": "bend", "length": "45", "runs": "up"}
    bent = evaluate(project([part("a", 80, 60, "alu", bends=[bend])], stocks=[stock("alu", **metal)])).parts["a"]
    named = name_of(bent, Placement(part="a", copy_number=1, sheet=0, x=0, y=0, turn=0))
    [laid] = bent.bends
    line = LineString([(laid.start.real, laid.start.imag), (laid.end.real, laid.end.imag)])
    drawn = [[(s.start.real, s.start.imag), (s.end.real, s.end.imag)] for path in named for s in path.segments]
    assert drawn and all(LineString(one).distance(line) > laid.half + 1 for one in drawn)


def test_a_name_is_scored_neither_across_what_is_marked_nor_on_the_floor_of_a_pocket():
    place = Placement(part="a", copy_number=1, sheet=0, x=0, y=0, turn=0)
    there = {"x": "0", "y": "0"}
    word = {"id": "word", "does": "engrave", "hole": {"kind": "text", "text": "SHORE", "height": "9"}, **there}
    marked = evaluate(project([part("a", 120, 40, cutouts=[word])])).parts["a"]
    assert marked.lines and name_of(marked, place) == ()
    square = {"kind": "rectangle", "width": "60", "height": "30"}
    floor = {"id": "floor", "does": "pocket", "depth": "1", "hole": square, **there}
    sunk = evaluate(project([part("a", 120, 40, cutouts=[floor])])).parts["a"]
    [pocket] = sunk.pockets
    named = name_of(sunk, place)
    assert named
    below = polygon_of(pocket.outline)
    lines = [[(s.start.real, s.start.imag), (s.end.real, s.end.imag)] for path in named for s in path.segments]
    assert all(LineString(line).distance(below) > 1 for line in lines)


@pytest.mark.parametrize("turn", [0, 45, 90, 135, 180, 225, 270, 315])
def test_what_is_told_of_a_bend_is_read_from_below_or_from_the_right(turn):
    metal = {"material": "aluminium", "nominal": "1.5", "readings": ["1.5"]}
    bend = {"kind": "line", "id": "bend", "length": "30", "runs": "up"}
    made = evaluate(project([part("a", 80, 60, "alu", bends=[bend])], stocks=[stock("alu", **metal)])).parts["a"]
    [words] = bend_words(made, Placement(part="a", copy_number=1, sheet=0, x=0, y=0, turn=turn))
    assert -90 <= words.turn < 90 + 1e-9 and (words.turn - turn) % 180 == pytest.approx(0, abs=1e-6)
    # They begin a mm from one end of the line and a mm above it, as they are read.
    begun = cmath.rect(1, -math.radians(words.turn)) * (
        words.at - motion(Placement(part="a", copy_number=1, sheet=0, x=0, y=0, turn=turn))(made.bends[0].middle)
    )
    assert begun.imag == pytest.approx(1) and begun.real == pytest.approx(-40 + 1)


def square_path(x, operation="cut", closed=True):
    loop = polygon([x, x + 20, x + 20 + 20j, x + 20j], [SOURCE] * 4)
    return CutPath(operation, loop.segments if closed else loop.segments[:3], closed)


@pytest.mark.parametrize(
    ("then", "left"),
    [
        (square_path(20), 60),
        (square_path(20.2), 80),
        # What is marked, or is no closed line, takes no side of another and loses none.
        (square_path(20, "score"), 80),
        (square_path(20, "cut", closed=False), 60),
    ],
)
def test_a_side_that_two_have_is_cut_once(then, left):
    jobs = [Job(JobKey("outer", name, 1), (path,)) for name, path in (("a", square_path(0)), ("b", then))]
    first, second = with_common_lines(jobs)
    assert sum(path.length for path in first.paths) == 80
    assert sum(path.length for path in second.paths) == pytest.approx(left)


@pytest.mark.parametrize(("beyond", "told_of"), [(0.0, False), (0.5, True)])
def test_what_leaves_the_bed_is_told_with_how_far_and_where(beyond, told_of):
    document = on_laser(laid_out(project([part("a", 100, 60)], hand_over={"names": "leave out"})))
    ready = prepare(document, evaluate(document), 0)
    to_bed = ready.bed.axes.back
    right = max(to_bed(point).real for move in ready.moves for point in (move.segment.start, move.segment.end))
    width = Size(text=f"{right - beyond:.6f}")
    narrow = document.machines[0].model_copy(update={"bed_width": width})
    narrowed = document.model_copy(update={"machines": [narrow]})
    ready = prepare(narrowed, evaluate(narrowed), 0)
    found = [one.text for one in ready.findings if one.code == "leaves-bed"]
    assert bool(found) == told_of
    if told_of:
        assert "by 0.5 mm at the right" in found[0]
