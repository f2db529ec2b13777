"""``lean-notch bring FILE... --out PROJECT.json``: drawings of others become parts of a project."""

from __future__ import annotations

import json
from pathlib import Path
from typing import get_args

import click
from leannotch_core.bring import brought, sentences
from leannotch_core.drawings.way_in import Unit
from leannotch_core.project.project import write_project

from ..files import FILE, content


@click.command()
@click.argument("files", nargs=-1, required=True, type=FILE, metavar="FILE...")
@click.option("--out", type=FILE, required=True, help="The project's file.")
@click.option("--unit", type=click.Choice(get_args(Unit)), help="What the numbers are, where that is mistaken.")
@click.option(
    "--join",
    type=click.FloatRange(0.001, 5),
    default=0.01,
    show_default=True,
    metavar="MM",
    help="Ends so close are joined.",
)
@click.option("--height", type=float, metavar="MM", help="Cut a mesh at this height, square to z.")
@click.option("--flat", is_flag=True, help="Lay a mesh's plates flat, as is done unless a height is given.")
@click.option("--follow", type=float, metavar="MM", help="Slots and tabs drawn for this thickness follow the sheet.")
@click.option("--json", "as_json", is_flag=True, help="Tell it as JSON.")
def command(
    files: tuple[Path, ...],
    out: Path,
    unit: Unit | None,
    join: float,
    height: float | None,
    flat: bool,
    follow: float | None,
    as_json: bool,
) -> None:
    """Make the parts of FILEs (SVG, DXF, PDF, a program, a mesh) a project."""
    if flat and height is not None:
        raise click.UsageError("A mesh is laid --flat or cut at a --height, not both.")
    name = out.name.partition(".")[0][:80] or "Brought"
    read = ((path.name, content(path)) for path in files)
    project, answers = brought(read, name, unit=unit, join=join, follow=follow, height=height)
    out.write_bytes(write_project(project))
    click.echo(json.dumps(answers[0] if len(answers) == 1 else answers, indent=1) if as_json else sentences(answers))
