"""``lean-notch cut PROJECT --out FILE``: a sheet's file, proved before it is written."""

from __future__ import annotations

from pathlib import Path

import click
from leannotch_core.document.cutter import Cutter
from leannotch_core.document.sizes import Size
from leannotch_core.evaluate import Result, evaluate
from leannotch_core.facts.cutters import cutter_facts
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.layout.sheets import check_layout
from leannotch_core.project.project import Project
from leannotch_core.said import Said
from workshop import library
from workshop.handover import sheet_file

from ..files import FILE
from ..named import document_named
from ..sheets import kind_of, laid_out, written


class CannotCut(Said):
    """A sheet that cannot be cut as it was asked for."""


@click.command()
@click.argument("project")
@click.option("--out", type=FILE, required=True, help="The file; its ending says as what.")
@click.option("--sheet", type=int, default=1, show_default=True, help="Its number.")
@click.option("--machine", default="", help="laser, router, or a machine of the project or of the library.")
@click.option("--cutter", default="", help="A router's: diameter in mm, or its name in the rack.")
@click.option("--at-machine", is_flag=True, help="Leave the kerf to the machine.")
@click.option("--accept-faults", is_flag=True, help="Write the file even if its proof fails.")
def command(
    project: str, out: Path, sheet: int, machine: str, cutter: str, at_machine: bool, accept_faults: bool
) -> None:
    """Write the file of a sheet of PROJECT (its slug, or a saved file), proved."""
    kind = kind_of(out)
    kerf = "at the machine" if at_machine else "in the file"
    document = document_named(project)
    document = document.model_copy(update={"hand_over": document.hand_over.model_copy(update={"kerf": kerf})})
    document = _with_cutter(_on_machine(document, machine), cutter)
    result = evaluate(document)
    document = _with_layout(document, result)
    sheets = len(document.layout.sheets)
    if not 1 <= sheet <= sheets:
        raise CannotCut(f"there is no sheet {sheet}; the layout has {sheets}")
    file = sheet_file(document, result, sheet - 1, kind)
    written(document, file, out, accept_faults)
    parts = len(file.proof.parts)
    click.echo(f"{out}: sheet {sheet} of {sheets}, {parts} parts, kerf {file.ready.plan.kerf:g} mm {kerf}")


def _with_layout(document: Project, result: Result) -> Project:
    if not document.layout.placements:
        return laid_out(document, result, 5)
    if check_layout(document, result).out_of_date:
        click.echo("The layout is out of date; lay out again in the application.", err=True)
    return document


def _on_machine(document: Project, name: str) -> Project:
    """The project cut on another machine than its own, by the name of a profile that ships, or by its own name."""
    if not name:
        return document
    known = {machine.name: machine for machine in (*library.machines(), *document.machines)}
    known |= {machine.id: machine for machine in known.values()}
    machine = (shipped() | known).get(name)
    if machine is None:
        raise CannotCut(f"“{name}” is no machine; known are {', '.join(sorted(shipped() | known))}")
    others = [other for other in document.machines if other.id != machine.id]
    return document.model_copy(update={"machines": [*others, machine], "machine": machine.id})


def _with_cutter(document: Project, wanted: str) -> Project:
    """The project cut with a cutter of its rack or of the library by its name, or with one of a diameter in mm."""
    machine = document.machine_of(document.machine)
    if not wanted:
        return document
    if machine is None or machine.kind != "router":
        raise CannotCut("--cutter is for a router; name one with --machine")
    rack = {one.name: one for one in (*library.cutters(), *document.cutters)}
    cutter = rack.get(wanted) or Cutter(id="given", name=f"{wanted} mm", diameter=Size(text=wanted))
    cutter_facts(cutter)
    others = [one for one in document.cutters if one.id != cutter.id]
    routing = document.preparation.routing.model_copy(update={"cutter": cutter.id})
    prepared = document.preparation.model_copy(update={"routing": routing})
    return document.model_copy(update={"cutters": [*others, cutter], "preparation": prepared})
