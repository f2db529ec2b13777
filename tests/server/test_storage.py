"""The data folder: what is wrong with it is said, each day has a backup, and a backup is brought back."""

import sqlite3
from contextlib import closing

import pytest
from django.core.management import CommandError, call_command
from workshop import storage

from ..serving import manage


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
    copy = storage.back_up()
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
    storage.back_up()
    harm(storage.database())
    with pytest.raises(CommandError, match=says) as refusal:
        call_command("prepare")
    day = storage.day_of(storage.backups()[0])
    assert f"./notch restore brings back the backup of {day}" in str(refusal.value)
    call_command("restore")
    storage.make_ready()
    assert read(storage.database()) == "good" and f"The backup of {day} is back." in capsys.readouterr().out


def test_what_was_there_before_a_backup_came_back_is_kept(data):
    a_database(storage.database(), "yesterday")
    backup = storage.back_up()
    backup.rename(backup.with_name("notch-2026-11-01.sqlite3"))
    a_database(storage.database(), "today")
    aside = storage.restore(storage.backups()[0])
    assert (read(storage.database()), read(aside / "notch.sqlite3")) == ("yesterday", "today")
    with pytest.raises(CommandError, match="no backup of 2026-11-02; there are those of 2026-11-01"):
        call_command("restore", "2026-11-02")


def test_a_day_has_one_backup_and_the_last_seven_are_kept(data):
    a_database(storage.database(), "now")
    assert storage.back_up() and storage.back_up() is None
    for day in range(10, 20):
        a_database(storage.folder() / "backups" / f"notch-2026-10-{day}.sqlite3", "then")
    storage.backups()[0].unlink()
    storage.back_up()
    assert [storage.day_of(path) for path in storage.backups()[1:]] == [f"2026-10-{day}" for day in range(19, 13, -1)]


def test_a_folder_that_cannot_be_used_gets_a_sentence(tmp_path):
    (tmp_path / "file").write_text("a file and no folder")
    (tmp_path / "other").mkdir()
    (tmp_path / "other" / "notch.sqlite3").mkdir()
    for folder, says in (("file", "cannot be used: File exists"), ("other", "is damaged: unable to open")):
        refused = manage(tmp_path / folder, "prepare")
        assert refused.returncode and says in refused.stderr and "Traceback" not in refused.stderr
