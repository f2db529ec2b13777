"""The bytes of an SVG as elements: unpacked, its own entities put in, and nothing fetched from anywhere."""

from __future__ import annotations

import re
import zlib
from xml.etree.ElementTree import Element, ParseError

from defusedxml import ElementTree
from defusedxml.common import DefusedXmlException

from ...document.limits import LARGEST_DRAWING
from ..drawing import BrokenFile

#: An entity may stand for so many letters with all that it names, and a file may define so many of them.
_LONGEST, _MOST = 20_000, 200

_PACKED = b"\x1f\x8b"
_DOCTYPE = re.compile(rb"<!DOCTYPE\s[^\[>]*(\[(.*?)\]\s*)?>", re.DOTALL)
_ENTITY = re.compile(rb"<!ENTITY\s+([\w.:-]+)\s+(?:\"([^\"]*)\"|'([^']*)')\s*>")
_ANY_ENTITY = re.compile(rb"<!ENTITY\s+(%?)")
_NAMED = re.compile(rb"&([\w.:-]+);")


def parsed(data: bytes) -> Element:
    """The drawing's root element. Raises `BrokenFile`."""
    data = _with_entities(_unpacked(data))
    try:
        root: Element = ElementTree.fromstring(data, forbid_dtd=False)
    except ParseError as error:
        line, column = error.position
        raise BrokenFile(f"The SVG file is broken at line {line}, column {column}; save it again.") from error
    except DefusedXmlException as error:
        raise BrokenFile("The SVG file defines entities, which is not safe; save it as plain SVG.") from error
    except (LookupError, ValueError) as error:
        raise BrokenFile("The SVG file is written in an encoding that is not known here; save it in UTF-8.") from error
    if tag_of(root) != "svg":
        raise BrokenFile("The file is XML but not an SVG drawing.")
    return root


def tag_of(element: Element) -> str:
    """What an element is called, without its namespace."""
    return element.tag.rpartition("}")[2] if isinstance(element.tag, str) else ""


def _unpacked(data: bytes) -> bytes:
    """Also a packed drawing, as ``.svgz`` is (RFC 1952)."""
    if data.startswith(_PACKED):
        unpacking = zlib.decompressobj(zlib.MAX_WBITS | 16)
        try:
            data = unpacking.decompress(data, LARGEST_DRAWING + 1)
        except zlib.error as error:
            raise BrokenFile("The packed SVG cannot be unpacked: it is broken. Save it again.") from error
        if not unpacking.eof and len(data) <= LARGEST_DRAWING:
            raise BrokenFile("The packed SVG breaks off before its end; save it again.")
    if len(data) > LARGEST_DRAWING:
        raise BrokenFile(
            f"The SVG file has more than {LARGEST_DRAWING / 1e6:.0f} MB, which is not read. Leave out what is not cut."
        )
    return data


def _with_entities(data: bytes) -> bytes:
    """The file with the entities that it defines itself put in; those that lie elsewhere are refused later."""
    declared = _DOCTYPE.search(data)
    inside = declared[2] if declared else None
    if declared is None or inside is None:
        return data
    found = {name: first or second for name, first, second in _ENTITY.findall(inside)}
    if len(found) != len(_ANY_ENTITY.findall(inside)) or len(found) > _MOST:
        return data
    whole = {name: _put_in(value, found, ()) for name, value in found.items()}
    body = data[: declared.start()] + data[declared.end() :]
    size = len(body) + sum(len(whole.get(name, b"")) for name in _NAMED.findall(body))
    if size > LARGEST_DRAWING:
        raise BrokenFile(f"The entities of the SVG come to {size / 1e6:.0f} MB; save it as plain SVG.")
    return _NAMED.sub(lambda named: whole.get(named[1], named[0]), body)


def _put_in(value: bytes, found: dict[bytes, bytes], within: tuple[bytes, ...]) -> bytes:
    """An entity's value with those that it names. Raises `BrokenFile` where it names itself or grows too long."""

    def named(match: re.Match[bytes]) -> bytes:
        name = match[1]
        if name in within or len(within) > 20:
            raise BrokenFile(f"The entity “{name.decode(errors='replace')[:40]}” of the SVG names itself.")
        return _put_in(found[name], found, (*within, name)) if name in found else match[0]

    size = sum(len(found.get(name, b"")) for name in _NAMED.findall(value))
    if size > _LONGEST:
        raise BrokenFile(f"The entities of the SVG grow beyond {_LONGEST} letters; save it as plain SVG.")
    long = _NAMED.sub(named, value)
    if len(long) > _LONGEST:
        raise BrokenFile(f"The entities of the SVG grow beyond {_LONGEST} letters; save it as plain SVG.")
    return long
