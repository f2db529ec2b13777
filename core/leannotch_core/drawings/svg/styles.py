"""What is seen of a shape: its fill and its line, by attributes, style sheets and what it inherits."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from typing import Any
from xml.etree.ElementTree import Element

import cssselect2
import tinycss2
from tinycss2.color3 import parse_color

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


class Sheet:
    """The style sheets of a drawing."""

    def __init__(self, root: Element) -> None:
        self._matcher = cssselect2.Matcher()
        texts = ["".join(e.itertext()) for e in root.iter() if str(e.tag).rpartition("}")[2] == "style"]
        rules = [rule for text in texts for rule in tinycss2.parse_stylesheet(text, True, True)]
        self._any = any([self._add(rule) for rule in rules])
        whole = cssselect2.ElementWrapper.from_xml_root(root).iter_subtree() if self._any else ()
        self._wrapped = {id(wrapper.etree_element): wrapper for wrapper in whole}

    def _add(self, rule: Any) -> bool:
        if rule.type != "qualified-rule":
            return False
        try:
            selectors = cssselect2.compile_selector_list(rule.prelude)
        except cssselect2.SelectorError:
            return False
        declared = _declared(tinycss2.parse_blocks_contents(rule.content))
        for selector in selectors:
            self._matcher.add_selector(selector, declared)
        return bool(declared)

    def style(self, element: Element, parent: Style) -> Style:
        """How an element is drawn inside a parent."""
        own = {name: value for name in _SET if (value := element.get(name)) is not None}
        if self._any and (wrapper := self._wrapped.get(id(element))):
            for _, _, _, declared in self._matcher.match(wrapper):
                own |= declared
        if text := element.get("style"):
            own |= _declared(tinycss2.parse_blocks_contents(text))
        style = replace(parent, clip="")
        for name, value in own.items():
            style = _set(style, name, value.strip())
        return style


def _declared(nodes: Iterable[Any]) -> dict[str, str]:
    return {
        node.lower_name: tinycss2.serialize(node.value)
        for node in nodes
        if node.type == "declaration" and node.lower_name in _SET
    }


def _set(style: Style, name: str, value: str) -> Style:
    return style if value == "inherit" else _SET[name](style, value)


def _line_width(style: Style, value: str) -> Style:
    width = pixels(value)
    return style if width is None else replace(style, stroke_width=width)


def _clip(style: Style, value: str) -> Style:
    return replace(style, clip=value.removeprefix("url(").rstrip(")").strip("\"' ").removeprefix("#"))


_SET: dict[str, Callable[[Style, str], Style]] = {
    "fill": lambda style, value: replace(style, fill=_colour(value, style.fill), fill_stated=True),
    "stroke": lambda style, value: replace(style, stroke=_colour(value, style.stroke)),
    "stroke-width": _line_width,
    "fill-opacity": lambda style, value: replace(style, fill_opacity=_share(value)),
    "stroke-opacity": lambda style, value: replace(style, stroke_opacity=_share(value)),
    "visibility": lambda style, value: replace(style, visible=value not in ("hidden", "collapse")),
    # These three are not inherited, but what is inside something transparent or not displayed is not seen either.
    "opacity": lambda style, value: replace(style, opacity=style.opacity * _share(value)),
    "display": lambda style, value: replace(style, displayed=style.displayed and value != "none"),
    "clip-path": _clip,
    "font-size": lambda style, value: replace(style, font_size=pixels(value, style.font_size) or style.font_size),
    "text-anchor": lambda style, value: replace(style, anchor=value),
}


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
