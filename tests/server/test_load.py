"""Makers at once as they are told of; `python -m tests.load 30 60` for as long as you like (and test_workplaces)."""

import sqlite3
import time
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from types import SimpleNamespace

import pytest

from .. import load


@pytest.fixture
def played(monkeypatch):
    """What a run of the makers is, played: their waits, what failed when (s), and what was ended when."""

    def play(waits, failed=(), kills=(), lost=False, lost_there=False):
        maker = SimpleNamespace(waits=waits, failed=list(failed), slug="tray", lost=lambda: lost)
        work = load.Work([maker] * 2, [300.0, 310.0, 305.0], [0.01] * 19 + [0.07], list(kills), {"tray": 3}, None)
        monkeypatch.setattr(load, "brought_back", lambda served, work: ["tray"] if lost_there else [])
        monkeypatch.setattr(load, "workshop", lambda data, number: (SimpleNamespace(stop=lambda: None), []))
        monkeypatch.setattr(load, "worked", lambda served, cards, seconds, kill: work)

    return play


@pytest.mark.parametrize(("number", "wait", "status"), [("2", 0.79, 0), ("8", 0.81, 1), ("9", 0.81, 0)])
def test_the_command_tells_how_long_makers_wait(played, capsys, number, wait, status):
    played({"edit": [0.1] * 9 + [wait]})
    assert load.main([number, "10"]) == status
    said = capsys.readouterr().out
    assert f"| edit | 20 | 0.100 | {wait:.3f} | {wait:.3f} |" in said and "300 MB in the first third, 305 MB" in said
    assert "waits 70 ms (95 of 100) and 70 ms at the most" in said and "makers |" not in said


def test_the_command_tells_how_it_grows(played, capsys):
    played({"edit": [0.1] * 10})
    assert load.main(["1,30", "10"]) == 0
    assert "| 1 | 2.0 | 0.100 | 0.100 | 305 |\n| 30 | 2.0 |" in capsys.readouterr().out


@pytest.mark.parametrize(
    ("failed", "kills", "lost", "status"),
    [
        ([(10.0, "edit: 503")], [], False, 1),
        ([(11.9, "edit: 503")], [(10.0, "workplace 1")], False, 0),
        ([(12.1, "edit: 503")], [(10.0, "workplace 1")], False, 1),
        ([(9.9, "edit: 503")], [(10.0, "workplace 1")], False, 1),
        ([], [(10.0, "workplace 1")], True, 1),
    ],
)
def test_what_fails_shortly_after_a_kill_was_on_its_way_and_nothing_else_may(
    played, capsys, failed, kills, lost, status
):
    played({"edit": [0.1]}, failed, kills, lost)
    assert load.main(["30", "10", "kill"]) == status
    if kills and not status:
        assert "Ended meanwhile: workplace 1; 2 calls were cut off." in capsys.readouterr().out


def test_what_is_missing_in_the_copy_is_a_fault(played, capsys):
    played({"edit": [0.1]}, lost_there=True)
    assert load.main(["30", "10"]) == 1
    assert "Edits lost: 0; in the copy of 1: 1." in capsys.readouterr().out


def test_how_long_the_database_was_held_is_seen(tmp_path):
    with closing(sqlite3.connect(tmp_path / "held.sqlite3", isolation_level=None, check_same_thread=False)) as file:
        file.execute("CREATE TABLE said (text)")
        with ThreadPoolExecutor() as pool:
            seen = pool.submit(load.holds, tmp_path / "held.sqlite3", time.monotonic() + 1.5)
            time.sleep(0.3)
            file.execute("BEGIN IMMEDIATE")
            time.sleep(0.4)
            file.execute("COMMIT")
    assert min(seen.result()) < 0.25 < max(seen.result())
