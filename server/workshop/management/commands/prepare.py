"""Brings the database up to date and loads the demo into an empty one."""

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand

from workshop.demo import load_demo
from workshop.models import Run


class Command(BaseCommand):
    help = __doc__

    def handle(self, *args: Any, **options: Any) -> None:
        call_command("migrate", verbosity=0, interactive=False)
        # Work that a stopped server left half done cannot go on.
        Run.objects.filter(state__in=["waiting", "running"]).update(
            state="failed", message="The server was stopped meanwhile."
        )
        for name in load_demo():
            self.stdout.write(f"Loaded the demo project “{name}”.")
