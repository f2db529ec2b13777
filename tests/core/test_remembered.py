"""What is remembered: by the very thing or by values, and never more of the memory than is said."""

import numpy as np
import pytest
from leannotch_core.remembered import MOST_BYTES, Remembered, _bytes_in_use, forget_all, remembered

MB = 1024 * 1024


@pytest.fixture(autouse=True)
def alone():
    forget_all()
    yield
    forget_all()


def arrays(n):
    return np.full(MB // 8, float(n))


def objects(n):
    return [str(n + k) for k in range(12000)]


@pytest.mark.parametrize("outcome", [arrays, objects])
def test_however_much_is_worked_out_the_memory_stays_level(outcome):
    work, often = remembered(most=10**6)(outcome), 0

    @remembered(most=8)
    def used_all_the_time():
        nonlocal often
        often += 1
        return often

    begun, most = _bytes_in_use(), 0
    for n in range(900):
        work(n)
        used_all_the_time()
        most = max(most, _bytes_in_use() - begun)
    # Two ages of what may be new, and what came between two looks.
    assert MOST_BYTES < most < 2 * MOST_BYTES + 80 * MB
    assert often == 1


def test_a_thing_is_known_by_itself_and_by_what_else_it_was_given():
    done, kept = [], Remembered()

    def work():
        done.append(1)
        return len(done)

    one, other = [1], [1]
    array = np.arange(3)
    assert kept.of(one, (2, array), work) == 1 == kept.of(one, (2, array), work)
    assert kept.of(other, (2, array), work) == 2 and kept.of(one, (3, array), work) == 3
    # Arrays are not looked into: another one is another thing.
    assert kept.of(one, (3, array.copy()), work) == 4


def test_nothing_is_an_outcome_too_and_names_of_what_is_given_count():
    done = []

    @remembered(most=4)
    def nothing(length, width=0):
        done.append((length, width))

    nothing(1), nothing(1), nothing(1, width=2), nothing(1, width=2)
    assert done == [(1, 0), (1, 2)]
    # Of one kind alone about as many as it says are kept: twice as many at the most.
    for length in range(20):
        nothing(length)
    again = len(done)
    nothing(0)
    assert len(done) == again + 1
    nothing.forget()
    nothing(19)
    assert len(done) == again + 2
