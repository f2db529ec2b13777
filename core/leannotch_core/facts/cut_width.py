"""How wide a cutter really cuts: between the steps that were measured, in the direction that they were measured in."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..document.routing import RoutedAt
from ..document.stock import CutterWidth
from .kerf import kerf_width


@dataclass(frozen=True, slots=True)
class CutWidth:
    """A width in mm; ``elsewhere`` is how the cutter went where it was measured, if that is not how it goes now."""

    width: float
    elsewhere: RoutedAt | None = None


def cut_width(widths: Sequence[CutterWidth], at: RoutedAt, shank: float) -> CutWidth:
    """What a cutter of a diameter (mm) cuts so. Raises `UnknownFact`.

    That a cutter is bent aside evenly more with deeper steps, between two that are near, is common practice, no source.
    """
    own = [one for one in widths if one.at.cutter == at.cutter]
    alike = [one for one in own if (one.at.direction, one.at.finished) == (at.direction, at.finished)]
    if not alike:
        return CutWidth(shank, own[-1].at if own else None)
    less = max((one for one in alike if one.at.stepdown <= at.stepdown), key=_step, default=None)
    more = min((one for one in alike if one.at.stepdown >= at.stepdown), key=_step, default=None)
    if less is None or more is None:
        near = less or more
        assert near
        return CutWidth(_width(near), near.at)
    apart = _step(more) - _step(less)
    share = (at.stepdown - _step(less)) / apart if apart else 0.0
    return CutWidth(_width(less) + share * (_width(more) - _width(less)))


def _step(one: CutterWidth) -> float:
    return one.at.stepdown


def _width(one: CutterWidth) -> float:
    return kerf_width(one.width, "width of the cut")
