"""The checks that an operator makes of a sheet before it is cut: made here, ticked by a person."""

from __future__ import annotations

from typing import Literal

from ..document.formats import is_program
from ..document.limits import MOST_OF_OURS
from ..document.model import Model
from ..document.sizes import shown
from ..drawings.formats import read_drawing
from ..evaluate import Result
from ..handover.proved import WrittenSheet
from ..machining.ready import Prepared
from ..project.project import Project

#: What an operator looks at.
DeskCode = Literal[
    "bed",
    "closed",
    "doubles",
    "kerf",
    "proof",
    "size",
    "stock",
    "text",
    "web",
]


class DeskCheck(Model):
    """One check: what is looked at, what was found, and whether that is good."""

    code: DeskCode
    what: str
    told: str
    good: bool


def checks(project: Project, result: Result, ready: Prepared, written: WrittenSheet, kind: str) -> list[DeskCheck]:
    """All checks of a sheet made ready for a machine, with its proved file of a kind."""
    plan, proof = ready.plan, written.proof
    parts = [result.parts[placement.part] for placement in plan.placements]
    outside = [finding.text for finding in ready.findings if finding.code in _OUTSIDE]
    webs = [part.finished.web for part in parts if part.finished.web is not None]
    least = min((part.stock.smallest_web for part in parts), default=0.0)
    narrow = min(webs, default=None)
    faults = [fault.text for fault in proof.faults]
    texts = [] if is_program(kind) else read_drawing(written.data, f"sheet.{kind}", MOST_OF_OURS).texts
    by = "in the file" if plan.compensated else "left to the machine"
    return [
        DeskCheck(
            code="size",
            what="Unit and size",
            told=f"millimetres are stated; the sheet is {plan.width:g} x {plan.height:g} mm",
            good=all(check.good for check in proof.checks if check.code == "unit"),
        ),
        DeskCheck(
            code="stock",
            what="Stock and thickness",
            told=f"{ready.stock.name}, measured {shown(ready.thickness)} by {len(ready.stock.readings)} readings",
            good=bool(ready.stock.readings),
        ),
        DeskCheck(code="bed", what="Inside the bed", told=outside[0] if outside else "all of it", good=not outside),
        DeskCheck(
            code="closed",
            what="Closed outlines",
            told=f"{len(proof.proof.open_chains)} open",
            good=not proof.proof.open_chains or bool(plan.tabs),
        ),
        DeskCheck(
            code="doubles", what="No doubles", told=f"{proof.proof.doubled} drawn twice", good=not proof.proof.doubled
        ),
        DeskCheck(code="text", what="No text left", told=f"{len(texts)} texts", good=not texts),
        DeskCheck(
            code="web",
            what="Smallest web and gap",
            told=f"{shown(narrow)}, {shown(least)} are wanted" if narrow is not None else "no cuts near each other",
            good=narrow is None or narrow >= least - 1e-6,
        ),
        DeskCheck(code="kerf", what="Kerf by whom", told=f"{shown(plan.kerf)}, {by}", good=plan.compensated),
        DeskCheck(
            code="proof", what="The proof", told=faults[0] if faults else "every part comes out", good=not faults
        ),
    ]


#: What `prepare` tells of lines that the machine cannot reach.
_OUTSIDE = ("leaves-bed", "crosses-keep-out")
