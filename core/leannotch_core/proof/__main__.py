"""``notch proof FILE --kerf K [--json]``: what any SVG or DXF file would give when it is cut."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path

from ..document.limits import LARGEST_DRAWING
from ..document.sizes import Size, SizeError, length
from ..drawings.apart import Bounds, apart
from ..drawings.drawing import BrokenFile
from .report import proved_apart

#: What the proof of a file may take.
PROVING = Bounds(seconds=60, megabytes=800)


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
    parser.add_argument("--kerf", type=_kerf, required=True, help="full width of the cut, in mm")
    parser.add_argument("--json", action="store_true")
    asked = parser.parse_args(arguments)
    try:
        found = apart(proved_apart, _bytes(asked.file), asked.file.name, asked.kerf, bounds=PROVING)
    except BrokenFile as error:
        print(f"notch proof: {error}", file=sys.stderr)
        return 2
    print(json.dumps(found["report"], indent=1) if asked.json else found["sentences"])
    return 0


def _bytes(path: Path) -> bytes:
    """The file's content. Raises `BrokenFile`."""
    try:
        if path.stat().st_size > LARGEST_DRAWING:
            raise BrokenFile(f"{path} has more than {LARGEST_DRAWING / 1e6:.0f} MB, which is not read.")
        return path.read_bytes()
    except (OSError, ValueError) as error:
        if isinstance(error, BrokenFile):
            raise
        why = error.strerror if isinstance(error, OSError) and error.strerror else "it has no such name"
        raise BrokenFile(f"{path} cannot be read: {why}.") from error


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
