"""``notch bring FILE... --out PROJECT.json``: drawings of others become parts of a project."""

from __future__ import annotations

import argparse
import json
import re
import sys
from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import Any, get_args

from .document.ids import free_id
from .document.limits import LARGEST_DRAWING
from .document.sizes import Size
from .document.stock import Stock
from .drawings.apart import Bounds, apart
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
from .project import Project, write_project

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


def thickness_of(part: FoundPart) -> float | None:
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
                "thickness": thickness_of(part) or way.thickness,
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


def main(arguments: list[str]) -> int:
    """Exit status 0 when the project is written; 2 where a file cannot be read or nothing in it is a part."""
    parser = argparse.ArgumentParser(prog="notch bring", description=__doc__)
    parser.add_argument("files", type=Path, nargs="+", metavar="FILE")
    parser.add_argument("--out", type=Path, required=True)
    parser.add_argument("--unit", choices=get_args(Unit), help="what the numbers of the file are, where it is mistaken")
    parser.add_argument("--join", type=_tolerance, default=0.01, help="ends this close are joined, in mm")
    how = parser.add_mutually_exclusive_group()
    how.add_argument("--height", type=float, metavar="MM", help="cut a mesh at this height, square to z")
    how.add_argument(
        "--flat", action="store_true", help="lay a mesh's plates flat, as is done unless a height is given"
    )
    parser.add_argument(
        "--follow", type=float, metavar="MM", help="slots and tabs drawn for this thickness follow the sheet"
    )
    parser.add_argument("--json", action="store_true")
    asked = parser.parse_args(arguments)
    try:
        project, answers = Project(name=asked.out.name.partition(".")[0][:80] or "Brought"), []
        for path in asked.files:
            answer = apart(
                _brought_apart,
                _bytes(path),
                path.name,
                asked.unit,
                asked.join,
                asked.follow,
                asked.height,
                bounds=BRINGING,
            )
            project = _with(project, answer)
            answers.append(answer["told"])
        asked.out.write_bytes(write_project(project))
    except (BrokenFile, OSError) as error:
        print(f"notch bring: {error}", file=sys.stderr)
        return 2
    print(json.dumps(answers[0] if len(answers) == 1 else answers, indent=1) if asked.json else _sentences(answers))
    return 0


def _tolerance(text: str) -> float:
    value = float(text)
    if not 0.001 <= value <= 5:
        raise argparse.ArgumentTypeError(f"{value:g} mm; ends are joined within 0.001 to 5 mm")
    return value


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
        "thicknesses": [thickness_of(part) or way.thickness or follow for part in way.parts],
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


def _sentences(answers: list[dict[str, Any]]) -> str:
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


def _bytes(path: Path) -> bytes:
    if path.stat().st_size > LARGEST_DRAWING:
        raise BrokenFile(f"{path} has more than {LARGEST_DRAWING / 1e6:.0f} MB, which is not read.")
    return path.read_bytes()


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
