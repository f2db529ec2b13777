"""How a sheet is prepared for the machine: in which order, from where, held by what, and where it lies on the bed."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from .limits import MOST_OF_A_PART
from .model import Corner, Id, Model
from .operations import Stage
from .routing import Routing
from .sheet import CopyOf
from .sizes import Size


class Task(Model):
    """One stage of one copy of a part: the smallest thing that the running order knows."""

    stage: Stage
    part: Id
    copy_number: int = Field(ge=1, le=MOST_OF_A_PART)


class EdgePlace(Model):
    """A place on the edge of a part: on the side of the shape that the edge was drawn as, at a share of its length.

    So it stays where it was put when sizes change.
    """

    shape: str = Field(max_length=200)
    side: str = Field(max_length=80)
    share: float = Field(ge=0, le=1)


class StartPoint(Model):
    """Where the cut of one loop of a part is begun, in all its copies."""

    part: Id
    at: EdgePlace


class HeldPart(Model):
    """Holding tabs of a part that were put by hand, in all its copies; without any it comes free."""

    part: Id
    tabs: list[EdgePlace] = Field(default=[], max_length=200)


class Holding(Model):
    """Holding tabs: none, so many for each outline, or one every so many mm; ``width`` is of what is left standing.

    Waste that falls out of a cut-out larger than ``waste`` both ways is held too; nothing where that is 0. A router
    leaves ``height`` of the sheet standing, with upright or with sloping ends; a beam all of it.
    """

    how: Literal["none", "by count", "by distance"] = "none"
    count: int = Field(default=3, ge=1, le=40)
    every: Size = Size(text="100")
    width: Size = Size(text="0.8")
    waste: Size = Size(text="0")
    height: Size = Size(text="1.5")
    ends: Literal["upright", "sloping"] = "upright"


class OnBed(Model):
    """Where a sheet lies: its corner or a mark on it (mm from its lower left corner) at machine coordinates.

    ``turn`` (degrees, counter-clockwise) is about that point. Left alone, its corner lies at the machine's datum.
    """

    by: Literal["the datum", "mark"] | Corner = "the datum"
    mark_x: Size = Size(text="0")
    mark_y: Size = Size(text="0")
    x: Size = Size(text="0")
    y: Size = Size(text="0")
    turn: float = Field(default=0, ge=-360, le=360)


class Preparation(Model):
    """``order`` are tasks that were put in an order by hand; all others come by the rule among them.

    Cuts are ``begun`` where the way is short, at corners or clear of these. With ``cooling`` those beside thin webs are
    kept apart in time.

    ``gathered`` are the copies that have been found and laid together after they were cut.
    """

    arrange: Literal["operation", "part"] = "operation"
    order: list[Task] = Field(default=[], max_length=20_000)
    starts: list[StartPoint] = Field(default=[], max_length=2000)
    lead: Size = Size(text="0")
    begun: Literal["at corners", "away from corners"] = "at corners"
    cooling: bool = False
    common_lines: bool = False
    holding: Holding = Holding()
    held: list[HeldPart] = Field(default=[], max_length=1000)
    on_bed: OnBed = OnBed()
    routing: Routing = Routing()
    gathered: list[CopyOf] = Field(default=[], max_length=20_000)
