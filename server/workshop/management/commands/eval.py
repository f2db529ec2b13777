"""Works a project out: ``notch eval PROJECT [--set NAME=VALUE]... [--json] [--out FILE]``."""

import json
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from leannotch_core.document.formats import FORMATS
from leannotch_core.evaluate import evaluate
from leannotch_core.layout.nest import nest
from leannotch_core.layout.sheets import check_layout
from leannotch_core.machining.plan import CannotPlan
from leannotch_core.project import write_project
from leannotch_core.said import Said
from leannotch_core.scripted import evaluated, sentences, with_set

from workshop.handover import of_sheet, sheet_file
from workshop.management.commands.cut import document_named
from workshop.revisions import Unreadable


class Command(BaseCommand):
    help = __doc__
    #: The server checks its addresses when it starts; nothing here needs them, and they take long to load.
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("project", help="a project's slug, or a saved project file")
        parser.add_argument(
            "--set", action="append", default=[], metavar="NAME=VALUE", help="set a named size or value"
        )
        parser.add_argument("--json", action="store_true")
        parser.add_argument("--out", type=Path, help="write the project (.json), or the file of its first sheet")

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            document = with_set(document_named(options["project"]), options["set"])
        except (Said, Unreadable) as refusal:
            raise CommandError(str(refusal)) from refusal
        result = evaluate(document)
        if options["out"]:
            self._write(document, result, options["out"])
        self.stdout.write(json.dumps(evaluated(result), indent=1) if options["json"] else sentences(result))

    def _write(self, document: Any, result: Any, out: Path) -> None:
        kind = out.suffix.lower().lstrip(".")
        if kind != "json" and kind not in FORMATS:
            raise CommandError(f"{out} ends in neither .json nor {' nor '.join(f'.{ending}' for ending in FORMATS)}")
        try:
            if kind == "json":
                out.write_bytes(write_project(document))
                return
            if not document.layout.placements or check_layout(document, result).out_of_date:
                *_, last = nest(document, result, seconds=2)
                document = document.model_copy(update={"layout": last.layout})
            file = sheet_file(document, result, 0, kind)
            faults = [fault.text for fault in file.proof.faults]
            if faults:
                raise CommandError("the proof of this file failed, it was not written: " + "; ".join(faults))
            for name, data in of_sheet(document, file, out.name).items():
                (out.parent / name).write_bytes(data)
        except CannotPlan as refusal:
            raise CommandError(str(refusal)) from refusal
        except OSError as error:
            raise CommandError(f"{out} cannot be written: {error.strerror}") from error
