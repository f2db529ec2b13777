"""The library: stocks and machines kept for other projects, and what stocks have learnt since a project took them."""

from __future__ import annotations

import json
import logging
from collections.abc import Iterable, Iterator
from contextlib import suppress
from typing import Any, TypeVar, cast

from django.db.models import Manager
from django.utils import timezone
from leannotch_core.document.cutter import Cutter
from leannotch_core.document.faults import first_fault
from leannotch_core.document.machine import Machine
from leannotch_core.document.stock import Known, Stock
from leannotch_core.edits.stock import PutStock
from leannotch_core.facts.anew import measured_alike, what_changes, with_what_was_measured
from leannotch_core.facts.codes import FindingCode
from leannotch_core.facts.findings import Finding, Mend, Place
from leannotch_core.facts.profiles.rack import SHIPPED
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.project.project import Project
from pydantic import ValidationError

from workshop.models import Kept, LibraryCutter, LibraryMachine, LibraryStock

log = logging.getLogger(__name__)


K = TypeVar("K", bound=Stock | Machine | Cutter)
_ROWS: dict[type, Manager[Any]] = {
    Stock: LibraryStock.objects,
    Machine: LibraryMachine.objects,
    Cutter: LibraryCutter.objects,
}


def stocks() -> list[Stock]:
    return _read(Stock, LibraryStock.objects.all())


def machines() -> list[Machine]:
    return _over(shipped().values(), _read(Machine, LibraryMachine.objects.all()))


def cutters() -> list[Cutter]:
    return _over(SHIPPED, _read(Cutter, LibraryCutter.objects.all()))


def _read(kind: type[K], rows: Iterable[Kept]) -> list[K]:
    """What of the rows can be read: one that cannot never takes the others with it."""
    found: list[K] = []
    for row in rows:
        try:
            found.append(cast(K, kind.model_validate_json(row.document)))
        except ValidationError as error:
            what = kind.__name__.lower()
            log.error("the %s “%s” in the library cannot be read: %s", what, row.name, first_fault(error))
    return found


def _over(ship: Iterable[K], kept: Iterable[K]) -> list[K]:
    """Those that ship and those that are kept; one that is kept takes the place of the shipped one of its name."""
    found = {thing.name: thing for thing in ship}
    found.update({thing.name: thing for thing in kept})
    return list(found.values())


#: So many states are known that a stock was measured to before.
_EARLIER = 8


def namesake(thing: K) -> K | None:
    """What is kept under the name of a thing; nothing of those that ship."""
    return next(iter(_read(type(thing), _ROWS[type(thing)].filter(name=thing.name))), None)


def keep(thing: Stock | Machine | Cutter) -> None:
    """Adds it to the library, or replaces the one of its name."""
    fresh: dict[str, object] = {"document": thing.model_dump_json()}
    if isinstance(thing, Stock):
        fresh |= _as_before(thing)
    _ROWS[type(thing)].update_or_create(name=thing.name, defaults=fresh)


def _as_before(stock: Stock) -> dict[str, object]:
    """What is kept of a stock's namesake where the stock was measured anew since."""
    row = LibraryStock.objects.filter(name=stock.name).first()
    before = _read(Stock, [row] if row else [])
    machines = {known.machine for one in (stock, *before) for known in one.on}
    if row is None or all(measured_alike(stock, one, machine) for one in before for machine in ("", *machines)):
        return {}
    earlier = [*json.loads(row.earlier), *(one.model_dump(mode="json") for one in before)]
    return {"earlier": json.dumps(earlier[-_EARLIER:]), "since": timezone.now()}


def begun(name: str) -> Project:
    """A new project with the first stock of the library, and the machine that this is known on."""
    taken = stocks()[:1]
    on = [known.machine for stock in taken for known in stock.on]
    machine = [machine for machine in machines() if machine.id in on][:1]
    return Project(name=name, stocks=taken, machines=machine, machine=machine[0].id if machine else "")


def stock_news(document: Project) -> list[Finding]:
    """For each stock of a project whose namesake in the library had a coupon or was measured anew since: what changed,
    and the mend.
    """
    rows = {row.name: row for row in LibraryStock.objects.filter(name__in={stock.name for stock in document.stocks})}
    kept = {stock.name: stock for stock in _read(Stock, rows.values())}
    known = [(stock, kept[stock.name]) for stock in document.stocks if stock.name in kept]
    told = [_had_a_coupon(document, *both) or _measured_anew(document, *both, rows[both[0].name]) for both in known]
    return [news for news in told if news]


def _had_a_coupon(document: Project, stock: Stock, kept: Stock) -> Finding | None:
    newer, known = kept.known(document.machine), stock.known(document.machine)
    # What is known of no machine in particular says nothing of the one in use.
    if not newer.history or newer.history[-1] in known.history or (document.machine and newer is kept):
        return None
    result = newer.history[-1]
    own = known.history[-1] if known.history else None
    if own and own.date > result.date:
        return None
    in_use = document.machine_of(document.machine)
    machine = f" on {in_use.name}" if in_use else ""
    take = Mend(label=f"Take the values of {result.date}", command=_values_of(newer, stock, document.machine))
    since = f"this project uses the values of {own.date}" if own else "this project uses older values"
    text = (
        f"{stock.name}: a coupon of {result.date}{machine} gave a kerf of {result.kerf:.3g} mm and a glue "
        f"clearance of {result.glue:.3g} mm; {since}"
    )
    return _news("newer-coupon", stock, "history", text, take)


def _news(code: FindingCode, stock: Stock, field: str, text: str, take: Mend) -> Finding:
    place = Place(kind="stock", id=stock.id, field=field)
    return Finding(level="note", code=code, text=text, place=place, mends=(take,))


def _measured_anew(document: Project, stock: Stock, kept: Stock, row: LibraryStock) -> Finding | None:
    """What is told of a stock that is as its namesake was before that was measured anew; one that the maker has
    measured for themselves is another sheet.
    """
    machine = document.machine
    if row.since is None or measured_alike(stock, kept, machine):
        return None
    if not any(measured_alike(stock, one, machine) for one in _earlier(row)):
        return None
    day = f"{timezone.localtime(row.since):%Y-%m-%d}"
    changes = what_changes(stock, kept, machine)
    parts = sum(part.count for part in document.parts if part.stock == stock.id)
    anew = PutStock(do="put stock", stock=with_what_was_measured(stock, kept, machine))
    text = (
        f"{stock.name} was measured anew for everybody on {day}: {', '.join(changes) or 'the same sizes'}; "
        f"this project cuts {parts} {'part' if parts == 1 else 'parts'} from it by what was known before"
    )
    return _news("measured-anew", stock, "readings", text, Mend(label=f"Take what was measured on {day}", command=anew))


def _earlier(row: LibraryStock) -> Iterator[Stock]:
    """As it was measured before; what an older Lean Notch kept otherwise says nothing."""
    for one in json.loads(row.earlier):
        with suppress(ValidationError):
            yield Stock.model_validate(one)


def _values_of(known: Known, stock: Stock, machine: str) -> PutStock:
    """A stock with what its namesake was measured to on a machine."""
    measured = {name: getattr(known, name) for name in ("kerf", "clearances", "history")}
    return PutStock(do="put stock", stock=stock.with_known(machine, **measured))
