"""A project as one page to look at: HTML that needs nothing else, to be opened anywhere, sent by mail, or printed."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from html import escape

from ..assembly.poses import Assembly
from ..bends.laid import LaidBend
from ..document.sheet import LaidSheet, Placement
from ..document.sizes import shown
from ..document.sums import Unit
from ..evaluate import EvaluatedPart, Result
from ..geometry.loop import Bounds, Outline
from ..handover.svg import path_data
from ..layout.sheets import motion
from ..project.project import Project
from .drawn import portrait
from .turned import turned

_STYLE = """
:root { --ink: #1c2433; --soft: #6d6553; --rule: #cfc5ae; --paper: #fdfaf3; --ground: #f4efe4; --part: #e9dcc0; }
* { box-sizing: border-box; }
body { margin: 0; background: var(--ground); color: var(--ink); font: 15px/1.45 system-ui, sans-serif; }
main { max-width: 1040px; margin: 0 auto; padding: 26px 24px 60px; }
h1 { font-size: 26px; margin: 0; display: flex; align-items: center; justify-content: space-between; }
button { font: inherit; font-size: 14px; padding: 4px 12px; border: 1px solid var(--ink); background: none; }
h2 { font-size: 17px; margin: 30px 0 8px; border-bottom: 1px solid var(--rule); }
.soft { color: var(--soft); margin: 4px 0; }
.space { background: var(--paper); border: 1px solid var(--rule); padding: 10px; text-align: center; }
.space svg { width: 100%; height: 430px; display: none; } .space svg.on { display: inline; }
.space p { display: flex; gap: 26px; justify-content: center; align-items: center; margin: 6px 0 0; }
.parts { display: grid; grid-template-columns: repeat(auto-fill, minmax(205px, 1fr)); gap: 18px 22px; }
.sheets { display: grid; grid-template-columns: repeat(auto-fill, minmax(300px, 1fr)); gap: 18px; }
figure { margin: 0; break-inside: avoid; } figcaption { font-size: 13px; overflow-wrap: anywhere; }
.parts svg { width: 100%; height: 140px; } .sheets svg { width: 100%; max-height: 320px; background: var(--paper); }
svg .part { fill: var(--part); stroke: var(--ink); } svg .sunk { fill: #1c243326; stroke: var(--ink); }
svg .mark { fill: none; stroke: #8a5a00; } svg .edge { fill: var(--paper); stroke: var(--soft); }
table { border-collapse: collapse; width: 100%; font-variant-numeric: tabular-nums; }
th, td { text-align: left; padding: 3px 10px 3px 0; border-bottom: 1px solid var(--rule); } .n { text-align: right; }
@media print {
  @page { size: A4; margin: 12mm; }
  body { background: none; font-size: 11px; } main { padding: 0; max-width: none; } .space p, button { display: none; }
  .space { border: 0; padding: 0; } .space svg { height: 78mm; } .parts svg { height: 26mm; }
  .after { break-before: page; } .after ~ .after { break-before: auto; }
  .parts { grid-template-columns: repeat(auto-fit, minmax(32mm, 1fr)); gap: 6px 10px; }
  .sheets { grid-template-columns: repeat(3, 1fr); } .sheets svg { max-height: 50mm; }
}
"""

#: The picture that is seen follows the slider and the tick; without it the first is seen.
_SCRIPT = """
const turn = document.getElementById('turn'), apart = document.getElementById('apart')
const show = () => document.querySelectorAll('.space svg').forEach((one) => one.classList.toggle('on',
  one.dataset.side === (turn ? turn.value : '0') && one.dataset.apart === (apart && apart.checked ? '1' : '0')))
if (turn) turn.oninput = show
if (apart) apart.onchange = show
show()
"""


def look_page(project: Project, result: Result, assembly: Assembly) -> bytes:
    """The page as UTF-8; the same project gives the same bytes."""
    name = escape(project.name)
    body = "".join(
        [
            f'<h1>{name} <button onclick="print()">Print it</button></h1>',
            *_facts(project, result),
            *_space(result, assembly),
            "<h2>Parts</h2>",
            f'<div class="parts">{"".join(_parts(project, result))}</div>',
            *_sheets(project, result),
            '<h2 class="after">Cut list</h2>',
            *_cut_list(project, result),
            *_notes(result),
        ]
    )
    head = f'<meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>{name}</title>'
    html = f'<!doctype html><html lang="en"><head>{head}<style>{_STYLE}</style></head>'
    return f"{html}<body><main>{body}</main><script>{_SCRIPT}</script></body></html>\n".encode()


def _facts(project: Project, result: Result) -> Iterator[str]:
    """The sheets as they were measured, and the machine that they were measured on."""
    for stock in project.stocks:
        facts = result.stocks.get(stock.id)
        if facts:
            measured = f"measured {shown(facts.thickness, project.unit)} thick in {facts.readings} places"
            kerf = f"kerf {shown(facts.kerf, project.unit)}"
            yield f'<p class="soft">{escape(stock.name)}: {measured}, {kerf}.</p>'
    machine = project.machine_of(project.machine)
    if machine:
        yield f'<p class="soft">Cut on {escape(machine.name)}, {project.fit} fit.</p>'


def _space(result: Result, assembly: Assembly) -> Iterator[str]:
    together = turned(result, assembly)
    if not together:
        yield f'<h2>What it is</h2><div class="space">{_view(portrait(result, assembly), 0, 0)}</div>'
        return
    # What is too rich to be turned is not pulled apart either.
    pulled = turned(result, assembly, apart=True) if len(together) > 1 else []
    views = [_view(svg, side, 0) for side, svg in enumerate(together)]
    views += [_view(svg, side, 1) for side, svg in enumerate(pulled)] if len(pulled) == len(together) else []
    yield f'<h2>Put together</h2><div class="space">{"".join(views)}<p>'
    if len(together) > 1:
        most = len(together) - 1
        yield f'<label>Turned <input id="turn" type="range" min="0" max="{most}" value="0"></label>'
    if len(views) > len(together):
        yield '<label><input id="apart" type="checkbox"> pulled apart</label>'
    yield "</p></div>"


def _view(svg: str, side: int, apart: int) -> str:
    shows = ' class="on"' if side == apart == 0 else ""
    return svg.replace("<svg ", f'<svg data-side="{side}" data-apart="{apart}"{shows} ', 1)


def _parts(project: Project, result: Result) -> Iterator[str]:
    for part in project.parts:
        found = result.parts.get(part.id)
        if found is None:
            continue
        stock = project.stock(part.stock)
        told = [f"{_size(found.outline, project.unit)}, {shown(found.stock.thickness, project.unit)} thick"]
        depths = sorted({round(pocket.depth, 3) for pocket in found.pockets})
        told += [f"sunk {' and '.join(shown(depth, project.unit) for depth in depths)} deep"] if depths else []
        told += [_bend(bend, project.unit) for bend in found.bends]
        caption = f"<strong>{escape(part.name)}</strong> × {part.count}<br>{escape(stock.name if stock else '')}"
        lines = "<br>".join(told)
        yield f"<figure>{_drawn(found)}<figcaption>{caption}<br>{lines}</figcaption></figure>"


def _bend(bend: LaidBend, unit: Unit) -> str:
    way = "up" if bend.up else "down"
    return f"{escape(bend.name)}: {bend.bend.angle:g}° {way}, R {shown(bend.bend.radius, unit)}"


def _drawn(part: EvaluatedPart) -> str:
    sunk = "".join(_path(pocket.outline) for pocket in part.pockets)
    marks = "".join(
        path_data(line.segments, closed=line.closed) for line in part.lines if line.operation != "reference"
    )
    paths = [
        f'<path class="part" d="{_path(part.outline)}"/>',
        f'<path class="sunk" d="{sunk}"/>' if sunk else "",
        f'<path class="mark" d="{marks}"/>' if marks else "",
    ]
    return _framed(part.outline.bounds, "".join(paths))


def _sheets(project: Project, result: Result) -> Iterator[str]:
    if not project.layout.sheets:
        return
    yield '<h2 class="after">Sheets</h2><div class="sheets">'
    for index, sheet in enumerate(project.layout.sheets):
        stock = project.stock(sheet.stock)
        lying = [p for p in project.layout.placements if p.sheet == index]
        size = f"{shown(sheet.width, project.unit)} × {shown(sheet.height, project.unit)}"
        many = f"{len(lying)} part{'' if len(lying) == 1 else 's'}"
        caption = f"Sheet {index + 1}: {escape(stock.name if stock else sheet.stock)}, {size}, {many}"
        drawn = _framed((0.0, 0.0, sheet.width, sheet.height), _edge(sheet) + "".join(_lying(result, lying)))
        yield f"<figure>{drawn}<figcaption>{caption}</figcaption></figure>"
    yield "</div>"


def _lying(result: Result, placements: Iterable[Placement]) -> Iterator[str]:
    for lying in placements:
        found = result.parts.get(lying.part)
        if found:
            yield f'<path class="part" d="{_path(found.outline.moved(motion(lying)))}"/>'


def _edge(sheet: LaidSheet) -> str:
    return f'<rect class="edge" x="0" y="{-sheet.height:g}" width="{sheet.width:g}" height="{sheet.height:g}"/>'


def _cut_list(project: Project, result: Result) -> Iterator[str]:
    yield '<table><tr><th>Part</th><th class="n">Count</th><th>Size</th><th>Stock</th><th>Sheets</th></tr>'
    for part in project.parts:
        found, stock = result.parts.get(part.id), project.stock(part.stock)
        on = sorted({p.sheet + 1 for p in project.layout.placements if p.part == part.id})
        cells = [
            f"<td>{escape(part.name)}</td>",
            f'<td class="n">{part.count}</td>',
            f"<td>{_size(found.outline, project.unit) if found else 'cannot be built'}</td>",
            f"<td>{escape(stock.name if stock else part.stock)}</td>",
            f"<td>{', '.join(map(str, on))}</td>",
        ]
        yield f"<tr>{''.join(cells)}</tr>"
    yield "</table>"


def _notes(result: Result) -> Iterator[str]:
    if result.findings:
        told = "".join(f"<li>{escape(finding.text)}</li>" for finding in result.findings)
        yield f'<h2>Notes</h2><ul class="soft">{told}</ul>'


def _size(outline: Outline, unit: Unit) -> str:
    left, bottom, right, top = outline.bounds
    return f"{shown(right - left, unit)} × {shown(top - bottom, unit)}"


def _path(outline: Outline) -> str:
    return "".join(map(path_data, outline.loops))


def _framed(bounds: Bounds, paths: str) -> str:
    left, bottom, right, top = bounds
    room = 0.02 * max(right - left, top - bottom)
    box = f"{left - room:.2f} {-top - room:.2f} {right - left + 2 * room:.2f} {top - bottom + 2 * room:.2f}"
    hair = max(right - left, top - bottom) / 260
    return f'<svg viewBox="{box}" fill-rule="evenodd" stroke-width="{hair:.3f}">{paths}</svg>'
