"""Shapes on a part aligned and spaced: groups go as one."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...document.edit import CannotApply, Changes, Edit
from ...document.model import Id
from ...document.sizes import Size
from ...geometry.loop import Bounds
from ...project.project import Project
from .chosen import ChosenShapes

#: Which way shapes are aligned, and the share of their boxes that comes to lie on one line.
_LINES: dict[str, tuple[bool, float]] = {
    "left": (True, 0.0),
    "middle across": (True, 0.5),
    "right": (True, 1.0),
    "bottom": (False, 0.0),
    "middle up": (False, 0.5),
    "top": (False, 1.0),
}


class AlignShapes(Edit):
    """Aligns shapes on the part, or on the one that was chosen last, which stays."""

    do: Literal["align shapes"]
    part: Id
    ids: list[Id] = Field(min_length=1, max_length=500)
    line: Literal["left", "middle across", "right", "bottom", "middle up", "top"]
    on: Literal["part", "last"] = "last"

    def label(self, project: Project) -> str:
        return f"{ChosenShapes(project, self.part, self.ids).names} aligned, {self.line}"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, self.ids)
        across, share = _LINES[self.line]
        units = chosen.units()
        if self.on == "part":
            target = _at((0.0, 0.0, chosen.drawn.width, chosen.drawn.height), across, share)
        else:
            if len(units) < 2:
                raise CannotApply("Choose a second shape to align on, or align on the part.")
            last = next(unit for unit in units if self.ids[-1] in unit)
            target = _at(chosen.box(last), across, share)
            units.remove(last)
        shifts = {}
        for unit in units:
            way = target - _at(chosen.box(unit), across, share)
            shifts.update(dict.fromkeys(unit, complex(way, 0) if across else complex(0, way)))
        return chosen.with_shapes(chosen.shifted(shifts))


class SpaceShapes(Edit):
    """Spaces shapes evenly, ``across`` or up: by equal ``gaps`` between them, or equal ``steps`` between middles.

    They are shared out between the outer two, which stay, or ``on the part`` from edge to edge, where all gaps are
    equal. A ``size`` is the gap or step itself; then the first one stays.
    """

    do: Literal["space shapes"]
    part: Id
    ids: list[Id] = Field(min_length=1, max_length=500)
    across: bool
    equal: Literal["gaps", "steps"] = "gaps"
    on: Literal["outer two", "part"] = "outer two"
    size: Size | None = None

    def label(self, project: Project) -> str:
        return f"{ChosenShapes(project, self.part, self.ids).names} spaced by equal {self.equal}"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, self.ids)
        units = sorted(chosen.units(), key=lambda unit: _at(chosen.box(unit), self.across, 0.5))
        least = 1 if self.on == "part" else 2 if self.size else 3
        if len(units) < least:
            raise CannotApply(
                f"{len(units)} chosen: spacing takes at least {least}; choose more, or space on the part."
            )
        boxes = [chosen.box(unit) for unit in units]
        wide = [_at(box, self.across, 1) - _at(box, self.across, 0) for box in boxes]
        middles = self._middles(chosen, [_at(box, self.across, 0.5) for box in boxes], wide)
        shifts = {}
        for unit, box, middle in zip(units, boxes, middles, strict=True):
            way = middle - _at(box, self.across, 0.5)
            shifts.update(dict.fromkeys(unit, complex(way, 0) if self.across else complex(0, way)))
        return chosen.with_shapes(chosen.shifted(shifts))

    def _middles(self, chosen: ChosenShapes, middles: list[float], wide: list[float]) -> list[float]:
        """Where the middles come to lie, in order."""
        count = len(middles)
        if self.on == "part":
            whole = chosen.drawn.width if self.across else chosen.drawn.height
            if self.equal == "steps":
                return [whole * (at + 0.5) / count for at in range(count)]
            gap = (whole - sum(wide)) / (count + 1)
            return [gap * (at + 1) + sum(wide[:at]) + wide[at] / 2 for at in range(count)]
        size = chosen.mm(self.size) if self.size else None
        if self.equal == "steps":
            step = size if size is not None else (middles[-1] - middles[0]) / (count - 1)
            return [middles[0] + at * step for at in range(count)]
        begin = middles[0] - wide[0] / 2
        free = middles[-1] + wide[-1] / 2 - begin - sum(wide)
        gap = size if size is not None else free / (count - 1)
        return [begin + gap * at + sum(wide[:at]) + wide[at] / 2 for at in range(count)]


def _at(box: Bounds, across: bool, share: float) -> float:
    low, high = (box[0], box[2]) if across else (box[1], box[3])
    return low + (high - low) * share
