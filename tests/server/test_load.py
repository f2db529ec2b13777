"""Makers at once, for a moment; `python -m tests.load 8 300` for as long as you like."""

import sqlite3
import time
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing

import pytest

from .. import load


@pytest.mark.parametrize(("wait", "status"), [(0.5, 0), (1.5, 1)])
def test_the_command_tells_how_long_makers_wait(monkeypatch, capsys, tmp_path, wait, status):
    class Stub(load.Maker):
        """A maker whose waits are known."""

        def __init__(self):
            self.waits, self.failed, self.length = {"edit": [0.1] * 9 + [wait]}, load.Counter(), ""
            self.slug = "tray"

        def lost(self):
            return False

    class Server:
        def __init__(self, data):
            self.data = data

        def stop(self):
            assert self.data

    monkeypatch.setattr(load, "Served", Server)
    monkeypatch.setattr(
        load,
        "worked",
        lambda served, number, seconds: load.Work([Stub()] * number, [300.0, 310.0, 305.0], [0.01] * 19 + [0.07]),
    )
    assert load.main(["2", "1"]) == status
    said = capsys.readouterr().out
    assert f"| edit | 20 | 0.100 | {wait:.3f} | {wait:.3f} |" in said and "300 MB in the first third, 305 MB" in said
    assert "waits 70 ms (95 of 100) and 70 ms at the most" in said


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
