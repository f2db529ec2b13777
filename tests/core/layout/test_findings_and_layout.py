"""What the maker is told, and the layout."""

from itertools import combinations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.document.edit import SetValue
from leannotch_core.edits.command import apply
from leannotch_core.edits.layout import PlaceExactly, PlaceParts
from leannotch_core.edits.layout_mends import with_mends
from leannotch_core.edits.names import PutName
from leannotch_core.edits.part import PutPart, RemovePart
from leannotch_core.edits.project import RenameProject
from leannotch_core.evaluate import evaluate
from leannotch_core.layout.nest import nest
from leannotch_core.layout.sheets import check_layout, placed
from leannotch_core.parts.part import Part
from leannotch_core.project.project import NotAProject, read_project, write_project
from leannotch_core.said import Said
from shapely import box

from ...projects import cross_lap, demo, finger, part, project, stock
from ...properties import tried


def told(document):
    return [f"{finding.level}: {finding.text}" for finding in evaluate(document).findings]


def corner(size):
    return [{"corner": name, "kind": "round", "size": size} for name in ("top left", "top right")]


def round_hole(diameter, x, y):
    return {"id": "h" + x.replace(".", "_"), "hole": {"kind": "round", "diameter": diameter}, "x": x, "y": y}


@pytest.mark.parametrize(
    ("parts", "joints", "stocks", "says"),
    [
        ([part("a", 0, 10)], [], None, "error: A, width: “0” comes to 0 mm; it must be more than 0"),
        ([part("a", "-3", 10)], [], None, "must be more than 0"),
        ([part("a", "1e9", 10)], [], None, "cannot be read"),
        ([part("a", "999999999", 10)], [], None, "beyond 100 m"),
        ([part("a", "wide", 10)], [], None, "uses the name “wide”, which is not known"),
        ([part("a", 10, 10)], [], [stock(kerf="0")], "error: Test ply, kerf: “0” comes to 0 mm"),
        ([part("a", 10, 10)], [], [stock(readings=("0",))], "caliper reading: “0” comes to 0 mm"),
        ([part("a", 10, 10)], [], [stock(kerf="4")], "a kerf of 4 mm is not less than the thickness"),
        ([part("a", 30, 20, cutouts=[round_hole("0.1", "9", "9")])], [], None, "not wider than the kerf of 0.16 mm"),
        ([part("a", 30, 20, cutouts=[round_hole("8", "3", "9")])], [], None, "reaches 1 mm out of the part"),
        ([part("a", 30, 20, cutouts=[round_hole("8", "4.5", "9")])], [], None, "a web of 0.5 mm is left"),
        ([part("a", 30, 20, cutouts=[round_hole("90", "15", "9")])], [], None, "nothing is left of it"),
        (
            [part("a", 30, 20), part("b", 30, 20)],
            [finger("a", "left", "b", "left", "15")],
            None,
            "20 mm between A and B is too short for three fingers of 15 mm; three of 6.67 mm are cut",
        ),
        (
            [part("a", 30, 20), part("b", 30, 25)],
            [finger("a", "left", "b", "left", "5")],
            None,
            "A is 20 mm long at this joint and B 25 mm",
        ),
        (
            [part("a", 30, 20), part("b", 30, 20)],
            [finger("a", "left", "b", "left", "0.15")],
            None,
            "not wider than the kerf of 0.16 mm",
        ),
        ([part("a", 60, 20), part("b", 60, 20)], [cross_lap("a", 90, "b", 30)], None, "B cannot meet it"),
        ([part("a", 60, 20)], [cross_lap("a", 30, "a", 30)], None, "cannot cross itself"),
        (
            [part("a", 60, 20), part("b", 60, 20)],
            [cross_lap("a", 30, "b", 30, share="1")],
            None,
            "lies between 0 and 1",
        ),
    ],
)
def test_bad_input_is_named_with_its_number(parts, joints, stocks, says):
    assert any(says in text for text in told(project(parts, joints, stocks))), told(project(parts, joints, stocks))


def test_a_25_mm_tag_takes_10_mm_corners_and_refuses_15():
    """Common practice, no source."""
    assert told(project([part("tag", 25, 60, corners=corner("10"))])) == []
    document = project([part("tag", 25, 60, corners=corner("15"))])
    [finding] = evaluate(document).findings
    assert "the largest that fits is 12.5 mm" in finding.text
    assert finding.mends[0].command.value == "12.5"


def test_two_walls_of_128_under_a_roof_of_140_leave_6_mm_each_side():
    """Common practice, no source: as slots placed from the middle of the roof."""
    slot = {
        "id": "s",
        "hole": {"kind": "rectangle", "width": "128", "height": "4"},
        "origin": "middle",
        "x": "0",
        "y": "0",
    }
    roof = evaluate(project([part("roof", 140, 60, cutouts=[slot])])).parts["roof"]
    left, _, right, _ = roof.outline.cutouts[0].bounds
    assert (left, 140 - right) == (6, 6)


def test_fabric_needs_3_mm_between_cuts():
    """Common practice, no source."""
    holes = [round_hole("5", "10", "10"), round_hole("5", "17.9", "10")]
    fabric = stock(smallest_web="3", material="fabric")
    assert any(
        "a web of 2.9 mm is left; this stock needs 3 mm" in t
        for t in told(project([part("a", 40, 20, cutouts=holes)], stocks=[fabric]))
    )
    holes[1] = round_hole("5", "18.1", "10")
    assert told(project([part("a", 40, 20, cutouts=holes)], stocks=[fabric])) == []


def test_the_thickest_reading_that_does_not_go_in_is_told():
    ply = stock(readings=("3.0", "3.0", "3.3"))
    document = project([part("a", 60, 20), part("b", 60, 20)], [cross_lap("a", 30, "b", 30)], [ply])
    assert any("The thickest reading of B is 0.1 mm too thick for its 3.2 mm slot in A" in t for t in told(document))


def test_removing_a_joint_restores_the_plain_edge():
    parts = [part("a", 60, 20), part("b", 60, 20)]
    joined, plain = project(parts, [finger("a", "left", "b", "left", "5")]), project(parts)
    assert evaluate(joined).parts["a"].outline != evaluate(plain).parts["a"].outline
    assert len(evaluate(plain).parts["a"].outline.outer.segments) == 4


def test_a_joint_stays_on_its_edge_when_sizes_change():
    parts = [part("a", 60, 45), part("b", 60, 45)]
    document = project(parts, [finger("a", "right", "b", "left", "15")])
    wider = apply(document, PutPart(do="put part", part=Part.model_validate(part("a", 90, 45))))
    floors = [
        s for s in evaluate(wider).parts["a"].outline.outer if s.source.shape == "corner" and "floor" in s.source.side
    ]
    assert floors and all(s.start.real == pytest.approx(90 - 3.07) for s in floors)


def test_a_row_and_a_grid_are_placed_from_the_chosen_corner():
    repeat = {"kind": "grid", "columns": 3, "rows": 2, "step_x": "10", "step_y": "8"}
    cut = {
        "id": "g",
        "hole": {"kind": "round", "diameter": "4"},
        "origin": "top right",
        "x": "6",
        "y": "5",
        "repeat": repeat,
    }
    outline = evaluate(project([part("a", 60, 40, cutouts=[cut])])).parts["a"].outline
    centres = sorted((round(c.real), round(c.imag)) for loop in outline.cutouts for c, _ in [loop.circle()])
    assert centres == sorted((60 - 6 - 10 * i, 40 - 5 - 8 * j) for i in range(3) for j in range(2))


# Documents and commands


def test_a_project_file_is_read_back_and_a_foreign_one_is_not():
    data = write_project(demo())
    assert read_project(data) == demo() and write_project(read_project(data)) == data
    for bad, says in (
        (b"{}", "is not a Lean Notch project"),
        (b"\x89PNG", "is not a Lean Notch project"),
        (data.replace(b'"version": 6', b'"version": 7'), "of version 7; this program reads up to version 6"),
        (data[: len(data) // 2], "damaged"),
        (b" " * 50_000_000, "has 50.0 MB; a project file has at most 8 MB"),
        (data.replace(b'"count": 2', b'"count": -2'), "damaged: parts › 1 › count"),
    ):
        with pytest.raises(NotAProject, match=says):
            read_project(bad)


def test_commands_leave_the_old_document_alone():
    before = demo()
    after = apply(before, RemovePart(do="remove part", id="floor"))
    assert len(before.parts) == 5 and len(after.parts) == 4
    assert all("floor" not in (j.a.part, j.b.part) for j in after.joints)
    with pytest.raises(Said, match="not in the project any more"):
        apply(after, RemovePart(do="remove part", id="floor"))


# Layout


def laid(document, seconds=0):
    *_, last = nest(document, evaluate(document), seconds)
    return document.model_copy(update={"layout": last.layout}), last


@settings(max_examples=tried(15))
@given(
    st.lists(st.tuples(st.integers(8, 150), st.integers(8, 90), st.integers(1, 4)), min_size=1, max_size=12),
    st.sampled_from(["grain", "180", "90", "any"]),
    st.sampled_from(["2", "7"]),
)
def test_every_part_lies_once_inside_its_margins_and_apart(sizes, turns, gap):
    parts = [part(f"p{i}", w, h, turns=turns, count=n) for i, (w, h, n) in enumerate(sizes)]
    small = stock(sheets=[{"width": "200", "height": "160"}])
    document, _ = laid(project(parts, stocks=[small], layout={"margin": "5", "gap": gap}))
    facts = check_layout(document, evaluate(document))
    assert facts.findings == [] and not facts.out_of_date
    assert len(document.layout.placements) == sum(n for *_, n in sizes)


def test_nesting_by_the_solver_keeps_gap_and_margin_and_stops_when_asked():
    document, last = laid(demo(), seconds=3)
    facts = check_layout(document, evaluate(document))
    assert facts.findings == [] and last.done == 1
    # The used shares are the parts' own areas, as they are without any layout.
    area = sum(part.outline.area * part.part.count for part in evaluate(demo()).parts.values())
    assert sum(s.used * s.width * s.height for s in facts.sheets) == pytest.approx(area, rel=1e-4)
    asked = []
    steps = list(nest(demo(), evaluate(demo()), 60, lambda: bool(asked.append(1)) or len(asked) > 2))
    assert len(steps[-1].layout.placements) == 8


def test_parts_placed_by_hand_stay_and_the_others_go_round_them():
    document, _ = laid(demo())
    by_hand = next(p for p in document.layout.placements if p.part == "end_wall").model_copy(
        update={"x": 150.0, "y": 100.0}
    )
    document = apply(document, PlaceParts(do="place parts", placements=[by_hand.model_copy(update={"by_hand": True})]))
    facts = check_layout(document, evaluate(document))
    assert any("overlap" in finding.text for finding in facts.findings)
    again, _ = laid(document)
    stayed = next(p for p in again.layout.placements if p.by_hand)
    assert (stayed.x, stayed.y) == (150, 100)
    assert check_layout(again, evaluate(again)).findings == []


def test_what_lies_wrong_is_told_in_numbers():
    tags = project([part("tag", 20, 20, count=2)], layout={"margin": "5", "gap": "7"})
    document, _ = laid(tags)

    def moved(x, y, turn="0"):
        command = PlaceExactly(do="place exactly", part="tag", copy_number=2, sheet=0, x=x, y=y, turn=turn)
        found = apply(document, command)
        return [finding.text for finding in check_layout(found, evaluate(found)).findings]

    # Common practice, no source: 7 mm of gap for a 6.35 mm cutter.
    assert moved("5 + 20 + 7", "5") == []
    assert moved("5 + 20 + 6.35", "5") == ["Tag 1 and Tag 2 are 6.35 mm apart on sheet 1; the gap is 7 mm"]
    assert moved("15", "15") == ["Tag 1 and Tag 2 overlap by 100.0 mm² on sheet 1"]
    assert moved("590", "5") == ["Tag 2 reaches 10 mm off sheet 1"]
    assert moved("50", "2") == ["Tag 2 is 2 mm from the edge of sheet 1; the margin is 5 mm"]
    assert "turned by 45 degrees" in moved("100", "100", "45")[0]


def test_a_finding_names_the_very_copies_it_is_about():
    """Tag 1 and Tag 10 are told apart."""
    document, _ = laid(project([part("tag", 20, 20, count=12)], layout={"margin": "5", "gap": "2"}))
    tenth = next(p for p in document.layout.placements if p.copy_number == 10)
    moved = tenth.model_copy(update={"x": 500.0, "y": 385.0})
    document = apply(document, PlaceParts(do="place parts", placements=[moved]))
    [finding] = check_layout(document, evaluate(document)).findings
    assert "Tag 10 reaches 5 mm off sheet 1" in finding.text
    assert [(copy.part, copy.copy_number) for copy in finding.place.copies] == [("tag", 10)]


@pytest.mark.parametrize("label", ["Move it clear", "Next sheet"])
def test_what_lies_wrong_is_laid_where_it_is_free(label):
    document, _ = laid(project([part("tag", 90, 60, count=4)], layout={"margin": "5", "gap": "2"}))
    first, second = document.layout.placements[:2]
    over = second.model_copy(update={"x": first.x + 4, "y": first.y + 3, "by_hand": True})
    document = apply(document, PlaceParts(do="place parts", placements=[over]))
    [finding] = [with_mends(found) for found in check_layout(document, evaluate(document)).findings]
    assert finding.code == "overlap"
    mend = next(mend for mend in finding.mends if mend.label == label)
    after = apply(document, mend.command)
    assert not check_layout(after, evaluate(after)).findings
    moved = [p for p in after.layout.placements if p not in document.layout.placements]
    assert [(p.copy_number, p.sheet) for p in moved] == [(second.copy_number, 0 if label == "Move it clear" else 1)]


def test_parts_that_have_changed_are_laid_out_again_and_the_others_stay():
    spacing = {"margin": "5", "gap": "2"}
    document, _ = laid(project([part("tag", 90, 60, count=2), part("disc", 50, 50)], layout=spacing))
    wider = apply(document, SetValue(path=["parts", "tag", "shape", "width"], value="120"))
    more = apply(wider, SetValue(path=["parts", "tag", "count"], value=3))
    found = [with_mends(found) for found in check_layout(more, evaluate(more)).findings]
    assert {"not-laid-out", "out-of-date"} <= {finding.code for finding in found}
    stale = next(finding for finding in found if finding.code == "out-of-date")
    after = apply(more, stale.mends[0].command)
    facts = check_layout(after, evaluate(after))
    assert not facts.findings and not facts.out_of_date
    kept = [p for p in document.layout.placements if p.part == "disc"]
    assert [p for p in after.layout.placements if p.part == "disc"] == kept


@given(st.permutations(["rename", "add", "widen", "name"]))
def test_commands_on_different_things_give_one_document_in_any_order(order):
    tall = Part.model_validate(part("lid", 30, 40, "birch"))
    widened = demo().parts[0].model_copy(update={"count": 3})
    length = {"name": "tray_length", "size": "250"}
    commands = {
        "rename": RenameProject(do="rename project", name="Mine"),
        "add": PutPart(do="put part", part=tall),
        "widen": PutPart(do="put part", part=widened),
        "name": PutName(do="put name", name=length),
    }
    document = demo()
    for which in order:
        document = apply(document, commands[which])
    again = read_project(write_project(document))
    assert again == document and (document.name, document.parts[0].count, len(document.parts)) == ("Mine", 3, 6)
    assert evaluate(again).parts["long_wall"].width == 250


def test_a_changed_part_makes_the_layout_out_of_date():
    document, _ = laid(demo())
    names = [
        n.model_copy(update={"size": type(n.size)(text="200")}) if n.name == "tray_length" else n
        for n in document.names
    ]
    changed = document.model_copy(update={"names": names})
    facts = check_layout(changed, evaluate(changed))
    assert set(facts.changed) == {"floor", "long_wall", "lengthways"}
    assert any("Floor, which was 240.00 x 180.00 mm and is 200.00 x 180.00 mm" in f.text for f in facts.findings)


def test_a_part_larger_than_any_sheet_is_told_and_the_rest_is_laid_out():
    document, last = laid(project([part("door", 700, 300), part("tag", 20, 20)]))
    assert "Door is 700 mm x 300 mm and fits no sheet" in last.findings[0].text
    assert [p.part for p in document.layout.placements] == ["tag"]


def test_a_part_may_lie_in_anothers_cut_out():
    cutout = {
        "id": "c",
        "hole": {"kind": "rectangle", "width": "80", "height": "80"},
        "origin": "middle",
        "x": "0",
        "y": "0",
    }
    document, _ = laid(project([part("frame", 100, 100, cutouts=[cutout]), part("tag", 20, 20)]))
    tag = next(p for p in document.layout.placements if p.part == "tag").model_copy(update={"x": 40.0, "y": 40.0})
    document = apply(document, PlaceParts(do="place parts", placements=[tag]))
    result = evaluate(document)
    assert check_layout(document, result).findings == []
    assert placed(result.parts["tag"].outline, tag).equals(box(40, 40, 60, 60))


def test_what_is_left_over_goes_on_the_smallest_sheet_that_holds_it():
    # By hand: two parts of 280 x 180 need one sheet of 300 x 200 each or one of 600 x 400, and one needs the small one.
    sheets = [{"width": "600", "height": "400"}, {"width": "300", "height": "200"}]
    document = project([part("plate", 280, 180)], stocks=[stock(sheets=sheets)])
    assert [(s.width, s.height) for s in first_layout(document).sheets] == [(300, 200)]
    # Four of them fill the large one; the fifth needs no second one of that.
    document = project([part("plate", 280, 180, count=5, turns="180")], stocks=[stock(sheets=sheets)])
    assert [(s.width, s.height) for s in first_layout(document).sheets] == [(600, 400), (300, 200)]


def first_layout(document):
    return next(iter(nest(document, evaluate(document), 0))).layout


@settings(max_examples=tried(15), deadline=None)
@given(
    st.lists(st.tuples(st.integers(8, 60), st.integers(8, 40), st.booleans()), min_size=2, max_size=14),
    st.integers(0, 4),
)
def test_the_first_layout_keeps_the_gap_whatever_lies_on_it(sizes, gap):
    def shape(i, width, height, is_round):
        made = part(f"p{i}", width, height, count=2)
        ellipse = {"kind": "ellipse", "width": str(width), "height": str(height)}
        return made | ({"shape": ellipse} if is_round else {})

    document = project([shape(i, *size) for i, size in enumerate(sizes)], layout={"gap": str(gap), "margin": "5"})
    layout, result = first_layout(document), evaluate(document)
    assert len(layout.placements) == 2 * len(sizes)
    for index, sheet in enumerate(layout.sheets):
        lying = [placed(result.parts[p.part].outline, p) for p in layout.placements if p.sheet == index]
        # Places are kept to a tenth of a thousandth of a mm.
        assert all(a.distance(b) > gap - 2e-4 for a, b in combinations(lying, 2))
        assert all(a.buffer(-2e-4).disjoint(b) for a, b in combinations(lying, 2))
        assert all(box(5, 5, sheet.width - 5, sheet.height - 5).buffer(2e-4).contains(one) for one in lying)
