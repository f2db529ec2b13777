"""Makes the data folder ready: checked, backed up, brought up to date; into an empty one the demo is loaded."""

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from django.db import DatabaseError
from handin.demo import hand_in_demo

from workshop import storage
from workshop.demo import load_demo


class Command(BaseCommand):
    help = __doc__

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            storage.make_ready()
            storage.back_up()
            call_command("migrate", verbosity=0, interactive=False)
            loaded = load_demo()
            for name in loaded:
                self.stdout.write(f"Loaded the demo project “{name}”.")
            if loaded:
                hand_in_demo()
        except storage.StorageTrouble as trouble:
            raise CommandError(str(trouble)) from trouble
        except DatabaseError as error:
            raise CommandError(storage.why(error)) from error
