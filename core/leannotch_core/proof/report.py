"""What any SVG or DXF file would give when it is cut, as plain values and as sentences."""

from __future__ import annotations

from ..drawings.apart import within
from ..drawings.bounds import READING
from ..drawings.drawing import Drawing
from ..drawings.formats import read_drawing
from ..drawings.held import held_in, in_words, left_out_of, noted_in
from .against.order import order_faults
from .fault import Fault
from .sweep import Piece, Proof, in_turn, prove


def piece_told(piece: Piece) -> dict[str, object]:
    """A piece as plain JSON values: mm and mm²."""
    return {
        "kind": piece.kind,
        "width": round(piece.width, 4),
        "height": round(piece.height, 4),
        "area": round(piece.shape.area, 3),
        "holes": piece.holes,
        "perimeter": round(piece.perimeter, 3),
        "held": piece.held,
    }


def fault_told(fault: Fault) -> dict[str, object]:
    """A fault as plain JSON values: its place is in mm."""
    at = fault.at
    spot = {} if at is None else {"x": round(at.real, 3), "y": round(at.imag, 3)}
    return {"code": fault.code, "text": fault.text, "mend": fault.mend, **spot}


def report(proof: Proof) -> dict[str, object]:
    """The proof as plain JSON values: mm and mm²."""
    return {
        "unit": "mm",
        "kerf": proof.kerf,
        "open": len(proof.open_chains),
        "slits": proof.slits,
        "doubled": proof.doubled,
        "pieces": [piece_told(piece) for piece in proof.pieces],
        "faults": [fault_told(fault) for fault in proof.faults],
        "findings": [fault.text for fault in proof.faults] + proof.notes,
    }


def proved_apart(data: bytes, name: str, kerf: float) -> dict[str, object]:
    """The proof of a file's bytes in both forms, for a process of its own. Raises `BrokenFile`."""
    with within(READING.seconds):
        drawing = read_drawing(data, name)
    proof = prove(drawing, kerf)
    proof.faults += order_faults(in_turn(drawing), [chain.segments for chain in proof.closed], marks_first=True)
    if not drawing.ended:
        proof.faults.append(Fault("no-end", "The file breaks off: its end is not there"))
    in_file = _in_file(drawing)
    return {"report": report(proof) | in_file, "sentences": "\n".join([*_sentences(proof), *in_words(in_file)])}


def _in_file(drawing: Drawing) -> dict[str, object]:
    """What the file holds and what became of it, as bringing it would tell it."""
    told = [one.as_json() for one in (*left_out_of(drawing), *noted_in(drawing))]
    return {"held": [held._asdict() for held in held_in(drawing)], "told": told}


def _sentences(proof: Proof) -> list[str]:
    hanging = sum(piece.held > 0 for piece in proof.pieces)
    free = f"{len(proof.pieces) - hanging} pieces come free{f', {hanging} hang on holding tabs' if hanging else ''}."
    lines = [f"Swept with a kerf of {proof.kerf:g} mm: {free}"]
    for piece in proof.pieces:
        holes = f", {piece.holes} holes" if piece.holes else ""
        held = f", held by {piece.held} tabs" if piece.held else ""
        size = f"{piece.width:9.3f} x {piece.height:.3f} mm, {piece.shape.area:.1f} mm²"
        lines.append(f"  {piece.kind:5} {size}{holes}{held}")
    slits = f", {proof.slits} of them slits within a piece" if proof.slits else ""
    lines.append(f"Open lines: {len(proof.open_chains)}{slits}. Doubled lines: {proof.doubled}.")
    return [*lines, *(f"{fault.text}. {fault.mend}." for fault in proof.faults)]
