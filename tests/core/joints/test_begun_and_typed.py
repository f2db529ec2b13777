"""What a joint begins with where parts are picked, and what is made of what is typed."""

import pytest
from leannotch_core.evaluate import evaluate
from leannotch_core.joints.captive_nut.typed import CaptiveNut
from leannotch_core.joints.picked import Picked

from ...projects import finger, part, project


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
