"""A picture of the bed or of a scrap, laid flat by its marks and under the drawing."""

from __future__ import annotations

import json
from base64 import b64decode
from hashlib import sha256
from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from leannotch_core.drawings.apart import apart
from leannotch_core.drawings.bounds import Bounds
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.facts.bed import bed_of
from leannotch_core.pictures.marks import Mark, laid_flat, to_scale
from leannotch_core.pictures.picture import LARGEST, flattened, kept_apart, read_picture
from leannotch_core.project.cutting import machine_for
from ninja import Router, Schema, Status
from pydantic import Field
from shown.lay_out import FlatShown, KeptPicture, PictureMark, PictureShown
from shown.project import Trouble

from workshop.api.answers import found
from workshop.models import BedPicture, ReferencePicture, StoredProject
from workshop.revisions import current_id, document_of

router = Router()


class PictureMarks(Schema):
    """Four marks of known places; or two, and the distance (mm) between them."""

    marks: list[PictureMark] = Field(min_length=2, max_length=4)
    distance: float | None = Field(default=None, ge=0, le=100_000, allow_inf_nan=False)


@router.get("/projects/{slug}/picture", response={200: PictureShown, 204: None, 404: Trouble})
def get_picture(request: HttpRequest, slug: str) -> Any:
    picture = BedPicture.objects.filter(project=found(slug)).first()
    return _shown(picture) if picture else Status(204, None)


@router.post("/projects/{slug}/picture", response={200: PictureShown, 404: Trouble, 422: Trouble})
def bring_picture(request: HttpRequest, slug: str) -> PictureShown:
    """Takes a PNG or JPEG, sent as the body, in place of the one before."""
    project = found(slug)
    values = {**_brought(request), "marks": "", "flat": None}
    kept, _ = BedPicture.objects.update_or_create(project=project, defaults=values)
    return _shown(kept)


#: What a picture may take to be read.
_READING = Bounds(seconds=8, megabytes=500)


def _brought(request: HttpRequest) -> dict[str, Any]:
    """The picture in the body as it is kept: JPEG, and its size in pixels. Raises `BrokenFile`."""
    size = int(request.headers.get("Content-Length") or 0)
    if size > LARGEST:
        raise BrokenFile(f"The picture has {size / 1e6:.1f} MB; at most {LARGEST / 1e6:g} MB are read.")
    kept: dict[str, Any] = apart(kept_apart, request.body, bounds=_READING)
    return {**kept, "data": b64decode(kept["data"])}


@router.post("/pictures", response={201: KeptPicture, 422: Trouble})
def keep_picture(request: HttpRequest) -> Status[KeptPicture]:
    """Keeps a PNG or JPEG, sent as the body, to be laid under the drawing of a part."""
    picture = _brought(request)
    key = sha256(picture["data"]).hexdigest()
    ReferencePicture.objects.get_or_create(key=key, defaults=picture)
    return Status(201, KeptPicture(key=key, width=picture["width"], height=picture["height"]))


@router.get("/pictures/{key}.jpg", response={404: Trouble})
def get_kept(request: HttpRequest, key: str) -> HttpResponse:
    kept = ReferencePicture.objects.filter(key=key).first()
    if kept is None:
        raise Http404
    response = HttpResponse(bytes(kept.data), content_type="image/jpeg")
    # The key is that of these very bytes.
    response["Cache-Control"] = "max-age=31536000, immutable"
    return response


@router.post("/projects/{slug}/picture/marks", response={200: PictureShown, 404: Trouble, 422: Trouble})
def set_marks(request: HttpRequest, slug: str, payload: PictureMarks) -> PictureShown:
    """Lays the picture flat: by four marks of known places, or to the scale of two."""
    project = found(slug)
    picture = _picture(project)
    marks = [Mark(complex(m.across, m.down), complex(m.x, m.y)) for m in payload.marks]
    bed = bed_of(machine_for(document_of(current_id(project))))
    if payload.distance is not None:
        matrix = to_scale(marks[0].seen, marks[1].seen, payload.distance, picture.height)
    else:
        matrix = laid_flat(marks)
    flat = flattened(read_picture(bytes(picture.data)), matrix, bed.width, bed.height)
    picture.marks = json.dumps([mark.model_dump() for mark in payload.marks])
    picture.flat, picture.left, picture.bottom = flat.data, flat.left, flat.bottom
    picture.right, picture.top = flat.right, flat.top
    picture.save()
    return _shown(picture)


@router.delete("/projects/{slug}/picture", response={204: None, 404: Trouble})
def remove_picture(request: HttpRequest, slug: str) -> Status[None]:
    BedPicture.objects.filter(project=found(slug)).delete()
    return Status(204, None)


@router.get("/projects/{slug}/picture.jpg", response={404: Trouble})
def get_pixels(request: HttpRequest, slug: str, flat: bool = False) -> HttpResponse:
    """The picture itself, as it was taken or laid flat."""
    picture = _picture(found(slug))
    data = picture.flat if flat else picture.data
    if data is None:
        raise Http404
    return HttpResponse(bytes(data), content_type="image/jpeg")


def _picture(project: StoredProject) -> BedPicture:
    picture = BedPicture.objects.filter(project=project).first()
    if picture is None:
        raise Http404
    return picture


def _shown(picture: BedPicture) -> PictureShown:
    flat = None
    if picture.flat is not None:
        flat = FlatShown(left=picture.left, bottom=picture.bottom, right=picture.right, top=picture.top)
    marks = [PictureMark.model_validate(mark) for mark in json.loads(picture.marks or "[]")]
    return PictureShown(
        stamp=f"{picture.changed.timestamp():.3f}", width=picture.width, height=picture.height, marks=marks, flat=flat
    )
