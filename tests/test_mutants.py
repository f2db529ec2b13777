"""Faults that are put into code are such that a test can notice, and those that none notices are told."""

import ast

import pytest

from .mutants import __main__ as mutants
from .mutants.faults import Fault, faults
from .projects import ROOT

SOURCE = '''"""A rule."""
LIMIT = 1.5
def least(width: float = 3, *, count: int = 1e-6) -> bool:
    if width < LIMIT and not count:
        raise ValueError(f"{width + 1} is less than {LIMIT * 2}")
    close = width <= LIMIT + 1e-9
    return min(a - b for a, b in zip([], [], strict=True)) if width >= 0 else "never" + "more"
'''


def test_every_kind_of_fault_is_put_where_a_rule_stands():
    found = [(fault.line, fault.was, fault.instead) for fault in faults(SOURCE)]
    assert (2, "1.5", "1.8") in found and (3, "3", "4") in found
    assert (4, "width < LIMIT", "width <= LIMIT") in found and (4, "width < LIMIT", "width > LIMIT") in found
    assert (4, "width < LIMIT and (not count)", "width < LIMIT or not count") in found
    assert (4, "not count", "count") in found and (7, "a - b", "a + b") in found
    assert any(line == 7 and instead.startswith("max(") for line, _, instead in found)
    assert any(line == 7 and "if not width >= 0" in instead for line, _, instead in found)
    # Whether a bound takes in its end is no question where it has rounding in it; which way it is one does matter.
    assert [instead for line, was, instead in found if line == 6 and "<=" in was] == ["width > LIMIT + 1e-09"]
    # Rounding, sentences, refusals and lengths of lists are no rules.
    assert not [fault for fault in found if fault[0] == 5 or "strict" in fault[1] == "True" or fault[1] == "1e-06"]


@pytest.mark.parametrize("path", ["geometry/offset.py", "joints/fit.py", "layout/sheets.py"])
def test_a_fault_is_one_change_of_a_source_that_is_still_one(path):
    source = (ROOT / "core" / "leannotch_core" / path).read_text()
    for fault in faults(source):
        spoilt = fault.put_into(source)
        assert ast.dump(ast.parse(spoilt)) != ast.dump(ast.parse(source)), fault


def test_a_fault_that_lives_is_told_with_its_place(monkeypatch, capsys):
    known = mutants.Beside({("joints/fit.py", 7): {"quick", "slow"}}, {"quick": 0.1, "slow": 9.0, "other": 1.0})
    met = mutants.Place("joints/fit.py", Fault(7, 0, 7, 1, "a", "b"))
    unseen = mutants.Place("joints/fit.py", Fault(8, 0, 8, 1, "c", "d"))
    nowhere = mutants.Place("joints/none.py", Fault(1, 0, 1, 1, "e", "f"))
    assert known.of(met) == ["quick", "slow"]
    # What no test is seen to run may be run when it is loaded: any test may notice.
    assert known.of(unseen) == known.of(nowhere) == ["quick", "other", "slow"]
    monkeypatch.setattr(mutants, "House", lambda folder: None)
    monkeypatch.setattr(mutants, "beside", lambda house, room: known)
    monkeypatch.setattr(mutants, "places", lambda house, room: [met, unseen, nowhere])
    monkeypatch.setattr(mutants, "lives", lambda house, known, place: place is nowhere)
    assert mutants.main(["joints", "--number", "3"]) == 1
    said = capsys.readouterr().out
    assert "| joints | 3 | 1 |" in said and "joints/none.py:1  e  ->  f" in said


def test_a_fault_is_met_by_real_tests_and_taken_out_again(tmp_path):
    """One that a test notices and one that none does, in a copy of the house."""
    house = mutants.House(tmp_path)
    path = house.core / "drawings" / "turns.py"
    sound = path.read_text()
    tests = {"tests/core/drawings/test_turns.py"}
    line = next(at for at, text in enumerate(sound.splitlines(), 1) if ">= MOST_WAITING" in text)
    fault = next(one for one in faults(sound) if one.line == line and one.instead.endswith("< MOST_WAITING"))
    place = mutants.Place("drawings/turns.py", fault)
    known = mutants.Beside({(place.path, line): tests}, dict.fromkeys(tests, 1.0))
    assert not mutants.lives(house, known, place) and path.read_text() == sound
