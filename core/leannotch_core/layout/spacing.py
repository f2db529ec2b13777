"""How far parts lie from the edge of the sheet and from one another: as typed, and no nearer than a cutter needs."""

from __future__ import annotations

from ..cutters import is_routed
from ..document.sizes import length
from ..evaluate import Result
from ..project import Project


def spacing(project: Project, result: Result) -> tuple[float, float]:
    """Margin and gap (mm). A cutter needs its own width, and between two parts a web besides that does not fly about.

    Raises `SizeError`.
    """
    margin, gap = length(project.layout.margin, {}), length(project.layout.gap, {})
    if not is_routed(project) or not result.stocks:
        return margin, gap
    widest = max(stock.kerf for stock in result.stocks.values())
    web = max(stock.smallest_web for stock in result.stocks.values())
    return max(margin, widest), max(gap, widest + web)
