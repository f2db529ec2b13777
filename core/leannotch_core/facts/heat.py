"""What a stock wants of the heat of a beam, in numbers."""

from __future__ import annotations

from dataclasses import dataclass

from ..document.sizes import length
from ..document.stock import Heat, LeadSide
from .unknown import field_mm


@dataclass(frozen=True, slots=True)
class HeatFacts:
    """For fields see `Heat`; ``lead`` in mm."""

    lead: float
    side: LeadSide
    rests: float
    web: float

    def web_at(self, dose: float) -> float:
        """How wide (mm) a web stays whole between two cuts that get such a dose (see `CutAt.dose`).

        >>> HeatFacts(1.0, "any", 8.0, 0.25).web_at(4.0)
        1.0
        """
        return self.web * dose


def heat_facts(heat: Heat) -> HeatFacts:
    """Raises `UnknownFact`."""
    return HeatFacts(field_mm("lead-in", heat.lead, length), heat.side, heat.rests, heat.web)
