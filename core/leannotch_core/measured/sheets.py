"""Which sheets were measured of a stock on a machine."""

from __future__ import annotations

from ..document.measured import MeasuredSheet
from ..project.project import Project


def earlier(project: Project, sheet: MeasuredSheet) -> list[MeasuredSheet]:
    """What was measured before, of the same stock on the same machine."""
    at = project.measured.index(sheet)
    return [one for one in project.measured[:at] if (one.stock, one.machine) == (sheet.stock, sheet.machine)]
