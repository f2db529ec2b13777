"""Drawings and beams' programs held against what was meant: marks, order, power, edges, and anybody's lines."""

import io
import math
import re

import ezdxf
import numpy as np
import pytest
import shapely
import shapely.affinity
from leannotch_core.bring import told as told_by_bringing
from leannotch_core.document.sizes import shown
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.drawings.formats import read_drawing
from leannotch_core.drawings.svg.reader import read_svg
from leannotch_core.drawings.way_in import Bringing, bring, read
from leannotch_core.evaluate import evaluate
from leannotch_core.geometry.segment import Arc, Line, Source
from leannotch_core.geometry.shallow import RISE, SHALLOW, chords, without_shallow
from leannotch_core.handover.dxf import write_dxf
from leannotch_core.handover.proved import proved, written
from leannotch_core.machining.prepared import prepare
from leannotch_core.machining.ready import on_page
from leannotch_core.proof.against.outline import apart
from leannotch_core.proof.report import proved_apart, report
from leannotch_core.proof.sweep import prove

from ...projects import part, project, stock, text
from ...shell import of
from ...shipped import laid_out, on_laser, projects

proof_main = of("proof")

_SOURCE = Source("test", "side")


def ready(document):
    document = laid_out(on_laser(document))
    result = evaluate(document)
    return document, result, prepare(document, result, 0)


def spoiled(document, kind, change):
    """The faults of a sheet's file after it was changed."""
    document, result, made = ready(document)
    file = written(document, result, made, kind, document.hand_over)
    assert file.proof.faults == []
    changed = change(file.data.decode()).encode()
    assert changed != file.data
    return proved(document, result, made, kind, [changed]).faults


def tag(**more):
    eye = {"id": "eye", "hole": {"kind": "round", "diameter": "8"}, "origin": "left", "x": "10", "y": "0"}
    block = {"id": "block", "hole": {"kind": "rectangle", "width": "12", "height": "6"}, "origin": "right", "x": "10",
             "y": "0", "does": "fill"}  # fmt: skip
    return project([part("tag", 90, 40, cutouts=[eye, block, text("TAG", "45", "20", height="8")], **more)])


def svg(*paths, size=200):
    lines = "".join(f'<path d="{path}" fill="none" stroke="#000"/>' for path in paths)
    box = f'width="{size}mm" height="{size}mm" viewBox="0 0 {size} {size}"'
    return f'<svg xmlns="http://www.w3.org/2000/svg" {box}>{lines}</svg>'


# Numbers from both sides


@pytest.mark.parametrize(("by", "found"), [(0.008, False), (0.013, True)])
def test_an_edge_may_be_off_by_a_hundredth_and_no_more(by, found):
    def wider(data):
        return re.sub(r' r="([\d.]+)"', lambda m: f' r="{float(m[1]) + by}"', data)

    faults = spoiled(tag(), "svg", wider)
    assert [fault.code for fault in faults] == ["differs"] * found
    if found:
        assert faults[0].at is not None and "Look at the kerf" in faults[0].mend


@pytest.mark.parametrize(("far", "found"), [(0.045, False), (0.06, True), (2.0, True)])
def test_a_mark_may_lie_a_twentieth_off_and_no_more(far, found):
    def aside(data):
        head, marks = data.split('<g id="score"')
        marks, rest = marks.split("</g>", 1)
        moved = re.sub(r"([ML])([\d.]+) ([\d.]+)", lambda m: f"{m[1]}{float(m[2]) + far:.4f} {m[3]}", marks)
        return f'{head}<g id="score"{moved}</g>{rest}'

    codes = {fault.code for fault in spoiled(tag(), "svg", aside)}
    assert codes == ({"mark-lost", "mark-stray"} if found else set())


@pytest.mark.parametrize(("by", "found"), [(1.001, False), (1.01, True), (0.1, True), (2, True)])
@pytest.mark.parametrize("letter", ["F", "S"])
def test_speed_and_power_of_a_row_are_held_against_its_setting(letter, by, found):
    def other(data):
        return re.sub(rf"{letter}([\d.]+)", lambda m: f"{letter}{float(m[1]) * by:.2f}", data)

    faults = spoiled(tag(), "nc", other)
    assert ({"power"} <= {fault.code for fault in faults}) == found
    assert all(fault.at is not None for fault in faults if fault.code == "power")


def test_rows_that_fill_are_held_against_what_is_to_be_filled():
    def without_a_row(data):
        lines = data.split("\n")
        start = next(i for i, line in enumerate(lines) if line == "(operation fill)")
        on = [i for i in range(start, start + 60) if re.search(r"S250$|S[1-9]\d*$", lines[i])]
        return "\n".join(line for i, line in enumerate(lines) if i != on[3])

    assert {"mark-lost"} <= {fault.code for fault in spoiled(tag(), "nc", without_a_row)}

    def shorter(data):
        return data.replace("(operation fill)", "(operation fill)", 1).replace("S250", "S0", 1)

    assert spoiled(tag(), "nc", shorter)


def test_a_beam_is_off_between_and_switched_as_its_machine_says():
    # The last that is switched off: what is filled ends with no power anyway.
    assert {"beam-on"} <= {f.code for f in spoiled(tag(), "nc", lambda data: "\n".join(data.rsplit("\nM5\n", 1)))}
    assert {"switches"} <= {f.code for f in spoiled(tag(), "nc", lambda data: data.replace("\nM5\n", "\nM5\nM8\n", 1))}
    assert {"no-end"} <= {f.code for f in spoiled(tag(), "nc", lambda data: data.replace("\nM2\n", "\n"))}
    assert {"unit"} <= {f.code for f in spoiled(tag(), "nc", lambda data: data.replace("G21 ", ""))}


def test_what_lies_in_another_comes_first_by_the_lines_themselves():
    """A round hole of two half arcs: the middle of its chord lies nowhere near it."""

    def outline_first(data):
        cut = re.search(r'<g id="cut".*?</g>', data, re.S)[0]
        head, *lines, foot = cut.split("\n")
        return data.replace(cut, "\n".join([head, *reversed(lines), foot]))

    faults = spoiled(tag(), "svg", outline_first)
    assert [fault.code for fault in faults] == ["order"] and "inner cut" in faults[0].text and faults[0].at


def test_what_the_machine_would_stop_at_is_refused_before_it_is_handed_over():
    document, result, made = ready(project([part("long", 560, 60)]))
    small = document.machines[0].model_copy(update={"bed_width": made.machine.bed_height})
    document = document.model_copy(update={"machines": [small]})
    made = prepare(document, result, 0)
    for kind in ("svg", "nc"):
        proof = written(document, result, made, kind, document.hand_over).proof
        alarms = [fault for fault in proof.faults if fault.code == "alarm"]
        assert alarms and "leaves the bed" in alarms[0].text, kind


# Anybody's lines


def test_an_open_arc_is_an_open_line_and_no_hole_with_a_tab():
    arc = prove(read_svg(svg("M60 50A10 10 0 1 1 55 41.34").encode()), 0.16)
    assert len(arc.open_chains) == 1 and not arc.pieces and not arc.hanging
    # An outline of straight sides hangs on its two tabs all the same.
    held = prove(read_svg(svg("M30.5 10H60V40H30.5", "M29.5 40H10V10H29.5").encode()), 0.16)
    assert len(held.hanging) == 2 and not held.open_chains and held.pieces[0].held == 2


@pytest.mark.parametrize(
    ("other", "crosses", "kinds"),
    [
        # Beside the square, at its corner, round it in three corners; then over an edge by 0.1 mm, and through it.
        ("M80 10h50v50h-50z", False, "pp"),
        ("M60 60h50v50h-50z", False, "pp"),
        ("M60 60H80V-20H10V10H-20V60H10V80H60Z", False, "pppp"),
        ("M59.9 20h30v20h-30z", True, None),
        ("M30 -10h10v90h-10z", True, None),
        # Within it, and within it from corner to corner: what is cut out of a part, and a part cut in two.
        ("M20 20h30v30h-30z", False, "ps"),
        ("M10 10L60 60L20 50Z", False, None),
    ],
)
def test_outlines_that_touch_do_not_cross(other, crosses, kinds):
    found = prove(read_svg(svg("M10 10h50v50h-50z", other).encode()), 0.1)
    assert bool([fault for fault in found.faults if fault.code == "crossing"]) == crosses
    assert kinds is None or "".join(sorted(piece.kind[0] for piece in found.pieces)) == kinds


def test_slits_are_swept_and_counted():
    """A strip of 40 slits: what is left is the strip less all of them, as shapely has it."""
    slits = [f"M{10 + 2 * k} {20 if k % 2 else 30}V{40 if k % 2 else 50}" for k in range(40)]
    found = prove(read_svg(svg("M5 10H95V60H5Z", *slits).encode()), 0.2)
    told = report(found)
    assert (told["open"], told["slits"], len(found.pieces)) == (40, 40, 1)
    ends = [((10 + 2 * k, 180 if k % 2 else 170), (10 + 2 * k, 160 if k % 2 else 150)) for k in range(40)]
    lines = shapely.MultiLineString(ends)
    left = shapely.box(5.1, 140.1, 94.9, 189.9).difference(lines.buffer(0.1, quad_segs=32))
    assert found.pieces[0].shape.area == pytest.approx(left.area, rel=1e-5)
    # A closed slit narrower than the beam is an opening; a line there and back is two lines, and told.
    closed = prove(read_svg(svg("M5 10H95V60H5Z", "M20 30H60V30.1H20Z").encode()), 0.2)
    assert closed.pieces[0].holes == 1 and not closed.open_chains
    twice = prove(read_svg(svg("M5 10H95V60H5Z", "M20 30H60H20Z").encode()), 0.2)
    assert twice.doubled == 1 and twice.slits == 1


def test_loose_lines_beside_tabs_are_told():
    """An open line that shares its end with nothing is not forgotten where others are closed over tabs."""
    held = ["M30.5 10H60V40H30.5", "M29.5 40H10V10H29.5"]
    found = prove(read_svg(svg(*held, "M100 100H140V120").encode()), 0.16)
    assert len(found.open_chains) == 1 and len(found.hanging) == 2


def test_anybodys_file_is_told_its_order_and_its_end(capsys, tmp_path):
    late = svg("M5 10H95V60H5Z", "M20 20H40V40H20Z")
    told = proved_apart(late.encode(), "late.svg", 0.1)["report"]
    [fault] = told["faults"]
    assert fault["code"] == "order" and fault["mend"].startswith("Put the running order back")
    drawn = ezdxf.new(units=4)
    drawn.modelspace().add_lwpolyline([(0, 0), (40, 0), (40, 30), (0, 30)], close=True)
    stream = io.StringIO()
    drawn.write(stream)
    whole = stream.getvalue()
    for data, codes in ((whole, []), (whole[: whole.index("OBJECTS") + 8], ["no-end"])):
        assert [fault["code"] for fault in proved_apart(data.encode(), "x.dxf", 0.1)["report"]["faults"]] == codes
    path = tmp_path / "late.svg"
    path.write_text(late)
    assert proof_main([str(path), "--kerf", "0.1"]) == 0
    assert "comes after the cut round it" in capsys.readouterr().out


# What files hold


def test_arcs_about_places_beyond_every_bed_are_chords_in_files_and_readers():
    radius = 166_000.0
    centre = complex(150, -radius)
    start, end = (centre + radius * complex(math.sin(a), math.cos(a)) for a in (-150 / radius, 150 / radius))
    arc = Arc(start, end, centre, False, _SOURCE)
    lines = list(without_shallow([arc, Line(end, 0j, _SOURCE)]))
    assert len(lines) > 8 and all(isinstance(line, Line) for line in lines)
    off = [abs(abs(point - centre) - radius) for line in lines[:-1] for point in (line.start, line.at(0.5))]
    assert max(off) <= RISE
    # Just under and just over where arcs stay arcs.
    for size, many in ((SHALLOW * 0.999, 1), (SHALLOW * 1.001, 2)):
        bow = Arc(0j, 300 + 0j, complex(150, -math.sqrt(size**2 - 150**2)), False, _SOURCE)
        assert (len(list(without_shallow([bow]))) > 1) == (many > 1)
    assert len(chords(arc, 1.0)) == 1
    drawing = read_svg(svg("M10 10A166000 166000 0 0 1 190 10V100H10Z").encode())
    highest = max(segment.start.imag for line in drawing.lines for segment in line.segments)
    assert highest == pytest.approx(190 + 180**2 / 8 / 166000, abs=2e-3)
    drawn = ezdxf.new(units=4)
    drawn.modelspace().add_arc((0, -166000), 166000, 89.95, 90.05)
    stream = io.StringIO()
    drawn.write(stream)
    [bow] = read_drawing(stream.getvalue().encode(), "x.dxf").lines
    assert max(segment.start.imag for segment in bow.segments) == pytest.approx(0, abs=1e-6)


def test_every_shipped_project_with_pockets_or_huge_arcs_is_written_and_proved():
    for name, kind in (("boot_rack", "nc"), ("cross_staff", "nc"), ("felt_pennant", "svg"), ("gull", "nc")):
        document = laid_out(on_laser(projects()[name]))
        result = evaluate(document)
        made = prepare(document, result, 0)
        faults = written(document, result, made, kind, document.hand_over).proof.faults
        assert {fault.code for fault in faults} <= {"alarm"}, name


def test_a_dxf_says_how_far_it_reaches_in_letters_that_its_version_has():
    document = laid_out(on_laser(projects()["sorting_tray"].model_copy(update={"name": "Säge 日"})))
    made = prepare(document, evaluate(document), 0)
    for version, letters in (("R12", "cp1252"), ("R2010", "utf-8")):
        data = write_dxf(on_page(made), version, made.machine)
        said = data.decode(letters)
        assert ("Säge \\U+65e5" if version == "R12" else "Säge 日") in said
        drawn = ezdxf.read(io.StringIO(said))
        low, high = drawn.header["$EXTMIN"], drawn.header["$EXTMAX"]
        boxes = [segment.bounds() for path in made.plan.paths for segment in path.segments]
        assert low[0] == pytest.approx(min(box[0] for box in boxes)) and high[1] == pytest.approx(
            max(b[3] for b in boxes)
        )


def test_lengths_are_told_with_sense():
    assert [shown(mm) for mm in (8.05, 9999.4, 58982.36)] == ["8.05 mm", "9999.4 mm", "59.0 m"]


def test_the_distance_of_two_edges_is_what_looking_at_every_corner_gives():
    """Most corners are left alone, because what lies near them is nearer than what was found already."""
    chosen = np.random.default_rng(3)
    for number in range(30):
        holes = [
            shapely.Point(*chosen.uniform(5, 60, 2)).buffer(chosen.uniform(0.5, 4), quad_segs=30) for _ in range(6)
        ]
        one = shapely.box(0, 0, *chosen.uniform(70, 300, 2)).difference(shapely.union_all(holes))
        far = 10 ** chosen.uniform(-4, 0.5)
        other = shapely.affinity.translate(one, *chosen.normal(0, far, 2)) if number % 2 else one.buffer(far / 3)
        spots = [shapely.points(shapely.get_coordinates(shape)) for shape in (one, other)]
        judged = max(shapely.distance(spots[0], other.boundary).max(), shapely.distance(spots[1], one.boundary).max())
        assert apart(one, other).distance == pytest.approx(judged, abs=1e-9)


def test_the_proof_and_bringing_tell_the_same_of_what_is_in_a_file():
    document = ezdxf.new(units=4)
    document.layers.add("off").off()
    space = document.modelspace()
    space.add_lwpolyline([(0, 0), (60, 0), (60, 40), (0, 40)], close=True)
    space.add_circle((20, 20), 5, dxfattribs={"layer": "off"})
    space.add_text("words").set_placement((10, 30))
    stream = io.StringIO()
    document.write(stream)
    data = stream.getvalue().encode()
    proved = proved_apart(data, "x.dxf", 0.1)["report"]
    brought = told_by_bringing(bring(read(data, "x.dxf"), Bringing()), [], "mm")
    assert proved["held"] == brought["held"]
    assert [one["kind"] for one in proved["held"]] == ["CIRCLE", "LWPOLYLINE", "TEXT"]
    own = [one for one in brought["told"] if one["code"] in ("left out", "unseen", "note")]
    assert own == proved["told"] and [20.0, 20.0] in [at for one in own for at in one["places"]]


def with_own_lines(own):
    document = laid_out(on_laser(projects()["sorting_tray"]))
    machine = document.machines[0].model_copy(update=own)
    document = document.model_copy(update={"machines": [machine]})
    result = evaluate(document)
    return written(document, result, prepare(document, result, 0), "nc", document.hand_over).proof


def test_what_a_profile_adds_is_carried_out_like_any_other_line():
    assert with_own_lines({"begins": ["G0 X0 Y0"], "ends": ["M84", "G0 X0 Y0"]}).faults == []
    # A line that burns across the sheet spoils it, and one that makes steps of all that follows.
    assert with_own_lines({"begins": ["M3 S500", "G1 X40 Y40 F600", "M5"]}).faults
    for own, says in (({"begins": ["G91"]}, "an arc begins"), ({"ends": ["G1 X5 Y#1"]}, "names places, and cannot be")):
        with pytest.raises(BrokenFile, match=says):
            with_own_lines(own)


def test_marks_that_end_at_the_edge_are_burnt_along_themselves_and_not_along_the_cut_beside_them():
    # Six ticks of 0.8 mm have a side on the edge, 0.03 mm beside its cut line: 4.8 mm of 80.
    tick = {"kind": "rectangle", "width": "10", "height": "0.8"}
    ticks = [{"id": f"tick_{at}", "does": "score", "hole": tick, "x": "0", "y": f"{10 * at}"} for at in range(1, 7)]
    plate = part("plate", 120, 80, cutouts=[{"point": "left", "origin": "bottom left"} | one for one in ticks])
    document, result, made = ready(project([plate], [], [stock(kerf="0.06")]))
    assert not result.errors
    assert [fault.text for fault in written(document, result, made, "nc", document.hand_over).proof.faults] == []
