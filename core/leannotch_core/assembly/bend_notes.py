"""What the maker should know of bent parts in space: legs that run into one another, orders that no press reaches,
bends along the grain.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

from ..bends.folded import Folded
from ..document.sizes import shown
from ..evaluate import EvaluatedPart, Result
from ..facts.codes import FindingCode
from ..facts.findings import Finding, Mend, Place, mend
from ..geometry.segment import move
from ..parts.bent import at_bend
from ..project.project import Project
from ..remembered import Remembered
from .bent import SelfClash, self_clashes
from .press import Blocked, Reached, bending_order, names_of_faces

#: A bend within so many degrees of the grain counts as along it.
_ALONG = 30.0

_CLASHES = Remembered[list[SelfClash]]()
_ORDERS = Remembered[Reached | Blocked]()


def order_of(part: EvaluatedPart, folded: Folded) -> Reached | Blocked:
    """In which order the bends of a part can be made."""
    return _ORDERS.of(part, (), lambda: bending_order(folded, part.stock.bending.die))


def bend_findings(project: Project, result: Result) -> list[Finding]:
    """Warnings of all bent parts of a project."""
    found: list[Finding] = []
    for part in result.parts.values():
        if part.folded:
            found += [*_clashing(part, part.folded), *_unreached(part, part.folded), *_along_grain(project, part)]
    return found


def _clashing(part: EvaluatedPart, folded: Folded) -> Iterator[Finding]:
    names = names_of_faces(folded)
    for clash in _CLASHES.of(part, (), lambda: list(self_clashes(part, folded))):
        one, other = (names[face] for face in clash.faces)
        text = (
            f"{part.part.name} runs into itself once it is bent: {one} and {other} share {clash.volume:.0f} mm³, about "
            f"{shown(clash.deep)} deep; make one of them shorter, or turn it less"
        )
        bend = next((piece.hinge.bend.id for piece in folded.bent), "")
        yield _finding("bent-into-itself", text, at_bend(part.part, bend, "length"))


def _unreached(part: EvaluatedPart, folded: Folded) -> Iterator[Finding]:
    order = order_of(part, folded)
    if isinstance(order, Reached):
        return
    names = {bend.id: bend.name for bend in part.bends}
    after = f" once {', '.join(names[bend] for bend in order.after)} are made" if order.after else ""
    text = (
        f"{part.part.name}: no order of bending was found for a straight press brake: {names[order.bend]} cannot be "
        f"made{after}, as {names_of_faces(folded)[order.face]} runs into the {order.tool}; make it shorter, bend it "
        "less, or make the part of two"
    )
    yield _finding("no-bending-order", text, at_bend(part.part, order.bend, "angle"))


def _along_grain(project: Project, part: EvaluatedPart) -> Iterator[Finding]:
    stock = project.stock(part.part.stock)
    if stock is None or stock.grain == "none":
        return
    grain = 1 if stock.grain == "along width" else 1j
    turns = [move(-place.turn).turn for place in project.layout.placements if place.part == part.part.id]
    turns = turns or ([1] if part.part.turns in ("grain", "180") else [])
    for bend in part.bends:
        for turn in turns:
            apart = abs(math.degrees(math.asin(min(1.0, abs((bend.along * (grain * turn).conjugate()).imag)))))
            if apart < _ALONG and bend.half > 0:
                text = (
                    f"{part.part.name}, {bend.name} runs along the grain of {stock.name} and may crack; turn the part "
                    "on the sheet, or give the bend a larger radius"
                )
                keep = mend("Leave it free to turn", ("parts", part.part.id, "turns"), "90")
                mends = (keep,) if part.part.turns in ("grain", "180") else ()
                yield _finding("bend-along-grain", text, at_bend(part.part, bend.id, "radius"), mends)
                break


def _finding(code: FindingCode, text: str, place: Place, mends: tuple[Mend, ...] = ()) -> Finding:
    return Finding(level="warning", code=code, text=text, place=place, mends=mends)
