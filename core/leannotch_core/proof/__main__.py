"""``notch proof FILE --kerf K [--json]``: what any SVG or DXF file would give when it is cut."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path

from ..formats.drawing import LARGEST_FILE, BrokenFile, Drawing
from ..formats.dxf import read_dxf
from ..formats.svg import read_svg
from ..sizes import Size, SizeError, length
from .sweep import Proof, prove


def read_drawing(name: str, data: bytes) -> Drawing:
    """Reads a file by its name's ending, or by what it begins with. Raises `BrokenFile`."""
    ending = Path(name).suffix.lower()
    if ending == ".svg" or (ending != ".dxf" and data.lstrip()[:1] == b"<"):
        return read_svg(data)
    return read_dxf(data)


def report(proof: Proof) -> dict[str, object]:
    """The proof as plain JSON values: mm and mm²."""
    return {
        "unit": "mm",
        "kerf": proof.kerf,
        "open": len(proof.open_chains),
        "doubled": proof.doubled,
        "pieces": [
            {
                "kind": piece.kind,
                "width": round(piece.width, 4),
                "height": round(piece.height, 4),
                "area": round(piece.shape.area, 3),
                "holes": piece.holes,
                "perimeter": round(piece.perimeter, 3),
            }
            for piece in proof.pieces
        ],
        "findings": [text for text, _ in proof.faults] + proof.notes,
    }


def _sentences(proof: Proof) -> str:
    lines = [f"Swept with a kerf of {proof.kerf:g} mm: {len(proof.pieces)} pieces come free."]
    for piece in proof.pieces:
        holes = f", {piece.holes} holes" if piece.holes else ""
        lines.append(f"  {piece.kind:5} {piece.width:9.3f} x {piece.height:.3f} mm, {piece.shape.area:.1f} mm²{holes}")
    lines.append(f"Open lines: {len(proof.open_chains)}. Doubled lines: {proof.doubled}.")
    return "\n".join([*lines, *(text for text, _ in proof.faults), *proof.notes])


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
        if asked.file.stat().st_size > LARGEST_FILE:
            raise BrokenFile(f"{asked.file} has more than {LARGEST_FILE / 1e6:.0f} MB, which is not read.")
        proof = prove(read_drawing(asked.file.name, asked.file.read_bytes()), asked.kerf)
    except (OSError, BrokenFile) as error:
        print(f"notch proof: {error}", file=sys.stderr)
        return 2
    print(json.dumps(report(proof), indent=1) if asked.json else _sentences(proof))
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
