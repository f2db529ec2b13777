"""PDF written at true scale (ISO 32000): the page is the sheet, arcs are Beziers, and operations are layers."""

from __future__ import annotations

import cmath
import io
import math
from collections.abc import Iterator

import pikepdf
from pikepdf import Array, Dictionary, Name, String

from ..document.machine import Machine
from ..document.statement import statement
from ..geometry.segment import Arc, Point
from ..machining.bend_lines import WrittenWords
from ..machining.path import CutPath
from ..machining.plan import SheetPlan, layers
from .letters import CAPITALS, POINTS, shown, typeface
from .told import layer_for, telling

#: Beziers leave their arcs by at most so much (mm).
TOLERANCE = 0.0005

#: Widths of strokes in mm; a hairline is the thinnest that the machine's driver makes (ISO 32000-1, 8.4.3.2).
VISIBLE = 0.25


def write_pdf(plan: SheetPlan, hairline: bool = False, machine: Machine | None = None) -> bytes:
    """The bytes of a sheet's PDF file; the same plan gives the same bytes."""
    document = pikepdf.new()
    properties, groups, words = Dictionary(), [], ["1 J 1 j", "0 w" if hairline else f"{VISIBLE * POINTS:.4f} w"]
    for number, (layer, paths) in enumerate(layers(plan, machine.sequence if machine else ()).items()):
        operation = paths[0].operation
        name = layer_for(machine, operation, layer)
        group = document.make_indirect(Dictionary(Type=Name.OCG, Name=String(name)))
        groups.append(group)
        properties[f"/L{number}"] = group
        words.append(f"/OC /L{number} BDC {_colour(telling(machine, operation)[0].stroke)} RG")
        words += [word for path in paths for word in path_words(path)]
        words.append("EMC")
    if plan.words:
        group = document.make_indirect(Dictionary(Type=Name.OCG, Name=String("notes")))
        groups.append(group)
        properties["/Notes"] = group
        words += ["/OC /Notes BDC 0.33 g", *(_words(one) for one in plan.words), "EMC"]
    page = document.add_blank_page(page_size=(plan.width * POINTS, plan.height * POINTS))
    page.obj.Contents = document.make_stream("\n".join(words).encode("ascii"))
    page.obj.Resources = Dictionary(Properties=properties)
    if plan.words:
        page.obj.Resources.Font = typeface(document, (one.words for one in plan.words))
    document.Root.OCProperties = Dictionary(OCGs=Array(groups), D=Dictionary(Order=Array(groups), ON=Array(groups)))
    document.trailer.Info = document.make_indirect(
        Dictionary(Title=String(plan.name), Subject=String(statement(plan.kerf, plan.compensated)))
    )
    written = io.BytesIO()
    document.save(written, deterministic_id=True)
    return written.getvalue()


def _words(one: WrittenWords) -> str:
    turn = cmath.rect(1, math.radians(one.turn))
    size = one.height / CAPITALS * POINTS
    frame = f"{turn.real:.6f} {turn.imag:.6f} {-turn.imag:.6f} {turn.real:.6f} {_pair(one.at)}"
    return f"BT /F1 {size:.4f} Tf {frame} Tm {shown(one.words)} ET"


def _colour(stroke: str) -> str:
    return " ".join(f"{int(stroke[at : at + 2], 16) / 255:.4g}" for at in (1, 3, 5))


def path_words(path: CutPath) -> Iterator[str]:
    """What strokes a path in a content stream."""
    yield f"{_pair(path.start)} m"
    for segment in path.segments:
        if isinstance(segment, Arc):
            yield from _beziers(segment)
        else:
            yield f"{_pair(segment.end)} l"
    yield "s" if path.closed else "S"


def _beziers(arc: Arc) -> Iterator[str]:
    """As few Beziers as keep within the tolerance, with handles of 4/3 tan(angle / 4) radii."""
    count = max(1, math.ceil(abs(arc.sweep) / (math.pi / 2)))
    while (
        4 / 27 * math.sin(abs(arc.sweep) / count / 4) ** 6 / math.cos(arc.sweep / count / 4) ** 2 * arc.radius
        > TOLERANCE
    ):
        count += 1
    step = arc.sweep / count
    handle = 4 / 3 * math.tan(step / 4) * 1j
    spoke = arc.start - arc.centre
    for at in range(count):
        begun = spoke * cmath.rect(1, step * at)
        ended = spoke * cmath.rect(1, step * (at + 1))
        end = arc.end if at == count - 1 else arc.centre + ended
        yield f"{_pair(arc.centre + begun * (1 + handle))} {_pair(arc.centre + ended * (1 - handle))} {_pair(end)} c"


def _off(angle: float) -> float:
    """By how many radii such a Bezier leaves its arc."""
    return 4 / 27 * math.sin(abs(angle) / 4) ** 6 / math.cos(angle / 4) ** 2


def _pair(point: Point) -> str:
    return f"{point.real * POINTS:.5f} {point.imag * POINTS:.5f}"
