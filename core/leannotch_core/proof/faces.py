"""Both faces of a sheet whose walls lean: its file is swept with the kerf of each, as each comes off the machine."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from ..drawings.drawing import Drawing
from ..evaluate import Result
from ..facts.kerf import Walls
from ..joints.fit import Mating
from ..joints.walls import FACES, Face, Lying, met_by
from ..machining.plan import SheetPlan
from .found import PiecesTaken, ProvedPart, SheetProof
from .oval import SweptOval
from .sheet_proof import came_free, measured_at
from .sweep import prove

_CALLED: Mapping[Face, str] = {"above": "upper", "below": "lower"}


def prove_faces(plan: SheetPlan, drawing: Drawing, result: Result, walls: Walls, found: SheetProof) -> None:
    """Sweeps the file with the kerf of either face; what is wrong there alone is told in ``found``."""
    if not walls.leaning or not plan.compensated:
        return
    for face, wider in zip(FACES, walls.faces, strict=True):
        oval = SweptOval(plan.beam.oval, plan.beam.turned)
        swept = prove(drawing, plan.kerf + wider, [tab.middle for tab in plan.tabs], oval)
        here = SheetProof(swept)
        taken = PiecesTaken([piece for piece in swept.pieces if piece.kind == "part"])
        for placement in plan.placements:
            part = result.parts[placement.part]
            if part.part.edge == "cut":
                here.parts.append(came_free(placement, taken, part, here))
                _check_openings(here, len(part.outline.cutouts))
        found.faces[face] = here.parts
        what = f"on the {_CALLED[face]} face too every part comes free, with all its cut-outs"
        known = {(fault.code, fault.text) for fault in found.faults}
        odd = [fault for fault in here.faults if (fault.code, fault.text) not in known]
        found.checked("openings", what, [replace(f, text=f"On the {_CALLED[face]} face: {f.text}") for f in odd])


def _check_openings(here: SheetProof, meant: int) -> None:
    proved = here.parts[-1]
    if proved.shape is None or len(proved.shape.interiors) == meant:
        return
    openings = len(proved.shape.interiors)
    here.fault("openings", f"{proved.name} {proved.copy_number} has {openings} cut-outs of {meant}")


def proved_on_faces(
    mating: Mating, faces: Mapping[Face, Sequence[ProvedPart]], lie: Mapping[str, Lying]
) -> tuple[float | None, float | None]:
    """The tightest gap (mm) on the upper and the lower face of the opening among all copies; None where none came free.

    ``lie`` is how copies lie on their sheets.
    """
    met = met_by(mating, lie)
    return _gap(mating, "above", faces, met), _gap(mating, "below", faces, met)


def _gap(
    mating: Mating, face: Face, faces: Mapping[Face, Sequence[ProvedPart]], met: Mapping[Face, Sequence[Face]]
) -> float | None:
    openings = measured_at(mating.opening_at, faces.get(face, ()))
    at = mating.insert_at
    inserts = [size for other in met[face] for size in measured_at(at, faces.get(other, ()))] if at else [mating.insert]
    return min(openings) - max(inserts) - mating.root if openings and inserts else None
