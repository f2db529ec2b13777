"""Work on files from elsewhere is shared out among those who ask for it."""

import threading

import pytest
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.drawings.turns import MOST_WAITING, Turns, asked_by


class Desk:
    """Makers who ask in an order, and work that goes on until it is said to be done."""

    def __init__(self, at_once):
        self.turns, self.begun, self.going = Turns(at_once), [], {}
        self.news = threading.Condition()

    def ask(self, whose, what):
        threading.Thread(target=self._work, args=(whose, what), daemon=True).start()
        with self.turns._free:
            assert self.turns._free.wait_for(lambda: what in self.begun or self._waits(whose, what), 10)

    def _waits(self, whose, what):
        return sum(ticket.whose == whose for ticket in self.turns._waiting) >= int(what[1:]) - 1 or what in self.begun

    def _work(self, whose, what):
        asked_by.set(whose)
        over = threading.Event()
        with self.turns.one():
            with self.news:
                self.begun.append(what)
                self.going[what] = over
                self.news.notify_all()
            over.wait(10)

    def done(self, what, then):
        """Ends a work; what is begun after it."""
        self.going.pop(what).set()
        with self.news:
            assert self.news.wait_for(lambda: then in self.begun, 10), (then, self.begun)


def test_who_asks_for_much_keeps_nobody_waiting_for_all_of_it():
    desk = Desk(at_once=1)
    for maker, what in (("ada", "a1"), ("ada", "a2"), ("ada", "a3"), ("bo", "b1"), ("bo", "b2"), ("cy", "c1")):
        desk.ask(maker, what)
    for what, then in (("a1", "b1"), ("b1", "c1"), ("c1", "a2"), ("a2", "b2"), ("b2", "a3")):
        desk.done(what, then)
    assert desk.begun == ["a1", "b1", "c1", "a2", "b2", "a3"]


def test_one_maker_has_one_turn_at_a_time_and_the_own_machine_all_that_are_free():
    desk = Desk(at_once=2)
    desk.ask("ada", "a1")
    desk.ask("ada", "a2")
    assert desk.begun == ["a1"]
    desk.ask("", "h1")
    assert set(desk.begun) == {"a1", "h1"}
    desk.ask("", "h2")
    desk.done("h1", "h2")
    desk.done("a1", "a2")


@pytest.mark.parametrize(("whose", "refused"), [("ada", True), ("", False)])
def test_too_many_waiting_are_refused_by_their_number(whose, refused):
    desk = Desk(at_once=1)
    for number in range(1, MOST_WAITING + 2):
        desk.ask(whose, f"x{number}")
    asked_by.set(whose)
    if refused:
        with pytest.raises(BrokenFile, match="4 of your files are being worked on; send this one again"):
            desk.turns.one().__enter__()
    else:
        desk.ask(whose, f"x{MOST_WAITING + 2}")
    asked_by.set("")
