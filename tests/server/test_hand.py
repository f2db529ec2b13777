"""What is only told beside an edit waits for edits; nothing else does, and nobody waits for ever."""

import threading
import time

from workshop import hand


def looked(seen):
    with hand.looking():
        hand.let_edits_first()
        seen.append("looked")


def test_a_look_waits_for_the_edit_that_is_being_worked_out():
    seen = []
    look = threading.Thread(target=looked, args=[seen])
    with hand.editing():
        look.start()
        # What an edit itself looks at does not wait for it.
        hand.let_edits_first()
        seen.append("edited")
    look.join(timeout=10)
    assert seen == ["edited", "looked"]


def test_whoever_looks_gets_on_although_others_edit_without_end():
    seen, done = [], threading.Event()

    def edit():
        with hand.editing():
            done.wait(10)

    edits = threading.Thread(target=edit)
    edits.start()
    began = time.monotonic()
    looked(seen)
    assert time.monotonic() - began >= hand.PATIENCE * 0.9
    assert edits.is_alive()
    # In all of its steps together it waits so long, and no longer.
    began = time.monotonic()
    with hand.looking():
        for _ in range(6):
            hand.let_edits_first()
    assert hand.PATIENCE * 0.9 <= time.monotonic() - began < 3 * hand.PATIENCE
    done.set()
    edits.join()


def test_one_looks_after_the_other():
    first, seen = threading.Event(), []

    def look():
        with hand.looking():
            seen.append("begun")
            first.wait(10)
            seen.append("ended")

    both = [threading.Thread(target=look) for _ in range(2)]
    for thread in both:
        thread.start()
    first.set()
    for thread in both:
        thread.join()
    assert seen == ["begun", "ended"] * 2
