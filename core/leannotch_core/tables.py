"""``python -m leannotch_core.tables FOLDER``: the tables of the core that the page has too, as TypeScript and CSS."""

from __future__ import annotations

import json
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import get_args

from .document.formats import FORMATS
from .document.operations import OPERATIONS, STAGES, WORKS
from .document.stock import Material
from .document.sums import UNITS
from .document.wood import Species
from .portrait.usual_shapes import usual_shapes

_HEAD = "Made by leannotch_core.tables; not to be changed by hand."


def typescript() -> str:
    """Operations, stages, usual shapes, units, materials and woods, each literal: a name that is none is an error of
    types.
    """
    told = ("stroke", "aci", "asked", "done", "filled")
    works = {row.name: {name: getattr(row, name) for name in told} for row in OPERATIONS if row.name in WORKS}
    stages = {stage: row._asdict() for stage, row in STAGES.items()}
    tables = {
        "WORKS": WORKS,
        "OPERATIONS": works,
        "STAGES": stages,
        "FORMATS": {
            kind: {"called": one.called, "endings": (kind, *one.also), "program": one.program}
            for kind, one in FORMATS.items()
        },
        "USUAL_SHAPES": usual_shapes(),
        "INCH": UNITS["in"],
        "MATERIALS": get_args(Material),
        "WOODS": get_args(Species),
    }
    return f"// {_HEAD}\n" + "".join(f"export const {n} = {json.dumps(t)} as const\n" for n, t in tables.items())


def css() -> str:
    """``op-NAME`` for lines of an operation on a drawing, and ``key-NAME`` for a border that stands for them."""
    return f"/* {_HEAD} */\n" + "\n".join(_rules()) + "\n"


def _rules() -> Iterator[str]:
    for name, stroke, _, line, *_ in OPERATIONS:
        dashes = f" stroke-dasharray: {line.dashes};" if line.dashes else ""
        yield f".op-{name} {{ stroke: {stroke}; stroke-width: {line.width};{dashes} }}"
        yield f".key-{name} {{ border-top: {line.key} {stroke}; }}"


def written(folder: Path) -> None:
    """Writes both; what has not changed keeps its time, so that nothing is built anew for it."""
    for name, text in (("tables.ts", typescript()), ("operations.css", css())):
        path = folder / name
        if not path.exists() or path.read_text() != text:
            path.write_text(text)


if __name__ == "__main__":
    written(Path(sys.argv[1]))
