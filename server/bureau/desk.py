"""The service's desk: files taken in, choices, orders, and the days going by."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from aside import deletable
from django.db import transaction
from django.db.models import F, QuerySet
from leannotch_core.bureau.catalogue import MONEY, OfferedThickness, catalogue
from leannotch_core.bureau.orders import Progress, progress
from leannotch_core.bureau.quote import Quote, QuotedParts, Rule, Wanted, look, quote, rules
from leannotch_core.bureau.seen import FileUnit, SeenFile, seen
from leannotch_core.document.limits import LARGEST_DRAWING
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.remembered import remembered
from leannotch_core.said import Said
from people.asking import maker_asking
from pydantic import TypeAdapter

from bureau.models import Day, Enquiry, Order

_FILES = TypeAdapter(list[SeenFile])
_RULES = TypeAdapter(list[Rule])


class ServiceRefuses(Said):
    """What the service does not do; the message is a sentence to show."""


class ChangedMeanwhile(ServiceRefuses):
    """Somebody else has chosen something in between."""


def take(name: str, data: bytes) -> Enquiry:
    """Takes a file in, once it could be read. Raises `BrokenFile`."""
    if len(data) > LARGEST_DRAWING:
        raise BrokenFile(f"{name} has {len(data) / 1e6:.1f} MB; at most {LARGEST_DRAWING / 1e6:g} MB are taken.")
    found = seen(data, name)
    told = _FILES.dump_json(found).decode()
    return Enquiry.objects.create(name=name, data=data, seen=told, owner_id=maker_asking.get())


def seen_by_who_asks(files: QuerySet[Enquiry]) -> QuerySet[Enquiry]:
    """Those of some files that are the asking maker's own; for all others all of them."""
    maker = maker_asking.get()
    return files if maker is None else files.filter(owner=maker)


def take_as(enquiry: Enquiry, unit: FileUnit) -> Enquiry:
    """Reads the file again with its numbers taken for another unit. Raises `BrokenFile`."""
    found = seen(bytes(enquiry.data), enquiry.name, unit)
    wanted = wanted_of(enquiry).model_copy(update={"size_is_right": False})
    return _put(enquiry, unit=unit, seen=_FILES.dump_json(found).decode(), wanted=wanted.model_dump_json())


def choose(enquiry: Enquiry, wanted: Wanted, version: int) -> Enquiry:
    """Keeps what was chosen. Raises `ServiceRefuses`."""
    if version != enquiry.version:
        raise ChangedMeanwhile("Something else was chosen meanwhile, in another window; look at it, and choose again.")
    stock = catalogue().stock(wanted.stock) if wanted.stock else None
    if wanted.stock and stock is None:
        raise ServiceRefuses(f"There is no material “{wanted.stock}”.")
    if stock and wanted.thickness and catalogue().offer(wanted.stock, wanted.thickness) is None:
        there = ", ".join(f"{offer.thickness:g}" for offer in stock.offers)
        raise ServiceRefuses(f"{stock.name} is there in {there} mm, not in {wanted.thickness:g} mm.")
    kept = [finish for finish in wanted.finishes if stock and finish in stock.finishes]
    thickness = wanted.thickness if offer_of(wanted) else 0
    return _put(enquiry, wanted=wanted.model_copy(update={"finishes": kept, "thickness": thickness}).model_dump_json())


def order(enquiry: Enquiry, version: int, key: str = "") -> Order:
    """Orders an enquiry as it stands; what is sent again with the same ``key`` is ordered once.

    Raises `ServiceRefuses`.
    """
    if known := _ordered(enquiry, key):
        return known
    if enquiry.deleted:
        raise ServiceRefuses(f"{enquiry.name} was deleted. Have it back, and then order it.")
    if version != enquiry.version:
        raise ChangedMeanwhile("Something was chosen meanwhile, in another window; look at the price again.")
    found = looked_at(enquiry)
    stops = [rule for rule in found.rules if rule.stops]
    if stops or found.quote is None:
        raise ServiceRefuses(f"It cannot be ordered as it is. {stops[0].text if stops else ''}")
    with transaction.atomic():
        return _ordered(enquiry, key) or Order.objects.create(
            enquiry=enquiry,
            key=key,
            day=today(),
            wanted=enquiry.wanted,
            quote=found.quote.model_dump_json(),
            told=_RULES.dump_json(found.rules).decode(),
            bent=any(part.folded for part in found.looked.result.parts.values()),
        )


def _ordered(enquiry: Enquiry, key: str) -> Order | None:
    return Order.objects.filter(enquiry=enquiry, key=key).first() if key else None


def _put(enquiry: Enquiry, **changes: str) -> Enquiry:
    """Stores changes where nobody else has stored any since it was read. Raises `ChangedMeanwhile`."""
    fresh = {**changes, "version": enquiry.version + 1}
    if not Enquiry.objects.filter(pk=enquiry.pk, version=enquiry.version).update(**fresh):
        raise ChangedMeanwhile("Something else was chosen meanwhile, in another window; look at it, and choose again.")
    enquiry.refresh_from_db()
    return enquiry


def delete(enquiry: Enquiry) -> None:
    """Marks a file deleted. Raises `ServiceRefuses` of one that was ordered."""
    if ordered := enquiry.orders.first():
        raise ServiceRefuses(f"{enquiry.name} was ordered; it is kept with {ordered}.")
    deletable.delete(enquiry)


def take_away_what_is_over() -> int:
    """Takes away what was deleted long ago; answers how many."""
    return deletable.take_away(deletable.over(Enquiry.objects.filter(orders=None)))


# What follows


@dataclass(frozen=True, slots=True)
class LookedAt:
    """An enquiry with what follows from it; no quote where no sheet is chosen."""

    files: list[SeenFile]
    wanted: Wanted
    looked: QuotedParts
    rules: list[Rule]
    quote: Quote | None


def wanted_of(enquiry: Enquiry | Order) -> Wanted:
    return Wanted.model_validate_json(enquiry.wanted)


def offer_of(wanted: Wanted) -> OfferedThickness | None:
    return catalogue().offer(wanted.stock, wanted.thickness) if wanted.stock else None


def looked_at(enquiry: Enquiry) -> LookedAt:
    return _looked_at(enquiry.seen, enquiry.wanted)


@remembered(most=16)
def _looked_at(seen_json: str, wanted_json: str) -> LookedAt:
    files, wanted = _FILES.validate_json(seen_json), Wanted.model_validate_json(wanted_json)
    offer, stock = offer_of(wanted), catalogue().stock(wanted.stock) if wanted.stock else None
    looked = look(files, wanted, stock, offer)
    found = rules(files, wanted, offer, looked)
    return LookedAt(files, wanted, looked, found, quote(wanted, offer, looked, catalogue()) if offer else None)


# Days


def today() -> int:
    day, _ = Day.objects.get_or_create(pk=1)
    return day.number


def next_day() -> int:
    Day.objects.get_or_create(pk=1)
    Day.objects.filter(pk=1).update(number=F("number") + 1)
    return today()


def progress_of(made: Order) -> Progress:
    quoted = Quote.model_validate_json(made.quote)
    told = [rule for rule in _RULES.validate_json(made.told) if rule.code not in _HARMLESS]
    return progress(made.day, today(), quoted.days, made.bent, bool(wanted_of(made).finishes), told)


#: What is told of a file, and yet is no reason to send it back.
_HARMLESS = ("doubled", "live-text", "open-lines", "other-thickness")


@dataclass(frozen=True, slots=True)
class OrderTold:
    """What somebody who sent a file may ask of it: where its latest order stands, and what that costs."""

    enquiry: int
    order: int | None
    state: str
    why: str
    price: float | None
    money: str = MONEY


def told_of(enquiries: Iterable[int]) -> dict[int, OrderTold]:
    """Where the files with those numbers stand."""
    found: dict[int, OrderTold] = {}
    for enquiry in Enquiry.objects.filter(pk__in=list(enquiries)).prefetch_related("orders"):
        last = next(iter(enquiry.orders.all()), None)
        now = progress_of(last) if last else None
        price = Quote.model_validate_json(last.quote).total if last else None
        state, why = (now.state, now.why) if now else ("not ordered yet", "")
        found[enquiry.pk] = OrderTold(enquiry.pk, last.pk if last else None, state, why, price)
    return found
