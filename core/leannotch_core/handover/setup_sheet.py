"""The setup sheet as PDF: where the sheet lies on the bed, what is done row by row, and for how long."""

from __future__ import annotations

import io
from collections.abc import Iterator

import pikepdf
from pikepdf import Dictionary, String

from ..assembly.bend_notes import order_of
from ..assembly.press import Reached
from ..document.hand_over import HandOver
from ..document.sizes import shown
from ..geometry.segment import Motion
from ..machining.prepared import CALLED, Prepared
from .pdf import POINTS, escaped, path_words, plain_font

#: A4 upright (ISO 216), its margin, and the height that the drawing may have, mm.
WIDTH, HEIGHT, MARGIN, DRAWING = 210.0, 297.0, 15.0, 110.0

#: So many rows stand on the page; what is more is told by its count.
ROWS = 26
#: So many bends stand on the page that is theirs.
_BENDS = 48


def write_setup_sheet(ready: Prepared, wanted: HandOver) -> bytes:
    """The bytes of one page of A4, and of one more where parts are bent; the same sheet gives the same bytes."""
    document = pikepdf.new()
    font = plain_font(document)
    pages = [_page(ready, wanted)]
    if ready.plan.bent:
        pages.append(_bend_table(ready))
    for words in pages:
        page = document.add_blank_page(page_size=(WIDTH * POINTS, HEIGHT * POINTS))
        page.obj.Resources = Dictionary(Font=font)
        page.obj.Contents = document.make_stream("\n".join(words).encode("cp1252", "replace"))
    document.trailer.Info = document.make_indirect(Dictionary(Title=String(ready.plan.name)))
    written = io.BytesIO()
    document.save(written, deterministic_id=True)
    return written.getvalue()


def _page(ready: Prepared, wanted: HandOver) -> Iterator[str]:
    top = HEIGHT - MARGIN - 6
    yield _text(MARGIN, top, 14, ready.plan.name)
    for number, line in enumerate(_facts(ready, wanted)):
        yield _text(MARGIN, top - 8 - 5 * number, 9, line)
    foot = top - 8 - 5 * 6 - DRAWING
    yield from _drawing(ready, foot)
    yield from _rows(ready, foot - 8)


def _facts(ready: Prepared, wanted: HandOver) -> list[str]:
    corner = ready.lies(0)
    at = f"x {shown(corner.real)}, y {shown(corner.imag)} from the lower left corner of the bed"
    return [
        f"{ready.stock.name}, {shown(ready.thickness)}; sheet {shown(ready.plan.width)} x {shown(ready.plan.height)}",
        f"{ready.machine.name}; its datum is at the {ready.machine.datum}; the sheet's lower left corner lies at {at}",
        f"Kerf {shown(ready.plan.kerf)}, made up for {wanted.kerf}; {len(ready.plan.tabs)} holding tabs",
        f"{len(ready.machine.keep_outs)} keep-outs of the machine",
        f"Time {ready.seconds / 60:.1f} min",
    ]


def _drawing(ready: Prepared, foot: float) -> Iterator[str]:
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


def _rows(ready: Prepared, top: float) -> Iterator[str]:
    for number, row in enumerate(ready.rows[:ROWS]):
        unit = "%" if ready.machine.kind == "beam" else "rpm"
        how = f"{row.setting.speed:g} mm/s, {row.setting.power:g} {unit}, {row.setting.passes} x"
        if row.worked:
            feed = f"{60 * row.setting.speed:.0f} mm/min, {row.setting.power:g} rpm"
            how = f"{row.worked.name}: {feed}, {row.worked.passes} x"
        y = top - 5 * number
        yield _text(MARGIN, y, 9, f"{number + 1}  {CALLED[row.stage]}: {row.name} ({len(row.keys)})")
        yield _text(MARGIN + 95, y, 9, how)
        yield _text(MARGIN + 150, y, 9, f"{row.seconds:.0f} s")
    if len(ready.rows) > ROWS:
        yield _text(MARGIN, top - 5 * ROWS, 9, f"and {len(ready.rows) - ROWS} more rows")


#: Where the columns of the bend table begin, and what stands over them, mm.
_COLUMNS = ((0, "part"), (45, "bend"), (85, "angle"), (103, "way"), (117, "radius"), (137, "K"), (151, "deduction"))


def _bend_table(ready: Prepared) -> Iterator[str]:
    """All bends of the parts on the sheet, each part once, in the order in which a press can make them."""
    top = HEIGHT - MARGIN - 6
    yield _text(MARGIN, top, 14, f"Bends of {ready.plan.name}")
    for x, title in _COLUMNS:
        yield _text(MARGIN + x, top - 9, 9, title)
    rows = list(_bend_rows(ready))
    for number, row in enumerate(rows[:_BENDS]):
        for (x, _), word in zip(_COLUMNS, row, strict=True):
            yield _text(MARGIN + x, top - 15 - 5 * number, 9, word)
    if len(rows) > _BENDS:
        yield _text(MARGIN, top - 15 - 5 * _BENDS, 9, f"and {len(rows) - _BENDS} more bends")


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
            yield part.part.name, name, angle, way, radius, f"{numbers.k:.3f}", shown(numbers.deduction)


def _text(x: float, y: float, size: float, words: str) -> str:
    return f"BT /F1 {size:g} Tf {x * POINTS:.3f} {y * POINTS:.3f} Td ({escaped(words)}) Tj ET"
