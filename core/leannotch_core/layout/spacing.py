"""How far parts lie from the edge of the sheet and from one another: as typed, and no nearer than a cutter needs."""

from __future__ import annotations

from ..document.sizes import length
from ..evaluate import Result
from ..project.cutting import is_routed
from ..project.project import Project


def with_tabs(project: Project) -> bool:
    """Whether holding tabs are wanted on anything."""
    preparation = project.preparation
    return preparation.holding.how != "none" or any(part.tabs for part in preparation.held)


def room_for_tabs(cutter: float, web: float) -> tuple[float, float]:
    """Margin and gap (mm) beside a part that hangs on tabs: they hang in a web of waste that stands beyond its groove,
    and beyond that the groove of the next part begins.
    """
    return cutter + web, 2 * cutter + web


def spacing(project: Project, result: Result) -> tuple[float, float]:
    """Margin and gap (mm). A cutter needs its own width, and between two parts a web besides that does not fly about;
    holding tabs need a groove on either side of that web.

    Raises `SizeError`.
    """
    margin, gap = length(project.layout.margin, {}), length(project.layout.gap, {})
    if not is_routed(project) or not result.stocks:
        return margin, gap
    widest = max(stock.kerf for stock in result.stocks.values())
    web = max(stock.smallest_web for stock in result.stocks.values())
    if with_tabs(project):
        beside, between = room_for_tabs(widest, web)
        return max(margin, beside), max(gap, between)
    return max(margin, widest), max(gap, widest + web)
