"""The stock library: stocks kept for other projects, and what they have learnt since a project took them."""

from __future__ import annotations

import logging
from collections.abc import Iterable

from leannotch_core.document.faults import first_fault
from leannotch_core.document.stock import Stock
from leannotch_core.edits.stock import PutStock
from leannotch_core.findings import Finding, Mend, Place
from leannotch_core.project import Project as Document
from pydantic import ValidationError

from workshop.models import LibraryStock

log = logging.getLogger(__name__)


def stocks() -> list[Stock]:
    return _read(LibraryStock.objects.all())


def _read(rows: Iterable[LibraryStock]) -> list[Stock]:
    """The stocks of rows that can be read: one that cannot never takes the others with it."""
    found = []
    for row in rows:
        try:
            found.append(Stock.model_validate_json(row.document))
        except ValidationError as error:
            log.error("the stock “%s” in the library cannot be read: %s", row.name, first_fault(error))
    return found


def keep(stock: Stock) -> None:
    """Adds a stock to the library, or replaces the one of its name."""
    LibraryStock.objects.update_or_create(name=stock.name, defaults={"document": stock.model_dump_json()})


def stock_news(document: Document) -> list[Finding]:
    """For each stock of a project whose namesake in the library had a coupon since: what changed, and the mend."""
    names = {stock.name for stock in document.stocks}
    kept = {stock.name: stock for stock in _read(LibraryStock.objects.filter(name__in=names))}
    found = []
    for stock in document.stocks:
        newer = kept.get(stock.name)
        if newer is None or not newer.history or newer.history[-1] in stock.history:
            continue
        result = newer.history[-1]
        own = stock.history[-1] if stock.history else None
        if own and own.date > result.date:
            continue
        machine = f" on {result.machine}" if result.machine else ""
        since = f"this project uses the values of {own.date}" if own else "this project uses older values"
        found.append(
            Finding(
                level="note",
                code="newer-coupon",
                text=f"{stock.name}: a coupon of {result.date}{machine} gave a kerf of {result.kerf:.3g} mm and a glue "
                f"clearance of {result.glue:.3g} mm; {since}",
                place=Place(kind="stock", id=stock.id, field="history"),
                mends=(Mend(label=f"Take the values of {result.date}", command=_values_of(newer, stock)),),
            )
        )
    return found


def _values_of(known: Stock, stock: Stock) -> PutStock:
    """A stock with what its namesake was measured to."""
    measured = {name: getattr(known, name) for name in ("kerf", "clearances", "machine", "history")}
    return PutStock(do="put stock", stock=stock.model_copy(update=measured))
