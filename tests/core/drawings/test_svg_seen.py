"""What clips, masks, switches and style sheets leave of an SVG; what is packed; what is told because it is not done."""

import gzip
import math

import pytest
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.drawings.formats import read_drawing
from leannotch_core.drawings.svg import read_svg
from leannotch_core.geometry.loop import Loop, joined_bounds

from .test_reading_svg import svg

S40 = 'x="10" y="10" width="40" height="40"'
CUT, MASKED, PLAIN = f'<rect {S40} clip-path="url(#c)"/>', f'<rect {S40} mask="url(#m)"/>', f"<rect {S40}/>"
HALF = '<rect x="10" y="10" width="20" height="80"/>'
RING = '<path {} d="M0 0H40V40H0Z M10 10H30V30H10Z"/>'


def clip(inner, more=""):
    return f'<clipPath id="c" {more}>{inner}</clipPath>'


def mask(inner, more=""):
    return f'<mask id="m" {more}>{inner}</mask>'


OF_BOX = clip('<rect width=".5" height="1"/>', 'clipPathUnits="objectBoundingBox"')
OF_BOX_TOO = 'maskContentUnits="objectBoundingBox"'
WIDE, DARK = '<rect width="30" height="100" fill="#fff"/>', '<rect x="10" y="10" width="10" height="10"/>'
THE_HALF = '<use href="#h" x="0px"/>'
SPILLS = '<rect width="40" height="40"/>'
USED = '<symbol id="s" viewBox="0 0 10 10"><rect width="40" height="5"/></symbol>'
OTHER = '<rect systemLanguage="xx" width="5" height="5"/>'
MORE = '<g requiredExtensions="http://example.org/x"><rect width="5" height="5"/></g>'
IMPORTANT = "<style>rect { width: 20px !important } #r { width: 30px }</style>"

#: What is drawn, and how much of it is seen in mm², by hand.
AREAS = [
    # Shares of the box of whatever is clipped: its left half.
    (OF_BOX + CUT, 800),
    (f'{OF_BOX}<g clip-path="url(#c)">{PLAIN}<rect x="60" y="10" width="30" height="40"/></g>', 1600),
    # Both rings run the same way round.
    (clip(RING.format('clip-rule="evenodd"')) + '<rect width="40" height="40" clip-path="url(#c)"/>', 1200),
    (clip(RING.format("")) + '<rect width="40" height="40" clip-path="url(#c)"/>', 1600),
    # By a style sheet, on a use, in a clip that is clipped itself, by a use in a clip, by shapes that overlap.
    (f'<style>.half {{ clip-path: url("#c") }}</style>{clip(HALF)}<rect class="half" {S40}/>', 800),
    (f'{clip(HALF)}<defs><rect id="r" {S40}/></defs><use href="#r" clip-path="url(#c)"/>', 800),
    ('<clipPath id="d"><rect width="100" height="30"/></clipPath>' + clip(HALF, 'clip-path="url(#d)"') + CUT, 400),
    (f'<defs><g id="h">{HALF}</g></defs>{clip(THE_HALF)}{CUT}', 800),
    (f'{clip(HALF)}<g clip-path="url(#c)"><g clip-path="url(#none)">{PLAIN}</g></g>', 800),
    (clip('<circle cx="30" cy="30" r="10"/><rect x="25" y="25" width="10" height="10"/>') + CUT, math.pi * 100),
    # Bright shows, dark hides, in the order of painting; what is half seen through is not bright.
    (mask(f'<rect width="100" height="100" fill="white"/>{DARK}') + MASKED, 1500),
    (mask(f'{DARK}<rect width="100" height="100" fill="white"/>') + MASKED, 1600),
    (mask(WIDE) + MASKED, 800),
    (mask(WIDE.replace("/>", ' fill-opacity=".51"/>')) + MASKED, 800),
    (mask(WIDE.replace("/>", ' fill-opacity=".49"/>')) + MASKED, 0),
    (mask('<rect width=".25" height="1" fill="#fff"/>', OF_BOX_TOO) + MASKED, 400),
    # What is nested shows nothing beyond its edge, unless it says so.
    (f'<svg width="30" height="30">{SPILLS}</svg>', 900),
    (f'<svg width="30" height="30" overflow="visible">{SPILLS}</svg>', 1600),
    (f'<style>svg svg {{ overflow: visible }}</style><svg width="30" height="30">{SPILLS}</svg>', 1600),
    (f'{USED}<use href="#s" width="20" height="20"/>', 200),
    # A switch shows the first that applies.
    (f'<switch>{OTHER}{PLAIN}<rect width="9" height="9"/></switch>', 1600),
    (f"<switch>{MORE}<g>{PLAIN}</g></switch>{OTHER}", 1600),
    # Style sheets: what is important wins, and what is for paper alone is not seen.
    (f'{IMPORTANT}<rect id="r" width="9" height="10" style="width: 40px"/>', 200),
    (f"<style>@media print {{ rect {{ display: none }} }}</style>{PLAIN}", 1600),
    (f"<style>@media screen {{ rect {{ width: 20px }} }}</style>{PLAIN}", 800),
    (f'<style media="print">rect {{ display: none }}</style>{PLAIN}', 1600),
    (f"<style>@media not print {{ rect {{ width: 20px }} }}</style>{PLAIN}", 800),
    ("<style>circle { r: 10px; cx: 50px; cy: 50px }</style><circle/>", math.pi * 100),
    ("<style>path { d: path('M0 0H10V10H0Z') }</style><path/>", 100),
    # A filled triangle: what of it lies left of x = 30.
    (clip(HALF) + '<path clip-path="url(#c)" d="M10 10H50V50" fill="#000"/>', 200),
]


@pytest.mark.parametrize(("body", "area"), AREAS)
def test_clips_masks_and_style_sheets_leave_what_is_seen(body, area):
    """Openings run the other way round than what they are in."""
    seen = [Loop(line.segments).area for line in read_svg(svg(body)).lines]
    assert abs(sum(seen)) == pytest.approx(area, rel=1e-6)


@pytest.mark.parametrize(
    ("style", "corner"),
    [
        # The far corner of a square of 10 mm at 10, 10 (y down from 100).
        ("transform: translate(10px, 20px)", (30, 60)),
        ("transform: translate(10%, 0)", (30, 80)),
        ("transform: rotate(90deg); transform-origin: 20px 20px", (20, 80)),
        ("transform: rotate(100grad); transform-origin: left top", (-20, 80)),
        ("transform: scale(2); transform-box: fill-box; transform-origin: center", (25, 75)),
        ("transform: scaleX(2) translateY(1mm)", (40, 80 - 96 / 25.4)),
        ("transform: none", (20, 80)),
    ],
)
def test_transforms_of_style_sheets_are_about_their_origin(style, corner):
    drawing = read_svg(svg(f'<path d="M10 10H20V20H10Z" style="{style}"/>'))
    far = drawing.lines[0].segments[1].end
    assert far == pytest.approx(complex(*corner), abs=1e-6)


def test_open_lines_are_cut_where_a_clip_ends():
    round_one = clip('<circle cx="50" cy="50" r="10"/>')
    lines = '<path d="M0 50H100"/><path d="M0 5H9"/>'
    drawing = read_svg(svg(f'{round_one}<g clip-path="url(#c)" stroke="#000" fill="none">{lines}</g>'))
    (line,) = drawing.lines
    assert [(s.start, s.end) for s in line.segments] == [(pytest.approx(40 + 50j), pytest.approx(60 + 50j))]
    assert drawing.left_out == {"clipped away": 1}


def test_packed_drawings_and_entities_of_their_own_are_read_and_bounded():
    names = (("ns", "http://www.w3.org/2000/svg"), ("wide", "9"), ("size", "&wide;mm"))
    own = "".join(f'<!ENTITY {name} "{value}">' for name, value in names)
    square = '<rect width="&wide;" height="&#57;"/>'
    body = f'<!DOCTYPE svg [{own}]><svg xmlns="&ns;" viewBox="0 0 9 9" width="&size;">{square}</svg>'.encode()
    for data in (body, gzip.compress(body)):
        (line,) = read_drawing(data, "sheet.svgz").lines
        assert joined_bounds(s.bounds() for s in line.segments) == pytest.approx((0, 0, 9, 9))
    with pytest.raises(BrokenFile, match="breaks off"):
        read_svg(gzip.compress(body)[:-20])
    with pytest.raises(BrokenFile, match="more than 30 MB"):
        read_svg(gzip.compress(b" " * 30_000_001))
    with pytest.raises(BrokenFile, match="names itself"):
        read_svg(b'<!DOCTYPE svg [<!ENTITY a "&b;"><!ENTITY b "&a;">]><svg>&a;</svg>')


def test_what_is_not_carried_out_is_told_by_name():
    body = (
        '<pattern id="p" width="1" height="1"><rect width="1" height="1"/></pattern>'
        '<rect width="9" height="9" filter="url(#f)"/><rect x="20" width="9" height="9" fill="url(#p)"/>'
        '<path d="M40 0H50V9" marker-end="url(#k)"/><foreignObject width="9" height="9"/>'
        '<rect y="30" width="9" height="9"><animate attributeName="x"/></rect>'
    )
    drawing = read_svg(svg(body))
    told = " ".join(drawing.notes)
    assert len(drawing.lines) == 4
    assert all(word in told for word in ("filters", "patterns", "markers", "foreign objects", "moves"))


def test_clips_that_are_used_without_end_are_refused_by_their_number():
    shapes = "".join(f'<rect x="{i}" width="1" height="9"/>' for i in range(100))
    uses = "".join(f'<rect y="{i}" clip-path="url(#c)" width="9" height="9"/>' for i in range(20))
    with pytest.raises(BrokenFile, match="more than 1000 shapes"):
        read_svg(svg(clip(shapes) + uses), 1000)


@pytest.mark.parametrize("radius", [1e5, 1e9, 1e12, 1e300])
def test_huge_arcs_are_lines(radius):
    (line,) = read_svg(svg(f'<path d="M0 0A{radius} {radius} 0 0 1 50 0V50H0Z"/>')).lines
    assert abs(Loop(line.segments).area) == pytest.approx(2500, abs=0.2)
