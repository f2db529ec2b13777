"""Drawings that come in a ZIP: which there are, and the bytes of each. Both are for a process of its own."""

from __future__ import annotations

import io
import lzma
import struct
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import contextmanager

from ..document.limits import LARGEST_DRAWING
from ..drawings.drawing import BrokenFile

#: An order in one file has at most so many drawings, and so much in all (bytes) once it is unpacked.
MOST_FILES, MOST_UNPACKED = 20, 40_000_000

#: What reading a ZIP that is damaged or locked ends in; a place before its beginning is a `ValueError`.
_DAMAGED = (
    zipfile.BadZipFile, zlib.error, lzma.LZMAError, struct.error, NotImplementedError, RuntimeError, EOFError, OSError,
    ValueError,
)  # fmt: skip


def is_zip(data: bytes) -> bool:
    """Whether a file begins as ZIPs do (APPNOTE 4.3.6, from memory)."""
    return data.startswith(b"PK")


def drawings_in(data: bytes, name: str) -> list[str]:
    """What the drawings of a ZIP are called, in their order. Raises `BrokenFile`."""
    with _opened(data, name) as bundle:
        drawings = _drawings(bundle)
        if not drawings:
            raise BrokenFile(f"{name} holds no DXF or SVG.")
        if len(drawings) > MOST_FILES or sum(entry.file_size for entry in drawings) > MOST_UNPACKED:
            raise BrokenFile(
                f"{name} holds {len(drawings)} drawings; an order has at most {MOST_FILES}, with "
                f"{MOST_UNPACKED / 1e6:.0f} MB in all."
            )
        # Only what a drawing is called is kept of where it lay.
        return [entry.filename.replace("\\", "/").rpartition("/")[2][:120] or name for entry in drawings]


def drawing_in(data: bytes, name: str, at: int) -> bytes:
    """The bytes of the drawing at a place of a ZIP. Raises `BrokenFile`."""
    with _opened(data, name) as bundle, bundle.open(_drawings(bundle)[at]) as stream:
        # What a ZIP says of its sizes need not be so.
        content = stream.read(LARGEST_DRAWING + 1)
    if len(content) > LARGEST_DRAWING:
        raise BrokenFile(f"{name} has more than {LARGEST_DRAWING / 1e6:.0f} MB once it is unpacked.")
    return content


def _drawings(bundle: zipfile.ZipFile) -> list[zipfile.ZipInfo]:
    return [
        entry for entry in bundle.infolist() if not entry.is_dir() and entry.filename.lower().endswith((".dxf", ".svg"))
    ]


@contextmanager
def _opened(data: bytes, name: str) -> Iterator[zipfile.ZipFile]:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as bundle:
            yield bundle
    except BrokenFile:
        raise
    except _DAMAGED as error:
        raise BrokenFile(f"{name} is a damaged ZIP, or one that is locked.") from error
