"""``lean-notch restore [DAY|FILE]``: a backup of the database is brought back."""

from __future__ import annotations

from pathlib import Path

import click
from workshop import backups, storage


@click.command()
@click.argument("day", required=False)
def command(day: str | None) -> None:
    """Bring back the backup of DAY, such as 2026-11-25, or a file of `backup`; the newest one where none is named."""
    name, backup = _chosen(day)
    try:
        lock = storage.Lock()
    except storage.StorageTrouble as trouble:
        raise storage.StorageTrouble(f"{trouble} Stop it first.") from trouble
    try:
        aside = backups.restore(backup)
    except OSError as error:
        raise storage.StorageTrouble(f"The backup cannot be put back: {error.strerror}.") from error
    finally:
        lock.release()
    click.echo(f"The backup {name} is back. What was there is kept in {aside}.")


def _chosen(day: str | None) -> tuple[str, Path]:
    """How a backup is called, and where it is. Raises `StorageTrouble`."""
    if day and Path(day).is_file():
        return f"in {day}", Path(day)
    known = {storage.day_of(backup): backup for backup in storage.backups()}
    if not known:
        raise storage.StorageTrouble(f"There is no backup in {storage.folder() / 'backups'}.")
    day = day or next(iter(known))
    if day not in known:
        raise storage.StorageTrouble(f"There is no backup of {day}; there are those of {', '.join(known)}.")
    return f"of {day}", known[day]
