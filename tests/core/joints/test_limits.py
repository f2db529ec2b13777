"""What joints refuse, from both sides of each number, and where the calipers are put to check them."""

import math

import pytest
import shapely
from leannotch_core.assembly.poses import assemble
from leannotch_core.assembly.solids import all_clashes
from leannotch_core.edits.command import apply
from leannotch_core.edits.part import MirrorPart
from leannotch_core.evaluate import evaluate
from leannotch_core.geometry.chords import as_polygon
from leannotch_core.joints.relief import ROOM

from ...projects import cross_lap, finger, nuts, part, project, splice, stock, tab
from .test_housings import housing

FACED = [part("a", 60, 100), part("b", 120, 120)]
UP = {"turn": "90"}


def nut(thick, *, tabs=False, far=False, **more):
    """A nut in A's edge, screwed through B; with tabs on the same edge, or on the far one."""
    joints = [nuts("a", "left", "b", 20, 10, line=UP, **{"screw": "10", **more})]
    if tabs or far:
        joints.append(tab("a", "right" if far else "left", "b", 90 if far else 20, 10, line=UP, tabs=2, inset="8"))
    return project(FACED, joints, [stock(readings=(str(thick),))])


def fingers(kerf):
    # 61 fingers on 60 mm with a clearance of 0.4: fingers of 0.9836 - 0.2, notches of 0.9836 + 0.2.
    plates = [part("a", 90, 60), part("b", 80, 60)]
    return project(plates, [finger("a", "right", "b", "left", count=61)], [stock(glue="0.4", kerf=str(kerf))])


def on_a_side(shift):
    plates = [part("a", 90, 100), part("b", 80, 60)]
    return project(plates, [finger("a", "right", "b", "left", "12", shift=str(shift))])


def behind(deep):
    """An edge that is hardly deeper than its partner is thick."""
    return project([part("a", deep, 60), part("b", 80, 60)], [finger("a", "right", "b", "left", "12")])


# What is taken just within a limit is refused just beyond it, in words that name it.
LIMITS = {
    # An M3 nut of 2.4 and a pitch of 0.5 behind a screw of 10: 10 - t - 0.5 - 2.4 - 0.05 of wall, at least t / 2.
    "the wall before a nut": (nut, 4.69, 4.71, "is too short"),
    # The same where tabs hold the face as far inside as they are long.
    "the wall before a nut, with tabs": (lambda t: nut(t, tabs=True), 4.69, 4.71, "is too short"),
    "fingers as narrow as the kerf": (fingers, 0.783, 0.784, "not wider than the kerf"),
    "where a partner begins": (on_a_side, 40, 40.1, "do not fit"),
    "as deep as its partner is thick": (behind, 3.08, 3.07, "not deeper than"),
}


@pytest.mark.parametrize("name", LIMITS)
def test_a_limit_is_met_from_both_sides(name):
    make, within, beyond, words = LIMITS[name]
    taken, refused = evaluate(make(within)), evaluate(make(beyond))
    assert taken.ledger and not [finding for finding in taken.findings if words in finding.text]
    assert len(refused.ledger) < len(taken.ledger)
    assert [finding for finding in refused.findings if words in finding.text]


def test_screws_count_from_where_tabs_of_their_own_edge_put_the_face():
    """A nut lies as far inside the drawn edge as the screw reaches, from the face that the tabs hold or that stands on
    the edge itself; tabs of another edge have no say.
    """
    inside = {}
    for name, how in {"alone": {}, "same": {"tabs": True}, "other": {"far": True}}.items():
        result = evaluate(nut(4, screw="20", **how))
        assert not result.errors
        [across] = [row for row in result.ledger if row.kind == "nut, across flats"]
        inside[name] = across.opening_at.point.real
    # By hand: 20 - 4 under the head, less a pitch and half a nut.
    assert inside["alone"] == inside["other"] == pytest.approx(20 - 4 - 0.5 - 1.2)
    assert inside["same"] - inside["alone"] == pytest.approx(4)


@pytest.mark.parametrize(("cutter", "told"), [(0.79, False), (0.82, True)])
def test_reliefs_leave_a_nut_seven_tenths_of_what_it_bears_on(cutter, told):
    """An M3 nut bears on (5.5 + 0.1 - 3.4) / 2 = 1.1 mm beside its screw, of which 0.77 may be taken; a dog-bone of a
    radius r takes r (1 + sqrt(1/2)).
    """
    assert ((cutter / 2 + ROOM) * (1 + math.sqrt(0.5)) > 0.77) == told
    joint = nuts("a", "left", "b", 20, 10, screw="16", line=UP, relief="dog-bone", cutter=str(cutter))
    found = evaluate(project(FACED, [joint], [stock(readings=("4",))]))
    assert ("reliefs-take-bearing" in {finding.code for finding in found.findings}) == told


def test_a_joint_that_names_no_part_says_which():
    found = evaluate(project(FACED, [tab("a", "left", "gone", 20, 10)]))
    assert [finding.text for finding in found.errors] == ["A joint names the part “gone”, which is not there"]
    # One that is there and cannot be built is told at its own place, and not as gone.
    broken = evaluate(project([FACED[0], part("b", "0", 120)], [tab("a", "left", "b", 20, 10)]))
    assert broken.errors and "part-missing" not in {finding.code for finding in broken.errors}


WHEREVER = {
    "finger": (
        [part("a", 90, 60), part("b", 80, 60)],
        [finger("a", "right", "b", "left", "12", inset_start="5"), finger("a", "left", "b", "right", "9", id="other")],
    ),
    "cross-lap": ([part("a", 120, 40), part("b", 90, 30)], [cross_lap("a", 50, "b", 40, share="0.4")]),
    "tab": (FACED, [tab("a", "left", "b", 20, 10, tabs=3, line=UP)]),
    "blind tab": (FACED, [tab("a", "left", "b", 20, 10, tabs=2, pocket="1.5", line=UP)]),
    "nut": (FACED, [nuts("a", "left", "b", 20, 10, screw="20", screws=2, line=UP)]),
    "splice": (
        [part("a", 100, 60), part("b", 100, 60)],
        [splice("a", "right", "b", "left", shape="straight", size="12", depth="8", keys=2)],
    ),
    "housing": (FACED, [housing("a", "left", "b", 20, 10, "90", groove="1.5")]),
}


def across(result, gauge):
    """How wide it is where calipers are put, by shapely; an opening between what stands of the part."""
    whole = as_polygon(result.parts[gauge.part].outline, 1e-4)
    for pocket in result.parts[gauge.part].pockets:
        whole = whole.difference(as_polygon(pocket.outline, 1e-4))
    far = gauge.direction * 1000
    a, b = gauge.point - far, gauge.point + far
    line = shapely.LineString([(a.real, a.imag), (b.real, b.imag)])
    spot = shapely.Point(gauge.point.real, gauge.point.imag)
    for found in (line.intersection(whole), line.difference(whole)):
        for piece in shapely.get_parts(found):
            if piece.distance(spot) < 1e-6:
                yield piece.length


@pytest.mark.parametrize("family", WHEREVER)
def test_calipers_find_what_the_ledger_says_where_it_puts_them(family):
    parts, joints = WHEREVER[family]
    result = evaluate(project(parts, joints, [stock(kerf="0.02", readings=("4",))]))
    assert not result.errors and result.ledger
    for row in result.ledger:
        assert any(wide == pytest.approx(row.opening, abs=2e-3) for wide in across(result, row.opening_at)), row
        if row.insert_at:
            assert any(wide == pytest.approx(row.insert, abs=2e-3) for wide in across(result, row.insert_at)), row


@pytest.mark.parametrize("family", WHEREVER)
def test_an_uneven_sheet_is_cut_for_its_mean_and_the_ledger_says_how_tight_its_thickest_place_is(family):
    """Readings a tenth of a mm apart: only where the sheet itself goes into an opening is anything tighter for it."""
    parts, joints = WHEREVER[family]
    documents = [project(parts, joints, [stock(readings=some)]) for some in (("3.07",), ("2.97", "3.07", "3.17"))]
    (even, uneven) = results = [evaluate(document) for document in documents]
    for name, one in even.parts.items():
        other = uneven.parts[name]
        assert off(as_polygon(one.outline, 1e-4), as_polygon(other.outline, 1e-4)) < 1e-6
        for pocket, like in zip(one.pockets, other.pockets, strict=True):
            assert off(as_polygon(pocket.outline, 1e-4), as_polygon(like.outline, 1e-4)) < 1e-6
    for one, other in zip(even.ledger, uneven.ledger, strict=True):
        sizes = [(row.opening, row.insert, row.gap) for row in (one, other)]
        assert sizes[0] == pytest.approx(sizes[1])
        tighter = 0.1 if one.insert_at is None and not one.hardware else 0.0
        assert one.tightest - other.tightest == pytest.approx(tighter)
        # Reliefs ease the gap and take from it; how tight it is at the thickest is told of the plain opening.
        assert one.tightest == pytest.approx(one.opening - one.insert)
    spaces = [assemble(document, result) for document, result in zip(documents, results, strict=True)]
    for copy, pose in spaces[0].poses.items():
        assert spaces[1].poses[copy] == pytest.approx(pose, abs=1e-9)


def test_a_nut_lies_in_the_edge_and_its_screw_goes_through_the_face():
    rows = {row.kind: (row.opening_part, row.insert_part) for row in evaluate(nut(4, screw="16")).ledger}
    assert rows == {
        "nut, across flats": ("a", "b"), "nut, its height": ("a", "b"), "screw in its hole": ("b", "a"),
    }  # fmt: skip


def test_tabs_that_have_no_room_are_offered_an_inset_that_spreads_them_evenly():
    """Two tabs of 12 on 60 mm with insets of 30 would overlap; the middle of each at a fourth of the edge: 15 - 6."""
    made = project([part("a", 60, 60), FACED[1]], [tab("a", "left", "b", 20, 10, inset="30", line=UP)])
    [told] = [finding for finding in evaluate(made).findings if finding.code == "joint-left-out"]
    [mend] = told.mends
    assert mend.command.value == "9.00"
    spread = evaluate(apply(made, mend.command))
    # The ledger measures the last one, 45 mm along the line that begins 10 mm up.
    assert [row.opening_at.point.imag for row in spread.ledger if "width" in row.kind] == [pytest.approx(55)]
    assert not [finding for finding in spread.findings if finding.code == "joint-left-out"]


def off(one, other):
    return one.symmetric_difference(other).area


def slotted(at):
    return project([part("a", 120, 40), part("b", 90, 30)], [cross_lap("a", at, "b", 40)])


def nut_in(inset, screws=1):
    joint = nuts("a", "left", "b", 20, 10, screw="16", screws=screws, inset=str(inset), line=UP)
    return project([part("a", 60, 60), FACED[1]], [joint], [stock(readings=("4",))])


# A slot of 3.07 + 0.1 is 1.585 to each side of its middle; an M3 nut of 5.5 + 0.1 is 2.8, and keeps a kerf (0.16) more.
LEFT = [(slotted, 1.586, 1.584), (slotted, 120 - 1.586, 120 - 1.584)]
LEFT += [(lambda inset: nut_in(inset, 2), 2.961, 2.959), (lambda inset: nut_in(inset, 2), 27.119, 27.121)]


@pytest.mark.parametrize(("make", "within", "beyond"), LEFT)
def test_slots_and_nuts_keep_clear_of_the_ends_of_their_edge_and_of_each_other(make, within, beyond):
    taken, refused = evaluate(make(within)), evaluate(make(beyond))
    assert taken.ledger and not refused.ledger
    assert "joint-left-out" in {finding.code for finding in refused.findings} - {
        finding.code for finding in taken.findings
    }


@pytest.mark.parametrize("angle", ["60", "90", "125"])
@pytest.mark.parametrize("sides", [("top", "bottom"), ("left", "right"), ("right", "left"), ("bottom", "top")])
def test_a_lap_at_an_angle_goes_together_whichever_sides_its_slots_are_open_at(sides, angle):
    joint = cross_lap("a", 30, "b", 26, angle=angle)
    for end, side in zip("ab", sides, strict=True):
        joint[end] = joint[end] | {"side": side}
    document = project([part("a", 60, 60), part("b", 52, 52)], [joint])
    result = evaluate(document)
    assert not result.errors
    assembly = assemble(document, result)
    assert (assembly.gaps, assembly.missing, len(assembly.groups)) == ([], [], 1)
    assert all_clashes(result, assembly) == []


TURNED = {
    "fingers with insets, along a top": (
        [part("a", 60, 90), part("b", 60, 80)],
        [finger("a", "top", "b", "bottom", "9", inset_start="6", inset_end="11")],
    ),
    "fingers from a place on, along the longer top": (
        [part("a", 100, 90), part("b", 60, 80)],
        [finger("a", "top", "b", "bottom", "9", shift="7")],
    ),
    "fingers from the beginning on": ([part("a", 100, 90), part("b", 60, 80)], [finger("a", "top", "b", "top", "9")]),
    "fingers along a side": (
        [part("a", 90, 60), part("b", 80, 60)],
        [finger("a", "right", "b", "left", "9", inset_start="6")],
    ),
    "tabs": (FACED, [tab("a", "left", "b", 20, 10, tabs=3, line=UP)]),
    "a splice": ([part("a", 100, 60), part("b", 100, 60)], [splice("a", "right", "b", "left", size="12", depth="8")]),
    "a lap": ([part("a", 120, 40), part("b", 90, 30)], [cross_lap("a", 50, "b", 40, share="0.4")]),
}


@pytest.mark.parametrize("name", TURNED)
def test_a_part_that_is_turned_over_is_its_own_mirror_image_and_its_partner_stays(name):
    parts, joints = TURNED[name]
    before = project(parts, joints)
    after = apply(before, MirrorPart(do="mirror part", id="a"))
    was, now = evaluate(before), evaluate(after)
    assert not now.errors and len(now.ledger) == len(was.ledger)
    a, b = (as_polygon(result.parts["a"].outline, 1e-3) for result in (was, now))
    width = was.parts["a"].width
    turned = shapely.transform(a, lambda points: points * [-1, 1] + [width, 0])
    assert turned.symmetric_difference(b).area < 0.05
    one, other = (as_polygon(result.parts["b"].outline, 1e-3) for result in (was, now))
    assert one.symmetric_difference(other).area < 0.05


def test_an_edge_is_not_joined_to_itself_by_fingers_and_two_of_one_part_are():
    bent = [part("a", 60, 60), part("b", 60, 60)]
    refused = evaluate(project(bent, [finger("a", "left", "a", "left", "12")]))
    assert "needs two edges; both are the left edge of A" in " ".join(finding.text for finding in refused.findings)
    # A ring of copies is closed so.
    taken = evaluate(project([part("a", 60, 60, count=4)], [finger("a", "left", "a", "right", "12")]))
    assert taken.ledger and "needs two edges" not in " ".join(finding.text for finding in taken.findings)
