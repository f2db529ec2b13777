"""A sheet's file written, read back from its bytes, and proved."""

from __future__ import annotations

from dataclasses import dataclass

from ..cutters import CutterFacts, NoCutter, chip_load
from ..document.hand_over import HandOver
from ..document.sizes import positive
from ..document.sums import SizeError
from ..evaluate import Result
from ..machining.prepared import Prepared
from ..machining.routed.rack import Rack
from ..project import Project
from ..proof.depth.dangers import Limits
from ..proof.depth.sheet import prove_routed
from ..proof.depth.swept import Shape
from ..proof.sheet_proof import SheetProof, prove_sheet
from .formats import FORMATS
from .gcode import cutters_of, write_gcode
from .read_back import read_back, read_program_back


@dataclass(frozen=True, slots=True)
class Written:
    """The files of a sheet, one, or for a router one for each cutter, with the proof of these very bytes."""

    files: dict[str, bytes]
    proof: SheetProof

    @property
    def data(self) -> bytes:
        return next(iter(self.files.values()))


def written(project: Project, result: Result, ready: Prepared, kind: str, wanted: HandOver) -> Written:
    """Raises `CannotPlan` where the sheet cannot be written so."""
    if kind != "nc" or ready.plan.rack is None:
        data = FORMATS[kind].write(ready, wanted)
        return Written({"": data}, prove_sheet(ready.plan, read_back(data, kind, ready), result))
    used = cutters_of(ready)
    if wanted.programs == "one a cutter" and len(used) > 1:
        files = {one.id: write_gcode(ready, one.id) for one in used}
    else:
        files = {"": write_gcode(ready)}
    read = read_program_back(list(files.values()), ready)
    shapes = {number: _shape(one) for number, one in enumerate(used, 1)}
    limits = _limits(project, ready, ready.plan.rack, used)
    shapes = shapes or {1: _shape(ready.plan.rack.cut)}
    unit = ready.machine.unit
    proof = prove_routed(ready.plan, read, result, ready.thickness, shapes, limits, unit)
    return Written(files, proof)


def _shape(one: CutterFacts) -> Shape:
    tip = one.tip if one.tip in ("ball", "V") else "flat"
    return Shape(one.diameter, tip, one.angle, one.plunges, one.flutes)


def _limits(project: Project, ready: Prepared, rack: Rack, used: list[CutterFacts]) -> Limits:
    stock = next((stock for stock in project.stocks if stock.name == ready.stock), None)
    chip: dict[int, float] = {}
    for number, one in enumerate(used, 1):
        known = project.cutter(one.id)
        if known and stock:
            chip[number] = chip_load(known, one, stock.material)[1]
    try:
        below = positive(ready.machine.spoilboard, {})
    except SizeError as error:
        raise NoCutter(f"{ready.machine.name}, spoilboard: {error}.") from error
    return Limits(rack.ramp + 0.05, chip, below)
