"""Joints: sums by hand, property tests, and solids that must go together."""

import manifold3d
import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from leannotch_core.drawings.dxf import read_dxf
from leannotch_core.edits.command import apply
from leannotch_core.evaluate import evaluate
from leannotch_core.geometry.chords import as_polygon, ring
from leannotch_core.geometry.segment import Motion
from leannotch_core.handover.dxf import write_dxf
from leannotch_core.joints.cross_lap.cut import slot_depths, slot_width
from leannotch_core.joints.finger.cut import finger_count, plan_fingers
from leannotch_core.joints.relief import ROOM
from leannotch_core.layout.nest import nest
from leannotch_core.machining.plan import plan_sheet
from leannotch_core.parts.sides import side_frame
from leannotch_core.proof.sheet_proof import prove_sheet
from shapely import box

from ...projects import cross_lap, demo, finger, part, project, stock, tab

thicknesses = st.integers(10, 120).map(lambda n: n / 10)
clearances = st.sampled_from([0.3, 0.2, 0.1, 0.0, -0.05])


def test_fingers_by_hand():
    # 180 mm in fingers of about 20: 9 of 20. With a clearance of 0.1 a notch is 20.05 and a finger 19.95 wide.
    plan = plan_fingers(180, finger_count(180, 20), 0.1)
    assert (plan.count, plan.pitch, plan.notch, plan.finger) == (9, 20, 20.05, 19.95)
    assert plan.notches(1)[0] == pytest.approx((19.975, 40.025))
    assert plan.notches(0)[0] == pytest.approx((0, 20.025))
    assert [finger_count(45, f) for f in (100, 15, 11, 9)] == [3, 3, 5, 5]


@given(st.integers(30, 400), st.integers(3, 60), clearances)
def test_fingers_and_notches_of_both_partners_fill_the_edge(length, finger_width, clearance):
    plan = plan_fingers(length, finger_count(length, finger_width), clearance)
    notched = sum(high - low for low, high in plan.notches(0) + plan.notches(1))
    # Every flank opens by half the clearance, a quarter on each side.
    assert notched == pytest.approx(length + (plan.count - 1) * clearance / 2)
    assert plan.count % 2 == 1 and plan.count >= 3


def test_cross_lap_by_hand():
    # Common practice, no source: a 3.95 mm acrylic goes into a 4.05 mm slot, so its clearance is 0.1.
    assert slot_width(3.95, 3.95, 0.1) == pytest.approx(4.05)
    # At 45 degrees a plate of t shows as t*sqrt(2), and as much again for the thickness that it crosses.
    assert slot_width(3, 3, 0, 45) == pytest.approx(3 * 2**0.5 + 3)
    assert slot_depths(30, 30, 0.5, 0) == (15, 15)
    assert sum(slot_depths(30, 30, 0.3, 0.4)) == pytest.approx(30 + 0.4)
    # A lower divider: flush at its own mouth, so the higher one is cut down to it.
    assert slot_depths(40, 30, 0.5, 0) == (25, 15)


# Solids: the finished parts, extruded to their thickness and put together.


def solid(evaluated):
    loops = [np.array(ring(loop, 0.001)) for loop in evaluated.outline.loops]
    section = manifold3d.CrossSection(loops, manifold3d.FillRule.Positive)
    return manifold3d.Manifold.extrude(section, evaluated.stock.thickness)


def stand(body, x_axis, y_axis, origin):
    """Puts a part's x and y along two axes of the assembly, its thickness along their cross product."""
    z_axis = np.cross(x_axis, y_axis)
    return body.transform(np.column_stack([x_axis, y_axis, z_axis, origin]).astype(float))


X, Y, Z = np.eye(3)


def corner(a, b, clearance, starts="a", height=45):
    stocks = [stock("ply", readings=(str(a),), glue=str(clearance)), stock("sheet", (str(b),), glue=str(clearance))]
    parts = [part("long", 120, height), part("end", 80, height, "sheet")]
    result = evaluate(project(parts, [finger("long", "right", "end", "left", starts=starts)], stocks))
    assert not result.errors, result.errors
    # The long wall stands along x with its outside at y = 0; the end wall along y with its outside at x = 120.
    long = stand(solid(result.parts["long"]), X, Z, (0, a, 0))
    end = stand(solid(result.parts["end"]), Y, Z, (120 - b, 0, 0))
    return result, long, end


@given(thicknesses, thicknesses, clearances, st.sampled_from(["a", "b"]))
def test_a_finger_corner_goes_together_and_leaves_the_promised_gap(a, b, clearance, starts):
    result, long, end = corner(a, b, clearance, starts)
    clash = (long ^ end).volume()
    if clearance >= 0:
        assert clash < 1e-6 * (long.volume() + end.volume())
    else:
        # Press: each of the two flanks overlaps by half the interference, over a x b of surface.
        assert clash == pytest.approx(-clearance * a * b, rel=1e-4)
    assert all(row.gap == pytest.approx(clearance, abs=1e-9) for row in result.ledger)
    # Outside sizes stay, and the corner is flush: together they fill a box of 120 x 80 x 45 with nothing beyond.
    low, high = np.split(np.array((long + end).bounding_box()), 2)
    assert np.allclose(high - low, (120, 80, 45), atol=1e-4)
    if clearance > 0:
        free = (long.translate((0, 0, clearance / 2 - 1e-3)) ^ end).volume()
        stuck = (long.translate((0, 0, clearance / 2 + 1e-2)) ^ end).volume()
        assert free < 1e-4 < stuck


@given(thicknesses, thicknesses, clearances, st.sampled_from(["1/2", "1/3", "0.7"]), st.sampled_from([30, 41]))
def test_a_cross_lap_slides_together(a, b, clearance, share, height):
    stocks = [stock("ply", readings=(str(a),), glue=str(clearance)), stock("sheet", (str(b),), glue=str(clearance))]
    parts = [part("first", 120, 30), part("second", 90, height, "sheet")]
    result = evaluate(project(parts, [cross_lap("first", 50, "second", 40, share=share)], stocks))
    assert not [f for f in result.findings if f.level != "note"]
    first = stand(solid(result.parts["first"]), X, Z, (0, a / 2, 0))
    second = stand(solid(result.parts["second"]), Y, Z, (50 - b / 2, -40, 0))
    clash = (first ^ second).volume()
    if clearance >= 0:
        assert clash < 1e-4
        # The gap of the ledger, across each slot.
        sideways = (first ^ second.translate((clearance / 2 + 1e-2, 0, 0))).volume()
        assert sideways > 0 and (first ^ second.translate((clearance / 2 * 0.99, 0, 0))).volume() < 1e-4
    else:
        assert clash > 0
    # Seated: both stand on the same floor.
    assert np.allclose([first.bounding_box()[2], second.bounding_box()[2]], 0, atol=1e-5)


@given(thicknesses, thicknesses, clearances, st.integers(1, 4), st.sampled_from(["0", "1.5"]), st.sampled_from([0, 90]))
def test_tabs_go_through_their_slots_and_leave_the_promised_gap(a, b, clearance, tabs, proud, turn):
    stocks = [stock("ply", readings=(str(a),), glue=str(clearance)), stock("sheet", (str(b),), glue=str(clearance))]
    parts = [part("shelf", 70, 110), part("side", 160, 160, "sheet")]
    line = {"turn": str(turn), "lines": 2, "step": "40"}
    x, y = (20, 30) if turn == 0 else (90, 20)
    joint = tab("shelf", "left", "side", x, y, tabs=tabs, width="15", proud=proud, line=line)
    result = evaluate(project(parts, [joint], stocks))
    assert not result.findings, result.findings
    side = solid(result.parts["side"])
    assert len(result.parts["side"].outline.cutouts) == 2 * tabs
    # The shelf stands on the side's face: its y runs along the line, its x out of the face, tips at x = 0.
    along = X if turn == 0 else Y
    origin = np.array([x, y, 0]) - Z * float(proud) - np.cross(Z, along) * a / 2
    shelf = stand(solid(result.parts["shelf"]), Z, along, origin)
    clash = (side ^ shelf).volume()
    if clearance >= 0:
        assert clash < 1e-3
        assert (side ^ shelf.translate(tuple(along * (clearance / 2 + 0.01)))).volume() > 0
        assert (side ^ shelf.translate(tuple(along * clearance * 0.49))).volume() < 1e-3
    else:
        # Press: each tab overlaps its slot all round by half the interference.
        ring = (15 * a) - (15 + clearance) * (a + clearance)
        assert clash == pytest.approx(tabs * ring * b, rel=1e-3)
    assert [round(row.opening - row.insert, 9) for row in result.ledger] == [clearance, clearance]
    # The tips stand out of the far face by what was promised.
    assert shelf.bounding_box()[2] == pytest.approx(-float(proud), abs=1e-4)


@given(
    st.sampled_from(["dovetail", "round knob", "straight"]),
    st.integers(1, 4),
    st.sampled_from([12, 16.5]),
    clearances,
    st.sampled_from(["split", "in the sockets"]),
    st.sampled_from(["0", "1.2"]),
    st.sampled_from([("right", "left"), ("top", "bottom"), ("left", "left")]),
)
def test_a_splice_goes_together_with_its_gap_all_along_the_curve(shape, keys, depth, clearance, gap, radius, sides):
    stocks = [stock(glue=str(clearance))]
    parts = [part("a", 100, 100), part("b", 100, 100)]
    ends = {"a": {"part": "a", "side": sides[0]}, "b": {"part": "b", "side": sides[1]}}
    joint = {"kind": "splice", "id": "s", "shape": shape, "keys": keys, "size": "12", "depth": str(depth), "gap": gap}
    result = evaluate(project(parts, [{**joint, "radius": radius, **ends}], stocks))
    assert not result.findings
    frames = [side_frame(100, 100, side) for side in sides]
    # B's edge comes to lie on A's shoulder line: depth inside A's drawn edge, its inside where A's outside is.
    mirrored = abs(frames[1].inward / frames[1].along + frames[0].inward / frames[0].along) > 1e-9
    along = frames[1].along
    turn = frames[0].along * (along if mirrored else along.conjugate())
    place = Motion(turn, 0, mirrored)
    place = Motion(turn, frames[0].point(0, depth) - place(frames[1].point(0, 0)), mirrored)
    a, b = result.parts["a"].outline, result.parts["b"].outline.moved(place)
    clash = as_polygon(a).intersection(as_polygon(b)).area
    if clearance >= 0:
        assert clash < 0.02
    else:
        assert clash > 0.1
    if clearance > 0:
        # Half the clearance lies between key and socket, measured square to the curve at the tip.
        tips = shapely.LineString([(p.real, p.imag) for p in (frames[0].point(0, 1e-3), frames[0].point(100, 1e-3))])
        key = as_polygon(a).intersection(tips.buffer(2))
        assert key.distance(as_polygon(b)) == pytest.approx(clearance / 2, abs=2e-3)
    lean = np.hypot((12 - 8) / 2, depth) / depth if shape == "dovetail" else 1
    assert result.ledger[0].gap == pytest.approx(clearance * lean)


@pytest.mark.parametrize("kind", ["dog-bone", "T-bone, long side", "T-bone, short side"])
def test_a_relieved_corner_is_reached_by_the_cutter_and_the_insert_seats(kind):
    """A 3.175 mm cutter: after the sweep the square corners of the insert meet no material."""
    router = [stock(kerf="3.175", readings=("6",), smallest_web="2", sheets=[{"width": "400", "height": "300"}])]
    parts = [part("a", 120, 60), part("b", 90, 60)]
    plain = project(parts, [cross_lap("a", 60, "b", 45)], router)
    [finding] = evaluate(plain).findings
    assert "keep a radius of 1.59 mm, so its partner cannot seat: 0.66 mm" in finding.text
    relieved = project(parts, [cross_lap("a", 60, "b", 45, relief=kind)], router, layout={"margin": "5", "gap": "7"})
    result = evaluate(relieved)
    assert result.findings == []
    first = next(iter(nest(relieved, result, 0)))
    plan = plan_sheet(relieved.model_copy(update={"layout": first.layout}), result, 0)
    proof = prove_sheet(plan, read_dxf(write_dxf(plan)), result)
    assert proof.faults == []
    shape = next(p.shape for p in proof.parts if p.part == "a")
    # The slot of 6.1 x 30 mm opens at the top; the insert is 6 mm wide and stands on its floor.
    insert = box(60 - 3, 30 + 1e-3, 60 + 3, 60)
    assert shape.intersection(insert).area < 1e-3
    corner = 60 + 3.05 + 30j
    circle = next(s for s in result.parts["a"].outline.outer if s.source.side == "relief")
    assert circle.radius == pytest.approx(3.175 / 2 + ROOM)
    centres = {round(s.centre.real, 4) for s in result.parts["a"].outline.outer if s.source.side == "relief"}
    by_hand = {"dog-bone": circle.radius / 2**0.5, "T-bone, long side": 0, "T-bone, short side": circle.radius}
    assert round(corner.real - by_hand[kind], 4) in centres


def test_insets_count_and_proud_of_fingers_by_hand():
    parts = [part("a", 100, 60), part("b", 80, 60)]
    joint = finger("a", "right", "b", "left", count=5, inset_start="10", inset_end="5", proud="1")
    result = evaluate(project(parts, [joint]))
    assert not result.findings
    # 60 less 15 in five pitches of 9: notches in A at 10 + 9 .. 10 + 18, and so on, 3.07 + 1 deep.
    floors = [s for s in result.parts["a"].outline.outer if "floor" in s.source.side]
    spans = sorted((round(min(s.start.imag, s.end.imag), 6), round(max(s.start.imag, s.end.imag), 6)) for s in floors)
    assert spans == [(18.975, 28.025), (36.975, 46.025)]
    assert {round(100 - s.start.real, 6) for s in floors} == {4.07}
    # A keeps its material in the insets, so B has none there.
    first = [s.length for s in result.parts["b"].outline.outer if s.source.side == "notch 1 floor"]
    assert first == pytest.approx([19.025])


def test_three_parts_that_each_start_against_the_next_leave_their_corner_empty():
    parts = [part("front", 100, 60), part("end", 80, 60), part("floor", 100, 80)]
    joints = [
        finger("front", "left", "end", "right", id="one"),
        finger("end", "bottom", "floor", "left", id="two"),
        finger("floor", "bottom", "front", "bottom", id="three"),
    ]
    [finding] = evaluate(project(parts, joints)).findings
    assert "The corner of Front, End and Floor stays empty" in finding.text
    [mend] = finding.mends
    assert evaluate(apply(project(parts, joints), mend.command)).findings == []


def test_the_demo_tray_keeps_its_outside_size_when_the_sheet_measures_5_mm():
    before = demo()
    readings = [{"text": t} for t in ("5.02", "4.98", "5.01", "4.99")]
    birch = before.stocks[0].model_copy(update={"readings": [type(before.stocks[0].nominal)(**r) for r in readings]})
    after = before.model_copy(update={"stocks": [birch, before.stocks[1]]})
    old, new = evaluate(before), evaluate(after)
    assert not new.errors
    for wall in ("floor", "long_wall", "end_wall"):
        assert new.parts[wall].outline.bounds == pytest.approx(old.parts[wall].outline.bounds)
    # By hand: the dividers stand between the walls, so they lose two wall thicknesses.
    assert new.parts["lengthways"].width == pytest.approx(240 - 2 * 5 - 0.3)
    assert {round(row.gap, 9) for row in new.ledger} == {0.1, 0.2}


def test_tray_of_the_demo_closes_without_a_clash():
    result = evaluate(demo())
    parts, t = result.parts, 3.07
    floor = solid(parts["floor"])
    long, end = solid(parts["long_wall"]), solid(parts["end_wall"])
    walls = [
        stand(long, X, Z, (0, t, 0)),
        stand(long, -X, Z, (240, 180 - t, 0)),
        stand(end, -Y, Z, (t, 180, 0)),
        stand(end, Y, Z, (240 - t, 0, 0)),
    ]
    bodies = [floor, *walls]
    clashes = [(a ^ b).volume() for i, a in enumerate(bodies) for b in bodies[:i]]
    assert max(clashes) < 1e-4
    # No corner is left empty: all eight lie in some part.
    whole = manifold3d.Manifold.batch_boolean(bodies, manifold3d.OpType.Add)
    for x in (0, 240 - 1):
        for y in (0, 180 - 1):
            cube = manifold3d.Manifold.cube((1, 1, 1)).translate((x, y, 0))
            assert (cube ^ whole).volume() == pytest.approx(1, abs=1e-3)
