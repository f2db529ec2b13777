"""A stock that was measured anew: what is another by it, from both sides of what a caliper tells."""

import pytest
from leannotch_core.document.sizes import Size
from leannotch_core.document.stock import Stock, TypedKerf
from leannotch_core.facts.anew import measured_alike, what_changes, with_what_was_measured


def birch(*readings, kerf="0.2", glue="0.1"):
    begun = Stock.begun("birch", "Birch")
    clearances = begun.clearances.model_copy(update={"glue": Size(text=glue)})
    sizes = [Size(text=one) for one in readings]
    return begun.model_copy(
        update={"readings": sizes, "kerf": TypedKerf(width=Size(text=kerf)), "clearances": clearances}
    )


@pytest.mark.parametrize(
    ("after", "says"),
    [
        (birch("3"), []),
        (birch("3.0004"), []),
        (birch("3.0006"), ["thickness 3 mm becomes 3.001 mm"]),
        (birch("3", "3.2"), ["thickness 3 mm becomes 3.1 mm"]),
        (birch("3", kerf="0.18"), ["kerf 0.2 mm becomes 0.18 mm"]),
        (birch("3", glue="0.05"), ["glue clearance 0.1 mm becomes 0.05 mm"]),
        (birch("3.1", kerf="0.3"), ["thickness 3 mm becomes 3.1 mm", "kerf 0.2 mm becomes 0.3 mm"]),
        (birch("none"), []),
    ],
)
def test_what_becomes_another_is_told_in_numbers(after, says):
    assert what_changes(birch("3"), after) == says


def test_on_a_machine_what_is_known_there_counts_alone():
    before, kerf = (
        birch("3").with_known("laser", kerf=TypedKerf(width=Size(text="0.1"))),
        TypedKerf(width=Size(text="0.12")),
    )
    after = before.with_known("laser", kerf=kerf)
    assert measured_alike(before, after) and not measured_alike(before, after, "laser")
    assert what_changes(before, after) == [] and what_changes(before, after, "laser") == ["kerf 0.1 mm becomes 0.12 mm"]
    taken = with_what_was_measured(birch("2.9"), after, "laser")
    assert measured_alike(taken, after, "laser") and taken.kerf == birch("3").kerf
