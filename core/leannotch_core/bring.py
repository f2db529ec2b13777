"""Drawings of others become parts of a project."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from typing import Any

from .document.ids import free_id
from .document.sizes import Size
from .document.stock import Stock
from .drawings.apart import apart
from .drawings.bounds import Bounds
from .drawings.drawing import BrokenFile
from .drawings.following import Follow, nearly
from .drawings.held import MOST_SAID, held_in, in_words
from .drawings.meshes.cut import Cut
from .drawings.purposes import thickness_named
from .drawings.recognised import FoundPart
from .drawings.taken import part_from
from .drawings.told import told_of
from .drawings.too_many import too_many
from .drawings.way_in import Bringing, Unit, WayIn, bring, read
from .parts.part import Part
from .project.project import Project

#: What bringing a file may take.
BRINGING = Bounds(seconds=60, megabytes=1500)


def free_ids(taken: Iterable[str], parts: Sequence[FoundPart]) -> list[str]:
    """An id for each part, of its name, that nothing has."""
    used = set(taken)
    ids = []
    for part in parts:
        word = re.sub(r"[^a-z0-9]+", "_", part.name.lower()).strip("_")[:30]
        base = word if word[:1].isalpha() else f"part_{word}".rstrip("_")
        ids.append(free_id(base, used))
    return ids


def brought_parts(
    project: Project, found: Sequence[FoundPart], stock: str, follow: Follow | None = None, file: str = ""
) -> list[Part]:
    """Parts of a drawing for a project; what is to ``follow`` does. Raises `BrokenFile`."""
    ids = free_ids((part.id for part in project.parts), found)
    return [part_from(part, part_id, stock, follow, file) for part, part_id in zip(found, ids, strict=True)]


def drawn_thickness(part: FoundPart) -> float | None:
    """The thickness (mm) that the layer of a part names."""
    return thickness_named(part.outline.outer.segments[0].source.shape)


def told(way: WayIn, found: Sequence[FoundPart], unit: str) -> dict[str, Any]:
    """What a drawing gave, in mm, one entry for each distinct part."""
    parts = []
    for part in found:
        left, bottom, right, top = part.outline.bounds
        pockets = sum(line.operation == "pocket" for line in part.lines)
        parts.append(
            {
                "name": part.name,
                "count": part.count,
                "width": right - left,
                "height": top - bottom,
                "area": part.outline.area,
                "openings": len(part.outline.cutouts),
                "pockets": pockets,
                "thickness": drawn_thickness(part) or way.thickness,
            }
        )
    mend = way.mend
    mends = {"joined": mend.joined, "doubled": mend.doubled, "points": way.points, "arcs": mend.arcs}
    return {
        "unit": unit,
        "width": way.width,
        "height": way.height,
        "parts": parts,
        "mended": mends,
        "held": [held._asdict() for held in held_in(way.drawing, way.lettered)],
        "told": [one.as_json() for one in told_of(way)],
    }


def brought(
    files: Iterable[tuple[str, bytes]],
    name: str,
    *,
    unit: Unit | None = None,
    join: float = 0.01,
    follow: float | None = None,
    height: float | None = None,
) -> tuple[Project, list[dict[str, Any]]]:
    """A project of all parts in files, each with its name, and what is told of each file.

    Ends within ``join`` mm are joined; what was drawn for a thickness of ``follow`` mm follows the sheet; a mesh is cut
    at a ``height`` (mm), or laid flat. Raises `BrokenFile`.
    """
    project, answers = Project(name=name), []
    for called, data in files:
        answer = apart(_brought_apart, data, called, unit, join, follow, height, bounds=BRINGING)
        project = _with(project, answer)
        answers.append(answer["told"])
    return project, answers


def _brought_apart(
    data: bytes, name: str, unit: Unit | None, join: float, follow: float | None, height: float | None
) -> dict[str, Any]:
    """What a file gives, in plain JSON values: for a process of its own."""
    found = read(data, name, cut=None if height is None else Cut(heights=(height,)))
    way = bring(found, Bringing(unit=unit, join=join))
    if not way.parts:
        raise BrokenFile(f"{name}: no closed outline was found. " + " ".join(one.says for one in told_of(way)))
    if why := too_many(way.parts):
        raise BrokenFile(f"{name}: {why}")
    parts = brought_parts(Project(name="Brought"), way.parts, "sheet", Follow(follow) if follow else None, name[:120])
    answer = told(way, way.parts, unit or found.drawing.unit)
    if follow:
        answer["follows"] = follows(way, follow)
    return {
        "parts": [part.model_dump(mode="json") for part in parts],
        "thicknesses": [drawn_thickness(part) or way.thickness or follow for part in way.parts],
        "told": answer,
    }


def follows(way: WayIn, thickness: float) -> dict[str, Any]:
    """How many places follow the sheet, and those that are nearly as wide and do not: width and place in mm."""
    places = [place for part in way.parts for place, _ in Follow(thickness).places(part.outline)]
    left = [[round(wide, 4), at.real, at.imag] for part in way.parts for wide, at in nearly(part.outline, thickness)]
    slots = sum(place.kind == "slot" for place in places)
    return {"slots": slots, "tabs": len(places) - slots, "left": left}


def _with(project: Project, answer: dict[str, Any]) -> Project:
    """The project with the parts of one more file, each on a stock as thick as the file says, or 3 mm."""
    for raw, thickness in zip(answer["parts"], answer["thicknesses"], strict=True):
        project, stock = _on_stock(project, f"{thickness or 3:g}")
        part = Part.model_validate(raw)
        part_id = free_id(part.id, {other.id for other in project.parts})
        fresh = part.model_copy(update={"id": part_id, "stock": stock})
        project = project.model_copy(update={"parts": [*project.parts, fresh]})
    return project


def sheet_of(thickness: str, taken: set[str]) -> Stock:
    """A stock of a nominal thickness (mm), not measured yet; its id is ``taken`` from then on."""
    begun = Stock.begun(free_id("sheet", taken), f"{thickness} mm sheet")
    return begun.model_copy(update={"nominal": Size(text=thickness)})


def _on_stock(project: Project, thickness: str) -> tuple[Project, str]:
    """The project with a stock of a nominal thickness, and its id."""
    stock = next((known for known in project.stocks if known.nominal.text == thickness), None)
    if stock is not None:
        return project, stock.id
    stock = sheet_of(thickness, {stock.id for stock in project.stocks})
    return project.model_copy(update={"stocks": [*project.stocks, stock]}), stock.id


def sentences(answers: list[dict[str, Any]]) -> str:
    """What is told of files, line by line."""
    lines = []
    for answer in answers:
        lines.append(f"{answer['width']:.2f} x {answer['height']:.2f} mm, read in {answer['unit']}.")
        for part in answer["parts"]:
            size = f"{part['width']:.2f} x {part['height']:.2f} mm"
            lines.append(f"{part['count']} x {part['name']}: {size}, {part['openings']} openings")
        if "follows" in answer:
            lines.append(_followed(answer["follows"]))
        lines += in_words(answer)
    return "\n".join(lines)


def _followed(follows: dict[str, Any]) -> str:
    left = "; ".join(f"{wide:g} mm wide at {x:.2f}, {y:.2f}" for wide, x, y in follows["left"][:MOST_SAID])
    more = f" Left as they are: {left}." if left else ""
    slots = "1 slot or notch" if follows["slots"] == 1 else f"{follows['slots']} slots and notches"
    tabs = "1 tab" if follows["tabs"] == 1 else f"{follows['tabs']} tabs"
    return f"Following the sheet: {slots}, {tabs}.{more}"
