"""A sheet's proof as plain values, ready to be drawn and told; and that of any file that is held against a sheet."""

from __future__ import annotations

import json
from typing import Any

import shapely

from ..document.formats import FORMATS, format_named
from ..document.model import Model
from ..drawings.bounds import Bounds
from ..drawings.drawing import BrokenFile
from ..evaluate import evaluate
from ..machining.hatching import TooManyLines
from ..machining.plan import CannotPlan
from ..machining.prepared import prepare
from ..machining.ready import Prepared
from ..project.project import NotAProject, read_project
from ..proof.fault import Code, Fault, Station
from ..proof.found import ProvedPart, SheetProof
from .proved import proved_anyhow
from .svg import path_data

#: What the proof of a file from elsewhere may take.
PROVING_GIVEN = Bounds(seconds=90, megabytes=2000)

#: A piece is drawn within this (mm) of how it was measured.
_DRAWN = 0.002


class ProofFault(Model):
    """What is wrong on a sheet, with its place in mm where there is one, what mends it, and at which station."""

    code: Code
    text: str
    mend: str
    station: Station
    x: float | None = None
    y: float | None = None


class PieceShown(Model):
    kind: str
    path: str
    width: float
    height: float


class LegShown(Model):
    """A leg of a bent part, outside (mm), as intended and as proved; ``called`` is its bend."""

    called: str
    wanted: float
    proved: float | None


class ProvedRow(Model):
    """One copy of a part, as intended and as proved (mm); ``held`` on how many holding tabs it hangs."""

    part: str
    name: str
    copy_number: int
    width: float
    height: float
    proved_width: float | None
    proved_height: float | None
    deviation: float | None
    good: bool
    held: int = 0
    legs: list[LegShown] = []


class ProofCheck(Model):
    """Something that was looked at, in words, and whether it holds."""

    code: Code
    what: str
    good: bool


class SheetProved(Model):
    """A sheet's proof; path data has y turned down from 0."""

    sheet: int
    kerf: float
    compensated: bool
    routed: bool
    pieces: list[PieceShown]
    sunk: str
    lines: str
    open_lines: int
    doubled: int
    parts: list[ProvedRow]
    faults: list[ProofFault]
    notes: list[str]
    checks: list[ProofCheck]


def sheet_told(index: int, ready: Prepared, proof: SheetProof) -> SheetProved:
    """A sheet's proof, ready to draw."""
    swept = proof.proof
    return SheetProved(
        sheet=index,
        kerf=ready.plan.kerf,
        compensated=ready.plan.compensated,
        routed=ready.plan.rack is not None,
        pieces=[PieceShown(kind=p.kind, path=_rings(p.shape), width=p.width, height=p.height) for p in swept.pieces],
        lines="".join(path_data(p.segments, 0.0, p.closed) for p in ready.plan.paths if p.operation == "cut"),
        sunk="".join(_rings(shape) for shape in proof.sunk),
        open_lines=len(swept.open_chains),
        doubled=swept.doubled,
        parts=[_row(part) for part in proof.parts],
        faults=[fault_told(fault) for fault in proof.faults],
        notes=proof.notes,
        checks=[ProofCheck(code=check.code, what=check.what, good=check.good) for check in proof.checks],
    )


def fault_told(fault: Fault) -> ProofFault:
    """A fault with its mend and the station of that, its place rounded to what files hold."""
    x, y = (None, None) if fault.at is None else (round(fault.at.real, 4), round(fault.at.imag, 4))
    return ProofFault(code=fault.code, text=fault.text, mend=fault.mend, station=fault.station, x=x, y=y)


def _row(part: ProvedPart) -> ProvedRow:
    plain = {name: getattr(part, name) for name in ProvedRow.model_fields if name != "legs"}
    # What lies nowhere near its intent is no distance.
    off = part.deviation if part.deviation is not None and part.deviation < float("inf") else None
    legs = [LegShown(called=leg.called, wanted=leg.wanted, proved=leg.proved) for leg in part.legs]
    return ProvedRow(**{**plain, "deviation": off, "legs": legs})


def _rings(shape: object) -> str:
    """A measured piece for the screen: what the sweep left, drawn as it was measured."""
    words = []
    for ring in shapely.get_rings(shapely.simplify(shape, _DRAWN)):
        points = shapely.get_coordinates(ring)[:-1]
        words.append("M" + "L".join(f"{x:.3f} {-y:.3f}" for x, y in points) + "Z")
    return "".join(words)


def given_apart(data: bytes, name: str, document: str, index: int) -> dict[str, Any]:
    """What any file would give in place of that of a sheet (by its place) of a project, as plain JSON values: for a
    process of its own. Raises `BrokenFile`.
    """
    kind = format_named(name)
    if kind is None:
        raise BrokenFile(f"“{name}” ends in neither {' nor '.join(f'.{ending}' for ending in FORMATS)}.")
    try:
        project = read_project(document.encode())
        result = evaluate(project)
        if not 0 <= index < len(project.layout.sheets):
            raise BrokenFile(f"There is no sheet {index + 1}; the layout has {len(project.layout.sheets)}.")
        ready = prepare(project, result, index)
        proof = proved_anyhow(project, result, ready, kind, [data])
    except (CannotPlan, TooManyLines, NotAProject) as error:
        raise BrokenFile(str(error)) from error
    told: dict[str, Any] = json.loads(sheet_told(index, ready, proof).model_dump_json())
    return told
