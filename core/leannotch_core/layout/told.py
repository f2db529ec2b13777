"""What a layout takes and leaves, to be told beside the one before."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from ..document.sheet import Layout
from ..evaluate import Result
from ..project.project import Project
from .left import left_whole
from .rest import Rest
from .sheets import check_layout


@dataclass(frozen=True, slots=True)
class SizeTaken:
    """So many sheets of one size of a stock, mm."""

    stock: str
    width: float
    height: float
    count: int


@dataclass(frozen=True, slots=True)
class LayoutTold:
    """The sheets that a layout takes, ``instead`` of those of another; what of them is parts, and what is left whole.

    ``left`` is the rest of the last sheet of each stock.
    """

    takes: tuple[SizeTaken, ...]
    instead: tuple[SizeTaken, ...]
    used: float
    left: tuple[Rest, ...]


def compared_with(project: Project, result: Result, first: Layout) -> Layout:
    """What a layout is told beside: the project's own if that has all parts, else the ``first`` one found."""
    counted = sum(part.part.count for part in result.parts.values()) - len(project.layout.finished)
    whole = len(project.layout.placements) == counted and not check_layout(project, result).out_of_date
    return project.layout if whole else first


def told(project: Project, result: Result, layout: Layout, instead: Layout) -> LayoutTold:
    """What ``layout`` takes ``instead`` of another."""
    laid = project.model_copy(update={"layout": layout})
    facts = check_layout(laid, result)
    area = sum(sheet.width * sheet.height for sheet in facts.sheets)
    return LayoutTold(
        takes=_sizes(layout),
        instead=_sizes(instead),
        used=sum(sheet.used * sheet.width * sheet.height for sheet in facts.sheets) / area if area else 0.0,
        left=tuple(filter(None, left_whole(laid, result))),
    )


def _sizes(layout: Layout) -> tuple[SizeTaken, ...]:
    counts = Counter((sheet.stock, sheet.width, sheet.height) for sheet in layout.sheets)
    return tuple(SizeTaken(*size, count) for size, count in counts.items())
