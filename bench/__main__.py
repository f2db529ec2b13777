"""``notch bench [--json] [--small]``: how fast it is, as ratios to a limit or to a library, measured in one run.

``--small`` runs every entry once, as small as it goes: to see that all can be measured.
"""

from __future__ import annotations

import json
import os
import sys
import tempfile
from collections.abc import Callable, Iterator
from dataclasses import asdict

from leannotch_core.project.project import Project, read_project

from bench.assembly import divider_grid, largest_tray
from bench.bending import bending
from bench.edits import edit_through_the_api, large_edit
from bench.evaluation import evaluation, growth
from bench.figure import Figure, measure
from bench.frames import frames
from bench.kernel import arcs_of_curves, kernel
from bench.machining import machining
from bench.nesting import nesting
from bench.proving import dxf_export, proof_of_a_sheet
from bench.routing import long_program, routing
from bench.shapes import shapes
from bench.way_in import way_in

#: The share of everything that is enough to see that it can be measured.
SMALL = 0.02

#: What is measured of the demo's tray and of what each entry makes for itself, in this order.
ENTRIES: tuple[Callable[[Project], Figure | list[Figure]], ...] = (
    evaluation,
    lambda _: edit_through_the_api(),
    lambda _: large_edit(),
    lambda _: shapes(),
    lambda _: proof_of_a_sheet(),
    lambda _: dxf_export(),
    lambda _: machining(),
    lambda _: routing(),
    lambda _: long_program(),
    lambda _: bending(),
    lambda _: growth(),
    lambda _: kernel(),
    lambda _: arcs_of_curves(),
    lambda _: divider_grid(),
    lambda _: largest_tray(),
    nesting,
    lambda _: way_in(),
    lambda _: frames(),
)


def figures(document: Project) -> Iterator[Figure]:
    for entry in ENTRIES:
        found = entry(document)
        yield from found if isinstance(found, list) else [found]


def main(arguments: list[str]) -> int:
    """Measures in a data folder of its own, so that no maker's data is touched."""
    if "--small" in arguments:
        measure(SMALL)
    with tempfile.TemporaryDirectory() as data:
        os.environ["NOTCH_DATA"] = data
        os.environ.setdefault("DJANGO_SETTINGS_MODULE", "leannotch.settings")
        import django
        from django.core.management import call_command

        django.setup()
        from workshop.demo import FOLDER, load_demo

        call_command("migrate", verbosity=0)
        load_demo()
        found = list(figures(read_project((FOLDER / "sorting_tray.json").read_bytes())))
    if "--json" in arguments:
        print(json.dumps([{**asdict(figure), "ratio": round(figure.ratio, 3)} for figure in found], indent=1))
    else:
        for figure in found:
            print(f"{figure.what:66} {figure.value:9.3f}   {figure.against}; ratio {figure.ratio:.2f}")
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
