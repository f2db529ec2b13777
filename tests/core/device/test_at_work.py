"""The machine at work, step by step: what each makes of it, when a run is over, and what waits for a cutter."""

from dataclasses import replace
from datetime import datetime, timedelta

import pytest
from leannotch_core.device.at_work import (
    AtWork,
    Course,
    MachineRefuses,
    Stop,
    at_times,
    come_to,
    gone_on,
    homed,
    paused,
    settled,
    started,
    stopped,
    waits_at,
    with_cutter,
    with_datum,
    with_file,
    with_sheet,
)
from leannotch_core.facts.bed import bed_of
from leannotch_core.facts.profiles.shipped import shipped

NOON = datetime(2026, 5, 4, 12)
BED = bed_of(shipped()["laser"])
ALL = ("off", "ready", "running", "paused", "done", "alarm", "stopped")
#: Twenty seconds, with nothing on the way.
PLAIN = Course(20.0)
#: A second cutter is wanted after eight seconds, at line 40.
TWO = Course(20.0, (Stop(0.0, 1, 1), Stop(8.0, 40, 2)))


def after(seconds):
    return NOON + timedelta(seconds=seconds)


def running(times=10.0, **more):
    return AtWork(state="running", since=NOON, times=times, **more)


#: What each step makes of each state; "" where it is refused.
STEPS = {
    "home": (homed, {"ready": "ready"} | dict.fromkeys(("off", "done", "alarm", "stopped"), "ready")),
    "lay": (with_sheet(300, 200, 0j), {state: state for state in ("off", "ready", "done", "alarm", "stopped")}),
    "datum": (with_datum(BED, 10 + 10j), dict.fromkeys(("ready", "done", "alarm", "stopped"), "ready")),
    "file": (
        with_file("a.nc", 7),
        {"off": "off"} | dict.fromkeys(("ready", "paused", "done", "alarm", "stopped"), "ready"),
    ),
    "start": (started("program"), dict.fromkeys(("ready", "paused", "done", "alarm", "stopped"), "running")),
    "pause": (paused, {state: state for state in ALL} | {"running": "paused"}),
    "go on": (gone_on, {"paused": "running"}),
    "stop": (stopped, {state: state for state in ALL} | {"running": "stopped", "paused": "stopped"}),
    "times": (at_times(50), {state: state for state in ALL}),
    "cutter": (with_cutter, {}),
}


@pytest.mark.parametrize("state", ALL)
@pytest.mark.parametrize("name", STEPS)
def test_every_step_from_every_state(name, state):
    step, leads = STEPS[name]
    before = AtWork(state=state, gone=5.0, since=NOON if state == "running" else None)
    if state not in leads:
        with pytest.raises(MachineRefuses) as refused:
            step(before, PLAIN, after(0.1))
        assert str(refused.value).endswith(".")
        return
    now = step(before, PLAIN, after(0.1))
    assert now.state == leads[state]
    # A time goes on from just where the machine runs.
    assert (now.since is not None) == (now.state == "running")


def test_how_far_a_run_has_come_and_when_it_is_over():
    at_work = running(times=10)
    assert come_to(at_work, PLAIN, after(1.5)) == pytest.approx(15)
    assert come_to(at_work, PLAIN, after(60)) == 20
    assert settled(at_work, PLAIN, after(1.99)) is at_work
    over = settled(at_work, PLAIN, after(3600))
    # It was over when it was over, not when somebody looked.
    assert (over.state, over.gone, over.since, over.log) == ("done", 20, None, ("12:00:02 Done.",))
    assert settled(over, PLAIN, after(7200)) is over
    assert settled(running(), None, after(60)).state == "running"
    assert come_to(AtWork(state="stopped", gone=3.0), PLAIN, after(60)) == 3


def test_a_walk_that_is_over_leaves_the_program_at_its_beginning():
    over = settled(running(doing="box"), PLAIN, after(2))
    assert (over.state, over.doing, over.gone, over.log[-1]) == ("ready", "program", 0, "12:00:02 Walked round.")


def test_an_alarm_ends_a_run_and_names_its_line():
    over = settled(running(), Course(20.0, alarm=(31, "X leaves the bed")), after(2))
    assert (over.state, over.log[-1]) == ("alarm", "12:00:02 ALARM at line 31: X leaves the bed.")


def test_a_pause_keeps_what_was_done_and_going_on_adds_to_it():
    held = paused(running(times=4), PLAIN, after(2))
    assert (held.gone, held.log[-1]) == (8, "12:00:02 Paused after 8.0 s.")
    on = gone_on(held, PLAIN, after(100))
    assert (come_to(on, PLAIN, after(100)), come_to(on, PLAIN, after(101))) == (8, 12)
    assert stopped(on, PLAIN, after(102)).gone == 16
    # Another speed holds from now on, and not for what was done before.
    fast = at_times(20)(on, PLAIN, after(101))
    assert come_to(fast, PLAIN, after(101.25)) == pytest.approx(17)


def test_a_program_waits_for_its_second_cutter():
    at_work = running(times=1)
    assert waits_at(at_work, TWO) == Stop(8.0, 40, 2) and waits_at(at_work, PLAIN) is None
    assert settled(at_work, TWO, after(7.9)) is at_work
    waiting = settled(at_work, TWO, after(9))
    assert (waiting.state, waiting.gone, waiting.log) == ("paused", 8, ("12:00:08 Line 40: waits for cutter T2.",))
    # Whoever goes on without it breaks something.
    wrong = gone_on(waiting, TWO, after(20))
    assert wrong.state == "alarm" and wrong.log[-1].endswith("line 40: cutter T2 was not put in, T1 is.")
    for one in (waiting, wrong):
        put_in = with_cutter(one, TWO, after(30))
        assert (put_in.cutter, put_in.state) == (2, "paused")
        assert settled(gone_on(put_in, TWO, after(40)), TWO, after(52)).state == "done"
    # Paused elsewhere it waits for none, and goes on up to there.
    early = paused(running(times=1), TWO, after(3))
    with pytest.raises(MachineRefuses, match="waits for no cutter"):
        with_cutter(early, TWO, after(4))
    assert settled(gone_on(early, TWO, after(10)), TWO, after(20)).gone == 8


def test_a_datum_lies_on_the_bed_and_homing_forgets_it():
    at_work = AtWork(state="stopped", gone=4.0)
    edge = BED.axes(complex(BED.width, BED.height))
    put = with_datum(BED, edge)(at_work, PLAIN, NOON)
    assert (put.origin, put.gone) == (edge, 0)
    beyond = BED.axes(complex(BED.width + 0.01, BED.height))
    with pytest.raises(MachineRefuses, match=f"off the bed of {BED.width:g} x {BED.height:g} mm"):
        with_datum(BED, beyond)(at_work, PLAIN, NOON)
    assert homed(put, PLAIN, NOON).origin == 0


def test_what_is_done_first_is_said():
    off = AtWork()
    for step, says in (
        (started("program"), "does not know where it is; home it first"),
        (with_datum(BED, 0j), "does not know where it is; home it first"),
        (gone_on, "is not paused; start it"),
    ):
        with pytest.raises(MachineRefuses, match=says):
            step(off, PLAIN, NOON)
    with pytest.raises(MachineRefuses, match="no file in the machine; send one first"):
        started("box")(homed(off, None, NOON), None, NOON)
    begun = started("hull")(replace(homed(off, None, NOON), cutter=3, gone=5.0), PLAIN, NOON)
    assert (begun.doing, begun.cutter, begun.gone, begun.log[-1]) == ("hull", 1, 0, "12:00:00 Walks round the hull.")
    assert with_file("a.nc", 7)(off, None, NOON).log == ("12:00:00 Took a.nc: 7 steps.",)
