"""What anybody's program for a router would give, as plain values and as sentences."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from ...document.machine import ZDatum
from ...drawings import progress
from ...drawings.drawing import BrokenFile
from ...drawings.gcode.words import Dialect
from ..fault import Fault
from ..report import fault_told, piece_told
from .dangers import Limits, dangers
from .datum import with_datum
from .floors import Floor, TooManyFloors, floors
from .freed import Freed, TabLeft, freed
from .program import ReadProgram, read_program
from .slopes import slopes
from .swept import Cutters, SweptCutter


@dataclass(slots=True)
class DepthProof:
    """A program swept: what comes free of a sheet of a thickness (mm), what is sunk into it, and what is wrong."""

    read: ReadProgram
    thickness: float
    cutters: Cutters
    freed: Freed
    floors: list[Floor]
    dangers: list[Fault]
    notes: list[str] = field(default_factory=list)

    @property
    def tabs(self) -> list[TabLeft]:
        return self.freed.tabs

    @property
    def below(self) -> float:
        """How far (mm) it goes below the sheet."""
        return max(0.0, -float(self.read.way.z.min(initial=0.0)) - self.thickness)


def prove_depth(read: ReadProgram, thickness: float, cutters: Cutters, limits: Limits) -> DepthProof:
    """Sweeps the cutters of a program through a sheet of a thickness (mm), whose face is at 0.

    Raises `BrokenFile` where the program asks for a cutter that is not among them.
    """
    works = read.way.feed > 0
    other = next((tool for tool in np.unique(read.way.tool[works]).tolist() if tool not in cutters), None)
    if other is not None:
        line = int(read.way.line[works & (read.way.tool == other)][0])
        raise BrokenFile(
            f"The program works with cutter T{other} at line {line}, and how wide that is was not said: "
            f"give it too, as {other}=WIDTH."
        )
    # One that only moves before it is changed takes nothing away.
    known = {tool: cutters.get(tool) or cutters[max(cutters)] for tool in np.unique(read.way.tool).tolist()} or cutters
    out, notes = freed(read.way, thickness, known), []
    try:
        sunk = floors(read.way, thickness, known, out.tabs)
    except TooManyFloors as error:
        sunk, notes = [], [str(error)]
    found = [*dangers(read.way, thickness, known, limits), *slopes(read.way, thickness, known)]
    if not len(read.way):
        notes.append("The program moves nothing.")
    if not read.told.ended:
        found.append(Fault("no-end", "The program does not end with M2 or M30"))
    if not read.told.unit_stated:
        found.append(Fault("unit", "The program does not state its unit; it was taken for millimetres"))
    return DepthProof(read, thickness, known, out, sunk, found, notes)


def depth_report(proof: DepthProof) -> dict[str, object]:
    """The proof as plain JSON values: mm and mm²."""
    return {
        "unit": "mm",
        "thickness": proof.thickness,
        "cutters": {str(tool): cutter.diameter for tool, cutter in sorted(proof.cutters.items())},
        "below": round(proof.below, 4),
        "pieces": [piece_told(piece) for piece in proof.freed.pieces] + [_floor(floor) for floor in proof.floors],
        "tabs": [
            {
                "x": round(tab.middle.real, 3),
                "y": round(tab.middle.imag, 3),
                "width": round(tab.width, 4),
                "height": round(tab.height, 4),
            }
            for tab in proof.tabs
        ],
        "faults": [fault_told(danger) for danger in proof.dangers],
        "findings": [danger.text for danger in proof.dangers] + proof.notes,
    }


def _floor(floor: Floor) -> dict[str, object]:
    left, bottom, right, top = floor.shape.bounds
    return {
        "kind": "pocket",
        "width": round(right - left, 4),
        "height": round(top - bottom, 4),
        "area": round(floor.shape.area, 3),
        "depth": round(floor.depth, 4),
        "islands": len(floor.shape.interiors),
    }


def depth_proved_apart(
    data: bytes, diameters: Mapping[int, float], thickness: float, plunges: bool, datum: ZDatum | str, spoilboard: float
) -> dict[str, object]:
    """The proof of a program's bytes in both forms, for a process of its own. ``datum`` is what is at z 0, nothing if
    that is not known; ``spoilboard`` how far (mm) it may go below the sheet. Raises `BrokenFile`.
    """
    read = read_program([data], Dialect(), lambda share: progress.done(0.6 * share))
    cutters = {number: SweptCutter(diameter, plunges=plunges) for number, diameter in diameters.items()}
    placed = with_datum(read, datum, thickness)
    proof = prove_depth(placed.read, thickness, cutters, Limits(spoilboard=spoilboard))
    proof.dangers += placed.faults
    proof.notes += placed.notes
    return {"report": depth_report(proof), "sentences": _sentences(proof)}


def _sentences(proof: DepthProof) -> str:
    hanging = sum(piece.held > 0 for piece in proof.freed.pieces)
    free = len(proof.freed.pieces) - hanging
    lines = [
        f"In a sheet of {proof.thickness:g} mm: {free} pieces come free, {hanging} hang on holding tabs; "
        f"{proof.below:.3f} mm are cut below it."
    ]
    for piece in proof.freed.pieces:
        holes = f", {piece.holes} holes" if piece.holes else ""
        held = f", held by {piece.held} tabs" if piece.held else ""
        size = f"{piece.width:9.3f} x {piece.height:.3f} mm, {piece.shape.area:.1f} mm²"
        lines.append(f"  {piece.kind:6} {size}{holes}{held}")
    for floor in proof.floors:
        told = _floor(floor)
        lines.append(
            f"  pocket {told['width']:9} x {told['height']} mm, {floor.shape.area:.1f} mm², {floor.depth:.3f} deep"
        )
    for tab in proof.tabs:
        at = f"x {tab.middle.real:.2f}, y {tab.middle.imag:.2f}"
        lines.append(f"  tab    {tab.width:9.3f} wide, {tab.height:.3f} high at {at}")
    return "\n".join([*lines, *(f"{danger.text}. {danger.mend}." for danger in proof.dangers), *proof.notes])
