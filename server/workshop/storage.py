"""The data folder: made ready, checked at each start, and locked while it is served."""

from __future__ import annotations

import sqlite3
import time
from collections.abc import Iterator
from contextlib import closing, contextmanager, suppress
from pathlib import Path

from django.conf import settings
from django.db import DatabaseError
from filelock import FileLock, Timeout

_WHY = {
    "SQLITE_FULL": "It could not be stored: the disk of the data folder is full. Free some space and do it again.",
    "SQLITE_READONLY": "It could not be stored: the data folder cannot be written to. Change that and do it again.",
    "SQLITE_IOERR": "It could not be stored: the disk of the data folder failed. Look at the disk and do it again.",
    "SQLITE_CANTOPEN": "The data folder cannot be reached. See that it is there, and do it again.",
    "SQLITE_BUSY": "The database is in use for a long time. Do it again in a moment.",
    "SQLITE_LOCKED": "The database is in use for a long time. Do it again in a moment.",
    "SQLITE_CORRUPT": f"The database is damaged. Stop the server and run {settings.CALLED} restore.",
    "SQLITE_NOTADB": f"The database is damaged. Stop the server and run {settings.CALLED} restore.",
}

#: SQLite's number for a file from which free pages can be taken bit by bit.
_INCREMENTAL = 2

#: So many free pages stay for what comes next; so many go at a time, with a pause (s) after them.
_KEPT_FREE, _AT_A_TIME, _PAUSE = 256, 128, 0.01


class StorageTrouble(Exception):  # noqa: N818 - it is a state, and read as one
    """A data folder that cannot be worked with; the message is a sentence to show."""


def why(error: DatabaseError) -> str:
    """A database's refusal as a sentence; nothing was changed by what it refused."""
    name = str(getattr(error.__cause__, "sqlite_errorname", ""))
    known = next((text for code, text in _WHY.items() if name.startswith(code)), None)
    return f"{known or 'It could not be stored; the log has the details.'} Nothing was changed."


def folder() -> Path:
    return Path(str(settings.DATA))


def database() -> Path:
    return folder() / "notch.sqlite3"


def backups() -> list[Path]:
    """The dated backups, the newest first."""
    return sorted((folder() / "backups").glob("notch-*.sqlite3"), reverse=True)


def make_ready() -> None:
    """Sees that the folder is there, the maker's alone and can be written, and that the database is sound.

    Raises `StorageTrouble`.
    """
    try:
        folder().mkdir(mode=0o700, parents=True, exist_ok=True)
        folder().chmod(0o700)
        _try_to_write(folder() / "writable")
        _refuse_lost_database()
        # The database's helpers beside it get the mode that it has itself.
        database().touch(mode=0o600)
        for path in folder().glob(f"{database().name}*"):
            path.chmod(0o600)
    except OSError as error:
        raise _cannot_be_used(error) from error
    fault = check(database())
    if fault:
        raise StorageTrouble(f"The database {database()} is damaged: {fault}. {_mend()}")


def _cannot_be_used(error: OSError) -> StorageTrouble:
    text = f"The data folder {folder()} cannot be used: {error.strerror or error}. Change that, and start again."
    return StorageTrouble(text)


def _try_to_write(path: Path) -> None:
    path.write_bytes(bytes(4096))
    path.unlink()


def _refuse_lost_database() -> None:
    """A database that is gone or empty, with backups at hand, is a loss and no new beginning."""
    if backups() and not (database().exists() and database().stat().st_size):
        raise StorageTrouble(
            f"The database {database()} is gone or empty, and there are backups. {_mend()} "
            f"To begin anew, move {folder()} elsewhere."
        )


def _mend() -> str:
    known = backups()
    if not known:
        return "There is no backup; move the file elsewhere to begin anew, and keep it."
    return f"{settings.CALLED} restore brings back the backup of {day_of(known[0])}."


def check(path: Path) -> str:
    """What is wrong with a database, or nothing."""
    if not path.stat().st_size:
        return ""
    try:
        with closing(sqlite3.connect(path, timeout=10)) as file:
            told = file.execute("PRAGMA quick_check(1)").fetchone()[0]
    except sqlite3.DatabaseError as error:
        if getattr(error, "sqlite_errorname", "").startswith("SQLITE_BUSY"):
            return ""
        return str(error)
    return "" if told == "ok" else str(told)


def let_it_shrink() -> None:
    """Sees that the file can give back what was taken away; one of an older program is written anew for it, once.

    Where that cannot be done now, for want of room or as it is in use, it is done another time: nothing needs it.
    """
    with suppress(sqlite3.OperationalError), closing(sqlite3.connect(database(), timeout=10)) as file:
        if file.execute("PRAGMA auto_vacuum").fetchone()[0] != _INCREMENTAL:
            file.execute("PRAGMA auto_vacuum=INCREMENTAL")
            file.execute("VACUUM")


def give_back() -> None:
    """Gives back to the disk what is free in the database, bit by bit, so that nobody waits for it."""
    with closing(sqlite3.connect(database(), timeout=10, isolation_level=None)) as file:
        while file.execute("PRAGMA freelist_count").fetchone()[0] > _KEPT_FREE:
            # As a script it is carried out to its end; as a statement, for its first page alone.
            file.executescript(f"PRAGMA incremental_vacuum({_AT_A_TIME})")
            time.sleep(_PAUSE)


def day_of(backup: Path) -> str:
    return backup.stem.removeprefix("notch-")


@contextmanager
def being_prepared() -> Iterator[None]:
    """Two first starts at once: the second one waits for the first, and finds all done. Raises `StorageTrouble`."""
    try:
        folder().mkdir(mode=0o700, parents=True, exist_ok=True)
        lock = FileLock(folder() / "preparing.lock", mode=0o600)
        lock.acquire()
    except OSError as error:
        raise _cannot_be_used(error) from error
    try:
        yield
    finally:
        lock.release()


class Lock:
    """Held while a folder is served, so that it is by one server alone. Raises `StorageTrouble` where another is."""

    def __init__(self, says: str = "") -> None:
        # What a lock holds cannot be read on every system: where it is served stands beside it.
        self._lock, at = FileLock(folder() / "serving.lock", mode=0o600), folder() / "serving.at"
        try:
            self._lock.acquire(timeout=0)
        except Timeout as error:
            told = at.read_text(errors="replace").strip() if at.exists() else ""
            raise StorageTrouble(f"Lean Notch already serves {folder()}{f' at {told}' if told else ''}.") from error
        at.touch(mode=0o600)
        at.write_text(says)

    def release(self) -> None:
        self._lock.release()
