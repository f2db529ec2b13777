"""Icons of three openly licensed sets (MIT), judged by svgelements: each is as long and as large as that sees it."""

from __future__ import annotations

import io
import random
from collections.abc import Iterator
from functools import partial

import svgelements
from leannotch_core.drawings.way_in import ReadDrawing, WayIn
from leannotch_core.geometry.loop import joined_bounds

from ..projects import ROOT
from .verdict import Foreign, differs, total_length

_MODULES = ROOT / "web" / "node_modules"

#: Where each set has its drawings, and whether they are filled or drawn by lines.
SETS = {
    "bootstrap-icons": "bootstrap-icons/icons",
    "octicons": "@primer/octicons/build/svg",
    "feather-icons": "feather-icons/dist/icons",
}

#: So large (mm) an icon is drawn, that the arcs' tolerance is little of it.
_LARGE = 400


def icons(number: int, chosen: random.Random) -> Iterator[Foreign]:
    """So many icons, of all sets in turn."""
    paths = {name: sorted((_MODULES / folder).glob("*.svg")) for name, folder in SETS.items()}
    each = {name: chosen.sample(found, min(len(found), number // len(paths) + 1)) for name, found in paths.items()}
    for name, found in each.items():
        for path in found:
            data = _large(path.read_bytes())
            yield Foreign(name, path.name, data, partial(_judge, data))


def _large(data: bytes) -> bytes:
    """An icon as large as a plate."""
    head, _, rest = data.partition(b">")
    for side in (b"width", b"height"):
        for size in (b"12", b"16", b"24", b"32", b"48", b"64", b"96"):
            head = head.replace(side + b'="' + size + b'"', side + f'="{_LARGE}mm"'.encode())
    return head + b">" + rest


def _judge(data: bytes, found: ReadDrawing, _: WayIn) -> Iterator[str]:
    drawing = svgelements.SVG.parse(io.BytesIO(data), reify=True)
    runs = [run for one in drawing.elements() if isinstance(one, svgelements.Shape) for run in _runs(one)]
    boxes = [box for run, _ in runs if (box := run.bbox())]
    if not boxes:
        yield "the judge sees nothing in it"
        return
    left, bottom, right, top = joined_bounds(s.bounds() for line in found.drawing.lines for s in line.segments)
    wide = max(box[2] for box in boxes) - min(box[0] for box in boxes)
    high = max(box[3] for box in boxes) - min(box[1] for box in boxes)
    yield from differs(total_length(found), sum(length for _, length in runs) * _PIXEL, "length of all lines")
    yield from differs(right - left, wide * _PIXEL, "width")
    yield from differs(top - bottom, high * _PIXEL, "height")


_PIXEL = 25.4 / 96


def _runs(shape: svgelements.Shape) -> Iterator[tuple[svgelements.Path, float]]:
    """What is drawn without lifting, and how long that is (px): what is filled is closed."""
    seen = shape.stroke is not None and shape.stroke.value is not None
    filled = shape.fill is not None and shape.fill.value is not None
    if not seen and not filled:
        return
    path = svgelements.Path(shape)
    path.reify()
    for run in path.as_subpaths():
        pieces = [piece for piece in svgelements.Path(run) if not isinstance(piece, svgelements.Move)]
        drawn = [piece for piece in pieces if piece.start is not None and piece.end is not None]
        length = sum(piece.length(error=1e-5) for piece in drawn)
        if filled and not seen and drawn:
            length += abs(complex(drawn[0].start) - complex(drawn[-1].end))
        yield svgelements.Path(run), length
