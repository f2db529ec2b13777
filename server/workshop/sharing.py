"""What is handed on in one file: a project with the pictures that lie under its parts."""

from __future__ import annotations

import base64
import binascii
import json
from collections.abc import Iterator
from hashlib import sha256

from leannotch_core.drawings.apart import apart
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.parts.shapes.picture import Picture
from leannotch_core.pictures.picture import kept_apart
from leannotch_core.project.project import NotAProject, Project, write_project

from workshop.models import ReferencePicture

#: The largest file of a project with its pictures, in bytes.
LARGEST = 9_500_000


def packed(document: Project) -> bytes:
    """The file of a project with its pictures inside; the same project gives the same bytes. Raises `NotAProject`."""
    keys = sorted(set(_keys(document)))
    if not keys:
        return write_project(document)
    kept = ReferencePicture.objects.filter(key__in=keys).order_by("key")
    pictures = {one.key: base64.b64encode(bytes(one.data)).decode() for one in kept}
    data = (json.dumps({**json.loads(write_project(document)), "pictures": pictures}, indent=1) + "\n").encode()
    if len(data) > LARGEST:
        raise NotAProject(
            f"With its pictures the file would have {len(data) / 1e6:.1f} MB; at most {LARGEST / 1e6:g} MB are opened "
            "again. Take a picture away, or lay a smaller one under it."
        )
    return data


def unpacked(data: bytes) -> bytes:
    """The project in a file; the pictures that came with it are kept from then on. Raises `NotAProject`."""
    if b'"pictures"' not in data:
        return data
    try:
        raw = json.loads(data)
    except ValueError:
        # Read as a project, it is told what is wrong with it.
        return data
    pictures = raw.pop("pictures", None) if isinstance(raw, dict) else None
    for key, text in (pictures if isinstance(pictures, dict) else {}).items():
        _keep(str(key), text)
    return json.dumps(raw).encode()


def _keep(key: str, text: object) -> None:
    """Keeps a picture under the key that its bytes have; one that is something else is refused."""
    try:
        content = base64.b64decode(str(text), validate=True)
        picture = apart(kept_apart, content)
    except (binascii.Error, BrokenFile) as error:
        raise NotAProject("A picture in the file is damaged, or is none.") from error
    # As it was kept before; bytes that somebody made up are written anew, and lose their key.
    ours = sha256(content).hexdigest() == key and content.startswith(b"\xff\xd8")
    data = content if ours else base64.b64decode(picture["data"])
    size = {"width": picture["width"], "height": picture["height"]}
    ReferencePicture.objects.get_or_create(key=sha256(data).hexdigest(), defaults={"data": data, **size})


def _keys(document: Project) -> Iterator[str]:
    for part in document.parts:
        for cut in part.cutouts:
            if isinstance(cut.hole, Picture) and cut.hole.picture:
                yield cut.hole.picture
