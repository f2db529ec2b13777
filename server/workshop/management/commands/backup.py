"""Writes a copy of the database to a file that can be carried away: ``notch backup FILE``, also while it is served."""

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from workshop import backups, storage


class Command(BaseCommand):
    help = __doc__
    #: The server checks its addresses when it starts; nothing here needs them, and they take long to load.
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, file: Path, **options: Any) -> None:
        if file.exists():
            raise CommandError(f"{file} is there already; name another file.")
        if not storage.database().exists():
            raise CommandError(f"There is nothing in {storage.folder()} yet.")
        try:
            backups.copy_to(file)
        except storage.StorageTrouble as trouble:
            raise CommandError(str(trouble)) from trouble
        except OSError as error:
            raise CommandError(f"{file} cannot be written: {error.strerror}.") from error
        self.stdout.write(f"All that is in {storage.folder()} is copied to {file}, {file.stat().st_size / 1e6:.1f} MB.")
