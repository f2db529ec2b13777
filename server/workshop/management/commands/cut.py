"""Writes the file of a sheet: ``notch cut PROJECT --out FILE.svg|.dxf|.pdf|.nc [--sheet N] [--machine NAME]``."""

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from leannotch_core.cutters import NoCutter, cutter_facts
from leannotch_core.document.cutter import Cutter
from leannotch_core.document.formats import FORMATS
from leannotch_core.document.sizes import Size
from leannotch_core.document.sums import SizeError
from leannotch_core.evaluate import evaluate
from leannotch_core.layout.nest import nest
from leannotch_core.layout.sheets import check_layout
from leannotch_core.machining.plan import CannotPlan
from leannotch_core.profiles.shipped import shipped
from leannotch_core.project import NotAProject, read_project
from leannotch_core.project import Project as Document

from workshop import library
from workshop.handover import of_sheet, sheet_file
from workshop.models import Project
from workshop.revisions import Unreadable, current_id, document_of
from workshop.variants import follow


class Command(BaseCommand):
    help = __doc__
    #: The server checks its addresses when it starts; nothing here needs them, and they take long to load.
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("project", help="a project's slug, or a saved project file")
        parser.add_argument("--out", type=Path, required=True, help="the file to write; its ending says as what")
        parser.add_argument("--sheet", type=int, default=1)
        parser.add_argument("--machine", default="", help="laser, router, or a machine of the project or library")
        parser.add_argument("--cutter", default="", help="diameter of a router's cutter in mm, or its name in the rack")
        parser.add_argument("--at-machine", action="store_true", help="leave the kerf to the machine")
        parser.add_argument("--accept-faults", action="store_true", help="write the file even if its proof fails")

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            self._cut(options)
        except (Unreadable, CannotPlan, SizeError) as refusal:
            raise CommandError(str(refusal)) from refusal

    def _cut(self, options: dict[str, Any]) -> None:
        out: Path = options["out"]
        kind = out.suffix.lower().lstrip(".")
        if kind not in FORMATS:
            raise CommandError(f"{out} ends in neither {' nor '.join(f'.{ending}' for ending in FORMATS)}")
        document = document_named(options["project"])
        kerf = "at the machine" if options["at_machine"] else "in the file"
        document = document.model_copy(update={"hand_over": document.hand_over.model_copy(update={"kerf": kerf})})
        document = _on_machine(document, options["machine"])
        document = _with_cutter(document, options["cutter"])
        result = evaluate(document)
        if not document.layout.placements:
            *_, last = nest(document, result, seconds=5)
            document = document.model_copy(update={"layout": last.layout})
        elif check_layout(document, result).out_of_date:
            self.stderr.write("The layout is out of date; lay out again in the application.")
        sheets = len(document.layout.sheets)
        if not 1 <= options["sheet"] <= sheets:
            raise CommandError(f"there is no sheet {options['sheet']}; the layout has {sheets}")
        file = sheet_file(document, result, options["sheet"] - 1, kind)
        faults = [fault.text for fault in file.proof.faults]
        if faults and not options["accept_faults"]:
            raise CommandError("the proof of this file failed, it was not written: " + "; ".join(faults))
        try:
            for name, data in of_sheet(document, file, out.name).items():
                (out.parent / name).write_bytes(data)
        except OSError as error:
            raise CommandError(f"{out} cannot be written: {error.strerror}") from error
        self.stdout.write(
            f"{out}: sheet {options['sheet']} of {sheets}, {len(file.proof.parts)} parts, "
            f"kerf {file.ready.plan.kerf:g} mm {kerf}"
        )


def _on_machine(document: Document, name: str) -> Document:
    """The project cut on another machine than its own, by the name of a profile that ships, or by its own name."""
    if not name:
        return document
    known = {machine.name: machine for machine in (*library.machines(), *document.machines)}
    known |= {machine.id: machine for machine in known.values()}
    machine = (shipped() | known).get(name)
    if machine is None:
        raise CommandError(f"“{name}” is no machine; known are {', '.join(sorted(shipped() | known))}")
    others = [other for other in document.machines if other.id != machine.id]
    return document.model_copy(update={"machines": [*others, machine], "machine": machine.id})


def _with_cutter(document: Document, wanted: str) -> Document:
    """The project cut with a cutter of its rack or of the library by its name, or with one of a diameter in mm."""
    machine = document.machine_of(document.machine)
    if not wanted:
        return document
    if machine is None or machine.kind != "router":
        raise CommandError("--cutter is for a router; name one with --machine")
    rack = {one.name: one for one in (*library.cutters(), *document.cutters)}
    cutter = rack.get(wanted) or Cutter(id="given", name=f"{wanted} mm", diameter=Size(text=wanted))
    try:
        cutter_facts(cutter)
    except NoCutter as error:
        raise CommandError(str(error)) from error
    others = [one for one in document.cutters if one.id != cutter.id]
    routing = document.preparation.routing.model_copy(update={"cutter": cutter.id})
    prepared = document.preparation.model_copy(update={"routing": routing})
    return document.model_copy(update={"cutters": [*others, cutter], "preparation": prepared})


def document_named(name: str) -> Document:
    """The document of a project by its slug, or in a saved file. Raises `CommandError`."""
    project = Project.objects.filter(slug=name, deleted=None).select_related("variant_of").first()
    if project:
        return document_of(current_id(follow(project)))
    path = Path(name)
    if not path.is_file():
        known = ", ".join(Project.objects.filter(deleted=None).values_list("slug", flat=True))
        raise CommandError(f"“{name}” is neither a project ({known}) nor a file")
    try:
        return read_project(path.read_bytes())
    except (NotAProject, OSError) as error:
        raise CommandError(str(error)) from error
