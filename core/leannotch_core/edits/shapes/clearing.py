"""Shapes moved clear of the bends that would draw them out of shape."""

from __future__ import annotations

from typing import Literal

from ...bends.near import NEAR, apart, way_clear
from ...document.edit import CannotApply, Changes, Edit
from ...document.model import Id
from ...geometry.loop import Outline
from ...geometry.segment import move
from ...project.project import Project
from .chosen import ChosenShapes

#: What is asked for beyond the least (mm), so that measured exactly it is not a hair under it.
_OVER = 0.01
#: Away from one bend a shape may come near another: so often it is tried.
_TRIES = 4


class ClearOfBends(Edit):
    """Moves a shape, in all its places, as far from every bend of its part as cuts have to be."""

    do: Literal["clear of bends"]
    part: Id
    id: Id

    def label(self, project: Project) -> str:
        return f"{ChosenShapes(project, self.part, [self.id]).names} moved clear of the bend"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, [self.id])
        way = self._way(chosen)
        return chosen.with_shapes(chosen.shifted({self.id: way}))

    def _way(self, chosen: ChosenShapes) -> complex:
        within = NEAR * chosen.drawn.stock.thickness + _OVER
        way = 0j
        for _ in range(_TRIES):
            cuts = [outline.moved(move(shift=way)) for outline in chosen.shape(self.id).loops]
            more = [_furthest(chosen, cut, within) for cut in cuts]
            if not any(more):
                return way
            way += max(more, key=abs)
        raise CannotApply(
            f"{chosen.names} has no room between the bends of {chosen.part.name}; make it smaller, or move a bend."
        )


def _furthest(chosen: ChosenShapes, cut: Outline, within: float) -> complex:
    """The longest way that one of the bends sends a cut; none where all are far enough."""
    near = [bend for bend in chosen.drawn.bends if bend.half > 0 and apart(bend, cut, within) is not None]
    return max((way_clear(bend, cut, within) for bend in near), key=abs, default=0j)
