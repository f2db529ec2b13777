"""Projects: listed, begun, opened from a file, saved to one, deleted and had back."""

from __future__ import annotations

from collections.abc import Mapping

from aside import deletable
from django.http import Http404, HttpRequest, HttpResponse
from leannotch_core.document.limits import LARGEST_FILE
from leannotch_core.document.model import Name
from leannotch_core.project.project import NotAProject, Project, read_project
from leannotch_core.remembered import remembered
from ninja import Router, Schema, Status
from people import log
from shown.lay_out import RestShown
from shown.project import ProjectShown, Trouble
from shown.projects import DeletedListed, FindingsShown, ProjectListed, Stands

from workshop import hand, library, portraits, proofs, revisions, sharing, whose
from workshop.api.answers import download, found, picture, state
from workshop.models import StoredProject
from workshop.notes import all_notes, left_of_sheets
from workshop.revisions import Unreadable

router = Router()


class NewProject(Schema):
    name: Name


@router.get("/projects", response=list[ProjectListed])
def list_projects(request: HttpRequest) -> list[ProjectListed]:
    projects = list(whose.seen(StoredProject.objects.filter(deleted=None).select_related("variant_of", "owner")))
    faults = proofs.faults_of([project.current_id for project in projects if project.current_id])
    return [listed(project, faults) for project in projects]


def listed(project: StoredProject, faults: Mapping[int, int]) -> ProjectListed:
    """What is told of a project in a list; ``faults`` are those that proofs found, by revision."""
    told = ProjectListed(slug=project.slug, name=project.name, changed=project.changed, demo=project.demo)
    told.owner, told.own = project.owner.username if project.owner else "", whose.is_own(project)
    told.shared = whose.shared_as(project)
    told.variant_of = project.variant_of.name if project.variant_of else ""
    try:
        told.state = revisions.current_id(project)
        told.parts, told.sheets, told.stocks, told.stands, told.missing = _summary(told.state)
        if told.stands == "laid out" and told.state in faults:
            told.stands = "faulty" if faults[told.state] else "proved"
    except Unreadable as trouble:
        told.trouble = trouble.what
        revision = revisions.last_readable(project)
        told.readable = revision.created if revision else None
    return told


@remembered(most=4096)
def _summary(revision_id: int) -> tuple[int, int, list[str], Stands, int]:
    """What is listed of a state, which never changes. Raises `Unreadable`."""
    document = revisions.document_of(revision_id)
    stocks = [stock.name for stock in document.stocks]
    missing = _missing(document)
    return len(document.parts), len(document.layout.sheets), stocks, _stands(document, missing), missing


def _missing(document: Project) -> int:
    """How many copies neither lie on a sheet nor were cut."""
    there = {(one.part, one.copy_number) for one in document.layout.placements} | document.layout.finished
    return sum((part.id, number) not in there for part in document.parts for number in range(1, part.count + 1))


def _stands(document: Project, missing: int) -> Stands:
    lying = document.layout.placements
    if not lying and not document.layout.done:
        return "drawn" if document.parts else "empty"
    return "laid out" if missing or not all(placement.cut for placement in lying) else "cut"


@router.get("/projects/{slug}/portrait", response={200: None, 404: None})
def get_portrait(request: HttpRequest, slug: str, of: int) -> HttpResponse:
    """What the project looks like now, as SVG; ``of`` is its `state`, which is another one after an edit."""
    project = StoredProject.objects.filter(slug=slug, deleted=None).first()
    if project is None:
        raise Http404
    try:
        return picture(portraits.portrait_of(project), project.current_id == of)
    except Unreadable as trouble:
        raise Http404 from trouble


#: What a page to look at may do: nothing but show itself, whatever stands in it.
_ALONE = (
    "sandbox allow-scripts allow-modals; default-src 'none'; style-src 'unsafe-inline'; script-src 'unsafe-inline'; "
    "frame-ancestors 'self'"
)


@router.get("/projects/{slug}/page", response={200: None, 404: Trouble, 422: Trouble})
def get_page(request: HttpRequest, slug: str, save: bool = False) -> HttpResponse:
    """The project as one page of HTML that needs no server; to be saved, or seen in a frame of ours."""
    page = portraits.page_of(revisions.current_id(found(slug)))
    if save:
        return download(page, "text/html; charset=utf-8", f"{slug}.html")
    response = HttpResponse(page, content_type="text/html; charset=utf-8")
    response["Content-Security-Policy"], response["X-Frame-Options"] = _ALONE, "SAMEORIGIN"
    return response


@router.post("/projects", response={201: ProjectShown, 422: Trouble})
def new_project(request: HttpRequest, payload: NewProject) -> HttpResponse:
    return state(revisions.create(library.begun(payload.name)), 201)


@router.post("/projects/open", response={201: ProjectShown, 422: Trouble})
def open_project(request: HttpRequest) -> HttpResponse:
    """Opens a project from the bytes of its file, sent as the body."""
    size = int(request.headers.get("Content-Length") or 0)
    if size > sharing.LARGEST:
        raise NotAProject(f"The file has {size / 1e6:.1f} MB; a project file has at most {LARGEST_FILE / 1e6:g} MB.")
    return state(revisions.create(read_project(sharing.unpacked(request.body))), 201)


@router.get("/projects/{slug}", response={200: ProjectShown, 404: Trouble, 422: Trouble})
def get_project(request: HttpRequest, slug: str) -> HttpResponse:
    return state(found(slug))


@router.get("/projects/{slug}/findings", response={200: FindingsShown, 404: Trouble, 422: Trouble})
def get_findings(request: HttpRequest, slug: str) -> FindingsShown:
    """All findings and what is left of the sheets: what an answer to an edit does not wait for."""
    project = found(slug)
    revision = revisions.current_id(project)
    with hand.looking():
        findings, rests = all_notes(revision), left_of_sheets(revision)
    left = [RestShown.model_validate(rest, from_attributes=True) if rest else None for rest in rests]
    proof = proofs.stands(project, revision)
    return FindingsShown(version=project.version, proof=proof, findings=findings, left=left)


@router.delete("/projects/{slug}", response={204: None, 404: Trouble})
def delete_project(request: HttpRequest, slug: str) -> Status[None]:
    project = found(slug)
    deletable.delete(project)
    log.note("project deleted", to=project.name, slug=slug)
    return Status(204, None)


@router.post("/projects/{slug}/recover", response={200: ProjectShown, 404: Trouble, 422: Trouble})
def recover_project(request: HttpRequest, slug: str) -> HttpResponse:
    """Takes a project that cannot be read back to its last state that can."""
    found(slug)
    return state(revisions.recover(slug))


@router.get("/projects/{slug}/file", response={404: Trouble, 422: Trouble})
def save_project(request: HttpRequest, slug: str) -> HttpResponse:
    document = revisions.document_of(revisions.current_id(found(slug)))
    return download(sharing.packed(document), "application/json", f"{slug}.notch.json")


@router.get("/deleted", response=list[DeletedListed])
def list_deleted(request: HttpRequest) -> list[DeletedListed]:
    gone = [project for project in deletable.kept(StoredProject.objects.all()) if whose.is_own(project)]
    return [
        DeletedListed(
            slug=project.slug, name=project.name, deleted=project.deleted, until=project.deleted + deletable.KEPT
        )
        for project in gone
        if project.deleted
    ]


@router.post("/deleted/{slug}/restore", response={204: None, 404: Trouble})
def restore_project(request: HttpRequest, slug: str) -> Status[None]:
    project = deletable.kept(StoredProject.objects.filter(slug=slug)).first()
    if project is None:
        raise Http404
    deletable.restore(project)
    log.note("project had back", to=project.name, slug=slug)
    return Status(204, None)
