"""What is wrong with a sheet that is ready for its machine: its order, its tabs, and how it lies on the bed."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence

import shapely
from shapely import Polygon, STRtree

from ..document.operations import STAGES
from ..document.sizes import shown
from ..evaluate import Result
from ..facts.codes import FindingCode
from ..facts.findings import Finding, Place
from ..geometry.chords import as_lines
from ..layout.sheets import motion
from .jobs import Job, JobKey
from .ready import Prepared, called
from .running_order import too_early


def order_findings(ready: Prepared, result: Result, index: int) -> Iterator[Finding]:
    """What is done too early; three of it one by one, and the number of the rest."""
    faults = too_early(ready.plan.jobs, dict(ready.plan.within))
    for late, early in faults[:3]:
        if (late.part, late.copy_number) == (early.part, early.copy_number):
            why = (
                f"{called(late, result)}: its {STAGES[late.stage].called} comes before its {STAGES[early.stage].called}"
            )
            what = "then it lies loose" if late.stage == "outer" else "mark it before anything is cut out"
        else:
            why = f"{called(late, result)} is cut open before {called(early, result)}, which lies in it, is done"
            what = "then that lies loose"
        yield _finding(index, "cut-too-early", f"{why}; {what}", ready, late)
    if len(faults) > 3:
        yield _finding(index, "cut-too-early", f"And {len(faults) - 3} more come too early", ready, faults[3][0])


def tab_findings(ready: Prepared, result: Result, index: int) -> Iterator[Finding]:
    """Parts that hang on one tab, which lets them tilt, or on none while others hang."""
    if not ready.plan.tabs:
        return
    count = Counter(tab.key for tab in ready.plan.tabs)
    few = [job.key for job in ready.plan.jobs if job.key.stage == "outer" and count[job.key] < 2]
    for key in few[:3]:
        hangs = "on one holding tab" if count[key] else "on no holding tab"
        yield _finding(
            index, "few-tabs", f"{called(key, result)} hangs {hangs}; two are the least that hold", ready, key
        )
    if len(few) > 3:
        yield _finding(index, "few-tabs", f"And {len(few) - 3} more hang on fewer than two", ready, few[3])


def _finding(index: int, code: FindingCode, text: str, ready: Prepared, key: JobKey | None = None) -> Finding:
    job: Job | None = next((job for job in ready.plan.jobs if job.key == key), None)
    start = job.paths[0].start if job else None
    x, y = (None, None) if start is None else (start.real, start.imag)
    return Finding(level="warning", code=code, text=text, place=Place(kind="preparation", id=str(index), x=x, y=y))


def heat_findings(ready: Prepared, result: Result, index: int) -> Iterator[Finding]:
    """Webs that the beam heats from both sides more than their stock stands, the narrowest of each part."""
    first = {placement.part: placement for placement in reversed(ready.plan.placements)}
    for part_id, placement in first.items():
        finished, name = result.parts[part_id].finished, result.parts[part_id].part.name
        needed = ready.facts.heat.web_at(ready.settings(part_id, "cut", "").at.dose)
        if finished.web is not None and finished.web < needed - 1e-6:
            text = (
                f"{name}: a web of {shown(finished.web)} is heated from both sides; at this speed and power "
                f"{shown(needed)} stay whole. Cut it faster or weaker in more passes, or let it cool between"
            )
            at = None if finished.web_at is None else motion(placement)(finished.web_at)
            x, y = (None, None) if at is None else (at.real, at.imag)
            place = Place(kind="preparation", id=str(index), x=x, y=y)
            yield Finding(level="note", code="web-too-hot", text=text, place=place)


def bed_findings(ready: Prepared, index: int, clips: Sequence[Polygon]) -> Iterator[Finding]:
    """What leaves the bed, and what the head or a line crosses on it."""
    yield from _sheet_off_bed(ready, index)
    if not ready.moves:
        return
    to_bed = ready.bed.axes.back
    lines = as_lines([[move.segment.moved(to_bed)] for move in ready.moves], 0.1)
    left, bottom, right, top = shapely.total_bounds(lines)
    over = {"left": -left, "bottom": -bottom, "right": right - ready.bed.width, "top": top - ready.bed.height}
    side = max(over, key=lambda side: over[side])
    if over[side] > 1e-6:
        text = f"What is cut leaves the bed of {ready.machine.name} by {shown(over[side])} at the {side}"
        yield _finding(index, "leaves-bed", f"{text}; lay the sheet elsewhere on it, or lay out anew", ready)
    tree = STRtree(lines)
    # A keep-out of the machine that bars a sheet is known by both.
    for clip in {clip.wkt: clip for clip in shapely.set_precision(list(clips), 0.01)}.values():
        hit = sorted(tree.query(clip, predicate="intersects"))
        if hit:
            move = ready.moves[hit[0]]
            what = "The head" if move.power is None else f"A line to {move.operation}"
            at = clip.centroid
            text = (
                f"{what} crosses a keep-out at x {at.x:.0f}, y {at.y:.0f} of the bed; lay the sheet or part elsewhere"
            )
            yield _finding(index, "crosses-keep-out", text, ready, ready.plan.jobs[move.job].key)


def _sheet_off_bed(ready: Prepared, index: int) -> Iterator[Finding]:
    """A sheet that does not lie on the bed wholly; it may hang over, as long as nothing is cut there."""
    corners = [ready.lies(complex(x, y)) for x in (0, ready.plan.width) for y in (0, ready.plan.height)]
    across, up = [corner.real for corner in corners], [corner.imag for corner in corners]
    over = {"left": -min(across), "bottom": -min(up)}
    over |= {"right": max(across) - ready.bed.width, "top": max(up) - ready.bed.height}
    side = max(over, key=lambda side: over[side])
    if over[side] > 1e-6:
        size = f"{shown(ready.plan.width)} x {shown(ready.plan.height)}"
        bed = f"the bed of {ready.machine.name}, {shown(ready.bed.width)} x {shown(ready.bed.height)}"
        text = f"Sheet {index + 1} of {size} reaches {shown(over[side])} over {bed}, at the {side}"
        yield _finding(index, "sheet-off-bed", text, ready).model_copy(update={"level": "note"})
