"""``notch bench [--json]``: how fast it is, as ratios to a limit or to a library, measured in one run."""

from __future__ import annotations

import json
import os
import sys
import tempfile
from dataclasses import asdict

from leannotch_core.project import read_project

from bench.assembly import divider_grid, largest_tray
from bench.bending import bending
from bench.edits import edit_through_the_api, large_edit
from bench.evaluation import evaluation, growth
from bench.figure import Figure
from bench.kernel import arcs_of_curves, kernel
from bench.machining import machining
from bench.nesting import nesting
from bench.proving import dxf_export, proof_of_a_sheet
from bench.routing import routing
from bench.shapes import shapes
from bench.way_in import way_in


def figures() -> list[Figure]:

    from workshop.demo import FOLDER, load_demo

    load_demo()
    document = read_project((FOLDER / "sorting_tray.json").read_bytes())
    return [
        *evaluation(document),
        edit_through_the_api(),
        *large_edit(),
        *shapes(),
        *proof_of_a_sheet(),
        dxf_export(),
        *machining(),
        *routing(),
        *bending(),
        growth(),
        *kernel(),
        *arcs_of_curves(),
        *divider_grid(),
        *largest_tray(),
        *nesting(document),
        *way_in(),
    ]


def main(arguments: list[str]) -> int:
    """Measures in a data folder of its own, so that no maker's data is touched."""
    with tempfile.TemporaryDirectory() as data:
        os.environ["NOTCH_DATA"] = data
        os.environ.setdefault("DJANGO_SETTINGS_MODULE", "leannotch.settings")
        import django
        from django.core.management import call_command

        django.setup()
        call_command("migrate", verbosity=0)
        found = figures()
    if "--json" in arguments:
        print(json.dumps([{**asdict(figure), "ratio": round(figure.ratio, 3)} for figure in found], indent=1))
    else:
        for figure in found:
            print(f"{figure.what:66} {figure.value:9.3f}   {figure.against}; ratio {figure.ratio:.2f}")
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
