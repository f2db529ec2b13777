"""How much an SVG holds, counted before it is read: a small file can name its own content a billion times."""

from __future__ import annotations

import re
from xml.etree.ElementTree import Element

from ..drawing import BrokenFile, check_count
from .parsed import tag_of

#: Deeper than this, groups and uses are no drawing.
DEEPEST = 60

_COMMAND = re.compile(r"([MmLlHhVvCcSsQqTtAaZz])([^MmLlHhVvCcSsQqTtAaZz]*)")

_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")

#: How many numbers a command of path data takes (SVG 2, 9.3), and how many lines or arcs it comes to at the least.
_TAKES = {"m": 2, "l": 2, "h": 1, "v": 1, "c": 6, "s": 4, "q": 4, "t": 2, "a": 7}

_COMES_TO = {"c": 2, "s": 2, "q": 2, "t": 2}


def check_svg(root: Element, most: int) -> None:
    """Raises `BrokenFile` where the drawing has more lines than ``most``, is nested too deeply, or uses itself."""
    _check_depth(root)
    by_id: dict[str, Element] = {}
    for element in root.iter():
        name = element.get("id")
        if name:
            by_id.setdefault(name, element)
    check_count(_Count(by_id, most).lines(root, 0), most)


def _check_depth(root: Element) -> None:
    level, depth = [root], 0
    while level:
        depth += 1
        if depth > DEEPEST:
            raise BrokenFile(f"The SVG is nested more than {DEEPEST} groups deep; ungroup it and save it again.")
        level = [child for element in level for child in element]


class _Count:
    """Counts lines and curves, with everything that is used again; what was counted once is remembered."""

    def __init__(self, by_id: dict[str, Element], most: int) -> None:
        self._by_id, self._most = by_id, most
        self._known: dict[str, int] = {}
        self._open: set[str] = set()

    def lines(self, element: Element, depth: int) -> int:
        found = _own(element) + sum(self.lines(child, depth) for child in element)
        if tag_of(element) == "use":
            found += self._used(element, depth + 1)
        return min(found, self._most + 1)

    def _used(self, element: Element, depth: int) -> int:
        href = element.get("href") or element.get("{http://www.w3.org/1999/xlink}href") or ""
        name = href.removeprefix("#")
        target = self._by_id.get(name) if href.startswith("#") else None
        if target is None:
            return 0
        if name in self._open:
            raise BrokenFile(f"The SVG uses “{name[:40]}” inside itself; take that use out and save it again.")
        if depth > DEEPEST:
            raise BrokenFile(f"The SVG has uses of uses more than {DEEPEST} deep; expand them and save it again.")
        if name not in self._known:
            self._open.add(name)
            self._known[name] = self.lines(target, depth)
            self._open.remove(name)
        return self._known[name]


def _own(element: Element) -> int:
    tag = tag_of(element)
    if tag == "path":
        return sum(_run(letter.lower(), numbers) for letter, numbers in _COMMAND.findall(element.get("d") or ""))
    if tag in ("polyline", "polygon"):
        return len(_NUMBER.findall(element.get("points") or "")) // 2
    # A use alone is counted too: many of them, of nothing, are as much work.
    return 4 if tag in ("rect", "circle", "ellipse") else int(tag in ("line", "use"))


def _run(command: str, numbers: str) -> int:
    if command == "z":
        return 1
    return max(1, len(_NUMBER.findall(numbers)) // _TAKES[command]) * _COMES_TO.get(command, 1)
