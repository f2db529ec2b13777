"""What a proof found, as findings: each at the station where it is mended, with its place on what is drawn there."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator

from shapely import Point

from ..evaluate import Result
from ..facts.findings import Finding, Kind, Place
from ..layout.sheets import FEW, motion, placed
from ..project.project import Project
from ..proof.fault import Station
from .proof_told import ProofFault, SheetProved

#: What a station has the places of; a part is drawn where its shapes are mended, a sheet where it is cut.
_DRAWN: dict[Station, Kind] = {
    "Measure": "stock",
    "Shape": "part",
    "Join": "part",
    "Lay out": "sheet",
    "Prepare": "preparation",
    "Hand over": "file",
}

#: A place so near (mm) to a part belongs to it: what the beam takes lies beside the outline.
_NEAR = 1.0


def proof_findings(project: Project, result: Result, sheets: Iterable[SheetProved]) -> list[Finding]:
    """The faults of all sheets, sheet by sheet; many of one kind are one finding with their count."""
    return [_finding(project, result, sheet.sheet, *alike) for sheet in sheets for alike in _by_kind(sheet.faults)]


def _by_kind(faults: list[ProofFault]) -> Iterator[tuple[ProofFault, int]]:
    """The faults to be told, each with how many more there are like it."""
    counts = Counter(fault.code for fault in faults)
    told = set()
    for fault in faults:
        many = counts[fault.code] > FEW
        if not many or fault.code not in told:
            yield fault, counts[fault.code] - 1 if many else 0
        told.add(fault.code)


def _finding(project: Project, result: Result, sheet: int, fault: ProofFault, more: int) -> Finding:
    text = f"Sheet {sheet + 1}, proved: {fault.text}{f', and {more} more like it' if more else ''}. {fault.mend}."
    return Finding(level="warning", code="proved-wrong", text=text, place=_place(project, result, sheet, fault))


def _place(project: Project, result: Result, sheet: int, fault: ProofFault) -> Place:
    kind = _DRAWN[fault.station]
    if kind == "stock":
        return Place(kind=kind, id=project.layout.sheets[sheet].stock)
    if kind == "part":
        on_part = _on_part(project, result, sheet, fault)
        if on_part:
            return on_part
        kind = "file"
    return Place(kind=kind, id=str(sheet), x=fault.x, y=fault.y)


def _on_part(project: Project, result: Result, sheet: int, fault: ProofFault) -> Place | None:
    """The place of a fault in the frame of the part that lies there."""
    if fault.x is None or fault.y is None:
        return None
    here = Point(fault.x, fault.y)
    for lying in project.layout.placements:
        part = result.parts.get(lying.part)
        if lying.sheet == sheet and part and placed(part.outline, lying).distance(here) < _NEAR:
            at = motion(lying).back(complex(fault.x, fault.y))
            return Place(kind="part", id=lying.part, part=lying.part, x=at.real, y=at.imag)
    return None
