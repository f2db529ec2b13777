"""The workshop's rates, as they are kept: one set for all projects."""

from __future__ import annotations

from collections.abc import Callable

from django.db import transaction
from leannotch_core.costs.rates import Rates
from people.log import note

from workshop.models import WorkshopRates


def rates() -> Rates:
    kept = WorkshopRates.objects.first()
    return Rates.model_validate_json(kept.document) if kept else Rates()


def change(how: Callable[[Rates], Rates]) -> Rates:
    """Keeps the rates as they are after a change, and answers them. Raises what ``how`` does; then nothing changes."""
    with transaction.atomic():
        kept = WorkshopRates.objects.select_for_update().first() or WorkshopRates()
        changed = how(Rates.model_validate_json(kept.document) if kept.document else Rates())
        kept.document = changed.model_dump_json()
        kept.save()
        note("rates set")
    return changed
