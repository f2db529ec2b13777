"""Joints offered for brought parts: they fit, and leave everything where it stood or as large as it was drawn."""

import io

import ezdxf
import pytest
import trimesh
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.assembly.poses import assemble
from leannotch_core.assembly.solids import clashes
from leannotch_core.bring import brought_parts
from leannotch_core.drawings.following import Follow
from leannotch_core.drawings.way_in import Bringing, bring, read
from leannotch_core.edits.bring import BringParts
from leannotch_core.edits.command import apply
from leannotch_core.edits.joint import JoinAllOffered, JoinAsOffered
from leannotch_core.evaluate import evaluate
from leannotch_core.offered.offers import joined, offers
from leannotch_core.offered.parted import parted
from leannotch_core.said import Said

from ...judges.brought_bodies import apart, assembled, laid_flat, stl
from ...projects import ROOT, project, stock
from ...properties import tried


def all_taken(document, *kinds):
    """The document with every joint of some kinds that is offered, one after the other."""
    while keys := [key for key in offers(document, evaluate(document)) if key.kind in kinds]:
        document = joined(document, keys[0])
        assert len(document.joints) < 20
    return document


def fits_together(document):
    result = evaluate(document)
    assembly = assemble(document, result)
    clash = [clash for _, clash in clashes(result, assembly) if clash]
    return not (assembly.gaps or assembly.missing or clash or result.errors)


def test_plates_that_meet_are_offered_the_joints_that_hold_them_where_they_stood():
    data = (ROOT / "demo" / "brought" / "sieve_shaker.stl").read_bytes()
    document = laid_flat(data, "sieve_shaker.stl")
    tray = all_taken(document, "finger")
    assert [joint.kind for joint in tray.joints] == ["finger"] * 6 and fits_together(tray)
    # On every edge fingers are left: an edge that two joints share has the same ones for both.
    for shaped in evaluate(tray).parts.values():
        assert shaped.outline.bounds == pytest.approx((0, 0, shaped.width, shaped.height))
    # Butted walls now reach to the outside; all else stands where it stood, and no outside size of the whole changed.
    before, after = apart(assembled(document).values()), apart(assembled(tray).values())
    assert (after[:, :3].min(axis=0), after[:, 3:].max(axis=0)) == (
        pytest.approx(before[:, :3].min(axis=0)),
        pytest.approx(before[:, 3:].max(axis=0)),
    )
    assert not all_taken(tray, "finger", "cross-lap", "tab-and-slot").joints[6:]


def test_all_that_is_offered_is_joined_in_one_step_and_fits():
    data = (ROOT / "demo" / "brought" / "sieve_shaker.stl").read_bytes()
    document = laid_flat(data, "sieve_shaker.stl")
    whole = apply(document, JoinAllOffered(do="join all offered"))
    assert len(whole.joints) == 6 and fits_together(whole) and not offers(whole, evaluate(whole))
    with pytest.raises(Said, match="No joint is offered any more"):
        apply(whole, JoinAllOffered(do="join all offered"))


def box(x, y, z, width, depth, height):
    return trimesh.creation.box((width, depth, height)).apply_translation(
        (x + width / 2, y + depth / 2, z + height / 2)
    )


@pytest.mark.parametrize("kind", ["cross-lap", "tab-and-slot", "housing"])
def test_each_kind_of_meeting_makes_a_joint_that_fits(kind):
    bodies = {
        "cross-lap": [box(0, 0, 0, 200, 6, 80), box(60, -50, 0, 6, 120, 80), box(140, -50, 0, 6, 120, 80)],
        "tab-and-slot": [box(0, 0, 0, 200, 120, 6), box(40, 20, 6, 6, 80, 50), box(110, 20, 6, 6, 80, 50)],
        "housing": [box(0, 0, 0, 200, 120, 6), box(40, 20, 6, 6, 80, 50), box(110, 20, 6, 6, 80, 50)],
    }[kind]
    document = laid_flat(stl(*bodies))
    held = all_taken(document, kind)
    assert [joint.kind for joint in held.joints] == [kind] and fits_together(held)
    middles = (apart(assembled(one).values())[:, :2] for one in (document, held))
    # All copies are held by the one joint, where they stood.
    assert next(middles) == pytest.approx(next(middles), abs=0.01)
    assert {len(group) for group in assemble(held, evaluate(held)).groups} == {3}


def tray_drawn_for(thick, tabs, width, play):
    """A drawing of a base with two rows of slots, and of a wall with as many tabs, twice."""
    document = ezdxf.new(units=4)
    space = document.modelspace()
    step = 120 / tabs
    begins = [10 + i * step for i in range(tabs)]
    space.add_lwpolyline([(0, 0), (200, 0), (200, 140), (0, 140)], close=True, dxfattribs={"layer": "base"})
    for y in (20, 100):
        for x in begins:
            slot = [
                (x - play / 2, y),
                (x + width + play / 2, y),
                (x + width + play / 2, y + thick),
                (x - play / 2, y + thick),
            ]
            space.add_lwpolyline([(30 + a, b) for a, b in slot], close=True)
    long = 20 + (tabs - 1) * step + width
    for right in (250, 500):
        wall = [(0, thick), (0, 40), (long, 40), (long, thick)]
        for x in reversed(begins):
            wall += [(x + width, thick), (x + width, 0), (x, 0), (x, thick)]
        space.add_lwpolyline([(right + a, b) for a, b in wall], close=True, dxfattribs={"layer": "wall"})
    stream = io.StringIO()
    document.write(stream)
    return read(stream.getvalue().encode(), "tray.dxf")


@settings(max_examples=tried(15))
@given(
    st.sampled_from([3.0, 4.0, 6.0]),
    st.integers(1, 4),
    st.sampled_from([10.0, 14.5]),
    st.sampled_from([0.0, 0.2]),
    st.sampled_from(["3.07", "5.6"]),
)
def test_tabs_and_slots_that_mate_become_a_joint_that_fits_any_sheet(thick, tabs, width, play, sheet):
    found = bring(tray_drawn_for(thick, tabs, width, play), Bringing()).parts
    document = project([], stocks=[stock(readings=(sheet,))])
    parts = brought_parts(document, found, "ply", Follow(thick))
    document = document.model_copy(update={"parts": parts})
    (key,) = offers(document, evaluate(document))
    command = JoinAsOffered(do="join as offered", **key._asdict())
    made = apply(document, command)
    (joint,), result = made.joints, evaluate(made)
    assert (joint.tabs, joint.b.all_lines) == (tabs, 2) and fits_together(made)
    before, after = evaluate(document).parts, result.parts
    # The sides stay as they were drawn, and the slots measure the sheet in hand and its clearance.
    assert [after[p.id].width for p in parts] == pytest.approx([before[p.id].width for p in parts])
    base = next(part for part in after.values() if len(part.outline.cutouts) == 2 * tabs)
    sides = sorted({round(s.length, 6) for loop in base.outline.cutouts for s in loop})
    assert sides == pytest.approx([float(sheet) + 0.1, width + 0.1]) and not offers(made, result)


def test_what_is_not_offered_any_more_is_refused():
    document = project([], stocks=[stock()])
    with pytest.raises(Said, match="do not meet"):
        apply(document, JoinAsOffered(do="join as offered", kind="finger", a="one", b="two"))


def open_box(ends):
    """A bottom of 6 mm, two equal sides on it, and so many ends between them."""
    bodies = [box(0, 0, 0, 200, 120, 6), box(0, 0, 6, 200, 6, 80), box(0, 114, 6, 200, 6, 80)]
    return [*bodies, *(box(x, 6, 6, 6, 108, 80) for x in (0, 194)[:ends])]


@pytest.mark.parametrize(("ends", "counts"), [(1, [1, 1, 1, 1]), (2, [1, 2, 2])])
def test_equal_plates_with_different_joints_are_parts_of_their_own(ends, counts):
    document = laid_flat(stl(*open_box(ends)), "kit.stl")
    assert sorted(part.count for part in parted(document).parts) == counts
    whole = apply(document, JoinAllOffered(do="join all offered"))
    assert fits_together(whole) and sorted(part.count for part in whole.parts) == counts
    # By hand: a bottom under three walls and an end between two; or, with both ends, each kind of wall twice.
    assert len(whole.joints) == {1: 5, 2: 6}[ends]
    brought = apply(project([], stocks=document.stocks), BringParts(file="kit.stl", parts=document.parts))
    assert sorted(part.count for part in brought.parts) == counts


def test_what_is_parted_gets_no_id_that_is_there():
    """Of what was brought before the second side alone is kept; it has the id that the fresh one would get."""
    document = laid_flat(stl(*open_box(1)), "kit.stl")
    before = parted(document)
    (second,) = (part for part in before.parts if part.id not in {other.id for other in document.parts})
    kept = project([second.model_dump()], stocks=document.stocks)
    both = apply(kept, BringParts(file="kit.stl", parts=document.parts))
    assert len({part.id for part in both.parts}) == len(both.parts) == 5


def test_a_box_that_was_merged_into_one_body_is_joined_and_fits():
    """Its divider stands off the middle, so that the sides it stands between are mirror images."""
    whole = trimesh.boolean.union([*open_box(2), box(90, 6, 6, 6, 108, 50)], engine="manifold")
    document = apply(laid_flat(whole.export(file_type="stl"), "kit.stl"), JoinAllOffered(do="join all offered"))
    assert sorted(part.count for part in document.parts) == [1, 1, 1, 1, 2] and fits_together(document)
