"""The assembly sheet as PDF: what there is to put together, the whole, and a picture of each step in its order."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from ..assembly.order import AssemblyStep
from ..assembly.poses import Assembly, Copy
from ..assembly.space import Matrix, moved
from ..assembly.step_words import step_words
from ..document.sizes import shown
from ..evaluate import Result
from ..handover.letters import POINTS
from ..handover.paper import HEIGHT, LINE, MARGIN, SMALL, WIDTH, Words, fitting, on_paper, wrapped
from ..project.project import Project
from .drawn import body_of, bounds_of, chord_for, lit, standing
from .faces import Face, eye, faces_of
from .seen import seen

#: Steps stand side by side and below one another on a page, so far (mm) apart, the lowest of it for their words.
ACROSS, DOWN, GAP, WORDS = 2, 3, 8.0, 16.0

#: The picture of the whole is so high (mm).
_WHOLE = 110.0

#: What comes is drawn further away than it must be by such a share of the longest side.
_APART = 0.12

#: What stands is grey as paper and printer's ink are, what is put onto it lighter: from shade to light, 0 is black.
_STANDS, _MOVES = (0.55, 0.8), (0.86, 1.0)

#: Where the columns of the list of parts begin and how wide they are (mm), and what stands over them.
_COLUMNS = ((0.0, 60.0, "part"), (62.0, 14.0, "how many"), (80.0, 46.0, "stock"), (128.0, 52.0, "size"))


@dataclass(frozen=True, slots=True)
class _Box:
    """Where something is drawn on a page: its lower left corner and its size, mm."""

    left: float
    bottom: float
    width: float
    height: float


def write_assembly_sheet(project: Project, result: Result, assembly: Assembly, steps: Sequence[AssemblyStep]) -> bytes:
    """Pages of A4; the same steps give the same bytes."""
    pages = [list(_first_page(project, result, assembly))]
    numbered = list(enumerate(steps, 1))
    each = ACROSS * DOWN
    pages += [list(_steps(result, assembly, numbered[at : at + each])) for at in range(0, len(numbered), each)]
    return on_paper(f"{project.name}: putting it together", pages)


def _first_page(project: Project, result: Result, assembly: Assembly) -> Iterator[str | Words]:
    top = HEIGHT - MARGIN - 6
    yield Words(MARGIN, top, 14, fitting(f"{project.name}: putting it together", WIDTH - 2 * MARGIN, 14))
    copies = standing(result, assembly)
    whole = _Box(MARGIN, top - 8 - _WHOLE, WIDTH - 2 * MARGIN, _WHOLE)
    yield from _drawn(_faces(result, {copy: assembly.poses[copy] for copy in copies}), whole, frozenset())
    yield from _parts(project, result, whole.bottom - 10)


def _parts(project: Project, result: Result, top: float) -> Iterator[str | Words]:
    """The list of parts, as many as there is room for on the page."""
    most = int((top - MARGIN) / LINE) - 1
    for x, _, title in _COLUMNS:
        yield Words(MARGIN + x, top, SMALL, title)
    rows = [_row(project, result, part.id) for part in project.parts if part.id in result.parts]
    for number, row in enumerate(rows[:most], 1):
        for (x, wide, _), words in zip(_COLUMNS, row, strict=True):
            yield Words(MARGIN + x, top - LINE * number, SMALL, fitting(words, wide, SMALL))
    if len(rows) > most:
        yield Words(MARGIN, top - LINE * (most + 1), SMALL, f"and {len(rows) - most} more parts")


def _row(project: Project, result: Result, part_id: str) -> tuple[str, ...]:
    found = result.parts[part_id]
    left, bottom, right, high = found.outline.bounds
    stock = project.stock(found.part.stock)
    size = f"{shown(right - left, project.unit)} x {shown(high - bottom, project.unit)}"
    return found.part.name, str(found.part.count), stock.name if stock else "", size


def _steps(result: Result, assembly: Assembly, steps: Sequence[tuple[int, AssemblyStep]]) -> Iterator[str | Words]:
    wide = (WIDTH - 2 * MARGIN - GAP * (ACROSS - 1)) / ACROSS
    high = (HEIGHT - 2 * MARGIN - GAP * (DOWN - 1)) / DOWN
    for place, (number, step) in enumerate(steps):
        left = MARGIN + place % ACROSS * (wide + GAP)
        bottom = HEIGHT - MARGIN - high - place // ACROSS * (high + GAP)
        yield from _step(result, assembly, step, _Box(left, bottom + WORDS, wide, high - WORDS))
        said = wrapped(f"{number}. {step_words(result, step)}", wide)
        for line, words in enumerate(said[: int(WORDS / LINE)]):
            yield Words(left, bottom + WORDS - LINE * (line + 1), SMALL, words)


def _step(result: Result, assembly: Assembly, step: AssemblyStep, box: _Box) -> Iterator[str | Words]:
    """What stands, what comes as far away as it comes from, and an arrow along its way."""
    way = np.array(step.direction) * (step.distance + _clear(result, step))
    poses = {copy: moved(assembly.poses[copy], -way) for copy in step.moving}
    poses |= {copy: assembly.poses[copy] for copy in step.standing}
    faces = _faces(result, poses)
    moving = frozenset(range(len(step.moving)))
    yield from _drawn(faces, box, moving)
    coming = [face for face in faces if face.of in moving]
    if coming:
        left, bottom, right, top = bounds_of(face.shape for face in coming)
        from_there = complex(left + right, bottom + top) / 2
        across, up, _ = eye() @ way
        yield from _arrow(from_there, from_there + complex(across, up), _Frame.of(faces, box))


def _clear(result: Result, step: AssemblyStep) -> float:
    """How far (mm) past what stands a part is drawn, for its way to be seen."""
    boxes = [result.parts[copy.part].outline.bounds for copy in (*step.moving, *step.standing)]
    return _APART * max(max(right - left, top - bottom) for left, bottom, right, top in boxes)


def _faces(result: Result, poses: dict[Copy, Matrix]) -> list[Face]:
    parts = {copy.part: result.parts[copy.part] for copy in poses}
    chord = chord_for(parts.values())
    bodies = {name: body_of(part, chord) for name, part in parts.items()}
    return seen(faces_of([(bodies[copy.part], pose) for copy, pose in poses.items()]))


@dataclass(frozen=True, slots=True)
class _Frame:
    """How a picture (mm) is brought into its box: made larger or smaller, then moved (points)."""

    scale: float
    shift: complex

    @staticmethod
    def of(faces: Sequence[Face], box: _Box) -> _Frame:
        left, bottom, right, top = bounds_of(face.shape for face in faces)
        scale = min(box.width / max(right - left, 1e-9), box.height / max(top - bottom, 1e-9)) * POINTS
        middle = complex(left + right, bottom + top) / 2
        at = complex(box.left + box.width / 2, box.bottom + box.height / 2) * POINTS
        return _Frame(scale, at - middle * scale)

    def point(self, at: complex) -> str:
        there = at * self.scale + self.shift
        return f"{there.real:.2f} {there.imag:.2f}"


def _drawn(faces: Sequence[Face], box: _Box, moving: frozenset[int]) -> Iterator[str]:
    if not faces:
        return
    frame = _Frame.of(faces, box)
    yield "q 0.5 w 1 j 1 J"
    for face in faces:
        dark, light = _MOVES if face.of in moving else _STANDS
        tone = dark + (light - dark) * lit(face)
        yield f"{tone:.3f} g {tone if face.chord else 0.2:.3f} G {_rings(face, frame)} B*"
    yield "Q"


def _rings(face: Face, frame: _Frame) -> str:
    words = []
    for ring in (face.shape.exterior, *face.shape.interiors):
        first, *others = (frame.point(complex(x, y)) for x, y in ring.coords[:-1])
        words.append(" ".join([f"{first} m", *(f"{one} l" for one in others), "h"]))
    return " ".join(words)


def _arrow(start: complex, end: complex, frame: _Frame) -> Iterator[str]:
    """From somewhere to where it goes; none where it goes away from the eye and is too short to be seen."""
    long = abs(end - start) * frame.scale
    if long < 12:
        return
    along = (end - start) / abs(end - start)
    head = 6 / frame.scale * along
    sides = [end - head + head * 0.45j, end - head - head * 0.45j]
    yield f"q 0 G 0 g 1.4 w {frame.point(start)} m {frame.point(end - head)} l S"
    yield f"{frame.point(end)} m {frame.point(sides[0])} l {frame.point(sides[1])} l h f Q"
