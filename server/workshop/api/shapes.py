"""What is looked at while a part is drawn: its corners, what a stroke would become, and where names are used."""

from __future__ import annotations

from django.http import Http404, HttpRequest
from leannotch_core.document.edit import CannotApply
from leannotch_core.edits.names import uses
from leannotch_core.edits.shapes.drawing import Smoothing, Stroke
from leannotch_core.geometry.stroke import knots_of_stroke
from leannotch_core.handover.svg import path_data
from leannotch_core.parts.corners import corners_of, straight_sides
from leannotch_core.parts.shapes.points import drawn_through
from leannotch_core.parts.standards.library import LIBRARY
from ninja import Router, Schema
from shown.project import Trouble
from shown.shape import CornerShown, NameUses, StandardShown, StraightShown, StrokeShown

from workshop.api.answers import found
from workshop.revisions import current_id, document_of, result_of

router = Router()


class DrawnStroke(Schema):
    stroke: Stroke
    smoothing: Smoothing
    closed: bool = True


@router.get("/projects/{slug}/parts/{part_id}/corners", response={200: list[CornerShown], 404: Trouble, 422: Trouble})
def list_corners(request: HttpRequest, slug: str, part_id: str) -> list[CornerShown]:
    """The corners of a part's material as it is drawn, before any joint and before any corner is taken off."""
    part = result_of(current_id(found(slug))).parts.get(part_id)
    if part is None:
        raise Http404
    return [
        CornerShown(before=c.before, after=c.after, number=c.number, x=c.at.real, y=c.at.imag)
        for c in corners_of(part.as_drawn, part_id)
    ]


@router.get("/projects/{slug}/parts/{part_id}/sides", response={200: list[StraightShown], 404: Trouble, 422: Trouble})
def list_sides(request: HttpRequest, slug: str, part_id: str) -> list[StraightShown]:
    """The straight sides of a part's outline, along which shapes may be turned."""
    part = result_of(current_id(found(slug))).parts.get(part_id)
    if part is None:
        raise Http404
    sides = straight_sides(part.as_drawn, part_id)
    return [StraightShown(side=s.side, length=s.length, angle=s.angle) for s in sides]


@router.get("/standards", response=list[StandardShown])
def list_standards(request: HttpRequest) -> list[StandardShown]:
    return [StandardShown(name=t.name, group=t.group, source=t.source, says=t.says) for t in LIBRARY.values()]


@router.post("/stroke", response={200: StrokeShown, 422: Trouble})
def look_at_stroke(request: HttpRequest, payload: DrawnStroke) -> StrokeShown:
    """What a stroke would become, before it is put anywhere."""
    try:
        knots = knots_of_stroke([spot.point for spot in payload.stroke], payload.smoothing, payload.closed)
    except ValueError as error:
        raise CannotApply(str(error)) from error
    segments = drawn_through("stroke", knots, payload.closed)
    return StrokeShown(path=path_data(segments, closed=payload.closed), points=len(knots), arcs=len(segments))


@router.get("/projects/{slug}/names", response={200: NameUses, 404: Trouble, 422: Trouble})
def name_uses(request: HttpRequest, slug: str) -> NameUses:
    return NameUses(uses=uses(document_of(current_id(found(slug)))))
