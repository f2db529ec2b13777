"""From loose lines to outlines: broken up, shuffled, doubled and flattened ones come back; what is unclear is told."""

import cmath
import math
from itertools import pairwise

import pytest
import shapely
import shapely.ops
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from leannotch_core.drawings.chains import Chain
from leannotch_core.drawings.mending import dividing
from leannotch_core.drawings.mending.arcs import with_arcs
from leannotch_core.drawings.mending.counting import count
from leannotch_core.drawings.mending.crossing import crossing
from leannotch_core.drawings.mending.ends import loose
from leannotch_core.drawings.mending.mend import Mends, mended
from leannotch_core.geometry.chords import points
from leannotch_core.geometry.loop import Loop
from leannotch_core.geometry.segment import Arc, Line, Motion, Source, arc_from_bulge

from ...properties import tried

S = Source("file", "line")


def path(*places):
    return [Line(complex(*a), complex(*b), S) for a, b in pairwise(places)]


def plate(x, y, width, height):
    return path((x, y), (x + width, y), (x + width, y + height), (x, y + height), (x, y))


def areas(found):
    return sorted(round(abs(Loop(chain.segments).area), 6) for chain in found.closed)


def outline(corners):
    """A closed run through corners ``(x, y, bulge)``."""
    places = [(complex(x, y), bulge) for x, y, bulge in corners]
    return [arc_from_bulge(a, places[(i + 1) % len(places)][0], bulge, S) for i, (a, bulge) in enumerate(places)]


#: Round a circle of growing and shrinking spokes, with sides that are lines or arcs: it never crosses itself.
outlines = st.lists(st.tuples(st.integers(30, 60), st.sampled_from([0, 0, 0.2, -0.15])), min_size=4, max_size=9).map(
    lambda spokes: outline(
        [
            (r * math.cos(math.tau * i / len(spokes)), r * math.sin(math.tau * i / len(spokes)), bulge)
            for i, (r, bulge) in enumerate(spokes)
        ]
    )
)


@settings(max_examples=tried(30))
@given(outlines, st.integers(0, 8), st.floats(-4, -2.01), st.floats(0, math.tau))
def test_a_line_too_short_to_lead_anywhere_takes_no_outline_with_it(drawn, corner, size, angle):
    """An outline that closes a few µm off, or whose corner was drawn twice: it is whole, and the speck is told."""
    corner %= len(drawn)
    before, after = drawn[corner - 1], drawn[corner]
    aside = before.end + cmath.rect(10**size, angle)
    begun = arc_from_bulge(aside, after.end, getattr(after, "bulge", 0), S)
    lines = [*drawn[:corner], Line(before.end, aside, S), begun, *drawn[corner + 1 :]]
    found = mended(lines, Mends(arcs=0))
    assert areas(found) == pytest.approx([abs(Loop(tuple(drawn)).area)], abs=1)
    assert (len(found.specks), found.open, found.doubled) == (1, [], 0)


def test_an_outline_that_ends_a_few_microns_from_its_beginning_is_taken():
    """Found by reading drawings of others: the last of its sides is 0.004 mm long."""
    at = [77.3728, 57.8004, 50.4064, 79.3954, 15.9914, 58.9269, 33.6903, 26.8779, 69.9547, 28.3722, 77.3694, 57.7982]
    corners = [*zip(at[::2], at[1::2], strict=True), (at[0], at[1])]
    found = mended(path(*corners), Mends())
    assert areas(found) == pytest.approx([shapely.Polygon(corners).area], abs=0.1) and not found.open


@settings(max_examples=tried(30))
@given(outlines, st.randoms(use_true_random=False), st.sampled_from([0.02, 0.1, 0.4]))
def test_an_outline_broken_up_shuffled_and_shifted_by_less_than_the_tolerance_comes_back(drawn, random, tolerance):
    whole = abs(Loop(tuple(drawn)).area)
    pieces = [part for s in drawn for part in (s.between(s.start, s.at(0.5)), s.between(s.at(0.5), s.end))]
    shift = [cmath.rect(tolerance * 0.24 * random.random(), random.random() * math.tau) for _ in pieces]
    loose = [
        Line(s.start + d, s.end + d, S) if isinstance(s, Line) else Arc(s.start + d, s.end + d, s.centre + d, s.ccw, S)
        for s, d in zip(pieces, shift, strict=True)
    ]
    loose = [s.reversed() if random.random() < 0.5 else s for s in loose]
    random.shuffle(loose)
    found = mended(loose, Mends(join=tolerance, arcs=0))
    assert len(found.closed) == 1 and not found.open and not found.unclear
    assert abs(Loop(found.closed[0].segments).area) == pytest.approx(whole, abs=tolerance * 400)


@settings(max_examples=tried(30))
@given(outlines, st.randoms(use_true_random=False))
def test_what_is_drawn_twice_wholly_or_in_part_is_taken_once(drawn, random):
    whole = round(abs(Loop(tuple(drawn)).area), 6)
    begin, end = sorted((random.uniform(0, 0.4), random.uniform(0.6, 1)))
    twice = [s.between(s.at(begin), s.at(end)) for s in random.sample(drawn, 2)]
    found = mended([*drawn, *(s.reversed() for s in twice), drawn[0]], Mends(arcs=0))
    assert areas(found) == pytest.approx([whole], abs=0.05) and found.doubled == 3


@pytest.mark.parametrize("chords", [60, 700, 4000])
def test_chords_of_a_fine_curve_are_no_doubles_of_their_neighbours(chords):
    corners = [cmath.rect(50, math.tau * i / chords) for i in range(chords)]
    ring = [Line(a, corners[(i + 1) % chords], S) for i, a in enumerate(corners)]
    found = mended([*ring, ring[3], ring[-1]], Mends())
    assert found.doubled == 2 and areas(found) == pytest.approx([math.pi * 2500], rel=1e-6)


def test_lines_that_overlap_in_part_keep_both_ends():
    """A side drawn as 0 to 60 and 40 to 100."""
    sides = [*path((0, 0), (60, 0)), *path((40, 0), (100, 0)), *path((100, 0), (100, 50), (0, 50), (0, 0))]
    assert areas(mended(sides, Mends())) == [5000]


def test_neighbours_that_share_a_side_both_get_it():
    shared = mended([*plate(0, 0, 50, 40), *path((50, 0), (90, 0), (90, 40), (50, 40))], Mends())
    assert areas(shared) == [1600, 2000] and shared.shared == 1
    # The neighbour's side is shorter, and ends upon the other one's.
    upon = mended([*plate(0, 0, 50, 40), *path((50, 10), (90, 10), (90, 30), (50, 30))], Mends())
    assert areas(upon) == [800, 2000]
    twice = mended([*plate(0, 0, 50, 40), *plate(50, 10, 40, 20)], Mends())
    assert areas(twice) == [800, 2000] and twice.doubled == 1


@pytest.mark.parametrize("first", [True, False])
def test_a_diagonal_makes_two_outlines_and_a_tail_stays_open(first):
    diagonal, tail = path((0, 0), (50, 40)), path((50, 40), (70, 60))
    square = plate(0, 0, 50, 40)
    assert areas(mended([*diagonal, *square] if first else [*square, *diagonal], Mends())) == [1000, 1000]
    found = mended([*tail, *square] if first else [*square, *tail], Mends())
    assert areas(found) == [2000] and [len(chain.segments) for chain in found.open] == [1]


def test_an_end_that_could_join_two_others_is_told_and_never_guessed():
    three = [*path((0, 0), (50, 0)), *path((50.1, 0), (90, 30)), *path((50.05, 0.1), (50, 40))]
    found = mended(three, Mends(join=0.3))
    assert len(found.unclear) == 3 and found.joined == 0 and len(found.open) == 3


def test_a_gap_is_told_as_wide_as_it_is():
    open_plate = path((0.3, 0), (100, 0), (100, 50), (0, 50), (0, 0))
    assert mended(open_plate, Mends()).gap == pytest.approx(0.3)
    closed = mended(open_plate, Mends(join=0.4))
    assert closed.joined == 1 and len(closed.closed) == 1


# Lines that cross


def grid(over):
    """Three cells by two of 20 mm as seven lines, each of which runs on past the others by so much."""
    upright = [Line(complex(x, -over), complex(x, 40 + over), S) for x in (0, 20, 40, 60)]
    return [*upright, *(Line(complex(-over, y), complex(60 + over, y), S) for y in (0, 20, 40))]


@pytest.mark.parametrize(("over", "tails", "little"), [(5, 10, 0), (0.051, 10, 0), (0.049, 0, 14), (0, 0, 0)])
def test_lines_that_cross_without_ends_enclose_rooms_or_one_whole(over, tails, little):
    found = mended(grid(over), Mends())
    assert areas(found) == pytest.approx([400] * 6) and (len(found.open), len(found.over)) == (tails, little)
    whole = mended(grid(over), Mends(crossing="whole"))
    # The seven lines within it are left out, and it is known where.
    assert areas(whole) == pytest.approx([2400]) and len(whole.inside) == 7
    # Marks lie across one another as they were drawn.
    marks = mended(grid(over), Mends(crossing="as drawn"))
    assert len(marks.closed) == 0 or over == 0


@settings(max_examples=tried(30))
@given(outlines, st.floats(0, math.tau), st.floats(-8, 8))
def test_a_line_across_an_outline_parts_it_and_nothing_of_it_is_lost(drawn, angle, aside):
    way = cmath.rect(1, angle)
    across = Line(way * (aside * 1j - 200), way * (aside * 1j + 200), S)
    whole = abs(Loop(tuple(drawn)).area)
    shape = shapely.Polygon([(p.real, p.imag) for s in drawn for p in points(s, 0.001)])
    cut = shapely.LineString([(e.real, e.imag) for e in (across.start, across.end)])
    judged = [piece.area for piece in shapely.ops.split(shape, cut).geoms]
    # A cut along an edge or by a corner is another case.
    assume(min(judged) > 1 and all(abs(((c.start - across.start) / way).imag) > 0.1 for c in drawn))
    found = mended([*drawn, across], Mends(arcs=0))
    assert areas(found) == pytest.approx(sorted(judged), abs=0.5) and sum(areas(found)) == pytest.approx(whole)
    assert areas(mended([*drawn, across], Mends(arcs=0, crossing="whole"))) == pytest.approx([whole])


@pytest.mark.parametrize(("upright", "too_many"), [(10, False), (11, True)])
def test_lines_that_cross_more_often_than_any_drawing_are_left_and_that_is_known(upright, too_many, monkeypatch):
    monkeypatch.setattr(dividing, "MOST_CROSSINGS", 50)
    lines = [Line(complex(-1, y), complex(20, y), S) for y in range(5)]
    found = mended([*lines, *(Line(complex(x, -1), complex(x, 5), S) for x in range(upright))], Mends(arcs=0))
    assert (found.too_many, len(found.closed)) == (too_many, 0 if too_many else 36)


def test_outlines_that_overlap_stay_as_they_are_or_become_one():
    two = [*plate(0, 0, 10, 10), *plate(5, 5, 10, 10)]
    assert areas(mended(two, Mends())) == [100, 100]
    assert areas(mended(two, Mends(crossing="whole"))) == [175]
    # They hang together by a corner only.
    assert areas(mended([*plate(0, 0, 10, 10), *plate(10, 10, 10, 10)], Mends(crossing="whole"))) == [100, 100]


@pytest.mark.parametrize(("size", "within", "mended_it"), [(0.02, 0.01, True), (0.3, 0.01, False), (0.3, 0.5, True)])
@pytest.mark.parametrize("turned", range(6))
def test_a_little_loop_of_an_outline_is_taken_out_wherever_it_begins(size, within, mended_it, turned):
    # The last corner runs past the first side: up the left edge, over its top, and back across it.
    corners = [0, 100, 100 + 50j, -size + 50j, -size + (50 + size) * 1j, (50 + size) * 1j]
    corners = corners[turned:] + corners[:turned]
    loop = Loop(tuple(Line(a, corners[(i + 1) % 6], S) for i, a in enumerate(corners)))
    found = crossing([loop], within)
    assert (len(found.round), len(found.crossed)) == ((1, 0) if mended_it else (0, 1))
    if mended_it:
        assert found.round[0].area == pytest.approx(5000) and found.untied == pytest.approx([50j])


def test_outlines_that_overlap_or_enclose_nothing_are_told_with_their_place():
    def square(x, y, width=20, height=20):
        return Loop(tuple(plate(x, y, width, height)))

    found = crossing([square(0, 0), square(10, 10), square(100, 0), square(105, 5, 4, 4), square(120, 0)])
    (at,) = found.overlaps
    assert 10 < at.real < 20 and 10 < at.imag < 20 and len(found.round) == 5
    assert [at for _, at in crossing([square(3, 4, 50, 1e-7)]).empty] == [3 + 4j]


# Chords


@settings(max_examples=tried(50))
@given(outlines, st.sampled_from([0.004, 0.02, 0.1, 0.3]))
def test_flattened_arcs_are_found_again_and_none_is_invented(drawn, tolerance):
    """Every side of an outline that is an arc comes back as that arc, where its chords are enough to tell."""
    flat = [
        Line(a, b, S)
        for s in drawn
        for places in ([s.start, *points(s, tolerance)[1:], s.end] if isinstance(s, Arc) else [s.start, s.end],)
        for a, b in pairwise(places)
        if abs(b - a) > 1e-6
    ]
    # Nine chords of a full turn are an arc by the rule, whoever drew them as sides.
    assume(len(drawn) < 9 or len({round(abs(s.start), 6) for s in drawn if isinstance(s, Line)}) > 1)
    counts = [len([p for p in points(s, tolerance)]) for s in drawn if isinstance(s, Arc)]
    assume(all(count >= 5 for count in counts))
    found = with_arcs(Chain(tuple(flat), True)).chain.segments
    assert abs(Loop(found).area) == pytest.approx(abs(Loop(tuple(drawn)).area), rel=1e-6)
    arcs = [s for s in drawn if isinstance(s, Arc)]
    assert sum(isinstance(s, Arc) for s in found) == len(arcs)
    assert sum(isinstance(s, Line) for s in found) == len(drawn) - len(arcs)


@pytest.mark.parametrize(("sides", "arcs"), [(6, 0), (8, 0), (12, 2), (48, 2), (200, 2)])
def test_a_hexagon_stays_one_and_a_circle_of_chords_is_a_circle(sides, arcs):
    corners = [cmath.rect(20, math.tau * i / sides) for i in range(sides)]
    flat = tuple(Line(a, corners[(i + 1) % sides], S) for i, a in enumerate(corners))
    found = with_arcs(Chain(flat, True))
    assert sum(isinstance(s, Arc) for s in found.chain.segments) == arcs
    if arcs:
        assert Loop(found.chain.segments).area == pytest.approx(math.pi * 400, rel=1e-6)


def test_a_gap_and_the_chords_of_an_outline_can_be_left_one_by_one():
    knob = [(60 + 10 * math.cos(i / 12 * math.pi), 10 * math.sin(i / 12 * math.pi)) for i in range(24)]
    drawn = [*path((0, 0.3), (0, 20), (30, 20), (30, 0), (0, 0)), *path(*knob, knob[0])]
    taken = mended(drawn, Mends(join=0.5))
    (gap,), (curve,) = taken.gaps, taken.curves
    assert (round(gap.width, 9), curve.chords, curve.arcs, len(taken.closed)) == (0.3, 24, 1, 2)
    left = mended(drawn, Mends(join=0.5, apart=(gap.at,), polygons=(curve.at,)))
    assert (left.joined, len(left.open), left.arcs) == (0, 1, 0)
    assert not left.gaps[0].taken and not left.curves[0].taken
    assert len(left.closed[0].segments) == 24 and all(isinstance(s, Line) for s in left.closed[0].segments)
    doubled = mended([*drawn, *path((30, 20), (30, 5))], Mends(join=0.5))
    assert [round(s.length, 9) for s in doubled.twice] == [15.0]


@settings(max_examples=tried(20))
@given(st.lists(outlines, min_size=1, max_size=4), st.sampled_from([0.02, 0.3]), st.integers(0, 3))
def test_the_count_told_while_a_tolerance_is_dragged_is_that_of_the_outlines_it_gives(drawn, tolerance, tails):
    lines = []
    for number, one in enumerate(drawn):
        shift = 200 * number
        moved = [s.moved(Motion(shift=shift)) for s in one]
        # Every outline opens by 0.1 mm at its beginning, and has a wall to its middle that makes two rooms of it.
        lines += [*moved[:-1], moved[-1].between(moved[-1].start, moved[-1].at(1 - 0.1 / moved[-1].length))]
        lines += path((shift, 0), (moved[2].start.real, moved[2].start.imag))[: number % 2]
    lines += [Line(complex(-100, y), complex(-80, y), S) for y in range(tails)]
    found, counted = mended(lines, Mends(join=tolerance, arcs=0)), count(loose(lines), tolerance)
    assert (counted.closed, counted.joined) == (len(found.closed), found.joined)
    assert counted.loose == 2 * tails + 2 * len(drawn) * (tolerance < 0.1) + len(drawn) // 2
