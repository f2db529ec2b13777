"""Meshes, places and dimensions in space, as the browser draws them; all in mm."""

from __future__ import annotations

from pydantic import BaseModel

#: Chords of arcs on the screen depart from them by at most this (mm).
CHORD = 0.03


class MeshShown(BaseModel):
    """A part's surface in its own frame: corners as x, y, z in mm, and three corners to a triangle."""

    part: str
    corners: list[float]
    triangles: list[int]


class CopyShown(BaseModel):
    """A copy's place: the upper three rows of its matrix, row by row, from the part's own frame to space in mm."""

    part: str
    number: int
    group: int
    matrix: list[float]


class DrivenShown(BaseModel):
    """The number of a starter that a dimension shows, and so can be typed there; a compartment has its ``index``."""

    starter: str
    number: str
    index: int | None


class SpanShown(BaseModel):
    """A dimension in space: from one point to another, in mm."""

    axis: str
    start: list[float]
    end: list[float]
    length: float
    driven: DrivenShown | None
