"""Brings back a backup of the database: ``notch restore [DAY|FILE]``, the newest one where no day is named."""

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from workshop import backups, storage


class Command(BaseCommand):
    help = __doc__
    #: The server checks its addresses when it starts; nothing here needs them, and they take long to load.
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("day", nargs="?", help="its day, such as 2026-11-25, or a file of ./notch backup")

    def handle(self, *args: Any, day: str | None, **options: Any) -> None:
        name, backup = _chosen(day)
        try:
            lock = storage.Lock()
        except storage.StorageTrouble as trouble:
            raise CommandError(f"{trouble} Stop it first.") from trouble
        try:
            aside = backups.restore(backup)
        except storage.StorageTrouble as trouble:
            raise CommandError(str(trouble)) from trouble
        except OSError as error:
            raise CommandError(f"The backup cannot be put back: {error.strerror}.") from error
        finally:
            lock.release()
        self.stdout.write(f"The backup {name} is back. What was there is kept in {aside}.")


def _chosen(day: str | None) -> tuple[str, Path]:
    """How a backup is called, and where it is. Raises `CommandError`."""
    if day and Path(day).is_file():
        return f"in {day}", Path(day)
    known = {storage.day_of(backup): backup for backup in storage.backups()}
    if not known:
        raise CommandError(f"There is no backup in {storage.folder() / 'backups'}.")
    day = day or next(iter(known))
    if day not in known:
        raise CommandError(f"There is no backup of {day}; there are those of {', '.join(known)}.")
    return f"of {day}", known[day]
