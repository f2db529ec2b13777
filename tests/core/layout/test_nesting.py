"""Nesting: nothing overlaps whatever lies where, known optima are found, and sheets are taken by worth."""

import math
import random
from functools import lru_cache
from itertools import product
from types import SimpleNamespace

import pytest
import shapely
from hypothesis import Phase, given, settings
from hypothesis import strategies as st
from leannotch_core.document.sheet import CopyOf, Placement
from leannotch_core.document.sizes import Size
from leannotch_core.edits.command import apply
from leannotch_core.edits.layout import LayAgain, MoveSheet, PlaceParts
from leannotch_core.edits.layout_mends import with_mends
from leannotch_core.evaluate import evaluate
from leannotch_core.geometry.chords import as_polygon
from leannotch_core.layout.beside import beside
from leannotch_core.layout.kinds import SheetKind, cheaper
from leannotch_core.layout.merged import merged
from leannotch_core.layout.nest import nest
from leannotch_core.layout.rest import largest_rest
from leannotch_core.layout.sheets import check_layout, motion, usable
from leannotch_core.layout.told import compared_with, told
from leannotch_core.machining.plan import plan_sheet
from leannotch_core.parts.shapes.rectangle import Rectangle
from leannotch_core.said import Said
from shapely import Polygon, box
from shapely.affinity import affine_transform

from bench.nesting import TANGRAM

from ...projects import part, project, stock, text
from ...properties import tried

#: Layouts are right to a millionth of a mm; chords of the judge leave an arc by less than that.
EXACT, CHORDS = 1e-6, 2e-7
#: Two sides that meet in a spike may be a hair nearer than they should: along the spike that is ten times as much.
SPIKE = 1e-5


def laid(document, rounds=0, seed=1):
    """The last layout found in so many rounds, in the document; the first one in none."""
    result = evaluate(document)
    *_, last = nest(document, result, 60 if rounds else 0, seed=seed, rounds=rounds)
    return document.model_copy(update={"layout": last.layout}), last


def until(document, good, rounds=4000):
    """The document with the first layout that is ``good``."""
    for found in nest(document, evaluate(document), 60, rounds=rounds):
        if good(found.layout):
            return document.model_copy(update={"layout": found.layout})
    raise AssertionError(f"not in {rounds} rounds: {[(s.width, s.height) for s in found.layout.sheets]}")


def sheets_of(document):
    return [(sheet.width, sheet.height) for sheet in document.layout.sheets]


@lru_cache(maxsize=64)
def exact(outline):
    return as_polygon(outline, CHORDS)


def moved(shape, place):
    turn, shift, over = place.turn, place.shift, -1 if place.mirrored else 1
    return affine_transform(shape, [turn.real, -turn.imag * over, turn.imag, turn.real * over, shift.real, shift.imag])


def judge(document, gap, margin):
    """Shapely finds gap and margin kept on every sheet, measured on the finished outlines with their arcs."""
    result = evaluate(document)
    for number, sheet in enumerate(document.layout.sheets):
        there = [p for p in document.layout.placements if p.sheet == number]
        shapes = [moved(exact(result.parts[p.part].outline), motion(p)) for p in there]
        shapely.prepare(shapes)
        material = usable(sheet)
        for shape in shapes:
            assert material.buffer(EXACT).contains(shape)
            assert margin == 0 or not shapely.dwithin(shape, material.boundary, margin - SPIKE)
        for a, b in zip(*shapely.STRtree(shapes).query(shapes, "dwithin", gap), strict=True):
            assert a >= b or gap == 0 or not shapely.dwithin(shapes[a], shapes[b], gap - SPIKE)
            assert a >= b or gap > 0 or shapes[a].intersection(shapes[b]).area < EXACT * shapes[a].length


def polygon_part(name, points, **more):
    ring = [{"x": x, "y": y} for x, y in points]
    xs, ys = [x for x, _ in points], [y for _, y in points]
    shape = {"kind": "brought", "rings": [ring], "width": str(max(xs) - min(xs)), "height": str(max(ys) - min(ys))}
    return part(name, 1, 1, **more) | {"shape": shape}


def ring_part(name, outer, inner, **more):
    hole = {"id": "c", "hole": {"kind": "round", "diameter": str(inner)}, "origin": "middle", "x": "0", "y": "0"}
    return disc_part(name, outer, cutouts=[hole], **more)


def disc_part(name, across, **more):
    return part(name, 1, 1, **more) | {"shape": {"kind": "ellipse", "width": str(across), "height": str(across)}}


L_SHAPED = [{"x": x, "y": y} for x, y in ((0, 0), (300, 0), (300, 90), (120, 90), (120, 200), (0, 200))]


def clip(left, bottom, width, height, what="clip"):
    return {"what": what, "left": str(left), "bottom": str(bottom), "width": str(width), "height": str(height)}


@settings(max_examples=tried(13), deadline=None, phases=[Phase.explicit, Phase.generate])
@given(
    st.lists(st.tuples(st.sampled_from("rdcwl"), st.integers(8, 70), st.integers(6, 50)), min_size=1, max_size=9),
    st.sampled_from(["grain", "180", "90", "45", "any"]),
    st.sampled_from([0, 0.5, 2, 7]),
    st.sampled_from([0, 3, 5]),
    st.booleans(),
    st.lists(st.tuples(st.integers(0, 250), st.integers(0, 150), st.integers(5, 60), st.integers(5, 60)), max_size=2),
)
def test_nothing_overlaps_on_any_sheet_and_all_is_placed_or_told_why(parts, turns, gap, margin, is_offcut, clips):
    def made(at, kind, width, height):
        more = {"turns": turns, "both_faces": kind == "w", "count": 2, "group": "mine" if kind == "d" else ""}
        if kind == "d":
            return disc_part(f"p{at}", width, **more)
        if kind == "c":
            return ring_part(f"p{at}", width + 20, width, **more)
        if kind == "w":
            return polygon_part(f"p{at}", [(0, 0), (width, 0), (width / 3, height)], **more)
        if kind == "l":
            bend = [(0, 0), (width, 0), (width, height / 3), (width / 3, height / 3), (width / 3, height), (0, height)]
            return polygon_part(f"p{at}", bend, **more)
        return part(f"p{at}", width, height, **more)

    sheet = {"width": "300", "height": "200", "outline": L_SHAPED if is_offcut else [], "at_hand": 3}
    sheet["keep_outs"] = [clip(*places) for places in clips]
    document = project(
        [made(at, *one) for at, one in enumerate(parts)],
        stocks=[stock(sheets=[sheet], smallest_web="0.1")],
        layout={"gap": str(gap), "margin": str(margin)},
    )
    document, last = laid(document, rounds=25)
    judge(document, gap, margin)
    assert check_layout(document, evaluate(document)).findings == [] or last.findings
    told_of = {finding.place.part for finding in last.findings}
    there = {(p.part, p.copy_number) for p in document.layout.placements}
    for one in document.parts:
        assert one.id in told_of or {(one.id, 1), (one.id, 2)} <= there


def test_a_tangram_is_put_together_again():
    # The optimum is the square of 100 x 100 that the seven pieces are cut from; 1 mm is left.
    parts = [polygon_part(f"p{at}", points, turns="45") for at, points in enumerate(TANGRAM)]
    sheet = {"width": "101", "height": "101"}
    document = project(parts, stocks=[stock(sheets=[sheet])], layout={"gap": "0", "margin": "0"})
    document = until(document, lambda layout: len(layout.sheets) == 1, rounds=12000)
    judge(document, 0, 0)
    # Turns are exact: none is nearly 45 degrees.
    assert all(p.turn % 45 == 0 for p in document.layout.placements)


def test_a_strip_fits_on_the_diagonal_only_and_five_of_them_on_one_sheet():
    # 690 and 650 mm are more than the sheet is wide, and less than its diagonal of 721 (Pythagoras). By hand: at 32
    # degrees a band of 650 x 65 fits, which is five of 10 with gaps of 1.
    strip = part("strip", 690, 10, turns="any")
    document, last = laid(project([strip]))
    assert len(document.layout.placements) == 1 and last.findings == ()
    document = project([part("strip", 650, 10, turns="any", count=5)], layout={"gap": "1", "margin": "0"})
    document = until(document, lambda layout: len(layout.sheets) == 1 and len(layout.placements) == 5)
    judge(document, 1, 0)
    document, last = laid(project([strip | {"turns": "90"}]))
    assert "fits no sheet in the turns it may take" in last.findings[0].text


def test_rectangles_that_fill_a_sheet_exactly_fill_it():
    # By hand: 4 x 3 of 146 x 128.666… with gaps of 2 and a margin of 5 are 600 x 400.
    document, _ = laid(project([part("card", 146, "386 / 3", count=12, turns="180")]))
    assert sheets_of(document) == [(600, 400)]
    judge(document, 2, 5)


@pytest.mark.parametrize(("count", "rows"), [(29, 2), (58, 4)])
def test_many_discs_lie_in_the_gaps_of_each_other(count, rows):
    # Rows of 15 and 14 upright; from row to row the height of an equilateral triangle.
    document, _ = laid(project([disc_part("disc", 24, count=count)], layout={"gap": "2", "margin": "5"}))
    lying = [p.x for p in document.layout.placements]
    reach = 26 * (1 + (rows - 1) * math.sqrt(3) / 2)
    assert max(lying) - min(lying) + 26 == pytest.approx(reach, rel=0.01)
    judge(document, 2, 5)


def test_discs_lie_in_rings_and_rings_in_rings():
    rings = [ring_part("large", 120, 100, count=2), ring_part("small", 60, 40, count=2)]
    document, _ = laid(project([*rings, disc_part("disc", 30, count=2)]))
    judge(document, 2, 5)
    spans = {}
    for p in document.layout.placements:
        shape = as_polygon(evaluate(document).parts[p.part].outline.moved(motion(p)))
        spans.setdefault(p.part, []).append(Polygon(shape.exterior))
    rings = [*spans["large"], *spans["small"]]
    assert all(any(hull.contains(one) for hull in spans["large"]) for one in spans["small"])
    assert all(any(hull.contains(one) for hull in rings) for one in spans["disc"])


def test_sheets_are_taken_by_worth_and_by_how_many_there_are():
    large, small = {"width": "600", "height": "400"}, {"width": "300", "height": "200"}
    plates = [part("plate", 280, 180, count=5, turns="180")]
    # Four fill a large one, the fifth a small one: 300,000 mm² and not 480,000.
    document, _ = laid(project(plates, stocks=[stock(sheets=[large, small])]))
    assert sorted(sheets_of(document)) == [(300, 200), (600, 400)]
    # Small ones for less than a quarter of a large one.
    dear = [large | {"worth": 20}, small | {"worth": 4}]
    document, _ = laid(project(plates, stocks=[stock(sheets=dear)]), rounds=30)
    assert sheets_of(document) == [(300, 200)] * 5
    # An offcut that is there once is used once; what then finds no sheet is told.
    once = [small | {"at_hand": 1}]
    document, last = laid(project(plates, stocks=[stock(sheets=once)]))
    assert sheets_of(document) == [(300, 200)]
    assert "no sheet left at hand for Plate" in last.findings[0].text
    with pytest.raises(Said, match="finds no room on a sheet of its stock that is at hand"):
        apply(document, LayAgain(copies=[CopyOf(part="plate", copy_number=2)]))
    # A sheet that holds what was placed by hand is one of those at hand.
    held = Placement(part="plate", copy_number=1, sheet=0, x=10, y=10, turn=0, by_hand=True)
    document = apply(document, PlaceParts(do="place parts", placements=[held]))
    again, last = laid(document)
    assert sheets_of(again) == [(300, 200)] and last.findings


def test_an_offcut_with_a_clip_on_it_is_filled_round_the_clip():
    sheet = {"width": "300", "height": "200", "outline": L_SHAPED, "keep_outs": [clip(130, 0, 30, 20)]}
    document = project([part("tag", 40, 28, count=22)], stocks=[stock(sheets=[sheet])])
    document = until(document, lambda layout: len(layout.sheets) == 1)
    judge(document, 2, 5)
    # It comes back as it is in the layout, and what lies on the clip is told.
    assert usable(document.layout.sheets[0]).area == pytest.approx(300 * 90 + 120 * 110 - 30 * 20)
    moved = document.layout.placements[0].model_copy(update={"x": 135.0, "y": 5.0, "turn": 0.0, "by_hand": True})
    document = apply(document, PlaceParts(do="place parts", placements=[moved]))
    findings = check_layout(document, evaluate(document)).findings
    assert any("is missing or held by a clip" in finding.text for finding in findings)
    document = apply(document, LayAgain(copies=[CopyOf(part="tag", copy_number=moved.copy_number)]))
    judge(document, 2, 5)


def test_what_belongs_together_lies_on_one_sheet():
    parts = [part(f"p{at}", 180, 120, count=2, group=("blue", "red")[at % 2]) for at in range(6)]
    parts.append(part("loose", 60, 60, count=3))
    document, _ = laid(project(parts), rounds=200)
    assert len(document.layout.sheets) == 2
    for group in ("blue", "red"):
        own = {one.id for one in document.parts if one.group == group}
        assert len({p.sheet for p in document.layout.placements if p.part in own}) == 1
    assert check_layout(document, evaluate(document)).findings == []
    # Moved apart, they are told.
    away = next(p for p in document.layout.placements if p.part == "p0")
    moved = away.model_copy(update={"sheet": 1 - away.sheet, "by_hand": True})
    document = apply(document, PlaceParts(do="place parts", placements=[moved]))
    texts = [finding.text for finding in check_layout(document, evaluate(document)).findings]
    assert any("The parts of “blue” lie on sheets 1, 2" in text for text in texts)


def test_sheets_are_put_in_another_order_with_all_that_lies_on_them():
    document, _ = laid(project([part("large", 500, 380, count=2), part("small", 40, 30)]))
    first = {p.copy_number: p.sheet for p in document.layout.placements if p.part == "large"}
    document = apply(document, MoveSheet(do="move sheet", sheet=1, to=0))
    assert {p.copy_number: 1 - p.sheet for p in document.layout.placements if p.part == "large"} == first
    judge(document, 2, 5)
    with pytest.raises(Said, match="not in the layout"):
        apply(document, MoveSheet(do="move sheet", sheet=0, to=2))


def test_a_part_good_on_both_faces_is_turned_over_and_cut_as_intended():
    # A right triangle with unequal legs and its mirror image make a rectangle; turned in its plane it does not.
    wedge = polygon_part("wedge", [(0, 0), (60, 0), (0, 100)], turns="180", count=2, both_faces=True)
    wedge["cutouts"] = [{"id": "c", "hole": {"kind": "round", "diameter": "8"}, "x": "14", "y": "20"}]
    document, _ = laid(project([wedge]))
    over = [p.model_copy(update={"mirrored": p.copy_number == 2, "by_hand": True}) for p in document.layout.placements]
    over = [p.model_copy(update={"y": 130.0, "x": 200.0}) if p.mirrored else p for p in over]
    document = apply(document, PlaceParts(do="place parts", placements=over))
    result = evaluate(document)
    assert check_layout(document, result).findings == []
    plan = plan_sheet(document, result, 0)
    assert sum(path.operation == "cut" for path in plan.paths) == 4
    area = sum(loop.area for loop in result.parts["wedge"].outline.moved(motion(over[-1])).loops)
    assert area == pytest.approx(result.parts["wedge"].outline.area)
    # What is marked is good on one face only.
    marked = wedge | {"cutouts": [text("N", "10", "40", height="6")]}
    document = document.model_copy(update={"parts": project([marked]).parts})
    assert "lies on its face" in check_layout(document, evaluate(document)).findings[0].text


def test_what_is_cut_already_is_gone_round_and_not_cut_again():
    document, _ = laid(project([part("plate", 150, 100, count=6)]))
    there = {"cut": True, "x": 250.0, "y": 150.0, "turn": 0.0}
    cut = [document.layout.placements[0].model_copy(update=there)]
    document = apply(document, PlaceParts(do="place parts", placements=cut))
    again, _ = laid(document, rounds=30)
    judge(again, 2, 5)
    assert cut[0] in again.layout.placements
    assert len(plan_sheet(again, evaluate(again), 0).placements) == 5


def test_what_has_changed_and_is_all_cut_is_told_and_laid_nowhere_again():
    document, _ = laid(project([part("plate", 150, 100, count=2)]))
    done = [CopyOf(part="plate", copy_number=number) for number in (1, 2)]
    wider = [plate.model_copy(update={"shape": Rectangle(width="160", height="100")}) for plate in document.parts]
    layout = document.layout.model_copy(update={"done": done, "placements": []})
    document = document.model_copy(update={"parts": wider, "layout": layout})
    told = [with_mends(finding) for finding in check_layout(document, evaluate(document)).findings]
    assert [finding.mends for finding in told if finding.code == "out-of-date"] == [()]


def test_parts_placed_by_hand_are_gone_round_by_the_whole_search():
    document, _ = laid(project([part("plate", 180, 120, count=8, turns="180"), part("bar", 300, 20)]))
    bar = Placement(part="bar", copy_number=1, sheet=0, x=150, y=190, turn=0, by_hand=True)
    document = apply(document, PlaceParts(do="place parts", placements=[bar]))
    # The bar lies across the middle: 3 plates below it, 3 above it.
    again, _ = laid(document, rounds=100)
    judge(again, 2, 5)
    assert bar in again.layout.placements
    assert [sum(p.sheet == at for p in again.layout.placements) for at in range(2)] == [7, 2]


def test_the_same_rounds_give_the_same_layout_and_more_are_never_worse():
    parts = [polygon_part(f"p{at}", [(0, 0), (40 + 9 * at, 0), (20, 70)], turns="any") for at in range(6)]
    parts += [disc_part("disc", 44, count=5), part("plate", 150, 60, count=6)]
    document = project(parts, stocks=[stock(sheets=[{"width": "400", "height": "200"}])])
    result = evaluate(document)
    found = [list(nest(document, result, 60, rounds=120)) for _ in range(2)]
    assert found[0][-1].layout == found[1][-1].layout
    used = [(len(n.layout.sheets), told(document, result, n.layout, n.layout)) for n in found[0]]
    worth = [count for count, _ in used]
    assert worth == sorted(worth, reverse=True)
    judge(document.model_copy(update={"layout": found[0][-1].layout}), 2, 5)


def test_laying_out_again_is_never_worse_than_what_was_there():
    parts = [polygon_part(f"p{at}", [(0, 0), (40 + 9 * at, 0), (20, 70)], turns="180") for at in range(6)]
    document = project(
        [*parts, disc_part("disc", 44, count=5)], stocks=[stock(sheets=[{"width": "300", "height": "150"}])]
    )
    better, _ = laid(document, rounds=150)

    def taken(document):
        rest = told(document, evaluate(document), document.layout, document.layout).left[0]
        return len(document.layout.sheets), -round(rest.width * rest.height)

    first, _ = laid(document)
    again, _ = laid(better)
    assert taken(again) <= taken(better) < taken(first)
    # A part that has grown does not lie as it did.
    grown = again.parts[-1].model_copy(
        update={"shape": again.parts[-1].shape.model_copy(update={"width": Size(text="60")})}
    )
    grown = again.model_copy(update={"parts": [*again.parts[:-1], grown]})
    judge(laid(grown)[0], 2, 5)


def test_a_layout_says_what_it_takes_and_what_is_left_whole():
    document, last = laid(project([part("plate", 380, 390)]))
    result = evaluate(document)
    facts = told(document, result, last.layout, last.layout)
    assert [(size.width, size.height, size.count) for size in facts.takes] == [(600, 400, 1)]
    # By hand: to the right of the plate and its gap 600 - 5 - 380 - 2 are left over the whole height.
    assert (facts.left[0].width, facts.left[0].height) == pytest.approx((213, 400), abs=0.05)
    assert facts.used == pytest.approx(380 * 390 / 240000)


def test_what_is_left_whole_is_the_largest_rectangle_between_parts():
    # By hand: 600 x 400 with a block in two corners leaves the band between them.
    rest = largest_rest(600, 400, [box(0, 0, 200, 150), box(300, 300, 600, 400)], 0)
    assert rest and (rest.left, rest.bottom, rest.width, rest.height) == pytest.approx((200, 0, 400, 300), abs=1e-6)


def test_a_dragged_part_touches_its_neighbour_at_the_gap_and_says_what_it_lies_on():
    parts = [part("a", 100, 60), disc_part("b", 50)]
    places = [
        Placement(part="a", copy_number=1, sheet=0, x=20, y=20, turn=0),
        Placement(part="b", copy_number=1, sheet=0, x=300, y=200, turn=0),
    ]
    document, _ = laid(project(parts))
    document = apply(document, PlaceParts(do="place parts", placements=places))
    result = evaluate(document)
    # Dragged to 3.2 mm right of the plate it goes to 2 mm from it; 8 mm away nothing holds it.
    near = places[1].model_copy(update={"x": 123.2, "y": 25.0})
    found = beside(document, result, near, 4)
    assert found and found.free and found.x == pytest.approx(122, abs=1e-5) and found.y == 25
    assert found.neighbours[0].distance == pytest.approx(2, abs=1e-3)
    far = beside(document, result, near.model_copy(update={"x": 128.0}), 4)
    assert far and far.x == 128.0
    # On top of it, it says so; at the edge of the sheet it goes to the margin.
    on_top = beside(document, result, near.model_copy(update={"x": 60.0, "y": 30.0}), 0)
    assert on_top and not on_top.free and [copy.part for copy in on_top.in_the_way] == ["a"]
    edge = beside(document, result, near.model_copy(update={"x": 300.0, "y": 3.5}), 4)
    assert edge and edge.y == pytest.approx(5, abs=0.01)


def test_a_sheet_that_was_sold_meanwhile_makes_a_found_layout_an_offer():
    document, last = laid(project([part("a", 100, 60)]))
    sold = stock(sheets=[{"width": "600", "height": "400", "at_hand": 0}])
    assert merged(document, document.model_copy(update={"stocks": [sold]}), last.layout) is None


def test_choices_of_sheets_are_those_that_counting_all_of_them_finds():
    """Judged by trying every count of every kind."""
    chance, found_some = random.Random(5), 0
    for _ in range(120):
        rooms = [chance.choice([1.0, 2.0, 3.0, 5.0]) for _ in range(chance.randint(1, 3))]
        kinds = [
            SheetKind(
                number, 1, 1, chance.choice([0.5, 1.0, 1.5, 2.0]), chance.choice([None, 1, 2]), None, (), room, None
            )
            for number, room in enumerate(rooms)
        ]
        need, held, worth = chance.uniform(0.5, 9), chance.choice([0.0, 1.0]), chance.uniform(0.5, 5)
        items, grounds = [SimpleNamespace(shape=box(0, 0, need, 1))], [SimpleNamespace(room=held)]
        counts = [range((int(worth / kind.worth) if kind.at_hand is None else kind.at_hand) + 1) for kind in kinds]
        wanted = {
            choice
            for choice in product(*counts)
            if sum(n * kind.worth for n, kind in zip(choice, kinds, strict=True)) < worth - 1e-9
            and sum(n * kind.room for n, kind in zip(choice, kinds, strict=True)) >= need - held - 1e-6
        }
        assert set(cheaper(kinds, items, grounds, worth)) == wanted
        found_some += bool(wanted)
    assert found_some > 40


def test_a_layout_is_told_beside_ones_own_where_that_has_all_parts_and_else_beside_the_first():
    document, _ = laid(project([part("a", 100, 80), part("b", 60, 60)]))
    other = document.layout.model_copy(update={"placements": []})
    assert compared_with(document, evaluate(document), other) is document.layout
    fewer = document.layout.model_copy(update={"placements": document.layout.placements[:1]})
    short = document.model_copy(update={"layout": fewer})
    assert compared_with(short, evaluate(short), other) is other


@pytest.mark.parametrize(("on", "missing"), [(0, 0), (1, 1)])
def test_what_lies_on_a_sheet_that_is_not_there_is_missing(on, missing):
    document, _ = laid(project([part("a", 100, 80)]))
    assert len(document.layout.sheets) == 1
    moved_off = [place.model_copy(update={"sheet": on}) for place in document.layout.placements]
    document = document.model_copy(update={"layout": document.layout.model_copy(update={"placements": moved_off})})
    assert check_layout(document, evaluate(document)).missing == missing
