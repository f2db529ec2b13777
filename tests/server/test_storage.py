"""The data folder: what is wrong with it is said, each day has a backup, and a backup is brought back."""

import contextlib
import logging
import sqlite3
from contextlib import closing
from datetime import date, timedelta
from pathlib import Path

import pytest
from django.core.management import CommandError, call_command
from leannotch.logs import LogFile
from workshop import backups, storage

from ..serving import manage
from ..shell import of

backup, restore = of("backup"), of("restore")


@pytest.fixture
def data(tmp_path, settings):
    settings.DATA = tmp_path / "data"
    return settings.DATA


def a_database(path, says):
    path.parent.mkdir(exist_ok=True)
    path.unlink(missing_ok=True)
    with closing(sqlite3.connect(path)) as file, file:
        file.execute("CREATE TABLE said (text)")
        file.executemany("INSERT INTO said VALUES (?)", [(says,)] * 500)


def read(path):
    with closing(sqlite3.connect(path)) as file:
        return file.execute("SELECT text FROM said").fetchone()[0]


def test_what_is_the_makers_is_read_by_nobody_else(data):
    data.mkdir()
    a_database(data / "notch.sqlite3", "mine")
    (data / "notch.sqlite3").chmod(0o644)
    storage.make_ready()
    copy = backups.back_up()
    modes = {path.stat().st_mode & 0o777 for path in (data / "notch.sqlite3", copy)}
    assert modes == {0o600} and data.stat().st_mode & 0o777 == copy.parent.stat().st_mode & 0o777 == 0o700


def spoiled(path):
    """The middle of a database is overwritten, as a failing disk would."""
    middle = path.stat().st_size // 2
    with path.open("r+b") as file:
        file.seek(middle)
        file.write(b"\xff" * 4096)


@pytest.mark.parametrize(
    ("harm", "says"),
    [
        (lambda path: path.write_bytes(b"no database " * 500), "is damaged: file is not a database"),
        (spoiled, "is damaged: "),
        (lambda path: path.write_bytes(b""), "is gone or empty, and there are backups"),
        (lambda path: path.unlink(), "is gone or empty, and there are backups"),
    ],
)
def test_a_harmed_database_is_not_served_and_its_backup_is_brought_back(data, capsys, harm, says):
    a_database(storage.database(), "good")
    backups.back_up()
    harm(storage.database())
    with pytest.raises(CommandError, match=says) as refusal:
        call_command("prepare")
    day = storage.day_of(storage.backups()[0])
    assert f"./notch restore brings back the backup of {day}" in str(refusal.value)
    assert restore([]) == 0
    storage.make_ready()
    assert read(storage.database()) == "good" and f"The backup of {day} is back." in capsys.readouterr().out


def test_what_was_there_before_a_backup_came_back_is_kept(data, capsys):
    a_database(storage.database(), "yesterday")
    backup = backups.back_up()
    backup.rename(backup.with_name("notch-2026-11-01.sqlite3"))
    a_database(storage.database(), "today")
    aside = backups.restore(storage.backups()[0])
    assert (read(storage.database()), read(aside / "notch.sqlite3")) == ("yesterday", "today")
    assert restore(["2026-11-02"]) == 2
    assert "no backup of 2026-11-02; there are those of 2026-11-01" in capsys.readouterr().err


def test_a_day_has_one_backup_and_those_of_days_weeks_and_months_are_kept(data):
    a_database(storage.database(), "now")
    assert backups.back_up() and backups.back_up() is None
    today = date(2026, 11, 29)
    known = [Path(f"notch-{today - timedelta(days=back)}.sqlite3") for back in range(400)]
    steps = [Path(f"notch-2026-11-2{at}-120000-before-an-update.sqlite3") for at in range(9, 4, -1)]
    kept = [path for path in known + steps if path not in backups.superfluous([*steps, *known])]
    days = [storage.day_of(path) for path in kept if path in known]
    # The last seven days, the newest of four weeks (Sundays), and that of six months.
    assert days == [
        *(f"2026-11-{day}" for day in range(29, 22, -1)),
        "2026-11-22", "2026-11-15", "2026-11-08", "2026-10-31", "2026-09-30", "2026-08-31", "2026-07-31", "2026-06-30",
    ]  # fmt: skip
    assert [path for path in kept if path in steps] == steps[:3]


@pytest.mark.parametrize("step", range(9))
def test_a_restore_that_is_killed_has_not_happened_or_is_finished_at_the_next_start(data, monkeypatch, step):
    """Killed before each thing that it does to the disk: the old database is whole, or the backup is."""
    a_database(storage.database(), "yesterday")
    backup = backups.back_up()
    with closing(sqlite3.connect(storage.database())) as file:
        # What is not in the database itself yet, but beside it.
        file.execute("PRAGMA journal_mode=WAL")
        with file:
            file.execute("UPDATE said SET text = 'today'")
        left = step

        def kill_at(real):
            def counted(*given, **more):
                nonlocal left
                left -= 1
                if left < 0:
                    raise KeyboardInterrupt
                return real(*given, **more)

            return counted

        for name in ("unlink", "replace", "touch"):
            monkeypatch.setattr(Path, name, kill_at(getattr(Path, name)))
        with contextlib.suppress(KeyboardInterrupt):
            backups.restore(backup)
        monkeypatch.undo()
        beside = {path: path.read_bytes() for path in data.glob("notch.sqlite3-*")}
    # As a power cut would leave it: SQLite did not get to tidy up.
    for path, held in beside.items():
        path.write_bytes(held)
    decided = storage.database().with_suffix(".restored").exists()
    told = backups.finish()
    assert bool(told) == decided
    storage.make_ready()
    wanted = "yesterday" if decided or left >= 0 else "today"
    assert read(storage.database()) == wanted
    assert all(read(aside / "notch.sqlite3") == "today" for aside in data.glob("before-restore-*/"))


@pytest.mark.parametrize(
    "harm", [lambda path: path.write_bytes(b""), spoiled, lambda path: path.write_bytes(b"x" * 9000)]
)
def test_an_empty_or_unsound_backup_is_never_taken(data, harm, capsys):
    a_database(storage.database(), "now")
    backup = backups.back_up()
    harm(backup)
    assert restore([]) == 2 and "is damaged itself" in capsys.readouterr().err
    assert read(storage.database()) == "now" and not list(data.glob("*.part"))
    # Nor is one made of what is damaged.
    backup.unlink()
    harm(storage.database())
    if storage.database().stat().st_size:
        with pytest.raises(storage.StorageTrouble):
            backups.back_up()
    assert not list((data / "backups").iterdir())


def test_a_copy_is_carried_away_and_brought_back(data, tmp_path, capsys):
    a_database(storage.database(), "carried")
    assert backup([tmp_path / "away.sqlite3"]) == 0
    assert backup([tmp_path / "away.sqlite3"]) == 2
    a_database(storage.database(), "lost")
    assert restore([tmp_path / "away.sqlite3"]) == 0
    assert read(storage.database()) == "carried"
    said, refused = capsys.readouterr()
    assert "is there already" in refused
    assert f"is copied to {tmp_path / 'away.sqlite3'}, 0.0 MB." in said and "away.sqlite3 is back." in said


def test_a_log_is_read_by_nobody_else(tmp_path):
    log = logging.FileHandler(tmp_path / "other.log")
    log.close()
    own = LogFile(tmp_path / "log" / "own.log")
    own.emit(logging.LogRecord("x", logging.ERROR, "x", 1, "said", None, None))
    own.doRollover()
    own.close()
    assert {path.stat().st_mode & 0o777 for path in (tmp_path / "log").iterdir()} == {0o600}


def test_a_folder_that_cannot_be_used_gets_a_sentence(tmp_path):
    (tmp_path / "file").write_text("a file and no folder")
    (tmp_path / "other").mkdir()
    (tmp_path / "other" / "notch.sqlite3").mkdir()
    for folder, says in (("file", "cannot be used: File exists"), ("other", "is damaged: unable to open")):
        refused = manage(tmp_path / folder, "prepare")
        assert refused.returncode and says in refused.stderr and "Traceback" not in refused.stderr
