"""Makes the data folder ready: checked, backed up, brought up to date; into an empty one the demo is loaded."""

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor
from workshop import backups, storage
from workshop.models import nothing_is_there


class Command(BaseCommand):
    help = __doc__
    #: The server checks its addresses when it starts; nothing here needs them, and they take long to load.
    requires_system_checks = ()

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            with storage.being_prepared():
                self._prepare()
        except storage.StorageTrouble as trouble:
            raise CommandError(str(trouble)) from trouble
        except DatabaseError as error:
            raise CommandError(storage.why(error)) from error

    def _prepare(self) -> None:
        if told := backups.finish():
            self.stdout.write(told)
        storage.make_ready()
        backups.back_up()
        if _has_to_migrate():
            backups.back_up("an-update")
        call_command("migrate", verbosity=0, interactive=False)
        storage.let_it_shrink()
        if nothing_is_there():
            self._load_demo()

    def _load_demo(self) -> None:
        # What makes it takes longer to load than all else of a start.
        from handin.demo import hand_in_demo
        from workshop.demo import load_demo

        for name in load_demo():
            self.stdout.write(f"Loaded the demo project “{name}”.")
        hand_in_demo()


def _has_to_migrate() -> bool:
    """Whether the database is older than the program; an empty one has nothing to lose."""
    executor = MigrationExecutor(connection)
    known = executor.loader.applied_migrations
    return bool(known) and bool(executor.migration_plan(executor.loader.graph.leaf_nodes()))
