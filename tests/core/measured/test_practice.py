"""A machine that lies, for practice: cut, measured and taken twice, its kerf is found."""

import pytest
from leannotch_core.edits.command import apply
from leannotch_core.edits.machine import PutMachine, UseMachine
from leannotch_core.edits.measured import MeasureParts, Reading, TakeKerf
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.facts.stock import facts
from leannotch_core.measured.explained import explained, telling
from leannotch_core.measured.lengths import lengths_of
from leannotch_core.measured.picked_up import bent_back, picked_up
from leannotch_core.measured.sheets import earlier

from ...projects import demo

LIAR = shipped()["practice_laser"]


def cut_and_measured(document, number):
    """The birch parts cut on the machine that lies, and the lengths that tell most read."""
    result = evaluate(document)
    parts = [result.parts[part.id] for part in document.parts if part.stock == "birch"]
    asked = telling([length for made in parts for length in lengths_of(made)])
    day = f"measured_{number}"
    values = picked_up(LIAR.lies, asked, parts[0].stock.kerf, day)
    read = [
        Reading(part=one.part, cut_out=one.cut_out, way=one.way, reading=f"{value:.2f}")
        for one, value in zip(asked, values, strict=True)
    ]
    return apply(document, MeasureParts(do="measure parts", id=day, date=f"2026-11-0{number}", readings=read))


def test_after_two_rounds_every_gap_of_the_tray_is_within_a_fiftieth_of_what_was_asked():
    document = apply(demo(), PutMachine(do="put machine", machine=LIAR))
    document = apply(document, UseMachine(do="use machine", machine=LIAR.id))
    for number in (1, 2):
        document = apply(cut_and_measured(document, number), TakeKerf(do="take measured kerf", id=f"measured_{number}"))
    kerf = facts(document.stock("birch"), LIAR.id).kerf
    assert 2 * abs(kerf - LIAR.lies.kerf) <= 0.02
    history = document.stock("birch").known(LIAR.id).history
    assert [one.date for one in history] == ["2026-11-01", "2026-11-02"]
    last = document.measured[-1]
    told = explained(last, earlier(document, last))
    assert told.beside == ("2026-11-01",)
    for cause, true in (("scale x", LIAR.lies.scale_x), ("scale y", LIAR.lies.scale_y)):
        assert abs(told.of(cause).value - true) <= told.of(cause).sure


def test_picked_up_on_the_same_day_they_read_the_same_and_below_they_tell_the_taper():
    made = evaluate(demo()).parts["end_wall"]
    lengths = lengths_of(made)
    assert picked_up(LIAR.lies, lengths, 0.16, "first") == picked_up(LIAR.lies, lengths, 0.16, "first")
    assert picked_up(LIAR.lies, lengths, 0.16, "first") != picked_up(LIAR.lies, lengths, 0.16, "second")
    outside = lengths[0]
    above = sum(picked_up(LIAR.lies, [outside], 0.16, f"{day}")[0] for day in range(50)) / 50
    below = sum(picked_up(LIAR.lies, [outside], 0.16, f"{day}", "bottom")[0] for day in range(50)) / 50
    assert below - above == pytest.approx(-LIAR.lies.taper, abs=0.008)


def test_a_bend_reads_as_far_open_as_its_machine_springs_back_within_the_marks_of_a_protractor():
    reads = [bent_back(LIAR.lies, 90, str(time)) for time in range(200)]
    assert {read % 0.5 for read in reads} == {0}
    assert sum(reads) / len(reads) == pytest.approx(90 * (1 - LIAR.lies.spring), abs=0.08)
    assert bent_back(LIAR.lies, 90, "first") == bent_back(LIAR.lies, 90, "first")
