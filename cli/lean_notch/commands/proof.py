"""``lean-notch proof FILE``: what any drawing would give when it is cut, or what any program for a router leaves."""

from __future__ import annotations

import json
from collections.abc import Sequence
from pathlib import Path
from typing import Any

import click
from leannotch_core.document.machine import ZDatum
from leannotch_core.document.sizes import length, positive
from leannotch_core.drawings.apart import apart
from leannotch_core.drawings.bounds import Bounds
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.proof.depth.report import depth_proved_apart
from leannotch_core.proof.report import proved_apart

from ..files import FILE, Millimetres, content
from ..progress import told_on_a_screen

#: What the proof of a file may take, and that of a router's program.
PROVING = Bounds(seconds=60, megabytes=800)
PROVING_DEPTH = Bounds(seconds=600, megabytes=4000)

#: What z 0 is, by the words for it on the command line.
DATUMS: dict[str, ZDatum] = {"face": "the face of the sheet", "spoilboard": "the spoilboard"}

#: The largest program that is swept, in bytes: some two million lines.
LARGEST_PROGRAM = 120_000_000

_KERF = Millimetres(length, 50, "a kerf of {:g} mm; it lies between 0 and 50 mm")
_WIDTH = Millimetres(positive, 1000, "{:g} mm is wider than any cutter or sheet here")


class _Cutter(click.ParamType[tuple[int | None, float]]):
    """The number of a cutter, if it is said, and its width in mm."""

    name = "cutter"

    def convert(
        self, value: object, param: click.Parameter | None, ctx: click.Context | None
    ) -> tuple[int | None, float]:
        number, is_said, width = str(value).rpartition("=")
        bare = number.strip().upper().lstrip("T")
        if is_said and not bare.isdigit():
            self.fail(f"“{number}” is no number of a cutter; say it as 3=6.35", param, ctx)
        return int(bare) if is_said else None, _WIDTH.convert(width, param, ctx)


@click.command()
@click.argument("file", type=FILE)
@click.option("--kerf", type=_KERF, metavar="MM", help="Full width of the cut.")
@click.option(
    "--cutter",
    "cutters",
    type=_Cutter(),
    multiple=True,
    metavar="[T=]MM",
    help="Diameter; once for each in turn, or by its number in the program: 3=6.35.",
)
@click.option("--thickness", type=_WIDTH, metavar="MM", help="Of the sheet.")
@click.option("--no-plunge", is_flag=True, help="The cutters must not go straight down.")
@click.option("--datum", type=click.Choice(tuple(DATUMS)), help="What is at z 0, if the program does not say it.")
@click.option(
    "--spoilboard", type=_WIDTH, default="3", show_default=True, metavar="MM", help="How far it may go below the sheet."
)
@click.option("--json", "as_json", is_flag=True, help="Tell it as JSON.")
def command(
    file: Path,
    kerf: float | None,
    cutters: tuple[tuple[int | None, float], ...],
    thickness: float | None,
    no_plunge: bool,
    datum: str | None,
    spoilboard: float,
    as_json: bool,
) -> None:
    """Tell what FILE would give when it is cut with a --kerf, or what a router's program leaves of a sheet."""
    routed = cutters or thickness
    if routed and not (cutters and thickness):
        raise BrokenFile("A router's program is proved with --cutter and --thickness, both of them.")
    if routed:
        depth = _numbered(cutters), thickness, not no_plunge, DATUMS[datum] if datum else "", spoilboard
        data = content(file, LARGEST_PROGRAM)
        with told_on_a_screen("Proving", len(data)) as heard:
            found = apart(depth_proved_apart, data, *depth, bounds=PROVING_DEPTH, heard=heard)
    elif kerf is None:
        raise BrokenFile("Say how wide the cut is with --kerf, or for a router with --cutter and --thickness.")
    else:
        found = apart(proved_apart, content(file), file.name, kerf, bounds=PROVING)
    click.echo(_told(found, as_json))


def _told(found: dict[str, Any], as_json: bool) -> str:
    return json.dumps(found["report"], indent=1) if as_json else str(found["sentences"])


def _numbered(cutters: Sequence[tuple[int | None, float]]) -> dict[int, float]:
    """Widths (mm) by the numbers of their cutters; those without one are counted from 1 on."""
    return {number or at: width for at, (number, width) in enumerate(cutters, 1)}
