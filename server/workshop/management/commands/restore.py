"""Brings back a backup of the database: ``notch restore [DAY]``, the newest one where no day is named."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from workshop import storage


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("day", nargs="?", help="the day of the backup, such as 2026-11-25")

    def handle(self, *args: Any, day: str | None, **options: Any) -> None:
        known = {storage.day_of(backup): backup for backup in storage.backups()}
        if not known:
            raise CommandError(f"There is no backup in {storage.folder() / 'backups'}.")
        day = day or next(iter(known))
        if day not in known:
            raise CommandError(f"There is no backup of {day}; there are those of {', '.join(known)}.")
        try:
            lock = storage.Lock()
            aside = storage.restore(known[day])
            lock.release()
        except storage.StorageTrouble as trouble:
            raise CommandError(f"{trouble} Stop it first.") from trouble
        except OSError as error:
            raise CommandError(f"The backup cannot be put back: {error.strerror}.") from error
        self.stdout.write(f"The backup of {day} is back. What was there is kept in {aside}.")
