"""The way in: which parts a drawing has, how large they are, what goes with them; and ``notch bring``."""

import cmath
import io
import json
import math
from functools import partial

import ezdxf
import pytest
import shapely
from ezdxf.enums import TextEntityAlignment
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.bring import brought_parts
from leannotch_core.document.limits import MOST_OF_A_PART
from leannotch_core.document.sizes import Size
from leannotch_core.drawings.again import as_it_is_now, known_again
from leannotch_core.drawings.following import Follow, likely_thickness
from leannotch_core.drawings.held import held_in
from leannotch_core.drawings.likely_unit import likely_unit
from leannotch_core.drawings.mistakes import mistake_in
from leannotch_core.drawings.motifs import motifs_from
from leannotch_core.drawings.sent import as_brought, as_read, as_sent, brought_apart, read_apart
from leannotch_core.drawings.svg import read_svg
from leannotch_core.drawings.taken import part_from
from leannotch_core.drawings.told import told_of
from leannotch_core.drawings.too_many import too_many
from leannotch_core.drawings.way_in import Bringing, bring, read
from leannotch_core.edits.bring import BringMotifs
from leannotch_core.edits.command import apply
from leannotch_core.edits.part import MirrorPart
from leannotch_core.evaluate import evaluate
from leannotch_core.handover.svg import write_svg
from leannotch_core.layout.nest import nest
from leannotch_core.machining.lettered import marks
from leannotch_core.machining.plan import plan_sheet
from leannotch_core.parts.cut_out import CutOut
from leannotch_core.project.project import read_project
from leannotch_core.proof.sweep import prove

from ...projects import ROOT, part, project, stock
from ...properties import tried
from ...shell import of

main = of("bring")

LABELS = ROOT / "demo" / "brought" / "specimen_labels.svg"


def dxf(draw, units=4):
    document = ezdxf.new(units=units)
    draw(document.modelspace(), document)
    stream = io.StringIO()
    document.write(stream)
    return read(stream.getvalue().encode(), "drawing.dxf")


def corners(shape, place, turn=0.0, mirrored=False):
    way = cmath.rect(1, math.radians(turn))
    points = [complex(*p).conjugate() if mirrored else complex(*p) for p in shape]
    return [((way * p + complex(*place)).real, (way * p + complex(*place)).imag) for p in points]


FLAG = [(0, 0), (40, 0), (40, 12), (15, 12), (15, 30), (0, 30)]


@settings(max_examples=tried(20))
@given(st.integers(0, 359), st.integers(1, 359))
def test_equal_outlines_are_one_part_with_a_count_however_they_are_turned(first, second):
    def draw(space, _):
        for number, turn in enumerate((first, second)):
            space.add_lwpolyline(corners(FLAG, (number * 120, 0), turn), close=True)
        space.add_lwpolyline(corners(FLAG, (240, 0), second, mirrored=True), close=True)

    drawing = dxf(draw)
    assert sorted(part.count for part in bring(drawing, Bringing()).parts) == [1, 2]
    assert [part.count for part in bring(drawing, Bringing(mirrored=True)).parts] == [3]


def test_openings_islands_lines_and_pockets_go_with_the_part_that_they_lie_in():
    def draw(space, document):
        space.add_lwpolyline([(0, 0), (100, 0), (100, 60), (0, 60)], close=True)
        space.add_circle((30, 30), 20)
        space.add_circle((30, 30), 8)
        space.add_line((60, 10), (90, 10), dxfattribs={"layer": "score"})
        space.add_lwpolyline(
            [(60, 30), (80, 30), (80, 50), (60, 50)], close=True, dxfattribs={"layer": "Pocket 1.5 mm"}
        )
        space.add_line((200, 0), (210, 0), dxfattribs={"layer": "engrave"})

    way = bring(dxf(draw), Bringing())
    plate, disc = sorted(way.parts, key=lambda part: -part.outline.area)
    assert (len(plate.outline.cutouts), disc.count, way.beside) == (1, 1, [205 + 0j])
    part = part_from(plate, "plate", "ply")
    result = evaluate(project([part.model_dump()], [], [stock("ply", ("3",))]))
    found = result.parts["plate"]
    # By hand: 100 x 60 less a hole of 40.
    assert not result.errors and found.outline.area == pytest.approx(6000 - math.pi * 400, abs=1e-3)
    assert [(path.operation, path.segments[0].start, path.segments[0].end) for path in marks(found)] == [
        ("score", pytest.approx(60 + 10j), pytest.approx(90 + 10j))
    ]
    assert [(pocket.depth, pocket.outline.bounds) for pocket in found.pockets] == [
        (1.5, pytest.approx((60, 30, 80, 50)))
    ]


@pytest.mark.parametrize("frame", [None, False, True])
def test_a_rectangle_round_everything_is_a_sheet_unless_the_maker_says_that_it_is_a_part(frame):
    def draw(space, _):
        space.add_lwpolyline([(0, 0), (230, 0), (230, 120), (0, 120)], close=True)
        for number in range(20):
            x, y = 5 + 45 * (number % 5), 5 + 28 * (number // 5)
            space.add_lwpolyline([(x, y), (x + 40, y), (x + 40, y + 25), (x, y + 25)], close=True)

    way = bring(dxf(draw), Bringing(frame=frame))
    assert [(part.count, len(part.outline.cutouts)) for part in way.parts] == (
        [(1, 20)] if frame is False else [(20, 0)]
    )
    assert way.frame is not None and way.frame.size == pytest.approx(230 + 120j)


def test_a_plate_with_holes_is_a_part_and_no_sheet():
    def draw(space, _):
        space.add_lwpolyline([(0, 0), (100, 0), (100, 60), (0, 60)], close=True)
        for x in (20, 50, 80):
            space.add_circle((x, 30), 6)

    way = bring(dxf(draw), Bringing())
    assert way.frame is None and [len(part.outline.cutouts) for part in way.parts] == [3]


def test_a_drawing_is_as_large_as_its_unit_says():
    def draw(space, _):
        space.add_lwpolyline([(0, 0), (100, 0), (100, 50), (0, 50)], close=True)

    drawing = dxf(draw, units=0)
    # CSS Values and Units 3, 6.2, for px; an inch is 25.4 mm.
    for unit, width in ((None, 100), ("in", 2540), ("px", 26.458), ("cm", 1000)):
        assert bring(drawing, Bringing(unit=unit)).width == pytest.approx(width, abs=1e-3)
    assert bring(drawing, Bringing(scale=1.5)).parts[0].outline.area == pytest.approx(5000 * 2.25)


def test_a_badly_drawn_sheet_is_brought_from_the_shell_and_its_mends_are_told(tmp_path, capsys):
    out = tmp_path / "labels.json"
    assert main([str(LABELS), "--out", str(out), "--unit", "mm", "--join", "0.3", "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert [(p["count"], p["openings"], round(p["width"], 3), round(p["height"], 3)) for p in told["parts"]] == [
        (6, 1, 70, 26), (1, 6, 150, 40), (2, 0, 40, 40),
    ]  # fmt: skip
    assert told["mended"] == {"joined": 2, "doubled": 1, "points": 1, "arcs": 2}
    assert told["parts"][2]["area"] == pytest.approx(math.pi * 400, rel=1e-3)
    document = read_project(out.read_bytes())
    assert [part.count for part in document.parts] == [6, 1, 2] and not evaluate(document).errors
    assert main([str(tmp_path / "none.dxf"), "--out", str(out)]) == 2
    assert read_project(out.read_bytes()) == document


# Slots and tabs that follow the sheet

RIGHT = [(0, 0), (120, 0), (120, 20), (123, 20), (123, 40), (120, 40), (120, 60)]
BOARD = [*RIGHT, (63, 60), (63, 30), (60, 30), (60, 60), (0, 60)]


def board(space, _):
    """120 x 60 with a tab of 3 on the right, a notch of 3 from above, and a slot of 3 x 20."""
    space.add_lwpolyline(BOARD, close=True)
    space.add_lwpolyline([(20, 15), (40, 15), (40, 18), (20, 18)], close=True)


@settings(max_examples=tried(15))
@given(
    st.integers(100, 900).map(lambda n: n / 100), st.sampled_from(["0", "0.1", "0.25"]), st.sampled_from([0.0, 37.0])
)
def test_slots_and_tabs_that_were_drawn_for_another_sheet_are_as_wide_and_long_as_this_one(thick, clearance, turn):
    def draw(space, document):
        board(space, document)
        for entity in space:
            entity.rotate_z(math.radians(turn))

    found = bring(dxf(draw), Bringing()).parts[0]
    part = part_from(found, "board", "ply", Follow(3.0))
    assert sorted(place.kind for place in part.shape.follows) == ["slot", "slot", "tab"]
    document = project([part.model_dump()], [], [stock("ply", (str(thick),), glue=clearance)])
    result = evaluate(document)
    assert not result.errors
    width, tab = thick + float(clearance), thick
    # By hand: the notch and the slot give way on both sides, the tab reaches further, and nothing else moves.
    area = 120 * 60 - 30 * width - 20 * width + 20 * tab
    assert result.parts["board"].outline.area == pytest.approx(area, abs=0.02)
    plain = evaluate(
        project(
            [{**part.model_dump(), "shape": {**part.shape.model_dump(), "follows": []}}], [], [stock("ply", ("3",))]
        )
    )
    corners_now, before = ([s.start for s in r.parts["board"].outline.outer] for r in (result, plain))
    still = sum(abs(a - b) < 1e-6 for a, b in zip(corners_now, before, strict=True))
    assert still >= 6


def test_a_slot_that_follows_keeps_the_side_that_is_told_and_its_place_in_the_mirror():
    part = part_from(bring(dxf(board), Bringing()).parts[0], "board", "ply", Follow(3.0))
    notch = next(i for i, p in enumerate(part.shape.follows) if p.kind == "slot" and p.ring == 0)
    for stays, sides in (("middle", {59, 64}), ("first", {63, 58}), ("second", {60, 65})):
        follows = list(part.shape.follows)
        follows[notch] = follows[notch].model_copy(update={"stays": stays, "size": {"text": "5", "unit": "mm"}})
        shape = part.shape.model_copy(update={"follows": follows}).model_dump()
        one = {**part.model_dump(), "shape": shape}
        for document, flip in (
            (project([one]), False),
            (apply(project([one]), MirrorPart(do="mirror part", id="board")), True),
        ):
            outline = evaluate(document).parts["board"].outline
            left, _, right, _ = outline.bounds
            at = {round(s.start.real - left, 3) for s in outline.outer if abs(s.start.imag - 30) < 1e-6}
            assert at == ({round(right - left - x, 3) for x in sides} if flip else sides), stays


def test_the_thickness_that_a_drawing_was_made_for_is_guessed_from_its_slots():
    outlines = [part.outline for part in bring(dxf(board), Bringing()).parts]
    assert likely_thickness(outlines, None) == 3
    assert likely_thickness(outlines[:0], None) is None


def test_an_exported_slot_is_as_wide_as_the_sheet_in_hand_when_it_is_cut():
    """A drawn-for-3 file on sheets of 3.07 and 5.6 mm (common practice, no source), measured on the swept file."""
    for thick in ("3.07", "5.6"):
        part = part_from(bring(dxf(board), Bringing()).parts[0], "board", "birch", Follow(3.0))
        document = project([part.model_dump()], [], [stock("birch", (thick,), kerf="0.2", glue="0.1")])
        result = evaluate(document)
        laid = document.model_copy(update={"layout": next(iter(nest(document, result, 0))).layout})
        drawing = read_svg(write_svg(plan_sheet(laid, result, 0), laid.hand_over))
        piece = next(p for p in prove(drawing, 0.2).pieces if p.kind == "part" and p.holes == 1)
        slot = shapely.Polygon(piece.shape.interiors[0])
        sides = sorted((slot.bounds[2] - slot.bounds[0], slot.bounds[3] - slot.bounds[1]))
        assert sides == pytest.approx([float(thick) + 0.1, 20], abs=2e-3)


def labels_of(words, **text):
    def draw(space, _):
        for number, said in enumerate(words):
            space.add_lwpolyline(corners([(0, 0), (40, 0), (40, 20), (0, 20)], (number * 50, 0)), close=True)
            space.add_text(said, height=4, dxfattribs=text).set_placement(
                (number * 50 + 20, 10), align=TextEntityAlignment.MIDDLE_CENTER
            )

    return dxf(draw)


def test_live_text_is_set_on_the_part_that_it_lies_on_with_its_words_kept():
    assert [part.count for part in bring(labels_of(["RAIN", "TIDE", "RAIN"]), Bringing()).parts] == [3]
    found = bring(labels_of(["RAIN", "TIDE", "RAIN"]), Bringing(lettering="plain")).parts
    assert [(part.count, [text.words for text in part.texts]) for part in found] == [(2, ["RAIN"]), (1, ["TIDE"])]
    taken = part_from(found[0], "label", "ply")
    lettered = evaluate(project([taken])).parts["label"].cutouts[0]
    left, bottom, right, top = lettered.own_box
    # Middle on middle, and capitals as high as the DXF says (group 40 of TEXT; DXF reference).
    assert lettered.at == pytest.approx(20 + 10j) and top - bottom == pytest.approx(4, abs=0.15)
    assert (left + right) / 2 == pytest.approx(0, abs=0.5)


def test_text_of_an_svg_is_set_line_by_line_where_its_anchor_is():
    text = (
        '<text x="10" y="20" font-size="10" transform="rotate(-90 10 20)">ab<tspan x="10" dy="12">cd</tspan></text>'
        '<text x="50" y="20" style="font-size:20px;text-anchor:end">ef</text>'
    )
    found = read_svg(
        f'<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="50mm" viewBox="0 0 100 50">'
        f'<rect width="90" height="40"/>{text}</svg>'.encode()
    ).texts
    assert [(t.words, t.align) for t in found] == [("ab", "left"), ("cd", "left"), ("ef", "right")]
    assert [t.at for t in found] == pytest.approx([10 + 30j, 22 + 30j, 50 + 30j])
    # Turned to the left by 90 degrees, up is to the left.
    assert [t.up for t in found] == pytest.approx([-7, -7, 14j])


@pytest.mark.parametrize(
    ("factor", "says"),
    # 100 px at 96 to the inch are 26.458 mm, at 72 to the inch 35.278 (CSS Values and Units 3, 5.2).
    [(26.458 / 100, "96 to the inch"), (35.278 / 100, "72 to the inch"), (1 / 25.4, "in inches"), (1.0, None)],
)
def test_the_usual_mistakes_of_size_are_named_where_the_lengths_show_them(factor, says):
    sides = [(60.0, 40.0), (100.0, 25.5), (72.5, 33.0)]

    def draw(space, _):
        for number, (width, height) in enumerate(sides):
            plate = [(0, 0), (width, 0), (width, height), (0, height)]
            place = (number * 150 * factor, 0)
            space.add_lwpolyline(corners([(x * factor, y * factor) for x, y in plate], place), close=True)

    drawing = dxf(draw).drawing
    found = mistake_in([s for line in drawing.lines for s in line.segments], 1.0)
    assert (found is None) if says is None else (says in found.what and found.should == pytest.approx(100, abs=0.01))


def test_shapes_of_a_drawing_go_onto_a_part_and_references_to_no_machine():
    def draw(space, _):
        space.add_circle((10, 10), 5)
        space.add_lwpolyline([(30, 5), (40, 5), (40, 15), (30, 15)], close=True)

    found = bring(dxf(draw), Bringing()).parts
    document = project([part("board", 80, 60)])
    outlines = {}
    for does in ("cut out", "score", "reference", "pocket"):
        shapes = motifs_from(found, document.parts[0], does, "motifs.dxf")
        board = evaluate(apply(document, BringMotifs(file="motifs.dxf", part="board", shapes=shapes))).parts["board"]
        outlines[does] = (len(board.outline.cutouts), len(marks(board)), len(board.pockets), len(board.lines))
        middles = sorted(cut.at.real for cut in board.cutouts)
        assert middles == pytest.approx([40 - 12.5, 40 + 12.5])
    assert outlines == {
        "cut out": (2, 0, 0, 0),
        "score": (0, 2, 0, 2),
        "reference": (0, 0, 0, 2),
        "pocket": (0, 0, 2, 0),
    }


PEG = {"id": "peg", "hole": {"kind": "round", "diameter": "4"}, "x": "50", "y": "20"}


def test_a_newer_drawing_changes_what_it_changes_and_keeps_what_the_maker_did():
    def sheet(wide, more):
        def draw(space, _):
            space.add_lwpolyline([(0, 0), (wide, 0), (wide, 40), (0, 40)], close=True, dxfattribs={"layer": "shelf"})
            space.add_lwpolyline(corners(FLAG, (200, 0), 30), close=True, dxfattribs={"layer": "flag"})
            if more:
                space.add_circle((300, 0), 10, dxfattribs={"layer": "peg"})
            else:
                space.add_lwpolyline(corners(FLAG, (300, 0), 75), close=True, dxfattribs={"layer": "flag"})

        return bring(dxf(draw), Bringing()).parts

    document = project([])
    before = brought_parts(document, sheet(100, more=False), "birch", None, "shelf.dxf")
    shelf = before[1].model_copy(update={"name": "Top shelf", "cutouts": [CutOut.model_validate(PEG)]})
    document = document.model_copy(update={"parts": [shelf, before[0]]})
    rows = known_again(document.parts, newer := sheet(120, more=True), "shelf.dxf")
    assert [(row.what, row.how) for row in rows] == [
        ("changed", "100 mm x 40 mm is now 120 mm x 40 mm"),
        ("changed", "2 of it are now 1"),
        ("new", ""),
    ]
    now = as_it_is_now(shelf, newer[rows[0].found], None, "shelf.dxf")
    assert (now.name, now.stock, now.shape.width.text, len(now.cutouts)) == ("Top shelf", "birch", "120", 1)
    typed = shelf.model_copy(update={"shape": shelf.shape.model_copy(update={"width": Size(text="2*50 + 4")})})
    assert as_it_is_now(typed, newer[rows[0].found], None, "shelf.dxf").shape.width.text == "2*50 + 4"
    rows = known_again(document.parts, sheet(100, more=False)[:1], "shelf.dxf")
    assert [(row.what, row.part.id) for row in rows] == [("gone", "shelf"), ("same", "flag")]


def test_an_outline_that_crosses_itself_is_told_with_its_place_and_is_no_part():
    def draw(space, _):
        space.add_lwpolyline([(0, 0), (40, 40), (40, 0), (0, 30)], close=True)
        space.add_lwpolyline([(100, 0), (140, 0), (140, 40), (100, 40)], close=True)

    way = bring(dxf(draw), Bringing())
    ((_, at),) = way.crossed
    # By hand: y = x meets y = 30 - 3x/4.
    assert at == pytest.approx(complex(30 / 1.75, 30 / 1.75)) and [p.outline.area for p in way.parts] == [1600]


def test_plates_whose_ends_were_drawn_a_little_off_are_one_part_where_ends_join_within_that():
    def draw(space, _):
        for at, off in ((0, 0), (150, 0.05), (300, -0.05)):
            space.add_lwpolyline([(at, off), (at + 100, 0), (at + 100, 50 + off), (at, 50), (at, 0)])

    way = bring(dxf(draw), Bringing(join=0.08))
    assert [part.count for part in way.parts] == [3] and 0.02 < way.unequal < 0.06
    assert any("were taken as equal" in told.says for told in told_of(way))
    assert len(bring(dxf(draw), Bringing(join=0.03)).parts) > 1

    def other(space, _):
        space.add_lwpolyline([(0, 0), (100, 0), (100, 50), (0, 50)], close=True)
        space.add_lwpolyline([(200, 0), (300.15, 0), (300.15, 50), (200, 50)], close=True)

    # However wide gaps may be, parts that differ by more than a kerf are two.
    assert len(bring(dxf(other), Bringing(join=3)).parts) == 2


def test_every_thing_of_a_file_is_taken_or_told_with_its_place():
    def draw(space, document):
        document.layers.add("spare").freeze()
        space.add_lwpolyline([(0, 0), (100, 0), (100, 60), (0, 60)], close=True)
        space.add_circle((30, 30), 5, dxfattribs={"layer": "spare"})
        space.add_point((7, 8))
        space.add_line((200, 10), (210, 10))
        space.add_text("words", dxfattribs={"insert": (5, 5)})
        space.add_line((0, 0, 0), (9, 9, 9))
        space.add_ray((3, 4), (1, 0))

    way = bring(dxf(draw), Bringing())
    assert {held.kind: held.became for held in held_in(way.drawing)} == {
        "LINE": {"taken": 1, "not flat": 1},
        "LWPOLYLINE": {"taken": 1},
        "CIRCLE": {"on a frozen layer": 1},
        "POINT": {"without length": 1},
        "TEXT": {"live text": 1},
        "RAY": {"not read": 1},
    }
    places = {told.says.split(",")[0]: told.places for told in told_of(way) if told.places}
    assert places["1 line stays open and is not cut; the narrowest gap is 10 mm."] == (200 + 10j, 210 + 10j)
    assert places["1 shape that nobody sees was left out: 1 on a frozen layer."] == (30 + 30j,)
    lettered = bring(dxf(draw), Bringing(lettering="plain"))
    assert not any("live text" in told.says for told in told_of(lettered))
    assert {held.kind: held.became for held in held_in(lettered.drawing, lettered.lettered)}["TEXT"] == {
        "set as lettering": 1
    }
    assert places["The DXF has live text"] == (5 + 5j,) and places["The DXF has RAY entities"] == (3 + 4j,)
    assert places["The DXF has LINE entities that do not lie flat"] == (0j,)


def test_more_copies_than_a_part_may_have_are_refused_before_they_are_taken():
    def draw(space, _, copies):
        for i in range(copies):
            space.add_lwpolyline(
                [(x + 12 * (i % 30), y + 8 * (i // 30)) for x, y in ((0, 0), (9, 0), (9, 5), (0, 5))], close=True
            )

    for copies in (MOST_OF_A_PART, MOST_OF_A_PART + 1):
        way = bring(dxf(partial(draw, copies=copies)), Bringing(frame=False))
        assert bool(too_many(way.parts)) == (copies > MOST_OF_A_PART)
    assert too_many(way.parts).startswith("Part 1 is there 501 times; a part has at most 500 copies.")
    assert "has 5001 copies" in too_many([], 5001)


def unitless(scale, slots=6, width=120.0, slot=3.1, hole=3.4):
    """A plate with slots for a sheet of 3.07 mm and two holes for M3, in so many numbers to the mm, without a unit."""

    def draw(space, document):
        document.header["$MEASUREMENT"] = 1
        outline = [(0, 0), (width, 0), (width, 60), (0, 60)]
        space.add_lwpolyline([(x * scale, y * scale) for x, y in outline], close=True)
        for i in range(slots):
            x = 10 + 15 * i
            corners = [(x, 20), (x + slot, 20), (x + slot, 40), (x, 40)]
            space.add_lwpolyline([(a * scale, b * scale) for a, b in corners], close=True)
        for x in (5, 115):
            space.add_circle((x * scale, 50 * scale), hole / 2 * scale)

    return bring(dxf(draw, units=0), Bringing())


BEDS = [600 + 400j]


@pytest.mark.parametrize(("unit", "per_mm"), [("in", 1 / 25.4), ("cm", 0.1), ("px", 96 / 25.4), ("pt", 72 / 25.4)])
def test_a_drawing_without_a_unit_is_weighed_by_what_each_would_mean(unit, per_mm):
    likely = likely_unit(unitless(per_mm), {"birch": 3.07, "card": 1.4}, BEDS)
    assert (likely.unit, likely.width) == (unit, pytest.approx(120))
    assert "its 6 slots are 3.1 mm wide, as your birch measures 3.07 mm" in likely.because
    assert "2 of its holes are of a usual size, 3.4 mm" in likely.because


@pytest.mark.parametrize(
    ("way", "sheets", "offered"),
    [
        # In millimetres already; nothing that tells; and slots that are 0.15 mm narrower or 0.35 mm wider than a sheet.
        (unitless(1), {"birch": 3.07}, False),
        (unitless(1 / 25.4, slots=0, hole=3.31), {}, False),
        (unitless(1 / 25.4, slots=0, hole=3.17), {}, True),
        (unitless(1 / 25.4, slot=3.42), {"birch": 3.07}, True),
        (unitless(1 / 25.4, slot=3.43, hole=3.31, width=800), {"birch": 3.07}, False),
        (unitless(1 / 25.4, slot=2.92), {"birch": 3.07}, True),
        (unitless(1 / 25.4, slot=2.91, hole=3.31, width=800), {"birch": 3.07}, False),
    ],
)
def test_another_unit_is_offered_only_where_something_speaks_for_it(way, sheets, offered):
    assert (likely_unit(way, sheets, BEDS) is not None) == offered


def test_a_stated_unit_is_never_doubted():
    way = bring(dxf(lambda space, _: space.add_circle((0, 0), 0.067), units=4), Bringing())
    assert likely_unit(way, {"birch": 3.07}, BEDS) is None


@pytest.mark.parametrize("path", sorted((ROOT / "demo" / "brought").iterdir()), ids=lambda path: path.name)
def test_what_is_worked_out_in_another_process_is_what_is_worked_out_here(path):
    """Every part, mark, text, mend and place comes back as it was, exactly."""
    found = as_read(read_apart(path.read_bytes(), path.name), path.name)
    for chosen in (Bringing(), Bringing(unit="in", join=0.2, crossing="whole", mirrored=True, lettering="stencil")):
        sent = brought_apart(json.dumps(as_sent(found.drawing)).encode(), path.name, chosen, 60)
        assert as_brought(sent, found.drawing) == bring(found, chosen)
