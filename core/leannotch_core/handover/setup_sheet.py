"""The setup sheet as PDF: where the sheet lies on the bed, what is done row by row, and for how long."""

from __future__ import annotations

from collections.abc import Iterator

from ..assembly.bend_notes import order_of
from ..assembly.press import Reached
from ..document.hand_over import HandOver
from ..document.operations import STAGES
from ..document.sizes import shown
from ..document.stock import NEVER_BURNED
from ..geometry.segment import Motion
from ..machining.ready import Prepared, PreparedRow
from .letters import POINTS
from .paper import HEIGHT, LINE, MARGIN, SMALL, WIDTH, Words, fitting, on_paper, wrapped
from .pdf import path_words

#: The height that the drawing may have, mm.
DRAWING = 84.0

#: So many bends stand on the page that is theirs.
_BENDS = 48

#: Where the columns of the rows begin and how wide they are, mm, and what stands over them.
_ROW_COLUMNS = (
    (0.0, 7.0, ""),
    (7.0, 66.0, "what is done"),
    (74.0, 34.0, "with"),
    (109.0, 23.0, "speed"),
    (133.0, 20.0, "power"),
    (154.0, 12.0, "times"),
    (167.0, 13.0, "takes"),
)


def write_setup_sheet(ready: Prepared, wanted: HandOver) -> bytes:
    """The bytes of one page of A4, and of one more where parts are bent; the same sheet gives the same bytes."""
    pages = [_page(ready, wanted)]
    if ready.plan.bent:
        pages.append(_bend_table(ready))
    return on_paper(ready.plan.name, pages)


def _page(ready: Prepared, wanted: HandOver) -> Iterator[str | Words]:
    top = HEIGHT - MARGIN - 6
    yield Words(MARGIN, top, 14, fitting(ready.plan.name, WIDTH - 2 * MARGIN, 14))
    facts = [line for fact in _facts(ready, wanted) for line in wrapped(fact)]
    for number, line in enumerate(facts):
        yield Words(MARGIN, top - 8 - LINE * number, SMALL, line)
    watch = [line for fact in _watch(ready) for line in wrapped(fact)]
    foot = top - 8 - LINE * len(facts) - DRAWING
    yield from _drawing(ready, foot)
    rest = MARGIN + LINE * len(watch)
    yield from _rows(ready, foot - 7, rest)
    for number, line in enumerate(watch):
        yield Words(MARGIN, rest - LINE * (number + 1), SMALL, line)


def _facts(ready: Prepared, wanted: HandOver) -> Iterator[str]:
    """What whoever stands at the machine has to know before it is started."""
    plan, machine, corner = ready.plan, ready.machine, ready.lies(0)
    at = f"x {shown(corner.real)}, y {shown(corner.imag)} from the lower left corner of the bed"
    yield f"{ready.stock.name}, {shown(ready.thickness)}; sheet {shown(plan.width)} x {shown(plan.height)}"
    yield f"{machine.name}; its datum is at the {machine.datum}; the sheet's lower left corner lies at {at}"
    yield f"Kerf {shown(plan.kerf)}, made up for {wanted.kerf}"
    if plan.beam.oval:
        across, up = (shown(plan.kerf + by) for by in (-plan.beam.oval / 2, plan.beam.oval / 2))
        yield f"The beam is wider one way: {across} along x of the machine, {up} along y"
    if ready.facts.walls.leaning:
        above, below = (shown(plan.kerf + wider) for wider in ready.facts.walls.faces)
        yield f"Walls lean: {above} on the upper face, {below} on the lower"
    clips = sum(barred.what == "clip" for barred in ready.barred)
    held = machine.hold_down or f"{clips} clips"
    yield f"Hold-down: {held}; {len(plan.tabs)} holding tabs; {len(machine.keep_outs)} keep-outs of the machine"
    if machine.kind == "router":
        yield f"Z datum: {machine.z_datum}. Touch every cutter off there, and again after each change"
        yield from (f"T{number} {one}" for number, one in enumerate(_cutters(ready), 1))
    else:
        yield f"Focus: {machine.focus or 'on the face of the sheet'}; air: {machine.air or 'as the machine has it'}"
    yield f"Time {ready.seconds / 60:.1f} min"


def _cutters(ready: Prepared) -> Iterator[str]:
    """Each cutter in turn, how far it must stand out of its collet, and its steps down."""
    rack = ready.plan.rack
    for cutter in {run.cutter.id: run.cutter for run in ready.runs}.values():
        runs = [run for run in ready.runs if run.cutter.id == cutter.id]
        deep = max(-stroke.z for run in runs for stroke in run.strokes)
        # The collet must clear what stands up from the sheet.
        out = deep + max(rack.clips if rack and ready.clips else 0.0, _CLEAR)
        step = max(run.setting.stepdown or cutter.diameter for run in runs)
        turns = runs[0].setting.power
        least = f"stands out at least {shown(out)} and cuts {shown(cutter.cutting_length)}"
        cuts = "" if cutter.diameter == cutter.shank else f", cuts {shown(cutter.diameter)}"
        yield f"{cutter.name}, {shown(cutter.shank)}{cuts}: {least}; steps of {shown(step)}; {turns:g} rpm"


#: A collet stays so far (mm) above the sheet: common practice, no source.
_CLEAR = 3.0


def _watch(ready: Prepared) -> Iterator[str]:
    """What to watch, whatever is cut; common practice, no source."""
    yield "Whoever cuts stays beside the machine until it stands, with the way to its switch free."
    if ready.machine.kind == "beam":
        never = ", ".join(NEVER_BURNED)
        yield f"Never to be burnt: {never}, and whatever nobody knows the name of."
        yield "Fumes are drawn off, and an extinguisher stands by."
    else:
        yield "Eyes and ears are covered and dust is drawn off. Nobody reaches in before the spindle stands."
        if ready.plan.rack and not ready.plan.tabs:
            yield "Nothing hangs on holding tabs: what is cut out lies loose beside a turning cutter."


def _drawing(ready: Prepared, foot: float) -> Iterator[str | Words]:
    """The bed with the sheet and all lines on it, as large as there is room for."""
    scale = min((WIDTH - 2 * MARGIN) / ready.bed.width, DRAWING / ready.bed.height)
    yield f"q {scale:.6f} 0 0 {scale:.6f} {MARGIN * POINTS:.3f} {foot * POINTS:.3f} cm {0.3 / scale:.4f} w"
    yield f"0.5 G 0 0 {ready.bed.width * POINTS:.3f} {ready.bed.height * POINTS:.3f} re S 0 G"
    corners = [ready.lies(complex(x, y)) for x, y in _round(ready.plan.width, ready.plan.height)]
    stops = [f"{corner.real * POINTS:.3f} {corner.imag * POINTS:.3f}" for corner in corners]
    yield f"{stops[0]} m {' l '.join(stops[1:])} l s"
    for path in ready.plan.paths:
        yield from path_words(path.moved(ready.lies) if ready.lies != Motion() else path)
    yield "Q"


def _round(width: float, height: float) -> tuple[tuple[float, float], ...]:
    return (0, 0), (width, 0), (width, height), (0, height)


def _rows(ready: Prepared, top: float, foot: float) -> Iterator[str | Words]:
    """Row by row, as many as there is room for above ``foot`` (mm)."""
    most = max(1, int((top - foot) / LINE) - 2)
    for x, _, title in _ROW_COLUMNS:
        yield Words(MARGIN + x, top, SMALL, title)
    shown_rows = ready.rows[:most]
    for number, row in enumerate(shown_rows, 1):
        for (x, wide, _), word in zip(_ROW_COLUMNS, _row(ready, number, row), strict=True):
            yield Words(MARGIN + x, top - LINE * number, SMALL, fitting(word, wide, SMALL))
    if len(ready.rows) > len(shown_rows):
        more = len(ready.rows) - len(shown_rows)
        yield Words(MARGIN, top - LINE * (len(shown_rows) + 1), SMALL, f"and {more} more rows")


def _row(ready: Prepared, number: int, row: PreparedRow) -> tuple[str, ...]:
    what = f"{STAGES[row.stage].called}: {row.name} ({len(row.keys)})"
    takes = f"{row.seconds:.0f} s"
    if row.worked:
        speed = f"{60 * row.setting.speed:.0f} mm/min"
        return str(number), what, row.worked.name, speed, f"{row.setting.power:g} rpm", f"{row.worked.passes} x", takes
    unit = "%" if ready.machine.kind == "beam" else "rpm"
    speed, power = f"{row.setting.speed:g} mm/s", f"{row.setting.power:g} {unit}"
    return str(number), what, row.operation, speed, power, f"{row.setting.passes} x", takes


#: Where the columns of the bend table begin, and what stands over them, mm.
_COLUMNS = (
    *((0, "part"), (42, "bend"), (78, "angle"), (92, "set to"), (107, "way")),
    *((119, "radius"), (138, "K"), (152, "deduction")),
)


def _bend_table(ready: Prepared) -> Iterator[str | Words]:
    """All bends of the parts on the sheet, each part once, in the order in which a press can make them."""
    top = HEIGHT - MARGIN - 6
    yield Words(MARGIN, top, 14, f"Bends of {ready.plan.name}")
    for x, title in _COLUMNS:
        yield Words(MARGIN + x, top - 9, 9, title)
    rows = list(_bend_rows(ready))
    for number, row in enumerate(rows[:_BENDS]):
        for (x, _), word in zip(_COLUMNS, row, strict=True):
            yield Words(MARGIN + x, top - 15 - 5 * number, 9, word)
    if len(rows) > _BENDS:
        yield Words(MARGIN, top - 15 - 5 * _BENDS, 9, f"and {len(rows) - _BENDS} more bends")


def _bend_rows(ready: Prepared) -> Iterator[tuple[str, ...]]:
    for part in {part.part.id: part for _, part in ready.plan.bent}.values():
        assert part.folded
        order = order_of(part, part.folded)
        turn = order.order if isinstance(order, Reached) else ()
        bends = [bend for bend in part.bends if bend.half > 0]
        for bend in sorted(bends, key=lambda bend: turn.index(bend.id) if bend.id in turn else 0):
            numbers, way = bend.bend, "up" if bend.up else "down"
            name = f"{turn.index(bend.id) + 1}  {bend.name}" if turn else bend.name
            angle, radius = f"{numbers.angle:g}°", shown(numbers.radius)
            put = part.stock.bending.put(numbers.angle)
            sets = "as it is" if put is None else f"{put:.1f}°"
            yield part.part.name, name, angle, sets, way, radius, f"{numbers.k:.3f}", shown(numbers.deduction)
