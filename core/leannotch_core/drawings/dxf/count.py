"""How much a DXF holds, counted before it is read: blocks may insert blocks, and even themselves."""

from __future__ import annotations

from collections import Counter
from typing import Any

from ..drawing import BrokenFile, check_count

#: Deeper than this, blocks of blocks are no drawing.
DEEPEST = 30

#: What may stand in a file beside its lines: tables, styles and objects.
_BESIDE = 5000


def check_tags(data: bytes, most: int) -> None:
    """Raises `BrokenFile` where a file begins more entities and vertices than make up ``most`` lines."""
    # In a DXF lines go in pairs, a code and its value; an entity begins with 0 and every point of it with 10.
    codes = data.split(b"\n")[::2]
    count = Counter(code.strip() for code in codes)
    check_count(max(count[b"0"], count[b"10"]) - _BESIDE, most)


def check_blocks(document: Any, most: int) -> None:
    """Raises `BrokenFile` where the model space has more than ``most`` entities with all that its blocks insert."""
    count = _Count(document.blocks)
    check_count(count.entities(document.modelspace(), 0), most)


class _Count:
    """Counts entities, those of inserted blocks too; what was counted once is remembered."""

    def __init__(self, blocks: Any) -> None:
        self._blocks = blocks
        self._known: dict[str, int] = {}
        self._open: set[str] = set()

    def entities(self, layout: Any, depth: int) -> int:
        return sum(self._inserted(entity, depth + 1) if entity.dxftype() == "INSERT" else 1 for entity in layout)

    def _inserted(self, insert: Any, depth: int) -> int:
        name = str(insert.dxf.get("name", "")).lower()
        block = self._blocks.get(name)
        if block is None:
            return 1
        if name in self._open:
            raise BrokenFile(
                f"The block “{name[:40]}” of the DXF inserts itself; take that insert out and save it again."
            )
        if depth > DEEPEST:
            raise BrokenFile(f"The DXF has blocks of blocks more than {DEEPEST} deep; explode them and save it again.")
        if name not in self._known:
            self._open.add(name)
            self._known[name] = 1 + self.entities(block, depth)
            self._open.remove(name)
        return self._known[name]
