"""Which checks an operator makes by hand, and which are taken as they were worked out, where that is good."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import get_args

from django.db import transaction
from leannotch_core.handin.checks import DeskCode
from people.log import note

from handin import desk
from handin.models import HandIn, WorkedOut

CODES: tuple[DeskCode, ...] = get_args(DeskCode)


def made() -> list[DeskCode]:
    """The checks that somebody makes; to begin with all of them."""
    worked_out = set(WorkedOut.objects.values_list("code", flat=True))
    return [code for code in CODES if code not in worked_out]


def choose(wanted: Sequence[DeskCode]) -> None:
    """Has these checks made by hand from now on, and the others taken as they were worked out."""
    with transaction.atomic():
        WorkedOut.objects.all().delete()
        WorkedOut.objects.bulk_create([WorkedOut(code=code) for code in CODES if code not in wanted])
        note("checks chosen", to=", ".join(wanted))


def take_what_is_good(found: HandIn, version: int) -> HandIn:
    """Ticks all checks that came out good and are not made by hand; those that are ticked stay so.

    Raises `DeskRefuses`.
    """
    hands = made()
    good = [check.code for check in desk.looked_at(found).checks if check.good and check.code not in hands]
    return desk.tick(found, version, [*json.loads(found.ticks), *good])
