"""Works projects out for a server until that ends: ``workplace --parent PID``, which is told the port in a line."""

from __future__ import annotations

import os
from importlib import import_module
from typing import Any

from django.core.handlers.wsgi import WSGIHandler
from django.core.management.base import BaseCommand, CommandParser
from leannotch.urls import API
from workshop.beside import end_with

from served.behind import behind


class Command(BaseCommand):
    help = __doc__
    #: The server that begins it has made them.
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--parent", type=int, required=True)

    def handle(self, *args: Any, parent: int, **options: Any) -> None:
        from served import listening

        end_with(parent)
        import_module(API)
        server = listening.here(behind(WSGIHandler(), os.environ["NOTCH_WORKPLACE_KEY"]), 0)
        self.stdout.write(str(server.effective_port))
        self.stdout.flush()
        server.run()
