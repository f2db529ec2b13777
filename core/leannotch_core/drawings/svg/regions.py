"""What clips and masks leave to be seen: regions in mm, worked out by the kernel's own booleans (CSS Masking 1)."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from itertools import groupby
from xml.etree.ElementTree import Element

from fontTools.misc.transform import Transform

from ...document.limits import MOST_READ
from ...geometry.arrangement import select
from ...geometry.boolean import subtract, union
from ...geometry.loop import Bounds, Loop, Outline
from ...geometry.segment import Line, Segment
from ..drawing import BrokenFile
from ..window import NOTHING, Window, closed_window
from .lengths import pixels, transform
from .parsed import tag_of
from .shapes import SHAPES, SOURCE, Subpath, runs_of
from .styles import Style, StyleSheets, styled

#: Clips of clips and masks of masks go no deeper.
_DEEPEST = 8


def rectangle(box: Bounds, to_mm: Transform) -> Window:
    """The window of a nested drawing: its box in its own units, as it lies in mm."""
    left, top, right, bottom = box
    corners = [
        complex(*to_mm.transformPoint(at)) for at in ((left, top), (right, top), (right, bottom), (left, bottom))
    ]
    straight = abs(to_mm.xy) < 1e-12 and abs(to_mm.yx) < 1e-12
    return closed_window(corners, straight)


class Regions:
    """The clips and masks of a drawing; ``tells`` hears what of them cannot be carried out.

    All of them together draw no more than ``most`` shapes, however often they are used.
    """

    def __init__(
        self, by_id: Mapping[str, Element], sheet: StyleSheets, tells: Callable[[str], None], most: int = MOST_READ
    ) -> None:
        self._by_id, self._sheet, self._tells = by_id, sheet, tells
        self._left, self._most = most, most

    def seen(self, style: Style, here: UserSpace) -> Iterator[Window]:
        """What the clip and the mask of something show of it; one that is not in the drawing hides nothing."""
        for name, kind, shown in ((style.clip, "clipPath", self._clip), (style.mask, "mask", self._mask)):
            found = self._by_id.get(name)
            if found is not None and tag_of(found) == kind:
                yield shown(found, here, 0)

    def _clip(self, clip: Element, here: UserSpace, deep: int) -> Window:
        given = self._sheet.given(clip)
        to_mm = here.of(given.get("clipPathUnits")).transform(transform(given, here.whole, here.box))
        style = styled(given, Style())
        shapes = [shape for child in clip for shape in self._drawn(child, to_mm, here.whole, style, 0)]
        window = Window(tuple(union(*(shape.region("clip") for shape in shapes))) if shapes else ())
        inner = self._by_id.get(style.clip)
        if inner is None or tag_of(inner) != "clipPath" or deep > _DEEPEST:
            return window
        return window.and_through(self._clip(inner, here, deep + 1))

    def _mask(self, mask: Element, here: UserSpace, _: int) -> Window:
        """Where it is bright, as later shapes lie on earlier ones."""
        given = self._sheet.given(mask)
        to_mm, style = here.of(given.get("maskContentUnits")), styled(given, Style())
        shapes = [shape for child in mask for shape in self._drawn(child, to_mm, here.whole, style, 0)]
        if any(shape.style.strokes for shape in shapes):
            self._tells("lines of masks")
        seen: list[Outline] = []
        for bright, alike in groupby((shape for shape in shapes if shape.style.fills), lambda shape: shape.bright):
            region = union(*(shape.region("fill") for shape in alike))
            seen = union(seen, region) if bright else subtract(seen, region)
        return Window(tuple(seen))

    def _drawn(self, element: Element, to_mm: Transform, whole: complex, style: Style, deep: int) -> Iterator[_Drawn]:
        """The shapes of a clip or a mask, in the order in which they are painted."""
        tag, given = tag_of(element), self._sheet.given(element)
        style = styled(given, style)
        to_mm = to_mm.transform(transform(given, whole, lambda: (0.0, 0.0, whole.real, whole.imag)))
        if not style.displayed or deep > _DEEPEST:
            return
        if tag in SHAPES and style.visible:
            self._left -= 1
            if self._left < 0:
                raise BrokenFile(f"The clips and masks of the SVG come to more than {self._most} shapes; clip fewer.")
            yield _Drawn(runs_of(given, tag, to_mm, whole), style)
        elif tag == "use":
            target = self._by_id.get(used(given))
            x, y = pixels(given.get("x"), whole.real) or 0.0, pixels(given.get("y"), whole.imag) or 0.0
            if target is not None:
                yield from self._drawn(target, to_mm.translate(x, y), whole, style, deep + 1)
        elif tag == "g":
            for child in element:
                yield from self._drawn(child, to_mm, whole, style, deep + 1)
        elif tag in ("text", "image"):
            self._tells(f"{tag}s in clips and masks")


@dataclass(frozen=True, slots=True)
class UserSpace:
    """Where something stands: what takes its units to mm, what percents are of, and its own box."""

    to_mm: Transform
    whole: complex
    box: Callable[[], Bounds]

    def of(self, units: str | None) -> Transform:
        """What takes the units of a clip or a mask to mm: those of the thing, or shares of its box."""
        if units != "objectBoundingBox":
            return self.to_mm
        left, top, right, bottom = self.box()
        return self.to_mm.transform(Transform(right - left, 0, 0, bottom - top, left, top))


def used(given: Mapping[str, str]) -> str:
    """The id of what an element uses; nothing where that lies elsewhere."""
    href = given.get("href") or given.get("{http://www.w3.org/1999/xlink}href") or ""
    return href.removeprefix("#") if href.startswith("#") else ""


@dataclass(frozen=True, slots=True)
class _Drawn:
    """A shape of a clip or a mask."""

    runs: list[Subpath]
    style: Style

    @property
    def bright(self) -> bool:
        """Whether it lets more than half of what is behind it be seen (CSS Masking 1, 7.10.1: luminance)."""
        colour = self.style.fill or "#000000"
        red, green, blue = (int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5))
        shown = (0.2125 * red + 0.7154 * green + 0.0721 * blue) * self.style.fill_opacity * self.style.opacity
        return shown > 0.5

    def region(self, way: str) -> list[Outline]:
        """What it covers, by its rule for filling or for clipping."""
        loops = [Loop(tuple(_closed(run.segments))) for run in self.runs if len(run.segments) > 1]
        loops = [loop for loop in loops if abs(loop.area) > NOTHING]
        rule = self.style.clip_rule if way == "clip" else self.style.fill_rule
        return select([loops], lambda w: w[:, 0] % 2 == 1 if rule == "evenodd" else w[:, 0] != 0)


def _closed(segments: list[Segment]) -> list[Segment]:
    first, last = segments[0].start, segments[-1].end
    return segments if abs(first - last) < NOTHING else [*segments, Line(last, first, SOURCE)]
