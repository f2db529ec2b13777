"""What a joint begins with where parts are picked, and what is made of what is typed."""

import pytest
from leannotch_core.evaluate import evaluate
from leannotch_core.joints.captive_nut.typed import CaptiveNut
from leannotch_core.joints.ends import EdgeOf
from leannotch_core.joints.families import FAMILIES
from leannotch_core.joints.picked import Picked

from ...projects import finger, part, project, tab


@pytest.mark.parametrize(
    ("width", "height", "x", "y", "turn"),
    [
        # 30 mm across the middle of what is wider, up the middle of what is higher.
        (100, 40, "35", "20", "0"),
        (40, 100, "20", "35", "90"),
        (60, 60, "30", "15", "90"),
    ],
)
def test_a_line_begins_along_the_longer_way_in_the_middle(width, height, x, y, turn):
    line = Picked("plate", None, width, height, "mm").line(30)
    assert (line.x.text, line.y.text, line.turn.text) == (x, y, turn)


@pytest.mark.parametrize(("side", "along"), [("left", 60), ("right", 60), ("top", 100), ("bottom", 100), (None, 100)])
def test_what_is_begun_on_a_side_goes_by_how_long_that_is(side, along):
    ends = Picked("a", side, 100, 60, "mm"), Picked("b", "left", 200, 160, "mm")
    begun = {kind: family.begun("new", *ends, []) for kind, family in FAMILIES.items()}
    assert {joint.a.side for kind, joint in begun.items() if kind != "cross-lap"} == {side or "bottom"}
    tabs, nut, key = begun["tab-and-slot"], begun["captive-nut"], begun["splice"]
    sizes = [tabs.width, tabs.inset, nut.inset, key.size, key.depth, begun["finger"].finger]
    shares = [along / 5, along / 8, along / 4, along / 3, along / 4, 15]
    assert [float(size.text) for size in sizes] == pytest.approx(shares, abs=0.05)
    # In the middle of the face, across it, where no other joint of the edge has a line there.
    for kind in ("tab-and-slot", "captive-nut", "housing"):
        assert begun[kind].b == ends[1].line(along)
        again = FAMILIES[kind].begun("next", *ends, [tabs.model_copy(update={"b": ends[1].line(17)})])
        assert again.b == ends[1].line(17)
        elsewhere = FAMILIES[kind].begun(
            "next", *ends, [tabs.model_copy(update={"a": EdgeOf(part="a", side=OTHER[side])})]
        )
        assert elsewhere.b == ends[1].line(along)


OTHER = {"left": "right", "right": "top", "top": "left", "bottom": "left", None: "top"}


@pytest.mark.parametrize(
    ("where", "broken"),
    [
        ({"x": "1 +"}, True),
        ({"y": "wide"}, True),
        ({"turn": "x"}, True),
        # Of one line it is never read.
        ({"step": "1 +"}, False),
        ({"step": "1 +", "lines": 2}, True),
        ({}, False),
    ],
)
def test_a_line_that_cannot_be_read_is_told_once_and_nothing_is_cut_for_it(where, broken):
    parts = [part("a", 60, 100), part("b", 120, 120)]
    result = evaluate(project(parts, [tab("a", "left", "b", 20, 10, line={"turn": "90", **where})]))
    assert len(result.errors) == broken and bool(result.ledger) != broken


@pytest.mark.parametrize(("makes", "told"), [("", True), ("one", False), ("two", True)])
def test_edges_that_differ_in_length_are_told_unless_one_starter_made_both(makes, told):
    """By hand: 80 beside 60 mm."""

    def joined(other, long):
        parts = [part("a", 90, 60, starter=other), part("b", 80, long, starter="one" if other else "")]
        result = evaluate(project(parts, [finger("a", "right", "b", "left", "12")]))
        return [finding.text for finding in result.findings if finding.code == "unequal-edges"]

    found = joined(makes, 80)
    assert len(found) == told and all("A is 60 mm long at this joint and B 80 mm" in text for text in found)
    assert joined(makes, 60) == [] == joined(makes, 60.0000005)
    assert len(joined(makes, 60.00001)) == told


def test_nuts_are_cut_for_every_screw_of_every_line():
    b = {"part": "back", "x": "10", "y": "10", "turn": "0", "lines": 2, "at_x": ["70"]}
    made = CaptiveNut.model_validate({"id": "nut", "a": {"part": "shelf", "side": "left"}, "b": b, "screws": 4})
    assert made.openings == 12


@pytest.mark.parametrize(("typed", "cut"), [(3, 3), (4, 5), (6, 7), (7, 7)])
def test_fingers_are_of_an_odd_number(typed, cut):
    """One that is even would end with another part than it began with; the next one up is cut, and told."""
    parts = [part("floor", 140, 60), part("wall", 140, 40)]
    result = evaluate(project(parts, [finger("floor", "top", "wall", "bottom", count=typed)]))
    told = [finding for finding in result.findings if finding.code == "even-fingers"]
    assert len(told) == (typed % 2 == 0) and all(f"; {cut} are cut" in finding.text for finding in told)
    # Every finger but the first begins with two flanks, wherever it is cut.
    flanks = [s for one in result.parts.values() for s in one.outline.outer if "flank" in s.source.side]
    assert len(flanks) == 2 * (cut - 1)


def test_the_keys_of_a_splice_lie_as_far_from_both_ends():
    ends = {"a": {"part": "left", "side": "right"}, "b": {"part": "right", "side": "left"}}
    splice = {"kind": "splice", "id": "splice", **ends, "keys": 2, "size": "16", "depth": "12"}
    result = evaluate(project([part("left", 120, 60), part("right", 120, 60)], [splice]))
    assert result.errors == []
    cut = [
        p for s in result.parts["left"].outline.outer for p in (s.start, s.at(0.5), s.end) if s.source.shape == "splice"
    ]
    heights = [p.imag for p in cut]
    middle = 60 / 2
    assert sorted(round(h - middle, 6) for h in heights) == pytest.approx(sorted(middle - h for h in heights), abs=1e-5)
