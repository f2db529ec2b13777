"""What settles a finding on the layout: which copies are to be laid anew, and from which sheet on."""

from __future__ import annotations

from ..document.sheet import CopyOf
from ..facts.findings import Finding, Mend
from .layout import LayAgain

#: More copies than this are laid out by nesting, which takes its time.
FEW = 60


def with_mends(finding: Finding) -> Finding:
    """A finding of a layout with the edits that would settle it."""
    return finding.model_copy(update={"mends": tuple(_mends(finding))})


def _mends(finding: Finding) -> list[Mend]:
    copies = finding.place.copies
    if not copies:
        # All of them are cut already: nothing of it is laid anywhere.
        return []
    match finding.code:
        case "overlap" | "too-close" | "off-sheet" | "in-margin" | "other-turn" | "other-face":
            sheet = int(finding.place.id)
            return [_again("Move it clear", copies[:1], sheet), _again("Next sheet", copies[:1], sheet + 1)]
        case "other-stock":
            return [_again("Lay it on its stock", copies[:1], 0)]
        case "not-laid-out" | "out-of-date" if len(copies) <= FEW:
            return [_again("Lay it out again" if len(copies) == 1 else "Lay them out again", copies, 0)]
    return []


def _again(label: str, copies: list[CopyOf], sheet: int) -> Mend:
    return Mend(label=label, command=LayAgain(copies=copies, sheet=sheet))
