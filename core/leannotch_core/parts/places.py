"""Where findings on a part and on the shapes on it belong."""

from __future__ import annotations

from ..facts.findings import Place
from .part import Part


def of(part: Part, field_name: str, at: complex | None = None) -> Place:
    """Where a finding on a part, or at a point of it, belongs."""
    x, y = (None, None) if at is None else (at.real, at.imag)
    return Place(kind="part", id=part.id, part=part.id, field=field_name, x=x, y=y)


def of_cut_out(part: Part, cut_id: str, field_name: str) -> Place:
    """Where a finding on a cut-out belongs."""
    return Place(kind="cut-out", id=cut_id, part=part.id, field=field_name)
