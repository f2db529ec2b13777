"""Where a copy of a part stood in the mesh that it came from."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ..document.model import Millimetres, Model

#: Numbers of a matrix: turns are within 1, places are in mm.
Rows = Annotated[list[Millimetres], Field(min_length=12, max_length=12)]


class Standing(Model):
    """The upper three rows of the matrix, row by row, from the part's own frame to space (mm, z up).

    ``thick`` (mm) is how thick it was there: a sheet of another thickness keeps its middle plane.
    """

    rows: Rows
    thick: Millimetres

    def turned_over(self, width: float) -> Standing:
        """As the part stands once its drawing shows its other face, ``width`` (mm) wide."""
        rows = []
        for a, b, c, d in (self.rows[i : i + 4] for i in (0, 4, 8)):
            rows += [-a, b, -c, d + a * width + c * self.thick]
        return Standing(rows=rows, thick=self.thick)
