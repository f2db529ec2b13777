"""``notch proof FILE --kerf K [--json]``: what any SVG or DXF file would give when it is cut.

``notch proof FILE.nc --cutter D --thickness T [--json]``: what any program for a router leaves of a sheet.
"""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from ..document.limits import LARGEST_DRAWING
from ..document.machine import ZDatum
from ..document.sizes import Size, length, positive
from ..document.sums import SizeError
from ..drawings.apart import Bounds, apart
from ..drawings.drawing import BrokenFile
from .depth.report import depth_proved_apart
from .report import proved_apart

#: What the proof of a file may take, and that of a router's program.
PROVING = Bounds(seconds=60, megabytes=800)
PROVING_DEPTH = Bounds(seconds=600, megabytes=4000)

#: What z 0 is, by the words for it on the command line.
DATUMS: dict[str, ZDatum] = {"face": "the face of the sheet", "spoilboard": "the spoilboard"}

#: The largest program that is swept, in bytes: some two million lines.
LARGEST_PROGRAM = 120_000_000


def _width(text: str) -> float:
    try:
        width = positive(Size(text=text), {})
    except SizeError as error:
        raise argparse.ArgumentTypeError(str(error)) from error
    if width > 1000:
        raise argparse.ArgumentTypeError(f"{width:g} mm is wider than any cutter or sheet here")
    return width


def _cutter(text: str) -> tuple[int | None, float]:
    """The number of a cutter, if it is said, and its width in mm."""
    number, is_said, width = text.rpartition("=")
    if is_said and not (number.strip().upper().lstrip("T").isdigit()):
        raise argparse.ArgumentTypeError(f"“{number}” is no number of a cutter; say it as 3=6.35")
    return int(number.strip().upper().lstrip("T")) if is_said else None, _width(width)


def _numbered(cutters: Sequence[tuple[int | None, float]]) -> dict[int, float]:
    """Widths (mm) by the numbers of their cutters; those without one are counted from 1 on."""
    return {number or at: width for at, (number, width) in enumerate(cutters, 1)}


def _kerf(text: str) -> float:
    try:
        kerf = length(Size(text=text), {})
    except SizeError as error:
        raise argparse.ArgumentTypeError(str(error)) from error
    if not 0 <= kerf <= 50:
        raise argparse.ArgumentTypeError(f"a kerf of {kerf:g} mm; it lies between 0 and 50 mm")
    return kerf


def main(arguments: list[str]) -> int:
    """Exit status 0 when there is a report, whatever it finds; 2 when the file cannot be read."""
    parser = argparse.ArgumentParser(prog="notch proof", description=__doc__)
    parser.add_argument("file", type=Path)
    parser.add_argument("--kerf", type=_kerf, help="full width of the cut, in mm")
    parser.add_argument(
        "--cutter", type=_cutter, action="append", metavar="[T=]D",
        help="diameter in mm; once for each in turn, or by its number in the program: 3=6.35",
    )  # fmt: skip
    parser.add_argument("--thickness", type=_width, help="of the sheet, in mm")
    parser.add_argument("--no-plunge", action="store_true", help="the cutters must not go straight down")
    parser.add_argument("--datum", choices=tuple(DATUMS), help="what is at z 0, if the program does not say it")
    parser.add_argument("--spoilboard", type=_width, default=3.0, help="how far it may go below the sheet, in mm")
    parser.add_argument("--json", action="store_true")
    asked = parser.parse_args(arguments)
    try:
        found = _found(asked)
    except BrokenFile as error:
        print(f"notch proof: {error}", file=sys.stderr)
        return 2
    print(json.dumps(found["report"], indent=1) if asked.json else found["sentences"])
    return 0


def _found(asked: argparse.Namespace) -> Any:
    """The proof in both forms. Raises `BrokenFile`."""
    routed = asked.cutter or asked.thickness
    if routed and not (asked.cutter and asked.thickness):
        raise BrokenFile("A router's program is proved with --cutter and --thickness, both of them.")
    if not routed:
        if asked.kerf is None:
            raise BrokenFile("Say how wide the cut is with --kerf, or for a router with --cutter and --thickness.")
        return apart(proved_apart, _bytes(asked.file), asked.file.name, asked.kerf, bounds=PROVING)
    data = _bytes(asked.file, LARGEST_PROGRAM)
    given = (
        _numbered(asked.cutter),
        asked.thickness,
        not asked.no_plunge,
        DATUMS[asked.datum] if asked.datum else "",
        asked.spoilboard,
    )
    return apart(depth_proved_apart, data, *given, bounds=PROVING_DEPTH, heard=_told(len(data)))


def _told(size: int) -> Callable[[float], bool]:
    """Tells of the progress of what takes long, on a screen."""

    def heard(share: float) -> bool:
        if size > 1_000_000 and sys.stderr.isatty():
            print(f"\r{100 * share:3.0f} %", end="\r", file=sys.stderr)
        return False

    return heard


def _bytes(path: Path, most: int = LARGEST_DRAWING) -> bytes:
    """The file's content. Raises `BrokenFile`."""
    try:
        if path.stat().st_size > most:
            raise BrokenFile(f"{path} has more than {most / 1e6:.0f} MB, which is not read.")
        return path.read_bytes()
    except (OSError, ValueError) as error:
        if isinstance(error, BrokenFile):
            raise
        why = error.strerror if isinstance(error, OSError) and error.strerror else "it has no such name"
        raise BrokenFile(f"{path} cannot be read: {why}.") from error


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
