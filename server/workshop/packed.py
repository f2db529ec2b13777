"""How documents are stored: whole ones compressed now and then, and those after them as differences from these."""

from __future__ import annotations

from typing import NamedTuple

import zstandard
from leannotch_core.document.limits import LARGEST_FILE
from leannotch_core.remembered import remembered

from workshop.models import Ground, Revision

#: A difference may be so large a share of the whole document, compressed, before another whole one is stored.
MOST_SHARE = 0.125

_LEVEL = 3


class Damaged(Exception):  # noqa: N818 - it is a state
    """What is stored is no document of ours any more."""


class Packed(NamedTuple):
    """A document ready to be stored: upon a ground that is there, or else upon the ``whole`` that comes with it."""

    ground_id: int | None
    whole: bytes
    difference: bytes


def pack(text: str, beside: Revision | None) -> Packed:
    """A document as a difference from the ground of the revision that it comes after, or upon one of its own."""
    data = text.encode()
    ground = _sound_ground(beside) if beside else None
    if beside and ground:
        difference = _compress(data, ground.text)
        if len(difference) <= ground.size * MOST_SHARE:
            return Packed(beside.ground_id, b"", difference)
    return Packed(None, zstandard.ZstdCompressor(_LEVEL).compress(data), _compress(data, data))


def unpack(revision_id: int) -> str:
    """The document of a revision as JSON. Raises `Damaged`."""
    ground_id, difference = Revision.objects.values_list("ground_id", "difference").get(id=revision_id)
    how = zstandard.ZstdDecompressor(dict_data=_as_dictionary(_ground(ground_id).text))
    try:
        return _expanded(how, bytes(difference)).decode()
    except UnicodeDecodeError as error:
        raise Damaged(f"What is stored of it is damaged ({error}).") from error


def _expanded(how: zstandard.ZstdDecompressor, packed: bytes) -> bytes:
    """Raises `Damaged`, also of what says that it is larger than any document: no memory is taken for that."""
    try:
        if zstandard.frame_content_size(packed) > LARGEST_FILE:
            raise Damaged("What is stored of it is damaged (it says that it is larger than a document can be).")
        return how.decompress(packed)
    except zstandard.ZstdError as error:
        raise Damaged(f"What is stored of it is damaged ({error}).") from error


def _sound_ground(revision: Revision) -> _Ground | None:
    try:
        return _ground(revision.ground_id)
    except Damaged:
        return None


class _Ground(NamedTuple):
    text: bytes
    size: int


@remembered(most=32)
def _ground(ground_id: int) -> _Ground:
    """A whole document, and what it takes compressed (bytes). Raises `Damaged`."""
    whole = bytes(Ground.objects.values_list("whole", flat=True).get(id=ground_id))
    return _Ground(_expanded(zstandard.ZstdDecompressor(), whole), len(whole))


def _compress(data: bytes, ground: bytes) -> bytes:
    return zstandard.ZstdCompressor(_LEVEL, dict_data=_as_dictionary(ground)).compress(data)


def _as_dictionary(ground: bytes) -> zstandard.ZstdCompressionDict:
    return zstandard.ZstdCompressionDict(ground, dict_type=zstandard.DICT_TYPE_RAWCONTENT)
