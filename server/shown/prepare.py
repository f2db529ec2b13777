"""What a browser is told at Prepare: what the machine does on a sheet, row by row."""

from __future__ import annotations

from leannotch_core.document.operations import Stage
from leannotch_core.document.preparation import Task
from leannotch_core.document.setting import Setting
from leannotch_core.machining.ready import WorkedBy
from pydantic import BaseModel


class JobShown(BaseModel):
    """The lines of one stage of one copy."""

    task: Task
    operation: str
    path: str


class CutterShown(BaseModel):
    """A cutter of the program, in the order of their use: its width in mm, and its flutes."""

    width: float
    flutes: int


class OrderRowShown(BaseModel):
    """A row of the running order: jobs by their places, lengths in mm, and the time in s."""

    stage: Stage
    operation: str
    part: str
    name: str
    jobs: list[int]
    lines: int
    length: float
    moved: float
    pierces: int
    seconds: float
    setting: Setting
    worked: WorkedBy | None = None


class AreaShown(BaseModel):
    """A keep-out of the bed, as ``x,y`` pairs with y turned down."""

    points: str


class SpotShown(BaseModel):
    """A place of the bed (mm), as one stands before it."""

    x: float
    y: float


class LiesShown(BaseModel):
    """What takes the sheet to the bed: turned by an angle, by its cosine and sine, and moved (mm), y up."""

    cos: float
    sin: float
    x: float
    y: float


class OnEdgeShown(BaseModel):
    """A holding tab, or where a cut is begun, on a copy of a part: a place of the sheet (mm)."""

    part: str
    copy_number: int
    x: float
    y: float
    along_x: float
    along_y: float


class CooledShown(BaseModel):
    """What keeping cuts beside thin webs apart costs (s), and how many neighbours of how many are cut before the other
    has rested for ``rests`` s; ``else_soon`` would be.
    """

    seconds: float
    rests: float
    soon: int
    else_soon: int
    pairs: int


class PreparedShown(BaseModel):
    """A sheet on the bed.

    ``datum`` is where the machine counts from, and ``x_runs`` and ``y_runs`` to where it counts.
    """

    version: int
    machine: str
    kind: str
    chosen: bool
    bed_width: float
    bed_height: float
    width: float
    height: float
    lies: LiesShown
    datum_x: float
    datum_y: float
    x_runs: str
    y_runs: str
    held_x: float
    held_y: float
    jobs: list[JobShown]
    rows: list[OrderRowShown]
    tabs: list[OnEdgeShown]
    starts: list[OnEdgeShown]
    box: list[SpotShown]
    hull: list[SpotShown]
    travel: str
    keep_outs: list[AreaShown]
    seconds: float
    own_seconds: float
    thickness: float
    clips_tall: float | None
    cutters: list[CutterShown]
    routed: bool
    cooled: CooledShown | None
    unreached: str
