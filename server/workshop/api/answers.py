"""What many calls answer with: why something was not done, and a file to keep."""

from __future__ import annotations

from django.http import Http404, HttpResponse

from workshop.changes import changes
from workshop.models import StoredProject
from workshop.state import show
from workshop.variants import follow


def found(slug: str) -> StoredProject:
    """The project of a slug that is not deleted; a variant as its design is now. Raises `Http404`."""
    project = StoredProject.objects.select_related("current", "variant_of").filter(slug=slug, deleted=None).first()
    if project is None:
        raise Http404
    return follow(project)


def state(project: StoredProject, status: int = 200) -> HttpResponse:
    """The project ready to draw, as `ProjectShown`: written as it is, for it was made by type."""
    return HttpResponse(show(project).model_dump_json(), status=status, content_type="application/json")


def changed(project: StoredProject, since: int, before: int, said: str = "") -> HttpResponse:
    """What is not as it was at a version, which was the revision ``before``, as `ProjectChanges`."""
    return HttpResponse(changes(project, since, before, said).model_dump_json(), content_type="application/json")


def picture(svg: bytes, stays: bool) -> HttpResponse:
    """A picture as SVG, which a browser may keep where it ``stays`` as it is."""
    response = HttpResponse(svg, content_type="image/svg+xml")
    response["Cache-Control"] = "private, max-age=31536000, immutable" if stays else "no-store"
    return response


def download(data: bytes, kind: str, name: str) -> HttpResponse:
    response = HttpResponse(data, content_type=kind)
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
