"""Drawings spoiled as somebody would who opens them in another program: each format by tools of its own."""

from __future__ import annotations

import io
import random
import re
from collections.abc import Callable
from typing import Any, Protocol
from xml.etree import ElementTree

import pikepdf
from ezdxf.filemanagement import read as read_dxf
from leannotch_core.machining.ready import Prepared

_SVG = "http://www.w3.org/2000/svg"
ElementTree.register_namespace("", _SVG)

#: Every mark by which a layer is known that is not cut.
MARKS = ("score", "engrave", "fill", "pocket")
BENDS = ("bend-up", "bend-down")


class File(Protocol):
    """A drawing as entities in their order, each by its place: what layer it is on, and what can be done to it."""

    layers: list[str]

    def drop(self, at: int) -> None: ...
    def double(self, at: int) -> None: ...
    def move(self, at: int, x: float, y: float) -> None: ...
    def first(self, at: int) -> None: ...
    def last(self, at: int) -> None: ...
    def on(self, at: int, layer: str) -> bool: ...
    def grow(self, at: int, by: float) -> bool: ...
    def chord(self, at: int) -> bool: ...
    def open(self, at: int) -> bool: ...
    def silent(self) -> None: ...
    def no_unit(self) -> None: ...
    def scaled(self, by: float) -> None: ...
    def data(self) -> bytes: ...


_WORDS = re.compile(r"([MLAZ])([^MLAZ]*)")


class Svg:
    def __init__(self, data: bytes) -> None:
        self.root = ElementTree.fromstring(data)
        self._list()

    def _list(self) -> None:
        groups = [group for group in self.root if group.tag.endswith("}g") and group.get("id") != "notes"]
        self.entities = [(group, one) for group in groups for one in group]
        self.layers = [group.get("id", "") for group, _ in self.entities]

    def drop(self, at: int) -> None:
        group, one = self.entities[at]
        group.remove(one)

    def double(self, at: int) -> None:
        group, one = self.entities[at]
        group.append(ElementTree.fromstring(ElementTree.tostring(one)))

    def move(self, at: int, x: float, y: float) -> None:
        one = self.entities[at][1]
        if one.tag.endswith("circle"):
            one.set("cx", repr(float(one.get("cx", "0")) + x))
            one.set("cy", repr(float(one.get("cy", "0")) + y))
            return
        one.set("d", "".join(self._moved(*word, x, y) for word in _WORDS.findall(one.get("d", ""))))

    @staticmethod
    def _moved(letter: str, rest: str, x: float, y: float) -> str:
        numbers = rest.split()
        if letter == "Z":
            return "Z"
        numbers[-2:] = repr(float(numbers[-2]) + x), repr(float(numbers[-1]) + y)
        return letter + " ".join(numbers)

    def first(self, at: int) -> None:
        group, one = self.entities[at]
        group.remove(one)
        group.insert(0, one)

    def last(self, at: int) -> None:
        group, one = self.entities[at]
        self.root.remove(group)
        self.root.append(group)
        group.remove(one)
        group.append(one)

    def on(self, at: int, layer: str) -> bool:
        group, one = self.entities[at]
        others = [other for other in self.root if other.get("id") == layer]
        if not others:
            others = [ElementTree.SubElement(self.root, f"{{{_SVG}}}g", {**group.attrib, "id": layer})]
        group.remove(one)
        others[0].append(one)
        return True

    def grow(self, at: int, by: float) -> bool:
        one = self.entities[at][1]
        if one.tag.endswith("circle"):
            one.set("r", repr(float(one.get("r", "0")) + by))
        return bool(one.tag.endswith("circle"))

    def chord(self, at: int) -> bool:
        """Its longest arc becomes straight."""
        words = _WORDS.findall(self.entities[at][1].get("d", ""))
        rise, which = self._longest_arc(words)
        if which is None or rise < 0.08:
            return False
        words[which] = ("L", " ".join(words[which][1].split()[-2:]))
        self.entities[at][1].set("d", "".join(letter + rest for letter, rest in words))
        return True

    @staticmethod
    def _longest_arc(words: list[tuple[str, str]]) -> tuple[float, int | None]:
        here, best = 0j, (0.0, None)
        for at, (letter, rest) in enumerate(words):
            numbers = rest.split()
            if letter == "Z":
                continue
            there = complex(float(numbers[-2]), float(numbers[-1]))
            if letter == "A":
                radius, half = float(numbers[0]), abs(there - here) / 2
                rise = radius - max(0.0, radius**2 - half**2) ** 0.5
                best = max(best, (rise, at), key=lambda one: one[0])
            here = there
        return best

    def open(self, at: int) -> bool:
        one = self.entities[at][1]
        data = one.get("d", "")
        words = _WORDS.findall(data)
        if not data.endswith("Z") or len(words) < 4:
            return False
        # The last side and the closing are gone.
        a, b = (complex(*map(float, words[w][1].split()[-2:])) for w in (-2, 0))
        one.set(
            "d",
            "".join(letter + rest for letter, rest in words[:-1])
            if abs(a - b) > 0.5
            else "".join(letter + rest for letter, rest in words[:-2]),
        )
        return True

    def silent(self) -> None:
        self.root.remove(next(one for one in self.root if one.tag.endswith("desc")))

    def no_unit(self) -> None:
        for side in ("width", "height"):
            self.root.set(side, self.root.get(side, "").removesuffix("mm"))

    def scaled(self, by: float) -> None:
        for side in ("width", "height"):
            self.root.set(side, f"{float(self.root.get(side, '0mm').removesuffix('mm')) * by}mm")

    def data(self) -> bytes:
        return ElementTree.tostring(self.root)


class Dxf:
    def __init__(self, data: bytes) -> None:
        self._comments = data.decode().split("0\nSECTION", 1)[0]
        self.document = read_dxf(io.StringIO(data.decode()))
        self.space = self.document.modelspace()
        self._list()

    def _list(self) -> None:
        self.entities = [one for one in self.space if one.dxftype() != "TEXT"]
        self.layers = [one.dxf.layer for one in self.entities]

    def drop(self, at: int) -> None:
        self.space.delete_entity(self.entities[at])

    def double(self, at: int) -> None:
        self.space.add_entity(self.entities[at].copy())

    def move(self, at: int, x: float, y: float) -> None:
        self.entities[at].translate(x, y, 0)

    def _in_order(self, order: list[Any]) -> None:
        copies = [one.copy() for one in order]
        for one in self.entities:
            self.space.delete_entity(one)
        for one in copies:
            self.space.add_entity(one)

    def first(self, at: int) -> None:
        self._in_order([self.entities[at], *(one for one in self.entities if one is not self.entities[at])])

    def last(self, at: int) -> None:
        self._in_order([*(one for one in self.entities if one is not self.entities[at]), self.entities[at]])

    def on(self, at: int, layer: str) -> bool:
        self.entities[at].dxf.layer = layer
        return True

    def grow(self, at: int, by: float) -> bool:
        one = self.entities[at]
        if one.dxftype() == "CIRCLE":
            one.dxf.radius += by
        return bool(one.dxftype() == "CIRCLE")

    def chord(self, at: int) -> bool:
        one = self.entities[at]
        if one.dxftype() != "LWPOLYLINE":
            return False
        points = one.get_points("xyb")
        ends = [complex(x, y) for x, y, _ in points]
        rises = [abs(b) * abs(ends[(k + 1) % len(ends)] - ends[k]) / 2 for k, (_, _, b) in enumerate(points)]
        k = max(range(len(points)), key=lambda which: rises[which])
        if rises[k] < 0.08:
            return False
        points[k] = (*points[k][:2], 0.0)
        one.set_points(points, format="xyb")
        return True

    def open(self, at: int) -> bool:
        one = self.entities[at]
        if one.dxftype() != "LWPOLYLINE" or not one.closed:
            return False
        one.close(False)
        return True

    def silent(self) -> None:
        self._comments = ""
        self.document.header.custom_vars.clear()

    def no_unit(self) -> None:
        self.document.header["$INSUNITS"] = 0
        self._comments = ""

    def scaled(self, by: float) -> None:
        self.document.header["$INSUNITS"] = 1 if by > 1 else 5

    def data(self) -> bytes:
        stream = io.StringIO()
        self.document.write(stream)
        return (self._comments + stream.getvalue()).encode()


class Pdf:
    def __init__(self, data: bytes) -> None:
        self.file = pikepdf.open(io.BytesIO(data))
        words = self.file.pages[0].obj.Contents.read_bytes().decode("cp1252").split("\n")
        names = {
            name.removeprefix("/"): str(group.Name)
            for name, group in self.file.pages[0].obj.Resources.Properties.items()
        }
        self.head, self.blocks, self.tail = list[str](), list[tuple[str, list[str]]](), list[str]()
        layer, block, self._opens = "", list[str](), dict[str, str]()
        for word in words:
            if word.startswith("/OC "):
                layer = names[word.split()[1].removeprefix("/")]
                self._opens[layer] = word
            elif word.endswith(" m"):
                block = [word]
            elif block and word in ("s", "S"):
                self.blocks.append((layer, [*block, word]))
                block = []
            elif block:
                block.append(word)
            elif not self.blocks and not layer:
                self.head.append(word)
            elif layer == "notes" and word != "EMC":
                self.tail.append(word)
        self._list()

    def _list(self) -> None:
        self.layers = [layer for layer, _ in self.blocks]

    def drop(self, at: int) -> None:
        del self.blocks[at]

    def double(self, at: int) -> None:
        self.blocks.insert(at, self.blocks[at])

    def move(self, at: int, x: float, y: float) -> None:
        shift = (x * 72 / 25.4, y * 72 / 25.4)
        layer, words = self.blocks[at]
        self.blocks[at] = layer, [self._moved(word, shift) for word in words]

    @staticmethod
    def _moved(word: str, shift: tuple[float, float]) -> str:
        *numbers, letter = word.split()
        moved = [f"{float(number) + shift[at % 2]:.5f}" for at, number in enumerate(numbers)]
        return " ".join([*moved, letter])

    def first(self, at: int) -> None:
        block = self.blocks.pop(at)
        self.blocks.insert(self.layers.index(block[0]), block)

    def last(self, at: int) -> None:
        layer = self.blocks[at][0]
        some = [block for block in self.blocks if block[0] == layer]
        self.blocks = [*(block for block in self.blocks if block[0] != layer), *some]

    def on(self, at: int, layer: str) -> bool:
        if layer not in self._opens:
            return False
        self.blocks.insert(self.layers.index(layer), (layer, self.blocks.pop(at)[1]))
        return True

    def grow(self, at: int, by: float) -> bool:
        return False

    def chord(self, at: int) -> bool:
        words = self.blocks[at][1]
        here, best = 0j, (0.0, -1)
        for k, word in enumerate(words):
            *numbers, letter = word.split()
            if letter in ("s", "S"):
                continue
            points = [complex(float(a), float(b)) for a, b in zip(numbers[::2], numbers[1::2], strict=True)]
            if letter == "c":
                chord = points[-1] - here
                rise = 0.75 * max(abs(((p - here) * chord.conjugate()).imag) / max(abs(chord), 1e-9) for p in points)
                best = max(best, (rise / 72 * 25.4, k))
            here = points[-1]
        if best[0] < 0.08:
            return False
        words[best[1]] = " ".join([*words[best[1]].split()[4:6], "l"])
        return True

    def open(self, at: int) -> bool:
        layer, words = self.blocks[at]
        if words[-1] != "s" or len(words) < 5:
            return False
        self.blocks[at] = layer, [*words[:-2], "S"]
        return True

    def silent(self) -> None:
        del self.file.trailer["/Info"]

    def no_unit(self) -> None:
        self.scaled(0.75)

    def scaled(self, by: float) -> None:
        self.head.insert(0, f"{by} 0 0 {by} 0 0 cm")

    def data(self) -> bytes:
        words, layer = list(self.head), ""
        for one, block in self.blocks:
            if one != layer:
                words += (["EMC"] if layer else []) + [self._opens[one]]
                layer = one
            words += block
        words += (["EMC"] if layer else []) + ([self._opens["notes"], *self.tail, "EMC"] if self.tail else [])
        self.file.pages[0].obj.Contents = self.file.make_stream("\n".join(words).encode("cp1252"))
        written = io.BytesIO()
        self.file.save(written)
        return written.getvalue()


FILES: dict[str, Callable[[bytes], Any]] = {"svg": Svg, "dxf": Dxf, "pdf": Pdf}

Spoil = Callable[[Any, random.Random, Prepared], Any]


def _of(file: File, chance: random.Random, *layers: str) -> int | None:
    some = [at for at, layer in enumerate(file.layers) if layer.startswith(layers)]
    return chance.choice(some) if some else None


def _one(*layers: str, do: Callable[[Any, int, random.Random], Any]) -> Spoil:
    def spoil(file: Any, chance: random.Random, ready: Prepared) -> bool:
        at = _of(file, chance, *layers)
        if at is None:
            return False
        return do(file, at, chance) is not False

    return spoil


def _away(least: float, most: float, chance: random.Random) -> tuple[float, float]:
    far = chance.uniform(least, most) * chance.choice([-1, 1])
    return (far, 0.0) if chance.random() < 0.5 else (0.0, far)


def _outline_first(file: Any, chance: random.Random, ready: Prepared) -> bool:
    """The outline of a part with cut-outs comes before these."""
    many = [job for job in ready.plan.jobs if job.key.stage == "inner"]
    if not many:
        return False
    cuts = [at for at, layer in enumerate(file.layers) if layer == "cut"]
    # The last cut is an outline with its cut-outs before it, or lies in none.
    outer = {job.key[1:] for job in ready.plan.jobs if job.key.stage == "outer"}
    if many[-1].key[1:] not in outer or ready.plan.tabs:
        return False
    paths = [(job.key, path) for job in ready.plan.jobs for path in job.paths if path.operation == "cut"]
    at = next(k for k, (key, _) in enumerate(paths) if key.stage == "outer" and key[1:] == many[-1].key[1:])
    if at >= len(cuts):
        return False
    file.first(cuts[at])
    return True


def _marks_last(file: Any, chance: random.Random, ready: Prepared) -> bool:
    at = _of(file, chance, "score", "engrave", "fill", "pocket")
    if at is None or "cut" not in file.layers:
        return False
    within = {job.key[1:] for job in ready.plan.jobs if job.key.stage in ("inner", "outer")}
    if not any(job.key[1:] in within for job in ready.plan.jobs if job.key.stage in MARKS):
        return False
    file.last(at)
    return True


def _other_layer(file: Any, at: int, chance: random.Random) -> bool:
    others = [layer for layer in ("score", "engrave", "cut") if layer != file.layers[at]]
    return bool(file.on(at, chance.choice(others)))


def _cut_off(file: Any, chance: random.Random, ready: Prepared) -> bytes:
    data: bytes = file.data()
    return data[: int(len(data) * chance.uniform(0.3, 0.9))]


def _bend_turned(file: Any, at: int, chance: random.Random) -> bool:
    return bool(file.on(at, "bend-down" if file.layers[at] == "bend-up" else "bend-up"))


def _whole(do: Callable[[Any], None]) -> Spoil:
    def spoil(file: Any, chance: random.Random, ready: Prepared) -> bool:
        do(file)
        return True

    return spoil


SPOILS: dict[str, Spoil] = {
    "a cut line lost": _one("cut", do=lambda file, at, _: file.drop(at)),
    "a cut line twice": _one("cut", do=lambda file, at, _: file.double(at)),
    "a cut line moved by 0.06 to 1 mm": _one("cut", do=lambda f, at, c: f.move(at, *_away(0.06, 1, c))),
    "a hole wider by 0.05 to 0.3 mm": _one("cut", do=lambda f, at, c: f.grow(at, c.uniform(0.05, 0.3) / 1.0)),
    "an arc cut as its chord": _one("cut", do=lambda f, at, _: f.chord(at)),
    "an outline left open": _one("cut", do=lambda f, at, _: f.open(at)),
    "a mark lost": _one(*MARKS, do=lambda file, at, _: file.drop(at)),
    "a mark moved by 0.3 to 2 mm": _one(*MARKS, do=lambda f, at, c: f.move(at, *_away(0.3, 2, c))),
    "a mark twice": _one(*MARKS, do=lambda file, at, _: file.double(at)),
    "a mark on another layer": _one("score", "engrave", do=_other_layer),
    "a cut on the layer of marks": _one("cut", do=lambda f, at, c: f.on(at, c.choice(["score", "engrave"]))),
    "a bend line lost": _one(*BENDS, do=lambda file, at, _: file.drop(at)),
    "a bend line moved by 0.3 to 2 mm": _one(*BENDS, do=lambda f, at, c: f.move(at, *_away(0.3, 2, c))),
    "a bend line of the other way": _one(*BENDS, do=_bend_turned),
    "an outline before its cut-outs": _outline_first,
    "marks after cuts": _marks_last,
    "another unit": _whole(lambda file: file.scaled(25.4)),
    "no unit": _whole(lambda file: file.no_unit()),
    "who compensates not said": _whole(lambda file: file.silent()),
    "the file broken off": _cut_off,
}
