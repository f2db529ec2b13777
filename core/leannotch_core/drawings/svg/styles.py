"""What is seen of a shape: its fill and its line, by attributes, style sheets and what it inherits."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any, NamedTuple
from xml.etree.ElementTree import Element

import cssselect2
import tinycss2
from tinycss2.color3 import parse_color

from ...remembered import remembered
from .lengths import pixels

#: A line thinner than this (px) is a hairline: a machine reads it, and on a screen it is hardly seen.
HAIRLINE = 0.05


@dataclass(frozen=True, slots=True)
class Style:
    """How a shape is drawn. ``fill`` and ``stroke`` are colours as ``#rrggbb``, None where there is none."""

    fill: str | None = "#000000"
    fill_stated: bool = False
    stroke: str | None = None
    stroke_width: float = 1.0
    fill_opacity: float = 1.0
    stroke_opacity: float = 1.0
    opacity: float = 1.0
    visible: bool = True
    displayed: bool = True
    clip: str = ""
    mask: str = ""
    clip_rule: str = "nonzero"
    fill_rule: str = "nonzero"
    unfit: tuple[str, ...] = ()
    filled_with: str = ""
    dashed: bool = False
    font_size: float = 16.0
    anchor: str = "start"

    @property
    def fills(self) -> bool:
        return self.fill is not None and self.fill_opacity * self.opacity > 0

    @property
    def strokes(self) -> bool:
        return self.stroke is not None and self.stroke_width > 0 and self.stroke_opacity * self.opacity > 0

    @property
    def colour(self) -> str:
        """The colour by which a maker would tell the shape from others."""
        return (self.stroke if self.strokes else self.fill if self.fills else None) or ""

    @property
    def hidden(self) -> str:
        """Why nobody sees the shape; empty where it is seen."""
        if not self.displayed or not self.visible:
            return "hidden"
        if not self.fills and not self.strokes:
            nothing = self.fill is None and self.stroke is None
            return "without fill and line" if nothing else "transparent"
        shown = {colour for colour, there in ((self.fill, self.fills), (self.stroke, self.strokes)) if there}
        return "white" if shown == {"#ffffff"} else ""

    @property
    def is_hairline(self) -> bool:
        return self.strokes and not self.fills and self.stroke_width < HAIRLINE


class StyleSheets:
    """The style sheets of a drawing, as they hold on a screen."""

    def __init__(self, root: Element) -> None:
        self._matcher = cssselect2.Matcher()
        self._any = False
        for element in root.iter():
            if str(element.tag).rpartition("}")[2] == "style" and _on_screen(element.get("media") or ""):
                self._add(tinycss2.parse_stylesheet("".join(element.itertext()), True, True))
        whole = cssselect2.ElementWrapper.from_xml_root(root).iter_subtree() if self._any else ()
        self._wrapped = {id(wrapper.etree_element): wrapper for wrapper in whole}

    def _add(self, rules: Iterable[Any]) -> None:
        for rule in rules:
            if rule.type == "at-rule" and rule.lower_at_keyword == "media" and rule.content is not None:
                if _on_screen(tinycss2.serialize(rule.prelude)):
                    self._add(tinycss2.parse_rule_list(rule.content, True, True))
            elif rule.type == "qualified-rule":
                self._rule(rule)

    def _rule(self, rule: Any) -> None:
        try:
            selectors = cssselect2.compile_selector_list(rule.prelude)
        except cssselect2.SelectorError:
            return
        declared = _declared(tinycss2.parse_blocks_contents(rule.content))
        for selector in selectors:
            self._matcher.add_selector(selector, declared)
        self._any = self._any or bool(declared.usual or declared.important)

    def given(self, element: Element) -> Mapping[str, str]:
        """The attributes of an element with what style sheets and its own style say (CSS Cascading 4, 6.1)."""
        sheets = []
        if self._any and (wrapper := self._wrapped.get(id(element))):
            sheets = [declared for _, _, _, declared in self._matcher.match(wrapper)]
        text = element.get("style")
        own = _declared(tinycss2.parse_blocks_contents(text)) if text else None
        if not sheets and own is None:
            return element.attrib
        order = [*sheets, *([own] if own else [])]
        given = dict(element.attrib)
        for declared in order:
            given |= declared.usual
        for declared in order:
            given |= declared.important
        return given


def styled(given: Mapping[str, str], parent: Style) -> Style:
    """How an element with what is given for it is drawn inside a parent."""
    return _styled(tuple((name, given[name]) for name in given if name in _SEEN_BY), parent)


@remembered(most=4096)
def _styled(given: tuple[tuple[str, str], ...], parent: Style) -> Style:
    """Most elements of a drawing are drawn as others are."""
    style = replace(parent, clip="", mask="", unfit=())
    own = dict(given)
    for name, set_it in _SET.items():
        value = own.get(name)
        if value is not None and value.strip() != "inherit":
            style = set_it(style, value.strip())
    unfit = tuple(name for name in _UNFIT if (value := own.get(name)) and value.strip() != "none")
    return replace(style, unfit=unfit) if unfit else style


def _on_screen(query: str) -> bool:
    """Whether a list of media holds on a screen; what it asks of a window is taken as given (Media Queries 4, 2.1)."""
    return any(_holds([word for word in one.split() if word != "only"]) for one in query.lower().split(","))


def _holds(words: list[str]) -> bool:
    if words[:1] == ["not"]:
        return not _holds(words[1:])
    return not words or words[0].startswith("(") or words[0] in ("all", "screen")


class _Declared(NamedTuple):
    """What a block declares, and what of it is important."""

    usual: dict[str, str]
    important: dict[str, str]


def _declared(nodes: Iterable[Any]) -> _Declared:
    found = _Declared({}, {})
    for node in nodes:
        if node.type == "declaration" and node.lower_name in _READ:
            block = found.important if node.important else found.usual
            block[node.lower_name] = tinycss2.serialize(node.value).strip()
    return found


def _line_width(style: Style, value: str) -> Style:
    width = pixels(value)
    return style if width is None else replace(style, stroke_width=width)


def _named(value: str) -> str:
    """The id that a reference names; nothing where it names none."""
    return value.removeprefix("url(").rstrip(")").strip("\"' ").removeprefix("#") if value.startswith("url(") else ""


_SET: dict[str, Callable[[Style, str], Style]] = {
    "fill": lambda style, value: replace(
        style, fill=_colour(value, style.fill), fill_stated=True, filled_with=_named(value)
    ),
    "stroke": lambda style, value: replace(style, stroke=_colour(value, style.stroke)),
    "stroke-width": _line_width,
    "fill-opacity": lambda style, value: replace(style, fill_opacity=_share(value)),
    "stroke-opacity": lambda style, value: replace(style, stroke_opacity=_share(value)),
    "visibility": lambda style, value: replace(style, visible=value not in ("hidden", "collapse")),
    # These three are not inherited, but what is inside something transparent or not displayed is not seen either.
    "opacity": lambda style, value: replace(style, opacity=style.opacity * _share(value)),
    "display": lambda style, value: replace(style, displayed=style.displayed and value != "none"),
    "clip-path": lambda style, value: replace(style, clip=_named(value)),
    "mask": lambda style, value: replace(style, mask=_named(value)),
    "stroke-dasharray": lambda style, value: replace(style, dashed=value not in ("none", "0", "")),
    "clip-rule": lambda style, value: replace(style, clip_rule=value),
    "fill-rule": lambda style, value: replace(style, fill_rule=value),
    "font-size": lambda style, value: replace(style, font_size=pixels(value, style.font_size) or style.font_size),
    "text-anchor": lambda style, value: replace(style, anchor=value),
}


#: What changes how a shape is seen and is not carried out.
_UNFIT = ("filter", "marker", "marker-start", "marker-mid", "marker-end")

#: The places and sizes of shapes, which style sheets may give too (SVG 2, 7.12, 8.1 and 9).
_GEOMETRY = (
    "x", "y", "width", "height", "cx", "cy", "r", "rx", "ry", "d", "transform", "transform-origin", "transform-box",
    "overflow",
)  # fmt: skip

_SEEN_BY = frozenset((*_SET, *_UNFIT))
_READ = _SEEN_BY | {*_GEOMETRY}


def _colour(value: str, before: str | None) -> str | None:
    """A colour as ``#rrggbb``; None where nothing is painted. Gradients and patterns are some colour: grey."""
    if value.startswith("url("):
        return "#808080"
    found = parse_color(value)
    if value == "none" or (found not in (None, "currentColor") and found.alpha == 0):
        return None
    if found is None:
        return before
    if found == "currentColor":
        return "#000000"
    return "#" + "".join(f"{round(255 * min(1, max(0, part))):02x}" for part in found[:3])


def _share(value: str) -> float:
    share = pixels(value, 1.0)
    return 1.0 if share is None else min(1.0, max(0.0, share))
