"""Starters: compartments against sums by hand; whatever the numbers they close, without a clash, in some order."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.assembly.inner import inner_spans
from leannotch_core.assembly.order import assembly_order
from leannotch_core.assembly.poses import Copy, assemble
from leannotch_core.assembly.solids import all_clashes
from leannotch_core.assembly.space import extent
from leannotch_core.document.sizes import Size, length
from leannotch_core.document.starter import Starter
from leannotch_core.drawings.dxf import read_dxf
from leannotch_core.edits.command import apply
from leannotch_core.edits.joint import PutJoint
from leannotch_core.edits.part import MirrorPart, PutPart
from leannotch_core.edits.starter import LetGo, PutStarter, RemoveStarter
from leannotch_core.edits.stock import PutStock
from leannotch_core.evaluate import evaluate
from leannotch_core.handover.dxf import write_dxf
from leannotch_core.layout.nest import nest
from leannotch_core.machining.plan import plan_sheet
from leannotch_core.proof.sheet_proof import prove_sheet, proved_gap
from leannotch_core.said import Said
from leannotch_core.starters.in_place import drives_overall, drives_side, drives_span, with_size
from leannotch_core.starters.live import KINDS, make
from leannotch_core.starters.made import CannotMake

from ...judges.shapes import judge
from ...projects import part, project, stock
from ...properties import tried

thicknesses = st.integers(15, 60).map(lambda n: n / 10)
clearances = st.sampled_from([0.2, 0.1, 0.0])


def starter(kind, sizes=None, **choices):
    typed = {name: {"text": str(text)} for name, text in (sizes or {}).items()}
    more = {"stock": "ply", "second_stock": "sheet", "sizes": typed, "choices": choices}
    return Starter.model_validate({"id": f"{kind}_1", "kind": kind, **more})


def made(kind, sizes=None, thick=3.0, second=4.0, clearance=0.1, **choices):
    stocks = [stock("ply", (str(thick),), glue=str(clearance)), stock("sheet", (str(second),), glue=str(clearance))]
    return apply(project([], [], stocks), PutStarter(do="put starter", starter=starter(kind, sizes, **choices)))


def spans(document, axis):
    result = evaluate(document)
    assert not result.findings
    found = [s for s in inner_spans(result, assemble(document, result)) if s.axis == axis]
    return [round(span.length, 4) for span in sorted(found, key=lambda span: span.start[axis])]


@pytest.mark.parametrize(
    ("columns", "wanted"),
    [
        # 240 outside, walls of 3, dividers of 4: (240 - 6 - 2*4) / 3 = 75.3333 each.
        ("3", [75.3333] * 3),
        # 60 and 40 are kept, the rest is 234 - 8 - 100 = 126; it may stand first, in the middle or last, or twice.
        ("60, rest, 40", [60, 126, 40]),
        ("rest, 60, 40", [126, 60, 40]),
        ("60, 40, rest", [60, 40, 126]),
        ("rest, 100, rest", [63, 100, 63]),
        ("1", [234]),
    ],
)
def test_compartments_by_hand(columns, wanted):
    document = made("tray", {"columns": columns, "rows": "2"})
    assert spans(document, 0) == wanted
    assert spans(document, 1) == [pytest.approx((160 - 6 - 4) / 2)] * 2


def test_compartments_that_are_all_given_make_the_outside_and_say_so():
    # Ten of 10.4 with nine dividers of 2 and walls of 3: 104 + 18 + 6 = 128.
    document = made("tray", {"columns": ", ".join(["10.4"] * 10), "rows": "1"}, second=2.0)
    assert spans(document, 0) == [10.4] * 10
    assert evaluate(document).parts["tray_1_front"].width == pytest.approx(128)
    [note] = make(document, document.starters[0]).notes
    assert "122.00 mm inside" in note and "234.00 mm" in note


def test_inside_sizes_are_inside():
    document = made("tray", {"length": "200", "width": "100", "height": "40"}, measured="inside")
    front = evaluate(document).parts["tray_1_front"]
    assert (front.width, front.height) == (pytest.approx(206), pytest.approx(43))


def test_a_lid_goes_over_its_box_with_the_play_that_was_asked_for():
    document = made("box", {"length": "180", "width": "120", "play": "0.4"}, thick=3, second=2)
    parts = evaluate(document).parts
    # By hand: 180 + 2 * 0.4 inside the lid, and two of its walls of 2.
    assert parts["box_1_top"].width == pytest.approx(180 + 0.8 + 4)
    assert parts["box_1_lid_left"].width == pytest.approx(120 + 0.8 + 4)
    assert {part.stock for part in document.parts if "lid" in part.id or "top" in part.id} == {"sheet"}


def test_a_sliding_lid_runs_in_both_grooves_with_its_play():
    sizes = {"length": "180", "width": "120", "height": "60", "play": "0.3"}
    document = made("box", sizes, thick=6, second=3, lid="slides")
    result = evaluate(document)
    assert result.findings == []
    assembly = assemble(document, result)
    assert assembly.gaps == [] and all_clashes(result, assembly) == []
    parts, poses = result.parts, assembly.poses
    # By hand: 180 - 2 * 6 inside, 3 in each groove, less 0.3 on each side; 120 less the back wall and 0.3.
    lid = parts["box_1_lid"]
    assert (lid.width, lid.height) == (pytest.approx(180 - 12 + 6 - 0.6), pytest.approx(120 - 6 - 0.3))
    for side in ("left", "right"):
        [groove] = parts[f"box_1_{side}"].pockets
        left, bottom, right, top = groove.outline.bounds
        at = [poses[Copy(f"box_1_{side}", 1)] @ [x, y, 6, 1] for x, y in ((left, bottom), (right, top))]
        # From the front, which it runs out of, to the back wall; as high as the lid is thick, with a sliding fit.
        assert groove.depth == 3 and sorted(p[1] + 60 for p in at) == pytest.approx([-0.3, 114])
        assert sorted(p[2] for p in at) == pytest.approx([60 - 9 - 1.5 - 1.6, 60 - 9 - 1.5 + 1.6])
    # It lies level between them and clears the front wall's top edge by its play.
    assert poses[Copy("box_1_lid", 1)][2, 3] == pytest.approx(parts["box_1_front"].height + 0.3)
    assert lid_steps(result, assembly) == [(("box_1_lid",), (0, 1, 0))]


def lid_steps(result, assembly):
    """The steps that bring the lid: what moves, and which way."""
    steps = assembly_order(result, assembly).steps
    found = [(tuple(sorted(copy.part for copy in step.moving)), step.direction) for step in steps]
    return [(parts, direction) for parts, direction in found if {"box_1_lid", "box_1_top"} & set(parts)]


def test_a_lid_that_is_lifted_off_comes_down_onto_its_box_as_a_whole():
    document = made("box", {"length": "180", "width": "120", "height": "70"}, thick=3, second=2)
    result = evaluate(document)
    assembly = assemble(document, result)
    top = assembly.poses[Copy("box_1_top", 1)]
    # Its drawn face, the inside, looks down at the rims of the walls.
    assert top[2, 2] == -1 and top[2, 3] == pytest.approx(70 + 2)
    sides = ("front", "back", "left", "right")
    assert lid_steps(result, assembly) == [
        (tuple(sorted(["box_1_top", *(f"box_1_lid_{side}" for side in sides)])), (0, 0, -1))
    ]


def test_the_free_edge_of_a_brace_leans_as_it_was_asked_to():
    for angle in (30, 45, 60):
        document = made("bracket", {"angle": str(angle), "brace": "60", "height": "140"}, second=2.5)
        outline = evaluate(document).parts["bracket_1_brace"].outline
        leaning = [
            math.degrees(math.atan2(abs(s.end.imag - s.start.imag), abs(s.end.real - s.start.real)))
            for s in outline.outer
        ]
        assert [round(lean, 3) for lean in leaning if min(abs(lean), abs(lean - 90)) > 1] == [angle]


def number(low, high):
    return st.integers(low, high).map(str)


kinds = st.one_of(
    st.tuples(
        st.just("tray"),
        st.fixed_dictionaries(
            {
                "length": number(180, 400),
                "width": number(120, 300),
                "height": number(40, 90),
                "dividers": number(20, 30),
                "columns": st.sampled_from(["1", "2", "4", "40, rest", "rest, 30, rest"]),
                "rows": st.sampled_from(["1", "3", "rest, 35"]),
                "lift": st.sampled_from(["0", "8"]),
            }
        ),
    ),
    st.tuples(
        st.just("box"),
        st.fixed_dictionaries(
            {"length": number(80, 300), "lip": number(20, 60), "lid": st.sampled_from(["is lifted off", "slides"])}
        ),
    ),
    st.tuples(
        st.just("bracket"),
        st.fixed_dictionaries({"width": number(50, 200), "brace": number(50, 70), "angle": number(42, 58)}),
    ),
    st.tuples(st.just("figure"), st.fixed_dictionaries({"height": number(80, 300), "length": number(80, 250)})),
    st.tuples(
        st.just("rack"),
        st.fixed_dictionaries({"width": number(200, 500), "shelves": number(1, 5), "uprights": number(2, 4)}),
    ),
    st.tuples(
        st.just("frame"),
        st.fixed_dictionaries({"width": number(200, 560), "member": number(25, 50), "pieces": number(1, 3)}),
    ),
)


@settings(max_examples=tried(20), deadline=None)
@given(kinds, thicknesses, thicknesses, clearances, st.sampled_from(["with a floor", "without a floor"]))
def test_every_starter_closes_without_a_clash_goes_together_and_nests(wanted, thick, second, clearance, floor):
    kind, sizes = wanted
    choices = {"floor": floor} if kind == "tray" else {"lid": sizes.pop("lid")} if kind == "box" else {}
    document = made(kind, sizes, thick, second if kind != "frame" else thick, clearance, **choices)
    result = evaluate(document)
    assert [f.text for f in result.findings if f.level != "note"] == []
    assembly = assemble(document, result)
    assert (assembly.gaps, assembly.missing) == ([], [])
    assert len(assembly.groups) == 1
    assert all_clashes(result, assembly) == []
    order = assembly_order(result, assembly)
    assert order.locked == () and len(order.steps) == len(assembly.poses) - 1
    assert next(iter(nest(document, result, 0))).findings == ()


def prove(document):
    """Nests, exports and sweeps a document: no fault on any sheet, and every gap as the ledger predicts it."""
    result = evaluate(document)
    laid = document.model_copy(update={"layout": next(iter(nest(document, result, 0))).layout})
    parts = []
    for index in range(len(laid.layout.sheets)):
        plan = plan_sheet(laid, result, index)
        proof = prove_sheet(plan, read_dxf(write_dxf(plan)), result)
        assert proof.faults == []
        parts += proof.parts
    gaps = [proved_gap(mating, parts) for mating in result.ledger]
    assert gaps == pytest.approx([mating.gap for mating in result.ledger], abs=1e-3)


@pytest.mark.parametrize("kind", sorted(KINDS))
def test_every_starter_is_proved_as_it_begins(kind):
    prove(made(kind))


def test_a_box_with_a_sliding_lid_is_proved_with_its_grooves():
    prove(made("box", thick=6, second=3, lid="slides"))


def test_a_tray_goes_together_as_one_would_build_it():
    """By hand: dividers cross from above on the floor, then walls along their tabs; nothing hangs in the air."""
    document = made("tray")
    result = evaluate(document)
    assembly = assemble(document, result)
    steps = assembly_order(result, assembly).steps
    moves = [(step.moving[0].part.removeprefix("tray_1_"), step.direction) for step in steps]
    assert moves[:3] == [("along", (0, 0, -1)), ("across", (0, 0, -1)), ("across", (0, 0, -1))]
    walls = {"left": (1, 0, 0), "right": (-1, 0, 0), "front": (0, 1, 0), "back": (0, -1, 0)}
    assert dict(moves[3:]) == walls and len(moves) == 7


def test_what_the_maker_added_stays_when_the_numbers_change():
    document = made("tray", {"columns": "3"})
    front = next(part for part in document.parts if part.id == "tray_1_front")
    thumb = {"id": "thumb", "hole": {"kind": "round", "diameter": "20"}, "origin": "top left", "x": "width/2", "y": "0"}
    named = front.model_copy(update={"name": "Front with a thumb hole"})
    with_hole = type(front).model_validate(named.model_dump() | {"cutouts": [thumb]})
    document = apply(document, PutPart(do="put part", part=with_hole))
    changed = apply(
        document, PutStarter(do="put starter", starter=starter("tray", {"columns": "60, rest", "rows": "1"}))
    )
    after = next(part for part in changed.parts if part.id == "tray_1_front")
    assert after.name == "Front with a thumb hole" and [cut.id for cut in after.cutouts] == ["thumb"]
    assert not any(part.id == "tray_1_along" for part in changed.parts)
    assert {joint.a.part for joint in changed.joints} <= {part.id for part in changed.parts}
    # A thicker sheet: the parts follow without the starter being touched.
    thicker = apply(changed, PutStock(do="put stock", stock=stock("ply", ("5",), glue="0.1")))
    assert spans_of_length(thicker) == [60, pytest.approx(240 - 10 - 4 - 60)]
    plain = apply(thicker, LetGo(do="let go", id="tray_1"))
    assert plain.starters == [] and not any(part.starter for part in plain.parts)


def spans_of_length(document):
    result = evaluate(document)
    found = [s for s in inner_spans(result, assemble(document, result)) if s.axis == 0]
    return [span.length for span in sorted(found, key=lambda span: span.start[0])]


def test_a_mirrored_wall_and_divider_keep_all_their_unevenly_spaced_slots():
    document = made("tray", {"columns": "60, rest, 40", "rows": "50, rest"})
    for part_id in ("tray_1_front", "tray_1_along"):
        mirrored = apply(document, MirrorPart(do="mirror part", id=part_id))
        before, after = (evaluate(p).parts[part_id].outline for p in (document, mirrored))
        flipped = shapely.transform(judge([before]), lambda xy: xy * [-1, 1] + [240, 0])
        assert flipped.symmetric_difference(judge([after])).area < 0.05
        # Not its own mirror image to begin with, so that the check could fail.
        assert flipped.symmetric_difference(judge([before])).area > 20


def test_fit_and_relief_that_the_maker_chose_stay_with_a_starters_joint():
    document = made("tray")
    joint = document.joints[0].model_copy(update={"fit": "press", "relief": "dog-bone"})
    document = apply(document, PutJoint(do="put joint", joint=joint))
    after = apply(document, PutStarter(do="put starter", starter=starter("tray", {"length": "300"})))
    kept = next(other for other in after.joints if other.id == joint.id)
    assert (kept.fit, kept.relief) == ("press", "dog-bone")


@pytest.mark.parametrize(
    ("sizes", "says"),
    [
        ({"columns": "200, rest, 60"}, "leave -34.00 mm for the rest"),
        ({"columns": "13"}, "from 1 to 12"),
        ({"dividers": "60"}, "more than the 42 mm inside the walls"),
        ({"length": "wide"}, "wide"),
    ],
)
def test_numbers_that_make_no_tray_are_refused_with_a_sentence(sizes, says):
    with pytest.raises(Said, match=says):
        made("tray", sizes)


def test_several_alike_are_written_as_a_count_of_a_size():
    document = made("tray", {"columns": "2 of 30, rest, 2 of 25", "rows": "1"})
    assert spans(document, 0) == [30, 30, 234 - 16 - 110, 25, 25]


def test_lists_and_sums_keep_the_inches_they_were_typed_in():
    """An inch is 25.4 mm: 2 in and 1 in are kept; a sum of inches takes the thickness as it is."""
    inches = starter("tray", {"rows": "1"}).model_dump()
    inches["sizes"] |= {
        "length": {"text": "9 + ply.thickness", "unit": "in"},
        "columns": {"text": "2, rest, 1", "unit": "in"},
    }
    stocks = [stock("ply", ("3",)), stock("sheet", ("4",))]
    document = apply(project([], [], stocks), PutStarter(do="put starter", starter=Starter.model_validate(inches)))
    whole = 9 * 25.4 + 3
    assert evaluate(document).parts["tray_1_front"].width == pytest.approx(whole)
    assert spans(document, 0) == pytest.approx([50.8, whole - 6 - 8 - 76.2, 25.4], abs=1e-3)


def in_space(document):
    """The free widths of a document's assembly with what drives them, by number and place."""
    result = evaluate(document)
    assembly = assemble(document, result)
    found = {}
    for span in inner_spans(result, assembly):
        driven = drives_span(document, result, assembly, span)
        found[driven.number, driven.index] = round(span.length, 4)
    return found


@pytest.mark.parametrize("floor", ["with a floor", "without a floor"])
def test_a_compartment_is_found_in_space_and_typed_there(floor):
    document = made("tray", {"columns": "60, rest, 40", "rows": "2"}, floor=floor)
    assert in_space(document) == {
        ("columns", 0): 60, ("columns", 1): 126, ("columns", 2): 40, ("rows", 0): 75, ("rows", 1): 75,
    }  # fmt: skip
    changed = with_size(document.starters[0], "rows", 1, Size(text="2", unit="in"))
    changed = with_size(changed, "columns", 2, Size(text="55"))
    assert (changed.sizes["rows"].text, changed.sizes["columns"].text) == ("rest, 50.8 mm", "60, rest, 55")
    after = in_space(apply(document, PutStarter(do="put starter", starter=changed)))
    # By hand: 160 - 6 - 4 - 50.8 are left of the width, and 240 - 6 - 8 - 115 of the length.
    assert after["rows", 0] == pytest.approx(99.2) and after["columns", 1] == pytest.approx(111)


def test_ten_compartments_typed_in_place_give_the_outside():
    """Common practice, no source: ten of 10.4 with nine dividers of 2 and two walls of 3 are 128 outside."""
    document = made("tray", {"columns": "10", "rows": "1"}, second=2.0)
    changed = document.starters[0]
    for index in range(10):
        changed = with_size(changed, "columns", index, Size(text="10.4"))
    assert changed.sizes["columns"].text == "10 of 10.4"
    after = apply(document, PutStarter(do="put starter", starter=changed))
    assert evaluate(after).parts["tray_1_front"].width == pytest.approx(128)


def test_an_outside_size_is_typed_in_place_only_where_it_is_what_was_asked_for():
    kept, given = made("tray", {"columns": "3"}), made("tray", {"columns": "2 of 50"})
    inside = made("tray", measured="inside")
    for document, axis, wanted in ((kept, 0, "length"), (kept, 1, "width"), (given, 0, None), (inside, 0, None)):
        result = evaluate(document)
        length = result.values[f"names/tray_1_{('length', 'width')[axis]}"]
        driven = drives_overall(document, result, axis, length)
        assert (driven and driven.number) == wanted
    with pytest.raises(CannotMake, match="no compartment 4 of 3"):
        with_size(kept.starters[0], "columns", 3, Size(text="10"))


@pytest.mark.parametrize("kind", [key for key, (kind, _) in KINDS.items() if any(n.follows for n in kind.numbers)])
def test_a_number_that_was_not_typed_goes_with_the_one_it_follows(kind):
    """Half as large, each starter is made as it is; what is typed stays, whatever it follows else."""
    known = KINDS[kind][0]
    number = next(n for n in known.numbers if n.follows)
    led = known.number(number.follows)
    half = {n.name: f"{n.begins}/2" for n in known.numbers if n.holds == "size" and not n.follows}
    whole, small = made(kind), made(kind, half)

    def begun(document):
        size = known.begins(number.name, document.starters[0].sizes)
        return length(size, {})

    assert begun(small) == pytest.approx(begun(whole) / 2) and not evaluate(small).errors
    inches = {led.name: Size(text="1 1/4", unit="in")}
    assert length(known.begins(number.name, inches), {}) == pytest.approx(31.75 * begun(whole) / float(led.begins))
    assert known.given(number.name, {number.name: Size(text="7")}).text == "7"


def test_a_size_on_a_part_is_a_number_of_its_starter_only_where_it_is_just_that():
    outside, inside = made("tray"), made("tray", measured="inside")
    given = made("tray", {"columns": "2 of 50"})
    for document, driven in ((outside, "length"), (inside, None), (given, None)):
        result = evaluate(document)
        front = next(p for p in document.parts if p.id == "tray_1_front")
        found = drives_side(document, result, front, "width")
        assert (found and found.number) == driven
        # Inside, the height that was asked for is without the floor.
        assert (drives_side(document, result, front, "height") is None) == (document is inside)


@pytest.mark.parametrize(
    ("width", "pieces", "long"),
    [
        # By hand, on sheets of 600 with 20 for the margin: members of 40 with keys 12 deep, so 500 is 472 long.
        ("500", 1, 472),
        # 1000 is 972 long, in two pieces (972 + 12) / 2; 1500 in three of (1472 + 24) / 3.
        ("1000", 2, 492),
        ("1500", 3, 1496 / 3),
    ],
)
def test_a_frame_is_made_in_as_many_pieces_as_the_sheet_needs(width, pieces, long):
    document = made("frame", {"width": width, "height": "400", "member": "40"})
    result = evaluate(document)
    members = [part.width for part_id, part in result.parts.items() if part_id.startswith("frame_1_long")]
    assert members == pytest.approx([long] * pieces) and max(members) <= 580
    assert bool(make(document, document.starters[0]).notes) == (pieces > 1)
    boxes = [extent(result.parts[copy.part], pose) for copy, pose in assemble(document, result).poses.items()]
    size = np.max([high for _, high in boxes], axis=0) - np.min([low for low, _ in boxes], axis=0)
    assert np.allclose(size[:2], (float(width), 400))


@pytest.mark.parametrize("kind", sorted(KINDS))
@pytest.mark.parametrize("fit", ["loose", "sliding", "press"])
def test_every_starter_goes_together_with_any_fit(kind, fit):
    """Interference presses in where it was promised, and nowhere else."""
    document = made(kind).model_copy(update={"fit": fit})
    result = evaluate(document)
    assembly = assemble(document, result)
    assert (assembly.gaps, assembly.missing, len(assembly.groups)) == ([], [], 1)
    found = all_clashes(result, assembly)
    assert all(clash.promised for clash in found) and bool(found) == (fit == "press" and bool(result.ledger))
    order = assembly_order(result, assembly)
    assert order.locked == () and len(order.steps) == len(assembly.poses) - 1


def test_a_removed_starter_leaves_nothing_of_its_own_and_all_of_the_rest():
    document = made("tray")
    own = part("lid", 100, 50)
    document = apply(document, PutPart.model_validate({"do": "put part", "part": own}))
    after = apply(document, RemoveStarter(do="remove starter", id="tray_1"))
    assert [p.id for p in after.parts] == ["lid"] and not after.joints and not after.names and not after.starters


@settings(max_examples=tried(15), deadline=None)
@given(kinds, thicknesses, thicknesses, clearances)
def test_every_starter_at_random_sizes_is_proved_after_nesting_export_and_sweep(wanted, thick, second, clearance):
    kind, sizes = wanted
    choices = {"lid": sizes.pop("lid")} if kind == "box" else {}
    prove(made(kind, sizes, thick, second if kind != "frame" else thick, clearance, **choices))


def test_a_joint_that_the_maker_added_stays_on_its_edge_when_the_starter_changes():
    """A lid of the maker's own, butted on the front wall: it stands on that wall's top wherever the wall goes."""
    document = made("tray", {"rows": "1"})
    lid = part("lid", "tray_1_length", "tray_1_width", face="inside")
    line = {"part": "lid", "x": "width", "y": "ply.thickness/2", "turn": "180"}
    rests = {"kind": "housing", "id": "joint_1", "a": {"part": "tray_1_front", "side": "top"}, "b": line}
    document = apply(document, PutPart.model_validate({"do": "put part", "part": lid}))
    document = apply(document, PutJoint.model_validate({"do": "put joint", "joint": rests}))
    for sizes in ({"rows": "1"}, {"rows": "2", "height": "80", "length": "300"}):
        document = apply(document, PutStarter(do="put starter", starter=starter("tray", sizes)))
        result = evaluate(document)
        assembly = assemble(document, result)
        assert result.findings == [] and (assembly.gaps, len(assembly.groups)) == ([], 1)
        assert all_clashes(result, assembly) == []
        low, high = extent(result.parts["lid"], assembly.poses[Copy("lid", 1)])
        wall_low, wall_high = extent(result.parts["tray_1_front"], assembly.poses[Copy("tray_1_front", 1)])
        assert low[2] == pytest.approx(wall_high[2]) and high[0] - low[0] == pytest.approx(wall_high[0] - wall_low[0])
