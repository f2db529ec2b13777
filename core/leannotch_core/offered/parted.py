"""Equal plates of a mesh that meet others at different sides: they are parts of their own, for their joints differ."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from itertools import permutations

from ..assembly.poses import Assembly, Copy, assemble
from ..document.ids import free_id
from ..evaluate import Result, evaluate
from ..parts.part import Part
from ..parts.shapes.brought import Brought
from ..project.project import Project
from .stood import pair_of

#: Where a copy touches another part: at one of its own sides or at a place of its face, and which part.
_Touch = tuple[str, str]


def parted(project: Project, others: Iterable[str] = ()) -> Project:
    """The project with copies that meet others where their like do not as parts of their own.

    Those that meet the same at the same sides stay one part with their number, as equal walls of a box do. New parts
    get none of the ids of ``others``.
    """
    several = {part.id for part in project.parts if part.count > 1 and len(part.stands) == part.count}
    if not several:
        return project
    result = evaluate(project)
    touches = _touches(project, result, assemble(project, result), several)
    parts: list[Part] = []
    taken = {*others, *(part.id for part in project.parts)}
    for part in project.parts:
        groups: dict[frozenset[_Touch], list[int]] = defaultdict(list)
        for number in range(1, part.count + 1 if part.id in several else 1):
            groups[frozenset(touches[Copy(part.id, number)])].append(number)
        parts += [part] if len(groups) < 2 else _apart(part, list(groups.values()), taken)
    return project.model_copy(update={"parts": parts})


def _touches(project: Project, result: Result, assembly: Assembly, several: set[str]) -> dict[Copy, set[_Touch]]:
    found: dict[Copy, set[_Touch]] = defaultdict(set)
    for group in assembly.groups:
        for a, b in permutations(group, 2):
            if a.part == b.part or not ({a.part, b.part} & several):
                continue
            pair = pair_of(project, result, assembly.poses, a, b)
            for edge in pair.edges() if pair else ():
                found[a].add((edge.side, b.part))
                found[b].add((edge.corner or f"face, {edge.lies}", a.part))
    return found


def _apart(part: Part, groups: Sequence[Sequence[int]], taken: set[str]) -> list[Part]:
    """One part for each group of copies; the first of them is the part itself."""
    found = []
    for at, numbers in enumerate(groups):
        stands = [part.stands[number - 1] for number in numbers]
        own = part.model_copy(update={"count": len(numbers), "stands": stands})
        if at:
            name = f"{part.name[:72]} ({chr(ord('a') + at % 26)})"
            own = own.model_copy(update={"id": free_id(part.id, taken), "name": name})
        if isinstance(own.shape, Brought) and own.shape.came_from:
            came = own.shape.came_from.model_copy(update={"name": own.name, "count": own.count})
            own = own.model_copy(update={"shape": own.shape.model_copy(update={"came_from": came})})
        found.append(own)
    return found
