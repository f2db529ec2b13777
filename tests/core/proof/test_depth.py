"""A router's program held against a height field that shares nothing with the proof, and spoiled at its numbers."""

import re

import numpy as np
import pytest
import shapely
from hypothesis import Phase, given, settings
from hypothesis import strategies as st
from leannotch_core.device.run import LaidDown, run
from leannotch_core.device.sent import read_sent
from leannotch_core.document.cutter import Cutter
from leannotch_core.document.sizes import Size
from leannotch_core.document.statement import z_statement
from leannotch_core.facts.cutters import chip_load, cutter_facts, feed
from leannotch_core.handover.gcode import write_gcode
from leannotch_core.handover.proved import proved
from leannotch_core.machining.settings import starting
from leannotch_core.proof.depth.report import depth_proved_apart

from ...judges.height_field import carved
from ...projects import part, stock, text
from ...properties import tried
from ..machining.test_router import ROUTER, hole, mill, proved_text, ready_of, routed, sunk
from ..machining.test_router import proved as proved_file


def codes(proof):
    return {fault.code for fault in proof.faults}


@settings(max_examples=tried(6), deadline=None, phases=(Phase.explicit, Phase.generate))
@given(
    st.sampled_from(["3.175", "6.35"]),
    st.floats(1.5, 8).map(lambda d: round(d, 2)),
    st.sampled_from(["ramp", "helix", "straight"]),
    st.sampled_from(["offsets", "zigzag"]),
)
def test_what_the_proof_measures_is_what_a_height_field_is_left_with(diameter, depth, entry, clearing):
    plate = part("plate", 70, 50, cutouts=[sunk("well", 24, 18, depth, x="-14"), hole("eye", 12, x="18")])
    tabs = {"how": "by count", "count": 2, "width": "4", "height": "2"}
    document = routed(
        [plate], [mill(diameter=diameter)], tabs, thickness="9", entry=entry, clearing=clearing, overcut="0.2"
    )
    ready, file = proved_file(document)
    assert file.proof.faults == []
    field = carved(file.data.decode(), 100, 80, float(diameter))
    [sunk_there] = file.proof.sunk
    spot = sunk_there.representative_point()
    assert field.at(spot.x, spot.y) == pytest.approx(-depth, abs=1e-3)
    # As areas: a grid counts cells, so an edge is known to half a cell.
    left, bottom, right, top = sunk_there.bounds
    around = (left - 1, bottom - 1, right + 1, top + 1)
    assert field.area_below(-depth + 0.05, around) == pytest.approx(sunk_there.area, abs=0.1 * sunk_there.length)
    [eye] = [piece.shape for piece in file.proof.proof.pieces if piece.kind == "part"]
    [ring] = eye.interiors
    x0, y0, x1, y1 = ring.bounds
    assert field.area_below(-8.9, (x0, y0, x1, y1)) == pytest.approx(
        np.pi * (36 - max(0, 6 - float(diameter)) ** 2), abs=0.2 * ring.length
    )
    # No way takes more at once than a step down.
    step = max(run.setting.stepdown for run in ready.runs)
    assert field.deepest_bite <= step + 0.01


def test_a_pass_that_is_left_out_is_found_as_the_height_field_finds_it():
    document = routed([part("plate", 70, 50)], [mill(diameter="6.35")], {"how": "none"}, thickness="18")
    ready, _ = ready_of(document)
    program = write_gcode(ready).decode()
    step = max(run.setting.stepdown for run in ready.runs)
    assert carved(program, 90, 70, 6.35).deepest_bite <= step + 0.01
    heights = sorted({float(z) for z in re.findall(r"^G[123] .*Z(-[\d.]+)", program, re.M)}, reverse=True)
    # All that was to be done at the middle height is done at the last one.
    middle = next(z for z in heights if -12.1 < z < -12)
    without = program.replace(f"Z{middle:g}", f"Z{min(heights):g}")
    field = carved(without, 90, 70, 6.35)
    assert field.deepest_bite > step + 1
    [fault] = [fault for fault in proved_text(document, without).faults if fault.code == "pass-depth"]
    assert re.search(r"it takes [\d.]+ mm at once, and its cutter takes 6.35", fault.text) and fault.at is not None


@pytest.mark.parametrize(("by", "found"), [(0.004, False), (0.03, True)])
def test_a_step_is_held_against_what_its_cutter_takes_from_both_sides(by, found):
    """18.1 mm in three steps of 6.0333: a stepdown just under that is too little."""
    document = routed([part("plate", 70, 50)], [mill()], {"how": "none"}, thickness="18")
    own = [{"operation": "cut", "cutter": "mill", "speed": 30, "power": 16000, "stepdown": 6.0334}]
    parts = [part("plate", 70, 50) | {"settings": own}]
    document = routed(parts, [mill()], {"how": "none"}, thickness="18")
    ready, result = ready_of(document)
    program = write_gcode(ready)
    assert codes(proved(document, result, ready, "nc", [program])) == set()
    deeper = re.sub(r"Z-6\.0333", f"Z-{6.0333 + by + 0.04 * found:.4f}", program.decode())
    assert deeper != program.decode()
    assert ("pass-depth" in codes(proved_text(document, deeper))) == found


@pytest.mark.parametrize(("change", "code"), [
    (lambda p: re.sub(r"^M3", "M4", p, flags=re.M), "spindle"),
    (lambda p: re.sub(r"^G4 P3\n", "", p, flags=re.M), "spindle"),
    (lambda p: re.sub(r"^G4 P3$", "G4 P2.9", p, flags=re.M), "spindle"),
    (lambda p: re.sub(r"F([\d.]+)", lambda m: f"F{float(m[1]) / 10:g}", p), "feed"),
    (lambda p: re.sub(r"F([\d.]+)", lambda m: f"F{float(m[1]) * 2:g}", p), "feed"),
    (lambda p: p.replace(z_statement("the face of the sheet"), z_statement("the spoilboard")), "z-datum"),
    (lambda p: re.sub(r"^\(z 0.*\n", "", p, flags=re.M), "z-datum"),
    (lambda p: p.replace("\nM2\n", "\n"), "no-end"),
    (lambda p: p.replace("G21 ", ""), "unit"),
], ids=["backwards", "no wait", "short wait", "tenth", "double", "other datum", "no datum", "end", "unit"])  # fmt: skip
def test_what_breaks_a_cutter_or_says_nothing_is_a_fault(change, code):
    document = routed([part("plate", 70, 50, cutouts=[sunk("well", 20, 15, 4)])], machine={"spins_up": 3})
    program = write_gcode(ready_of(document)[0]).decode()
    changed = change(program)
    assert changed != program and code in codes(proved_text(document, changed))
    rounded = re.sub(r"F([\d.]+)", lambda m: f"F{float(m[1]) + 0.1:g}", program)
    assert "feed" not in codes(proved_text(document, rounded))


@pytest.mark.parametrize("direction", ["climb", "conventional"])
def test_the_hand_on_which_the_material_lies_is_proved(direction):
    cut = [hole("eye", 16, x="15"), sunk("well", 20, 15, 4, x="-15")]
    document = routed([part("plate", 80, 50, cutouts=cut)], direction=direction)
    ready, result = ready_of(document)
    other = "conventional" if direction == "climb" else "climb"
    turned = document.model_copy(
        update={
            "preparation": document.preparation.model_copy(
                update={"routing": document.preparation.routing.model_copy(update={"direction": other})}
            )
        }
    )
    assert codes(proved(document, result, ready, "nc", [write_gcode(ready)])) == set()
    backwards = proved(document, result, ready, "nc", [write_gcode(ready_of(turned)[0])])
    assert codes(backwards) == {"direction"}
    assert {fault.text.partition(" is cut")[0] for fault in backwards.faults} == {
        "The outline of Plate 1", "A cut-out of Plate 1", "A pocket of Plate 1"}  # fmt: skip


# Thickness, datum and parking


def test_it_goes_through_where_the_sheet_is_thickest():
    """Of readings from 17.8 to 18.3 mm the mean is 18.0: what reaches 18.2 hangs on by a tenth in one place."""
    readings = {"stocks": [stock(readings=("17.8", "17.9", "18.3"), nominal="18")]}
    document = routed([part("plate", 70, 50)], holding={"how": "none"}).model_copy(update={
        "stocks": [stock(readings=("17.8", "17.9", "18.3"), nominal="18")]})  # fmt: skip
    assert readings["stocks"][0].readings
    program = write_gcode(ready_of(document)[0]).decode()
    assert "Z-18.4" in program and codes(proved_text(document, program)) == set()
    for depth, free in (("Z-18.31", True), ("Z-18.29", False)):
        shallow = proved_text(document, program.replace("Z-18.4", depth))
        assert ("not-free" in codes(shallow)) != free


def test_a_machine_that_counts_from_its_spoilboard_cuts_just_into_it():
    cut = [sunk("well", 20, 15, 4)]
    readings = ("17.8", "17.9", "18.3")
    update = {"stocks": [stock(readings=readings, nominal="18")]}
    document = routed([part("plate", 70, 50, cutouts=cut)], machine={"z_datum": "the spoilboard"}).model_copy(
        update=update
    )
    ready, result = ready_of(document)
    program = write_gcode(ready).decode()
    heights = {float(z) for z in re.findall(r"Z(-?[\d.]+)", program)}
    # The pocket's floor lies 14 mm over the spoilboard; the cut ends a tenth in it, however thick the sheet is.
    assert 14.0 in heights and min(heights) == -0.1 and max(heights) > 18
    assert z_statement("the spoilboard") in program
    proof = proved(document, result, ready, "nc", [program.encode()])
    assert proof.faults == [] and any("z 0 is the spoilboard" in note for note in proof.notes)
    done = run(read_sent(program.encode(), "x.nc", ready.machine), ready.machine, 0, LaidDown(thickness=18.0))
    assert not done.alarms
    # The same program on a machine that counts from the face would mill air, and says so.
    face = routed([part("plate", 70, 50, cutouts=cut)]).model_copy(update=update)
    assert {"z-datum", "not-free"} <= codes(proved_text(face, program))


def test_after_a_change_it_is_lifted_then_turns_then_travels_and_it_parks_off_the_sheet():
    clips = [{"what": "clip", "shape": "rectangle"}]
    assert clips
    plate = part("plate", 80, 60, cutouts=[sunk("well", 20, 15, 4), hole("eye", 12, x="22")])
    document = routed([plate], [mill(), mill("fine", "3.175")], marks="fine", pockets="fine", safe="6", clips="9")
    document = document.model_copy(update={"layout": document.layout.model_copy(update={"sheets": [
        document.layout.sheets[0].model_copy(update={"barred": [_clip()]})]})})  # fmt: skip
    ready, _ = ready_of(document)
    lines = write_gcode(ready).decode().splitlines()
    after = [line for line in lines[next(i for i, line in enumerate(lines) if " M0" in line) + 1 :] if line[0] != "("]
    assert after[0] == "G0 Z11" and after[1].startswith("M3 S") and after[2] == "G4 P3"
    assert re.fullmatch(r"G0 X\S+ Y\S+", after[3])
    said = lines[next(i for i, line in enumerate(lines) if " M0" in line) - 1]
    assert said == "(zero z again with it, on the face of the sheet)"
    assert ready.parked.height == 11
    # Where it stands then, and in the end, is beside the sheet.
    place = ready.to_machine.back(ready.parked.at)
    assert (
        not shapely.box(0, 0, ready.plan.width, ready.plan.height)
        .buffer(9)
        .contains(shapely.Point(place.real, place.imag))
    )
    last = [line for line in lines if line.startswith("G0 X")][-1]
    assert last == f"G0 X{ready.parked.at.real:g} Y{ready.parked.at.imag:g}" or "Y" not in last


def _clip():
    from leannotch_core.document.sheet import Barred

    fields = {
        "what": "clip",
        "corners": [{"x": x, "y": y} for x, y in ((380, 380), (400, 380), (400, 400), (380, 400))],
    }
    return Barred.model_validate(fields)


# Feeds of what has a point


def test_a_v_and_a_ball_are_fed_by_what_they_cut_at_their_depth():
    """By hand: a V of 60 degrees that is 0.4 mm deep is 2 * 0.4 * tan 30 = 0.462 mm wide, however thick its shank."""
    v = Cutter(id="v", name="V", tip="V", diameter=Size(text="12.7"), cutting_length=Size(text="10"))
    ball = Cutter(id="b", name="Ball", tip="ball", diameter=Size(text="6"))
    ply = stock()
    for cutter, depth, wide in ((v, 0.4, 0.4619), (ball, 0.5, 2 * np.sqrt(9 - 2.5**2)), (ball, 4, 6.0)):
        facts = cutter_facts(cutter)
        least, most = chip_load(cutter, facts, "plywood", depth)
        assert (least, most) == (pytest.approx(0.015 * wide, abs=2e-4), pytest.approx(0.03 * wide, abs=2e-4))
    setting = starting(ply, ROUTER, "engrave", v, 0.4)
    assert setting.speed == pytest.approx(feed(setting.power, 2, 0.0225 * 0.4619), rel=0.02)
    document = routed([part("plate", 90, 60, cutouts=[text("NOTCH", "width/2", "30", height="8")])],
                      [mill(), {"id": "vee", "name": "V", "tip": "V", "diameter": "12.7"}], marks="vee")  # fmt: skip
    ready, file = proved_file(document)
    assert file.proof.faults == [] and not {"chip-load", "rubs"} & {f.code for f in ready.findings}


# Anybody's programs


def _said(program, **asked):
    given = {"diameters": {1: 6.0}, "thickness": 12.0, "plunges": True, "datum": "", "spoilboard": 3.0} | asked
    return depth_proved_apart(program.encode(), *given.values())["report"]


def _square(*heights, lift=5):
    lines = ["G21 G90", "M3 S16000", f"G0 Z{lift}", "G0 X0 Y0"]
    for z in heights:
        lines += [f"G1 Z{z} F300", "G1 X60 F1500", "Y40", "X0", "Y0"]
    return "\n".join([*lines, f"G0 Z{lift}", "M5", "M2", ""])


def test_anybodys_program_is_told_its_datum_its_slopes_and_its_depth():
    good = _said(_square(-4, -8, -12.1))
    assert good["faults"] == [] and "which it does not say" in good["findings"][0]
    from_below = _square(8, 4, -0.1, lift=17)
    [fault] = _said(from_below)["faults"]
    assert fault["code"] == "z-datum" and "seems to be the spoilboard" in fault["text"]
    assert _said(from_below, datum="the spoilboard")["faults"] == []
    assert _said(f"({z_statement('the spoilboard')})\n{from_below}")["faults"] == []
    wrong = _said(f"({z_statement('the face of the sheet')})\n{from_below}", datum="the spoilboard")["faults"]
    assert "and it was to be the spoilboard" in wrong[0]["text"]
    deep = {z: {f["code"] for f in _said(_square(-6, z))["faults"]} for z in (-14.99, -15.1)}
    assert deep == {-14.99: set(), -15.1: {"danger"}}
    sloping = _square(-4, -8, -12.1).replace("G0 Z5\nM5", "G0 Z5\nG0 X20 Y20\nG1 Z-2 F300\nG1 X40 Z-3\nG0 Z5\nM5")
    [slope] = _said(sloping)["faults"]
    assert slope["code"] == "depth" and "slopes from 2 mm to 3 mm deep" in slope["text"] and slope["x"] == 20
    assert {f["code"] for f in _said(_square(-12.1).replace("M2\n", "").replace("G21 ", ""))["faults"]} == {
        "no-end",
        "unit",
    }
