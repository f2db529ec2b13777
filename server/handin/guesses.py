"""How often words are tried that let nobody in: counted by address and in all, before a word is looked at."""

from __future__ import annotations

import math
from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from handin.models import Guesses

#: So many words may be tried from one address, and from all of them, in so many minutes.
MOST, MOST_IN_ALL, MINUTES = 8, 80, 10

#: Under this name those of all addresses are counted.
_ALL = ""


def minutes_to_wait(address: str) -> int:
    """0, and one more is counted; or how many minutes no word is looked at."""
    if left := _left(address):
        return left
    with transaction.atomic():
        # Others may have been counted since.
        left = _left(address)
        for name in (address, _ALL) if not left else ():
            _count(name)
    return left


def forget(address: str) -> None:
    """A word let somebody in: what was tried from there before counts no more."""
    Guesses.objects.filter(address=address).delete()


def _left(address: str) -> int:
    now, longest = timezone.now(), 0.0
    for known in Guesses.objects.filter(address__in=(address, _ALL)):
        ends = known.since + timedelta(minutes=MINUTES)
        if known.tried >= (MOST if known.address else MOST_IN_ALL) and ends > now:
            longest = max(longest, (ends - now).total_seconds() / 60)
    return math.ceil(longest)


def _count(name: str) -> None:
    now = timezone.now()
    Guesses.objects.filter(since__lte=now - timedelta(minutes=MINUTES)).delete()
    known, _ = Guesses.objects.get_or_create(address=name, defaults={"since": now})
    known.tried += 1
    known.save()
