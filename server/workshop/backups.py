"""Copies of the database: made each day and before what could lose something, checked, kept by a rule, brought back.

A copy is made by SQLite itself, so that it is whole whoever writes meanwhile, and takes its name only once it is sound.
"""

from __future__ import annotations

import os
import shutil
import sqlite3
import sys
from collections.abc import Callable, Iterable
from contextlib import closing
from datetime import date, datetime
from pathlib import Path

from workshop.storage import StorageTrouble, backups, check, database, day_of, folder

#: The newest backup of each of so many days, weeks and months is kept; and so many of those made before a step.
DAYS, WEEKS, MONTHS, BEFORE = 7, 4, 6, 3


def back_up(before: str = "") -> Path | None:
    """A copy of the database for today, unless there is one, or one from ``before`` a step of that name.

    Those that the rule does not keep go. Raises `StorageTrouble`.
    """
    named = f"{datetime.now():%Y-%m-%d-%H%M%S}-before-{before}" if before else f"{datetime.now():%Y-%m-%d}"
    copy = folder() / "backups" / f"notch-{named}.sqlite3"
    if copy.exists() or not database().exists() or not database().stat().st_size:
        return None
    try:
        copy.parent.mkdir(mode=0o700, exist_ok=True)
        copy_to(copy)
        for old in superfluous(backups()):
            old.unlink(missing_ok=True)
    except (OSError, sqlite3.Error) as error:
        text = f"Today's backup cannot be written to {copy.parent}: {error}. Free some space there."
        raise StorageTrouble(text) from error
    return copy


def copy_to(place: Path) -> None:
    """A whole copy of the database, checked before it takes its name. Raises `StorageTrouble`, `OSError`."""
    unfinished = place.with_name(f"{place.name}.part")
    unfinished.unlink(missing_ok=True)
    unfinished.touch(mode=0o600)
    try:
        with closing(sqlite3.connect(database())) as source, closing(sqlite3.connect(unfinished)) as target:
            source.backup(target)
        _refuse_unsound(unfinished, "The copy of the database")
        unfinished.replace(place)
    finally:
        unfinished.unlink(missing_ok=True)


def superfluous(known: Iterable[Path]) -> list[Path]:
    """Those that the rule does not keep, of backups with the newest first."""
    dated = [(path, _date_of(path)) for path in known]
    by_day = [(path, day) for path, day in dated if day is not None and "before" not in path.stem]
    steps = [path for path, day in dated if "before" in path.stem]
    kept = {*steps[:BEFORE], *(path for path, day in dated if day is None)}
    rules: list[tuple[int, Callable[[date], object]]] = [
        (DAYS, lambda day: day),
        (WEEKS, lambda day: day.isocalendar()[:2]),
        (MONTHS, lambda day: (day.year, day.month)),
    ]
    for most, span in rules:
        newest: dict[object, Path] = {}
        for path, day in by_day:
            newest.setdefault(span(day), path)
        kept.update(list(newest.values())[:most])
    return [path for path, _ in dated if path not in kept]


def _date_of(path: Path) -> date | None:
    try:
        return date.fromisoformat(day_of(path)[:10])
    except ValueError:
        return None


# Brought back


def restore(backup: Path) -> Path:
    """Puts a backup in the database's place; answers where the database is kept that was there.

    It is decided by one rename: before that nothing has changed, and after it `finish` does the rest, at the next
    start where this process does not get to it. Raises `StorageTrouble`.
    """
    _refuse_unsound(backup, f"The backup {backup}")
    aside = folder() / f"before-restore-{datetime.now():%Y-%m-%d-%H%M%S}"
    aside.mkdir(mode=0o700)
    for path in folder().glob(f"{database().name}*"):
        shutil.copy2(path, aside / path.name)
    fresh = _fresh().with_suffix(".part")
    fresh.unlink(missing_ok=True)
    fresh.touch(mode=0o600)
    with closing(sqlite3.connect(backup)) as source, closing(sqlite3.connect(fresh)) as target:
        source.backup(target)
    _refuse_unsound(fresh, f"The copy of {backup}")
    _to_disk(fresh)
    fresh.replace(_fresh())
    _to_disk(folder())
    finish()
    return aside


def finish() -> str:
    """Finishes a restore that was decided, and says so; nothing where none was.

    What SQLite keeps beside the old database must not be taken for the new one's: it goes first.
    """
    if not _fresh().exists():
        return ""
    # Nothing but an unfinished restore leaves it there, and that was not served meanwhile.
    for beside in ("-wal", "-shm", "-journal"):
        database().with_name(f"{database().name}{beside}").unlink(missing_ok=True)
    _fresh().replace(database())
    _to_disk(folder())
    return "A backup was brought back; what was there before is kept beside it."


def _fresh() -> Path:
    """Where a database lies that takes the place of the present one, whatever happens."""
    return database().with_suffix(".restored")


def _to_disk(path: Path) -> None:
    if path.is_dir() and sys.platform == "win32":
        # There a folder cannot be opened, and its entries reach the disk with its files.
        return
    opened = os.open(path, os.O_RDONLY)
    try:
        os.fsync(opened)
    finally:
        os.close(opened)


def _refuse_unsound(path: Path, called: str) -> None:
    """Raises `StorageTrouble` of a database that is empty, damaged or holds nothing."""
    fault = check(path) if path.stat().st_size else "it is empty"
    if not fault:
        with closing(sqlite3.connect(path)) as file:
            tables = file.execute("SELECT count(*) FROM sqlite_master WHERE type = 'table'").fetchone()[0]
        fault = "" if tables else "it holds no table"
    if fault:
        raise StorageTrouble(f"{called} is damaged itself: {fault}.")
