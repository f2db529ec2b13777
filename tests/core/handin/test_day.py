"""The day at the machines, by hand: its order, its clocks, and what comes too late or lacks its sheet."""

from datetime import UTC, date, datetime

import pytest
from leannotch_core.document.machine import Machine
from leannotch_core.document.sizes import Size
from leannotch_core.handin.day import ForTheDay, can_take, days

NOW = datetime(2027, 1, 9, 23, 50, tzinfo=UTC)


def sheet(number, machine="Laser", seconds=300.0, **more):
    return ForTheDay((number,), (f"maker {number}",), machine, "Ply", seconds, **more)


def order(day):
    return [turn.numbers[0] for turn in day.turns]


def test_first_goes_what_is_in_the_machine_then_by_the_day_then_by_number():
    sheets = [
        sheet(1),
        sheet(2, due=date(2027, 2, 2)),
        sheet(3, due=date(2027, 2, 1)),
        sheet(4, due=date(2027, 2, 1)),
        sheet(5, released=True),
        sheet(6, "Router"),
    ]
    laser, router = days(reversed(sheets), NOW, ())
    assert (laser.machine, order(laser)) == ("Laser", [5, 3, 4, 2, 1])
    assert (router.machine, order(router), router.seconds) == ("Router", [6], 300)


def test_each_is_done_when_all_before_it_are_and_late_after_its_day():
    on_time, late, never = sheet(1, due=date(2027, 1, 9)), sheet(2, due=date(2027, 1, 9)), sheet(3)
    [laser] = days([on_time, late, never], NOW, ())
    assert [turn.ends.strftime("%d %H:%M") for turn in laser.turns] == ["09 23:55", "10 00:00", "10 00:05"]
    assert [turn.late for turn in laser.turns] == [False, True, False] and laser.seconds == 900


@pytest.mark.parametrize(
    ("shelf", "goes", "lacking"),
    [
        ((), [3, 1, 2], [1, 2]),
        ((("Ply", "a"),), [1, 3, 2], [2]),
        # Of another stock it is no such piece.
        ((("Card", "a"),), [3, 1, 2], [1, 2]),
    ],
)
def test_an_offcut_is_cut_once_and_what_lacks_it_keeps_nobody_waiting(shelf, goes, lacking):
    one, two = sheet(1, offcut="a", due=date(2027, 2, 1)), sheet(2, offcut="a", due=date(2027, 2, 2))
    [laser] = days([one, two, sheet(3)], NOW, shelf)
    assert order(laser) == goes and [turn.numbers[0] for turn in laser.turns if turn.lacks] == lacking


def test_what_is_in_the_machine_has_its_piece_and_takes_it_from_others():
    [laser] = days([sheet(1, offcut="a", released=True), sheet(2, offcut="a")], NOW, [("Ply", "a")])
    assert [turn.lacks for turn in laser.turns] == [False, True]


@pytest.mark.parametrize(
    ("kind", "width", "height", "can"),
    [
        ("beam", 600, 400, True),
        ("beam", 600.1, 400, False),
        ("beam", 600, 400.1, False),
        ("beam", 400, 600, False),
        ("router", 100, 100, False),
    ],
)
def test_a_machine_can_take_what_its_bed_holds_and_its_kind_cuts(kind, width, height, can):
    machine = Machine(id="m", name="M")
    assert can_take(machine, kind, width, height) is can
    assert not can_take(machine.model_copy(update={"bed_width": Size(text="a foot")}), kind, width, height)


def test_hands_between_sheets_take_their_time_but_not_of_what_lies_there_already():
    lies = sheet(1, released=True, by_hand=120.0)
    [laser] = days([lies, sheet(2, by_hand=120.0), sheet(3)], NOW, ())
    ends = [(turn.ends - NOW).total_seconds() for turn in laser.turns]
    each = sheet(1).seconds
    assert ends == [each, 2 * each + 120, 3 * each + 120]
    assert (laser.seconds, laser.by_hand) == (3 * each + 120, 120)
