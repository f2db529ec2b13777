"""What a project takes of the workshop, and what that costs at its rates."""

from __future__ import annotations

from leannotch_core.costs.cost import Cost, cost_of
from leannotch_core.costs.rates import Rates
from leannotch_core.costs.taken import Taken, taken
from leannotch_core.document.sums import SizeError
from leannotch_core.machining.hatching import TooManyLines
from leannotch_core.machining.plan import CannotPlan

from workshop.prepared import prepared_sheet
from workshop.revisions import document_of, result_of


def taken_by(revision_id: int, rates: Rates) -> list[Taken]:
    """What the sheets of a revision take. Raises `CannotPlan` or `TooManyLines` where one cannot be made ready."""
    document = document_of(revision_id)
    ready = [prepared_sheet(revision_id, index) for index in range(len(document.layout.sheets))]
    return taken(document, result_of(revision_id), ready, rates.hand_work)


def cost_at(revision_id: int, rates: Rates) -> Cost:
    """What a revision costs. Raises as `taken_by` does."""
    return cost_of(document_of(revision_id), taken_by(revision_id, rates), rates)


def cost_known(revision_id: int, rates: Rates) -> Cost | None:
    """What a revision costs; None where nothing of it has a rate, or a sheet cannot be made ready."""
    if not rates.rates:
        return None
    try:
        cost = cost_at(revision_id, rates)
    except (CannotPlan, TooManyLines, SizeError):
        return None
    return cost if cost.lacking < len(cost.lines) else None
