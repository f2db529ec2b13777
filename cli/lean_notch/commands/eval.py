"""``lean-notch eval PROJECT``: what follows from other values, without a screen."""

from __future__ import annotations

import json
from pathlib import Path

import click
from leannotch_core.evaluate import Result, evaluate
from leannotch_core.layout.sheets import check_layout
from leannotch_core.project.project import Project, write_project
from leannotch_core.scripted import evaluated, sentences, with_set
from workshop.handover import sheet_file

from ..files import FILE
from ..named import document_named
from ..sheets import kind_of, laid_out, written


@click.command()
@click.argument("project")
@click.option("--set", "values", multiple=True, metavar="NAME=VALUE", help="Set a named size or value; many times.")
@click.option("--json", "as_json", is_flag=True, help="Tell it as JSON.")
@click.option("--out", type=FILE, help="Write the project (.json), or the file of its first sheet.")
def command(project: str, values: tuple[str, ...], as_json: bool, out: Path | None) -> None:
    """Work PROJECT (its slug, or a saved file) out with values set."""
    document = with_set(document_named(project), list(values))
    result = evaluate(document)
    if out is not None:
        _write(document, result, out)
    click.echo(json.dumps(evaluated(result), indent=1) if as_json else sentences(result))


def _write(document: Project, result: Result, out: Path) -> None:
    kind = kind_of(out, "json")
    if kind == "json":
        out.write_bytes(write_project(document))
        return
    if not document.layout.placements or check_layout(document, result).out_of_date:
        document = laid_out(document, result, 2)
    written(document, sheet_file(document, result, 0, kind), out)
