"""Which sheets were measured of a stock on a machine."""

from __future__ import annotations

from ..document.measured import MeasuredSheet
from ..project.project import Project


def earlier(project: Project, sheet: MeasuredSheet) -> list[MeasuredSheet]:
    """What was measured before, of the same stock on the same machine, since that was last tended."""
    at = project.measured.index(sheet)
    alike = [one for one in project.measured[:at] if (one.stock, one.machine) == (sheet.stock, sheet.machine)]
    machine = project.machine_of(sheet.machine)
    tended = [one.date for one in (machine.tended if machine else []) if one.date <= sheet.date]
    return [one for one in alike if one.date >= max(tended, default="")]
