"""Finished parts as solids, and where they clash once they are put together."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from itertools import combinations

import manifold3d
import numpy as np

from ..evaluate import EvaluatedPart, Result
from ..geometry.chords import ring
from ..geometry.loop import Outline
from ..remembered import Remembered
from .bent import bent_solid
from .film import TOUCH, film_thickness
from .leaning import leaned, seated
from .poses import Assembly, Copy
from .space import Matrix

#: Chords of arcs depart from them by at most this (mm).
CHORD = 0.001


_BENT = Remembered[manifold3d.Manifold]()


def solid(part: EvaluatedPart, chord: float = CHORD) -> manifold3d.Manifold:
    """The finished part from z = 0 at its back to its thickness at the drawn face, pockets sunk from there; in mm.

    One with bends is folded, its root face lying so.
    """
    if folded := part.folded:
        return _BENT.of(part, (chord,), lambda: bent_solid(part, folded, chord))
    body = _extruded(part.outline, part.stock.thickness, chord)
    for pocket in part.pockets:
        sunk = _extruded(pocket.outline, pocket.depth + 1, chord)
        body -= sunk.translate((0, 0, part.stock.thickness - pocket.depth))
    return body


def leaning(part: EvaluatedPart, chord: float = CHORD) -> manifold3d.Manifold:
    """As `solid`, with the walls of its cuts as they lean, its drawn face having lain up on its sheet."""
    if part.folded or not part.stock.walls.leaning:
        return solid(part, chord)
    return leaned(solid(part, chord), part.outline, part.stock, chord)


def _extruded(outline: Outline, height: float, chord: float) -> manifold3d.Manifold:
    loops = [np.array(ring(loop, chord)) for loop in outline.loops]
    section = manifold3d.CrossSection(loops, manifold3d.FillRule.Positive)
    return manifold3d.Manifold.extrude(section, height)


def placed(body: manifold3d.Manifold, pose: Matrix) -> manifold3d.Manifold:
    """A body where its pose (rows of a 3 x 4 matrix, mm) puts it."""
    return body.transform(pose[:3, :])


@dataclass(frozen=True, slots=True)
class Clash:
    """Two copies that share ``volume`` mm³, about ``deep`` mm deep around ``middle`` (mm in space).

    ``promised``: their joint is a press fit and is meant to.
    """

    a: Copy
    b: Copy
    volume: float
    deep: float
    middle: tuple[float, float, float]
    promised: bool


def clashes(result: Result, assembly: Assembly) -> Iterator[tuple[float, Clash | None]]:
    """Every pair of copies that could touch, one after the other: the share that is done, and the clash if there is."""
    whole = _standing(result, assembly, solid)
    seats = seated(result, assembly)
    press = interference(result)
    pairs = [(a, b) for a, b in combinations(whole, 2) if near(whole[a], whole[b])]
    leans = _standing(result, assembly, leaning) if seats else whole
    for index, (a, b) in enumerate(pairs):
        seat = seats.get((a, b))
        shared = whole[a] ^ whole[b] if seat is None else leans[a] ^ leans[b].translate(seat)
        yield (index + 1) / len(pairs), _clash(a, b, shared, frozenset((a.part, b.part)) in press)


def _standing(
    result: Result, assembly: Assembly, made: Callable[[EvaluatedPart], manifold3d.Manifold]
) -> dict[Copy, manifold3d.Manifold]:
    shapes = {part: made(result.parts[part]) for part in {copy.part for copy in assembly.poses}}
    return {copy: placed(shapes[copy.part], pose) for copy, pose in assembly.poses.items()}


def interference(result: Result) -> dict[frozenset[str], float]:
    """By how much (mm) the inserts of press fits are larger than their openings on the tighter face, by both parts."""
    found: dict[frozenset[str], float] = {}
    for row in result.ledger:
        pair = frozenset((row.opening_part, row.insert_part))
        over = -row.gap - min(0.0, row.above, row.below) if row.gap < 0 else 0.0
        found[pair] = max(found.get(pair, 0.0), over)
    return {pair: over for pair, over in found.items() if over > 0}


def near(a: manifold3d.Manifold, b: manifold3d.Manifold) -> bool:
    """Whether the boxes about two bodies share more than a touch."""
    low_a, high_a = np.split(np.array(a.bounding_box()), 2)
    low_b, high_b = np.split(np.array(b.bounding_box()), 2)
    return bool((np.minimum(high_a, high_b) - np.maximum(low_a, low_b) > TOUCH).all())


def _clash(a: Copy, b: Copy, shared: manifold3d.Manifold, promised: bool) -> Clash | None:
    deep = film_thickness(shared)
    if deep <= TOUCH:
        return None
    low, high = np.split(np.array(shared.bounding_box()), 2)
    middle = (low + high) / 2
    return Clash(a, b, shared.volume(), deep, (float(middle[0]), float(middle[1]), float(middle[2])), promised)


def all_clashes(result: Result, assembly: Assembly) -> list[Clash]:
    """All clashes at once, the deepest first."""
    found: Iterable[Clash | None] = (clash for _, clash in clashes(result, assembly))
    return sorted((clash for clash in found if clash), key=lambda clash: -clash.deep)
