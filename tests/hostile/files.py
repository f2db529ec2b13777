"""Small files that break readers, made by code: what each is, its bytes, and what the maker is told.

A sentence is a pattern that must be found in the answer of the proof and of bringing an outline; None where the file
is sound after all.
"""

import io

import ezdxf


def svg(body, size='width="100mm" height="100mm" viewBox="0 0 100 100"', head=""):
    return f'{head}<svg xmlns="http://www.w3.org/2000/svg" {size}>{body}</svg>'.encode()


def dxf(draw, insunits=4, version="R2010"):
    document = ezdxf.new(version, units=insunits)
    draw(document)
    stream = io.StringIO()
    document.write(stream)
    return stream.getvalue().encode()


def tags(*entities, header=""):
    """A DXF of entities written by hand, each its name and ``(code, value)`` pairs."""
    lines = []
    for kind, *pairs in entities:
        lines += ["0", kind, *(str(word) for pair in pairs for word in pair)]
    head = f"0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n{header}\n0\nENDSEC\n" if header else ""
    return f"{head}0\nSECTION\n2\nENTITIES\n{chr(10).join(lines)}\n0\nENDSEC\n0\nEOF\n".encode()


def line(*ends):
    return ("LINE", (8, "cut"), *zip((10, 20, 11, 21), ends, strict=True))


def nested_uses(levels, each):
    groups = "".join(f'<g id="g{n}">' + f'<use href="#g{n - 1}"/>' * each + "</g>" for n in range(1, levels + 1))
    return svg(f'<defs><g id="g0"><path d="M0 0L9 0L9 9Z"/></g>{groups}</defs><use href="#g{levels}"/>')


def inserting_itself(times):
    def draw(document):
        block = document.blocks.new("AGAIN")
        block.add_line((0, 0), (9, 9))
        for number in range(times):
            block.add_blockref("AGAIN", (number, number))
        document.modelspace().add_blockref("AGAIN", (0, 0))

    return dxf(draw)


def blocks_of_blocks(levels, each):
    def draw(document):
        document.blocks.new("B0").add_circle((0, 0), 1)
        for level in range(1, levels + 1):
            block = document.blocks.new(f"B{level}")
            for number in range(each):
                block.add_blockref(f"B{level - 1}", (number, 0))
        document.modelspace().add_blockref(f"B{levels}", (0, 0))

    return dxf(draw)


def plate_with_holes(count):
    holes = "".join(f'<circle cx="{9 * (n % 40) + 9}" cy="{9 * (n // 40) + 9}" r="2"/>' for n in range(count))
    return svg(f'<rect width="400" height="200"/>{holes}', 'width="400mm" height="200mm" viewBox="0 0 400 200"')


def square_in_metres(document):
    document.modelspace().add_lwpolyline([(0, 0), (0.15, 0), (0.15, 0.15), (0, 0.15)], close=True)


def ring(document):
    document.modelspace().add_arc((20, 20), 9, 0, 360)


def spline(*points):
    return lambda document: document.modelspace().add_spline(points)


def wild(count, size):
    return "".join(f'<path d="M{n} 0C{size} {n} -{size} {size} {n} 9"/>' for n in range(count))


TOO_FAR = r"reaches .* mm from its origin"
NO_NUMBER = "no finite numbers|broken|cannot be read|whose numbers make no curve|no size that can be drawn"
NOTHING = "no lines to cut|no cut lines|No outline|encloses nothing"
TOO_MANY = r"more than \d+ lines and arcs"

FILES = {
    # What is no drawing at all
    "empty.svg": (b"", "cannot be read|broken"),
    "empty.dxf": (b"", "cannot be read"),
    "zeros.dxf": (bytes(4000), "cannot be read"),
    "picture.svg": (b"\x89PNG\r\n\x1a\n" + bytes(range(256)), "broken|cannot be read"),
    "html.svg": (b"<html><body/></html>", "not an SVG drawing"),
    "cut off.svg": (svg('<path d="M0 0L9 9"/>')[:-9], "broken at line"),
    "half.dxf": (dxf(ring)[: len(dxf(ring)) // 2], "cannot be read|no lines|no cut lines|structure is broken"),
    "no sections.dxf": (b"0\nEOF\n", "no sections"),
    "encoding.svg": (b'<?xml version="1.0" encoding="klingon"?>' + svg("<g/>"), "encoding|broken"),
    "utf-16.svg": (b'<?xml version="1.0" encoding="utf-16"?>' + svg("<g/>"), "encoding|broken"),
    "multi-byte.svg": (b'<?xml version="1.0" encoding="cp932"?>' + svg("<g/>"), "encoding|broken"),
    "entity.svg": (b'<!DOCTYPE s [<!ENTITY x SYSTEM "file:///etc/passwd">]>' + svg("&x;"), "not safe"),
    "bomb.svg": (
        b'<!DOCTYPE s [<!ENTITY a "aaaaaaaaaa">'
        + b"".join(f'<!ENTITY {chr(98 + n)} "{f"&{chr(97 + n)};" * 10}">'.encode() for n in range(9))
        + b"]>"
        + svg("&j;"),
        "grow beyond",
    ),
    # Sizes and coordinates that are none, or beyond anything that is cut
    "two points.svg": (svg('<rect width="9" height="9"/>', 'width="1.2.3mm" height="9mm"'), None),
    "infinite.svg": (
        svg('<rect width="9" height="9"/>', 'width="1e999mm" height="1e999mm" viewBox="0 0 9 9"'),
        NO_NUMBER,
    ),
    "nan.svg": (svg('<rect width="9" height="9"/>', 'width="nanmm" height="nan" viewBox="0 0 nan nan"'), None),
    "huge view.svg": (
        svg('<rect width="9" height="9"/>', 'width="9mm" height="9mm" viewBox="0 0 1e-300 1"'),
        None,
    ),
    "flat view.svg": (
        svg('<rect width="9" height="9"/>', 'width="9mm" height="9mm" viewBox="0 0 0 0"'),
        None,
    ),
    "wide.svg": (svg('<rect width="9" height="9"/>', 'width="999999999mm" height="9mm" viewBox="0 0 9 9"'), TOO_FAR),
    "far line.svg": (svg('<path d="M0 0L1e9 0L1e9 9Z"/>'), TOO_FAR),
    "far curve.svg": (svg('<path d="M0 0C1e9 1e9 -1e9 1e9 9 9"/>'), TOO_FAR),
    "infinite path.svg": (svg('<path d="M0 0L1e999 0L9 9Z"/>'), NO_NUMBER + "|" + TOO_FAR),
    "nan path.svg": (svg('<path d="M0 0Lnan nan L9 9Z"/>'), "path whose numbers make no shape"),
    "transform.svg": (svg('<rect transform="scale(1e308)" width="9" height="9"/>'), NO_NUMBER + "|" + TOO_FAR),
    "transforms.svg": (
        svg('<g transform="scale(1e200)"><g transform="scale(1e200)"><circle r="9"/></g></g>'),
        NO_NUMBER + "|" + TOO_FAR,
    ),
    "no scale.svg": (svg('<rect transform="scale(0)" width="9" height="9"/>'), NOTHING),
    "thin ellipse.svg": (svg('<ellipse cx="5" cy="5" rx="1e9" ry="1"/>'), TOO_FAR),
    "tiny circle.svg": (svg('<circle r="1e-320"/>'), NOTHING),
    "tiny arc.svg": (svg('<path d="M5 5A9 9 0 1 1 5 5Z"/>'), NOTHING),
    "arc without radius.svg": (svg('<path d="M0 0A0 0 0 0 1 9 9L0 9Z"/>'), None),
    "far.dxf": (tags(line(0, 0, 1e9, 0)), TOO_FAR),
    "infinite.dxf": (tags(line(0, 0, "inf", 0)), NO_NUMBER),
    "nan.dxf": (tags(line(0, "nan", 9, 0)), NO_NUMBER),
    "words.dxf": (tags(line(0, "nine", 9, 0)), NO_NUMBER + "|" + NOTHING),
    "beyond.dxf": (tags(("CIRCLE", (10, 1e308), (20, 1e308), (40, 1e308))), TOO_FAR + "|" + NO_NUMBER),
    "tiny circle.dxf": (tags(("CIRCLE", (10, 0), (20, 0), (40, 1e-320))), NOTHING),
    "no radius.dxf": (tags(("CIRCLE", (10, 0), (20, 0), (40, 0))), NOTHING),
    "minus radius.dxf": (tags(("ARC", (10, 0), (20, 0), (40, -5), (50, 0), (51, 90))), NOTHING + "|" + NO_NUMBER),
    "nan arc.dxf": (tags(("ARC", (10, 0), (20, 0), (40, 5), (50, "nan"), (51, 90))), NO_NUMBER),
    "bulge.dxf": (
        tags(("LWPOLYLINE", (90, 2), (70, 1), (10, 0), (20, 0), (42, 1e308), (10, 9), (20, 0))),
        NO_NUMBER + "|" + TOO_FAR,
    ),
    "unit of words.dxf": (tags(line(0, 0, 9, 0), header="mm"), "cannot be read"),
    "thin ellipse.dxf": (
        tags(("ELLIPSE", (10, 0), (20, 0), (11, 1e9), (21, 0), (40, 1e-9), (41, 0), (42, 6.28))),
        TOO_FAR,
    ),
    "flat ellipse.dxf": (
        dxf(lambda d: d.modelspace().add_ellipse((0, 0), (9, 0), 1e-6)),
        "encloses nothing|0 pieces",
    ),
    "far spline.dxf": (dxf(spline((0, 0), (1e9, 5), (3, 1e9), (9, 9))), TOO_FAR),
    "one place.dxf": (dxf(spline((5, 5), (5, 5), (5, 5), (5, 5))), NOTHING + "|" + NO_NUMBER),
    # A little that means a lot
    "uses.svg": (nested_uses(9, 10), TOO_MANY),
    "uses of itself.svg": (svg('<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g>'), "inside itself"),
    "deep.svg": (svg("<g>" * 5000 + '<path d="M0 0L9 9"/>' + "</g>" * 5000), "groups deep"),
    "brackets.svg": (svg(f"<style>{'a{' * 20_000}</style><path d='M0 0L9 0L9 9Z'/>"), None),
    "wild.svg": (svg(wild(300, "1e15")), TOO_FAR),
    "wild within.svg": (svg(wild(300, 90_000)), TOO_MANY + "|more than (8|10) s"),
    "curves.svg": (svg('<path d="' + "M9 9c1 2 3 3 4 1" * 20_000 + '"/>'), TOO_MANY),
    "points.svg": (svg(f'<polygon points="{"1 2 " * 90_000}"/>'), TOO_MANY),
    "itself.dxf": (inserting_itself(10), "inserts itself"),
    "itself once.dxf": (inserting_itself(1), "inserts itself"),
    "blocks.dxf": (blocks_of_blocks(8, 10), TOO_MANY),
    "crossed.svg": (
        svg("".join(f'<path stroke="black" d="M{n % 97} 0L{n * 31 % 101} {n % 89 + 9}"/>' for n in range(3000))),
        "cross one another|more than 4000 lines",
    ),
    "many lines.dxf": (tags(*[line(n, 0, n, 9) for n in range(60_000)]), TOO_MANY),
    # What is in order, whatever it looks like
    "metres.dxf": (dxf(square_in_metres, insunits=6), None),
    "full arc.dxf": (dxf(ring), None),
    "holes.svg": (plate_with_holes(600), None),
}
