"""Shapes on a part: placed from points of the part and of one another, moved, arranged, repeated, copied, joined."""

import json
from itertools import pairwise

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.edits.command import Command, apply
from leannotch_core.evaluate import evaluate
from leannotch_core.parts.nine import SHARES, point_of
from leannotch_core.said import Said
from pydantic import TypeAdapter
from shapely.affinity import rotate, scale

from ...judges.shapes import judge
from ...projects import part, project
from ...properties import tried

COMMAND = TypeAdapter(Command)


def do(document, **command):
    return apply(document, COMMAND.validate_python(command))


def box(cut_id, width=10, height=6, x="20", y="20", **more):
    hole = more.pop("hole", {"kind": "rectangle", "width": str(width), "height": str(height)})
    return {"id": cut_id, "name": cut_id.upper(), "hole": hole, "x": x, "y": y, **more}


def board(*cutouts, **more):
    return project([part("board", 200, 120, cutouts=list(cutouts))], **more)


def shapes(document, part_id="board"):
    result = evaluate(document)
    assert not result.errors, result.errors
    return {shape.id: shape for shape in result.parts[part_id].cutouts}


def boxes(document):
    return {cut_id: shape.box for cut_id, shape in shapes(document).items()}


# Placed


@pytest.mark.parametrize("point", SHARES)
@pytest.mark.parametrize("origin", SHARES)
def test_any_point_of_a_shape_is_placed_from_any_point_of_the_part(point, origin):
    placed = shapes(board(box("a", x="7", y="4", point=point, origin=origin)))["a"]
    share = SHARES[origin]
    ways = (-1 if share.real == 1 else 1, -1 if share.imag == 1 else 1)
    wanted = complex(200 * share.real + 7 * ways[0], 120 * share.imag + 4 * ways[1])
    assert placed.at == pytest.approx(wanted) and point_of(placed.box, point) == pytest.approx(wanted)


def test_a_shape_stands_five_right_of_a_hole_and_stays_so_when_either_changes():
    hole = box("hole", hole={"kind": "round", "diameter": "gauge"}, x="50", y="30")
    beside = box("beside", point="left", origin="right", x_of="hole", x="5", y="40")
    for gauge, width in (("8", 10), ("21", 14.5)):
        names = [{"name": "gauge", "size": gauge}]
        found = boxes(board(hole, beside | {"hole": box("beside", width)["hole"]}, names=names))
        assert found["beside"][0] - found["hole"][2] == pytest.approx(5)
        assert found["beside"][2] - found["beside"][0] == pytest.approx(width)


def test_a_circle_of_places_is_refused_with_its_names_and_a_chain_of_four_hundred_is_none():
    chain = [box("s0", 1, 1)]
    chain += [box(f"s{n}", 1, 1, x="0.2", y="0", x_of=f"s{n - 1}", y_of=f"s{n - 1}") for n in range(1, 400)]
    # Each one stands 0.2 left of the one before, which is 1 wide, and on the height of its lower side.
    assert shapes(board(*reversed(chain)))["s399"].at == pytest.approx(20 - 399 * 0.7 + 1j * (20 - 399 * 0.5))
    round_it = board(box("a", x_of="c"), box("b", x_of="a"), box("c", y_of="b"), box("d", x_of="c"), box("e", y_of="e"))
    told = [finding.text for finding in evaluate(round_it).errors]
    assert any("circle: A from C from B from A" in text for text in told) and any("E from E" in text for text in told)
    assert any("D cannot be placed, as C that it stands from cannot be" in text for text in told)


def test_placed_from_elsewhere_it_stays_and_a_gap_that_is_typed_is_kept():
    document = board(box("a", x="width/4", y="30"), box("b", x="120", y="50", turn="30"), box("c", x="160", y="50"))
    before = boxes(document)
    placed = do(document, do="place from", part="board", id="b", point="top right", origin="left", x_of="a", y_of="c")
    assert boxes(placed)["b"] == pytest.approx(before["b"], abs=1e-3)
    # Its distance up comes to what it did, so it stays as it was typed.
    kept = do(document, do="place from", part="board", id="a", point="middle", origin="left", x_of="", y_of="")
    assert kept.parts[0].cutouts[0].x.text == "width/4"
    for side, of, gap in (("left", "a", "12.5"), ("right", "c", "gap"), ("top", "", "9")):
        named = document.model_copy(update={"names": project([], names=[{"name": "gap", "size": "4"}]).names})
        shut = do(named, do="set gap", part="board", id="b", side=side, of=of, gap=gap)
        now = boxes(shut)
        found = {
            "left": now["b"][0] - now["a"][2],
            "right": now["c"][0] - now["b"][2],
            "top": 120 - now["b"][3],
        }[side]
        assert found == pytest.approx(4 if gap == "gap" else float(gap), abs=2e-4)


places = st.lists(st.tuples(st.integers(5, 195), st.integers(5, 115)), min_size=6, max_size=6)
links = st.lists(
    st.tuples(st.integers(-1, 5), st.integers(-1, 5), st.sampled_from(sorted(SHARES))), min_size=6, max_size=6
)


@settings(max_examples=tried(30), deadline=None)
@given(places, links, st.sets(st.integers(0, 5), min_size=1), st.integers(-30, 30), st.integers(-30, 30))
def test_what_is_chosen_goes_and_what_stands_from_it_goes_along_and_nothing_else(at, linked, chosen, dx, dy):
    cutouts = []
    for n, ((x, y), (x_of, y_of, origin)) in enumerate(zip(at, linked, strict=True)):
        # Only from those before: no circles.
        of = {"x_of": f"s{x_of}" if 0 <= x_of < n else "", "y_of": f"s{y_of}" if 0 <= y_of < n else ""}
        size = {"x": str(x) if n % 2 else f"width/4 + {x}", "y": str(y)}
        cutouts.append(box(f"s{n}", 3 + n, 4, origin=origin, does="score", **size, **of))
    document = board(*cutouts)
    ids = [f"s{n}" for n in sorted(chosen)]
    moved = do(document, do="move shapes", part="board", ids=ids, x=str(dx), y=str(dy))
    before, after = shapes(document), shapes(moved)

    def goes(cut, across):
        while cut and cut["id"] not in ids:
            of = cut["x_of" if across else "y_of"]
            cut = next((c for c in cutouts if c["id"] == of), None)
        return cut is not None

    for cut in cutouts:
        way = complex(dx * goes(cut, True), dy * goes(cut, False))
        assert after[cut["id"]].at - before[cut["id"]].at == pytest.approx(way, abs=1e-6)
    back = do(moved, do="move shapes", part="board", ids=ids, x=str(-dx), y=str(-dy))
    assert {c.id: (c.x.text, c.y.text) for c in back.parts[0].cutouts} == {
        c.id: (c.x.text, c.y.text) for c in document.parts[0].cutouts
    }


@pytest.mark.parametrize("about", SHARES)
@pytest.mark.parametrize("each", [False, True])
def test_shapes_are_turned_about_a_point_as_the_judge_turns_them(about, each):
    document = board(box("a", x="60", y="40", turn="20", point="top"), box("b", 20, 5, x="90", y="70"))
    turned = shapes(do(document, do="turn shapes", part="board", ids=["a", "b"], by="35", about=about, each=each))
    before = shapes(document)
    for cut_id in ("a", "b"):
        pivot = before[cut_id].own_point(about) if each else point_of((54, 36, 100, 72.5), about)
        if not each:
            lefts = [shape.box for shape in before.values()]
            whole = tuple(pick(b[i] for b in lefts) for i, pick in enumerate((min, min, max, max)))
            pivot = point_of(whole, about)
        wanted = rotate(judge(before[cut_id].loops), 35, origin=(pivot.real, pivot.imag))
        assert judge(turned[cut_id].loops).symmetric_difference(wanted).area < 1e-2


# Arranged


SPREAD = [box("a", 10, 6, "20", "20"), box("b", 14, 10, "60", "35"), box("c", 8, 20, "150", "70")]


@pytest.mark.parametrize(("line", "side"), [("left", 0), ("bottom", 1), ("right", 2), ("top", 3)])
def test_sides_and_middles_are_aligned_on_the_last_one_or_on_the_part(line, side):
    for on, wanted in (("last", boxes(board(*SPREAD))["b"][side]), ("part", (0, 0, 200, 120)[side])):
        ids = ["a", "c", "b"]
        found = boxes(do(board(*SPREAD), do="align shapes", part="board", ids=ids, line=line, on=on))
        assert [found[cut_id][side] for cut_id in ids] == pytest.approx([wanted] * 3)
    middle = "middle across" if side % 2 == 0 else "middle up"
    found = boxes(do(board(*SPREAD), do="align shapes", part="board", ids=["a", "b", "c"], line=middle))
    low = 0 if side % 2 == 0 else 1
    assert [sum(found[c][low::2]) / 2 for c in "abc"] == pytest.approx([150 if low == 0 else 70] * 3)
    with pytest.raises(Said, match="second shape"):
        do(board(*SPREAD), do="align shapes", part="board", ids=["a"], line=line)


def test_gaps_and_steps_come_out_equal():
    def spaced(**how):
        found = boxes(do(board(*SPREAD), do="space shapes", part="board", ids=["c", "a", "b"], across=True, **how))
        edges = [found[c] for c in "abc"]
        gaps = [b[0] - a[2] for a, b in pairwise(edges)]
        steps = [(b[0] + b[2] - a[0] - a[2]) / 2 for a, b in pairwise(edges)]
        return gaps, steps, edges

    # Between the outer two: 15 to 154 less 10, 14 and 8 leaves 107 for two gaps.
    assert spaced(equal="gaps")[0] == pytest.approx([53.5, 53.5])
    assert spaced(equal="steps")[1] == pytest.approx([65, 65])
    gaps, _, edges = spaced(equal="gaps", on="part")
    assert [edges[0][0], *gaps, 200 - edges[2][2]] == pytest.approx([42] * 4)
    assert spaced(equal="gaps", size="7.5")[0] == pytest.approx([7.5, 7.5])
    assert spaced(equal="steps", size="25")[1] == pytest.approx([25, 25])
    with pytest.raises(Said, match="2 chosen: spacing takes at least 3"):
        do(board(*SPREAD), do="space shapes", part="board", ids=["a", "b"], across=True)


def test_groups_go_as_one_and_groups_within_them_stay():
    document = do(board(*SPREAD), do="group shapes", part="board", ids=["a", "b"])
    document = do(document, do="group shapes", part="board", ids=["a", "b", "c"])
    assert [cut.groups for cut in document.parts[0].cutouts] == [["group_2", "group"]] * 2 + [["group_2"]]
    apart = do(document, do="ungroup shapes", part="board", ids=["c"])
    assert [cut.groups for cut in apart.parts[0].cutouts] == [["group"], ["group"], []]
    before = boxes(apart)
    found = boxes(do(apart, do="align shapes", part="board", ids=["a", "b", "c"], line="top", on="part"))
    assert found["b"][3] == pytest.approx(120) and found["c"][3] == pytest.approx(120)
    assert found["b"][1] - found["a"][1] == pytest.approx(before["b"][1] - before["a"][1])
    copied = do(apart, do="duplicate shapes", part="board", ids=["a", "b"], new=["d", "e"], x="3", y="0")
    assert [cut.groups for cut in copied.parts[0].cutouts[3:]] == [["group_2"], ["group_2"]]


# Repeated


def test_repeats_stand_round_a_point_along_the_edge_and_in_the_mirror():
    around = box("a", 10, 4, "150", "60", repeat={"kind": "round a point", "count": 5}, left_out=[2])
    found = shapes(board(around))["a"]
    first = judge(shapes(board(box("a", 10, 4, "150", "60")))["a"].loops)
    wanted = shapely.union_all([rotate(first, 72 * n, origin=(100, 60)) for n in (0, 1, 3, 4)])
    assert judge(found.loops).symmetric_difference(wanted).area < 1e-2 and len(found.spots) == 5
    standing = {"kind": "round a point", "count": 3, "step": "30", "turned": False, "x": "10", "y": "-5"}
    for shape in shapes(board(box("a", 10, 4, "150", "60", repeat=standing)))["a"].loops:
        left, bottom, right, top = shape.bounds
        assert (right - left, top - bottom) == pytest.approx((10, 4))
        assert abs(complex(left + right, bottom + top) / 2 - (110 + 55j)) == pytest.approx(abs(40 + 5j))
    twin = shapes(board(box("a", 10, 4, "30", "25", turn="20", twin="both")))["a"]
    first = judge(shapes(board(box("a", 10, 4, "30", "25", turn="20")))["a"].loops)
    over = [scale(first, x, y, origin=(100, 60)) for x in (1, -1) for y in (1, -1)]
    assert judge(twin.loops).symmetric_difference(shapely.union_all(over)).area < 1e-2


@pytest.mark.parametrize("kind", ["rectangle", "ellipse"])
def test_marks_along_the_edge_are_all_as_far_from_it(kind):
    repeat = {"kind": "along the edge", "count": 24, "turned": True}
    cut = box("a", hole={"kind": "round", "diameter": "3"}, x="100", y="6", repeat=repeat)
    shape = {"kind": kind, "width": "200", "height": "120"}
    document = project([part("board", 200, 120, cutouts=[cut]) | {"shape": shape}])
    drawn = evaluate(document).parts["board"]
    edge = judge([drawn.outline]).exterior
    assert len(drawn.cutouts[0].loops) == 24
    for spot in drawn.cutouts[0].spots:
        assert edge.distance(shapely.Point(spot.real, spot.imag)) == pytest.approx(6, abs=0.02)


# Copied, taken away, joined


def test_what_stood_from_a_shape_that_is_taken_away_stays_and_that_is_said():
    document = board(box("a"), box("b", x="5", y="0", x_of="a", y_of="c", origin="right"), box("c", x="90", y="60"))
    command = COMMAND.validate_python({"do": "remove shapes", "part": "board", "ids": ["a"]})
    left = apply(document, command)
    assert boxes(left)["b"] == pytest.approx(boxes(document)["b"]) and left.parts[0].cutouts[0].y_of == "c"
    assert command.said(document, left) == "What stood from what is gone now stands from the part by plain numbers: B."


def test_shapes_pasted_in_another_project_come_to_the_same():
    names = [{"name": "gauge", "size": "7.5"}, {"name": "tall", "size": "31"}]
    cutouts = [
        box("a", x="tall", y="height/3", hole={"kind": "round", "diameter": "gauge"}),
        box("b", x="gauge/2", y="2", x_of="a", y_of="a", origin="right", does="pocket", depth="thickness/2"),
    ]
    document = board(*cutouts, names=names)
    result = evaluate(document)
    copied = [
        {
            "shape": json.loads(cut.model_dump_json()),
            "x": shape.at.real,
            "y": shape.at.imag,
            "values": {
                path.removeprefix(f"parts/board/cutouts/{cut.id}/"): value
                for path, value in result.values.items()
                if path.startswith(f"parts/board/cutouts/{cut.id}/")
            },
        }
        for cut, shape in zip(document.parts[0].cutouts, result.parts["board"].cutouts, strict=True)
    ]
    thicker = project([part("other", 300, 90)], names=[{"name": "tall", "size": "99"}])
    pasted = do(thicker, do="paste shapes", part="other", copied=copied, new=["p", "q"], exactly=True)
    there, here = shapes(document), shapes(pasted, "other")
    for old, new in (("a", "p"), ("b", "q")):
        assert here[new].box == pytest.approx(there[old].box, abs=1e-4)
    assert pasted.parts[0].cutouts[0].hole.diameter.text == "7.5"
    assert pasted.parts[0].cutouts[1].x_of == "p" and pasted.parts[0].cutouts[1].depth.text == "thickness/2"


@pytest.mark.parametrize("how", ["add", "take away", "in common"])
def test_joined_shapes_are_the_judges_and_stand_where_they_stood_when_taken_apart(how):
    document = board(
        box("a", 30, 20, "60", "50", turn="15", point="left"),
        box("b", x="70", y="55", hole={"kind": "polygon", "width": "16", "sides": 5}, turn="10", mirrored=True),
    )
    before = {cut_id: judge(shape.loops) for cut_id, shape in shapes(document).items()}
    joined = do(document, do="combine shapes", part="board", ids=["a", "b"], how=how)
    [whole] = shapes(joined).values()
    wanted = {
        "add": before["a"].union(before["b"]),
        "take away": before["a"].difference(before["b"]),
        "in common": before["a"].intersection(before["b"]),
    }[how]
    assert judge(whole.loops).symmetric_difference(wanted).area < 2e-2
    turned = do(joined, do="turn shapes", part="board", ids=["a"], by="40")
    apart = shapes(do(turned, do="take apart", part="board", id="a"))
    middle = point_of(whole.box, "middle")
    for shape, was in zip(apart.values(), before.values(), strict=True):
        wanted = rotate(was, 40, origin=(middle.real, middle.imag))
        assert judge(shape.loops).symmetric_difference(wanted).area < 2e-2
