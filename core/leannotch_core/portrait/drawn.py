"""A project as a picture: what it is put together, and where it is nothing to be put together, its parts."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

import manifold3d
import shapely
from shapely import Polygon
from shapely.affinity import translate

from ..assembly.bent import bent_solid
from ..assembly.poses import Assembly, Copy
from ..assembly.solids import solid
from ..evaluate import EvaluatedPart, Result
from ..geometry.chords import as_line, as_polygon
from ..geometry.loop import Bounds
from .faces import Face, faces_of
from .seen import seen

#: Which way of drawing this is: what was drawn in another one is drawn anew.
MANNER = 2

#: Chords of arcs depart from them by this (mm), or by more where a picture is of something large.
CHORD = 0.03

#: More of a kind is not told apart in a picture: copies in space, and parts beside one another.
MOST_COPIES, MOST_PARTS = 160, 24

#: Paper in the light and in the shade, and the ink round it: warm ground and near-black, as on all our drawings.
_LIGHT, _SHADE, _INK, _MARK = (253, 250, 243), (196, 182, 154), "#4b4438", "#8a7f6c"
#: From where the light comes, in the picture's axes.
_SUN = (-0.35, 0.72, 0.6)

#: A line is as thin as so many of them would lie side by side along what is seen.
_HAIRS = 320

#: Room (mm) round what is drawn, as a share of its longer side.
_ROOM = 0.03


def portrait(result: Result, assembly: Assembly) -> str:
    """The picture as SVG: what is joined or bent as it stands, anything else as its parts lie flat."""
    copies = standing(result, assembly)
    if copies:
        parts = {copy.part: result.parts[copy.part] for copy in copies}
        chord = chord_for(parts.values())
        bodies = {name: body_of(part, chord) for name, part in parts.items()}
        faces = seen(faces_of([(bodies[copy.part], assembly.poses[copy]) for copy in copies]))
        return svg(bounds_of(face.shape for face in faces), map(painted, faces)) if faces else _nothing()
    laid = _beside_one_another(_largest(result.parts.values()))
    return svg(bounds_of(shape for shape, _ in laid), [text for _, text in laid]) if laid else _nothing()


def chord_for(parts: Iterable[EvaluatedPart]) -> float:
    """How far (mm) chords of arcs may leave them: what nobody sees in a picture of such parts."""
    sides = [side for part in parts for x, y, right, top in [part.outline.bounds] for side in (right - x, top - y)]
    return max(CHORD, max(sides, default=0.0) / 1600)


def body_of(part: EvaluatedPart, chord: float) -> manifold3d.Manifold:
    """A part as a solid in its own frame, folded where it is bent."""
    # What is kept of bent parts for the dry fit, by finer chords, stays so.
    return bent_solid(part, part.folded, chord) if part.folded else solid(part, chord)


def standing(result: Result, assembly: Assembly) -> Sequence[Copy]:
    """The copies of the largest thing that is joined; a bent part stands by itself too."""
    largest = max(assembly.groups, key=len, default=[])
    if len(largest) > 1:
        return largest[:MOST_COPIES]
    bent = [copy for copy in assembly.poses if result.parts[copy.part].folded]
    return bent[:1]


def _largest(parts: Iterable[EvaluatedPart]) -> list[EvaluatedPart]:
    return sorted(parts, key=lambda part: -part.outline.area)[:MOST_PARTS]


def _beside_one_another(parts: Sequence[EvaluatedPart]) -> list[tuple[Polygon, str]]:
    """Parts in rows, about as wide as they are high in all, each with how it is drawn."""
    sizes = [part.outline.bounds for part in parts]
    chord = chord_for(parts)
    gap = 0.04 * max((max(right - left, top - bottom) for left, bottom, right, top in sizes), default=0.0)
    wide = 1.5 * math.sqrt(sum((r - x + gap) * (t - y + gap) for x, y, r, t in sizes))
    wide = max([wide, *(right - left for left, _, right, _ in sizes)])
    found: list[tuple[Polygon, str]] = []
    x = y = row = 0.0
    for part, (left, bottom, right, top) in zip(parts, sizes, strict=True):
        if x > 0 and x + right - left > wide:
            x, y, row = 0.0, y - row - gap, 0.0
        whole = as_polygon(part.outline, chord)
        shape = translate(whole, x - left, y - top)
        lines = [
            translate(as_line(line.segments, chord), x - left, y - top)
            for line in part.lines
            if line.operation != "reference"
        ]
        found.append((shape, _flat(shape, lines)))
        x, row = x + right - left + gap, max(row, top - bottom)
    return found


def _flat(shape: Polygon, lines: Sequence[shapely.LineString]) -> str:
    marks = "".join("M" + "L".join(f"{x:.2f} {-y:.2f}" for x, y in line.coords) for line in lines)
    drawn = f'<path d="{marks}" fill="none" stroke="{_MARK}"/>' if marks else ""
    return f'<path d="{_path(shape)}" fill="{_tone(1.0)}" stroke="{_INK}"/>{drawn}'


def lit(face: Face) -> float:
    """How much light falls on a face, from 0 to 1."""
    return min(1.0, max(0.0, sum(a * b for a, b in zip(face.normal, _SUN, strict=True))))


def painted(face: Face) -> str:
    """A face in its light, as an SVG path."""
    tone = _tone(lit(face))
    return f'<path d="{_path(face.shape)}" fill="{tone}" stroke="{tone if face.chord else _INK}"/>'


def _tone(light_on_it: float) -> str:
    return "#" + "".join(
        f"{round(dark + (light - dark) * light_on_it):02x}" for dark, light in zip(_SHADE, _LIGHT, strict=True)
    )


def _path(shape: Polygon) -> str:
    rings = (shape.exterior, *shape.interiors)
    return "".join("M" + "L".join(f"{x:.2f} {-y:.2f}" for x, y in ring.coords[:-1]) + "Z" for ring in rings)


def bounds_of(shapes: Iterable[Polygon]) -> Bounds:
    """The box round all of them (mm)."""
    left, bottom, right, top = shapely.total_bounds(list(shapes)).tolist()
    return left, bottom, right, top


def svg(bounds: Bounds, drawn: Iterable[str]) -> str:
    """A picture of what lies in a box (mm, y up), with some room round it."""
    left, bottom, right, top = bounds
    room = _ROOM * max(right - left, top - bottom)
    box = f"{left - room:.2f} {-top - room:.2f} {right - left + 2 * room:.2f} {top - bottom + 2 * room:.2f}"
    hair = max(right - left, top - bottom) / _HAIRS
    head = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{box}" fill-rule="evenodd" stroke-linejoin="round"'
    return f'{head} stroke-width="{hair:.3f}">{"".join(drawn)}</svg>'


def _nothing() -> str:
    """A sheet with nothing on it yet."""
    sheet = f'<path d="M0 0H60V40H0Z" fill="none" stroke="{_MARK}" stroke-dasharray="2 2"/>'
    return svg((0.0, -40.0, 60.0, 0.0), [sheet])
