"""Pictures read, and laid flat by a map from their pixels to the bed."""

from __future__ import annotations

import io
import math
from base64 import b64encode
from dataclasses import dataclass
from typing import Any

import numpy as np
from PIL import Image, ImageOps, UnidentifiedImageError

from ..drawings.drawing import BrokenFile
from ..said import Said
from .marks import Matrix, through

#: The largest file (bytes) and picture (pixels) that is read, and the longest side (pixels) that is kept.
LARGEST, MOST_PIXELS, KEPT = 9_000_000, 60_000_000, 2400


class NotAPicture(Said):
    """A file that is no picture to lay under a drawing; its message is a sentence to show."""


@dataclass(frozen=True, slots=True)
class Flat:
    """A picture laid flat, as JPEG, and where it lies on the bed: left, bottom, right and top in mm."""

    data: bytes
    left: float
    bottom: float
    right: float
    top: float


def read_picture(data: bytes) -> Image.Image:
    """A PNG or JPEG, upright and no larger than is kept. Raises `NotAPicture`."""
    if len(data) > LARGEST:
        raise NotAPicture(f"The picture has {len(data) / 1e6:.1f} MB; at most {LARGEST / 1e6:g} MB are read.")
    try:
        with Image.open(io.BytesIO(data), formats=("PNG", "JPEG")) as found:
            if found.width * found.height > MOST_PIXELS:
                count = f"{found.width * found.height / 1e6:.0f} million pixels"
                raise NotAPicture(f"The picture has {count}; at most {MOST_PIXELS / 1e6:.0f} million are read.")
            # A JPEG is unpacked no larger than is needed, and nothing is turned before it is small.
            found.draft("RGB", (KEPT, KEPT))
            kept = found.convert("RGB")
            kept.thumbnail((KEPT, KEPT))
            kept.getexif().update(found.getexif())
            kept = ImageOps.exif_transpose(kept) or kept
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        if isinstance(error, NotAPicture):
            raise
        raise NotAPicture(
            "The file is no PNG or JPEG that can be read; take the picture anew, or save it so."
        ) from error
    return kept


def kept_apart(data: bytes) -> dict[str, Any]:
    """As `read_picture`, as JPEG in base 64 with its sizes: for a process of its own. Raises `BrokenFile`."""
    try:
        picture = read_picture(data)
    except NotAPicture as error:
        raise BrokenFile(str(error)) from error
    return {"data": b64encode(as_jpeg(picture)).decode(), "width": picture.width, "height": picture.height}


def as_jpeg(picture: Image.Image) -> bytes:
    """A picture as it is kept."""
    written = io.BytesIO()
    picture.save(written, "JPEG", quality=85)
    return written.getvalue()


def flattened(picture: Image.Image, matrix: Matrix, width: float, height: float) -> Flat:
    """What of a picture lies on a bed of a width and height (mm), seen from straight above. Raises `NotAPicture`."""
    corners = [through(matrix, complex(x, y)) for x in (0, picture.width) for y in (0, picture.height)]
    finite = [corner for corner in corners if math.isfinite(corner.real) and abs(corner) < 1e6]
    left, right = max(0.0, min(c.real for c in finite)), min(width, max(c.real for c in finite))
    bottom, top = max(0.0, min(c.imag for c in finite)), min(height, max(c.imag for c in finite))
    if right - left < 1 or top - bottom < 1:
        raise NotAPicture("By its marks nothing of the picture lies on the bed; check where they are said to be.")
    scale = KEPT / max(right - left, top - bottom) / 1.2
    size = max(1, round((right - left) * scale)), max(1, round((top - bottom) * scale))
    # From the pixels of the flat picture to mm, and from there to those of the picture.
    to_bed = np.array([[1 / scale, 0, left], [0, -1 / scale, top], [0, 0, 1.0]])
    back = np.linalg.inv(matrix) @ to_bed
    coefficients = (back / back[2, 2]).ravel()[:8]
    flat = picture.transform(size, Image.Transform.PERSPECTIVE, tuple(coefficients), Image.Resampling.BILINEAR)
    return Flat(as_jpeg(flat), left, bottom, right, top)
