"""Bent parts: how long they are flat, how they stand folded, what a press says of them, and what their files say.

Sizes are invented unless a source is named.
"""

import io
import math
from itertools import combinations

import ezdxf
import numpy as np
import pytest
import shapely
import trimesh
from ezdxf import recover
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.assembly.bend_notes import bend_findings, order_of
from leannotch_core.assembly.bent import bent_solid, self_clashes
from leannotch_core.assembly.press import Blocked, Reached, names_of_faces
from leannotch_core.bends.allowance import Allowance, NoSuchBend, k_from_strip, k_from_table
from leannotch_core.bends.legs import legs_of
from leannotch_core.document.bend import DIN_6935, Flange
from leannotch_core.document.hand_over import HandOver
from leannotch_core.document.sheet import LaidSheet, Layout, Placement
from leannotch_core.document.sizes import Size
from leannotch_core.document.starter import Starter
from leannotch_core.drawings.formats import read_drawing
from leannotch_core.drawings.taken import part_from
from leannotch_core.drawings.way_in import Bringing, bring, read
from leannotch_core.edits.bend import BeginBend, RemoveBend
from leannotch_core.edits.command import apply
from leannotch_core.edits.part import MirrorPart, ScalePart
from leannotch_core.edits.shapes.clearing import ClearOfBends
from leannotch_core.edits.shapes.shape_mends import with_mends
from leannotch_core.evaluate import evaluate
from leannotch_core.geometry.chords import as_polygon
from leannotch_core.handover.proved import written
from leannotch_core.handover.setup_sheet import write_setup_sheet
from leannotch_core.machining.prepared import prepare
from leannotch_core.project.project import Project
from leannotch_core.proof.sheet_proof import prove_sheet
from leannotch_core.said import Said
from leannotch_core.starters.in_place import drives_bend, with_size
from leannotch_core.starters.live import put_starter
from pypdf import PdfReader

from ...projects import part, project, stock
from ...properties import tried

T = 2.0


def metal(t=T, **bending):
    return stock(stock_id="alu", readings=(f"{t}",), material="aluminium", nominal=f"{t}", bending=bending)


def bent(bends, width="80", height="60", t=T, bending=None, **more):
    """A project of one rectangle with bends."""
    plate = part("p", width, height, stock_id="alu", bends=list(bends), **more)
    return project([plate], stocks=[metal(t, **(bending or {}))])


def flange(bend_id, length, side="top", **more):
    return {"id": bend_id, "kind": "flange", "side": side, "length": str(length), **more}


def line(bend_id, length, **more):
    return {"id": bend_id, "kind": "line", "length": str(length), **more}


def only(found):
    [one] = evaluate(found).parts.values()
    return one


def told(found):
    result = evaluate(found)
    return {f.code: f for f in (*result.findings, *bend_findings(found, result)) if f.code != "no-reading"}


# Lengths


@pytest.mark.parametrize(("factor", "material"), [(0.55, "soft brass"), (0.64, "soft steel"), (0.71, "bronze, hard")])
@pytest.mark.parametrize(("t", "r"), [(1.0, 1.5), (3.2, 3.0), (0.8, 6.0)])
def test_the_allowance_is_that_of_the_handbook(factor, material, t, r):
    """Machinery's Handbook, lengths of right-angle bends: L = 0.55, 0.64 or 0.71 T + 1.57 R (from memory)."""
    wanted = factor * t + math.pi / 2 * r
    assert Allowance(90, r, factor / (math.pi / 2), t).length == pytest.approx(wanted), material


def test_the_allowance_of_the_aircraft_handbook_for_one_degree():
    """FAA-H-8083-31, bend allowance by the empirical formula (0.01743 R + 0.0078 T) for each degree (from memory)."""
    k = 0.0078 / (math.pi / 180)
    for t, r, angle in ((0.040, 0.125, 90), (0.051, 0.156, 45), (0.064, 0.25, 120)):
        assert Allowance(angle, r, k, t).length == pytest.approx((0.01743 * r + 0.0078 * t) * angle, rel=2e-3)


def test_the_table_of_the_stock_is_that_of_din_6935():
    """DIN 6935 (from memory): K = k/2 with k = 0.65 + lg(r/s)/2 up to r/s = 5, and 1 beyond."""
    for row in DIN_6935:
        assert row.k == pytest.approx(min(0.65 + math.log10(row.ratio) / 2, 1) / 2, abs=6e-4)
    assert k_from_table(DIN_6935, 8) == 0.5
    assert k_from_table(DIN_6935, 0.2) == 0.25
    assert 0.4 < k_from_table(DIN_6935, 2.5) < 0.444
    # At its rows the table says what they say, in whatever order they were typed.
    for row in DIN_6935:
        assert k_from_table(DIN_6935[::-1], row.ratio) == row.k


#: Outside legs, angles, t, R and K of profiles, and their flat lengths by hand: sum of legs less 2 OSSB - BA a bend.
BY_HAND = [
    ((40, 60), (90,), 2, 2, 0.4, 100 - (2 * 4 - math.pi / 2 * 2.8)),
    ((30, 30), (45,), 1, 1, 0.33, 60 - (2 * 2 * math.tan(math.pi / 8) - math.pi / 4 * 1.33)),
    ((25, 50, 25), (90, 90), 1.5, 2, 0.42, 100 - 2 * (7 - math.pi / 2 * 2.63)),
    ((50, 30), (120,), 2, 3, 0.45, 80 - (2 * 5 - math.pi * 2 / 3 * 3.9)),
]


@pytest.mark.parametrize(("sizes", "angles", "t", "r", "k", "flat"), BY_HAND)
def test_the_flat_length_of_a_profile_is_that_by_hand(sizes, angles, t, r, k, flat):
    first, *others = sizes
    ids = [f"b{n}" for n in range(len(others))]
    bends = [
        flange(ids[n], size, angle=str(angle), radius=str(r), k=k, of=ids[n - 1] if n else "")
        for n, (size, angle) in enumerate(zip(others, angles, strict=True))
    ]
    left, bottom, right, top = only(bent(bends, "20", str(first), t)).outline.bounds
    assert (right - left, top - bottom) == pytest.approx((20, flat))


def test_k_is_measured_on_a_strip():
    """By hand: 53 + 51 less 100 is a deduction of 4; 8 - 4 = pi/2 (R + K t) with R = t = 2."""
    k = k_from_strip(100, (53, 51), 90, 2, 2)
    assert k == pytest.approx((4 / (math.pi / 2) - 2) / 2)
    strip = {"how": "strip", "flat": "100", "legs": ["53", "51"], "radius": "2"}
    part_of_it = only(bent([flange("a", 51)], "20", "53", bending={"neutral": strip}))
    assert part_of_it.outline.bounds[3] == pytest.approx(100)
    with pytest.raises(NoSuchBend, match="outside the sheet"):
        k_from_strip(100, (53, 55), 90, 2, 2)


# Folded


angle = st.floats(5, 150).map(lambda value: round(value, 1))
leg = st.tuples(st.floats(25, 60).map(lambda v: round(v, 2)), angle, st.booleans(), st.floats(0.5, 4))


def outside_of(folded, number):
    """A leg as calipers find it, from the planes and rounds of the folded part: its outside length (mm)."""
    hinge = folded.faces.hinges[number]
    pose, other = folded.poses[hinge.far], folded.poses[hinge.near]
    bend, t = hinge.bend, folded.thickness
    out = pose[:3, :3] @ np.array([bend.onward.real, bend.onward.imag, 0])
    points = np.array([(p.start.real, p.start.imag, 0, 1) for p in folded.faces.flat[hinge.far].outer])
    far = ((points @ pose.T)[:, :3] @ out).max()
    outer = 0.0 if bend.up else t
    here = (pose @ np.array([0, 0, outer, 1]))[:3]
    there = (other @ np.array([0, 0, outer, 1]))[:3]
    if bend.bend.angle <= 90:
        # The corner is where the two outer planes meet.
        n, m = pose[:3, 2], other[:3, 2]
        side = np.cross(n, m)
        corner = np.linalg.solve(np.array([n, m, side]), [n @ here, m @ there, 0])
        return far - corner @ out
    # Beyond a right angle it is where the round of the bend is widest.
    piece = next(p for p in folded.bent if p.hinge is hinge)
    share = np.linspace(-bend.half, bend.half, 2001)
    flat = bend.middle + bend.onward * share
    return far - (piece.place(flat, np.full(len(flat), outer)) @ out).min()


@settings(max_examples=tried(20), deadline=None)
@given(st.lists(leg, min_size=1, max_size=5), st.floats(0.8, 3), st.floats(0.25, 0.5))
def test_what_is_folded_measures_as_it_was_typed(legs, t, k):
    bends = [
        flange(
            f"b{n}",
            size,
            angle=str(turned),
            way="up" if up else "down",
            radius=f"{r:.3f}",
            k=k,
            of=f"b{n - 1}" if n else "",
        )
        for n, (size, turned, up, r) in enumerate(legs)
    ]
    folded = only(bent(bends, "30", "60", round(t, 2))).folded
    by_bend = {hinge.bend.id: number for number, hinge in enumerate(folded.faces.hinges)}
    for n, (size, *_rest) in enumerate(legs):
        beyond = (
            Allowance(legs[n + 1][1], float(f"{legs[n + 1][3]:.3f}"), k, round(t, 2)) if n + 1 < len(legs) else None
        )
        # The face ends where the next bend begins: its setback is what stands beyond.
        wanted = size - (beyond.setback() if beyond else 0)
        assert outside_of(folded, by_bend[f"b{n}"]) == pytest.approx(wanted, abs=2e-3)
    outside = {leg.bend.id: leg.outside for leg in legs_of(folded) if leg.onward}
    assert outside == pytest.approx({f"b{n}": size for n, (size, *_) in enumerate(legs)}, abs=1e-6)


def test_overall_sizes_stay_when_the_sheet_is_another_one():
    bends = [flange("a", 30), flange("b", 20, "right"), flange("c", 12, of="a")]
    for t, r in ((0.8, "1"), (2, "2"), (3, "4.5")):
        assert only(bent(bends, t=t, bending={"radius": r})).folded.size == pytest.approx((80, 60, 30))


def test_a_bend_line_is_measured_from_an_edge_a_bend_and_a_cut_out():
    hole = {"id": "h", "hole": {"kind": "round", "diameter": "10"}, "x": "40", "y": "60"}
    bends = [
        line("a", 20, runs="up", angle="90", radius="2", k=0.4),
        line("b", 30, runs="up", of="a", measured="inside", radius="2", k=0.4),
        line("c", 15, runs="up", of="h", measured="flat"),
    ]
    found = only(bent(bends, "80", "110", cutouts=[hole]))
    allowance = Allowance(90, 2, 0.4, T)
    first = 20 - allowance.setback() + allowance.length / 2
    places = {bend.id: bend.middle.imag for bend in found.bends}
    between = 30 + allowance.length - 2 * 2 * math.tan(math.pi / 4)
    assert places == pytest.approx({"a": first, "b": first + between, "c": 65 + 15})
    assert [leg.outside for leg in legs_of(found.folded) if leg.bend.id == "a" and not leg.onward] == pytest.approx(
        [20]
    )
    # What it is measured from may move; what was typed stays.
    moved = only(bent(bends, "80", "110", cutouts=[hole | {"y": "62"}]))
    assert {b.id: b.middle.imag for b in moved.bends}["c"] == pytest.approx(82)


def test_shapes_on_a_flange_keep_their_distance_from_its_edge():
    hole = {"id": "h", "hole": {"kind": "round", "diameter": "6"}, "on": "a", "origin": "top", "x": "0", "y": "12"}
    for t in (1, 2, 3):
        found = only(bent([flange("a", 40)], t=t, cutouts=[hole]))
        pose = found.folded.pose_at(found.cutouts[0].at)
        z = (pose @ np.array([found.cutouts[0].at.real, found.cutouts[0].at.imag, 0, 1]))[2]
        assert z == pytest.approx(40 - 12)


@settings(max_examples=tried(12), deadline=None)
@given(st.lists(angle, min_size=4, max_size=4), st.floats(0.8, 3), st.booleans())
def test_sides_of_a_box_that_are_mitred_never_meet(angles, t, alike):
    """Each side of a box turned by its own angle: whatever they are, no two run into one another at a corner."""
    sides = ("bottom", "right", "top", "left")
    turned = [min(a, 110) for a in ([angles[0]] * 4 if alike else angles)]
    bends = [flange(s, 25, s, angle=str(a)) for s, a in zip(sides, turned, strict=True)]
    found = only(bent(bends, "120", "100", round(t, 2)))
    assert not list(self_clashes(found, found.folded))


@settings(max_examples=tried(12), deadline=None)
@given(st.floats(30, 115), st.floats(30, 115), st.floats(0.05, 2), st.floats(0.8, 3))
def test_the_gap_of_a_mitre_is_that_across_its_seam(one, other, gap, t):
    """The folded sides above their bends, as solids: manifold3d measures how far each is from its neighbour."""
    t = round(t, 2)
    sides = zip(("bottom", "right", "top", "left"), (one, other) * 2, strict=True)
    bends = [flange(side, 40, side, angle=str(angle), gap=str(gap)) for side, angle in sides]
    found = only(bent(bends, "120", "100", t))
    above = bent_solid(found, found.folded, 1e-4).trim_by_plane((0, 0, 1), 3 * t + 2).decompose()
    assert len(above) == 4
    apart = sorted(a.min_gap(b, 10) for a, b in combinations(above, 2))
    assert apart[:4] == pytest.approx([gap] * 4, abs=1e-4)


@pytest.mark.parametrize("ends", [{}, {"start": "6"}, {"end": "9"}])
def test_a_folded_part_reaches_as_far_as_its_solid(ends):
    """Its three sizes against manifold3d's box, also where a bend lies aside of its middle."""
    found = only(bent([flange("a", 30, angle="120", **ends), flange("b", 20, "left", angle="95", start="12")]))
    box = bent_solid(found, found.folded, 1e-4).bounding_box()
    assert found.folded.size == pytest.approx([box[i + 3] - box[i] for i in range(3)], abs=2e-3)


def wide(found, y):
    line = shapely.LineString([(-300, y), (300, y)])
    return as_polygon(found.outline, 1e-4).intersection(line).length


@pytest.mark.parametrize("mitred", [("left", "top", "right"), ("top", "right"), ("left", "top")])
@pytest.mark.parametrize("angle", ["70", "90", "110"])
def test_a_flange_on_a_mitred_flange_is_no_wider_than_what_it_hangs_on(mitred, angle):
    """The lip of a tray's side: what the mitre took is taken of the lip's bend as well, and nothing meets."""
    bends = [flange(side, 25, side, angle=angle) for side in mitred]
    found = only(bent([*bends, flange("lip", 12, of="top", way="down")], "120", "100"))
    assert not list(self_clashes(found, found.folded))
    bare = only(bent(bends, "120", "100"))
    lip = next(b for b in found.bends if b.id == "lip")
    edge = bare.outline.bounds[3]
    # From where it begins to bend it is as wide as the side is at its edge.
    assert wide(found, edge - lip.bend.setback() + 1e-3) == pytest.approx(wide(bare, edge - 1e-3), abs=5e-3)


def test_the_volume_is_that_of_the_sheet_but_for_what_the_radii_explain():
    found = only(bent([flange("a", 30, angle="70"), flange("b", 20, of="a", way="down", angle="120")]))
    body = bent_solid(found, found.folded, 1e-4)
    # The middle of the sheet is longer than its neutral line, in each bend.
    rounds = sum(math.radians(b.bend.angle) * abs(b.end - b.start) * T * T * (0.5 - b.bend.k) for b in found.bends)
    assert body.volume() == pytest.approx(found.outline.area * T + rounds, rel=1e-5)
    assert body.genus() == 0


def stretches(ring):
    """The lengths of the straight stretches of a ring, wherever a mesh has points in them."""
    points = np.array(ring)[:-1]
    steps = np.roll(points, -1, axis=0) - points
    steps = steps[np.linalg.norm(steps, axis=1) > 1e-7]
    ways = steps / np.linalg.norm(steps, axis=1)[:, None]
    before = np.roll(ways, 1, axis=0)
    turns = np.abs(before[:, 0] * ways[:, 1] - before[:, 1] * ways[:, 0]) > 1e-4
    first = int(np.argmax(turns))
    steps, turns = np.roll(steps, -first, axis=0), np.roll(turns, -first)
    return [float(np.linalg.norm(run.sum(axis=0))) for run in np.split(steps, np.flatnonzero(turns)[1:])]


def test_a_folded_mesh_unfolds_to_the_flat_outline():
    """A mesh of the folded rest is sliced by trimesh; its straight stretches are those of the flat outline."""
    found = only(
        put_starter(project([], stocks=[metal()]), Starter(id="s", kind="bent_rest", stock="alu", second_stock="alu"))
    )
    mesh = bent_solid(found, found.folded, 0.001).to_mesh()
    solid = trimesh.Trimesh(np.asarray(mesh.vert_properties)[:, :3], mesh.tri_verts, process=False)
    assert solid.is_watertight
    strips = shapely.union_all([as_polygon(bend.strip(), 0.001) for bend in found.bends])
    faces = as_polygon(found.outline, 0.001).difference(strips)
    for x in (1.03, 7.71, 10.33, 11.94, 20.07, 38.9):
        cut = solid.section(plane_origin=[x, 0, 0], plane_normal=[1, 0, 0])
        rings = cut.to_2D()[0].discrete
        straight = sorted(v for ring in rings for v in stretches(ring) if v > 1.5 * T)
        column = faces.intersection(shapely.LineString([(x, -1000), (x, 1000)]))
        wanted = sorted(part.length for part in getattr(column, "geoms", [column]) for _ in range(2))
        assert straight == pytest.approx(wanted, abs=0.01)


# What is told


TOLD = [
    ("flange-too-short", [flange("a", 3)], {}),
    ("leg-under-least", [flange("a", 9)], {"bending": {"die": "16"}}),
    ("radius-under-least", [flange("a", 20, radius="0.5")], {"bending": {"least_radius": "1"}}),
    ("bend-too-far", [flange("a", 20, angle="175")], {}),
    ("relief-missing", [flange("a", 20, start="10", relief="none")], {}),
]


@pytest.mark.parametrize(("code", "bends", "more"), TOLD)
def test_what_is_wrong_with_a_bend_is_told_with_a_mend_that_settles_it(code, bends, more):
    found = bent(bends, **more)
    finding = told(found)[code]
    assert "P, flange 1" in finding.text or "p, flange 1" in finding.text
    assert code not in told(apply(found, finding.mends[0].command))


def of_board(made):
    return made.model_copy(update={"stocks": [made.stocks[0].model_copy(update={"material": "plywood"})]})


def hole_at(y, diameter="8"):
    return [{"id": "h", "hole": {"kind": "round", "diameter": diameter}, "x": "40", "y": str(y)}]


@pytest.mark.parametrize(
    ("code", "made", "says"),
    [
        ("bend-over-cut-out", bent([line("a", 30)], cutouts=hole_at(30)), "runs over a cut-out"),
        ("near-bend", bent([flange("a", 30)], cutouts=hole_at(49)), "3 mm from where flange 1 begins to bend"),
        ("bends-cross", bent([line("a", 30), line("b", 30, runs="right")]), "cross on the part"),
        ("bend-misses", bent([line("a", 300)]), "misses the part"),
        ("bend-circle", bent([line("a", 30, of="b"), line("b", 30, of="a")]), "bend 1 on bend 2 on bend 1"),
        ("flat-overlaps", bent([flange("a", 30, end="0"), flange("b", 20, end="30")]), "over one another"),
        ("bent-into-itself", bent([flange("a", 50, angle="150"), flange("b", 50, "bottom", angle="150")]), "share"),
        ("breaks-when-bent", of_board(bent([flange("a", 30)])), "P is bent, and plywood breaks along a bend"),
        ("not-placed", bent([], cutouts=[hole_at(9)[0] | {"on": "gone"}]), "flange that is not there"),
    ],
)
def test_what_cannot_be_bent_is_told_by_name_and_number(code, made, says):
    assert says in told(made)[code].text


@pytest.mark.parametrize(
    ("code", "made", "room"),
    [
        ("near-bend", bent([flange("a", 30)], cutouts=hole_at(49)), True),
        ("near-bend", bent([flange("a", 30)], cutouts=[hole_at(10)[0] | {"on": "a"}]), True),
        ("bend-over-cut-out", bent([line("a", 30)], cutouts=hole_at(31)), True),
        ("near-bend", bent([line("a", 20), line("b", 37)], cutouts=hole_at(28)), False),
    ],
)
def test_a_cut_too_near_a_bend_is_moved_clear_of_it_where_there_is_room(code, made, room):
    [mend] = with_mends(told(made)[code]).mends
    if not room:
        with pytest.raises(Said, match="no room between the bends"):
            apply(made, mend.command)
        return
    after = apply(made, mend.command)
    assert "near-bend" not in told(after) and "bend-over-cut-out" not in told(after)
    # As far as is wanted, judged apart: the hole's round to the line that the bend begins at, less two thicknesses.
    [shape], bend = only(after).cutouts, only(after).bends[0]
    [hole] = shape.loops
    lines = shapely.MultiLineString([[(a.real, a.imag), (b.real, b.imag)] for a, b in bend.tangents])
    assert as_polygon(hole, 1e-4).distance(lines) == pytest.approx(2 * T + 0.01, abs=1e-3)


@given(
    st.floats(10, 50),
    st.sampled_from(["up", "down"]),
    st.floats(4, 56),
    st.floats(2, 8),
    st.integers(0, 160),
)
@settings(deadline=None, max_examples=tried(20))
def test_whatever_is_moved_clear_is_as_far_as_is_wanted_or_there_is_no_room(at, runs, y, diameter, angle):
    bends = [line("a", f"{at:.3f}", runs=runs, measured="flat", angle=str(angle)), flange("b", 30, "bottom")]
    made = bent(bends, cutouts=hole_at(f"{y:.3f}", f"{diameter:.3f}"))
    try:
        after = apply(made, ClearOfBends(do="clear of bends", part="p", id="h"))
    except Said as error:
        assert "no room between the bends" in str(error)
        return
    [hole] = only(after).cutouts[0].loops
    for bend in (bend for bend in only(after).bends if bend.half > 0):
        assert as_polygon(hole, 1e-4).distance(as_polygon(bend.strip(), 1e-4)) >= 2 * T - 1e-3


@pytest.mark.parametrize(("runs", "middle"), [("down", 20), ("up", 40)])
@pytest.mark.parametrize(("gap", "near"), [(3, True), (4.1, False)])
def test_a_notch_in_the_edge_too_near_a_bend_is_told(runs, middle, gap, near):
    """It comes from the top edge; the bend's middle is so far below that."""
    bend = line("a", 20, runs=runs, measured="flat")
    deep = middle - only(bent([bend])).bends[0].half - gap
    notch = {"id": "n", "hole": {"kind": "rectangle", "width": "10", "height": f"{2 * deep:.6f}"}, "x": "40", "y": "60"}
    finding = told(bent([bend], cutouts=[notch])).get("near-bend")
    assert bool(finding) == near
    assert not finding or "its edge is 3 mm from where bend 1 begins to bend" in finding.text


def test_a_bend_along_the_grain_is_told_as_the_copy_lies():
    found = bent([flange("a", 30)], turns="90")
    grained = found.model_copy(update={"stocks": [found.stocks[0].model_copy(update={"grain": "along width"})]})

    def laid(turn):
        place = Placement(part="p", copy_number=1, sheet=0, x=100, y=100, turn=turn)
        layout = Layout(sheets=[LaidSheet(stock="alu", width=600, height=400)], placements=[place])
        return grained.model_copy(update={"layout": layout})

    assert "bend-along-grain" in told(laid(0))
    assert "bend-along-grain" not in told(laid(90))


@pytest.mark.parametrize(
    ("base", "leg", "way", "reached"), [(60, 40, "up", True), (30, 40, "up", False), (40, 30, "down", True)]
)
def test_a_channel_whose_legs_are_longer_than_its_base_is_wide_meets_the_punch(base, leg, way, reached):
    """Common practice, no source: a straight punch cannot close a channel whose legs are longer than its base."""
    found = only(bent([flange("a", leg), flange("b", leg, "bottom", way=way)], height=str(base)))
    order = order_of(found, found.folded)
    assert isinstance(order, Reached if reached else Blocked)
    if isinstance(order, Blocked):
        assert order.tool == "punch" and order.tried
        assert "no-bending-order" in told(bent([flange("a", leg), flange("b", leg, "bottom")], height=str(base)))
    else:
        assert sorted(order.order) == ["a", "b"]


# Kept with the part


def test_a_part_turned_over_is_bent_to_the_other_face():
    hole = {"id": "h", "hole": {"kind": "round", "diameter": "6"}, "x": "20", "y": "20"}
    bends = [flange("a", 30, start="10"), flange("b", 20, "left", angle="60"), line("c", 25, runs="right", turn="10")]
    found = bent(bends, "90", "70", cutouts=[hole])
    over = apply(found, MirrorPart(do="mirror part", id="p"))
    one, other = only(found), only(over)
    assert other.folded.size == pytest.approx(one.folded.size, abs=1e-6)
    assert [b.up for b in other.bends] == [not b.up for b in one.bends]
    assert [b.middle.real for b in other.bends] == pytest.approx([90 - b.middle.real for b in one.bends])
    twice = apply(over, MirrorPart(do="mirror part", id="p"))
    assert twice.parts[0].bends == found.parts[0].bends


def test_bends_are_begun_scaled_and_taken_away_with_what_hangs_on_them():
    found = bent([flange("a", 30, angle="60")])
    found = apply(found, BeginBend(do="begin bend", part="p", id="b", side="top", of="a"))
    found = apply(found, ScalePart(do="scale part", id="p", factor=2))
    assert [(b.length.text, b.angle.text) for b in found.parts[0].bends] == [("60", "60"), ("60", "90")]
    assert not apply(found, RemoveBend(do="remove bend", part="p", id="a")).parts[0].bends


@pytest.mark.parametrize("t", [1.0, 3.0])
@pytest.mark.parametrize("kind", ["bent_bracket", "bent_rest", "bent_box"])
def test_bent_starters_fold_without_a_finding(kind, t):
    found = put_starter(project([], stocks=[metal(t)]), Starter(id="s", kind=kind, stock="alu", second_stock="alu"))
    assert not told(found)
    folded = only(found).folded
    if kind == "bent_rest":
        names = names_of_faces(folded)
        shelf, foot = (folded.normal(names.index(name)) for name in ("the leg of shelf", "its foot"))
        assert shelf == pytest.approx(foot)


# Files


def laid(found, turn=0.0, mirrored=False, **wanted):
    [one] = found.parts
    place = Placement(part=one.id, copy_number=1, sheet=0, x=200, y=150, turn=turn, mirrored=mirrored)
    layout = Layout(sheets=[LaidSheet(stock="alu", width=600, height=400)], placements=[place])
    return found.model_copy(update={"layout": layout, "hand_over": HandOver(names="leave out", **wanted)})


def file_of(found, kind):
    result = evaluate(found)
    ready = prepare(found, result, 0)
    return written(found, result, ready, kind, found.hand_over), ready, result


BRACKET = bent([flange("a", 30), flange("b", 20, "bottom", way="down", angle="120"), line("c", 30, angle="40")])


@pytest.mark.parametrize("kind", ["dxf", "svg", "pdf"])
@pytest.mark.parametrize(("turn", "mirrored"), [(0, False), (90, False), (33, True)])
def test_the_legs_are_proved_from_the_file(kind, turn, mirrored):
    file, *_ = file_of(laid(BRACKET, turn, mirrored, bends="centre and tangents", bend_words=True), kind)
    assert not file.proof.faults
    [proved] = file.proof.parts
    assert len(proved.legs) == 6
    for found in proved.legs:
        assert found.proved == pytest.approx(found.wanted, abs=0.01)


def test_bend_lines_have_layers_of_their_own_and_are_never_cut():
    file, *_ = file_of(laid(BRACKET, bends="centre and tangents", bend_words=True), "dxf")
    document, _ = recover.read(io.BytesIO(file.data))
    space = document.modelspace()
    layers = ("cut", "bend-up", "bend-down", "bend-tangent")
    by_layer = {name: len(space.query(f'*[layer=="{name}"]')) for name in layers}
    assert by_layer == {"cut": 1, "bend-up": 2, "bend-down": 1, "bend-tangent": 6}
    words = [text.dxf.text for text in space.query('TEXT[layer=="notes"]')]
    assert any(w.startswith("120° down, R 2 mm, K 0.325, BD ") for w in words) and len(words) == 3
    plain, *_ = file_of(laid(BRACKET, bends="leave out"), "dxf")
    assert {e.dxf.layer for e in recover.read(io.BytesIO(plain.data))[0].modelspace()} == {"cut"}
    assert any("no bend lines" in note for note in plain.proof.notes)


def test_a_bend_line_that_is_moved_or_on_the_wrong_layer_is_a_fault():
    file, ready, result = file_of(laid(BRACKET), "svg")
    told_of = file.data.decode()
    wrong = told_of.replace('"bend-up"', '"x"').replace('"bend-down"', '"bend-up"').replace('"x"', '"bend-down"')
    moved = told_of.replace('<g id="bend-down"', '<g transform="translate(0 0.1)" id="bend-down"')
    for text, says in ((wrong, "bent the other way"), (moved, "its line is not in the file")):
        proof = prove_sheet(ready.plan, read_drawing(text.encode(), "sheet.svg"), result)
        assert any(says in fault.text for fault in proof.faults)


def test_the_setup_sheet_has_the_bend_table():
    _, ready, _ = file_of(laid(BRACKET), "dxf")
    pages = PdfReader(io.BytesIO(write_setup_sheet(ready, HandOver()))).pages
    assert len(pages) == 2
    words = pages[1].extract_text()
    for word in ("120°", "down", "0.325", "2 mm"):
        assert word in words


# The way in


def drawn_dxf():
    document = ezdxf.new(units=4)
    document.linetypes.add("BENDING_DOWN", [1.0, 0.5, -0.5])
    space = document.modelspace()
    space.add_lwpolyline([(10, 20), (110, 20), (110, 90), (10, 90)], close=True, dxfattribs={"layer": "outline"})
    space.add_line((10, 50), (110, 50), dxfattribs={"layer": "Bend lines"})
    space.add_line((30, 20), (50, 90), dxfattribs={"layer": "outline", "linetype": "BENDING_DOWN"})
    stream = io.StringIO()
    document.write(stream)
    return stream.getvalue().encode()


def test_lines_that_say_bend_come_in_as_bends():
    found = read(drawn_dxf(), "plate.dxf")
    way = bring(found, Bringing())
    assert way.purposes == {"outline": "cut", "Bend lines": "bend up", "BENDING_DOWN": "bend down"}
    brought = part_from(way.parts[0], "plate", "alu")
    laid_out = evaluate(Project(name="brought", stocks=[metal()], parts=[brought])).parts["plate"].bends
    ends = sorted(sorted((round(p.real, 3), round(p.imag, 3)) for p in (b.start, b.end)) for b in laid_out)
    assert ends == [[(0, 30), (100, 30)], [(20, 0), (40, 70)]]
    assert [b.up for b in laid_out] == [True, False]


def test_bends_that_are_drawn_as_one_line_with_corners_are_bends_of_their_own():
    document = ezdxf.new(units=4)
    space = document.modelspace()
    box = [(20, 0), (100, 0), (100, 20), (120, 20), (120, 60), (100, 60), (100, 80), (20, 80), (20, 60), (0, 60)]
    space.add_lwpolyline([*box, (0, 20), (20, 20)], close=True, dxfattribs={"layer": "outline"})
    # Begun in the midst of a side, which a second line goes on with beyond a gap.
    inner = [(45, 20), (70, 20), (100, 20), (100, 60), (20, 60), (20, 20)]
    space.add_lwpolyline(inner, close=True, dxfattribs={"layer": "bend"})
    space.add_line((102, 60), (105, 60), dxfattribs={"layer": "bend"})
    stream = io.StringIO()
    document.write(stream)
    way = bring(read(stream.getvalue().encode(), "tray.dxf"), Bringing())
    brought = part_from(way.parts[0], "plate", "alu")
    found = evaluate(Project(name="brought", stocks=[metal()], parts=[brought])).parts["plate"]
    assert len(found.bends) == 4 and len(found.folded.faces.flat) == 5 and not found.folded.circular


@pytest.mark.parametrize(
    ("kind", "bend", "angles", "leg"),
    [
        ("bent_bracket", "arm", {"arm": 70}, "arm"),
        ("bent_rest", "shelf", {"post": 70, "shelf": 70, "lip": 90}, "shelf"),
        ("bent_box", "left_side", dict.fromkeys(("bottom_side", "right_side", "top_side", "left_side"), 70), "height"),
    ],
)
def test_what_is_typed_at_a_bend_of_a_starter_goes_into_its_numbers(kind, bend, angles, leg):
    starter = Starter(id="s", kind=kind, stock="alu", second_stock="alu")
    found = put_starter(project([], stocks=[metal()]), starter)
    typed = {one.id: one for one in found.parts[0].bends}
    turned, long = (drives_bend(found, typed[bend], which) for which in ("angle", "length"))
    assert long.number == leg and not drives_bend(found, Flange.model_validate(flange("x", 30)), "angle")
    starter = with_size(starter, turned.number, turned.index, Size(text="70"))
    after = put_starter(found, with_size(starter, long.number, long.index, Size(text="44")))
    laid = {one.id: one.bend.angle for one in only(after).bends}
    assert laid == angles
    legs = {one.bend.id: one.outside for one in legs_of(only(after).folded) if one.onward}
    assert legs[bend] == pytest.approx(44)
