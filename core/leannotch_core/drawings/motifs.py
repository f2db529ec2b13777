"""What is taken of a drawing as shapes on a part that is there: cut out, sunk, marked on it, or only shown."""

from __future__ import annotations

from collections.abc import Sequence

from ..document.ids import free_id
from ..document.sizes import Size, in_digits
from ..geometry.loop import joined_bounds
from ..parts.cut_out import CutOut
from ..parts.part import Part
from ..parts.shapes.brought import Brought
from .drawing import BrokenFile
from .recognised import FoundPart
from .taken import part_from

#: How many shapes a part can bear.
MOST = 400


def motifs_from(found: Sequence[FoundPart], onto: Part, does: str, file: str) -> list[CutOut]:
    """Every outline that was found as a shape on a part, all as they lie to one another, about its middle.

    They are placed and sized like any cut-out from then on. Raises `BrokenFile`.
    """
    placed = [(part, part.outline.moved(motion)) for part in found for motion in part.places]
    if len(placed) + len(onto.cutouts) > MOST:
        raise BrokenFile(
            f"{onto.name} would have {len(placed) + len(onto.cutouts)} shapes on it; a part has at most {MOST}. "
            "Choose fewer of them."
        )
    left, bottom, right, top = joined_bounds(outline.bounds for _, outline in placed)
    middle = complex(left + right, bottom + top) / 2
    taken = {cut.id for cut in onto.cutouts}
    motifs = []
    for part, outline in placed:
        alone = FoundPart(outline, part.name, part.lines if outline is part.outline else [])
        own_left, own_bottom, own_right, own_top = outline.bounds
        at = complex(own_left + own_right, own_bottom + own_top) / 2 - middle
        motifs.append(
            CutOut.model_validate(
                {
                    "id": free_id("motif", taken),
                    "hole": _shape(alone, file),
                    "origin": "middle",
                    "x": Size(text=in_digits(at.real)),
                    "y": Size(text=in_digits(at.imag)),
                    "does": does,
                }
            )
        )
    return motifs


def _shape(found: FoundPart, file: str) -> Brought:
    shape = part_from(found, "motif", "motif", file=file).shape
    assert isinstance(shape, Brought)
    return shape
