"""Parts put together as solids: every joint family fits whatever the sizes, loops close, and what cannot is told."""

import manifold3d
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from leannotch_core.assembly.inner import inner_spans
from leannotch_core.assembly.inside import put_inside
from leannotch_core.assembly.order import assembly_order
from leannotch_core.assembly.poses import Copy, assemble
from leannotch_core.assembly.solids import all_clashes, placed, solid
from leannotch_core.assembly.space import extent
from leannotch_core.document.edit import SetValue
from leannotch_core.document.starter import Starter
from leannotch_core.edits.command import apply
from leannotch_core.edits.starter import PutStarter
from leannotch_core.evaluate import evaluate
from leannotch_core.parts.standards.threads import SCREWS

from ...projects import cross_lap, demo, finger, nuts, part, project, splice, stock, tab

thicknesses = st.integers(10, 120).map(lambda n: n / 10)
clearances = st.sampled_from([0.3, 0.2, 0.1, 0.0])


def stocks(*thick, clearance=0.1, **more):
    names = "abc"
    return [stock(names[i], (str(t),), glue=str(clearance), **more) for i, t in enumerate(thick)]


def put_together(parts, joints, sheets):
    """The project's parts in space, as solids by copy; everything meets and nothing clashes."""
    document = project(parts, joints, sheets)
    result = evaluate(document)
    assert not [f.text for f in result.findings if f.level != "note"]
    assembly = assemble(document, result)
    assert (assembly.gaps, assembly.missing, len(assembly.groups)) == ([], [], 1)
    assert all_clashes(result, assembly) == []
    return result, {copy: placed(solid(result.parts[copy.part]), pose) for copy, pose in assembly.poses.items()}


def box_of(bodies):
    low = np.min([body.bounding_box()[:3] for body in bodies], axis=0)
    high = np.max([body.bounding_box()[3:] for body in bodies], axis=0)
    return low, high


def facing(plate, other):
    """The direction across a plate, towards another body."""
    low, high = box_of([plate])
    across = np.eye(3)[np.argmin(high - low)]
    return across * np.sign((sum(box_of([other])) - low - high) @ across)


def walls(reference, insets, face):
    """A tray of a floor and four walls, each wall a part of its own. From below, right and left change places."""
    more = {"reference": reference, "inset_start": insets[0], "inset_end": insets[1]}
    around = ["front", "right", "back", "left"]
    corners = zip(around, around[1:] + around[:1], strict=True)
    right, left = ("right", "left") if face == "inside" else ("left", "right")
    sides = {"front": "bottom", "right": right, "back": "top", "left": left}
    return [
        *(finger(a, "right", b, "left", id=f"{a}_{b}", **more) for a, b in corners),
        *(finger(wall, "bottom", "floor", side, id=f"floor_{wall}", **more) for wall, side in sides.items()),
    ]


@given(
    st.tuples(thicknesses, thicknesses, thicknesses),
    clearances,
    st.sampled_from(["outside", "inside"]),
    st.sampled_from([("0", "0"), ("14", "0"), ("3", "17")]),
    st.sampled_from(["outside", "inside"]),
)
def test_a_tray_of_three_stocks_closes_whatever_its_sizes_and_insets(thick, clearance, reference, insets, face):
    parts = [part("floor", 160, 120, "a", face=face)]
    parts += [part(name, 160, 60, "b") for name in ("front", "back")]
    parts += [part(name, 120, 60, "c") for name in ("right", "left")]
    _, bodies = put_together(parts, walls(reference, insets, face), stocks(*thick, clearance=clearance))
    low, high = box_of(bodies.values())
    floor, long, end = thick
    grown = (2 * end, 2 * long, floor) if reference == "inside" else (0, 0, 0)
    assert np.allclose(high - low, np.add((160, 120, 60), grown), atol=1e-3)
    # No corner is claimed twice (nothing clashes) or left empty: the whole fills all four lower corners.
    whole = manifold3d.Manifold.batch_boolean(list(bodies.values()), manifold3d.OpType.Add)
    for x in (low[0], high[0] - 0.5):
        for y in (low[1], high[1] - 0.5):
            cube = manifold3d.Manifold.cube((0.5, 0.5, 0.5)).translate((x, y, low[2]))
            assert (cube ^ whole).volume() == pytest.approx(0.125, abs=1e-3)


@given(thicknesses, thicknesses, clearances, st.integers(0, 40), st.sampled_from(["0", "2"]))
def test_edges_of_different_length_meet_where_the_shorter_one_begins(a, b, clearance, shift, proud):
    parts = [part("long", 90, 100, "a"), part("short", 80, 60, "b")]
    document = project(
        parts,
        [finger("long", "right", "short", "left", shift=str(shift), proud=proud)],
        stocks(a, b, clearance=clearance),
    )
    result = evaluate(document)
    assert [f.place.field for f in result.findings] == ["shift"] and "100 mm long" in result.findings[0].text
    assembly = assemble(document, result)
    assert all_clashes(result, assembly) == []
    long, short = (placed(solid(result.parts[p]), assembly.poses[Copy(p, 1)]) for p in ("long", "short"))
    assert short.bounding_box()[2] - long.bounding_box()[2] == pytest.approx(shift, abs=1e-6)
    low, high = box_of([long, short])
    assert np.allclose(sorted(high - low), sorted((90, 80, 100)), atol=1e-4)


@given(
    thicknesses,
    st.integers(40, 120).map(lambda n: n / 10),
    clearances,
    st.integers(1, 4),
    st.sampled_from(["1/2", "0.3"]),
)
def test_blind_tabs_seat_in_their_pockets_and_do_not_show(a, b, clearance, tabs, share):
    parts = [part("shelf", 70, 110, "a"), part("side", 160, 160, "b")]
    joint = tab("shelf", "left", "side", 20, 30, tabs=tabs, width="15", pocket=f"thickness*{share}")
    result, bodies = put_together(parts, [joint], stocks(a, b, clearance=clearance))
    shelf, side = bodies[Copy("shelf", 1)], bodies[Copy("side", 1)]
    depth = result.parts["side"].pockets[0].depth
    assert depth == pytest.approx(b * (0.5 if share == "1/2" else 0.3))
    assert result.parts["side"].outline.cutouts == () and len(result.parts["side"].pockets) == tabs
    # Seated: the shoulders stand on the face, the tips on the bottoms of the pockets.
    onto = facing(side, shelf)
    assert (side ^ shelf.translate(tuple(-0.01 * onto))).volume() == pytest.approx(0.01 * a * 110, rel=0.05)
    reach = np.array(shelf.to_mesh().vert_properties[:, :3]) @ onto
    drawn = np.array(side.to_mesh().vert_properties[:, :3]) @ onto
    assert drawn.max() - reach.min() == pytest.approx(depth, abs=1e-5)
    assert {round(row.opening - row.insert, 9) for row in result.ledger} == {clearance}


@given(thicknesses, thicknesses, clearances, st.integers(1, 4), st.integers(1, 5), st.sampled_from(["1/2", "0.35"]))
def test_a_grid_of_dividers_goes_together_in_one_joint(a, b, clearance, rows, columns, share):
    height = {"a": 40, "b": 28}
    parts = [part("long", 240, height["a"], "a", count=rows), part("cross", 180, height["b"], "b", count=columns)]
    joint = cross_lap("long", "width/12", "cross", "height", share=share, seating="0.2")
    joint["a"] |= {"slots": columns, "step": "40"}
    joint["b"] |= {"slots": rows, "step": "35"}
    _, bodies = put_together(parts, [joint], stocks(a, b, clearance=clearance))
    assert len(bodies) == rows + columns
    assert {round(body.bounding_box()[2], 4) for body in bodies.values()} == {0.0}


@given(thicknesses, thicknesses, clearances, st.integers(25, 155))
def test_a_cross_lap_at_any_angle_goes_together(a, b, clearance, angle):
    parts = [part("first", 160, 40, "a"), part("second", 140, 40, "b")]
    joint = cross_lap("first", 80, "second", 70, angle=str(angle))
    result, bodies = put_together(parts, [joint], stocks(a, b, clearance=clearance))
    first, second = bodies[Copy("first", 1)], bodies[Copy("second", 1)]
    # Along the first part there is exactly the promised play: half to either side, seen along its own plane.
    slant = np.sin(np.radians(angle))
    play = clearance / 2
    assert (first.translate((play * 0.98, 0, 0)) ^ second).volume() < 1e-3
    assert (first.translate((play + 0.02 / slant, 0, 0)) ^ second).volume() > 0
    assert result.ledger[0].gap == pytest.approx(clearance)


KNOTS = [(0, 0, 1), (1, 0, 1), (0.9, 0.6, 0), (0.45, 1, 0), (0.1, 0.5, 0)]


@given(thicknesses, clearances, st.integers(30, 60), st.sampled_from(["ellipse", "curve"]))
def test_two_silhouettes_cross_where_their_own_outlines_are(t, clearance, at, kind):
    shape = {"kind": kind, "width": "100", "height": "80"}
    if kind == "curve":
        shape["knots"] = [{"x": x, "y": y, "corner": bool(c)} for x, y, c in KNOTS]
    parts = [part(name, 100, 80, "a", shape=shape) for name in ("first", "second")]
    result, bodies = put_together(parts, [cross_lap("first", at, "second", 50)], stocks(t, clearance=clearance))
    # The larger one stands first in space.
    first, second = (body for _, body in sorted(bodies.items(), key=lambda one: one[0].part))
    # Seated: no deeper than it is, and the slots are as deep as the outline is high right there.
    assert (first ^ second.translate((0, 0, -0.05))).volume() > 0
    assert all(piece.outline.area > 0 and len(piece.finished.pieces) == 1 for piece in result.parts.values())


@given(
    st.sampled_from(["M3", "M4", "M5"]),
    st.integers(30, 90).map(lambda n: n / 10),
    st.integers(40, 90).map(lambda n: n / 10),
    clearances,
    st.integers(1, 3),
    st.booleans(),
)
def test_screws_and_nuts_go_where_they_are_cut_for(thread, faced, edged, clearance, screws, with_tabs):
    screw = SCREWS[thread]
    parts = [part("plate", 160, 120, "a"), part("brace", 60, 130, "b")]
    line = {"turn": "0"}
    joints = [nuts("brace", "left", "plate", 15, 60, thread=thread, screw="30", screws=screws, inset="32.5", line=line)]
    if with_tabs:
        joints.append(tab("brace", "left", "plate", 15, 60, tabs=2, width="10", inset="10", line=line))
    document = project(parts, joints, stocks(faced, edged, clearance=clearance))
    result = evaluate(document)
    assert not [f.text for f in result.findings if "stands" not in f.text and f.level != "note"]
    assembly = assemble(document, result)
    assert all_clashes(result, assembly) == []
    bodies = [placed(solid(result.parts[p]), assembly.poses[Copy(p, 1)]) for p in ("plate", "brace")]
    plate = bodies[0].bounding_box()
    near, far = plate[2], plate[5]
    places = [65] if screws == 1 else [32.5 + i * 65 / (screws - 1) for i in range(screws)]
    # Bought parts at their largest, in the plate's own frame: a screw 30 mm under its head, a nut at its tip.
    for at in places:
        shank = manifold3d.Manifold.cylinder(30, screw.diameter / 2, circular_segments=64)
        square = manifold3d.Manifold.cube((screw.flats, edged, screw.nut), center=True)
        found = _where(assembly.poses[Copy("plate", 1)], 15 + at, 60, faced)
        axis, head, inward = found
        assert all((placed_along(shank, head, axis) ^ body).volume() < 1e-3 for body in bodies), (near, far)
        nut_middle = head + axis * (30 - screw.pitch - screw.nut / 2)
        assert all((placed_along(square, nut_middle, axis, inward) ^ body).volume() < 1e-3 for body in bodies)
    assert {(row.hardware, round(row.gap, 9)) for row in result.ledger if row.hardware} == {
        (f"{thread} nut", round(clearance, 9)),
        (f"{thread} screw", round(screw.hole - screw.diameter, 9)),
    }


def _where(pose, x, y, thickness):
    """A screw's axis into the brace, its head's seat on the drawn face, and the line's direction, in space."""
    head = (pose @ [x, y, thickness, 1])[:3]
    return -pose[:3, 2], head, pose[:3, 0]


def placed_along(body, origin, axis, along=None):
    x = along if along is not None else np.cross(axis, [0.3, 0.5, 0.8])
    x = x / np.linalg.norm(x)
    return body.transform(np.column_stack([x, np.cross(axis, x), axis, origin]))


def test_four_spliced_members_close_into_a_frame():
    member = part("member", 300, 40, "a", count=4)
    _, bodies = put_together(
        [member], [splice("member", "right", "member", "bottom", size="14", depth="10")], stocks(3)
    )
    low, high = box_of(bodies.values())
    assert np.allclose(sorted(high - low), [3, 330, 330], atol=1e-6)


# What does not go together


def test_walls_that_stand_closer_than_their_roof_is_wide_are_told_with_the_size_that_would_do():
    """Common practice, no source: two 128 mm walls under a 140 mm roof leave 6 mm on each side."""
    parts = [part("floor", 128, 90), part("wall", 90, 50, count=2), part("roof", 140, 90)]
    joints = [
        finger("wall", "bottom", "floor", "left", id="one"),
        finger("wall", "bottom", "floor", "right", id="two"),
        finger("wall", "top", "roof", "left", id="three"),
        finger("wall", "top", "roof", "right", id="four"),
    ]
    document = project(parts, joints)
    assembly = assemble(document, evaluate(document))
    [gap] = assembly.gaps
    assert assembly.missing == []
    assert gap.apart == pytest.approx(12) and not gap.turned
    assert gap.size == ("roof", "width", pytest.approx(128))
    shape = document.parts[2].shape.model_copy(update={"width": document.parts[0].shape.width})
    mended = document.model_copy(
        update={"parts": [*document.parts[:2], document.parts[2].model_copy(update={"shape": shape})]}
    )
    assert assemble(mended, evaluate(mended)).gaps == []


def test_a_joint_that_lacks_a_copy_of_a_part_is_told():
    parts = [part("floor", 128, 90), part("wall", 90, 50)]
    joints = [finger("wall", "bottom", "floor", side, id=side) for side in ("left", "right")]
    document = project(parts, joints)
    [missing] = assemble(document, evaluate(document)).missing
    assert missing.part == "wall"


def test_a_part_in_anothers_way_is_a_clash_with_its_place_and_its_depth():
    parts = [part("base", 100, 100), part("fin", 40, 60), part("bar", 40, 80)]
    joints = [
        tab("fin", "left", "base", 20, 50, id="fin", width="10", line={"turn": "0"}),
        tab("bar", "left", "base", 50, 10, id="bar", width="10", tabs=1, line={"turn": "90"}),
    ]
    document = project(parts, joints)
    result = evaluate(document)
    [clash] = [c for c in all_clashes(result, assemble(document, result))]
    assert {clash.a.part, clash.b.part} == {"fin", "bar"} and not clash.promised
    # They cross in a square of 3.07 x 3.07 over what both stand high behind the base.
    assert clash.volume == pytest.approx(3.07**2 * (40 - 3.07), rel=1e-6)


def test_the_demo_tray_stands_with_its_dividers_beside_it():
    document = demo()
    result = evaluate(document)
    assembly = assemble(document, result)
    assert [len(group) for group in assembly.groups] == [5, 3]
    assert all_clashes(result, assembly) == []


# The order in which parts go together


def steps_of(parts, joints, sheets=None):
    document = project(parts, joints, sheets)
    result = evaluate(document)
    return assembly_order(result, assemble(document, result))


def test_a_divider_that_the_last_wall_locks_goes_in_before_it():
    """By hand: its tabs go through both end walls, so the second of these comes after it, along the tabs."""
    parts = [part("floor", 160, 100, face="inside"), part("end", 100, 50, count=2), part("side", 160, 50, count=2)]
    parts.append(part("divider", 160, 40))
    joints = [
        *(finger("end", "bottom", "floor", side, id=f"end_{side}") for side in ("left", "right")),
        *(finger("side", "bottom", "floor", side, id=f"side_{side}") for side in ("bottom", "top")),
        finger("side", "right", "end", "left", id="corner_a"),
        finger("side", "left", "end", "right", id="corner_b"),
        *(
            tab("divider", side, "end", 50, 5, id=f"div_{side}", inset="3", line={"turn": "90"})
            for side in ("left", "right")
        ),
    ]
    order = steps_of(parts, joints)
    assert order.locked == () and len(order.steps) == 5
    onto = {copy.part: set() for step in order.steps for copy in step.moving}
    for step in order.steps:
        for copy in step.moving:
            onto[copy.part] |= {(other.part, step.direction) for other in step.standing}
    # Whatever comes last of divider and end walls: an end wall goes on, along x, when the divider stands.
    walls = [step for step in order.steps if any(copy.part == "end" for copy in step.moving)]
    last = walls[-1]
    assert any(copy.part == "divider" for copy in last.standing)
    assert abs(last.direction[0]) == pytest.approx(1)


@given(st.permutations(range(4)))
def test_the_order_does_not_depend_on_how_parts_are_listed_for_a_grid(shuffled):
    parts = [part("long", 200, 40, count=2), part("cross", 160, 40, count=2)]
    joint = cross_lap("long", 60, "cross", 40)
    joint["a"] |= {"slots": 2, "step": "80"}
    joint["b"] |= {"slots": 2, "step": "80"}
    more = [part(f"spare{i}", 30, 30) for i in shuffled]
    order = steps_of(more + parts, [joint])
    assert len(order.steps) == 3 and order.locked == ()
    # Cross-laps go together only along the slots.
    assert {tuple(np.abs(step.direction)) for step in order.steps} == {(0, 0, 1)}


def ring_of_four():
    """Strips like a pinwheel: each goes through the next one, 20 mm from that one's end."""
    ring = "abcd"
    return [part(one, 120, 80) for one in ring], [
        tab(one, "right", ring[i - 3], 20, 0, id=f"{one}_on", tabs=1, width="24", line={"turn": "90"})
        for i, one in enumerate(ring)
    ]


def test_a_pinwheel_goes_together_in_halves_and_with_two_ties_not_at_all():
    """By hand: its halves slide apart along either strip, but a tie along one strip forbids sliding along the other."""
    parts, joints = ring_of_four()
    order = steps_of(parts, joints)
    assert order.locked == () and max(len(step.moving) for step in order.steps) == 2
    for tie, ends, height in (("low", "ac", 5), ("high", "bd", 50)):
        parts.append(part(tie, "100 + thickness/2", 20))
        joints += [
            tab(tie, side, on, "70 - thickness/4", height, id=f"{tie}_{on}", tabs=1, width="8", line={"turn": "90"})
            for side, on in zip(("left", "right"), ends, strict=True)
        ]
    document = project(parts, joints)
    result = evaluate(document)
    assembly = assemble(document, result)
    assert not result.findings and len(assembly.groups) == 1 and assembly.gaps == []
    order = assembly_order(result, assembly)
    assert [len(copies) for copies in order.locked] == [6] and order.steps == ()


def test_inner_sizes_are_what_is_left_between_the_walls():
    document = demo()
    result = evaluate(document)
    spans = inner_spans(result, assemble(document, result))
    assert sorted(round(span.length, 6) for span in spans) == [round(180 - 2 * 3.07, 6), round(240 - 2 * 3.07, 6)]


def size_in_space(document):
    result = evaluate(document)
    poses = assemble(document, result).poses.items()
    low, high = box_of([placed(solid(result.parts[copy.part]), pose) for copy, pose in poses])
    return high - low


def test_assemblies_stand_with_the_top_of_their_drawings_upwards():
    # A tray without a floor, a bracket, a rack and a frame, by the sizes that they were asked for.
    for kind, sizes, wanted in (
        ("tray", {"height": "45", "length": "240", "width": "160"}, (240, 160, 45)),
        ("bracket", {"width": "80", "depth": "100", "height": "120"}, (80, 100, 120)),
        ("rack", {"width": "300", "depth": "120", "height": "320"}, (300, 120, 320)),
        ("frame", {"width": "500", "height": "400"}, (500, 400, 3.07)),
    ):
        one = Starter.model_validate(
            {"id": "one", "kind": kind, "stock": "ply", "second_stock": "ply", "sizes": sizes}
            | ({"choices": {"floor": "without a floor"}} if kind == "tray" else {})
        )
        document = apply(project([]), PutStarter(do="put starter", starter=one))
        assert np.allclose(size_in_space(document), wanted, atol=1e-6), kind


def test_dividers_that_no_joint_holds_stand_in_the_tray_that_they_fill():
    """The demo's dividers are 0.3 mm shorter than the tray is wide inside; by hand, half of that is left all round."""
    document = demo()
    result = evaluate(document)
    beside = assemble(document, result)
    assert len(beside.groups) == 2
    inside = put_inside(result, assemble(document, result))
    boxes = {copy: extent(result.parts[copy.part], pose) for copy, pose in inside.poses.items()}
    tray, dividers = inside.groups
    low, high = (np.min([boxes[c][0] for c in tray], axis=0), np.max([boxes[c][1] for c in tray], axis=0))
    wall = result.stocks["birch"].thickness
    for axis in (0, 1):
        own_low = min(boxes[c][0][axis] for c in dividers)
        own_high = max(boxes[c][1][axis] for c in dividers)
        assert own_low - low[axis] - wall == pytest.approx(0.15, abs=0.01)
        assert high[axis] - wall - own_high == pytest.approx(0.15, abs=0.01)
    assert min(boxes[c][0][2] for c in dividers) == pytest.approx(low[2] + wall)
    assert all_clashes(result, inside) == []
    # What is far too small for the room stays beside it.
    small = apply(document, SetValue(path=["parts", "lengthways", "shape", "width"], value="200"))
    worked = evaluate(small)
    lying = put_inside(worked, assemble(small, worked))
    assert min(lying.poses[copy][0, 3] for copy in lying.groups[1]) > high[0]
