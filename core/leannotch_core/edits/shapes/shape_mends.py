"""What settles a finding on the shapes of a part: they are fitted inside its border, spread, or moved off a bend."""

from __future__ import annotations

from ...facts.findings import Finding, Mend
from .clearing import ClearOfBends
from .fitting import FitInside, SpreadShapes


def with_mends(finding: Finding) -> Finding:
    """A finding on a part with the edits that would settle it, beside those that it has."""
    mends = (*finding.mends, *_mends(finding))
    return finding.model_copy(update={"mends": mends}) if mends != finding.mends else finding


def _mends(finding: Finding) -> list[Mend]:
    place = finding.place
    match finding.code:
        case "crosses-border" | "reaches-out" if place.kind == "cut-out":
            fit = FitInside(do="fit inside", part=place.part, ids=[place.id])
            return [Mend(label="Fit it inside", command=fit)]
        case "near-bend" | "bend-over-cut-out" if place.kind == "cut-out":
            clear = ClearOfBends(do="clear of bends", part=place.part, id=place.id)
            return [Mend(label="Move it clear of the bend", command=clear)]
        case "narrow-web":
            return [Mend(label="Spread", command=SpreadShapes(do="spread shapes", part=place.part))]
    return []
