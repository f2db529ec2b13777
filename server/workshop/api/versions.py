"""Versions and variants: states that were given a name, and the same design for other stocks or sizes."""

from __future__ import annotations

from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from drawn.part import outline_path
from leannotch_core.costs.rates import Rates
from leannotch_core.document.model import Name
from leannotch_core.evaluate import EvaluatedPart, Result
from leannotch_core.geometry.loop import joined_bounds
from leannotch_core.machining.hatching import TooManyLines
from leannotch_core.machining.plan import CannotPlan
from leannotch_core.project.compared import differences
from ninja import Router, Schema, Status
from shown.project import ProjectShown, Trouble
from shown.projects import Comparison, DifferenceShown, PartCompared, PartDrawn, VariantRow, VersionShown
from shown.shape import BoxShown

from workshop import revisions, variants, whose
from workshop.api.answers import found, state
from workshop.api.edits import ANSWERS, changed_by
from workshop.costs import cost_known
from workshop.models import StoredProject, Version
from workshop.prepared import prepared_sheet
from workshop.rates import rates
from workshop.revisions import current_id, document_of, result_of

router = Router()

#: So many parts are drawn of a version in the list.
_DRAWN = 12


class NewVersion(Schema):
    name: Name


class GoBack(Schema):
    version: int


@router.get("/projects/{slug}/versions", response={200: list[VersionShown], 404: Trouble, 422: Trouble})
def list_versions(request: HttpRequest, slug: str) -> list[VersionShown]:
    return [_shown(version) for version in found(slug).versions.select_related("revision")]


@router.post("/projects/{slug}/versions", response={201: VersionShown, 404: Trouble, 422: Trouble})
def keep_version(request: HttpRequest, slug: str, payload: NewVersion) -> Status[VersionShown]:
    """Gives the project as it stands a name."""
    project = found(slug)
    version = Version.objects.create(project=project, revision_id=current_id(project), name=payload.name)
    return Status(201, _shown(version))


@router.delete("/projects/{slug}/versions/{version_id}", response={204: None, 404: Trouble})
def forget_version(request: HttpRequest, slug: str, version_id: int) -> Status[None]:
    _version(found(slug), version_id).delete()
    return Status(204, None)


@router.post("/projects/{slug}/versions/{version_id}/back", response=ANSWERS)
def go_back(request: HttpRequest, slug: str, version_id: int, payload: GoBack) -> Any:
    """Makes the project what it was at a version: a new step, which can be undone."""
    version = _version(found(slug), version_id)
    document = document_of(version.revision_id)
    label = f"Back to the version {version.name}"
    return changed_by(slug, payload.version, lambda: revisions.put(slug, payload.version, document, label))


@router.get("/projects/{slug}/compared", response={200: Comparison, 404: Trouble, 422: Trouble})
def compare(request: HttpRequest, slug: str, before: int, after: int = 0) -> Comparison:
    """What is different between two versions; 0 is the project as it stands."""
    project = found(slug)
    one, two = (_revision(project, version_id) for version_id in (before, after))
    told = differences(document_of(one), document_of(two))
    return Comparison(
        differences=[DifferenceShown(where=d.where, before=d.before, after=d.after, part=d.part) for d in told],
        parts=_compared(result_of(one), result_of(two)),
    )


@router.post("/projects/{slug}/duplicate", response={201: ProjectShown, 404: Trouble, 422: Trouble})
def duplicate(request: HttpRequest, slug: str) -> HttpResponse:
    """A project of its own, the same as this one."""
    project = found(slug)
    document = document_of(current_id(project))
    # What was begun from another's design keeps its name: whose it is tells them apart.
    name = f"{document.name} copy"[:80] if whose.is_own(project) else document.name
    copy = revisions.create(document.model_copy(update={"name": name}))
    whose.taken_on(project, copy)
    return state(copy, 201)


@router.get("/projects/{slug}/variants", response={200: list[VariantRow], 404: Trouble, 422: Trouble})
def list_variants(request: HttpRequest, slug: str) -> list[VariantRow]:
    """The design and all its variants, whichever of them is asked."""
    project = found(slug)
    design = project.variant_of or project
    others = whose.seen(design.variants.filter(deleted=None)).order_by("id")
    rows = [*([design] if whose.sees(design) else []), *(variants.follow(one) for one in others)]
    kept = rates()
    return [_row(one, design, kept) for one in rows]


@router.post("/projects/{slug}/variants", response={201: ProjectShown, 404: Trouble, 422: Trouble})
def new_variant(request: HttpRequest, slug: str, payload: NewVersion) -> HttpResponse:
    return state(variants.begin(found(slug), payload.name), 201)


def _version(project: StoredProject, version_id: int) -> Version:
    version = project.versions.filter(id=version_id).first()
    if version is None:
        raise Http404
    return version


def _revision(project: StoredProject, version_id: int) -> int:
    return _version(project, version_id).revision_id if version_id else current_id(project)


def _shown(version: Version) -> VersionShown:
    result = result_of(version.revision_id)
    parts = list(result.parts.values())
    return VersionShown(
        id=version.id,
        name=version.name,
        created=version.created,
        count=len(document_of(version.revision_id).parts),
        parts=[
            PartDrawn(id=p.part.id, name=p.part.name, path=_path(p), pockets=_pockets(p), box=_box([p]))
            for p in parts[:_DRAWN]
        ],
    )


def _path(part: EvaluatedPart) -> str:
    return "".join(outline_path(piece) for piece in part.finished.pieces)


def _pockets(part: EvaluatedPart) -> str:
    return "".join(outline_path(pocket.outline) for pocket in part.pockets)


def _drawn(result: Result, part_id: str) -> str:
    """All edges of a part; nothing where it is not there."""
    part = result.parts.get(part_id)
    return _path(part) + _pockets(part) if part else ""


def _box(parts: list[EvaluatedPart]) -> BoxShown:
    left, bottom, right, top = joined_bounds(part.outline.bounds for part in parts)
    return BoxShown(left=left, bottom=bottom, right=right, top=top)


def _compared(before: Result, after: Result) -> list[PartCompared]:
    found = []
    for part_id in dict.fromkeys([*after.parts, *before.parts]):
        one, two = _drawn(before, part_id), _drawn(after, part_id)
        if one != two:
            shapes = [r.parts[part_id] for r in (after, before) if part_id in r.parts]
            found.append(PartCompared(id=part_id, name=shapes[0].part.name, before=one, after=two, box=_box(shapes)))
    return found


def _seconds(revision: int) -> float | None:
    """What the machine takes for all sheets; None where it is not known, or nothing is laid out."""
    document = document_of(revision)
    if not document.machine or not document.layout.sheets:
        return None
    try:
        return sum(prepared_sheet(revision, index).seconds for index in range(len(document.layout.sheets)))
    except (CannotPlan, TooManyLines):
        return None


def _row(project: StoredProject, design: StoredProject, kept: Rates) -> VariantRow:
    revision = current_id(project)
    document, result = document_of(revision), result_of(revision)
    edges = (part.edge_length * part.part.count for part in result.parts.values())
    own, cost = variants.own(project), cost_known(revision, kept)
    return VariantRow(
        slug=project.slug,
        name=project.name,
        design=project.id == design.id,
        thickness=", ".join(f"{facts.thickness:.2f}" for facts in result.stocks.values()),
        parts=sum(part.count for part in document.parts),
        sheets=len(document.layout.sheets),
        cut_length=sum(edges),
        seconds=_seconds(revision),
        cost=cost.total if cost else None,
        money=kept.money,
        errors=len(result.errors),
        warnings=sum(finding.level == "warning" for finding in result.findings),
        own=[*(stock.name for stock in document.stocks if stock.id in own.stocks), *own.names],
    )
