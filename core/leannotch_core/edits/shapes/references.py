"""What is taken over from a reference: its holes as cut-outs, and a picture's scale from a known length."""

from __future__ import annotations

from typing import Literal

from ...document.edit import CannotApply, Changes, Edit
from ...document.ids import free_id
from ...document.model import Id
from ...document.sizes import Size, in_digits
from ...document.turned_over import moved_by
from ...drawings.taken import ring
from ...geometry.loop import Loop, Outline
from ...geometry.offset import grow
from ...parts.cut_out import CutOut
from ...parts.nine import point_of
from ...parts.shapes.brought import Brought
from ...parts.shapes.round_hole import RoundHole
from ...project.project import Project
from .chosen import ChosenShapes
from .drawing import StrokeSpot
from .fitting import ScaleShapes


class TakeHoles(Edit):
    """Cuts the holes of a reference into the part, so much larger all over (in diameter); they stand from the
    reference, and go where it goes.
    """

    do: Literal["take holes"]
    part: Id
    id: Id
    larger: Size = Size(text="0")

    def label(self, project: Project) -> str:
        return f"Holes of {ChosenShapes(project, self.part, [self.id]).names} cut, {self.larger.text} larger"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, [self.id])
        larger = chosen.mm(self.larger)
        holes = [loop for outline in chosen.shape(self.id).loops for loop in outline.cutouts]
        if not holes:
            raise CannotApply(f"{chosen.called(self.id)} has no holes to be taken over.")
        taken = {cut.id for cut in chosen.part.cutouts}
        middle = point_of(chosen.shape(self.id).box, "middle")
        fresh = [self._cut_out(chosen, hole, larger, middle, free_id("hole", taken)) for hole in holes]
        return chosen.with_shapes([*chosen.part.cutouts, *fresh])

    def _cut_out(self, chosen: ChosenShapes, hole: Loop, larger: float, middle: complex, cut_id: str) -> CutOut:
        unit = chosen.project.unit
        zero = Size(text="0", unit=unit)
        at = point_of(hole.bounds, "middle") - middle
        shape: RoundHole | Brought
        circle = hole.circle()
        if circle:
            _, radius = circle
            drawn = moved_by(zero, 2 * radius)
            size = drawn if not larger else Size(text=f"{drawn.text} + {self.larger.text}", unit=self.larger.unit)
            same_unit = self.larger.unit == unit
            shape = RoundHole(diameter=size if same_unit else moved_by(zero, 2 * radius + larger))
        else:
            grown = grow([Outline(hole.reversed())], larger / 2) if larger else [Outline(hole.reversed())]
            if len(grown) != 1:
                raise CannotApply(f"A hole of {chosen.called(self.id)} is gone when it is {larger:g} mm larger.")
            left, bottom, right, top = grown[0].bounds
            width, height = moved_by(zero, right - left), moved_by(zero, top - bottom)
            shape = Brought(width=width, height=height, rings=[ring(grown[0].outer, complex(left, bottom))])
        return CutOut(
            id=cut_id,
            hole=shape,
            origin="middle",
            x_of=self.id,
            y_of=self.id,
            x=moved_by(zero, at.real),
            y=moved_by(zero, at.imag),
        )


class SetToScale(Edit):
    """Makes a shape so large that two places on it are a known length apart, as of a picture; the first stays."""

    do: Literal["set to scale"]
    part: Id
    id: Id
    first: StrokeSpot
    second: StrokeSpot
    length: Size

    def label(self, project: Project) -> str:
        return f"{ChosenShapes(project, self.part, [self.id]).names} set to scale"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, [self.id])
        length, apart = chosen.mm(self.length), abs(self.second.point - self.first.point)
        if length <= 0 or apart < 1e-6:
            raise CannotApply(
                f"Two places {apart:.3g} mm apart are to be {length:g} mm apart; set them on two ends of what is known."
            )
        factor = length / apart
        scaled = ScaleShapes(do="scale shapes", part=self.part, ids=[self.id], by=Size(text=in_digits(factor)))
        larger = project.model_copy(update=scaled.changes(project))
        # It was made larger about its middle; it goes back so that the first place is where it was.
        middle = point_of(chosen.shape(self.id).box, "middle")
        way = (self.first.point - middle) * (1 - factor)
        again = ChosenShapes(larger, self.part, [self.id])
        return again.with_shapes(again.shifted({self.id: way}))
