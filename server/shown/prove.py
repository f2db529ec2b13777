"""What a browser is told at Prove."""

from __future__ import annotations

from datetime import datetime

from leannotch_core.handover.proof_told import SheetProved
from ninja import Schema


class GapOnFaces(Schema):
    """A gap (mm) on the upper and on the lower face of its opening."""

    above: float | None
    below: float | None


class ProofShown(Schema):
    """The proof of all sheets; ``gaps`` are the proved gaps in the order of the ledger, ``faces`` those on the upper
    and the lower face of the opening where the walls of cuts lean.
    """

    version: int
    sheets: list[SheetProved]
    gaps: list[float | None]
    faces: list[GapOnFaces] = []


class ProofStands(Schema):
    """When a project was proved, with how many parts and faults; ``now`` where nothing was changed since."""

    when: datetime
    parts: int
    faults: int
    now: bool
